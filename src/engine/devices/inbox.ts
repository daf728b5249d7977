import type { Arrived } from '../../core/wire';
import type { Reader, ReadSlices } from './read-slices';

/** The most datagrams that wait to be read; further ones are dropped, as a network would. */
const maxWaiting = 5000;
/** A link with more frames waiting than this is held back. */
const heldAbove = 100;
/** Looking at the clock costs as much as a small frame. */
const framesBetweenLooks = 4;

/**
 * Frames of one device that have come and are read in turns with those of all others, so that a device that floods costs them nothing. While
 * many wait, the link is held back.
 */
export class Inbox implements Reader {
  private waiting: Arrived[] = [];
  /** The number of the frame that is read next. */
  private at = 0;
  private isAsking = false;
  private isHeld = false;
  private dropped = 0;

  constructor(
    private readonly turn: ReadSlices,
    private readonly readFrame: (frame: Arrived) => void,
    /** A slice has been read; what it reported can be handed on. */
    private readonly onSlice: () => void,
    private readonly hold: (on: boolean) => void,
    private readonly onDropped: (count: number) => void,
  ) {}

  push(frames: readonly Arrived[]): void {
    for (const frame of frames) {
      if (this.waiting.length < maxWaiting) this.waiting.push(frame);
      else this.dropped += 1;
    }
    this.ask();
  }

  /** Reads everything at once: the connection is over, and what came before counts. */
  drain(): void {
    this.read(() => false);
  }

  clear(): void {
    this.waiting = [];
    this.at = 0;
    this.isHeld = false;
  }

  readonly read = (isOver: () => boolean): void => {
    this.isAsking = false;
    const frames = this.waiting;
    if (this.at >= frames.length) return;
    let read = 0;
    // What a frame brings about may read the rest itself: the place is kept beside the list, so that no frame is read twice.
    for (let frame = frames[this.at]; frame; frame = frames[this.at]) {
      this.at += 1;
      read += 1;
      this.readFrame(frame);
      // The frame has ended the connection: the rest of it is gone.
      if (this.waiting !== frames) return;
      if (read % framesBetweenLooks === 0 && isOver()) break;
    }
    this.onSlice();
    if (this.waiting !== frames) return;
    frames.splice(0, this.at);
    this.at = 0;
    this.setHeld(frames.length > heldAbove);
    if (frames.length > 0) return this.ask();
    if (this.dropped > 0) this.onDropped(this.dropped);
    this.dropped = 0;
  };

  private ask(): void {
    if (this.isAsking || this.waiting.length === 0) return;
    this.isAsking = true;
    this.turn.ask(this);
  }

  /** Also called while the link stays held back: the listener measures for how long. */
  private setHeld(held: boolean): void {
    if (held || this.isHeld) this.hold(held);
    this.isHeld = held;
  }
}
