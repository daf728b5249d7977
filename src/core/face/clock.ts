import { valueText, type ValueShape } from '../driver';

/** A time that runs on between reports: what it was, when that was reported, and how fast it goes. */
export interface RunningClock {
  /** Seconds at `at`. */
  readonly seconds: number;
  /** In milliseconds since 1970, by the engine's clock. */
  readonly at: number;
  /** Seconds a second; negative runs down. */
  readonly rate: number;
}

/** What the clock shows now. A clock that runs down stops at zero. */
export function clockSeconds({ seconds, at, rate }: RunningClock, now: number): number {
  const run = seconds + (Math.max(0, now - at) / 1000) * rate;
  return rate < 0 ? Math.max(0, run) : run;
}

const shown: ValueShape = { type: 'time', writes: 'seconds', fps: 25 };

/** Seconds as people read them on a panel: `0:42`, `1:02:07`. */
export const clockText = (seconds: number): string => valueText(shown, Math.floor(seconds + 1e-6));
