import { fail, ok, type Result } from '../../result';
import { ByteFramer, isIntact, type ByteFrame, type ByteFraming } from '../bytes';
import { toHex } from '../hex';
import { parseJson } from '../json';
import { LineFramer, type LineFrame, type LineFramerOptions, type TextEncodingName } from '../lines';
import { decodeOsc, encodeOsc, encodeSlip, messagesOf, oscText, SlipFramer } from '../osc';
import type { Arrived, Exchange, Outgoing, Said } from './exchange';
import type { Framing } from './framing';

/** The conversations that remember nothing of what was asked: lines, bytes, JSON, OSC. */

const nothing = new Uint8Array();
export const wrongKind = (message: Outgoing): Result<never, string> =>
  fail(`A message of the kind “${message.kind}” cannot be sent over this framing.`);

export const writeBytes = (message: Outgoing): Result<Uint8Array, string> =>
  message.kind === 'bytes' ? ok(message.bytes) : wrongKind(message);

export function overlong(maxFrameBytes: number, raw: Uint8Array = nothing): Arrived {
  return { raw, says: [], fault: `A frame longer than ${maxFrameBytes} bytes was dropped.` };
}

const maxShown = 64;

/**
 * What a cut frame is when it is not one: too long, damaged, or bytes between frames.
 *
 * @param chunk the bytes in which it came; the first of them are shown
 */
export function dropped(
  frame: Extract<ByteFrame, { kind: 'dropped' }>,
  maxFrameBytes: number,
  chunk: Uint8Array,
): Arrived {
  if (frame.code === 'checksum') return { raw: frame.raw, says: [], fault: 'Its checksum is wrong.' };
  const raw = chunk.slice(0, maxShown);
  return frame.code === 'overlong'
    ? overlong(maxFrameBytes, raw)
    : { raw, says: [], fault: 'Bytes that belong to no frame were dropped.' };
}

function jsonSaid(text: string, raw: Uint8Array): Arrived {
  const value = parseJson(text);
  return value.ok
    ? { raw, says: [{ kind: 'json', text, value: value.value }] }
    : { raw, says: [], fault: `It is not JSON: ${value.error}` };
}

export function linesExchange(options: LineFramerOptions, json: boolean): Exchange {
  const framer = new LineFramer(options);
  const arrived = (frame: LineFrame): Arrived => {
    if (frame.kind === 'overlong') return overlong(options.maxFrameBytes);
    if (frame.malformed) {
      const says: Said[] = json ? [] : [{ kind: 'text', text: frame.text }];
      return { raw: frame.raw, says, fault: 'not valid in the character set of the driver' };
    }
    if (json) return frame.text === '' ? { raw: frame.raw, says: [] } : jsonSaid(frame.text, frame.raw);
    return { raw: frame.raw, says: [{ kind: 'text', text: frame.text }] };
  };
  return {
    write: writeBytes,
    read: (chunk) => framer.push(chunk).map(arrived),
    rest: () => framer.rest(),
    forget: () => undefined,
  };
}

/** @param read what an intact frame says; its hexadecimal digits unless said otherwise */
export function bytesExchange(
  framing: ByteFraming,
  maxFrameBytes: number,
  read: (raw: Uint8Array) => Arrived = (raw) => ({ raw, says: [{ kind: 'text', text: toHex(raw) }] }),
): Exchange {
  const framer = new ByteFramer(framing, maxFrameBytes);
  return {
    write: writeBytes,
    read: (chunk) =>
      framer
        .push(chunk)
        .map((frame) => (frame.kind === 'dropped' ? dropped(frame, maxFrameBytes, chunk) : read(frame.raw))),
    rest: () => framer.rest(),
    forget: () => undefined,
  };
}

const strictUtf8 = new TextDecoder('utf-8', { fatal: true });

/** Bytes as text; `undefined` where they are not valid in the encoding. */
export function textOf(bytes: Uint8Array, encoding: TextEncodingName): string | undefined {
  if (encoding === 'latin-1') return Array.from(bytes, (byte) => String.fromCharCode(byte)).join('');
  try {
    return strictUtf8.decode(bytes);
  } catch {
    return undefined;
  }
}

/** Each piece is a frame: a datagram, a WebSocket message, or whatever the stream gave at once. */
export function messageExchange(framing: Extract<Framing, { kind: 'message' | 'unframed' }>): Exchange {
  const as = framing.kind === 'message' ? framing.as : 'bytes';
  const encoding = framing.kind === 'message' ? framing.encoding : 'utf-8';
  const check = framing.kind === 'message' ? framing.check : undefined;
  return {
    write: writeBytes,
    read: (chunk) => {
      if (chunk.length > framing.maxFrameBytes) return [overlong(framing.maxFrameBytes, chunk.subarray(0, 64))];
      const raw = chunk.slice();
      if (!isIntact(raw, { check })) return [{ raw, says: [], fault: 'Its checksum is wrong.' }];
      if (as === 'bytes') return [{ raw, says: [{ kind: 'text', text: toHex(raw) }] }];
      const text = textOf(raw, encoding);
      if (text === undefined) return [{ raw, says: [], fault: 'not valid in the character set of the driver' }];
      // A line ending in a datagram says nothing.
      return [
        as === 'json' ? jsonSaid(text, raw) : { raw, says: [{ kind: 'text', text: text.replace(/[\r\n\0]+$/, '') }] },
      ];
    },
    rest: () => nothing,
    forget: () => undefined,
  };
}

/** The length before each packet over TCP: OSC 1.0, “OSC Packets”. */
const oscLength: ByteFraming = { kind: 'prefixed', header: 0, width: 4, endian: 'big', counts: 'rest' };

/** OSC 1.0 in datagrams; over a stream in SLIP frames (OSC 1.1), or behind a length of four bytes (OSC 1.0). */
export function oscExchange(maxFrameBytes: number, over: 'datagram' | 'slip' | 'length'): Exchange {
  const framer =
    over === 'slip'
      ? new SlipFramer(maxFrameBytes)
      : over === 'length'
        ? new ByteFramer(oscLength, maxFrameBytes)
        : undefined;
  const arrived = (frame: Uint8Array): Arrived => {
    const packet = decodeOsc(over === 'length' ? frame.subarray(4) : frame);
    // As it was on the wire, with its ends.
    const raw = over === 'slip' ? encodeSlip(frame) : frame;
    if (!packet.ok)
      return { raw, says: [], fault: `Not an OSC packet, at byte ${packet.error.offset}: ${packet.error.message}` };
    const says = messagesOf(packet.value).map(({ address, args }): Said => ({
      kind: 'osc',
      text: address,
      args: args.map(oscText),
    }));
    return { raw, says };
  };
  return {
    write: (message) => {
      if (message.kind !== 'osc') return writeBytes(message);
      const bytes = encodeOsc(message.message);
      if (over === 'slip') return ok(encodeSlip(bytes));
      return ok(over === 'length' ? withLength(bytes) : bytes);
    },
    read: (chunk) => {
      if (!framer) return [chunk.length > maxFrameBytes ? overlong(maxFrameBytes) : arrived(chunk.slice())];
      return framer
        .push(chunk)
        .map((frame) => (frame.kind === 'frame' ? arrived(frame.raw) : dropped(frame, maxFrameBytes, chunk)));
    },
    rest: () => framer?.rest() ?? nothing,
    forget: () => undefined,
  };
}

function withLength(bytes: Uint8Array): Uint8Array {
  const framed = new Uint8Array(bytes.length + 4);
  new DataView(framed.buffer).setUint32(0, bytes.length);
  framed.set(bytes, 4);
  return framed;
}
