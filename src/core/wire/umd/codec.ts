import { fail, ok, type Result } from '../../result';
import { ByteReader } from '../byte-reader';
import type { DecodeError } from '../decode-error';
import type { UmdLamp, UmdV3Message, UmdV5Display, UmdV5Packet } from './messages';
import {
  v3FrameBytes,
  v3HeaderBit,
  v3MaxDisplay,
  v3TextBytes,
  v5ControlDataBit,
  v5Lamps,
  v5MaxPacketBytes,
  v5ScreenControlFlag,
  v5Shift,
  v5UnicodeFlag,
  v5Version,
} from './wire';

const isAscii = (text: string): boolean => /^[\x20-\x7e]*$/.test(text);
const ascii = (bytes: Uint8Array): string => String.fromCharCode(...bytes);
const latin = (text: string): number[] =>
  // Displays of version 3.1 know nothing else; accents are taken off rather than shown as rubbish.
  Array.from(text.normalize('NFKD').replace(/\p{M}/gu, ''), (c) => (isAscii(c) ? c.charCodeAt(0) : 0x3f));

/** One display, as the 18 bytes of version 3.1. What does not fit or is not ASCII is cut off or shown as `?`. */
export function encodeUmdV3({ display, tallies, brightness, text }: UmdV3Message): Uint8Array {
  const control = tallies.reduce((bits, on, n) => bits | (on ? 1 << n : 0), (brightness & 3) << 4);
  const letters = latin(text).slice(0, v3TextBytes);
  const blanks = Array.from({ length: v3TextBytes - letters.length }, () => 0x20);
  return Uint8Array.from([v3HeaderBit | Math.min(display, v3MaxDisplay), control, ...letters, ...blanks]);
}

/** Reads one datagram of version 3.1. */
export function decodeUmdV3(bytes: Uint8Array): Result<UmdV3Message, DecodeError> {
  const reader = new ByteReader(bytes);
  const header = reader.u8();
  if ((header & v3HeaderBit) === 0) reader.reject('bad-value', 'The first byte has its highest bit set.', 0);
  const display = header & ~v3HeaderBit;
  if (display > v3MaxDisplay) reader.reject('bad-value', `A display has a number up to ${v3MaxDisplay}.`, 0);
  const control = reader.u8();
  if (control & 0x80) reader.reject('bad-value', 'The highest bit of the control byte is 0.', 1);
  const letters = reader.take(v3FrameBytes - 2);
  const odd = letters.findIndex((byte) => byte < 0x20 || byte > 0x7e);
  if (odd !== -1) reader.reject('bad-value', 'The text is printable ASCII.', 2 + odd);
  reader.end();
  if (reader.error) return fail(reader.error);
  const on = (n: number): boolean => (control & (1 << n)) !== 0;
  return ok({
    display,
    tallies: [on(0), on(1), on(2), on(3)],
    brightness: (control >> 4) & 3,
    text: ascii(letters).trimEnd(),
  });
}

const codeOf = (lamp: UmdLamp): number => v5Lamps.indexOf(lamp);

/** A packet of version 5.0. Texts go out as ASCII, or all of them as UTF-16LE when one of them needs it. */
export function encodeUmdV5({ screen, displays }: UmdV5Packet): Uint8Array {
  const unicode = !displays.every(({ text }) => isAscii(text));
  const out: number[] = [0, 0, v5Version, unicode ? v5UnicodeFlag : 0];
  const u16 = (value: number) => out.push(value & 0xff, (value >> 8) & 0xff);
  u16(screen);
  for (const { display, left, label, right, brightness, text } of displays) {
    u16(display);
    u16(
      (codeOf(right) << v5Shift.right) |
        (codeOf(label) << v5Shift.label) |
        (codeOf(left) << v5Shift.left) |
        ((brightness & 3) << v5Shift.brightness),
    );
    u16(text.length * (unicode ? 2 : 1));
    for (let n = 0; n < text.length; n += 1) {
      if (unicode) u16(text.charCodeAt(n));
      else out.push(text.charCodeAt(n));
    }
  }
  const count = out.length - 2;
  out[0] = count & 0xff;
  out[1] = count >> 8;
  return Uint8Array.from(out);
}

/** Reads one datagram of version 5.0. Control data is refused: the protocol does not define any. */
export function decodeUmdV5(bytes: Uint8Array): Result<UmdV5Packet, DecodeError> {
  const reader = new ByteReader(bytes);
  const u16 = (): number => reader.u8() | (reader.u8() << 8);
  if (bytes.length > v5MaxPacketBytes) reader.reject('overlong', `A packet has ${v5MaxPacketBytes} bytes at the most.`);
  const count = u16();
  if (count !== bytes.length - 2) reader.reject('bad-value', 'The byte count is not that of the packet.', 0);
  const version = reader.u8();
  if (version !== v5Version) reader.reject('bad-value', `Version ${version} is not known.`, 2);
  const flags = reader.u8();
  if (flags & v5ScreenControlFlag) reader.reject('bad-value', 'Control data of a screen is not defined.', 3);
  const screen = u16();
  const displays: UmdV5Display[] = [];
  while (reader.left > 0 && !reader.error) displays.push(readDisplay(reader, u16, (flags & v5UnicodeFlag) !== 0));
  reader.end();
  return reader.error ? fail(reader.error) : ok({ screen, displays });
}

function readDisplay(reader: ByteReader, u16: () => number, unicode: boolean): UmdV5Display {
  const display = u16();
  const at = reader.offset;
  const control = u16();
  if (control & v5ControlDataBit) reader.reject('bad-value', 'Control data of a display is not defined.', at);
  const lengthAt = reader.offset;
  const length = u16();
  if (unicode && length % 2 !== 0) reader.reject('bad-value', 'UTF-16 has two bytes a letter.', lengthAt);
  const raw = reader.take(length);
  const lamp = (shift: number): UmdLamp => v5Lamps[(control >> shift) & 3] ?? 'off';
  return {
    display,
    left: lamp(v5Shift.left),
    label: lamp(v5Shift.label),
    right: lamp(v5Shift.right),
    brightness: (control >> v5Shift.brightness) & 3,
    text: unicode ? utf16(raw) : ascii(raw),
  };
}

function utf16(bytes: Uint8Array): string {
  let text = '';
  for (let n = 0; n + 1 < bytes.length; n += 2)
    text += String.fromCharCode((bytes[n] ?? 0) | ((bytes[n + 1] ?? 0) << 8));
  return text;
}
