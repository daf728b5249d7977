import { fromHex } from '../wire';

/** A message between this program and a device, to be written into a capture. */
export interface CapturedMessage {
  readonly at: number;
  readonly toDevice: boolean;
  /** Two digits a byte. */
  readonly hex: string;
  readonly comment: string;
  readonly device: CapturedDevice;
}

export interface CapturedDevice {
  readonly id: string;
  readonly transport: 'tcp' | 'udp';
  /** An IPv4 address; another one, or none, is replaced by one for documentation (RFC 5737). */
  readonly host: string;
  readonly port: number;
}

const sectionHeader = 0x0a0d0d0a;
const interfaceDescription = 1;
const enhancedPacket = 6;
const byteOrderMagic = 0x1a2b3c4d;
const commentOption = 1;
/** LINKTYPE_RAW: an IP packet without a frame. */
const rawIp = 101;
/** An IP packet cannot be longer; a message that is goes into several. */
const mostPayload = 65_000;
/** Where this program is, in the capture: its real addresses and ports are nobody's business. */
const ourAddress = [192, 0, 2, 1] as const;
const firstPort = 49_152;
const utf8 = new TextEncoder();

/**
 * Writes messages as a pcapng file (draft-ietf-opsawg-pcapng) that network tools open. The bytes and times are those of the messages. The IP, TCP and UDP
 * headers around them are made here with right checksums and sequence numbers, for nobody captured the real ones.
 */
export function writePcapng(messages: readonly CapturedMessage[]): Uint8Array<ArrayBuffer> {
  const blocks = [
    block(sectionHeader, [...u32(byteOrderMagic), ...u16(1), ...u16(0), ...u32(0xffffffff), ...u32(0xffffffff)]),
    block(interfaceDescription, [...u16(rawIp), ...u16(0), ...u32(0)]),
  ];
  const known = new Map<
    string,
    { readonly ours: number; readonly address: readonly number[]; in: number; out: number }
  >();
  for (const { at, toDevice, hex, comment, device } of messages) {
    const read = fromHex(hex);
    if (!read.ok) continue;
    const n = known.size;
    const place = known.get(device.id) ?? { ours: firstPort + n, address: addressOf(device.host, n), in: 1, out: 1 };
    known.set(device.id, place);
    for (let from = 0; from < read.value.length; from += mostPayload) {
      const payload = read.value.subarray(from, from + mostPayload);
      const ends = [
        { address: ourAddress, port: place.ours },
        { address: place.address, port: device.port },
      ] as const;
      const [source, target] = toDevice ? ends : ([ends[1], ends[0]] as const);
      const sequence = toDevice ? place.out : place.in;
      const seen = toDevice ? place.in : place.out;
      blocks.push(packetBlock(at, ipv4(device.transport, source, target, payload, sequence, seen), comment));
      if (toDevice) place.out = (place.out + payload.length) >>> 0;
      else place.in = (place.in + payload.length) >>> 0;
    }
  }
  return joined(blocks);
}

interface End {
  readonly address: readonly number[];
  readonly port: number;
}

function addressOf(host: string, n: number): readonly number[] {
  const parts = /^(\d{1,3})\.(\d{1,3})\.(\d{1,3})\.(\d{1,3})$/.exec(host)?.slice(1).map(Number);
  return parts?.every((part) => part < 256) ? parts : [198, 51, 100, 1 + (n % 250)];
}

function packetBlock(at: number, packet: Uint8Array, comment: string): Uint8Array<ArrayBuffer> {
  const micros = Math.round(at * 1000);
  const text = utf8.encode(comment).subarray(0, 0xfff0);
  const options = text.length === 0 ? [] : [...u16(commentOption), ...u16(text.length), ...padded(text), ...u32(0)];
  const head = [...u32(0), ...u32(Math.floor(micros / 2 ** 32)), ...u32(micros % 2 ** 32)];
  return block(enhancedPacket, [...head, ...u32(packet.length), ...u32(packet.length), ...padded(packet), ...options]);
}

/** RFC 791, 3.1, around TCP (RFC 9293, 3.1) or UDP (RFC 768). */
function ipv4(
  transport: 'tcp' | 'udp',
  from: End,
  to: End,
  payload: Uint8Array,
  sequence: number,
  acknowledged: number,
): Uint8Array {
  const ports = [...be16(from.port), ...be16(to.port)];
  const length = (transport === 'tcp' ? 20 : 8) + payload.length;
  const inner =
    transport === 'tcp'
      ? // Push and acknowledge, a header of five words, a window that is open.
        [...ports, ...be32(sequence), ...be32(acknowledged), 0x50, 0x18, ...be16(0xffff), 0, 0, 0, 0]
      : [...ports, ...be16(length), 0, 0];
  const protocol = transport === 'tcp' ? 6 : 17;
  const sum = checksum([...from.address, ...to.address, 0, protocol, ...be16(length), ...inner, ...payload]);
  inner.splice(transport === 'tcp' ? 16 : 6, 2, ...be16(transport === 'udp' && sum === 0 ? 0xffff : sum));
  const header = [0x45, 0, ...be16(20 + length), 0, 0, 0x40, 0, 64, protocol, 0, 0, ...from.address, ...to.address];
  header.splice(10, 2, ...be16(checksum(header)));
  return Uint8Array.from([...header, ...inner, ...payload]);
}

/** The Internet checksum (RFC 1071). */
function checksum(bytes: readonly number[]): number {
  let sum = 0;
  for (let n = 0; n < bytes.length; n += 2) sum += ((bytes[n] ?? 0) << 8) | (bytes[n + 1] ?? 0);
  while (sum > 0xffff) sum = (sum & 0xffff) + Math.floor(sum / 0x10000);
  return ~sum & 0xffff;
}

function block(type: number, body: readonly number[]): Uint8Array<ArrayBuffer> {
  const length = body.length + 12;
  return Uint8Array.from([...u32(type), ...u32(length), ...body, ...u32(length)]);
}

const padded = (bytes: Uint8Array): number[] => [...bytes, ...Array<number>((4 - (bytes.length % 4)) % 4).fill(0)];
const u16 = (value: number): number[] => [value & 255, (value >> 8) & 255];
const u32 = (value: number): number[] => [...u16(value & 0xffff), ...u16(value >>> 16)];
const be16 = (value: number): number[] => [(value >> 8) & 255, value & 255];
const be32 = (value: number): number[] => [...be16(value >>> 16), ...be16(value & 0xffff)];

function joined(parts: readonly Uint8Array[]): Uint8Array<ArrayBuffer> {
  const whole = new Uint8Array(parts.reduce((sum, part) => sum + part.length, 0));
  let at = 0;
  for (const part of parts) {
    whole.set(part, at);
    at += part.length;
  }
  return whole;
}
