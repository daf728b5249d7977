import type { Packet } from './packets';

export interface Endpoint {
  readonly address: string;
  readonly port: number;
}

/** What one packet carries of a conversation over TCP or UDP. */
export interface Segment {
  readonly at: number;
  readonly transport: 'tcp' | 'udp';
  readonly from: Endpoint;
  readonly to: Endpoint;
  readonly payload: Uint8Array;
  /** Of TCP: the number of the first byte, and whether it opens the conversation. */
  readonly sequence: number;
  readonly isOpening: boolean;
  readonly isCut: boolean;
}

const etherTypes = { ipv4: 0x0800, ipv6: 0x86dd } as const;
/** Tags in front of the type: IEEE 802.1Q, 802.1ad, and the older one of provider bridges. */
const vlanTypes: readonly number[] = [0x8100, 0x88a8, 0x9100];

/** The IP packet in a frame, by the LINKTYPE of the interface; `undefined` for what carries none or is of another kind. */
function ipIn({ linkType, bytes }: Packet): Uint8Array | undefined {
  const typed = (at: number): Uint8Array | undefined => {
    for (let type = u16(bytes, at); ; at += 4, type = u16(bytes, at)) {
      if (type === etherTypes.ipv4 || type === etherTypes.ipv6) return bytes.subarray(at + 2);
      if (!vlanTypes.includes(type)) return undefined;
    }
  };
  switch (linkType) {
    // LINKTYPE_ETHERNET: two addresses, the type.
    case 1:
      return typed(12);
    // LINKTYPE_NULL and LINKTYPE_LOOP: four bytes for the family.
    case 0:
    case 108:
      return bytes.subarray(4);
    // LINKTYPE_RAW, LINKTYPE_IPV4, LINKTYPE_IPV6.
    case 101:
    case 228:
    case 229:
      return bytes;
    // LINKTYPE_LINUX_SLL and _SLL2: the type stands behind the address, or in front.
    case 113:
      return typed(14);
    case 276:
      return u16(bytes, 0) === etherTypes.ipv4 || u16(bytes, 0) === etherTypes.ipv6 ? bytes.subarray(20) : undefined;
    default:
      return undefined;
  }
}

/** What a packet carries over TCP (RFC 9293) or UDP (RFC 768); `undefined` for all else, and for fragments behind the first. */
export function segmentIn(packet: Packet): Segment | undefined {
  const ip = ipIn(packet);
  const inner = ip && (ip[0] === undefined ? undefined : ip[0] >> 4 === 4 ? overIpv4(ip) : overIpv6(ip));
  if (!inner) return undefined;
  const { protocol, from, to, rest } = inner;
  const { at, isCut } = packet;
  const source = { address: from, port: u16(rest, 0) };
  const target = { address: to, port: u16(rest, 2) };
  if (protocol === 17 && rest.length >= 8) {
    const length = u16(rest, 4);
    const payload = rest.subarray(8, length >= 8 ? length : undefined);
    return { at, isCut, transport: 'udp', from: source, to: target, payload, sequence: 0, isOpening: false };
  }
  if (protocol !== 6 || rest.length < 20) return undefined;
  const header = ((rest[12] ?? 0) >> 4) * 4;
  if (header < 20 || header > rest.length) return undefined;
  return {
    at,
    isCut,
    transport: 'tcp',
    from: source,
    to: target,
    payload: rest.subarray(header),
    sequence: ((u16(rest, 4) << 16) | u16(rest, 6)) >>> 0,
    isOpening: ((rest[13] ?? 0) & 0x02) !== 0,
  };
}

interface Inner {
  readonly protocol: number;
  readonly from: string;
  readonly to: string;
  readonly rest: Uint8Array;
}

/** RFC 791, 3.1. Bytes after the total length are padding of the frame. */
function overIpv4(ip: Uint8Array): Inner | undefined {
  const header = ((ip[0] ?? 0) & 15) * 4;
  const total = u16(ip, 2);
  const isFragment = (u16(ip, 6) & 0x1fff) !== 0;
  if (ip.length < 20 || header < 20 || header > ip.length || isFragment) return undefined;
  // A length of 0 is written where the network card cuts the packet up itself.
  const rest = ip.subarray(header, total >= header ? total : undefined);
  return { protocol: ip[9] ?? 0, from: ipv4Text(ip, 12), to: ipv4Text(ip, 16), rest };
}

const ipv4Text = (ip: Uint8Array, at: number): string => `${ip[at]}.${ip[at + 1]}.${ip[at + 2]}.${ip[at + 3]}`;

/** Headers between that of IPv6 and what it carries: hop by hop, routing, destination options (RFC 8200, 4). */
const passedHeaders: readonly number[] = [0, 43, 60];
const fragmentHeader = 44;

function overIpv6(ip: Uint8Array): Inner | undefined {
  if (ip.length < 40 || (ip[0] ?? 0) >> 4 !== 6) return undefined;
  const length = u16(ip, 4);
  const end = length === 0 ? ip.length : 40 + length;
  let protocol = ip[6] ?? 0;
  let at = 40;
  while (passedHeaders.includes(protocol) || protocol === fragmentHeader) {
    if (at + 8 > ip.length || (protocol === fragmentHeader && u16(ip, at + 2) >> 3 !== 0)) return undefined;
    const size = protocol === fragmentHeader ? 8 : ((ip[at + 1] ?? 0) + 1) * 8;
    protocol = ip[at] ?? 0;
    at += size;
  }
  return {
    protocol,
    from: ipv6Text(ip.subarray(8, 24)),
    to: ipv6Text(ip.subarray(24, 40)),
    rest: ip.subarray(at, end),
  };
}

/** As RFC 5952 writes it: the longest run of zeros, of two at least and the first of equals, is left out. */
function ipv6Text(bytes: Uint8Array): string {
  const groups = Array.from({ length: 8 }, (_, n) => u16(bytes, n * 2));
  let best = { from: 0, length: 1 };
  for (let from = 0; from < 8; from += 1) {
    let length = 0;
    while (from + length < 8 && groups[from + length] === 0) length += 1;
    if (length > best.length) best = { from, length };
  }
  const text = (part: readonly number[]) => part.map((group) => group.toString(16)).join(':');
  if (best.length < 2) return text(groups);
  return `${text(groups.slice(0, best.from))}::${text(groups.slice(best.from + best.length))}`;
}

const u16 = (bytes: Uint8Array, at: number): number => ((bytes[at] ?? 0) << 8) | (bytes[at + 1] ?? 0);
