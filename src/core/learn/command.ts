import type { DriverCommand, DriverDocument, DriverParameter, DriverSample } from '../driver';
import { fail, ok, type Result, type Scalar } from '../result';
import { checkWidth, checksums, toEscaped, toHex, type Framing } from '../wire';
import { fixedBytes, frameTextOf } from './frame-text';
import { byteSpans, lineSpans, type Span } from './spans';
import { mostSamples } from './samples';
import { freeName, nameFrom, partsOf, shapeOf, type FrameText, type Hole, type Part } from './values';

/** A command that was worked out from bytes that were typed, or sent by another program. */
export interface CommandProposal {
  readonly title: string;
  readonly id: string;
  readonly command: Pick<DriverCommand, 'title' | 'says' | 'send'> & { readonly params: DriverCommand['params'] };
  /** Each frame as a sample: with these parameters it has to be sent. */
  readonly samples: readonly DriverSample[];
}

/**
 * Proposes a command from frames that do the same with other values: what differs becomes its parameters. A single frame is a command without any.
 * A checksum and a length are computed where the framing has them.
 *
 * @param frames as they go out, with their ends
 */
export function learnCommand(
  document: DriverDocument,
  title: string,
  frames: readonly Uint8Array[],
): Result<CommandProposal, string> {
  const { framing } = document;
  const as = frameTextOf(framing);
  const unlike = [...new Map(frames.map((frame) => [toHex(frame), frame])).values()];
  if (as === undefined) return fail('The bench learns commands from text and bytes only.');
  if (unlike.length === 0) return fail('Type or mark what is sent.');
  const texts = unlike.map((frame) => (as === 'text' ? lineOf(frame) : toHex(frame)));
  const fixed = fixedBytes(framing);
  const isShort = as === 'bytes' && texts.some((text) => text.length / 2 < fixed.before + fixed.behind);
  if (isShort) return fail('One of these frames is too short for the document’s framing.');
  const bodies =
    as === 'text' ? texts : texts.map((text) => text.slice(fixed.before * 2, text.length - fixed.behind * 2));
  const spans = unlike.length === 1 ? wholly(bodies[0] ?? '') : as === 'text' ? lineSpans(bodies) : byteSpans(bodies);
  if (!spans) return fail('These frames are built differently. Mark frames that differ only in their values.');
  const parts = partsOf(spans, as, false, new Set());
  const holes = parts.flatMap((part) => (part.is === 'hole' ? [part.hole] : []));
  const params = Object.fromEntries(holes.map((hole) => [hole.name, parameterOf(hole, as)]));
  const id = freeName(nameFrom(title), new Set(Object.keys(document.commands)));
  const body = parts.map((part) => templateOf(part, as)).join(as === 'text' ? '' : ' ');
  const send =
    as === 'text'
      ? textMessage(framing, body, unlike[0] ?? new Uint8Array())
      : { hex: framed(framing, body, texts[0] ?? '', bodies) };
  const says = [title, ...holes.map(({ name }) => `{${name}}`)].join(' ');
  return ok({
    title,
    id,
    command: { title, says, params, send },
    samples: unlike.slice(0, mostSamples).map((frame, n) => ({
      command: id,
      params: Object.fromEntries(holes.map((hole) => [hole.name, valueOf(hole.texts[n] ?? '', hole, as)])),
      readings: {},
      sends: as === 'text' ? toEscaped(frame) : { hex: toHex(frame).replace(/..(?=.)/g, '$& ') },
    })),
  });
}

const wholly = (text: string): Span[] => (text === '' ? [] : [{ is: 'same', text }]);

const decoder = new TextDecoder();
const lineOf = (frame: Uint8Array): string => decoder.decode(frame).replace(/[\r\n\0]+$/, '');
const endOf = (frame: Uint8Array): string => /[\r\n\0]+$/.exec(decoder.decode(frame))?.[0] ?? '';

/** A line without its ending where the framing adds it, else with it. */
function textMessage(framing: Framing, body: string, frame: Uint8Array): DriverCommand['send'] {
  if (framing.kind === 'lines') return body;
  return { bytes: body + toEscaped(new TextEncoder().encode(endOf(frame))) };
}

/** The frame around its content: what comes before the length, the length itself, the checksum, the end. */
function framed(framing: Framing, body: string, hex: string, bodies: readonly string[]): string {
  const check = checkOf(framing);
  const { behind } = fixedBytes(framing);
  const width = 'check' in framing && framing.check ? checkWidth(framing.check) : 0;
  const end = pairs(hex.slice(hex.length - (behind - width) * 2));
  if (framing.kind !== 'prefixed') return joined([body, check, end]);
  const { header, width: size, endian, counts, uncounted = 0 } = framing;
  const head = pairs(hex.slice(0, header * 2));
  const isOfOneLength = new Set(bodies.map(({ length }) => length)).size === 1;
  if (isOfOneLength) return joined([head, pairs(hex.slice(header * 2, (header + size) * 2)), body, check, end]);
  const plus = (counts === 'all' ? header + size : 0) + behind - uncounted;
  const format =
    size === 1 ? 'u8' : size === 2 ? `u16${endian === 'big' ? 'be' : 'le'}` : `u32${endian === 'big' ? 'be' : 'le'}`;
  const sign = plus === 0 ? '' : plus > 0 ? `+${plus}` : String(plus);
  return joined([head, `{length ${format}${sign}|${body}}`, check, end]);
}

function checkOf(framing: Framing): string {
  const check = 'check' in framing ? framing.check : undefined;
  if (!check || check.algorithm === 'none') return '';
  const { width } = checksums[check.algorithm];
  const endian = check.endian === 'little' ? 'le' : 'be';
  const format = check.as === 'hex' ? ' as hex' : width === 1 ? '' : ` as u${width * 8}${endian}`;
  return `{check ${check.algorithm}${check.from > 0 ? ` from ${check.from}` : ''}${format}}`;
}

const pairs = (hex: string): string => hex.replace(/..(?=.)/g, '$& ');
const joined = (pieces: readonly string[]): string => pieces.filter((piece) => piece !== '').join(' ');

function templateOf(part: Part, as: FrameText): string {
  if (part.is === 'same') return as === 'text' ? part.text.replace(/[\\{}]/g, '\\$&') : pairs(part.text);
  const { name, texts } = part.hole;
  return as === 'bytes' && texts.every((text) => text.length === 2) ? `{${name}:u8}` : `{${name}}`;
}

function parameterOf(hole: Hole, as: FrameText): DriverParameter {
  const base = { title: hole.title, sends: 'index', optional: false } as const;
  if (as === 'text') return { ...base, value: shapeOf(hole, as) };
  const isByte = hole.texts.every((text) => text.length === 2);
  return { ...base, value: isByte ? { type: 'whole', min: 0, max: 255 } : { type: 'payload', as: 'hex' } };
}

function valueOf(text: string, hole: Hole, as: FrameText): Scalar {
  const { value } = parameterOf(hole, as);
  if (value.type === 'whole') return as === 'bytes' ? parseInt(text, 16) : Number(text);
  if (value.type === 'decimal') return Number(text);
  return value.type === 'onOff' ? text === value.on : text;
}
