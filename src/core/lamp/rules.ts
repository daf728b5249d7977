import type { Scalar } from '../result';
import {
  meaningWords,
  resolveArgument,
  resolveReading,
  type Condition,
  type LampRule,
  type Meaning,
  type ReadingRef,
} from '../show';
import type { Reading } from '../reading';

/** What a lamp says: a meaning, nothing, or that it does not know. */
export type Lamp =
  | { readonly show: 'off' }
  | { readonly show: Meaning; readonly word: string }
  /** The deciding reading may be old: it was last heard at this time. */
  | { readonly show: 'stale'; readonly since: number }
  | { readonly show: 'unknown' };

/** Three-valued: a condition on readings that are not fresh is neither true nor false. */
type Truth =
  | { readonly is: true }
  | { readonly is: false }
  | { readonly is: 'stale'; readonly since: number }
  | { readonly is: 'unknown' };

type Values = Readonly<Record<string, Scalar>>;
type ReadingNow = (ref: ReadingRef) => Reading | undefined;

/**
 * What a control's lamp shows now. The first rule that holds decides; a rule that cannot be decided, before one that
 * holds, makes the lamp doubtful, because it might have been the one.
 */
export function lampNow(rules: readonly LampRule[], values: Values, readingNow: ReadingNow): Lamp {
  for (const rule of rules) {
    const truth = evaluate(rule.when, values, readingNow);
    switch (truth.is) {
      case true:
        return { show: rule.show, word: rule.word ?? meaningWords[rule.show] };
      case false:
        break;
      case 'stale':
        return { show: 'stale', since: truth.since };
      case 'unknown':
        return { show: 'unknown' };
    }
  }
  return { show: 'off' };
}

function evaluate(condition: Condition, values: Values, readingNow: ReadingNow): Truth {
  if ('op' in condition) {
    const reading = readingNow(resolveReading(condition.reading, values));
    if (!reading || reading.freshness === 'unknown' || reading.value === undefined) return { is: 'unknown' };
    if (reading.freshness === 'stale') return { is: 'stale', since: reading.at ?? 0 };
    const same = reading.value === resolveArgument(condition.to, values);
    return { is: condition.op === 'equals' ? same : !same };
  }
  if ('not' in condition) {
    const truth = evaluate(condition.not, values, readingNow);
    return truth.is === true ? { is: false } : truth.is === false ? { is: true } : truth;
  }
  const deciding = 'any' in condition;
  let doubt: Truth | undefined;
  for (const part of 'any' in condition ? condition.any : condition.all) {
    const truth = evaluate(part, values, readingNow);
    if (truth.is === deciding) return truth;
    if (truth.is === 'unknown') doubt = truth;
    else if (truth.is === 'stale') doubt = doubt?.is === 'unknown' ? doubt : truth;
  }
  return doubt ?? { is: !deciding };
}

/** The readings that a control's lamp depends on, resolved with its values. */
export function readingsOfLamps(rules: readonly LampRule[], values: Values): ReadingRef[] {
  const refs: ReadingRef[] = [];
  const walk = (condition: Condition): void => {
    if ('op' in condition) refs.push(resolveReading(condition.reading, values));
    else if ('not' in condition) walk(condition.not);
    else for (const part of 'any' in condition ? condition.any : condition.all) walk(part);
  };
  for (const rule of rules) walk(rule.when);
  return refs;
}
