import { z } from 'zod';
import { scalarSchema } from '../driver';
import { readingRefSchema } from './reading-ref';

/** Conditions on readings: what a lamp rule waits for. They name devices by id, like everything that is stored. */

/** A literal, or a value of the control by its name. */
export const argumentSchema = z.union([scalarSchema, z.strictObject({ value: z.string().min(1).max(40) })]);
export type Argument = z.infer<typeof argumentSchema>;
export type ReadingRef = z.infer<typeof readingRefSchema>;

/** What is looked up when a command leaves: what a reading says then, or an expression of the Common Expression Language (see `Condition`). */
const liveArgumentSchema = z.union([
  z.strictObject({ reading: readingRefSchema }),
  z.strictObject({ cel: z.string().min(1).max(1000), readings: z.array(readingRefSchema).max(40) }),
]);
export type LiveArgument = z.infer<typeof liveArgumentSchema>;

/** The value of a parameter: a literal, a value of the control or of the macro by its name, or something that is looked up then. */
export const sentArgumentSchema = z.union([argumentSchema, liveArgumentSchema]);
export type SentArgument = z.infer<typeof sentArgumentSchema>;

/** True for what is known only when the command leaves. */
export const isLive = (argument: SentArgument | undefined): argument is LiveArgument =>
  typeof argument === 'object' && !('value' in argument);

/** The name of the control's or the macro's value that an argument is; `undefined` for anything else. */
export const valueNameOf = (argument: SentArgument | undefined): string | undefined =>
  typeof argument === 'object' && 'value' in argument ? argument.value : undefined;

/** The readings that an argument is taken from. */
export function readingsOfArgument(argument: SentArgument): readonly ReadingRef[] {
  if (!isLive(argument)) return [];
  return 'reading' in argument ? [argument.reading] : argument.readings;
}

/** The argument with each reading in it replaced. */
export function mapArgumentReadings(argument: SentArgument, to: (ref: ReadingRef) => ReadingRef): SentArgument {
  if (!isLive(argument)) return argument;
  return 'reading' in argument
    ? { reading: to(argument.reading) }
    : { ...argument, readings: argument.readings.map(to) };
}

/** Of one reading. Above and below leave the value itself out; a range has both its ends in it. */
export type ReadingTest =
  | { op: 'equals' | 'differs' | 'above' | 'below' | 'contains'; reading: ReadingRef; to: Argument }
  | { op: 'within'; reading: ReadingRef; from: Argument; to: Argument }
  | { op: 'oneOf'; reading: ReadingRef; to: Argument[] }
  /** Its value has changed not longer ago than this. */
  | { op: 'changed'; reading: ReadingRef; withinMs: number };

export type Condition =
  | ReadingTest
  | { all: Condition[] }
  | { any: Condition[] }
  | { not: Condition }
  /** It has been true for at least this time. */
  | { lasting: Condition; forMs: number }
  /** An expression of the Common Expression Language, in which `r0`, `r1` … stand for readings and other names for the control's values. */
  | { cel: string; readings: ReadingRef[] };

const withinMs = z.number().int().min(100).max(3_600_000);

export const conditionSchema: z.ZodType<Condition> = z.lazy(() =>
  z.union([
    z.strictObject({
      op: z.enum(['equals', 'differs', 'above', 'below', 'contains']),
      reading: readingRefSchema,
      to: argumentSchema,
    }),
    z.strictObject({ op: z.literal('within'), reading: readingRefSchema, from: argumentSchema, to: argumentSchema }),
    z.strictObject({ op: z.literal('oneOf'), reading: readingRefSchema, to: z.array(argumentSchema).min(1).max(50) }),
    z.strictObject({ op: z.literal('changed'), reading: readingRefSchema, withinMs }),
    z.strictObject({ all: z.array(conditionSchema).min(1).max(20) }),
    z.strictObject({ any: z.array(conditionSchema).min(1).max(20) }),
    z.strictObject({ not: conditionSchema }),
    z.strictObject({ lasting: conditionSchema, forMs: withinMs }),
    z.strictObject({ cel: z.string().min(1).max(1000), readings: z.array(readingRefSchema).max(40) }),
  ]),
);

/** The condition with each part of it that has no parts replaced. */
function mapLeaves(
  condition: Condition,
  to: (leaf: ReadingTest | Extract<Condition, { cel: string }>) => Condition,
): Condition {
  if ('op' in condition || 'cel' in condition) return to(condition);
  if ('not' in condition) return { not: mapLeaves(condition.not, to) };
  if ('lasting' in condition) return { ...condition, lasting: mapLeaves(condition.lasting, to) };
  const parts = (list: readonly Condition[]) => list.map((each) => mapLeaves(each, to));
  return 'all' in condition ? { all: parts(condition.all) } : { any: parts(condition.any) };
}

/** The condition with each reading in it replaced. */
export const mapConditionReadings = (condition: Condition, to: (ref: ReadingRef) => ReadingRef): Condition =>
  mapLeaves(condition, (leaf) =>
    'cel' in leaf ? { ...leaf, readings: leaf.readings.map(to) } : { ...leaf, reading: to(leaf.reading) },
  );

/** The condition with each value that a reading is compared with replaced; expressions stay as they are. */
export const mapConditionArguments = (
  condition: Condition,
  to: (argument: Argument, reading: ReadingRef) => Argument,
): Condition =>
  mapLeaves(condition, (leaf) => {
    if ('cel' in leaf || leaf.op === 'changed') return leaf;
    const change = (argument: Argument) => to(argument, leaf.reading);
    if (leaf.op === 'within') return { ...leaf, from: change(leaf.from), to: change(leaf.to) };
    if (leaf.op === 'oneOf') return { ...leaf, to: leaf.to.map(change) };
    return { ...leaf, to: change(leaf.to) };
  });

/** The readings that a condition looks at, in order. */
export function readingsOfCondition(condition: Condition): ReadingRef[] {
  const found: ReadingRef[] = [];
  mapConditionReadings(condition, (ref) => {
    found.push(ref);
    return ref;
  });
  return found;
}
