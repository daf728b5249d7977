'use client';

import { useEffect, useState } from 'react';
import type { ReadingsView } from '../../core/live';
import type { Scalar } from '../../core/result';
import { useLive } from '../live';

/** What became of one reading while it was looked at. */
export interface Trail {
  readonly value: Scalar | undefined;
  /** When it changed last, in the engine's time; `undefined` when it has not changed since it is looked at. */
  readonly changedAt: number | undefined;
  /** Its last values, where they are numbers. */
  readonly numbers: readonly number[];
}

const kept = 80;

/** Follows the readings of a device: when each changed last, and the run of those that are numbers. */
export function useTrails(device: string): ReadonlyMap<string, Trail> {
  const live = useLive();
  const [trails, setTrails] = useState<ReadonlyMap<string, Trail>>(new Map());
  useEffect(() => {
    const topic = `readings:${device}`;
    return live.onTopic(topic, () => {
      const now = live.getTopic(topic) as ReadingsView | null | undefined;
      if (now) setTrails((before) => follow(before, now, live.now()));
    });
  }, [live, device]);
  return trails;
}

/** The trails after these readings: one that is the same as before stays as it is. */
export function follow(before: ReadonlyMap<string, Trail>, now: ReadingsView, at: number): ReadonlyMap<string, Trail> {
  const next = new Map<string, Trail>();
  for (const [key, { value }] of Object.entries(now)) {
    const known = before.get(key);
    const number = typeof value === 'number' ? [value] : [];
    if (!known) next.set(key, { value, changedAt: undefined, numbers: number });
    else if (known.value === value) next.set(key, known);
    else next.set(key, { value, changedAt: at, numbers: [...known.numbers, ...number].slice(-kept) });
  }
  return next;
}
