import { fail, ok, type Problem, type Result, type Scalar } from '../result';
import { encodeLine } from '../wire';
import type { CompiledDriver } from './compile';
import { fillTemplate } from './template';
import { checkValue, toWire } from './values';

export interface EncodedCommand {
  /** The line as text, without its ending. */
  readonly text: string;
  readonly bytes: Uint8Array;
  /** The parameters after checking, with defaults filled in. */
  readonly params: Readonly<Record<string, Scalar>>;
}

/**
 * The bytes that send a command. Fails with the parameter named when one is missing, unknown, of the wrong type or out
 * of range, or when the finished line could not be sent as one line.
 */
export function encodeCommand(
  driver: CompiledDriver,
  commandId: string,
  given: Readonly<Record<string, Scalar>>,
): Result<EncodedCommand, Problem> {
  const entry = driver.commands.get(commandId);
  if (!entry)
    return fail({ path: 'command', message: `The driver “${driver.document.title}” has no command “${commandId}”.` });
  const params: Record<string, Scalar> = {};
  const wire: Record<string, string> = {};
  for (const [name, param] of Object.entries(entry.command.params)) {
    const value = given[name] ?? param.default;
    const checked = checkValue(param.value, value);
    if (!checked.ok) return fail({ path: `params.${name}`, message: `${param.title} ${checked.error}.` });
    params[name] = checked.value;
    wire[name] = toWire(param.value, checked.value);
  }
  for (const name of Object.keys(given)) {
    if (!(name in entry.command.params)) {
      return fail({ path: `params.${name}`, message: `“${entry.command.title}” has no parameter “${name}”.` });
    }
  }
  const text = fillTemplate(entry.send, wire);
  const line = encodeDriverLine(driver, text);
  return line.ok ? ok({ text, bytes: line.value, params }) : line;
}

/** The bytes of a line of the document itself: a greeting, a question after connecting, a keep-alive. */
export function encodeDriverLine(driver: CompiledDriver, text: string): Result<Uint8Array, Problem> {
  const line = encodeLine(text, driver.document.framing);
  return line.ok ? line : fail({ path: 'send', message: line.error.message });
}
