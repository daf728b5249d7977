'use client';

import { useCallback, useEffect, useState } from 'react';
import type { CheckAnswer, CheckOrder, LineCheckView } from '../../core/live';
import { askEngine, localValue } from '../kit';
import { useCheckTopic } from '../live';

/** Who answers at this screen. */
export const answererName = localValue('sorrelfinch-answerer');

/** Asks the engine for something about the line check; a refusal becomes a notice. Resolves with true when it was done. */
export const askLineCheck = (path: string, body: unknown): Promise<boolean> =>
  askEngine(`/api/line-check/${path}`, body, 'line-check');

type RunOrder = Partial<
  Pick<CheckOrder, 'items' | 'devices' | 'pages' | 'panels' | 'sites' | 'controls' | 'only' | 'rehearse' | 'putBack'>
>;

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
