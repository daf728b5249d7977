import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { fromHex, toHex } from '../hex';
import { encodeSlip, OscStream } from '.';

const bytes = (hex: string): Uint8Array => {
  const read = fromHex(hex);
  if (!read.ok) throw new Error(hex);
  return read.value;
};
const framesOf = (stream: OscStream, chunk: Uint8Array) =>
  stream.push(chunk).map((frame) => (frame.kind === 'frame' ? toHex(frame.raw) : frame.code));

describe('a stream of OSC packets', () => {
  it.each([
    ['behind its size (OSC 1.0)', '00000008 2F6162 00 2C000000', ['2F6162002C000000']],
    ['two of them', '00000004 2F610000 00000004 2F620000', ['2F610000', '2F620000']],
    ['as SLIP (OSC 1.1)', 'C0 2F610000 C0', ['2F610000']],
    ['as SLIP with an END inside', 'C0 2F61DBDC00 C0', ['2F61C000']],
    ['with a size that is too large', '7FFFFFFF 2F61', ['overlong']],
    ['with a negative size', '80000000 2F61', ['overlong']],
    ['that is not all there', '00000008 2F6162', []],
  ])('%s', (_, hex, frames) => {
    expect(framesOf(new OscStream(100), bytes(hex.replaceAll(' ', '')))).toEqual(frames);
  });

  it('answers in the framing that it heard', () => {
    const packet = bytes('2F610000');
    const sized = new OscStream(100);
    sized.push(bytes('000000042F620000'));
    expect(toHex(sized.encode(packet))).toBe('000000042F610000');
    const slip = new OscStream(100);
    slip.push(bytes('C0'));
    expect(toHex(slip.encode(packet))).toBe(toHex(encodeSlip(packet)));
  });

  it('gives back what was put into it, however it is cut, and never throws', () => {
    fc.assert(
      fc.property(
        fc.array(fc.uint8Array({ minLength: 1, maxLength: 60 }), { minLength: 1, maxLength: 5 }),
        fc.boolean(),
        fc.array(fc.integer({ min: 1, max: 20 }), { maxLength: 20 }),
        (packets, isSlip, cuts) => {
          const sender = new OscStream(100);
          if (isSlip) sender.push(Uint8Array.of(0xc0));
          const stream = Uint8Array.from(packets.flatMap((packet) => [...sender.encode(packet)]));
          const receiver = new OscStream(100);
          const frames: string[] = [];
          let at = 0;
          for (const cut of [...cuts, stream.length]) {
            frames.push(...framesOf(receiver, stream.subarray(at, at + cut)));
            at += cut;
          }
          expect(frames).toEqual(packets.map(toHex));
        },
      ),
    );
    fc.assert(fc.property(fc.uint8Array({ maxLength: 400 }), (any) => void new OscStream(50).push(any)));
  });
});
