import { encodeCommand, isFixed, type CompiledDriver } from '../../core/driver';
import { fail, ok, type Problem, type Result, type Scalar } from '../../core/result';
import type { PreparedSend } from './session-types';

/** The most bytes of a send that are kept. */
const keptBytes = 256;
/** The bytes of a send as they are kept, two digits a byte. */
export const hexOf = (bytes: Uint8Array): string =>
  Buffer.from(bytes.buffer, bytes.byteOffset, Math.min(bytes.length, keptBytes)).toString('hex');

/** What stops a command takes of the parameters that it was started with. */
export function stopParams(
  driver: CompiledDriver | undefined,
  stop: NonNullable<PreparedSend['command']['stop']>,
  given: Readonly<Record<string, Scalar>>,
): Record<string, Scalar> {
  const params: Record<string, Scalar> = {};
  for (const name of Object.keys(driver?.commands.get(stop.command)?.command.params ?? {})) {
    const value = stop.params[name] ?? given[name];
    if (value !== undefined) params[name] = value;
  }
  return params;
}

/** A command with its bytes, or without where they are only known when it is sent. */
export function prepare(
  driver: CompiledDriver,
  id: string,
  given: Readonly<Record<string, Scalar>>,
): Result<PreparedSend, Problem> {
  const entry = driver.commands.get(id);
  if (!entry) return fail({ path: 'command', message: `“${driver.document.title}” has no command “${id}”.` });
  const { command } = entry;
  if (!isFixed(entry)) return ok({ id, command, given, encoded: undefined });
  const encoded = encodeCommand(driver, id, given);
  return encoded.ok ? ok({ id, command, given, encoded: encoded.value }) : encoded;
}
