import { fail, ok, type Result } from '../../result';
import { ByteReader } from '../byte-reader';
import type { DecodeError } from '../decode-error';
import type { SacnPacket } from './messages';
import {
  acnIdentifier,
  cidBytes,
  dmpAddressType,
  dmpSetProperty,
  framingBytes,
  framingData,
  framingDiscovery,
  maxPriority,
  maxSlots,
  maxUniverse,
  option,
  preambleBytes,
  rootBytes,
  rootData,
  rootExtended,
  sourceNameBytes,
  universeList,
} from './wire';

const utf8 = new TextEncoder();
const asText = new TextDecoder();

/** A packet of levels as its bytes. A name of more than 63 bytes is cut off. */
export function encodeSacn(packet: SacnPacket): Uint8Array {
  const { cid, sourceName, priority, sequence, isPreview, isTerminated, universe, startCode, slots } = packet;
  const bytes = new Uint8Array(rootBytes + framingBytes + 11 + slots.length);
  const view = rootLayer(bytes, rootData, cid);
  putLength(view, rootBytes);
  view.setUint32(40, framingData);
  bytes.set(nameBytes(sourceName), 44);
  bytes[108] = priority;
  bytes[111] = sequence;
  bytes[112] = (isPreview ? option.preview : 0) | (isTerminated ? option.terminated : 0);
  view.setUint16(113, universe);
  putLength(view, rootBytes + framingBytes);
  bytes[117] = dmpSetProperty;
  bytes[118] = dmpAddressType;
  view.setUint16(121, 1);
  view.setUint16(123, slots.length + 1);
  bytes[125] = startCode;
  bytes.set(slots, 126);
  return bytes;
}

/** The list of a source’s universes (ANSI E1.31, 4.3 and 8), which everybody hears. */
export function encodeSacnUniverses(cid: Uint8Array, sourceName: string, universes: readonly number[]): Uint8Array {
  const bytes = new Uint8Array(120 + universes.length * 2);
  const view = rootLayer(bytes, rootExtended, cid);
  putLength(view, rootBytes);
  view.setUint32(40, framingDiscovery);
  bytes.set(nameBytes(sourceName), 44);
  putLength(view, 112);
  view.setUint32(114, universeList);
  // Page and last page are 0: one packet holds 512 universes.
  universes.forEach((universe, n) => view.setUint16(120 + n * 2, universe));
  return bytes;
}

function rootLayer(bytes: Uint8Array, vector: number, cid: Uint8Array): DataView {
  const view = new DataView(bytes.buffer);
  view.setUint16(0, preambleBytes);
  bytes.set(acnIdentifier, 4);
  putLength(view, 16);
  view.setUint32(18, vector);
  bytes.set(cid.subarray(0, cidBytes), 22);
  return view;
}

/** The length of the layer that begins at `at`. */
const putLength = (view: DataView, at: number): void => view.setUint16(at, 0x7000 | (view.byteLength - at));

/** What fits of a name, cut between characters: the last byte stays 0 (6.2.2). */
function nameBytes(name: string): Uint8Array {
  let cut = name;
  while (utf8.encode(cut).length >= sourceNameBytes) cut = cut.slice(0, -1).toWellFormed();
  return utf8.encode(cut);
}

/** Reads one datagram of levels. Other packets of the protocol (synchronisation, discovery) are refused with what they are. */
export function decodeSacn(bytes: Uint8Array): Result<SacnPacket, DecodeError> {
  const reader = new ByteReader(bytes);
  const expect = (is: number, wanted: number, what: string, at: number) => {
    if (is !== wanted) reader.reject('bad-value', `${what} is ${is.toString(16)}, not ${wanted.toString(16)}.`, at);
  };
  const length = (what: string) => {
    const at = reader.offset;
    expect(reader.u16(), 0x7000 | (bytes.length - at), `The length of the ${what} layer`, at);
  };
  expect(reader.u16(), preambleBytes, 'The preamble', 0);
  expect(reader.u16(), 0, 'The postamble', 2);
  const identifier = reader.take(acnIdentifier.length);
  if (!acnIdentifier.every((byte, n) => identifier[n] === byte))
    reader.reject('bad-value', 'It is not a packet of ACN: its identifier is missing.', 4);
  length('root');
  const vector = reader.u32();
  if (vector === rootExtended)
    reader.reject('bad-value', 'This is a synchronisation or discovery packet, which holds no levels.', 18);
  expect(vector, rootData, 'The root vector', 18);
  const cid = reader.take(cidBytes).slice();
  length('framing');
  expect(reader.u32(), framingData, 'The framing vector', 40);
  const name = reader.take(sourceNameBytes);
  const priority = reader.u8();
  if (priority > maxPriority) reader.reject('bad-value', `A priority is ${maxPriority} at the most.`, 108);
  reader.u16();
  const sequence = reader.u8();
  const options = reader.u8();
  const universe = reader.u16();
  if (universe < 1 || universe > maxUniverse)
    reader.reject('bad-value', `A universe is numbered from 1 to ${maxUniverse}.`, 113);
  length('DMP');
  expect(reader.u8(), dmpSetProperty, 'The DMP vector', 117);
  expect(reader.u8(), dmpAddressType, 'The address type', 118);
  expect(reader.u16(), 0, 'The first address', 119);
  expect(reader.u16(), 1, 'The increment', 121);
  const count = reader.u16();
  if (count < 1 || count > maxSlots + 1) reader.reject('bad-value', 'A universe has 512 levels at the most.', 123);
  const startCode = reader.u8();
  const slots = reader.take(Math.max(0, count - 1)).slice();
  reader.end();
  if (reader.error) return fail(reader.error);
  const ends = name.indexOf(0);
  return ok({
    cid,
    sourceName: asText.decode(ends === -1 ? name : name.subarray(0, ends)),
    priority,
    sequence,
    isPreview: (options & option.preview) !== 0,
    isTerminated: (options & option.terminated) !== 0,
    universe,
    startCode,
    slots,
  });
}
