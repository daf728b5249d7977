import { fail, ok, type Result } from '../result';

/** One packet of a capture, as far as it was kept. */
export interface Packet {
  /** Milliseconds since 1970, with fractions; 0 where the file does not say. */
  readonly at: number;
  /** The LINKTYPE of its interface. */
  readonly linkType: number;
  readonly bytes: Uint8Array;
  /** The capture kept less than was sent. */
  readonly isCut: boolean;
}

export type CaptureErrorCode = 'empty' | 'not-a-capture' | 'wrong-block';

export interface CaptureError {
  readonly code: CaptureErrorCode;
  readonly message: string;
}

interface CaptureFile {
  readonly kind: 'pcap' | 'pcapng';
  readonly packets: readonly Packet[];
  /** Where the file ends in the middle of something: it was used up to there. */
  readonly cutAt?: number;
}

/** What files begin with that people take for a capture, or have packed one into. */
const others: readonly (readonly [magic: string, name: string])[] = [
  ['1f8b', 'a gzip archive. Unpack it first'],
  ['504b0304', 'a zip archive. Unpack it first'],
  ['fd377a58', 'an xz archive. Unpack it first'],
  ['28b52ffd', 'a zstd archive. Unpack it first'],
  ['7b', 'JSON text'],
  ['58435000', 'a capture in another format. Save it as pcapng'],
  ['736e6f6f70', 'a capture in the snoop format. Save it as pcapng'],
];

/**
 * Reads a packet capture: pcapng (draft-ietf-opsawg-pcapng) or pcap (draft-ietf-opsawg-pcap), in either byte order, with times of any resolution.
 * A file that ends too early is used as far as it goes.
 */
export function readCapture(file: Uint8Array): Result<CaptureFile, CaptureError> {
  if (file.length === 0) return fail({ code: 'empty', message: 'The file is empty.' });
  const view = new DataView(file.buffer, file.byteOffset, file.byteLength);
  const magic = file.length >= 4 ? view.getUint32(0) : 0;
  if (magic === sectionHeader) return readPcapng(file, view);
  const classic = classicMagics.get(magic);
  if (classic && file.length >= classicHeaderBytes) return ok(readPcap(file, view, classic));
  const hex = Array.from(file.subarray(0, 6), (byte) => byte.toString(16).padStart(2, '0')).join('');
  const known = others.find(([begins]) => hex.startsWith(begins))?.[1];
  const is = known === undefined ? 'neither pcapng nor pcap' : known;
  return fail({ code: 'not-a-capture', message: `This is not a packet capture: it is ${is}.` });
}

/** pcap, 4: the magic number tells the byte order and whether times are in microseconds or nanoseconds. */
const classicMagics: ReadonlyMap<number, { readonly isLittle: boolean; readonly fractionsPerMs: number }> = new Map([
  [0xa1b2c3d4, { isLittle: false, fractionsPerMs: 1e3 }],
  [0xd4c3b2a1, { isLittle: true, fractionsPerMs: 1e3 }],
  [0xa1b23c4d, { isLittle: false, fractionsPerMs: 1e6 }],
  [0x4d3cb2a1, { isLittle: true, fractionsPerMs: 1e6 }],
]);
const classicHeaderBytes = 24;
const recordHeaderBytes = 16;

function readPcap(
  file: Uint8Array,
  view: DataView,
  { isLittle, fractionsPerMs }: { readonly isLittle: boolean; readonly fractionsPerMs: number },
): CaptureFile {
  // The upper bits tell of a frame check sequence.
  const linkType = view.getUint32(20, isLittle) & 0xffff;
  const packets: Packet[] = [];
  let offset = classicHeaderBytes;
  while (offset < file.length) {
    if (offset + recordHeaderBytes > file.length) return { kind: 'pcap', packets, cutAt: offset };
    const kept = view.getUint32(offset + 8, isLittle);
    const start = offset + recordHeaderBytes;
    if (start + kept > file.length) return { kind: 'pcap', packets, cutAt: offset };
    const at = view.getUint32(offset, isLittle) * 1000 + view.getUint32(offset + 4, isLittle) / fractionsPerMs;
    const isCut = kept < view.getUint32(offset + 12, isLittle);
    packets.push({ at, linkType, bytes: file.subarray(start, start + kept), isCut });
    offset = start + kept;
  }
  return { kind: 'pcap', packets };
}

/** Block types (pcapng, 4). The one of a section reads the same in both byte orders. */
const sectionHeader = 0x0a0d0d0a;
const interfaceDescription = 1;
const obsoletePacket = 2;
const simplePacket = 3;
const enhancedPacket = 6;
const byteOrderMagic = 0x1a2b3c4d;
const resolutionOption = 9;
/** Type, length, length again. */
const leastBlockBytes = 12;

interface Interface {
  readonly linkType: number;
  readonly keeps: number;
  readonly unitsPerMs: number;
}

function readPcapng(file: Uint8Array, view: DataView): Result<CaptureFile, CaptureError> {
  const packets: Packet[] = [];
  let interfaces: Interface[] = [];
  let isLittle = false;
  let offset = 0;
  const done = (cutAt?: number): Result<CaptureFile, CaptureError> =>
    ok({ kind: 'pcapng', packets, ...(cutAt === undefined ? {} : { cutAt }) });
  while (offset < file.length) {
    if (offset + leastBlockBytes > file.length) return done(offset);
    if (view.getUint32(offset) === sectionHeader) {
      // Each section has a byte order and interfaces of its own (4.1).
      isLittle = view.getUint32(offset + 8) !== byteOrderMagic;
      interfaces = [];
    }
    const type = view.getUint32(offset, isLittle);
    const length = view.getUint32(offset + 4, isLittle);
    if (length < leastBlockBytes || length % 4 !== 0) {
      if (packets.length > 0) return done(offset);
      return fail({
        code: 'wrong-block',
        message: `The block at byte ${offset} says that it has ${length} bytes, which is impossible: the file is damaged there.`,
      });
    }
    const end = offset + length;
    if (end > file.length) return done(offset);
    const body = new DataView(file.buffer, file.byteOffset + offset + 8, length - leastBlockBytes);
    if (type === interfaceDescription && body.byteLength >= 8) interfaces.push(readInterface(body, isLittle));
    const packet = packetIn(type, body, isLittle, interfaces);
    if (packet) packets.push(packet);
    offset = end;
  }
  return done();
}

function readInterface(body: DataView, isLittle: boolean): Interface {
  let unitsPerMs = 1e3;
  for (let at = 8; at + 4 <= body.byteLength;) {
    const code = body.getUint16(at, isLittle);
    const length = body.getUint16(at + 2, isLittle);
    if (code === 0) break;
    // A power of ten, or with the highest bit of two (4.2).
    if (code === resolutionOption && length >= 1 && at + 4 < body.byteLength) {
      const power = body.getUint8(at + 4);
      unitsPerMs = power & 0x80 ? 2 ** (power & 0x7f) / 1000 : 10 ** (power - 3);
    }
    at += 4 + length + ((4 - (length % 4)) % 4);
  }
  return { linkType: body.getUint16(0, isLittle), keeps: body.getUint32(4, isLittle), unitsPerMs };
}

function packetIn(
  type: number,
  body: DataView,
  isLittle: boolean,
  interfaces: readonly Interface[],
): Packet | undefined {
  const u32 = (at: number) => body.getUint32(at, isLittle);
  const bytesAt = (at: number, length: number) => new Uint8Array(body.buffer, body.byteOffset + at, length);
  if (type === enhancedPacket || type === obsoletePacket) {
    if (body.byteLength < 20) return undefined;
    const from = interfaces[type === enhancedPacket ? u32(0) : body.getUint16(0, isLittle)];
    const kept = u32(12);
    if (!from || 20 + kept > body.byteLength) return undefined;
    const at = (u32(4) * 2 ** 32 + u32(8)) / from.unitsPerMs;
    return { at, linkType: from.linkType, bytes: bytesAt(20, kept), isCut: kept < u32(16) };
  }
  if (type !== simplePacket || body.byteLength < 4) return undefined;
  const [from] = interfaces;
  if (!from) return undefined;
  const sent = u32(0);
  // Its padding is no part of it; how much was kept is only known from the interface (4.4).
  const kept = Math.min(sent, from.keeps || sent, body.byteLength - 4);
  return { at: 0, linkType: from.linkType, bytes: bytesAt(4, kept), isCut: kept < sent };
}
