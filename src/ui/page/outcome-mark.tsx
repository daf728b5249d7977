'use client';

import { useEffect, useState } from 'react';
import type { PressMark } from '../live';
import { durationText, outcomeShapes } from '../parts';

const shownMs = { good: 1600, bad: 12_000 } as const;

/** How the last press of a control stands, in the control itself. What went well leaves by itself soon. */
export function OutcomeMark({ mark }: { readonly mark: PressMark }) {
  const bad = mark.outcome === 'late' || mark.outcome === 'refused' || mark.outcome === 'lost';
  const [past, setPast] = useState('');
  useEffect(() => {
    if (mark.endedAt === undefined) return;
    const timer = setTimeout(() => setPast(mark.id), bad ? shownMs.bad : shownMs.good);
    return () => clearTimeout(timer);
  }, [mark, bad]);
  if (past === mark.id) return null;
  const time = mark.outcome === 'confirmed' || mark.outcome === 'late' ? ` ${durationText(mark.ms)}` : '';
  return (
    <span className={`outcome outcome-${mark.outcome}`}>
      <span aria-hidden>{outcomeShapes[mark.outcome]} </span>
      {mark.outcome === 'skipped' ? (mark.reason?.startsWith('Guarded') ? 'guarded' : 'dry') : mark.outcome}
      {time}
    </span>
  );
}
