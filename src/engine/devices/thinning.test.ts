import { expect, it } from 'vitest';
import { Thinning } from './thinning';

it('keeps every change of what is rare, and some of what comes all the time', () => {
  const thinning = new Thinning();
  const kept = (key: string, everyMs: number, count: number) =>
    Array.from({ length: count }, (_, n) => thinning.allows(key, n * everyMs)).filter(Boolean).length;
  expect(kept('program', 8000, 50)).toBe(50);
  expect(kept('meter', 100, 600)).toBeLessThanOrEqual(22);
  expect(kept('meter of another', 100, 5)).toBe(5);
});

it('keeps where something that moved has come to rest, but not without end', () => {
  const thinning = new Thinning();
  // Glides of a second with a pause of a second, for a minute.
  let rests = 0;
  for (let from = 0; from < 60_000; from += 2000) {
    for (let n = 0; n < 25; n += 1) thinning.allows('box', from + n * 40);
    if (thinning.allowsRest('box', from + 1990)) rests += 1;
  }
  expect(rests).toBeGreaterThanOrEqual(10);
  expect(rests).toBeLessThanOrEqual(22);
  // One glide now and then always has its end.
  for (let from = 200_000; from < 800_000; from += 20_000) {
    for (let n = 0; n < 25; n += 1) thinning.allows('other box', from + n * 40);
    expect(thinning.allowsRest('other box', from + 2000)).toBe(true);
  }
});
