import fc from 'fast-check';
import { expect, test } from 'vitest';
import { firstPollMs, nextPollMs } from './poll-times';

const share = fc.double({ min: 0, max: 1, maxExcluded: true, noNaN: true });

test('a device is never asked later than its driver says, and never much sooner', () => {
  fc.assert(
    fc.property(fc.integer({ min: 50, max: 600_000 }), share, (everyMs, random) => {
      expect(firstPollMs(everyMs, random)).toBeLessThanOrEqual(everyMs);
      expect(firstPollMs(everyMs, random)).toBeGreaterThanOrEqual(Math.floor(everyMs / 2));
      expect(nextPollMs(everyMs, random)).toBeLessThanOrEqual(everyMs);
      expect(nextPollMs(everyMs, random)).toBeGreaterThanOrEqual(Math.floor(everyMs * 0.9));
    }),
  );
});

test('two hundred devices that came up together are asked apart, also after a stall', () => {
  const everyMs = 1000;
  let seed = 1;
  const random = () => (seed = (seed * 16_807) % 2_147_483_647) / 2_147_483_647;
  let times = Array.from({ length: 200 }, () => firstPollMs(everyMs, random()));
  const mostInOneMs = () => {
    const counts = new Map<number, number>();
    for (const ms of times) counts.set(ms, (counts.get(ms) ?? 0) + 1);
    return Math.max(...counts.values());
  };
  expect(mostInOneMs()).toBeLessThanOrEqual(6);
  // A stall: everything due within a quarter of a second falls due at its end.
  times = times.map((ms) => Math.max(ms, 750));
  for (let n = 0; n < 5; n += 1) times = times.map((ms) => ms + nextPollMs(everyMs, random()));
  expect(mostInOneMs()).toBeLessThanOrEqual(6);
});
