/**
 * Text lines over a byte stream.
 *
 * ```
 *  bytes  N O W SP p r o g r a m SP 3 CR LF N O W ...
 *         └───────── one frame ─────┘       └ kept until its ending comes
 * ```
 */

/**
 * How a line ends when it is sent. On receipt `lf` and `crlf` both take LF with an optional CR before it, and `any` takes each of LF, CR,
 * CR LF and NUL, for devices of which nobody knows; it sends CR LF.
 */
export type LineEnding = 'lf' | 'crlf' | 'cr' | 'nul' | 'any';

export type TextEncodingName = 'utf-8' | 'latin-1';

export type LineFrame =
  | {
      readonly kind: 'line';
      /** All bytes of the line as they came, with its ending. */
      readonly raw: Uint8Array;
      readonly text: string;
      /** True when the bytes are not valid in the chosen encoding; `text` then holds U+FFFD in their place. */
      readonly malformed: boolean;
    }
  | { readonly kind: 'overlong' };

export interface LineFramerOptions {
  readonly ending: LineEnding;
  readonly encoding: TextEncodingName;
  /** Longest line in bytes, without its ending. A longer one is dropped up to its ending and reported once. */
  readonly maxFrameBytes: number;
}

const LF = 0x0a;
const CR = 0x0d;

export const endingBytes: Readonly<Record<LineEnding, Uint8Array>> = {
  lf: Uint8Array.of(LF),
  crlf: Uint8Array.of(CR, LF),
  cr: Uint8Array.of(CR),
  nul: Uint8Array.of(0),
  any: Uint8Array.of(CR, LF),
};

/**
 * Cuts a byte stream into lines. Never holds more than `maxFrameBytes` + 2 bytes (the two are an ending), and looks
 * at each byte once, however the stream is split.
 */
export class LineFramer {
  private readonly held: Uint8Array;
  private heldLength = 0;
  private dropping = false;
  private readonly terminator: number;
  /** Any ending ends a line; behind a CR a LF belongs to it. */
  private readonly any: boolean;
  private afterCr = false;
  private readonly decode: (raw: Uint8Array, from: number, to: number) => LineFrame;

  constructor(private readonly options: LineFramerOptions) {
    this.held = new Uint8Array(options.maxFrameBytes + 2);
    this.any = options.ending === 'any';
    this.terminator = options.ending === 'cr' ? CR : options.ending === 'nul' ? 0 : LF;
    this.decode = options.encoding === 'utf-8' ? decodeUtf8 : decodeLatin1;
  }

  /** Takes the next bytes of the stream and returns every frame that they complete. The chunk is not kept. */
  push(chunk: Uint8Array): LineFrame[] {
    const frames: LineFrame[] = [];
    let start = 0;
    while (start < chunk.length) {
      const end = this.any ? endOfAny(chunk, start) : chunk.indexOf(this.terminator, start);
      if (end === -1) {
        this.hold(chunk.subarray(start), frames);
        break;
      }
      if (this.any && this.isSecondHalf(chunk, start, end)) {
        start = end + 1;
        continue;
      }
      if (this.heldLength === 0 && !this.dropping && end - start <= this.options.maxFrameBytes) {
        // The whole line is in this chunk, as nearly all are: it need not be put together.
        this.cut(chunk.slice(start, end + 1), frames);
      } else {
        this.hold(chunk.subarray(start, end), frames);
        this.finish(chunk[end] ?? LF, frames);
      }
      start = end + 1;
    }
    return frames;
  }

  /** What has come of a line that has not ended yet. */
  rest(): Uint8Array {
    return this.held.slice(0, this.heldLength);
  }

  private hold(part: Uint8Array, frames: LineFrame[]): void {
    if (!this.dropping && this.heldLength + part.length < this.held.length) {
      this.held.set(part, this.heldLength);
      this.heldLength += part.length;
      return;
    }
    if (!this.dropping) {
      this.dropping = true;
      this.heldLength = 0;
      frames.push({ kind: 'overlong' });
    }
  }

  /** The LF of a CR LF whose CR has ended the line already. */
  private isSecondHalf(chunk: Uint8Array, start: number, end: number): boolean {
    const follows = this.afterCr && end === start && this.heldLength === 0 && chunk[end] === LF;
    this.afterCr = chunk[end] === CR;
    return follows;
  }

  private finish(terminator: number, frames: LineFrame[]): void {
    if (this.dropping) {
      this.dropping = false;
      return;
    }
    // One place is always left for the terminator.
    this.held[this.heldLength] = terminator;
    const raw = this.held.slice(0, this.heldLength + 1);
    this.heldLength = 0;
    this.cut(raw, frames);
  }

  /** One line with its terminator. */
  private cut(raw: Uint8Array, frames: LineFrame[]): void {
    let from = 0;
    let to = raw.length - 1;
    if (!this.any && this.terminator === LF && to > 0 && raw[to - 1] === CR) to -= 1;
    // A peer that ends with CR LF while CR was chosen leaves the LF at the head of the next line.
    if (this.terminator === CR && to > 0 && raw[0] === LF) from = 1;
    if (to - from > this.options.maxFrameBytes) {
      frames.push({ kind: 'overlong' });
      return;
    }
    frames.push(this.decode(raw, from, to));
  }
}

function endOfAny(chunk: Uint8Array, start: number): number {
  for (let n = start; n < chunk.length; n += 1) {
    const byte = chunk[n];
    if (byte === LF || byte === CR || byte === 0) return n;
  }
  return -1;
}

const strictUtf8 = new TextDecoder('utf-8', { fatal: true, ignoreBOM: true });
const looseUtf8 = new TextDecoder('utf-8', { ignoreBOM: true });

/** Texts of up to this many bytes are put together here, which is faster than starting the decoder. */
const shortBytes = 256;

function decodeUtf8(raw: Uint8Array, from: number, to: number): LineFrame {
  if (to - from <= shortBytes) {
    let text = '';
    let n = from;
    for (; n < to; n += 1) {
      const byte = raw[n] ?? 0;
      if (byte >= 0x80) break;
      text += String.fromCharCode(byte);
    }
    if (n === to) return { kind: 'line', raw, text, malformed: false };
  }
  const bytes = raw.subarray(from, to);
  try {
    return { kind: 'line', raw, text: strictUtf8.decode(bytes), malformed: false };
  } catch {
    return { kind: 'line', raw, text: looseUtf8.decode(bytes), malformed: true };
  }
}

/** ISO/IEC 8859-1 maps each byte to the code point of the same number; nothing can be malformed. */
function decodeLatin1(raw: Uint8Array, from: number, to: number): LineFrame {
  let text = '';
  for (let n = from; n < to; n += 1) text += String.fromCharCode(raw[n] ?? 0);
  return { kind: 'line', raw, text, malformed: false };
}
