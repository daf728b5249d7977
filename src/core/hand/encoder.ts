import type { EncoderCoding } from '../show';

/**
 * The notches that an endless encoder was turned by with one message, right is positive. `raw` is the value of a control change, 0 to 127:
 * a number in two's complement, one that is 64 at rest, or one whose bit 6 is the sign.
 */
export function notchesOf(coding: EncoderCoding, raw: number): number {
  switch (coding) {
    case 'twos':
      return raw < 64 ? raw : raw - 128;
    case 'offset':
      return raw - 64;
    case 'sign':
      return (raw & 0x40) === 0 ? raw & 0x3f : -(raw & 0x3f);
  }
}

/**
 * Where a rocker is, from -1 to 1 and up positive, as an axis of a controller or a wheel that springs back says it. The second axis of a stick
 * counts downwards (Gamepad API, "standard" mapping); a twist counts to the right.
 */
export function rockerWay(input: string, value: number): number {
  if (!input.startsWith('axis ')) return value * 2 - 1;
  return Number(input.split(' ')[1]) % 2 === 1 ? -value : value;
}
