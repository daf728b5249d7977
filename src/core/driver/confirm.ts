import type { Scalar } from '../result';
import { memberKey } from './reading-key';
import type { DriverCommand, Operand } from './schema';

/** What a device must report for a command to count as confirmed, with nothing left to look up. */
export interface Expectation {
  readonly key: string;
  readonly equals: Scalar;
}

/**
 * Resolves a command's confirmation against its parameters and the readings as they are before it is sent.
 *
 * Returns `undefined` where the command names none, or where a reading it compares with is not known: then nothing can
 * confirm it and it ends as `sent`.
 */
export function expectationsOf(
  command: DriverCommand,
  params: Readonly<Record<string, Scalar>>,
  readingNow: (key: string) => Scalar | undefined,
): readonly Expectation[] | undefined {
  if (command.confirm?.by !== 'readings') return undefined;
  const expectations: Expectation[] = [];
  for (const { reading, index, equals } of command.confirm.all) {
    const key = index ? memberKey(reading, String(params[index])) : reading;
    const value = resolve(equals, params, readingNow);
    if (value === undefined) return undefined;
    expectations.push({ key, equals: value });
  }
  return expectations;
}

function resolve(
  operand: Operand,
  params: Readonly<Record<string, Scalar>>,
  readingNow: (key: string) => Scalar | undefined,
): Scalar | undefined {
  if (typeof operand !== 'object') return operand;
  return 'param' in operand ? params[operand.param] : readingNow(operand.before);
}
