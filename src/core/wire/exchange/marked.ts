import { behindCheck, checkWidth, type ByteFraming } from '../bytes';
import { fromHex, toHex } from '../hex';
import type { TextEncodingName } from '../lines';
import type { Arrived, Exchange } from './exchange';
import type { Framing } from './framing';
import { bytesExchange, textOf } from './plain';

/** Frames over a stream that are marked: by a length, a start, an end, a checksum. */

type Marked = Extract<Framing, { kind: 'terminated' | 'fixed' | 'prefixed' }>;

interface Reading {
  readonly as: 'bytes' | 'text';
  readonly encoding: TextEncodingName;
}

/** What a frame says: its hexadecimal digits, or its text without the bytes before and behind it. */
export function arrivedFrom(raw: Uint8Array, { as, encoding }: Reading, before: number, behind: number): Arrived {
  if (as === 'bytes') return { raw, says: [{ kind: 'text', text: toHex(raw) }] };
  const text = textOf(raw.subarray(before, raw.length - behind), encoding);
  if (text === undefined) return { raw, says: [], fault: 'not valid in the character set of the driver' };
  return { raw, says: [{ kind: 'text', text }] };
}

export function markedExchange(framing: Marked): Exchange {
  const layout = layoutOf(framing);
  if (framing.kind === 'fixed') return bytesExchange(layout, framing.maxFrameBytes);
  const { as = 'bytes', encoding = 'utf-8' } = framing;
  const before = framing.kind === 'terminated' ? (layout.start?.length ?? 0) : framing.header + framing.width;
  const after = framing.kind === 'terminated' && framing.after ? framing.after + bytesOf(framing.terminator).length : 0;
  const behind = after || behindCheck(layout) + (layout.check ? checkWidth(layout.check) : 0);
  return bytesExchange(layout, framing.maxFrameBytes, (raw) => arrivedFrom(raw, { as, encoding }, before, behind));
}

function layoutOf(framing: Marked): ByteFraming {
  const { check } = framing;
  const start = framing.start === undefined ? undefined : bytesOf(framing.start);
  switch (framing.kind) {
    case 'terminated': {
      const terminator = bytesOf(framing.terminator);
      return { ...framing, start, check, terminator: terminator.length > 0 ? terminator : Uint8Array.of(0x0a) };
    }
    case 'fixed':
    case 'prefixed':
      return { ...framing, start, check, end: framing.end === undefined ? undefined : bytesOf(framing.end) };
  }
}

/** Bytes written in hexadecimal digits, or one as a number. */
function bytesOf(written: number | string): Uint8Array {
  if (typeof written === 'number') return Uint8Array.of(written);
  const bytes = fromHex(written);
  return bytes.ok ? bytes.value : new Uint8Array();
}
