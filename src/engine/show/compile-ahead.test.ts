import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { DriverShelf } from '../../core/driver';
import { shippedDrivers } from '../../drivers';
import { CompileAhead } from './compile-ahead';

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

it('reads one driver after the other once the engine is up, and no more after its end', () => {
  const shelf = new DriverShelf();
  shelf.stock(shippedDrivers.slice(0, 4));
  const read = vi.spyOn(shelf, 'compileNext');
  const part = new CompileAhead(shelf);
  part.start();
  vi.advanceTimersByTime(29_000);
  expect(read).not.toHaveBeenCalled();
  vi.advanceTimersByTime(1100);
  expect(read).toHaveBeenCalledTimes(1);
  part.stop();
  vi.advanceTimersByTime(60_000);
  expect(read).toHaveBeenCalledTimes(1);
  part.start();
  vi.advanceTimersByTime(60_000);
  expect(shelf.compileNext()).toBe(false);
});
