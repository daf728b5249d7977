'use client';

import { useState } from 'react';
import { ownId } from '../../core/show';
import { useReadings } from '../live';

/** Takes the next message that any inlet hears, in or out of place. */
export function useLearning(count: number, onLearned: (inlet: number, text: string) => void) {
  const own = useReadings(ownId);
  const [from, setFrom] = useState<readonly number[]>();
  const value = (n: number, key: string) => own?.[`inlet[${n + 1}].${key}`]?.value;
  const heardBy = (n: number) => Number(value(n, 'heard') ?? 0);
  const all = Array.from({ length: count }, (_, n) => n);
  const learned = from && all.find((n) => heardBy(n) > (from[n] ?? 0));
  // Adjusted while drawing, as React suggests where something follows from what came in.
  if (learned !== undefined) {
    setFrom(undefined);
    const text = String(value(learned, 'last') ?? '').trim();
    if (text !== '') queueMicrotask(() => onLearned(learned, text));
  }
  return { isOn: from !== undefined, begin: () => setFrom(all.map(heardBy)), stop: () => setFrom(undefined) };
}
