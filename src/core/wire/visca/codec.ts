import { fail, ok, type Result } from '../../result';
import { ByteReader } from '../byte-reader';
import type { DecodeError } from '../decode-error';
import type { ViscaPacket, ViscaReply } from './messages';
import { headerBytes, maxPayloadBytes, payloadTypes, type ViscaPayloadType } from './wire';

/** A datagram. The payload has 1 to 16 bytes; a longer one is the caller's mistake and is cut off. */
export function encodeViscaPacket({ type, sequence, payload }: ViscaPacket): Uint8Array {
  const body = payload.subarray(0, maxPayloadBytes);
  const bytes = new Uint8Array(headerBytes + body.length);
  const view = new DataView(bytes.buffer);
  view.setUint16(0, payloadTypes[type]);
  view.setUint16(2, body.length);
  view.setUint32(4, sequence >>> 0);
  bytes.set(body, headerBytes);
  return bytes;
}

/** Reads one datagram. One whose declared length is not its size is refused, never padded. */
export function decodeViscaPacket(bytes: Uint8Array): Result<ViscaPacket, DecodeError> {
  const reader = new ByteReader(bytes);
  const code = reader.u16();
  const type = (Object.keys(payloadTypes) as ViscaPayloadType[]).find((name) => payloadTypes[name] === code);
  if (!type) reader.reject('bad-value', `There is no payload type ${code.toString(16).padStart(4, '0')}.`, 0);
  const length = reader.u16();
  if (length < 1 || length > maxPayloadBytes) {
    reader.reject('bad-value', `A payload has 1 to ${maxPayloadBytes} bytes, not ${length}.`, 2);
  }
  const sequence = reader.u32();
  const payload = reader.take(length);
  reader.end();
  if (reader.error || !type) return fail(reader.error ?? { code: 'bad-value', offset: 0, message: 'no type' });
  return ok({ type, sequence, payload: payload.slice() });
}

/** What a camera's reply says. Never fails: what is not known is `other`. */
export function readViscaReply(payload: Uint8Array): ViscaReply {
  const [address = 0, second = 0, third = 0] = payload;
  const last = payload[payload.length - 1];
  if (address < 0x90 || payload.length < 3 || last !== 0xff) return { kind: 'other' };
  const socket = second & 0x0f;
  switch (second >> 4) {
    case 4:
      return payload.length === 3 ? { kind: 'ack', socket } : { kind: 'other' };
    case 5:
      if (payload.length === 3) return { kind: 'completion', socket };
      return { kind: 'information', data: payload.subarray(2, -1) };
    case 6:
      if (payload.length !== 4) return { kind: 'other' };
      return { kind: 'error', socket, code: third.toString(16).toUpperCase().padStart(2, '0') };
    default:
      return { kind: 'other' };
  }
}

/** True for a request that asks (`8x 09 …`), false for one that does something. */
export const isInquiry = (payload: Uint8Array): boolean => payload[1] === 0x09;
