'use client';

import { ownId } from '../../core/show';
import { useReadings } from '../live';

/** How an inlet is doing, as the engine says. */
export interface InletNow {
  readonly state: string;
  readonly why: string;
  readonly heard: number;
  readonly refused: number;
  readonly last: string;
  readonly from: string;
  readonly came: string;
}

/** How each inlet is doing, by its place in the list. */
export function useInletStates(): (n: number) => InletNow {
  const own = useReadings(ownId);
  return (n) => {
    const of = (key: string) => own?.[`inlet[${n + 1}].${key}`]?.value ?? '';
    return {
      state: String(of('state')),
      why: String(of('why')),
      heard: Number(of('heard')),
      refused: Number(of('refused')),
      last: String(of('last')),
      from: String(of('from')),
      came: String(of('came')),
    };
  };
}
