'use client';

import { useLastMark } from '../live';
import { durationText, outcomeShapes } from '../parts';

/** The last press in words, with the reason when it did not do what it should. It keeps its place when empty. */
export function PressLine({ labelOf }: { readonly labelOf: (control: string) => string }) {
  const mark = useLastMark();
  return (
    <p className="press-line" role="status">
      {mark && (
        <>
          <b>{labelOf(mark.control)}</b>{' '}
          <span className={`outcome outcome-${mark.outcome}`}>
            <span aria-hidden>{outcomeShapes[mark.outcome]} </span>
            {mark.outcome}
          </span>{' '}
          {mark.outcome === 'confirmed' && <span className="muted">by the device after {durationText(mark.ms)}</span>}
          {mark.reason} {mark.note}
        </>
      )}
    </p>
  );
}
