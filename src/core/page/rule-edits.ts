import { memberKey, splitKey, type ValueShape } from '../driver';
import type { Scalar } from '../result';
import {
  mapConditionArguments,
  mapConditionReadings,
  resolveArgument,
  type Condition,
  type ControlRecord,
  type LampRule,
  type ReadingTest,
} from '../show';

/** Editing what a control shows by rules. */

type Data = ControlRecord['data'];

/** The condition with the control's values put in, as people read it. */
export function shownCondition(condition: Condition, { values }: Pick<Data, 'values'>): Condition {
  const keyed = mapConditionReadings(condition, (ref) => ({
    ...ref,
    key: ref.key.replace(/\[\$([a-z][A-Za-z0-9]*)\]/, (whole, name: string) =>
      name in values ? `[${String(values[name])}]` : whole,
    ),
  }));
  return mapConditionArguments(keyed, (argument) => resolveArgument(argument, values) ?? argument);
}

/** The condition with whatever is the same as a value of the control tied to it, so that they count together. */
export function tiedCondition(condition: Condition, { values }: Pick<Data, 'values'>): Condition {
  const named = (value: unknown) =>
    typeof value === 'boolean' ? undefined : Object.keys(values).find((name) => values[name] === value);
  const keyed = mapConditionReadings(condition, (ref) => {
    const { family, index } = splitKey(ref.key);
    const name = index === undefined ? undefined : named(index);
    return name === undefined ? ref : { ...ref, key: memberKey(family, `$${name}`) };
  });
  return mapConditionArguments(keyed, (argument) => {
    const name = typeof argument === 'object' ? undefined : named(argument);
    return name === undefined ? argument : { value: name };
  });
}

/** The data with another condition in one of its rules; what is typed there is tied to the control's values. */
export const setWhen = (data: Data, index: number, when: Condition): Data => ({
  ...data,
  lamps: data.lamps.map((rule, n) => (n === index ? { ...rule, when: tiedCondition(when, data) } : rule)),
});

/** Adds a rule at the end. */
export const addRule = (data: Data, rule: LampRule): Data => ({
  ...data,
  lamps: [...data.lamps, { ...rule, when: tiedCondition(rule.when, data) }],
});

export const removeRule = (data: Data, index: number): Data => ({
  ...data,
  lamps: data.lamps.filter((_, n) => n !== index),
});

/** Moves a rule before or after its neighbour: the first that holds decides. */
export function moveRule(data: Data, index: number, by: -1 | 1): Data {
  const lamps = [...data.lamps];
  const [rule] = lamps.splice(index, 1);
  if (!rule || index + by < 0 || index + by > lamps.length) return data;
  lamps.splice(index + by, 0, rule);
  return { ...data, lamps };
}

/**
 * Another effect of a rule. What is `undefined` or empty is left out from then on; with another meaning the word is the meaning's own
 * again. A rule without any effect stays as it was.
 */
export function changeRule(data: Data, index: number, to: Partial<Omit<LampRule, 'when'>>): Data {
  const rule = data.lamps[index];
  if (!rule) return data;
  const next: Record<string, unknown> = { ...rule, ...to };
  if (to.show !== undefined && to.show !== rule.show && to.word === undefined) delete next.word;
  if (next.show === undefined) {
    delete next.word;
    delete next.blink;
  }
  for (const [name, value] of Object.entries(next)) if (value === undefined || value === '') delete next[name];
  if (!['show', 'label', 'icon', 'picture', 'bars'].some((name) => name in next)) return data;
  return { ...data, lamps: data.lamps.map((each, n) => (n === index ? (next as LampRule) : each)) };
}

export const conditionKinds = ['reading', 'all', 'any', 'not', 'lasting', 'typed'] as const;
export type ConditionKind = (typeof conditionKinds)[number];

export function kindOf(condition: Condition): ConditionKind {
  if ('op' in condition) return 'reading';
  if ('all' in condition) return 'all';
  if ('any' in condition) return 'any';
  if ('not' in condition) return 'not';
  return 'lasting' in condition ? 'lasting' : 'typed';
}

/** A condition of another kind that keeps as much as it can of this one. `start` is a test to begin with where nothing is left. */
export function asKind(condition: Condition, kind: ConditionKind, start: ReadingTest): Condition {
  if (kindOf(condition) === kind) return condition;
  const parts = 'all' in condition ? condition.all : 'any' in condition ? condition.any : undefined;
  const inner =
    parts?.[0] ?? ('not' in condition ? condition.not : 'lasting' in condition ? condition.lasting : undefined);
  // What is typed cannot be taken apart.
  const whole = 'cel' in condition ? start : condition;
  switch (kind) {
    case 'reading':
      return firstTest(whole) ?? start;
    case 'all':
      return { all: parts ?? [inner ?? whole] };
    case 'any':
      return { any: parts ?? [inner ?? whole] };
    case 'not':
      return { not: 'lasting' in whole ? whole.lasting : whole };
    case 'lasting':
      return { lasting: whole, forMs: 2000 };
    case 'typed':
      // Nothing lights or is barred by it before something is typed.
      return { cel: 'false', readings: [] };
  }
}

function firstTest(condition: Condition): ReadingTest | undefined {
  if ('op' in condition) return condition;
  if ('cel' in condition) return undefined;
  const parts = 'all' in condition ? condition.all : 'any' in condition ? condition.any : undefined;
  if (parts) return parts.map(firstTest).find((test) => test !== undefined);
  return 'not' in condition
    ? firstTest(condition.not)
    : 'lasting' in condition
      ? firstTest(condition.lasting)
      : undefined;
}

type TestOp = ReadingTest['op'];

/** In words, between a reading and a value. */
export const opWords: Readonly<Record<TestOp, string>> = {
  equals: 'is',
  differs: 'is not',
  above: 'is above',
  below: 'is below',
  within: 'is in the range',
  contains: 'contains',
  oneOf: 'is one of',
  changed: 'has changed within',
};

/** The tests that make sense for values of a shape. */
export function opsFor(shape: ValueShape | undefined): readonly TestOp[] {
  switch (shape?.type) {
    case 'whole':
    case 'decimal':
    case 'time':
      return ['equals', 'differs', 'above', 'below', 'within', 'oneOf', 'changed'];
    case 'text':
      return ['equals', 'differs', 'contains', 'oneOf', 'changed'];
    case 'onOff':
      return ['equals', 'differs', 'changed'];
    default:
      return ['equals', 'differs', 'oneOf', 'changed'];
  }
}

/** The same reading put to another test, with as much of the value as fits. */
export function withOp(test: ReadingTest, op: TestOp, first: Scalar): ReadingTest {
  const { reading } = test;
  const value = test.op === 'oneOf' ? (test.to[0] ?? first) : test.op === 'changed' ? first : test.to;
  switch (op) {
    case 'changed':
      return { op, reading, withinMs: 3000 };
    case 'oneOf':
      return { op, reading, to: test.op === 'within' ? [test.from, test.to] : [value] };
    case 'within':
      return { op, reading, from: test.op === 'oneOf' ? (test.to[0] ?? value) : value, to: value };
    default:
      return { op, reading, to: value };
  }
}
