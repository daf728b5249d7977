'use client';

import { useCallback, useEffect, useState } from 'react';
import type { CheckAnswer, CheckOrder, LineCheckView } from '../../core/live';
import { localValue, tellMended, tellRefused } from '../kit';
import { useCheckTopic } from '../live';

const subject = 'line-check';

/** Who answers at this screen. */
export const answererName = localValue('sorrelfinch-answerer');

/** Asks the engine for something; a refusal becomes a notice. Resolves with true when it was done. */
export async function askLineCheck(path: string, body: unknown): Promise<boolean> {
  const answer = await fetch(`/api/line-check/${path}`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(body),
  }).catch(() => undefined);
  if (answer?.ok) {
    tellMended(subject);
    return true;
  }
  const said = (await answer?.json().catch(() => undefined)) as { error?: { message?: string } } | undefined;
  tellRefused(said?.error?.message ?? 'The desk is cut off from the engine. Try again in a moment.', subject);
  return false;
}

type RunOrder = Partial<Pick<CheckOrder, 'items' | 'devices' | 'pages' | 'panels' | 'sites' | 'controls' | 'only' | 'rehearse' | 'putBack'>>;

/** The line check as it is now, and what can be done with it. The first look plans it. */
export function useLineCheck() {
  const view: LineCheckView | undefined = useCheckTopic();
  const [isAsking, setAsking] = useState(false);
  const busy = useCallback(async (path: string, body: unknown) => {
    setAsking(true);
    try {
      return await askLineCheck(path, body);
    } finally {
      setAsking(false);
    }
  }, []);
  const state = view?.plan.state;
  useEffect(() => {
    if (state === 'none') void askLineCheck('control', { do: 'plan' });
  }, [state]);
  return {
    view,
    isAsking,
    run: useCallback((order: RunOrder) => busy('run', order), [busy]),
    control: useCallback((act: 'plan' | 'pause' | 'resume' | 'cancel') => busy('control', { do: act }), [busy]),
    answer: useCallback((answer: CheckAnswer) => busy('answer', answer), [busy]),
    sign: useCallback((who: string, note: string) => busy('sign', { who, note }), [busy]),
    dismiss: useCallback((item: string) => busy('dismiss', { item }), [busy]),
  };
}
export type LineCheckDesk = ReturnType<typeof useLineCheck>;
