/** Timers fire late, never early; a wish that is so close is carried out with the others. */
const togetherMs = 2;
/** A timer of Node.js takes no longer one. */
const longestMs = 2 ** 31 - 1;

/** Wishes to be looked at again at a time, by name, with one timer for all of them. */
export class WakeTimer {
  private readonly wishes = new Map<string, number>();
  private timer: NodeJS.Timeout | undefined;
  private timerAt = Infinity;

  /** @param onDue told the names whose time has come, once for each wish */
  constructor(private readonly onDue: (names: readonly string[]) => void) {}

  /** Enters or changes a wish, in milliseconds since 1970; `undefined` takes it back. */
  set(name: string, at: number | undefined): void {
    if (at === undefined) {
      this.wishes.delete(name);
      return;
    }
    this.wishes.set(name, at);
    if (at < this.timerAt) this.arm(at);
  }

  stop(): void {
    clearTimeout(this.timer);
    this.timerAt = Infinity;
    this.wishes.clear();
  }

  private arm(at: number): void {
    clearTimeout(this.timer);
    this.timerAt = at;
    const wait = Math.min(longestMs, Math.max(0, at - Date.now()));
    this.timer = setTimeout(() => this.fire(), wait);
    this.timer.unref();
  }

  private fire(): void {
    this.timerAt = Infinity;
    const until = Date.now() + togetherMs;
    const due: string[] = [];
    let next = Infinity;
    for (const [name, at] of this.wishes) {
      if (at <= until) due.push(name);
      else next = Math.min(next, at);
    }
    for (const name of due) this.wishes.delete(name);
    if (next < Infinity) this.arm(next);
    if (due.length > 0) this.onDue(due);
  }
}
