import type { Exchange } from '../../../core/wire';
import type { LinkEvents } from './link';

/** Cuts a byte stream into frames, including frames that are ended only by a pause. */
export class StreamReader {
  private isOver = false;
  private silence: ReturnType<typeof setTimeout> | undefined;

  constructor(
    private readonly exchange: Exchange,
    private readonly events: LinkEvents,
  ) {}

  read(chunk: Uint8Array): void {
    if (this.isOver) return;
    const frames = this.exchange.read(chunk);
    if (frames.length > 0) this.events.onArrived(frames);
    if (this.exchange.silenceMs !== undefined) {
      clearTimeout(this.silence);
      this.silence = setTimeout(this.flush, this.exchange.silenceMs);
    }
    this.events.onBytes();
  }

  /** Passes on the last, unterminated frame. */
  readonly flush = (): void => {
    const frames = this.isOver ? [] : (this.exchange.flush?.() ?? []);
    if (frames.length > 0) this.events.onArrived(frames);
  };

  stop(): void {
    this.isOver = true;
    clearTimeout(this.silence);
  }
}
