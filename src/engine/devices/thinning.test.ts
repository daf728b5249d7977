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
