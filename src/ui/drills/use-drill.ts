'use client';

import { useState } from 'react';
import type { DrillAct } from '../../core/live';
import type { Drill } from '../../core/show';
import { tellMended, tellRefused } from '../kit';

const subject = 'drills';

async function ask(path: 'run' | 'act', body: unknown): Promise<void> {
  const answer = await fetch(`/api/drills/${path}`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(body),
  }).catch(() => undefined);
  if (answer?.ok) return tellMended(subject);
  const said = (await answer?.json().catch(() => undefined)) as { error?: { message?: string } } | undefined;
  tellRefused(said?.error?.message ?? 'The desk is cut off from the engine. Try again in a moment.', subject);
}

/** What can be done with drills; a refusal becomes a notice. */
export function useDrill() {
  const [isAsking, setAsking] = useState(false);
  const busy = async (path: 'run' | 'act', body: unknown) => {
    setAsking(true);
    await ask(path, body);
    setAsking(false);
  };
  return {
    isAsking,
    run: (drill: Drill, who: string) => busy('run', { drill, who }),
    act: (act: DrillAct) => busy('act', act),
  };
}
