/** The number of changes in a row of one reading that are all recorded … */
const burst = 10;
/** … and the interval after that: a camera that pans must not push the presses out of the record. */
const everyMs = 5000;

/** Which changes of readings go on record: all of those that are rare, and some of those that come all the time. */
export class Thinning {
  private readonly left = new Map<string, { tokens: number; at: number }>();

  allows(key: string, now: number): boolean {
    const known = this.left.get(key);
    if (!known) {
      this.left.set(key, { tokens: burst - 1, at: now });
      return true;
    }
    const tokens = Math.min(burst, known.tokens + (now - known.at) / everyMs);
    known.at = now;
    known.tokens = tokens >= 1 ? tokens - 1 : tokens;
    return tokens >= 1;
  }
}
