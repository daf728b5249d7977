import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { WakeTimer } from './wake-timer';

beforeEach(() => void vi.useFakeTimers({ now: 1000 }));
afterEach(() => void vi.useRealTimers());

it('tells each name once, when its time has come, and not one that was taken back', () => {
  const told: [number, readonly string[]][] = [];
  const wakes = new WakeTimer((names) => told.push([Date.now(), names]));
  wakes.set('late', 5000);
  wakes.set('soon', 1500);
  wakes.set('with it', 1501);
  wakes.set('never', 1200);
  wakes.set('never', undefined);
  wakes.set('later than said', 1300);
  wakes.set('later than said', 2000);
  vi.advanceTimersByTime(10_000);
  expect(told).toEqual([
    [1500, ['soon', 'with it']],
    [2000, ['later than said']],
    [5000, ['late']],
  ]);
});

it('takes a wish of one that is being told', () => {
  let left = 3;
  const times: number[] = [];
  const wakes: WakeTimer = new WakeTimer(([name = '']) => {
    times.push(Date.now());
    if ((left -= 1) > 0) wakes.set(name, Date.now() + 100);
  });
  wakes.set('a', 1100);
  vi.advanceTimersByTime(5000);
  expect(times).toEqual([1100, 1200, 1300]);
});

it('waits for a time that is further away than a timer can wait', () => {
  const told: number[] = [];
  const wakes = new WakeTimer(() => told.push(Date.now()));
  const far = 1000 + 2 ** 32;
  wakes.set('far', far);
  vi.advanceTimersByTime(2 ** 32 + 10);
  expect(told).toHaveLength(1);
  expect(Math.abs((told[0] ?? 0) - far)).toBeLessThanOrEqual(2);
});

it('says nothing more once it is stopped', () => {
  const wakes = new WakeTimer(() => expect.unreachable());
  wakes.set('a', 1100);
  wakes.stop();
  vi.advanceTimersByTime(1000);
});
