import { checkValue, expectationsOf, splitKey, type DriverDocument, type ValueShape } from '../driver';
import { commandBehind } from '../macro';
import { fail, ok, type Result, type Scalar } from '../result';
import type { CheckSend } from './item';

type ReadingNow = (key: string) => Scalar | undefined;

/** What restores a state, and the readings that tell whether it is restored. */
interface PutBack {
  readonly sends: readonly CheckSend[];
  readonly before: ReadonlyMap<string, Scalar>;
}

/** The readings that confirm a command, or why nothing does. */
export function keysOfCommand(
  document: DriverDocument,
  { command: id, params }: CheckSend,
  readingNow: ReadingNow,
): Result<readonly string[], string> {
  const command = document.commands[id];
  if (!command) return fail('The command no longer exists.');
  const expectations = expectationsOf(command, params, readingNow);
  if (!expectations) return fail('The device does not report what this command changes.');
  return ok(expectations.map(({ key }) => key));
}

/**
 * Works out which commands restore readings to what they are now. Fails with the reason where a reading is unknown, or where no command
 * sets it, or only a risky one.
 */
export function putBackOf(
  document: DriverDocument,
  device: string,
  keys: readonly string[],
  readingNow: ReadingNow,
): Result<PutBack, string> {
  const before = new Map<string, Scalar>();
  const sends = new Map<string, CheckSend>();
  for (const key of keys) {
    const value = readingNow(key);
    const definition = document.readings[splitKey(key).family];
    const title = definition?.title ?? key;
    if (definition?.runs) return fail(`“${title}” runs on by itself, so it could not be put back.`);
    if (value === undefined) return fail(`“${title}” is not known, so it could not be put back.`);
    const found = commandBehind(document, key, value, readingNow);
    if (!found) return fail(`No command sets “${title}” to what it is now, so it could not be put back.`);
    if (found.command.risky) return fail(`Only a risky command would put “${title}” back.`);
    if (found.command.stop) return fail(`What would put “${title}” back goes on until it is stopped.`);
    before.set(key, value);
    const send = { device, command: found.id, params: { ...found.params } };
    sends.set(JSON.stringify(send), send);
  }
  const ordered = inOrder(document, [...sends.values()], before, readingNow);
  return ordered ? ok({ sends: ordered, before }) : fail('What would put one thing back would change another.');
}

/** More commands than this are not needed for any command that ships; every order of them is tried. */
const mostSends = 4;

/** The commands in an order in which each leaves what has been put back already as it is; `undefined` where there is none. */
function inOrder(
  document: DriverDocument,
  sends: readonly CheckSend[],
  before: ReadonlyMap<string, Scalar>,
  readingNow: ReadingNow,
): readonly CheckSend[] | undefined {
  if (sends.length > mostSends) return undefined;
  return permutations(sends).find((order) => {
    const last = new Map<string, Scalar | undefined>();
    for (const { command: id, params } of order) {
      const command = document.commands[id];
      for (const { key, equals } of (command && expectationsOf(command, params, readingNow)) ?? [])
        last.set(key, equals);
    }
    return [...before].every(([key, value]) => last.get(key) === value);
  });
}

function permutations<T>(of: readonly T[]): (readonly T[])[] {
  if (of.length < 2) return [of];
  return of.flatMap((first, n) => permutations(of.toSpliced(n, 1)).map((rest) => [first, ...rest]));
}

/** Other values of the same kind, to change a reading away from one that is wanted; the nearest first. */
export function otherValues(shape: ValueShape | undefined, value: Scalar): readonly Scalar[] {
  if (typeof value === 'boolean') return [!value];
  if (!shape) return [];
  if (shape.type === 'choice') return shape.choices.map((choice) => choice.value).filter((other) => other !== value);
  if (typeof value !== 'number') return [];
  return [value - 1, value + 1, value - 10, value + 10].filter((other) => checkValue(shape, other).ok);
}
