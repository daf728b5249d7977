import { compileDriver, signInOf, type CompiledDriver, type DriverCommand } from '../../core/driver';
import type { DriverTrialLine, driverTrialSchema } from '../../core/live';
import { isWell } from '../../core/session';
import { fromHex, toHex } from '../../core/wire';
import type { z } from 'zod';
import { prepare, stopParams } from '../devices/prepare';
import type { PreparedSend } from '../devices/session-types';
import { longestTryMs, TestSession } from './test-session';

type Request = z.output<typeof driverTrialSchema>;
type Tell = (line: DriverTrialLine) => void;

/** Where a document is tried. */
interface TrialPlace {
  readonly host: string;
  readonly port: number;
  readonly user: string;
  readonly password: string;
  readonly options: Readonly<Record<string, string | number | boolean>>;
  readonly through?: string;
  /** The rig’s own connection is up there; its tag. */
  readonly heldBy?: string;
  readonly suspend: () => () => void;
}

/** After a stop its bytes still have to leave. */
const stopMs = 300;

/**
 * Tries a document that is not installed: calls the device, sends what was asked for, listens, and hangs up. Whatever a command began is stopped
 * before that. It touches nothing of the rig unless it is told to interrupt.
 */
export async function tryDocument(request: Request, place: TrialPlace, tell: Tell, signal: AbortSignal): Promise<void> {
  const refuse = (code: Extract<DriverTrialLine, { t: 'refused' }>['code'], message: string) =>
    tell({ t: 'refused', code, message });
  const driver = documentOf(request.document, place);
  if (typeof driver === 'string') return refuse('bad-document', driver);
  const send = request.bytes === undefined ? commandOf(driver, request) : bytesOf(driver, request.bytes);
  if (typeof send === 'string') return refuse('bad-command', send);
  const takesOne = driver.document.link.controllers === 'one' || ['serial', 'midi'].includes(driver.document.link.kind);
  if (place.heldBy !== undefined && takesOne && !request.interrupt)
    return refuse('held', `${place.heldBy} is connected there, and the device accepts only one connection.`);
  const resume = place.heldBy !== undefined && request.interrupt ? place.suspend() : undefined;
  const { host, port, through } = place;
  const { user, password } = signInOf(driver.document, place);
  const session = new TestSession(
    { driver, host, port, user, password, ...(through === undefined ? {} : { through }) },
    (dir, bytes, note) =>
      tell({ t: 'wire', dir, hex: toHex(bytes), at: Date.now(), ...(note === undefined ? {} : { note }) }),
  );
  try {
    const link = await session.call(longestTryMs(driver), signal);
    tell({ t: 'link', link });
    if (!isWell(link.word) && link.word !== 'silent') return;
    if (send) await sendNow(session, driver, send, tell, signal, request.listenMs);
    else await pause(request.listenMs, signal);
    const readings = session.reported;
    if (readings.length > 0) tell({ t: 'readings', readings });
  } finally {
    session.end();
    resume?.();
  }
}

function documentOf(text: string, { options }: TrialPlace): CompiledDriver | string {
  let parsed: unknown;
  try {
    parsed = JSON.parse(text);
  } catch (error) {
    return `The document is not JSON: ${(error as Error).message}`;
  }
  const compiled = compileDriver(parsed, { options });
  if (compiled.ok) return compiled.value;
  const [first] = compiled.error;
  return `The document has a mistake${first?.path ? ` at ${first.path}` : ''}: ${first?.message ?? ''}`;
}

function commandOf(driver: CompiledDriver, { command }: Request): PreparedSend | string | undefined {
  if (!command) return undefined;
  const prepared = prepare(driver, command.id, command.params);
  return prepared.ok ? prepared.value : prepared.error.message;
}

/** Bytes as they are, whatever the document has as commands. */
function bytesOf({ document }: CompiledDriver, hex: string): PreparedSend | string {
  const { kind } = document.framing;
  if (kind === 'http' || kind === 'mqtt' || kind === 'modbus' || kind === 'umd' || kind === 'sacn')
    return `Raw bytes cannot be sent over the framing “${kind}”.`;
  const bytes = fromHex(hex);
  if (!bytes.ok) return `Character ${bytes.error.offset + 1}: ${bytes.error.message}`;
  if (bytes.value.length === 0) return 'There is nothing to send.';
  const out =
    kind === 'visca' ? ({ kind, payload: bytes.value } as const) : ({ kind: 'bytes', bytes: bytes.value } as const);
  return { id: 'bytes', command: plain, given: {}, encoded: { text: hex, out, params: {} } };
}

const plain: DriverCommand = {
  title: 'Bytes',
  params: {},
  send: { hex: '00' },
  risky: false,
  harmless: false,
  class: 'ordinary',
};

async function sendNow(
  { session }: TestSession,
  driver: CompiledDriver,
  send: PreparedSend,
  tell: Tell,
  signal: AbortSignal,
  listenMs: number,
): Promise<void> {
  const ended = new Promise<void>((resolve) => {
    session.send(send, ({ outcome, why, ms, reason }) => {
      tell({ t: 'ended', outcome, why, ms, ...(reason === undefined ? {} : { reason }) });
      resolve();
    });
  });
  await Promise.race([ended, pause(longestTryMs(driver), signal)]);
  await pause(listenMs, signal);
  const { stop } = send.command;
  const stopping = stop && prepare(driver, stop.command, stopParams(driver, stop, send.given));
  if (!stopping?.ok) return;
  session.send(stopping.value, () => undefined, 'stop');
  await pause(stopMs, undefined);
}

/** Waits, or until the signal. */
const pause = (ms: number, signal: AbortSignal | undefined): Promise<void> =>
  new Promise((resolve) => {
    const timer = setTimeout(resolve, ms);
    signal?.addEventListener('abort', () => (clearTimeout(timer), resolve()), { once: true });
  });
