import { fromHex, toHex } from '../hex';
import type { Arrived, Exchange } from './exchange';
import type { Framing } from './framing';
import { bytesExchange, overlong, textOf, writeBytes } from './plain';

/** Frames over a stream that end with chosen bytes, or with a pause. */

type Read = Pick<Extract<Framing, { kind: 'terminated' | 'silence' }>, 'as' | 'encoding'>;

/** What a frame says: its hexadecimal digits, or its text without the `ending` bytes at its end. */
function arrivedFrom(raw: Uint8Array, { as, encoding }: Read, ending: number): Arrived {
  if (as === 'bytes') return { raw, says: [{ kind: 'text', text: toHex(raw) }] };
  const text = textOf(raw.subarray(0, raw.length - ending), encoding);
  if (text === undefined) return { raw, says: [], fault: 'not valid in the character set of the driver' };
  return { raw, says: [{ kind: 'text', text }] };
}

export function terminatedExchange(framing: Extract<Framing, { kind: 'terminated' }>): Exchange {
  const terminator = terminatorBytes(framing.terminator);
  const read = (raw: Uint8Array) => arrivedFrom(raw, framing, terminator.length);
  return bytesExchange({ kind: 'terminated', terminator }, framing.maxFrameBytes, undefined, read);
}

/** The bytes of a terminator written in hexadecimal digits. */
function terminatorBytes(hex: string): Uint8Array {
  const bytes = fromHex(hex);
  return bytes.ok && bytes.value.length > 0 ? bytes.value : Uint8Array.of(0x0a);
}

/** What comes without a pause is one frame. Never holds more than `maxFrameBytes`; more than that is dropped up to the next pause. */
export function silenceExchange(framing: Extract<Framing, { kind: 'silence' }>): Exchange {
  let pieces: Uint8Array[] = [];
  let length = 0;
  let dropping = false;
  const whole = (): Uint8Array => {
    const raw = new Uint8Array(length);
    let at = 0;
    for (const piece of pieces) {
      raw.set(piece, at);
      at += piece.length;
    }
    return raw;
  };
  return {
    write: writeBytes,
    silenceMs: framing.ms,
    read: (chunk) => {
      if (dropping) return [];
      if (length + chunk.length > framing.maxFrameBytes) {
        dropping = true;
        pieces = [];
        length = 0;
        return [overlong(framing.maxFrameBytes, chunk.slice(0, 64))];
      }
      pieces.push(chunk.slice());
      length += chunk.length;
      return [];
    },
    flush: () => {
      dropping = false;
      if (length === 0) return [];
      const raw = whole();
      pieces = [];
      length = 0;
      const { as } = framing;
      // An ending before the pause says nothing.
      const ending = as === 'text' ? (/[\r\n\0]*$/.exec(textOf(raw, 'latin-1') ?? '')?.[0].length ?? 0) : 0;
      return [arrivedFrom(raw, framing, ending)];
    },
    rest: whole,
    forget: () => undefined,
  };
}
