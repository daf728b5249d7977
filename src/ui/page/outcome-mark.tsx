'use client';

import { useEffect, useState, type MouseEvent, type PointerEvent } from 'react';
import { whyWord } from '../../core/press';
import type { PressMark } from '../live';
import { durationText, OutcomeShape } from '../parts';

const shownMs = { good: 1600, skipped: 4000, bad: 12_000, asked: 20_000 } as const;

/** The state of the last press, shown in its control. A success disappears soon. */
export function OutcomeMark({ mark }: { readonly mark: PressMark }) {
  const bad = mark.outcome === 'late' || mark.outcome === 'refused' || mark.outcome === 'lost';
  const skipped = mark.outcome === 'skipped' && mark.why !== 'dry';
  const [past, setPast] = useState('');
  const [asked, setAsked] = useState(false);
  useEffect(() => {
    if (mark.endedAt === undefined) return;
    const timer = setTimeout(
      () => setPast(mark.id),
      asked ? shownMs.asked : bad ? shownMs.bad : skipped ? shownMs.skipped : shownMs.good,
    );
    return () => clearTimeout(timer);
  }, [mark, bad, skipped, asked]);
  if (past === mark.id) return null;
  const time = mark.outcome === 'confirmed' || mark.outcome === 'late' ? ` ${durationText(mark.ms)}` : '';
  const { reason } = mark;
  const tells = (bad || skipped) && reason !== undefined;
  return (
    <span
      className={`outcome outcome-${mark.outcome}`}
      data-tells={tells || undefined}
      // Touching it asks why; it does not press again.
      {...(tells ? asks(setAsked) : {})}
    >
      {asked && tells && (
        <span className="outcome-reason absolute bottom-[calc(100%_+_4px)] left-1/2 z-5 w-max max-w-65 -translate-x-1/2 border-2 border-ink bg-raised px-2.5 py-1.5 text-[14px] whitespace-normal text-ink font-stretch-[90%]">
          {reason}
        </span>
      )}
      <OutcomeShape outcome={mark.outcome} />
      {mark.outcome === 'skipped' && mark.why ? whyWord(mark.why) : mark.outcome}
      {time}
    </span>
  );
}

/** Touching the mark does not press the control below it. */
const asks = (set: (to: (was: boolean) => boolean) => void) => ({
  onPointerDown: (event: PointerEvent) => {
    event.stopPropagation();
    event.preventDefault();
    set((was) => !was);
  },
  onPointerUp: (event: PointerEvent) => event.stopPropagation(),
  onClick: (event: MouseEvent) => event.stopPropagation(),
});
