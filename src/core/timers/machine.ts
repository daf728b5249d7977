import { fail, ok, type Result } from '../result';
import { longestTimerS, type TimerEntry } from './entry';

/**
 * A list of timers of which one runs at a time, without a clock: every function is given the time, in milliseconds of any clock that does not
 * jump. What is left may be negative: a timer goes on beyond its end until somebody ends it.
 */

/** What a timer is doing: `ready` is the one that comes next while none has begun; `empty`: there is none. */
export type TimerPhase = 'empty' | 'ready' | 'running' | 'warning' | 'over' | 'paused';

export interface TimersState {
  readonly list: readonly TimerEntry[];
  /** The id of the timer that has begun, if one has. */
  readonly current: string | undefined;
  /** The id of the one that begins next; `undefined` behind the last one. */
  readonly next: string | undefined;
  /** What was left at `at`, and whether it goes on from there. */
  readonly leftMs: number;
  readonly at: number;
  readonly isRunning: boolean;
  /** What was added to its length since it began; negative: taken away. */
  readonly addedMs: number;
  readonly message: string;
}

/** Why an order was not carried out. */
export type TimerRefusal = 'no-timer' | 'none-begun' | 'none-next' | 'running' | 'not-running' | 'too-long';

type Changed = Result<TimersState, TimerRefusal>;

export const initialTimers = (list: readonly TimerEntry[]): TimersState => ({
  list,
  current: undefined,
  next: list[0]?.id,
  leftMs: 0,
  at: 0,
  isRunning: false,
  addedMs: 0,
  message: '',
});

const find = ({ list }: TimersState, id: string | undefined) => list.find((each) => each.id === id);
const placeOf = ({ list }: TimersState, id: string | undefined) => list.findIndex((each) => each.id === id);

/** The one behind a timer in the list. */
const after = (state: TimersState, id: string | undefined): string | undefined =>
  state.list[placeOf(state, id) + 1]?.id;

/** What is left of the timer that has begun, in milliseconds. */
export const leftMsOf = ({ leftMs, at, isRunning }: TimersState, now: number): number =>
  isRunning ? leftMs - (now - at) : leftMs;

/** Begins a timer from its full length. The one behind it in the list is the next. */
export function startTimer(state: TimersState, id: string | undefined, now: number): Changed {
  const entry = find(state, id);
  if (!entry) return fail('no-timer');
  return ok({
    ...state,
    current: entry.id,
    next: after(state, entry.id),
    leftMs: entry.lengthS * 1000,
    at: now,
    isRunning: true,
    addedMs: 0,
  });
}

export const startNextTimer = (state: TimersState, now: number): Changed =>
  state.next === undefined ? fail('none-next') : startTimer(state, state.next, now);

export function pauseTimer(state: TimersState, now: number): Changed {
  if (state.current === undefined) return fail('none-begun');
  if (!state.isRunning) return fail('not-running');
  return ok({ ...state, leftMs: leftMsOf(state, now), at: now, isRunning: false });
}

/** Goes on from where it was paused. */
export function resumeTimer(state: TimersState, now: number): Changed {
  if (state.current === undefined) return fail('none-begun');
  if (state.isRunning) return fail('running');
  return ok({ ...state, at: now, isRunning: true });
}

/** Begins the same timer again from its full length. Which one comes next stays as it was. */
export function restartTimer(state: TimersState, now: number): Changed {
  if (state.current === undefined) return fail('none-begun');
  const begun = startTimer(state, state.current, now);
  return begun.ok ? ok({ ...begun.value, next: state.next }) : begun;
}

/** Ends the timer that has begun; the next one waits. */
export const stopTimer = (state: TimersState, now: number): Changed =>
  state.current === undefined ? fail('none-begun') : ok({ ...state, ...nothingBegun, at: now });

const nothingBegun = { current: undefined, leftMs: 0, isRunning: false, addedMs: 0 } as const;

/** Gives the timer that has begun more time, or (negative) less. */
export function addTime(state: TimersState, seconds: number, now: number): Changed {
  const entry = find(state, state.current);
  if (!entry) return fail('none-begun');
  const addedMs = state.addedMs + seconds * 1000;
  const lengthMs = entry.lengthS * 1000 + addedMs;
  if (lengthMs < 0 || lengthMs > longestTimerS * 1000) return fail('too-long');
  return ok({ ...state, leftMs: leftMsOf(state, now) + seconds * 1000, at: now, addedMs });
}

export const setNextTimer = (state: TimersState, id: string): Changed =>
  find(state, id) ? ok({ ...state, next: id }) : fail('no-timer');

/** The first timer of that name, upper and lower case alike, is the next. */
export function setNextByName(state: TimersState, name: string): Changed {
  const wanted = name.trim().toLowerCase();
  const entry = state.list.find((each) => each.name.toLowerCase() === wanted);
  return entry ? setNextTimer(state, entry.id) : fail('no-timer');
}

/** Moves the next one up (negative) or down the list; it ends at the ends of the list. */
export function moveNext(state: TimersState, by: number): Changed {
  const { list } = state;
  if (list.length === 0) return fail('no-timer');
  // Behind the last one, up leads to the last.
  const from = state.next === undefined ? list.length : placeOf(state, state.next);
  const to = Math.max(0, Math.min(list.length - 1, from + by));
  return ok({ ...state, next: list[to]?.id });
}

export const setMessage = (state: TimersState, message: string): Changed => ok({ ...state, message });

/** Another list: what has begun goes on while it is still in it, at the length that it has now. */
export function withList(state: TimersState, list: readonly TimerEntry[], now: number): TimersState {
  const before = find(state, state.current);
  const kept = list.find(({ id }) => id === state.current);
  const isNextKept = list.some(({ id }) => id === state.next);
  const next = isNextKept ? state.next : kept ? after({ ...state, list }, kept.id) : list[0]?.id;
  if (!kept || !before) return { ...state, ...nothingBegun, list, next, at: now };
  const grownMs = (kept.lengthS - before.lengthS) * 1000;
  return { ...state, list, next, leftMs: state.leftMs + grownMs };
}

/** What the clock shows of its list: the timer that has begun, or else the one that comes next, not begun. */
interface TimersView {
  readonly phase: TimerPhase;
  readonly shown: TimerEntry | undefined;
  readonly next: TimerEntry | undefined;
  readonly leftMs: number;
  readonly lengthMs: number;
}

export function viewTimers(state: TimersState, now: number): TimersView {
  const current = find(state, state.current);
  const next = find(state, state.next);
  const shown = current ?? next;
  if (!shown) return { phase: 'empty', shown, next, leftMs: 0, lengthMs: 0 };
  const lengthMs = shown.lengthS * 1000 + (current ? state.addedMs : 0);
  const leftMs = current ? leftMsOf(state, now) : lengthMs;
  return { phase: current ? phaseOf(current, state.isRunning, leftMs) : 'ready', shown, next, leftMs, lengthMs };
}

function phaseOf({ warnS, graceS }: TimerEntry, isRunning: boolean, leftMs: number): TimerPhase {
  if (!isRunning) return 'paused';
  if (leftMs <= -graceS * 1000) return 'over';
  return leftMs <= warnS * 1000 ? 'warning' : 'running';
}

/** In how many milliseconds the phase changes by itself; `undefined`: never. */
export function nextPhaseInMs(state: TimersState, now: number): number | undefined {
  const current = find(state, state.current);
  if (!current || !state.isRunning) return undefined;
  const leftMs = leftMsOf(state, now);
  const points = [current.warnS * 1000, -current.graceS * 1000];
  const ahead = points.map((point) => leftMs - point).filter((ms) => ms > 0);
  return ahead.length === 0 ? undefined : Math.min(...ahead);
}
