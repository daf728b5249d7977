import type { Scalar } from '../result';
import type { WatchData } from '../show';

/** What a watch has seen and done so far. */
export interface WatchState {
  /** Switched on: as its record says until somebody switches it. */
  readonly isOn: boolean;
  /** What its condition or its reading was when that was known last. */
  readonly known?: Scalar;
  /** When it fired within the last minute, in milliseconds, the oldest first. */
  readonly recent: readonly number[];
  readonly count: number;
  readonly lastAt?: number;
  /** It fires once and has. */
  readonly isSpent?: true;
  /** Why it was stopped. It stays so until it is switched on again. */
  readonly stopped?: string;
}

export const newWatchState = ({ off }: Pick<WatchData, 'off'>): WatchState => ({
  isOn: off === undefined,
  recent: [],
  count: 0,
});

/** What comes of it when what a watch waits for has happened. Anything but `fires` says why it does not. */
export type Verdict =
  'fires' | 'off' | 'spent' | 'stopped' | 'not in service' | 'unless' | 'quiet' | 'too often' | 'loop';

/** A watch that fires so often within this time sets itself off. */
const loopMs = 2000;
const loopMost = 10;
const minuteMs = 60_000;

/**
 * Takes what a watch looks at into account. A condition is met when it becomes true and was known to be false before, even if it was not known in
 * between, a key when it is switched on; a reading when it takes another value than the last known one, and the wanted one where one is named.
 * @param now `undefined` while it is not known
 */
export function looked(
  { when }: Pick<WatchData, 'when'>,
  state: WatchState,
  now: Scalar | undefined,
): { readonly state: WatchState; readonly isMet: boolean } {
  if (now === undefined || now === state.known) return { state, isMet: false };
  const isNews = state.known !== undefined;
  const isWanted =
    when.is === 'true' || when.is === 'key'
      ? now === true
      : when.is === 'change' && (when.to === undefined || when.to === now);
  return { state: { ...state, known: now }, isMet: isNews && isWanted };
}

/** What comes of it now that what the watch waits for has happened. */
export function judged(
  data: Pick<WatchData, 'inService' | 'quietMs' | 'mostPerMinute' | 'once'>,
  before: WatchState,
  {
    now,
    isInService,
    isKeptFrom,
  }: { readonly now: number; readonly isInService: boolean; readonly isKeptFrom: boolean },
): { readonly state: WatchState; readonly verdict: Verdict } {
  const recent = before.recent.filter((at) => now - at < minuteMs);
  const state = { ...before, recent };
  const no = (verdict: Verdict) => ({ state, verdict });
  if (!state.isOn) return no('off');
  if (state.stopped !== undefined) return no('stopped');
  if (state.isSpent) return no('spent');
  if (data.inService && !isInService) return no('not in service');
  if (isKeptFrom) return no('unless');
  if (state.lastAt !== undefined && data.quietMs > 0 && now - state.lastAt < data.quietMs) return no('quiet');
  if (recent.length >= data.mostPerMinute) return no('too often');
  if (recent.filter((at) => now - at < loopMs).length >= loopMost)
    return {
      state: { ...state, stopped: `Fired ${loopMost} times within ${loopMs / 1000} s. It may set itself off.` },
      verdict: 'loop',
    };
  return {
    state: {
      ...state,
      recent: [...recent, now],
      count: state.count + 1,
      lastAt: now,
      ...(data.once ? { isSpent: true as const } : {}),
    },
    verdict: 'fires',
  };
}

/** Switched on it can fire again, whatever kept it from it; what it waits for has to happen anew. */
export function switched(state: WatchState, isOn: boolean): WatchState {
  const { isSpent: _, stopped: __, ...rest } = state;
  return isOn ? { ...rest, isOn, recent: [] } : { ...state, isOn };
}

/** Why a watch did not fire, as a sentence. */
export const verdictWords: Readonly<Record<Exclude<Verdict, 'fires' | 'loop'>, string>> = {
  off: 'It is off.',
  spent: 'It has already fired once.',
  stopped: 'It is stopped.',
  'not in service': 'The show is not in service.',
  unless: 'Its exception is true.',
  quiet: 'Its quiet time is not over.',
  'too often': 'It has reached its limit for this minute.',
};
