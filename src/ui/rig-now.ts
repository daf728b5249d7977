'use client';

import { useMemo } from 'react';
import { showLookup, type DeskView } from '../core/show';
import { documentOfRecord } from './desk';
import type { RigFacts } from './fields';
import { useReadingsNowAndThen } from './live';

/** What fields that choose commands and readings know of the rig, looked at once a second. */
export function useRigNow(show: DeskView | undefined): RigFacts {
  const lookUp = useMemo(
    () => showLookup(show?.records ?? [], (device) => show && documentOfRecord(show.drivers, device)),
    [show],
  );
  const ids = useMemo(() => lookUp.readable.map(({ id }) => id), [lookUp]);
  const readings = useReadingsNowAndThen(ids, 1000);
  return useMemo(
    () => ({ ...lookUp, readings, readingNow: (ref) => readings.get(ref.device)?.[ref.key] }),
    [lookUp, readings],
  );
}
