import type { DownCause } from './link';

const firstWaitMs = 100;

/** Causes that are known at once and cost the network nothing to try again. */
const quick: ReadonlySet<DownCause | 'occupied'> = new Set([
  'refused',
  'closed',
  'reset',
  'serial-missing',
  'serial-taken',
  'serial-unplugged',
]);

/**
 * How long to wait before calling again, in milliseconds: the first retry at once, then growing and jittered, at most
 * 1 s apart when the port is refused or a serial port is not there, and 5 s otherwise, for ever.
 *
 * @param failures consecutive failures since a connection last proved itself by holding, at least 1
 * @param random a number from 0 up to, not including, 1
 */
export function retryDelayMs(failures: number, cause: DownCause | 'occupied', random: number): number {
  if (failures <= 1) return 0;
  const mostMs = quick.has(cause) ? 1000 : 5000;
  const grownMs = Math.min(mostMs, firstWaitMs * 2 ** Math.min(failures - 2, 10));
  return Math.round(grownMs * (0.5 + 0.5 * random));
}
