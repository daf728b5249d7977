import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { nextTurn, repeatAfterMs } from './turns';

describe('a button with turns', () => {
  it.each<[string, number, (boolean | undefined)[], number | undefined, number]>([
    ['what the device says is so: the next one', 2, [true, false], undefined, 1],
    ['somebody else has changed it meanwhile', 2, [false, true], 0, 0],
    ['of three, after the last the first', 3, [false, false, true], 0, 0],
    ['none of them is so: the first', 2, [false, false], 0, 0],
    ['nothing is known: by count', 2, [undefined, undefined], 0, 1],
    ['nothing is known and nothing was sent', 2, [undefined, undefined], undefined, 0],
    ['one turn only', 1, [true], 0, 0],
  ])('%s', (_name, count, holds, last, expected) => {
    expect(nextTurn(count, holds, last)).toBe(expected);
  });

  it('never sends what is so already, where there is anything else', () => {
    fc.assert(
      fc.property(fc.integer({ min: 2, max: 6 }), fc.nat(5), fc.nat(5), (count, at, last) => {
        const holds = Array.from({ length: count }, (_, n) => n === at % count);
        expect(nextTurn(count, holds, last % count)).toBe(((at % count) + 1) % count);
      }),
    );
  });
});

describe('a repetition', () => {
  it('waits first, then comes at its interval', () => {
    expect([1, 2, 3, 50].map((n) => repeatAfterMs(n, { firstMs: 400, everyMs: 200 }))).toEqual([400, 200, 200, 200]);
  });

  it('quickens down to its fastest, and never slows', () => {
    fc.assert(
      fc.property(fc.integer({ min: 40, max: 5000 }), fc.integer({ min: 40, max: 5000 }), (everyMs, fastestMs) => {
        const all = Array.from({ length: 60 }, (_, n) => repeatAfterMs(n + 2, { firstMs: 400, everyMs, fastestMs }));
        for (const [n, ms] of all.entries()) {
          expect(ms).toBeGreaterThanOrEqual(Math.min(everyMs, fastestMs));
          if (n > 0) expect(ms).toBeLessThanOrEqual(all[n - 1] ?? 0);
        }
      }),
    );
  });
});
