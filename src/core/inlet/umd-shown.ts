import { fail, ok, type Result } from '../result';
import { decodeUmdV3, decodeUmdV5, type UmdLamp } from '../wire';

/** What one display of another system shows. */
export interface UmdShown {
  readonly display: number;
  readonly text: string;
  readonly left: UmdLamp;
  readonly right: UmdLamp;
}

const v3Bytes = 18;

/**
 * Reads a datagram of UMD tally, in version 3.1 (its first byte has the highest bit set, and it is a number of displays of 18 bytes) or 5.0. In version
 * 3.1 the first lamp is red on the left, the second green on the right.
 */
export function umdShown(bytes: Uint8Array): Result<readonly UmdShown[], string> {
  if (bytes.length % v3Bytes === 0 && (bytes[0] ?? 0) >= 0x80) {
    const shown: UmdShown[] = [];
    for (let at = 0; at < bytes.length; at += v3Bytes) {
      const read = decodeUmdV3(bytes.subarray(at, at + v3Bytes));
      if (!read.ok) return fail(read.error.message);
      const { display, text, tallies } = read.value;
      shown.push({ display, text, left: tallies[0] ? 'red' : 'off', right: tallies[1] ? 'green' : 'off' });
    }
    return ok(shown);
  }
  const packet = decodeUmdV5(bytes);
  if (!packet.ok) return fail(packet.error.message);
  return ok(packet.value.displays.map(({ display, text, left, right }) => ({ display, text, left, right })));
}
