/** How long reports are read before everything else has its turn, in milliseconds. */
const sliceMs = 0.15;

/** Something with reports to read. It reads until `isOver`, and asks for another turn when some are left. */
export interface Reader {
  readonly read: (isOver: () => boolean) => void;
}

/**
 * Shares each turn of the event loop between the reports of all devices and everything else. Together they are read for a fraction of a millisecond; the
 * rest waits, in its order, until presses that have come in meanwhile are on their way.
 */
export class ReadSlices {
  private waiting: Reader[] = [];
  private next: NodeJS.Immediate | undefined;
  private endsAt = 0;
  private readonly isOver = (): boolean => performance.now() > this.endsAt;

  /** Reads now, or in one of the next turns when this one is used up or others wait. */
  ask(reader: Reader): void {
    if (!this.next) {
      this.endsAt = performance.now() + sliceMs;
      this.next = setImmediate(() => this.begin());
    } else if (this.waiting.length > 0 || this.isOver()) return void this.waiting.push(reader);
    reader.read(this.isOver);
  }

  private begin(): void {
    const { waiting } = this;
    if (waiting.length === 0) {
      this.next = undefined;
      return;
    }
    this.waiting = [];
    this.endsAt = performance.now() + sliceMs;
    this.next = setImmediate(() => this.begin());
    let done = 0;
    for (const reader of waiting) {
      if (done > 0 && this.isOver()) break;
      done += 1;
      reader.read(this.isOver);
    }
    // Those that still wait come before those that have asked again.
    this.waiting = [...waiting.slice(done), ...this.waiting];
  }
}
