import type { Arrived } from '../core/wire';

/** How long frames of one device are read before everything else has its turn. */
const sliceMs = 2;
/** So many frames of datagrams at the most wait to be read; then they are dropped, as a network would. */
const maxWaiting = 5000;

/**
 * Frames that have come and are read in slices, so that a device that floods costs the others nothing. While some wait, the
 * link is held back.
 */
export class Inbox {
  private waiting: Arrived[] = [];
  private scheduled: NodeJS.Immediate | undefined;
  private dropped = 0;

  constructor(
    private readonly read: (frame: Arrived) => void,
    /** A slice has been read; what it reported can be handed on. */
    private readonly onSlice: () => void,
    private readonly hold: (on: boolean) => void,
    private readonly onDropped: (count: number) => void,
  ) {}

  push(frames: readonly Arrived[]): void {
    const idle = this.waiting.length === 0;
    for (const frame of frames) {
      if (this.waiting.length < maxWaiting) this.waiting.push(frame);
      else this.dropped += 1;
    }
    if (idle) this.readFor(sliceMs);
  }

  /** Reads everything at once: the connection is over, and what came before counts. */
  drain(): void {
    this.readFor(Infinity);
  }

  clear(): void {
    this.waiting = [];
    clearImmediate(this.scheduled);
    this.scheduled = undefined;
  }

  private readFor(forMs: number): void {
    const frames = this.waiting;
    if (frames.length === 0) return;
    const stopAt = performance.now() + forMs;
    let read = 0;
    for (const frame of frames) {
      this.read(frame);
      read += 1;
      // The frame has ended the connection: the rest of it is gone.
      if (this.waiting !== frames) return;
      if ((read & 15) === 0 && performance.now() > stopAt) break;
    }
    this.onSlice();
    if (this.waiting !== frames) return;
    frames.splice(0, read);
    if (frames.length > 0) {
      this.hold(true);
      this.scheduled = setImmediate(() => this.readFor(sliceMs));
      return;
    }
    if (this.dropped > 0) this.onDropped(this.dropped);
    this.dropped = 0;
    this.hold(false);
  }
}
