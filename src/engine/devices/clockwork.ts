/** From this long before a moment on the clock is looked at all the time, between everything else that is to be done. */
const pollMs = 2;

/**
 * Wakes somebody on time. A timer alone comes a millisecond late; so it is set to shortly before, and from there on the clock is looked at
 * again and again, each time after what waits has had its turn.
 */
export class Clockwork {
  private timer: NodeJS.Timeout | undefined;
  private polling: NodeJS.Immediate | undefined;

  /** @param onTime called when the moment has come; it sets the next one */
  constructor(private readonly onTime: () => void) {}

  /**
   * The next moments, by `performance.now()`: one that has to be met exactly, and one where a little later does not matter. `Infinity`
   * for none.
   */
  set(exact: number, about: number): void {
    this.stop();
    const at = Math.min(exact - pollMs, about);
    if (at === Number.POSITIVE_INFINITY) return;
    const wait = at - performance.now();
    if (wait > 0) this.timer = setTimeout(() => (exact < about + pollMs ? this.poll(exact) : this.onTime()), wait);
    else if (exact <= performance.now() || about <= performance.now()) this.polling = setImmediate(() => this.onTime());
    else this.poll(exact);
  }

  stop(): void {
    clearTimeout(this.timer);
    clearImmediate(this.polling);
  }

  private poll(until: number): void {
    if (performance.now() >= until) return this.onTime();
    this.polling = setImmediate(() => this.poll(until));
  }
}
