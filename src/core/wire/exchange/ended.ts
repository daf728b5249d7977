import { isIntact } from '../bytes';
import type { Exchange } from './exchange';
import type { Framing } from './framing';
import { arrivedFrom } from './marked';
import { overlong, textOf, writeBytes } from './plain';

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
      const { as, check } = framing;
      if (!isIntact(raw, { check })) return [{ raw, says: [], fault: 'Its checksum is wrong.' }];
      // An ending before the pause says nothing.
      const ending = as === 'text' ? (/[\r\n\0]*$/.exec(textOf(raw, 'latin-1') ?? '')?.[0].length ?? 0) : 0;
      return [arrivedFrom(raw, framing, 0, ending)];
    },
    rest: whole,
    forget: () => undefined,
  };
}
