import { typedValue } from '../driver';
import { freeTimerId, longestTimerS, type TimerEntry } from './entry';

/** What is done to a list of timers while it is made: each gives another list. */

export function withTimer(list: readonly TimerEntry[], name: string): readonly TimerEntry[] {
  const last = list.at(-1);
  const id = freeTimerId(
    name,
    list.map((each) => each.id),
  );
  // The next one is often like the one before.
  const like = last ?? { lengthS: 300, warnS: 60, graceS: 0 };
  return [...list, { id, name, speaker: '', lengthS: like.lengthS, warnS: like.warnS, graceS: like.graceS }];
}

/** One timer changed. A warning never begins before the timer does. */
export const withTimerChanged = (
  list: readonly TimerEntry[],
  id: string,
  change: Partial<Omit<TimerEntry, 'id'>>,
): readonly TimerEntry[] =>
  list.map((each) => {
    if (each.id !== id) return each;
    const next = { ...each, ...change };
    return { ...next, warnS: Math.min(next.warnS, next.lengthS) };
  });

export const withoutTimer = (list: readonly TimerEntry[], id: string): readonly TimerEntry[] =>
  list.filter((each) => each.id !== id);

/** One timer at another place, counted from 0. */
export function withTimerPlaced(list: readonly TimerEntry[], id: string, place: number): readonly TimerEntry[] {
  const moved = list.find((each) => each.id === id);
  if (!moved) return list;
  const others = withoutTimer(list, id);
  return [...others.slice(0, place), moved, ...others.slice(place)];
}

/** A length of time as it is typed, `5:00`, `1:02:03` or seconds, in whole seconds; a sentence where it is none. */
export function readLength(text: string, least: number): number | string {
  const value = typedValue({ type: 'time', writes: 'seconds', fps: 25 }, text);
  if (typeof value !== 'number' || !Number.isInteger(value))
    return 'Type minutes and seconds, such as 5:00, or seconds.';
  if (value < least) return least === 0 ? 'A time cannot be negative.' : 'A timer has one second at least.';
  return value > longestTimerS ? 'A timer has a day at most.' : value;
}
