import { checksumNames, checksums, isCut, makeExchange, toHex, type CutFraming, type Framing } from '../wire';

/** A way to cut what a device says into frames, worked out from bytes that it said. */
export interface FramingGuess {
  readonly framing: Framing;
  /** How it cuts, in words. */
  readonly title: string;
  /** Frames that it finds in the bytes. */
  readonly frames: number;
}

type Bytes = Uint8Array;
type Check = {
  readonly algorithm: (typeof checksumNames)[number];
  readonly from: number;
  readonly endian: 'big' | 'little';
};

const maxHeader = 6;
/** Bytes of a frame that a length field usually leaves out or counts besides, at the most. */
const mostUncounted = 8;
const maxChecked = 4;
/** A checksum that fits so many different frames does not fit by chance. */
const fewestChecked = 3;

/**
 * Works out how frames are cut, from pieces that came: segments of a connection or datagrams of one direction. The best guess comes first; nothing
 * comes back where the pieces are too few or fit no framing.
 *
 * A piece may hold several frames, or half of one. What a guess says is checked by cutting the whole stream with it: no byte may be left over and no
 * frame may be cut across the end of most pieces.
 */
export function learnFraming(pieces: readonly Bytes[], isStream: boolean): FramingGuess[] {
  const heard = pieces.filter(({ length }) => length > 0);
  if (heard.length === 0) return [];
  const isText = heard.every(isPrintable);
  if (!isStream) return [datagrams(heard, isText)];
  const candidates = isText ? textCandidates(heard) : byteCandidates(heard);
  const guesses = candidates.flatMap(({ framing, title }) => {
    const frames = cutWith(framing, heard);
    return frames === undefined ? [] : [{ framing, title, frames }];
  });
  return guesses.filter(({ title }, n) => guesses.findIndex((other) => other.title === title) === n).slice(0, 5);
}

/** Tab, line ends, or printable in UTF-8. */
function isPrintable(bytes: Bytes): boolean {
  return bytes.every((byte) => byte === 9 || byte === 10 || byte === 13 || (byte >= 32 && byte !== 127));
}

function datagrams(heard: readonly Bytes[], isText: boolean): FramingGuess {
  const isJson = isText && heard.every((bytes) => /^\s*[[{]/.test(new TextDecoder().decode(bytes)));
  const as = isJson ? 'json' : isText ? 'text' : 'bytes';
  const check = isText ? undefined : checkOf(heard, 0);
  const framing = {
    kind: 'message',
    as,
    encoding: 'utf-8',
    maxFrameBytes: 65_536,
    ...(check ? { check } : {}),
  } as const;
  return { framing, title: `each datagram is a message${checkTitle(check)}`, frames: heard.length };
}

interface Candidate {
  readonly framing: CutFraming;
  readonly title: string;
}

function textCandidates(heard: readonly Bytes[]): Candidate[] {
  const text = heard.map((bytes) => new TextDecoder().decode(bytes)).join('');
  const lines = (ending: 'crlf' | 'cr' | 'lf', name: string): Candidate => ({
    framing: { kind: 'lines', ending, encoding: 'utf-8', maxFrameBytes: 4096 },
    title: `lines that end with ${name}`,
  });
  const isJson = /^\s*\{/.test(text) && text.split(/\r?\n/).filter(Boolean).every(isJsonObject);
  if (isJson && text.includes('\n'))
    return [{ framing: { kind: 'json-lines', maxFrameBytes: 65_536 }, title: 'one JSON object a line' }];
  const found: Candidate[] = [];
  if (/\r\n/.test(text) && !/(^|[^\r])\n|\r(?!\n)/.test(text)) found.push(lines('crlf', 'CR LF'));
  else if (text.includes('\n') && !text.includes('\r')) found.push(lines('lf', 'LF'));
  else if (text.includes('\r') && !text.includes('\n')) found.push(lines('cr', 'CR'));
  const last = commonEnd(heard, 1);
  if (found.length === 0 && last.length === 1) found.push(terminated(heard, last, 'text'));
  found.push({
    framing: { kind: 'silence', ms: 50, as: 'text', encoding: 'utf-8', maxFrameBytes: 65_536 },
    title: 'a pause ends each message',
  });
  return found;
}

function isJsonObject(line: string): boolean {
  try {
    return typeof JSON.parse(line) === 'object';
  } catch {
    return false;
  }
}

function byteCandidates(heard: readonly Bytes[]): Candidate[] {
  const start = commonStart(heard);
  return [...prefixed(heard, start), ...ended(heard, start), ...fixed(heard, start)];
}

/** Bytes that begin every piece, two at the most: more of them are what most frames have in common. */
function commonStart(heard: readonly Bytes[]): Bytes {
  const [first = new Uint8Array()] = heard;
  if (heard.length < 2) return new Uint8Array();
  let count = 0;
  while (count < 2 && count < first.length && heard.every((bytes) => bytes[count] === first[count])) count += 1;
  return first.slice(0, count);
}

function commonEnd(heard: readonly Bytes[], most: number): Bytes {
  const [first = new Uint8Array()] = heard;
  let count = 0;
  while (count < most && count < first.length && heard.every((bytes) => bytes.at(-1 - count) === first.at(-1 - count)))
    count += 1;
  return first.slice(first.length - count);
}

/** Frames with their length in front. There have to be two lengths, or a fixed length says as much. */
function prefixed(heard: readonly Bytes[], start: Bytes): Candidate[] {
  if (new Set(heard.map(({ length }) => length)).size < 2) return [];
  const found: Candidate[] = [];
  for (let header = 0; header <= maxHeader; header += 1)
    for (const width of [1, 2] as const)
      for (const endian of width === 1 ? (['big'] as const) : (['big', 'little'] as const)) {
        const uncounted = usual(
          heard.map((bytes) => bytes.length - header - width - lengthAt(bytes, header, width, endian)),
        );
        if (uncounted === undefined || Math.abs(uncounted) > mostUncounted) continue;
        const isAll = uncounted === -(header + width);
        const mark = start.subarray(0, header);
        const base = {
          kind: 'prefixed',
          header,
          width,
          endian,
          counts: isAll ? 'all' : 'rest',
          ...(isAll || uncounted === 0 ? {} : { uncounted }),
          ...(mark.length > 0 ? { start: toHex(mark) } : {}),
          maxFrameBytes: 4096,
        } as const;
        const check = checkOf(framesOf(base, heard), 0);
        const size = width === 1 ? 'one byte' : `two bytes, ${endian === 'big' ? 'high' : 'low'} byte first`;
        const begin = mark.length > 0 ? `begin with ${spaced(mark)} and ` : '';
        const title = `frames that ${begin}have their length in ${size}, after ${header === 1 ? '1 byte' : `${header} bytes`}${checkTitle(check)}`;
        found.push({ framing: { ...base, ...(check ? { check } : {}) }, title });
      }
  return found;
}

/** The most frequent difference, where three quarters have it: others are pieces that hold more or less than a frame. */
function usual(values: readonly number[]): number | undefined {
  const counts = new Map<number, number>();
  for (const value of values) counts.set(value, (counts.get(value) ?? 0) + 1);
  const [best, count = 0] = [...counts].sort((a, b) => b[1] - a[1])[0] ?? [];
  return count >= values.length * 0.75 ? best : undefined;
}

function lengthAt(bytes: Bytes, at: number, width: 1 | 2, endian: 'big' | 'little'): number {
  const [first, second] = [bytes[at], bytes[at + 1]];
  if (first === undefined || (width === 2 && second === undefined)) return NaN;
  if (width === 1) return first;
  return endian === 'big' ? first * 256 + (second ?? 0) : first + (second ?? 0) * 256;
}

function ended(heard: readonly Bytes[], start: Bytes): Candidate[] {
  const last = commonEnd(heard, 2);
  return [2, 1].flatMap((count) =>
    last.length >= count ? [terminated(heard, last.slice(-count), 'bytes', start)] : [],
  );
}

function terminated(
  heard: readonly Bytes[],
  end: Bytes,
  as: 'bytes' | 'text',
  start: Bytes = new Uint8Array(),
): Candidate {
  const mark = start.subarray(0, 1);
  const base = {
    kind: 'terminated',
    terminator: toHex(end),
    ...(mark.length > 0 && as === 'bytes' ? { start: toHex(mark) } : {}),
    as,
    encoding: 'utf-8',
    maxFrameBytes: 1024,
  } as const;
  const check = as === 'bytes' ? checkOf(framesOf(base, heard), end.length) : undefined;
  return {
    framing: { ...base, ...(check ? { check } : {}) },
    title: `frames that ${mark.length > 0 && as === 'bytes' ? `begin with ${spaced(mark)} and ` : ''}end with ${spaced(end)}${checkTitle(check)}`,
  };
}

function fixed(heard: readonly Bytes[], start: Bytes): Candidate[] {
  const lengths = new Set(heard.map(({ length }) => length));
  const length = Math.min(...lengths);
  if (![...lengths].every((each) => each % length === 0) || length < 2) return [];
  const mark = start.subarray(0, 1);
  const base = {
    kind: 'fixed',
    length,
    ...(mark.length > 0 ? { start: toHex(mark) } : {}),
    maxFrameBytes: 65_536,
  } as const;
  const check = checkOf(framesOf(base, heard), 0);
  return [
    { framing: { ...base, ...(check ? { check } : {}) }, title: `frames of ${length} bytes${checkTitle(check)}` },
  ];
}

/** The checksum that is right in every frame; `undefined` where none is, or where the frames are too few or too alike to tell. */
function checkOf(frames: readonly Bytes[], behind: number): Check | undefined {
  const different = [...new Map(frames.map((frame) => [toHex(frame), frame])).values()];
  if (different.length < fewestChecked) return undefined;
  for (const algorithm of checksumNames) {
    const { width, of } = checksums[algorithm];
    for (const endian of width === 1 ? (['big'] as const) : (['big', 'little'] as const))
      for (let from = 0; from <= maxChecked; from += 1) {
        const isRight = different.every((frame) => {
          const end = frame.length - behind;
          const at = end - width;
          if (at <= from) return false;
          const said = frame.slice(at, end);
          if (endian === 'little') said.reverse();
          return said.reduce((all, byte) => all * 256 + byte, 0) === of(frame.subarray(from, at));
        });
        if (isRight) return { algorithm, from, endian };
      }
  }
  return undefined;
}

function framesOf(framing: CutFraming, heard: readonly Bytes[]): Bytes[] {
  const exchange = makeExchange(framing, true);
  return heard.flatMap((bytes) => exchange.read(bytes).flatMap(({ raw, fault }) => (fault === undefined ? [raw] : [])));
}

/** The frames that a framing finds; `undefined` where bytes are left over or cut wrongly. */
function cutWith(framing: CutFraming, heard: readonly Bytes[]): number | undefined {
  if (framing.kind === 'silence') return heard.length;
  const exchange = makeExchange(framing, true);
  let frames = 0;
  let open = 0;
  for (const bytes of heard) {
    for (const { fault } of exchange.read(bytes)) {
      if (fault !== undefined) return undefined;
      frames += 1;
    }
    if (exchange.rest().length > 0) open += 1;
  }
  return open <= heard.length / 2 && frames > 0 ? frames : undefined;
}

/** The frames of pieces by a framing, each with its bytes; the pieces themselves where the framing is not ours to cut. */
export function cutFrames(framing: Framing, pieces: readonly Bytes[], isStream: boolean): Bytes[] {
  if (!isCut(framing)) return [...pieces];
  const exchange = makeExchange(framing, isStream);
  return pieces.flatMap((bytes) =>
    [...exchange.read(bytes), ...(exchange.flush?.() ?? [])].map(({ raw }) => raw).filter(({ length }) => length > 0),
  );
}

const spaced = (bytes: Bytes): string => toHex(bytes).replace(/..(?=.)/g, '$& ');
const checkTitle = (check: Check | undefined): string =>
  check ? `; checksum ${check.algorithm}${check.from > 0 ? ` from byte ${check.from}` : ''}` : '';
