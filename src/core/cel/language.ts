import { Environment, type ASTNode } from '@marcbachmann/cel-js';
import { fail, ok, type Result, type Scalar } from '../result';

/**
 * The Common Expression Language (cel-spec, "Language Definition") as this program has it. Beyond the specification whole numbers and
 * decimal ones may be put together (`level * 1.25`); the result is decimal.
 */

export interface CelError {
  /** Position in the typed text, in UTF-16 units from 0. */
  readonly offset: number;
  readonly message: string;
}

/** Whole numbers are what CEL calls int, which JavaScript's numbers are not. */
export type CelValue = Exclude<Scalar, number> | number | bigint;

export type CelType = 'int' | 'double' | 'string' | 'bool' | 'dyn';

const limits = { maxAstNodes: 400, maxDepth: 40 };

const arithmetic = {
  '+': (a: number, b: number) => a + b,
  '-': (a: number, b: number) => a - b,
  '*': (a: number, b: number) => a * b,
  '/': (a: number, b: number) => a / b,
} as const;

function environment(options: { readonly unlistedVariablesAreDyn: boolean }): Environment {
  const made = new Environment({ ...options, limits });
  for (const [op, work] of Object.entries(arithmetic)) {
    const both = (a: number | bigint, b: number | bigint) => work(Number(a), Number(b));
    made.registerOperator(`int ${op} double: double`, both);
    made.registerOperator(`double ${op} int: double`, both);
  }
  return made;
}

const plain = environment({ unlistedVariablesAreDyn: true });

/** Parses an expression. Fails with the position of the first mistake. */
export function parseCel(text: string): Result<ASTNode, CelError> {
  try {
    return ok(plain.parse(text).ast);
  } catch (error) {
    const start = (error as { range?: { start?: number } }).range?.start;
    return fail({ offset: start ?? 0, message: sentenceOf(error) });
  }
}

/** Returns the type of an expression's result. Fails with a sentence when its types cannot be combined. */
export function typeOfCel(cel: string, variables: Readonly<Record<string, CelType>>): Result<string, string> {
  const typed = environment({ unlistedVariablesAreDyn: false });
  for (const [name, type] of Object.entries(variables)) typed.registerVariable(name, type);
  try {
    const { valid, type, error } = typed.parse(cel).check();
    return valid ? ok(type ?? 'dyn') : fail(sentenceOf(error));
  } catch (error) {
    return fail(sentenceOf(error));
  }
}

type Run = (context: Readonly<Record<string, CelValue>>) => unknown;

/** Compiles an expression. Running it never throws; it returns `undefined` when there is no result. */
export function compileCel(cel: string): Run {
  try {
    const run = plain.parse(cel) as Run;
    return (context) => {
      try {
        return run(context);
      } catch {
        // A division by zero or a missing value: the caller reports that there is no result.
        return undefined;
      }
    };
  } catch {
    return () => undefined;
  }
}

/** Visits the nodes from the root down. A node for which `visit` returns false is not entered. */
export function walkCel(node: ASTNode, visit: (node: ASTNode) => boolean): void {
  if (!visit(node)) return;
  const into = (part: unknown): void => {
    if (Array.isArray(part)) part.forEach(into);
    else if (typeof part === 'object' && part !== null && 'op' in part && 'range' in part)
      walkCel(part as ASTNode, visit);
  };
  into(node.args);
}

export interface Swap {
  readonly start: number;
  readonly end: number;
  readonly name: string;
}

/** A text with parts of it replaced by names. */
export function swapped(text: string, swaps: readonly Swap[]): string {
  let result = text;
  for (const { start, end, name } of [...swaps].sort((a, b) => b.start - a.start))
    result = result.slice(0, start) + name + result.slice(end);
  return result;
}

/** Turns the first line of a parser error into a sentence. */
function sentenceOf(error: unknown): string {
  const [line = ''] = (error instanceof Error ? error.message : '').split('\n');
  if (/EOF/.test(line)) return 'The expression is not finished.';
  const overload = /no such overload: (.+)/.exec(line)?.[1];
  if (overload) return `These types cannot be combined: ${overload.replaceAll(/dyn<(\w+)>/g, '$1')}.`;
  return line === '' ? 'The expression cannot be read.' : `${line.replace(/\.$/, '')}.`;
}
