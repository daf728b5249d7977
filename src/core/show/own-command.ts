import { compileDriver, type DriverAdditions, type DriverDocument } from '../driver';
import { fail, ok, type Problem, type Result } from '../result';
import { fromEscaped, fromHex } from '../wire';

/** A command that a show adds to a device: a payload as a person typed it. */
interface TypedCommand {
  readonly title: string;
  readonly as: 'text' | 'hex';
  readonly payload: string;
  /** Escapes that are added to a text: the line ending that was chosen from the list. Hex has none. */
  readonly ending: string;
}

const lineEndings = [
  { title: 'CR LF', escape: '\\r\\n' },
  { title: 'LF', escape: '\\n' },
  { title: 'CR', escape: '\\r' },
  { title: 'NUL', escape: '\\0' },
  { title: 'none', escape: '' },
] as const;

/** The endings to choose from for a text to this kind of device: as its options say, where it has such an option. */
export const endingsFor = ({
  options,
}: DriverDocument): readonly { readonly title: string; readonly escape: string }[] =>
  'ends' in options ? [{ title: 'as set for the device', escape: '{option.ends}' }, ...lineEndings] : lineEndings;

/** A reading that a show adds to a device: a pattern with the group `value`, or a JSON Pointer where the device says JSON. */
interface TypedReading {
  readonly title: string;
  readonly pattern: string;
}

/** True when what the device says is JSON, in which a reading is found by a pointer (RFC 6901). */
export const saysJson = ({ framing }: DriverDocument): boolean =>
  framing.kind === 'json-lines' ||
  (framing.kind === 'message' && framing.as === 'json') ||
  (framing.kind === 'http' && framing.body === 'json');

const none: DriverAdditions = { commands: {}, readings: {}, replies: [] };

/** True when single payloads can be sent over this driver's framing. */
export const takesPayloads = ({ framing }: DriverDocument): boolean =>
  ['lines', 'terminated', 'silence', 'fixed', 'prefixed', 'unframed', 'message', 'visca'].includes(framing.kind);

/**
 * The device's additions with one more command. Fails with the place when the payload has a mistake or the driver with
 * these additions would not work.
 */
export function addCommand(
  document: DriverDocument,
  additions: DriverAdditions = none,
  typed: TypedCommand,
): Result<DriverAdditions, readonly Problem[]> {
  const bytes = typed.as === 'hex' ? fromHex(typed.payload) : fromEscaped(typed.payload);
  if (!bytes.ok) {
    return fail([{ path: 'payload', message: `Character ${bytes.error.offset + 1}: ${bytes.error.message}` }]);
  }
  // Braces would begin a hole in a template; here they are themselves.
  const text = typed.payload.replace(/[{}]/g, '\\$&') + typed.ending;
  const send = typed.as === 'hex' ? { hex: typed.payload.replace(/[,:]/g, ' ') } : { bytes: text };
  const base = { title: typed.title, params: {}, risky: false, harmless: false, class: 'ordinary' as const };
  const id = freeName('own', { ...document.commands, ...additions.commands });
  return checked(document, { ...additions, commands: { ...additions.commands, [id]: { ...base, send } } });
}

/** The device's additions with one more reading, taken from what the device says by a pattern. */
export function addReading(
  document: DriverDocument,
  additions: DriverAdditions = none,
  { title, pattern }: TypedReading,
): Result<DriverAdditions, readonly Problem[]> {
  const key = freeName('own', { ...document.readings, ...additions.readings });
  return checked(document, {
    ...additions,
    readings: { ...additions.readings, [key]: { title, value: { type: 'text' } } },
    replies: [
      ...additions.replies,
      saysJson(document)
        ? { take: { value: pattern }, set: { [key]: '{value}' } }
        : { match: pattern, set: { [key]: '{value}' } },
    ],
  });
}

/** The additions without one of their commands or readings; `undefined` when nothing is left. */
export function withoutAddition(
  additions: DriverAdditions,
  kind: 'command' | 'reading',
  id: string,
): DriverAdditions | undefined {
  const { [id]: _gone, ...others } = kind === 'command' ? additions.commands : additions.readings;
  const left =
    kind === 'command'
      ? { ...additions, commands: others as DriverAdditions['commands'] }
      : {
          ...additions,
          readings: others as DriverAdditions['readings'],
          replies: additions.replies.filter((reply) => !(id in (reply.set ?? {}))),
        };
  return Object.keys(left.commands).length + Object.keys(left.readings).length === 0 ? undefined : left;
}

function checked(document: DriverDocument, additions: DriverAdditions): Result<DriverAdditions, readonly Problem[]> {
  const compiled = compileDriver(document, { additions });
  return compiled.ok ? ok(additions) : fail(compiled.error);
}

function freeName(base: string, taken: Readonly<Record<string, unknown>>): string {
  for (let n = 1; ; n += 1) if (!(`${base}${n}` in taken)) return `${base}${n}`;
}
