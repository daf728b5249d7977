import fc from 'fast-check';
import { generate } from 'mqtt-packet';
import { describe, expect, it } from 'vitest';
import { PacketLimit } from '.';

const publish = (bytes: number): Uint8Array =>
  generate({ cmd: 'publish', topic: 'a', payload: Buffer.alloc(bytes), qos: 0, dup: false, retain: false });

describe('the limit of packets', () => {
  it.each([
    ['no remaining length', [0xc0, 0x00], true],
    ['127 bytes, of one digit', [0x30, 0x7f], true],
    ['128 bytes, of two digits', [0x30, 0x80, 0x01], true],
    ['1000 bytes', [0x30, 0xe8, 0x07], true],
    ['1001 bytes', [0x30, 0xe9, 0x07], false],
    ['the longest that can be written', [0x30, 0xff, 0xff, 0xff, 0x7f], false],
    ['a length of five digits', [0x30, 0x80, 0x80, 0x80, 0x80, 0x01], false],
  ])('%s', (_, bytes, isTaken) => {
    expect(new PacketLimit(1000).takes(Uint8Array.from(bytes))).toBe(isTaken);
  });

  it('takes exactly the streams whose packets are short enough, however they are cut', () => {
    let refused = 0;
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 0, max: 400 }), { minLength: 1, maxLength: 6 }),
        fc.array(fc.integer({ min: 1, max: 200 }), { maxLength: 12 }),
        (sizes, cuts) => {
          const stream = Buffer.concat(sizes.map(publish));
          const limit = new PacketLimit(300);
          let at = 0;
          let isTaken = true;
          for (const cut of [...cuts, stream.length]) {
            isTaken &&= limit.takes(stream.subarray(at, at + cut));
            at += cut;
          }
          // The topic adds three bytes.
          const isShort = sizes.every((size) => size + 3 <= 300);
          if (!isShort) refused += 1;
          expect(isTaken).toBe(isShort);
        },
      ),
      { numRuns: 300 },
    );
    expect(refused).toBeGreaterThan(30);
  });
});
