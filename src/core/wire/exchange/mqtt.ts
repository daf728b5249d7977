import { textOf } from './plain';
import type { Arrived } from './exchange';

const lineFeed = 0x0a;
const utf8 = new TextEncoder();

/**
 * A publication as the wire shows it: the topic, a line feed, and the payload. A topic should have no control characters
 * (MQTT 5.0, 1.5.4), so the first line feed ends it.
 */
export function publishedBytes(topic: string, payload: Uint8Array): Uint8Array {
  const name = utf8.encode(topic);
  const bytes = new Uint8Array(name.length + 1 + payload.length);
  bytes.set(name);
  bytes[name.length] = lineFeed;
  bytes.set(payload, name.length + 1);
  return bytes;
}

/** What a publication says, from its bytes as `publishedBytes` makes them. A payload that is no UTF-8 text is counted and not read. */
export function arrivedFromMqtt(raw: Uint8Array): Arrived {
  const at = raw.indexOf(lineFeed);
  if (at < 1) return { raw, says: [], fault: 'The message has no topic.' };
  const topic = textOf(raw.subarray(0, at), 'utf-8');
  const text = textOf(raw.subarray(at + 1), 'utf-8');
  if (topic === undefined || text === undefined)
    return { raw, says: [], fault: 'not valid in the character set of the driver' };
  return { raw, says: [{ kind: 'text', text, topic }] };
}

/**
 * The last packet by which the broker acknowledges a message (MQTT 5.0, 3.4 and 3.7): PUBACK for quality of service 1, PUBCOMP for 2. The
 * reason code 0 may be left out, and is.
 */
export function acknowledgementBytes(qos: 1 | 2, packet: number, code: number): Uint8Array {
  const type = qos === 1 ? 0x40 : 0x70;
  const head = [type, code === 0 ? 2 : 3, (packet >> 8) & 0xff, packet & 0xff];
  return Uint8Array.from(code === 0 ? head : [...head, code]);
}

/** True for the bytes of an acknowledgement: no topic has their second character. */
export const isAcknowledgement = (bytes: Uint8Array): boolean =>
  (bytes[0] === 0x40 || bytes[0] === 0x70) && (bytes[1] === 2 || bytes[1] === 3);
