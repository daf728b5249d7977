'use client';

import { useCallback, useEffect, useMemo, useRef, useState, useSyncExternalStore } from 'react';
import { bindingAs, firstAxis } from '../../core/hand';
import type { GearView, PageView } from '../../core/live';
import { useLive } from '../live';
import { Gear, type FromGear } from './gear';
import type { ScreenKey } from '../../core/page';
import { GearHands, type Look } from './gear-hands';
import { useBindings } from './use-bindings';

/** How far learning has come. */
type Learning =
  | { readonly at: 'off' }
  | { readonly at: 'control' }
  | {
      readonly at: 'gear';
      readonly page: string;
      readonly control: string;
      readonly name: string;
      readonly wrong?: string;
    };

/** This browser was asked for MIDI before. */
const askedForMidi = 'sorrelfinch-midi';
const midiInput = /^(note|cc|bend|program|pressure) /;
const noGear: readonly GearView[] = [];

/** The gear at this screen with what it is bound to. @param isKnown it is known which panel this is */
export function useGear(
  panel: string | undefined,
  isKnown: boolean,
  page: string | undefined,
  contextOf: (page: string) => string | undefined,
  look: Look,
  onScreenKey: (sets: ScreenKey) => void,
) {
  const live = useLive();
  const [gear] = useState(() => new Gear());
  const hands = useMemo(() => new GearHands(live, gear), [live, gear]);
  useEffect(() => hands.setContexts(contextOf, look, onScreenKey));
  const list = useSyncExternalStore(gear.onList, gear.getList, () => noGear);
  const { bindings, put, remove } = useBindings(panel, isKnown);
  const [learning, setLearning] = useState<Learning>({ at: 'off' });
  const [last, setLast] = useState<FromGear>();
  const learn = useRef(learning);
  useEffect(() => {
    learn.current = learning;
  }, [learning]);

  useEffect(() => {
    gear.start();
    hands.start();
    const letGo = () => hands.letGo();
    const hidden = () => document.visibilityState === 'hidden' && letGo();
    window.addEventListener('blur', letGo);
    document.addEventListener('visibilitychange', hidden);
    return () => {
      window.removeEventListener('blur', letGo);
      document.removeEventListener('visibilitychange', hidden);
      hands.stop();
      gear.stop();
    };
  }, [gear, hands]);
  useEffect(() => hands.setBindings(bindings), [hands, bindings]);

  const lookForMidi = useCallback(() => {
    try {
      localStorage.setItem(askedForMidi, '1');
    } catch {
      // Then it has to be asked for again the next time.
    }
    void gear.lookForMidi();
  }, [gear]);
  // A browser that was asked before need not be asked again; another one is asked when somebody wants it.
  const hasMidi = bindings.some(({ input }) => midiInput.test(input));
  useEffect(() => {
    if (hasMidi && wasAsked()) void gear.lookForMidi();
  }, [hasMidi, gear]);
  const onEvent = useRef<(event: FromGear) => void>(undefined);
  useEffect(() => {
    onEvent.current = (event) => {
      setLast(event);
      const now = learn.current;
      if (now.at !== 'gear') return now.at === 'off' ? hands.onEvent(event) : undefined;
      // Letting go of what was pressed to choose something is no choice, nor is a stick that trembles.
      if (event.down === false || (event.input.startsWith('axis') && Math.abs(event.value) < 0.5)) return;
      const view = live.getTopic(`page:${contextOf(now.page) ?? now.page}`) as PageView | undefined;
      const type = view?.controls[now.control]?.type ?? 'button';
      const as = bindingAs(type, view?.controls[now.control]?.axes, event);
      if (!as)
        return setLearning({ ...now, wrong: `A ${type} is not worked by that (${event.input} of ${event.gear}).` });
      const input = as === 'stick' ? firstAxis(event.input) : event.input;
      put({ gear: event.gear, input, page: now.page, control: now.control, as });
      setLearning({ at: 'off' });
    };
  });
  useEffect(() => gear.onEvent((event) => onEvent.current?.(event)), [gear]);

  // The control to bind is touched, not pressed.
  useEffect(() => {
    if (learning.at !== 'control' || page === undefined) return;
    const onDown = (event: PointerEvent) => {
      const control = (event.target as Element | null)?.closest<HTMLElement>('[data-control]');
      if (!control) return;
      event.preventDefault();
      event.stopPropagation();
      const id = control.dataset.control ?? '';
      setLearning({ at: 'gear', page, control: id, name: control.getAttribute('aria-label')?.split(',')[0] ?? id });
    };
    window.addEventListener('pointerdown', onDown, true);
    return () => window.removeEventListener('pointerdown', onDown, true);
  }, [learning.at, page]);

  return {
    list,
    bindings,
    learning,
    last,
    midiRefused: gear.midiRefused,
    /** Gear is bound here that only MIDI brings, and this browser was not asked for it yet. */
    wantsMidi: hasMidi && !list.some(({ kind }) => kind === 'midi'),
    lookForMidi,
    learn: setLearning,
    put,
    remove,
  };
}

function wasAsked(): boolean {
  try {
    return localStorage.getItem(askedForMidi) === '1';
  } catch {
    return false;
  }
}
