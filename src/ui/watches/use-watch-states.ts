'use client';

import type { Scalar } from '../../core/result';
import { ownId } from '../../core/show';
import { useReadings } from '../live';

/** How a watch is doing, as the engine says. */
export interface WatchNow {
  readonly state: Scalar | undefined;
  readonly count: number;
  readonly last: string;
  readonly why: string;
  readonly next: string;
  /** Its next time, in milliseconds since 1970. */
  readonly nextAt: number | undefined;
}

/** How each watch is doing, by its number. */
export function useWatchStates(): (number: number) => WatchNow {
  const own = useReadings(ownId);
  const value = (key: string) => (own?.[key]?.freshness === 'fresh' ? own[key].value : undefined);
  return (number) => {
    const left = own?.[`watch[${number}].left`];
    const of = (key: string) => value(`watch[${number}].${key}`);
    return {
      state: of('state'),
      count: Number(of('count') ?? 0),
      last: String(of('last') ?? ''),
      why: String(of('why') ?? ''),
      next: String(of('next') ?? ''),
      nextAt: typeof left?.value === 'number' && left.at !== undefined ? left.at + left.value * 1000 : undefined,
    };
  };
}
