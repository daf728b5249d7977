'use client';

import { useEffect, useRef, useState } from 'react';
import type { LeftStep, ReplayLine, ReplayOrder, ReplayStepLine } from '../../core/live';
import { readLines } from '../live';

export interface ReplayState {
  readonly at: 'nothing' | 'opening' | 'playing' | 'ended' | 'cancelled' | 'failed';
  /** How many presses there are, and how many readings were set beforehand. */
  readonly total: number;
  readonly set: number;
  readonly left: readonly LeftStep[];
  readonly steps: readonly ReplayStepLine[];
  readonly why?: string;
}

const nothing: ReplayState = { at: 'nothing', total: 0, set: 0, left: [], steps: [] };

function after(state: ReplayState, line: ReplayLine): ReplayState {
  switch (line.t) {
    case 'begun':
      return { ...state, at: 'playing', total: line.steps, set: line.set, left: line.left };
    case 'step':
      return { ...state, steps: [...state.steps, line] };
    case 'ended':
      return { ...state, at: 'ended' };
    case 'failed':
      return { ...state, at: 'failed', why: line.message };
  }
}

/** Plays a part of the as-run again, and gathers what comes of it. Leaving the page ends it. */
export function useReplay() {
  const [state, setState] = useState(nothing);
  const running = useRef<AbortController>(undefined);
  useEffect(() => () => running.current?.abort(), []);
  const begin = async (order: ReplayOrder) => {
    running.current?.abort();
    const own = new AbortController();
    running.current = own;
    setState({ ...nothing, at: 'opening' });
    const put = (change: (state: ReplayState) => ReplayState) => running.current === own && setState(change);
    try {
      await readLines<ReplayLine>('/api/replay', order, (line) => put((now) => after(now, line)), own.signal);
      put((now) => (now.at === 'playing' || now.at === 'opening' ? { ...now, at: 'failed', why: broken } : now));
    } catch (error) {
      if (!own.signal.aborted) put((now) => ({ ...now, at: 'failed', why: (error as Error).message }));
    }
  };
  const cancel = () => {
    running.current?.abort();
    running.current = undefined;
    setState((now) => ({ ...now, at: 'cancelled' }));
  };
  return { state, begin, cancel };
}

const broken = 'The replay ended before its end. Try again in a moment.';
