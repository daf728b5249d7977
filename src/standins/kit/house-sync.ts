/**
 * One frame clock for all stand-ins, so that what they do can be compared in frames. It counts against a monotonic
 * clock and does not drift: a late frame is followed by a shorter wait, and frames that were missed are made up.
 */
export class HouseSync {
  private readonly frameMs: number;
  private readonly listeners = new Set<() => void>();
  private timer: NodeJS.Timeout | undefined;
  private readonly startedAt = performance.now();
  private frames = 0;

  constructor(framesPerSecond: number) {
    this.frameMs = 1000 / framesPerSecond;
    this.wait();
  }

  /** The number of the frame that passes, or of the last one. */
  get frame(): number {
    return this.frames;
  }

  /** Calls `listener` at each frame; returns the way to stop that. */
  onFrame(listener: () => void): () => void {
    this.listeners.add(listener);
    return () => void this.listeners.delete(listener);
  }

  stop(): void {
    clearTimeout(this.timer);
    this.listeners.clear();
  }

  private wait(): void {
    const nextAt = this.startedAt + (this.frames + 1) * this.frameMs;
    this.timer = setTimeout(() => this.tick(), Math.max(0, nextAt - performance.now()));
  }

  private tick(): void {
    const due = Math.floor((performance.now() - this.startedAt) / this.frameMs);
    // After a long sleep of the computer a few frames are enough; nobody watches the ones between.
    if (due - this.frames > 250) this.frames = due - 1;
    for (; this.frames < due; this.frames += 1) for (const listener of this.listeners) listener();
    this.wait();
  }
}
