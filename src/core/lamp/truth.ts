import { clockReaches, clockSeconds, runningClock } from '../clock';
import type { CelValue } from '../cel';
import { celValue, splitKey, type DriverDocument } from '../driver';
import type { Reading } from '../reading';
import type { Scalar } from '../result';
import {
  readingsOfCondition,
  resolveArgument,
  resolveReading,
  type Argument,
  type Condition,
  type ReadingRef,
  type ReadingTest,
} from '../show';
import { celBounds, evaluateCel } from './cel';

/** Three-valued: a condition on readings that are not fresh is neither true nor false. `by` is the reading that decided. */
export type Truth =
  | { readonly is: boolean; readonly by?: ReadingRef }
  | { readonly is: 'stale'; readonly since: number; readonly by?: ReadingRef }
  | { readonly is: 'unknown'; readonly by?: ReadingRef };

export type Values = Readonly<Record<string, Scalar>>;

/** What conditions are judged by. */
export interface LampSources {
  readonly readingNow: (ref: ReadingRef) => Reading | undefined;
  /** Where given, clocks that run on between reports are judged by what they show now. */
  readonly documentOf?: (device: string) => DriverDocument | undefined;
  /** In milliseconds since 1970, by the clock that the readings carry. */
  readonly now: number;
}

/**
 * Since when what has to last has been true, by its place in the rules; kept by the caller from one look to the next, and changed
 * by each. An empty one is a first look.
 */
export type LampMemory = Map<string, number>;

/** One look at a control's rules. */
export interface Pass {
  readonly values: Values;
  readonly sources: LampSources;
  readonly memory: LampMemory;
  /** The next time at which the truth of something may change although nothing is reported; `Infinity` for never. */
  again: number;
}

/** Whether a condition holds. `path` is its place in the rules. */
export function truthOf(condition: Condition, pass: Pass, path: string): Truth {
  if ('op' in condition) return testNow(condition, pass);
  if ('cel' in condition) return celNow(condition, pass);
  if ('not' in condition) {
    const truth = truthOf(condition.not, pass, `${path}!`);
    return typeof truth.is === 'boolean' ? { ...truth, is: !truth.is } : truth;
  }
  if ('lasting' in condition) return lastingNow(condition, pass, path);
  const deciding = 'any' in condition;
  let doubt: Truth | undefined;
  let last: Truth | undefined;
  // All parts are looked at, whatever the first says: what has to last counts on although another part decides.
  const truths = ('any' in condition ? condition.any : condition.all).map((part, n) =>
    truthOf(part, pass, `${path}.${n}`),
  );
  for (const truth of truths) {
    if (truth.is === deciding) return truth;
    if (truth.is === 'unknown') doubt = doubt?.is === 'unknown' ? doubt : truth;
    else if (truth.is === 'stale') doubt ??= truth;
    else last = truth;
  }
  return doubt ?? { ...last, is: !deciding };
}

function testNow(test: ReadingTest, pass: Pass): Truth {
  const by = resolveReading(test.reading, pass.values);
  const reading = pass.sources.readingNow(by);
  const doubt = doubtOf(reading, by);
  if (doubt) return doubt;
  const value = reading?.value;
  if (value === undefined) return { is: 'unknown', by };
  const given = (argument: Argument) => resolveArgument(argument, pass.values);
  switch (test.op) {
    case 'equals':
    case 'differs':
    case 'oneOf': {
      const wanted = test.op === 'oneOf' ? test.to.map(given) : [given(test.to)];
      const now = typeof value === 'number' ? numberNow(value, by, wanted, pass) : value;
      return { is: wanted.includes(now) === (test.op !== 'differs'), by };
    }
    case 'contains':
      return {
        is: String(value)
          .toLowerCase()
          .includes(String(given(test.to)).toLowerCase()),
        by,
      };
    case 'changed': {
      if (!reading?.changed || reading.since === undefined) return { is: false, by };
      const until = reading.since + test.withinMs;
      if (until <= pass.sources.now) return { is: false, by };
      pass.again = Math.min(pass.again, until);
      return { is: true, by };
    }
    case 'above':
    case 'below':
    case 'within': {
      const [from, to] =
        test.op === 'within' ? [given(test.from), given(test.to)] : ([given(test.to), given(test.to)] as const);
      const now = numberNow(value, by, [from, to], pass);
      if (now === undefined || typeof from !== 'number' || typeof to !== 'number') return { is: 'unknown', by };
      const is = test.op === 'above' ? now > to : test.op === 'below' ? now < to : now >= from && now <= to;
      return { is, by };
    }
  }
}

/** The number that a reading is now; of a clock that runs, what it shows. Notes when the clock comes to one of the bounds. */
function numberNow(
  value: Scalar,
  ref: ReadingRef,
  bounds: readonly (Scalar | undefined)[],
  pass: Pass,
): number | undefined {
  if (typeof value !== 'number') return undefined;
  const { documentOf, readingNow, now } = pass.sources;
  const clock = documentOf && runningClock(ref, readingNow, documentOf);
  if (!clock) return value;
  for (const bound of bounds) {
    const at = typeof bound === 'number' ? clockReaches(clock, bound) : undefined;
    // A moment later, when the clock is beyond it.
    if (at !== undefined && at >= now) pass.again = Math.min(pass.again, at + 1);
  }
  return clockSeconds(clock, now);
}

function lastingNow({ lasting, forMs }: Extract<Condition, { lasting: Condition }>, pass: Pass, path: string): Truth {
  const truth = truthOf(lasting, pass, `${path}~`);
  if (truth.is !== true) {
    pass.memory.delete(path);
    return truth;
  }
  const { now } = pass.sources;
  let since = pass.memory.get(path);
  if (since === undefined) {
    since = Math.min(now, firstTrue(lasting, pass));
    pass.memory.set(path, since);
  }
  const due = since + forMs;
  if (due <= now) return truth;
  pass.again = Math.min(pass.again, due);
  return { ...truth, is: false };
}

/** At a first look: what is true now has been so at least since the last of its readings took its value. */
function firstTrue(condition: Condition, { values, sources }: Pass): number {
  const times = readingsOfCondition(condition).map((ref) => {
    const resolved = resolveReading(ref, values);
    if (sources.documentOf && runningClock(resolved, sources.readingNow, sources.documentOf)) return sources.now;
    return sources.readingNow(resolved)?.since ?? sources.now;
  });
  return times.length === 0 ? sources.now : Math.max(...times);
}

/** How often a typed condition that reckons with a clock is looked at again, in milliseconds. */
const reckonEveryMs = 100;

function celNow({ cel, readings }: Extract<Condition, { cel: string }>, pass: Pass): Truth {
  const { values, sources } = pass;
  const clocks = readings.filter((ref) => isRunning(resolveReading(ref, values), sources));
  // Two clocks may meet at any time.
  if (clocks.length > 1) pass.again = Math.min(pass.again, sources.now + reckonEveryMs);
  const context: Record<string, CelValue> = {};
  for (const [name, value] of Object.entries(values)) context[name] = celValue(value);
  for (const [n, ref] of readings.entries()) {
    const by = resolveReading(ref, values);
    const reading = sources.readingNow(by);
    const doubt = doubtOf(reading, by);
    if (doubt) return doubt;
    if (reading?.value === undefined) return { is: 'unknown', by };
    context[`r${n}`] = celValue(
      typeof reading.value === 'number' ? celNumberNow(reading.value, by, cel, pass) : reading.value,
      sources.documentOf?.(by.device)?.readings[splitKey(by.key).family]?.value,
    );
  }
  const by = readings[0] && resolveReading(readings[0], values);
  const is = evaluateCel(cel, context);
  return is === undefined ? { is: 'unknown', by } : { is, by };
}

/** The number that a reading is now, for a typed condition; of a clock that runs, what it shows. Notes when to look again. */
function celNumberNow(value: number, ref: ReadingRef, cel: string, pass: Pass): number {
  const { now } = pass.sources;
  if (!isRunning(ref, pass.sources)) return value;
  const { numbers, reckons } = celBounds(cel);
  const own = Object.values(pass.values);
  if (reckons) pass.again = Math.min(pass.again, now + reckonEveryMs);
  return numberNow(value, ref, [...numbers, ...own], pass) ?? value;
}

const isRunning = (ref: ReadingRef, { documentOf, readingNow }: LampSources): boolean =>
  documentOf !== undefined && runningClock(ref, readingNow, documentOf) !== undefined;

function doubtOf(reading: Reading | undefined, by: ReadingRef): Truth | undefined {
  if (!reading || reading.freshness === 'unknown') return { is: 'unknown', by };
  return reading.freshness === 'stale' ? { is: 'stale', since: reading.at ?? 0, by } : undefined;
}
