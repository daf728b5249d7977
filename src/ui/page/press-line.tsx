'use client';

import { lazy, Suspense, useState } from 'react';
import { useLastMark, type PressMark } from '../live';
import { Button } from '../kit';
import { durationText, OutcomeShape } from '../parts';

const OwnAccount = lazy(() => import('../explain/own-account'));

/**
 * The last press in words, with the reason when it did not do what it should, and its account one touch away. It keeps its place when
 * empty.
 */
export function PressLine({ labelOf }: { readonly labelOf: (control: string) => string }) {
  const mark = useLastMark();
  const [opened, setOpened] = useState<PressMark>();
  return (
    <div className="press-line mt-1 flex min-h-13 items-center gap-4 [&_.outcome]:px-1.5 [&_.outcome]:py-0 [&_.outcome]:[font-size:inherit]">
      <p role="status">
        {mark && (
          <>
            <b>{labelOf(mark.control)}</b>{' '}
            <span className={`outcome outcome-${mark.outcome}`}>
              <OutcomeShape outcome={mark.outcome} />
              {mark.outcome}
            </span>{' '}
            {mark.outcome === 'confirmed' && (
              <span className="text-ink-soft">by the device after {durationText(mark.ms)}</span>
            )}
            {mark.reason} {mark.note}
          </>
        )}
      </p>
      {mark?.endedAt !== undefined && (
        <Button className="min-h-11! shrink-0" onClick={() => setOpened(mark)}>
          Explain
        </Button>
      )}
      {opened && (
        <Suspense fallback={null}>
          <OwnAccount
            key={opened.id}
            press={opened.id}
            title={labelOf(opened.control)}
            onClose={() => setOpened(undefined)}
          />
        </Suspense>
      )}
    </div>
  );
}
