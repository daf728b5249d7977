'use client';

import { useState } from 'react';
import type { DrillAct } from '../../core/live';
import type { Drill } from '../../core/show';
import { askEngine } from '../kit';

/** What can be done with drills; a refusal becomes a notice. */
export function useDrill() {
  const [isAsking, setAsking] = useState(false);
  const busy = async (path: 'run' | 'act', body: unknown) => {
    setAsking(true);
    await askEngine(`/api/drills/${path}`, body, 'drills');
    setAsking(false);
  };
  return {
    isAsking,
    run: (drill: Drill, who: string) => busy('run', { drill, who }),
    act: (act: DrillAct) => busy('act', act),
  };
}
