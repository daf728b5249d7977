import { fail, ok, type Result } from '../../result';
import { ByteReader } from '../byte-reader';
import type { DecodeError } from '../decode-error';
import type { OscArgument, OscPacket } from './messages';

/**
 * Open Sound Control 1.0, “OSC Specification”: strings end with NUL and are padded to four bytes, numbers are big-endian,
 * blobs have a length and are padded, a bundle is `#bundle`, a time tag, and elements with their lengths.
 */
const maxDepth = 8;
const utf8 = new TextEncoder();
const fromUtf8 = new TextDecoder('utf-8');

export function encodeOsc(packet: OscPacket): Uint8Array {
  const out: number[] = [];
  if (packet.kind === 'message') {
    putString(out, packet.address);
    putString(out, `,${packet.args.map((arg) => arg.type).join('')}`);
    for (const arg of packet.args) putArgument(out, arg);
  } else {
    putString(out, '#bundle');
    putNumber(out, 8, (view) => view.setBigUint64(0, BigInt.asUintN(64, packet.timeTag)));
    for (const element of packet.elements) {
      const bytes = encodeOsc(element);
      putNumber(out, 4, (view) => view.setUint32(0, bytes.length));
      for (const byte of bytes) out.push(byte);
    }
  }
  return Uint8Array.from(out);
}

function putArgument(out: number[], arg: OscArgument): void {
  switch (arg.type) {
    case 'i':
      return putNumber(out, 4, (view) => view.setInt32(0, arg.value));
    case 'r':
      return putNumber(out, 4, (view) => view.setUint32(0, arg.value));
    case 'c':
      return putNumber(out, 4, (view) => view.setUint32(0, arg.value.charCodeAt(0) || 0));
    case 'f':
      return putNumber(out, 4, (view) => view.setFloat32(0, arg.value));
    case 'd':
      return putNumber(out, 8, (view) => view.setFloat64(0, arg.value));
    case 'h':
    case 't':
      return putNumber(out, 8, (view) => view.setBigInt64(0, BigInt.asIntN(64, arg.value)));
    case 's':
    case 'S':
      return putString(out, arg.value);
    case 'b':
      putNumber(out, 4, (view) => view.setInt32(0, arg.value.length));
      for (const byte of arg.value) out.push(byte);
      return pad(out);
    default:
      return;
  }
}

function putNumber(out: number[], bytes: number, write: (view: DataView) => void): void {
  const view = new DataView(new ArrayBuffer(bytes));
  write(view);
  for (let n = 0; n < bytes; n += 1) out.push(view.getUint8(n));
}

function putString(out: number[], text: string): void {
  // A NUL inside would end the string early; it cannot be sent.
  for (const byte of utf8.encode(text.replaceAll('\0', ''))) out.push(byte);
  out.push(0);
  pad(out);
}

function pad(out: number[]): void {
  while (out.length % 4 !== 0) out.push(0);
}

/** Reads one packet. Fails with the place when it is not one; never throws. */
export function decodeOsc(bytes: Uint8Array): Result<OscPacket, DecodeError> {
  const reader = new ByteReader(bytes);
  const packet = readPacket(reader, 0);
  reader.end();
  return reader.error ? fail(reader.error) : ok(packet);
}

function readPacket(reader: ByteReader, depth: number): OscPacket {
  const start = reader.offset;
  const address = readString(reader);
  if (address === '#bundle') {
    if (depth >= maxDepth) reader.reject('too-deep', `Bundles in bundles, more than ${maxDepth} deep.`);
    const timeTag = BigInt.asUintN(64, reader.i64());
    const elements: OscPacket[] = [];
    while (reader.left > 0) {
      const at = reader.offset;
      const size = reader.u32();
      if (size % 4 !== 0) reader.reject('bad-value', 'The size of an element is a multiple of four.', at);
      const inner = new ByteReader(reader.take(size));
      if (reader.error) break;
      elements.push(readPacket(inner, depth + 1));
      inner.end();
      if (inner.error) reader.reject(inner.error.code, inner.error.message, at + 4 + inner.error.offset);
    }
    return { kind: 'bundle', timeTag, elements };
  }
  if (!address.startsWith('/')) reader.reject('bad-value', 'An address begins with “/”.', start);
  return { kind: 'message', address, args: readArguments(reader) };
}

function readArguments(reader: ByteReader): OscArgument[] {
  // Old senders leave the type tags out; without arguments there is nothing to read then.
  if (reader.left === 0) return [];
  const at = reader.offset;
  const tags = readString(reader);
  if (!tags.startsWith(',')) reader.reject('bad-value', 'Type tags begin with a comma.', at);
  const args: OscArgument[] = [];
  for (let n = 1; n < tags.length && !reader.error; n += 1) {
    const arg = readArgument(reader, tags.charAt(n));
    if (arg) args.push(arg);
    else reader.reject('bad-value', `The type “${tags.charAt(n)}” is not known.`, at + n);
  }
  return args;
}

function readArgument(reader: ByteReader, type: string): OscArgument | undefined {
  switch (type) {
    case 'i':
      return { type, value: reader.i32() };
    case 'r':
      return { type, value: reader.u32() };
    case 'c':
      return { type, value: String.fromCharCode(reader.u32() & 0xffff) };
    case 'f':
      return { type, value: reader.f32() };
    case 'd':
      return { type, value: reader.f64() };
    case 'h':
    case 't':
      return { type, value: reader.i64() };
    case 's':
    case 'S':
      return { type, value: readString(reader) };
    case 'b': {
      const size = reader.u32();
      const value = reader.take(size).slice();
      reader.take((4 - (size % 4)) % 4);
      return { type, value };
    }
    case 'T':
    case 'F':
    case 'N':
    case 'I':
      return { type };
    default:
      return undefined;
  }
}

function readString(reader: ByteReader): string {
  const bytes: number[] = [];
  while (!reader.error) {
    const group = reader.take(4);
    const end = group.indexOf(0);
    bytes.push(...(end === -1 ? group : group.subarray(0, end)));
    if (end !== -1) break;
  }
  return fromUtf8.decode(Uint8Array.from(bytes));
}

/** The argument as text: what patterns, templates and people see. Floats as short as they are still the same 32-bit number. */
export function oscText(arg: OscArgument): string {
  switch (arg.type) {
    case 'T':
      return 'true';
    case 'F':
      return 'false';
    case 'N':
      return '';
    case 'I':
      return 'impulse';
    case 'b':
      return [...arg.value].map((byte) => byte.toString(16).padStart(2, '0')).join('');
    case 'f':
      return shortFloat(arg.value);
    default:
      return String(arg.value);
  }
}

function shortFloat(value: number): string {
  if (!Number.isFinite(value)) return '0';
  for (let digits = 1; digits < 10; digits += 1) {
    const text = value.toPrecision(digits);
    if (Math.fround(Number(text)) === value) return String(Number(text));
  }
  return String(value);
}
