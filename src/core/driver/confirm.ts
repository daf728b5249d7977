import type { Scalar } from '../result';
import type { CompiledDriver } from './compile';
import type { OwnMessage } from './compile-own';
import { memberKey } from './reading-key';
import type { DriverCommand, Operand } from './schema';

/** What a device must report for a command to count as confirmed, with nothing left to look up. */
export interface Expectation {
  readonly key: string;
  readonly equals?: Scalar;
  /** Instead of a value: any of these. */
  readonly oneOf?: readonly Scalar[];
  /** For numbers: how far off is still equal. */
  readonly within?: number;
  /** Instead of a value: anything but this. */
  readonly not?: Scalar;
}

/** True when a reading's value is what is expected. */
export function meets({ equals, oneOf, within, not }: Expectation, value: Scalar | undefined): boolean {
  if (value === undefined) return false;
  if (not !== undefined) return value !== not;
  if (oneOf) return oneOf.includes(value);
  if (within !== undefined && typeof value === 'number' && typeof equals === 'number') {
    return Math.abs(value - equals) <= within;
  }
  return value === equals;
}

/**
 * Resolves a command's confirmation against its parameters and the readings as they are before it is sent. A condition on
 * a parameter that was left out is left out.
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
  for (const { reading, index, equals, oneOf, within, changes } of command.confirm.all) {
    const key = index ? memberKey(reading, String(params[index])) : reading;
    if (changes) {
      const before = readingNow(key);
      if (before === undefined) return undefined;
      expectations.push({ key, not: before });
      continue;
    }
    if (oneOf) {
      expectations.push({ key, oneOf });
      continue;
    }
    if (typeof equals === 'object' && 'param' in equals && params[equals.param] === undefined) continue;
    const value = equals === undefined ? undefined : resolve(equals, params, readingNow);
    if (value === undefined) return undefined;
    expectations.push(within === undefined ? { key, equals: value } : { key, equals: value, within });
  }
  return expectations.length > 0 ? expectations : undefined;
}

/**
 * True when sending the command twice does what sending it once does. A command whose effect is told by comparison with what was before (a cut
 * that swaps two busses, a step to the next item) does something else each time.
 */
export function isRepeatable({ confirm }: DriverCommand): boolean {
  if (confirm?.by !== 'readings') return true;
  return confirm.all.every(({ equals, changes }) => !changes && !(typeof equals === 'object' && 'before' in equals));
}

function resolve(
  operand: Operand,
  params: Readonly<Record<string, Scalar>>,
  readingNow: (key: string) => Scalar | undefined,
): Scalar | undefined {
  if (typeof operand !== 'object') return operand;
  return 'param' in operand ? params[operand.param] : readingNow(operand.before);
}

/** The questions that confirm a command on a device that does not report changes; for a family, only the command's own member. */
export function confirmQuestions(
  { asked }: CompiledDriver,
  { confirm }: DriverCommand,
  params: Readonly<Record<string, Scalar>>,
): readonly OwnMessage[] {
  if (confirm?.by !== 'readings' || confirm.ask.length === 0) return [];
  const indexes = confirm.all.flatMap(({ index }) => (index === undefined ? [] : [Number(params[index])]));
  return confirm.ask.flatMap((name) =>
    (asked.get(name) ?? []).filter(({ member }) => !member || indexes.length === 0 || indexes.includes(member.index)),
  );
}
