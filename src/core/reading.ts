import type { Scalar } from './result';

/**
 * `fresh`: reported over the connection as it is now. `stale`: the device has fallen silent since. `unknown`: never
 * reported, or the connection it came over is gone.
 */
export type Freshness = 'fresh' | 'stale' | 'unknown';

/** One value that a device reports. */
export interface Reading {
  /** The last value ever reported; `undefined` when there was none. True only while `freshness` is `fresh`. */
  readonly value?: Scalar;
  /** When it was last reported, in milliseconds since 1970. */
  readonly at?: number;
  /** When it took this value, in milliseconds since 1970: reported again as it was, it keeps this. */
  readonly since?: number;
  /** It had another value before: `since` is when it changed, and not when it was first heard of. */
  readonly changed?: true;
  readonly freshness: Freshness;
}
