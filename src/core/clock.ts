import { memberKey, splitKey, type DriverDocument } from './driver';
import type { Reading } from './reading';
import type { ReadingRef } from './show';

/** A time that runs on between reports: what it was, when that was reported, and how fast it goes. */
export interface RunningClock {
  /** Seconds at `at`. */
  readonly seconds: number;
  /** In milliseconds since 1970, by the engine's clock. */
  readonly at: number;
  /** Seconds a second; negative runs down. */
  readonly rate: number;
  /** It goes on below zero instead of stopping there. */
  readonly past?: true;
}

/** What the clock shows now. One that runs down stops at zero, unless it goes past it. */
export function clockSeconds({ seconds, at, rate, past }: RunningClock, now: number): number {
  const run = seconds + (Math.max(0, now - at) / 1000) * rate;
  return rate < 0 && !past ? Math.max(0, run) : run;
}

/** When the clock shows so many seconds, in milliseconds since 1970; `undefined` when it does not come there any more. */
export function clockReaches({ seconds, at, rate, past }: RunningClock, wanted: number): number | undefined {
  if (rate === 0 || (rate < 0 && wanted < 0 && !past)) return undefined;
  const inMs = ((wanted - seconds) / rate) * 1000;
  return inMs >= 0 ? at + inMs : undefined;
}

/** The reading that says whether a clock runs; of a family, that of the same member. */
export function whileRef(ref: ReadingRef, documentOf: (device: string) => DriverDocument | undefined) {
  const { family, index } = splitKey(ref.key);
  const runs = documentOf(ref.device)?.readings[family]?.runs;
  return runs && { device: ref.device, key: index === undefined ? runs.while : memberKey(runs.while, index) };
}

/** The clock of a reading while it runs; `undefined` while it is stopped, and for readings that are no clocks. */
export function runningClock(
  ref: ReadingRef,
  readingNow: (ref: ReadingRef) => Reading | undefined,
  documentOf: (device: string) => DriverDocument | undefined,
): RunningClock | undefined {
  const reading = readingNow(ref);
  const whether = whileRef(ref, documentOf);
  const runs = documentOf(ref.device)?.readings[splitKey(ref.key).family]?.runs;
  if (!runs || !whether || typeof reading?.value !== 'number' || reading.at === undefined) return undefined;
  const running = readingNow(whether);
  if (running?.freshness !== 'fresh' || running.value !== runs.equals) return undefined;
  return { seconds: reading.value, at: reading.at, rate: runs.rate, ...(runs.past ? { past: true as const } : {}) };
}
