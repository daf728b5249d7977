/** The number of changes in a row of one reading that are all recorded … */
const burst = 10;
/** … and the interval after that: a camera that pans must not push the presses out of the record. */
const everyMs = 5000;

/**
 * Which changes of readings go on record: all of those that are rare, some of those that come all the time, and where something that moved
 * has come to rest.
 */
export class Thinning {
  private readonly left = new Map<string, { tokens: number; at: number }>();

  allows(key: string, now: number): boolean {
    return this.take(key, now, 1);
  }

  /** A value that was passed over and has stayed is recorded on credit: what rests again and again is thinned, too. */
  allowsRest(key: string, now: number): boolean {
    return this.take(key, now, 1 - burst);
  }

  /** Takes a token where there are as many as this. */
  private take(key: string, now: number, least: number): boolean {
    const known = this.left.get(key);
    if (!known) {
      this.left.set(key, { tokens: burst - 1, at: now });
      return true;
    }
    const tokens = Math.min(burst, known.tokens + (now - known.at) / everyMs);
    const isAllowed = tokens >= least;
    known.at = now;
    known.tokens = isAllowed ? tokens - 1 : tokens;
    return isAllowed;
  }
}
