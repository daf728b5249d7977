import type { ASTNode } from '@marcbachmann/cel-js';
import { compileCel, parseCel, swapped, typeOfCel, walkCel, type CelType, type CelValue, type Swap } from '../cel';
import { fail, ok, type Result, type Scalar } from '../result';
import { celType, celValue } from './cel-value';
import { indexesOf } from './members';
import { memberKey, splitKey } from './reading-key';
import type { ReadingChange } from './decode';
import type { DriverDocument, DriverReading } from './schema';
import type { ValueShape } from './schema-values';
import { checkValue } from './values';

/**
 * Values that a document computes from readings, in the Common Expression Language. Readings are written by their keys: `level`,
 * `input[3].name`, and `input[program].name` for the member whose number another reading holds.
 */

/** A reading in an expression. The member's number may be a variable or another reading. */
interface ReadingPath {
  readonly family: string;
  readonly at?: number | { readonly variable: string } | ReadingPath;
}

type Fresh = (key: string) => Scalar | undefined;
type Shapes = Readonly<Record<string, ValueShape | undefined>>;

export interface Expression {
  /** The keys or families of the readings it uses. */
  readonly families: ReadonlySet<string>;
  /** Evaluates it; `undefined` while a reading that its value depends on is unknown. Fails with a sentence if the result does not fit the shape. */
  readonly value: (variables: Readonly<Record<string, Scalar>>, fresh: Fresh) => Result<Scalar | undefined, string>;
}

/**
 * Compiles an expression. Fails with a sentence for a syntax error, an unknown name or a wrong result type.
 *
 * @param variables other names it may use: earlier parameters, or `index` for the member's number
 * @param shape the shape of the result
 */
export function compileExpression(
  source: string,
  readings: DriverDocument['readings'],
  variables: Shapes,
  shape: ValueShape,
): Result<Expression, string> {
  const parsed = parseCel(source);
  if (!parsed.ok) return fail(`At character ${parsed.error.offset + 1}: ${parsed.error.message}`);
  const paths: ReadingPath[] = [];
  const swaps: Swap[] = [];
  const names = new Set<string>();
  let wrong: string | undefined;
  walkCel(parsed.value, (node) => {
    const path = pathOf(node, variables);
    if (path === undefined) return true;
    if (typeof path === 'string') {
      names.add(path);
      return false;
    }
    wrong ??= unknownIn(path, readings);
    const { start, end } = node.range;
    swaps.push({ start, end, name: `r${paths.push(path) - 1}` });
    return false;
  });
  if (wrong !== undefined) return fail(wrong);
  const cel = swapped(source, swaps);
  const shapes = paths.map(({ family }) => readings[family]?.value);
  const types: Record<string, CelType> = {};
  shapes.forEach((each, n) => (types[`r${n}`] = celType(each)));
  for (const name of names) types[name] = celType(variables[name]);
  const type = typeOfCel(cel, types);
  if (!type.ok) return fail(type.error);
  const expected = resultTypes(shape);
  if (type.value !== 'dyn' && !expected.includes(type.value)) {
    const wanted = expected[0] === 'int' ? 'a number' : expected[0] === 'bool' ? 'true or false' : 'a text';
    const hint = expected[0] === 'string' ? ' Write string(…) around a number.' : '';
    return fail(`The result is of the type “${type.value}”, but ${wanted} is needed.${hint}`);
  }
  const run = compileCel(cel);
  return ok({
    families: new Set(paths.flatMap(familiesIn)),
    value: (given, fresh) => {
      const context: Record<string, CelValue> = {};
      let isMissing = false;
      for (const [n, path] of paths.entries()) {
        const key = keyOf(path, given, fresh);
        const now = key === undefined ? undefined : fresh(key);
        if (now === undefined) isMissing = true;
        else context[`r${n}`] = celValue(now, shapes[n]);
      }
      for (const name of names) {
        const value = given[name];
        if (value === undefined) return ok(undefined);
        context[name] = celValue(value, variables[name]);
      }
      const result = resultOf(run(context), shape);
      // What is not known may belong to the other branch of a condition, as in `row > 0 ? name[row] : ""`.
      return isMissing && !result.ok ? ok(undefined) : result;
    },
  });
}

/** A compiled computed reading. */
export interface ComputedReading {
  readonly key: string;
  readonly definition: DriverReading;
  readonly expression: Expression;
}

/**
 * Re-evaluates the computed readings that a report affects. Returns their new values, and the keys that became unknown.
 *
 * @param computed in document order; later ones may use earlier ones
 * @param fresh the readings before these changes
 */
export function computedBy(
  computed: readonly ComputedReading[],
  changes: readonly ReadingChange[],
  fresh: Fresh,
): {
  readonly changes: readonly ReadingChange[];
  readonly unknown: readonly string[];
  readonly faults: readonly string[];
} {
  /** Values after these changes; `undefined` for a reading that became unknown. */
  const now = new Map<string, Scalar | undefined>(changes.map(({ key, value }) => [key, value]));
  const moved = new Set(changes.map(({ key }) => splitKey(key).family));
  const made: ReadingChange[] = [];
  const unknown: string[] = [];
  const faults: string[] = [];
  // A member is re-evaluated only if a reading that it uses itself has changed.
  let isTouched = false;
  const value: Fresh = (key) => {
    if (!now.has(key)) return fresh(key);
    isTouched = true;
    return now.get(key);
  };
  for (const { key: family, definition, expression } of computed) {
    if (![...expression.families].some((each) => moved.has(each))) continue;
    moved.add(family);
    for (const index of definition.index ? indexesOf(definition.index) : [undefined]) {
      const key = index === undefined ? family : memberKey(family, index);
      isTouched = false;
      const result = expression.value(index === undefined ? {} : { index }, value);
      if (!isTouched) continue;
      if (!result.ok) faults.push(`${definition.title}: the computed value ${result.error}`);
      const next = result.ok ? result.value : undefined;
      if (next !== undefined) made.push({ key, value: next });
      else if (fresh(key) !== undefined) unknown.push(key);
      now.set(key, next);
    }
  }
  return { changes: made, unknown, faults };
}

/** Returns the computed readings that depend on these families. */
export const computedFrom = (computed: readonly ComputedReading[], families: readonly string[]): string[] => {
  const gone = new Set(families);
  for (const { key, expression } of computed)
    if ([...expression.families].some((each) => gone.has(each))) gone.add(key);
  return [...gone].filter((key) => !families.includes(key));
};

/** What a node names: a reading, the name of a variable, or neither. */
function pathOf(node: ASTNode, variables: Shapes): ReadingPath | string | undefined {
  const chain = chainOf(node, variables);
  if (!chain) return undefined;
  if (chain.family in variables && chain.at === undefined) return chain.family;
  return chain;
}

function chainOf(node: ASTNode, variables: Shapes): ReadingPath | undefined {
  if (node.op === 'id') return { family: node.args };
  if (node.op === '.') {
    const before = chainOf(node.args[0], variables);
    return before && { ...before, family: `${before.family}.${node.args[1]}` };
  }
  if (node.op !== '[]') return undefined;
  const before = chainOf(node.args[0], variables);
  if (!before || before.at !== undefined) return undefined;
  const at = indexOf(node.args[1], variables);
  return at === undefined ? undefined : { family: `${before.family}[]`, at };
}

function indexOf(node: ASTNode, variables: Shapes): ReadingPath['at'] {
  if (node.op === 'value') return Number(node.args);
  const path = pathOf(node, variables);
  return typeof path === 'string' ? { variable: path } : path;
}

function unknownIn(path: ReadingPath, readings: DriverDocument['readings']): string | undefined {
  const { family, at } = path;
  if (typeof at === 'object' && 'family' in at) {
    const inside = unknownIn(at, readings);
    if (inside !== undefined) return inside;
  }
  if (family in readings) return undefined;
  const begun = Object.keys(readings).some((key) => key.startsWith(`${family}[`));
  return begun ? `Which ${family}? Write ${family}[1] or the like.` : `There is no reading “${family}”.`;
}

const familiesIn = ({ family, at }: ReadingPath): string[] =>
  typeof at === 'object' && 'family' in at ? [family, ...familiesIn(at)] : [family];

function keyOf({ family, at }: ReadingPath, given: Readonly<Record<string, Scalar>>, fresh: Fresh): string | undefined {
  if (at === undefined) return family;
  if (typeof at === 'number') return memberKey(family, at);
  if ('variable' in at)
    return given[at.variable] === undefined ? undefined : memberKey(family, String(given[at.variable]));
  const key = keyOf(at, given, fresh);
  const index = key === undefined ? undefined : fresh(key);
  return index === undefined ? undefined : memberKey(family, String(index));
}

function resultTypes(shape: ValueShape): readonly string[] {
  switch (shape.type) {
    case 'whole':
    case 'decimal':
    case 'time':
      return ['int', 'double'];
    case 'onOff':
      return ['bool'];
    default:
      return ['string'];
  }
}

/** A result as a value of the shape: a number that has to be whole is rounded. */
function resultOf(result: unknown, shape: ValueShape): Result<Scalar | undefined, string> {
  if (result === undefined) return ok(undefined);
  const number = typeof result === 'bigint' ? Number(result) : result;
  return checkValue(shape, shape.type === 'whole' && typeof number === 'number' ? Math.round(number) : number);
}
