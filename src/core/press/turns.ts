/** What a button that alternates, repeats or fires late does, worked out without a clock. */

/**
 * Which of its turns a button sends next.
 *
 * @param count how many turns it has
 * @param holds for each turn, whether the devices report that it is so now; `undefined` where they cannot tell
 * @param last the one that was sent last, by count, for devices that do not report
 */
export function nextTurn(count: number, holds: readonly (boolean | undefined)[], last: number | undefined): number {
  if (count <= 1) return 0;
  const now = holds.indexOf(true);
  // Somebody else may have changed it: what the devices say counts more than what was sent.
  if (now !== -1) return (now + 1) % count;
  const told = holds.some((each) => each !== undefined);
  // None of them is so: the first one is a good place to begin.
  return told || last === undefined ? 0 : (last + 1) % count;
}

interface Repeat {
  readonly firstMs: number;
  readonly everyMs: number;
  readonly fastestMs?: number;
}

/** How much shorter each interval is than the one before, where it quickens. */
const quickening = 0.88;

/** How long after the one before the n-th repetition comes, in milliseconds; the first one is number 1. */
export function repeatAfterMs(n: number, { firstMs, everyMs, fastestMs = everyMs }: Repeat): number {
  if (n <= 1) return firstMs;
  return Math.max(Math.min(fastestMs, everyMs), everyMs * quickening ** (n - 2));
}
