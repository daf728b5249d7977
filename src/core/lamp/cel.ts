import { Environment, type ASTNode } from '@marcbachmann/cel-js';
import type { DriverDocument, ValueShape } from '../driver';
import { splitKey } from '../driver';
import { fail, ok, type Result, type Scalar } from '../result';
import type { Condition, ReadingRef } from '../show';

/**
 * Conditions that people type, in the Common Expression Language (cel-spec, "Language Definition"). A reading is written
 * `SW1.input[3].name`; stored are expressions over `r0`, `r1` …, each with the reading that it stands for, so that a new tag breaks
 * nothing. Other names are values of the control.
 */

export interface CelError {
  /** Position in the typed text, in UTF-16 units from 0. */
  readonly offset: number;
  readonly message: string;
}

type CelCondition = Extract<Condition, { cel: string }>;
type Named = Readonly<Record<string, Scalar>>;

const limits = { maxAstNodes: 400, maxDepth: 40 };
const plain = new Environment({ unlistedVariablesAreDyn: true, limits });

/** Reads a typed expression. `deviceByTag` gives the id of the device with a tag; `values` are those of the control. */
export function readCel(
  typed: string,
  deviceByTag: (tag: string) => string | undefined,
  values: Named,
): Result<CelCondition, CelError> {
  const parsed = parse(typed);
  if (!parsed.ok) return parsed;
  const readings: ReadingRef[] = [];
  const swaps: { readonly start: number; readonly end: number; readonly name: string }[] = [];
  let error: CelError | undefined;
  walk(parsed.value, (node) => {
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
  const parsed = parse(cel);
  if (!parsed.ok) return cel;
  const swaps: { readonly start: number; readonly end: number; readonly name: string }[] = [];
  walk(parsed.value, (node) => {
    const ref = node.op === 'id' ? readings[Number(/^r(\d+)$/.exec(node.args)?.[1] ?? -1)] : undefined;
    if (ref) {
      const name = `${tagOf(ref.device) ?? 'missing'}.${ref.key.replaceAll('$', '')}`;
      swaps.push({ start: node.range.start, end: node.range.end, name });
    }
    return true;
  });
  return swapped(cel, swaps);
}

/**
 * What is wrong with the types in a stored expression: a text compared with a number, something that is neither true nor false at
 * the end. `undefined` when nothing is.
 */
export function checkCel(
  { cel, readings }: CelCondition,
  values: Named,
  documentOf: (device: string) => DriverDocument | undefined,
): string | undefined {
  const typed = new Environment({ limits });
  for (const [n, { device, key }] of readings.entries())
    typed.registerVariable(`r${n}`, celType(documentOf(device)?.readings[splitKey(key).family]?.value));
  for (const [name, value] of Object.entries(values)) typed.registerVariable(name, typeOfValue(value));
  try {
    const { valid, type, error } = typed.parse(cel).check();
    if (!valid) return sentenceOf(error);
    return type === 'bool' || type === 'dyn' ? undefined : 'The result must be true or false.';
  } catch (error) {
    return sentenceOf(error);
  }
}

/** True or false; `undefined` when it cannot be worked out from these values. */
export function evaluateCel(cel: string, context: Readonly<Record<string, CelValue>>): boolean | undefined {
  let run = known.get(cel);
  if (!run) {
    run = compile(cel);
    if (known.size >= mostKnown) known.clear();
    known.set(cel, run);
  }
  return run(context);
}

/** Whole numbers are what CEL calls int, which JavaScript's numbers are not. */
export type CelValue = Exclude<Scalar, number> | number | bigint;

/** A value as expressions take it: a number of a reading that is always whole as a whole one. */
export const celValue = (value: Scalar, shape?: ValueShape): CelValue =>
  typeof value === 'number' && Number.isSafeInteger(value) && isWhole(shape, value) ? BigInt(value) : value;

const isWhole = (shape: ValueShape | undefined, value: Scalar): boolean =>
  shape === undefined || celType(shape) === 'int' ? Number.isSafeInteger(value) : false;

const typeOfValue = (value: Scalar): string =>
  typeof value === 'boolean'
    ? 'bool'
    : typeof value === 'string'
      ? 'string'
      : isWhole(undefined, value)
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
  const parsed = parse(cel);
  if (parsed.ok)
    walk(parsed.value, (node) => {
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
type Context = Readonly<Record<string, CelValue>>;
const known = new Map<string, (context: Context) => boolean | undefined>();
const mostKnown = 2000;

function compile(cel: string): (context: Context) => boolean | undefined {
  try {
    const run = plain.parse(cel);
    return (context) => {
      try {
        const value: unknown = run(context);
        return typeof value === 'boolean' ? value : undefined;
      } catch {
        return undefined;
      }
    };
  } catch {
    return () => undefined;
  }
}

function parse(text: string): Result<ASTNode, CelError> {
  try {
    return ok(plain.parse(text).ast);
  } catch (error) {
    const start = (error as { range?: { start?: number } }).range?.start;
    return fail({ offset: start ?? 0, message: sentenceOf(error) });
  }
}

/** The first line of what the parser says, as a sentence. */
function sentenceOf(error: unknown): string {
  const [line = ''] = (error instanceof Error ? error.message : '').split('\n');
  if (/EOF/.test(line)) return 'The expression is not finished.';
  const overload = /no such overload: (.+)/.exec(line)?.[1];
  if (overload) return `These cannot be compared or put together: ${overload.replaceAll(/dyn<(\w+)>/g, '$1')}.`;
  return line === '' ? 'The expression cannot be read.' : `${line.replace(/\.$/, '')}.`;
}

/** Visits the nodes from the root down; what `visit` says no to is not gone into. */
function walk(node: ASTNode, visit: (node: ASTNode) => boolean): void {
  if (!visit(node)) return;
  const into = (part: unknown): void => {
    if (Array.isArray(part)) part.forEach(into);
    else if (typeof part === 'object' && part !== null && 'op' in part && 'range' in part) walk(part as ASTNode, visit);
  };
  into(node.args);
}

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

function swapped(
  text: string,
  swaps: readonly { readonly start: number; readonly end: number; readonly name: string }[],
): string {
  let result = text;
  for (const { start, end, name } of [...swaps].sort((a, b) => b.start - a.start))
    result = result.slice(0, start) + name + result.slice(end);
  return result;
}

function celType(shape: ValueShape | undefined): string {
  switch (shape?.type) {
    case 'whole':
      return 'int';
    case 'decimal':
    case 'time':
      return 'double';
    case 'onOff':
      return 'bool';
    case 'text':
    case 'colour':
      return 'string';
    case 'choice':
      return typeof shape.choices[0]?.value === 'number' ? 'int' : 'string';
    default:
      return 'dyn';
  }
}
