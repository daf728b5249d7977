import { fail, ok, type Problem, type Result, type Scalar } from '../result';
import type { Json, Outgoing } from '../wire';
import type { CompiledCommand, CompiledDriver } from './compile';
import type { OwnMessage } from './compile-own';
import { fillMessage, type CompiledMessage, type FilledMessage } from './message';
import type { DriverParameter } from './schema';
import { stepValue, takesReading } from './step';
import { checkValue, toWire } from './values';

export interface EncodedCommand {
  /** The message as a line for people. */
  readonly text: string;
  readonly out: Outgoing;
  /** The parameters after checking, with defaults filled in; one that was left out is missing. */
  readonly params: Readonly<Record<string, Scalar>>;
}

interface EncodeContext {
  /** The number of the request, for messages that carry one. */
  readonly ref?: number;
  /** Fresh readings of the device, for parameters that take theirs from one. */
  readonly readingNow?: (key: string) => Scalar | undefined;
}

/** True when a command's bytes are the same each time it is sent with the same parameters. */
export function isFixed(entry: CompiledCommand): boolean {
  return !entry.usesRef && entry.send.reads.length === 0 && !Object.values(entry.command.params).some(takesReading);
}

/**
 * The message that sends a command. Fails with the parameter named when one is missing, unknown, of the wrong type or out
 * of range, or when the finished message could not be sent over the device's framing.
 */
export function encodeCommand(
  driver: CompiledDriver,
  commandId: string,
  given: Readonly<Record<string, Scalar>>,
  context: EncodeContext = {},
): Result<EncodedCommand, Problem> {
  const entry = driver.commands.get(commandId);
  if (!entry)
    return fail({ path: 'command', message: `The driver “${driver.document.title}” has no command “${commandId}”.` });
  const params: Record<string, Scalar> = {};
  const text: Record<string, string | Uint8Array> = { ...driver.optionTexts };
  const json: Record<string, Json> = {};
  for (const [name, param] of Object.entries(entry.command.params)) {
    const found = given[name] === undefined ? live(entry, name, params, context) : ok(given[name]);
    if (!found.ok) return fail({ path: `params.${name}`, message: found.error });
    const value = found.value ?? param.default;
    if (value === undefined && param.optional) continue;
    const checked = checkValue(param.value, value);
    if (!checked.ok) return fail({ path: `params.${name}`, message: `${param.title} ${checked.error}.` });
    params[name] = checked.value;
    const wire = toWire(param.value, checked.value);
    text[name] = wire;
    json[name] = jsonOf(param, wire);
  }
  for (const name of Object.keys(given)) {
    if (!(name in entry.command.params)) {
      return fail({ path: `params.${name}`, message: `“${entry.command.title}” has no parameter “${name}”.` });
    }
  }
  if (context.ref !== undefined) {
    text.ref = String(context.ref);
    json.ref = context.ref;
  }
  const unknown = putReadings(driver, entry.send, { text, json }, context.readingNow);
  if (unknown) return fail(unknown);
  const filled = fillMessage(entry.send, driver.document.framing, { text, json });
  return filled.ok ? ok({ ...filled.value, params }) : filled;
}

function live(
  { command, computed }: CompiledCommand,
  name: string,
  params: Readonly<Record<string, Scalar>>,
  { readingNow = () => undefined }: EncodeContext,
): Result<Scalar | undefined, string> {
  const param = command.params[name];
  if (!param) return ok(undefined);
  if (param.step) return stepValue(param, param.step, params, readingNow);
  const expression = computed.get(name);
  if (expression) {
    const found = expression.value(params, readingNow);
    if (!found.ok) return fail(`${param.title}: the computed value ${found.error}.`);
    if (found.value !== undefined || param.default !== undefined || param.optional) return found;
    return fail(`${param.title} cannot be computed: a reading that it rests on is not known.`);
  }
  return ok(param.fromReading === undefined ? undefined : readingNow(param.fromReading));
}

/** A value with the type that it has in JSON: numbers as numbers, on and off as true and false where the driver says so. */
function jsonOf(param: Pick<DriverParameter, 'value'>, wire: string | Uint8Array): Json {
  if (wire instanceof Uint8Array) return Array.from(wire);
  const { type } = param.value;
  if (type === 'whole' || type === 'decimal') return Number(wire);
  if (type === 'time') return /^-?\d+(\.\d+)?$/.test(wire) ? Number(wire) : wire;
  if (type === 'onOff' && (wire === 'true' || wire === 'false')) return wire === 'true';
  return wire;
}

/** Adds the readings that a message contains to its fill values. Returns a problem if one is unknown. */
function putReadings(
  { document }: CompiledDriver,
  { reads }: CompiledMessage,
  { text, json }: { text: Record<string, string | Uint8Array>; json: Record<string, Json> },
  readingNow: (key: string) => Scalar | undefined = () => undefined,
): Problem | undefined {
  for (const key of reads) {
    const definition = document.readings[key];
    const value = readingNow(key);
    if (!definition || value === undefined) {
      return { path: 'send', message: `It contains “${definition?.title ?? key}”, which is not known.` };
    }
    const wire = toWire(definition.value, value);
    text[`reading.${key}`] = wire;
    json[`reading.${key}`] = jsonOf(definition, wire);
  }
  return undefined;
}

/** A message of the document itself: a greeting, a question, a keep-alive. Fails where it carries a reading that is not known. */
export function encodeOwn(
  driver: CompiledDriver,
  { message, member }: OwnMessage,
  texts: Readonly<Record<string, string>>,
  ref: number,
  readingNow?: (key: string) => Scalar | undefined,
): Result<FilledMessage, Problem> {
  const known = member ? { ...texts, member: member.text } : texts;
  const values = {
    text: { ...driver.optionTexts, ...known, ref: String(ref) },
    json: { ...known, ref },
  };
  const unknown = putReadings(driver, message, values, readingNow);
  if (unknown) return fail(unknown);
  return fillMessage(message, driver.document.framing, values);
}
