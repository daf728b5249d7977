import type { Problem, Result } from '../result';
import { fail, ok } from '../result';
import { fromEscaped, fromHex, isCut, makeExchange, toEscaped, toHex, type Answer } from '../wire';
import { compileParsed, type CompiledDriver } from './compile';
import { decodeSaid } from './decode';
import { encodeCommand } from './encode';
import { arrivedIn, viscaReplyIn } from './frame';
import type { DriverSample } from './schema-samples';
import type { DriverDocument } from './schema';

type Heard = Extract<DriverSample, { heard: unknown }>;
type Sent = Extract<DriverSample, { command: unknown }>;

/** Runs the samples of a document. Returns what differs from them, with the path of each. */
export function sampleProblems(whole: DriverDocument): Problem[] {
  const drivers = new Map<string, CompiledDriver | undefined>();
  return whole.samples.flatMap((sample, n) => {
    const key = JSON.stringify(sample.options ?? {});
    if (!drivers.has(key)) {
      const compiled = compileParsed(whole, { options: sample.options ?? {} });
      drivers.set(key, compiled.ok ? compiled.value : undefined);
    }
    const driver = drivers.get(key);
    const at = `samples.${n}`;
    if (!driver) return [{ path: `${at}.options`, message: 'The document has mistakes with these options.' }];
    return 'heard' in sample ? heardProblems(driver, sample, at) : sentProblems(driver, sample, at);
  });
}

/** What a frame says, all parts of it together. */
interface Read {
  readonly readings: ReadonlyMap<string, unknown>;
  readonly is: 'accepted' | 'refused' | 'nothing';
  readonly code: string | undefined;
  readonly faults: readonly string[];
}

function readSample(driver: CompiledDriver, bytes: Uint8Array, to: string | undefined, member?: string): Read {
  const arrived = arrivedIn(driver.document, bytes);
  const replies = arrived.flatMap(({ says }) => says.flatMap((said) => decodeSaid(driver, said, to, member) ?? []));
  const answer = arrived.find((each) => each.answer)?.answer ?? viscaAnswer(driver.document, bytes);
  const refusal = replies.find(({ refuses }) => refuses)?.refuses;
  const isRefused = refusal !== undefined || answer?.how === 'refused';
  const isAccepted = answer !== undefined || replies.some(({ accepts }) => accepts);
  return {
    readings: new Map(replies.flatMap(({ readings }) => readings.map(({ key, value }) => [key, value] as const))),
    is: isRefused ? 'refused' : isAccepted ? 'accepted' : 'nothing',
    code: refusal?.code ?? answer?.code,
    faults: [...arrived.flatMap(({ fault }) => fault ?? []), ...replies.flatMap(({ faults }) => faults)],
  };
}

function viscaAnswer(document: DriverDocument, bytes: Uint8Array): Pick<Answer, 'how' | 'code'> | undefined {
  const reply = viscaReplyIn(document, bytes);
  if (reply?.kind === 'ack' || reply?.kind === 'completion') return { how: 'accepted' };
  return reply?.kind === 'error' ? { how: 'refused', code: reply.code } : undefined;
}

function heardProblems(driver: CompiledDriver, sample: Heard, at: string): Problem[] {
  const bytes = bytesOf(sample.heard);
  if (!bytes.ok) return [{ path: `${at}.heard`, message: bytes.error }];
  const read = readSample(driver, bytes.value, sample.to, sample.member);
  const problems = Object.entries(sample.gives).flatMap(([key, wanted]): Problem[] => {
    const is = read.readings.get(key);
    if (is === wanted) return [];
    const others = [...read.readings].map(([other, value]) => `${other} ${String(value)}`).join(', ');
    const instead = is === undefined ? (others === '' ? 'nothing' : others) : String(is);
    return [{ path: `${at}.gives.${key}`, message: `The document reads ${instead} here, not ${String(wanted)}.` }];
  });
  if (sample.is !== undefined && sample.is !== read.is)
    problems.push({ path: `${at}.is`, message: `The document reads this as ${read.is}, not as ${sample.is}.` });
  if (sample.code !== undefined && sample.code !== read.code) {
    const code = read.code === undefined ? 'no code' : `the code ${read.code}`;
    problems.push({ path: `${at}.code`, message: `The document reads ${code} here, not ${sample.code}.` });
  }
  if (problems.length > 0 || sample.is === 'nothing') return problems;
  if (sample.is === undefined && Object.keys(sample.gives).length === 0)
    return [{ path: at, message: 'Say what it means: which readings it gives, or whether it is accepted or refused.' }];
  return read.faults.map((fault) => ({ path: `${at}.heard`, message: fault }));
}

function sentProblems(driver: CompiledDriver, sample: Sent, at: string): Problem[] {
  const { command, params, readings } = sample;
  const bytes = bytesOf(sample.sends);
  if (!bytes.ok) return [{ path: `${at}.sends`, message: bytes.error }];
  const encoded = encodeCommand(driver, command, params, { ref: 1, readingNow: (key) => readings[key] });
  if (!encoded.ok) return [{ path: `${at}.${encoded.error.path}`, message: encoded.error.message }];
  const { framing, link } = driver.document;
  const { text, out } = encoded.value;
  const written = isCut(framing) ? makeExchange(framing, link.kind !== 'udp').write(out, 1) : undefined;
  if (written && !written.ok) return [{ path: `${at}.sends`, message: written.error }];
  // What a library writes by itself is compared as the line that people read.
  const is = written ? written.value : new TextEncoder().encode(text);
  if (toHex(is) === toHex(bytes.value)) return [];
  const shown = typeof sample.sends === 'string' ? toEscaped(is) : toHex(is).replace(/..(?=.)/g, '$& ');
  return [{ path: `${at}.sends`, message: `The document sends ${shown} here.` }];
}

function bytesOf(written: string | { readonly hex: string }): Result<Uint8Array, string> {
  const read = typeof written === 'string' ? fromEscaped(written) : fromHex(written.hex);
  return read.ok ? ok(read.value) : fail(`Character ${read.error.offset + 1}: ${read.error.message}`);
}

/**
 * A sample made from a frame that came in, with what the driver reads in it now: for a document’s `samples`, once a person has seen that it is right.
 *
 * @param hex two digits each, secrets masked
 * @param to the command or question that it answers, where that is known
 */
export function sampleFrom(driver: CompiledDriver, hex: string, to: string | undefined): DriverSample | undefined {
  const bytes = fromHex(hex);
  if (!bytes.ok || bytes.value.length === 0) return undefined;
  const read = readSample(driver, bytes.value, to);
  const isText = bytes.value.every((byte) => byte === 10 || byte === 13 || (byte >= 32 && byte < 127));
  const needsTo = to !== undefined && (to in driver.document.questions || to in driver.document.commands);
  return {
    heard: isText ? toEscaped(bytes.value) : { hex: toHex(bytes.value).replace(/..(?=.)/g, '$& ') },
    ...(needsTo ? { to } : {}),
    gives: Object.fromEntries(read.readings) as Record<string, string | number | boolean>,
    ...(read.readings.size === 0 || read.is === 'refused' ? { is: read.is } : {}),
    ...(read.code === undefined ? {} : { code: read.code }),
  };
}
