import { expect, it } from 'vitest';
import { follow, type Trail } from './trails';

const reading = (value: string | number) => ({ value, freshness: 'fresh' as const, at: 1 });

it('remembers when a reading changed last, and the run of numbers', () => {
  let trails: ReadonlyMap<string, Trail> = follow(new Map(), { pan: reading(1), mode: reading('auto') }, 10);
  expect(trails.get('pan')).toEqual({ value: 1, changedAt: undefined, numbers: [1] });
  trails = follow(trails, { pan: reading(2), mode: reading('auto') }, 20);
  trails = follow(trails, { pan: reading(2), mode: reading('hand') }, 30);
  expect(trails.get('pan')).toEqual({ value: 2, changedAt: 20, numbers: [1, 2] });
  expect(trails.get('mode')).toEqual({ value: 'hand', changedAt: 30, numbers: [] });
  for (let n = 0; n < 200; n += 1) trails = follow(trails, { pan: reading(n * 3) }, 40 + n);
  expect(trails.get('pan')?.numbers).toHaveLength(80);
  expect(trails.has('mode')).toBe(false);
});
