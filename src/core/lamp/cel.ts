import type { ASTNode } from '@marcbachmann/cel-js';
import {
  compileCel,
  parseCel,
  swapped,
  typeOfCel,
  walkCel,
  type CelError,
  type CelType,
  type CelValue,
  type Swap,
} from '../cel';
import { celType, splitKey, type DriverDocument } from '../driver';
import { fail, ok, type Result, type Scalar } from '../result';
import type { Condition, ReadingRef } from '../show';

/**
 * Conditions that people type, in the Common Expression Language (cel-spec, "Language Definition"). A reading is written
 * `SW1.input[3].name`; stored are expressions over `r0`, `r1` …, each with the reading that it stands for, so that a new tag breaks
 * nothing. Other names are values of the control.
 */

type CelCondition = Extract<Condition, { cel: string }>;
type Named = Readonly<Record<string, Scalar>>;

/** Reads a typed expression. `deviceByTag` gives the id of the device with a tag; `values` are those of the control. */
export function readCel(
  typed: string,
  deviceByTag: (tag: string) => string | undefined,
  values: Named,
): Result<CelCondition, CelError> {
  const parsed = parseCel(typed);
  if (!parsed.ok) return parsed;
  const readings: ReadingRef[] = [];
  const swaps: Swap[] = [];
  let error: CelError | undefined;
  walkCel(parsed.value, (node) => {
    const chain = chainOf(node);
    if (!chain) return true;
    const { root, key } = chain;
    if (key === '' && root in values) return false;
    const device = deviceByTag(root);
    if (device === undefined || key === '') {
      const what = device === undefined ? `There is no device with the tag “${root}”.` : `Which reading of ${root}?`;
      error ??= { offset: node.range.start, message: what };
      return false;
    }
    let n = readings.findIndex((ref) => ref.device === device && ref.key === key);
    if (n === -1) n = readings.push({ device, key }) - 1;
    swaps.push({ start: node.range.start, end: node.range.end, name: `r${n}` });
    return false;
  });
  if (error) return fail(error);
  return ok({ cel: swapped(typed, swaps), readings });
}

/** The text that a person would type for a stored expression. */
export function formatCel({ cel, readings }: CelCondition, tagOf: (device: string) => string | undefined): string {
  const parsed = parseCel(cel);
  if (!parsed.ok) return cel;
  const swaps: Swap[] = [];
  walkCel(parsed.value, (node) => {
    const ref = node.op === 'id' ? readings[Number(/^r(\d+)$/.exec(node.args)?.[1] ?? -1)] : undefined;
    if (ref) {
      const name = `${tagOf(ref.device) ?? 'missing'}.${ref.key.replaceAll('$', '')}`;
      swaps.push({ start: node.range.start, end: node.range.end, name });
    }
    return true;
  });
  return swapped(cel, swaps);
}

type DocumentOf = (device: string) => DriverDocument | undefined;

/**
 * What is wrong with the types in a stored expression: a text compared with a number, something that is neither true nor false at
 * the end. `undefined` when nothing is.
 */
export function checkCel(condition: CelCondition, values: Named, documentOf: DocumentOf): string | undefined {
  const type = resultTypeOf(condition, values, documentOf);
  if (!type.ok) return type.error;
  return type.value === 'bool' || type.value === 'dyn' ? undefined : 'The result must be true or false.';
}

/** The type of what a stored expression gives. Fails with a sentence when its types cannot be combined. */
export function resultTypeOf(
  { cel, readings }: CelCondition,
  values: Named,
  documentOf: DocumentOf,
): Result<string, string> {
  const variables: Record<string, CelType> = {};
  for (const [n, { device, key }] of readings.entries())
    variables[`r${n}`] = celType(documentOf(device)?.readings[splitKey(key).family]?.value);
  for (const [name, value] of Object.entries(values)) variables[name] = typeOfValue(value);
  return typeOfCel(cel, variables);
}

/** The result of an expression; `undefined` when it has none with these values. */
export function runCel(cel: string, context: Readonly<Record<string, CelValue>>): unknown {
  let run = known.get(cel);
  if (!run) {
    run = compileCel(cel);
    if (known.size >= mostKnown) known.clear();
    known.set(cel, run);
  }
  return run(context);
}

/** True or false; `undefined` when it cannot be worked out from these values. */
export function evaluateCel(cel: string, context: Readonly<Record<string, CelValue>>): boolean | undefined {
  const value = runCel(cel, context);
  return typeof value === 'boolean' ? value : undefined;
}

const typeOfValue = (value: Scalar): CelType =>
  typeof value === 'boolean'
    ? 'bool'
    : typeof value === 'string'
      ? 'string'
      : Number.isSafeInteger(value)
        ? 'int'
        : 'double';

/** What an expression compares its readings with. */
interface Bounds {
  /** The numbers that stand in it. */
  readonly numbers: readonly number[];
  /** It reckons with its readings, so that its truth may change at other times than when one of them reaches a number. */
  readonly reckons: boolean;
}

const boundsOf = new Map<string, Bounds>();

/** The numbers at which an expression may change its truth while a clock in it runs on. Each expression is looked at once. */
export function celBounds(cel: string): Bounds {
  const known = boundsOf.get(cel);
  if (known) return known;
  const numbers: number[] = [];
  let reckons = false;
  const parsed = parseCel(cel);
  if (parsed.ok)
    walkCel(parsed.value, (node) => {
      if (node.op === 'value' && (typeof node.args === 'number' || typeof node.args === 'bigint')) {
        const number = Number(node.args);
        numbers.push(number, -number);
      } else if (!plainOps.has(node.op)) reckons = true;
      return true;
    });
  if (boundsOf.size >= mostKnown) boundsOf.clear();
  const bounds = { numbers: [...new Set(numbers)], reckons };
  boundsOf.set(cel, bounds);
  return bounds;
}

/** What only compares and puts comparisons together. */
const plainOps = new Set<string>([
  'value',
  'id',
  '==',
  '!=',
  '<',
  '<=',
  '>',
  '>=',
  '&&',
  '||',
  '!_',
  '-_',
  '?:',
  'in',
  'list',
]);

/** Expressions are the same again and again: each is read once. */
const known = new Map<string, ReturnType<typeof compileCel>>();
const mostKnown = 2000;

/** `SW1.input[3].name` taken apart: the name that it begins with, and the rest. A bare name has an empty rest. */
function chainOf(node: ASTNode): { readonly root: string; readonly key: string } | undefined {
  if (node.op === 'id') return { root: node.args, key: '' };
  if (node.op === '.') {
    const before = chainOf(node.args[0]);
    return before && { root: before.root, key: before.key === '' ? node.args[1] : `${before.key}.${node.args[1]}` };
  }
  if (node.op !== '[]') return undefined;
  const before = chainOf(node.args[0]);
  const index = node.args[1];
  const inside = index.op === 'value' ? String(index.args) : index.op === 'id' ? `$${index.args}` : undefined;
  return before && inside !== undefined && before.key !== ''
    ? { root: before.root, key: `${before.key}[${inside}]` }
    : undefined;
}
