import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { fromHex, toHex } from '../hex';
import { decodeSacn, encodeSacn, encodeSacnUniverses } from './codec';
import type { SacnPacket } from './messages';
import { DmxOutput } from './output';

const hex = (text: string): Uint8Array => {
  const bytes = fromHex(text);
  if (!bytes.ok) throw new Error(bytes.error.message);
  return bytes.value;
};

const cid = hex('EF 07 C8 DD 00 64 44 01 A3 A2 45 9E F8 E6 14 3E');
const source = hex('53 6F 75 72 63 65 20 41'); // “Source A”

/** Field by field, from the tables of ANSI E1.31: 4-1 the data packet, 4-3 the list of universes. */
const data = hex(`
  0010 0000 4153432D45312E3137000000 7078 00000004 ${toHex(cid)}
  7062 00000002 ${toHex(source)} ${'00'.repeat(56)} 64 0000 FF 40 1A85
  7015 02 A1 0000 0001 000B 00 00 01 7F 80 FE FF 00 00 00 0A`);
const packet: SacnPacket = {
  cid,
  sourceName: 'Source A',
  priority: 100,
  sequence: 255,
  isPreview: false,
  isTerminated: true,
  universe: 6789,
  startCode: 0,
  slots: Uint8Array.from([0, 1, 127, 128, 254, 255, 0, 0, 0, 10]),
};

describe('sACN', () => {
  it('a packet of levels is what its tables say', () => {
    expect(toHex(encodeSacn(packet))).toBe(toHex(data));
    expect(decodeSacn(data)).toEqual({ ok: true, value: packet });
  });

  it('a list of universes is what its tables say', () => {
    const list = hex(`
      0010 0000 4153432D45312E3137000000 706C 00000008 ${toHex(cid)}
      7056 00000002 ${toHex(source)} ${'00'.repeat(56)} 00000000
      700C 00000001 00 00 0001 1A85`);
    expect(toHex(encodeSacnUniverses(cid, 'Source A', [1, 6789]))).toBe(toHex(list));
    const read = decodeSacn(list);
    expect(read.ok ? '' : read.error.message).toContain('synchronisation or discovery');
  });

  it('a packet that is cut off, too long or changed in a fixed field is refused with the place', () => {
    for (let end = 0; end < data.length; end += 1) expect(decodeSacn(data.subarray(0, end)).ok).toBe(false);
    expect(decodeSacn(Uint8Array.from([...data, 0])).ok).toBe(false);
    const fixed = [0, 2, 4, 15, 16, 18, 38, 40, 115, 117, 118, 119, 121, 123];
    for (const at of fixed) {
      const wrong = data.slice();
      wrong[at] = (wrong[at] ?? 0) ^ 0x01;
      expect(decodeSacn(wrong), `byte ${at}`).toMatchObject({ ok: false });
    }
    const loud = data.slice();
    loud[108] = 201;
    expect(decodeSacn(loud)).toMatchObject({ ok: false, error: { offset: 108 } });
  });

  it('what is written is read again, with any name and any levels', () => {
    const some = fc.record({
      cid: fc.uint8Array({ minLength: 16, maxLength: 16 }),
      sourceName: fc.string({ unit: 'grapheme', maxLength: 100 }).filter((name) => !name.includes('\0')),
      priority: fc.integer({ min: 0, max: 200 }),
      sequence: fc.integer({ min: 0, max: 255 }),
      isPreview: fc.boolean(),
      isTerminated: fc.boolean(),
      universe: fc.integer({ min: 1, max: 63_999 }),
      startCode: fc.integer({ min: 0, max: 255 }),
      slots: fc.uint8Array({ maxLength: 512 }),
    });
    fc.assert(
      fc.property(some, (given) => {
        const read = decodeSacn(encodeSacn(given));
        if (!read.ok) throw new Error(read.error.message);
        const { sourceName, ...rest } = read.value;
        const { sourceName: wanted, ...others } = given;
        expect(rest).toEqual(others);
        expect(wanted.startsWith(sourceName)).toBe(true);
        if (new TextEncoder().encode(wanted).length < 64) expect(sourceName).toBe(wanted);
      }),
    );
  });

  it('bytes of any kind never throw', () => {
    const near = fc
      .tuple(fc.integer({ min: 0, max: data.length - 1 }), fc.integer({ min: 0, max: 255 }))
      .map(([at, byte]) => data.map((each, n) => (n === at ? byte : each)));
    fc.assert(fc.property(fc.oneof(fc.uint8Array({ maxLength: 700 }), near), (bytes) => void decodeSacn(bytes)));
  });
});

const levels = (channel: number, values: readonly number[], more: object = {}) =>
  ({ do: 'levels', channel, last: channel + values.length - 1, levels: values, bytes: 1, fadeMs: 0, ...more }) as const;

describe('levels', () => {
  it('repeat up to the last channel, and fade from what they are', () => {
    const output = new DmxOutput();
    output.change(levels(10, [255, 0, 7], { last: 14 }), 0);
    expect([...output.slotsAt(0).subarray(8, 15)]).toEqual([0, 255, 0, 7, 255, 0, 0]);
    output.change(levels(10, [55], { fadeMs: 1000 }), 100);
    expect([600, 1099, 1100, 5000].map((now) => output.slotsAt(now)[9])).toEqual([155, 55, 55, 55]);
    expect(output.isFading).toBe(false);
  });

  it('a value that is set ends the fade of its channel, also the other half of a fine one', () => {
    const output = new DmxOutput();
    output.change(levels(1, [65_535], { last: 2, bytes: 2, fadeMs: 1000 }), 0);
    expect([...output.slotsAt(500).subarray(0, 2)]).toEqual([0x80, 0x00]);
    output.change(levels(2, [9]), 500);
    expect([...output.slotsAt(900).subarray(0, 2)]).toEqual([0x80, 9]);
    expect(output.isFading).toBe(false);
  });

  it('a blackout keeps them', () => {
    const output = new DmxOutput();
    output.change(levels(1, [200]), 0);
    output.change({ do: 'blackout', on: true }, 0);
    expect(output.slotsAt(0)[0]).toBe(0);
    expect(output.levelsAt(0)[0]).toBe(200);
    output.change({ do: 'blackout', on: false }, 0);
    expect(output.slotsAt(0)[0]).toBe(200);
  });

  it('after any changes each channel is at or between values that were asked for', () => {
    const change = fc.record({
      channel: fc.integer({ min: 1, max: 20 }),
      count: fc.integer({ min: 1, max: 6 }),
      level: fc.integer({ min: 0, max: 255 }),
      fadeMs: fc.constantFrom(0, 0, 40, 500),
      wait: fc.integer({ min: 0, max: 300 }),
    });
    let fading = 0;
    fc.assert(
      fc.property(fc.array(change, { minLength: 1, maxLength: 30 }), (changes) => {
        const output = new DmxOutput();
        const asked = Array.from({ length: 513 }, () => [0]);
        let now = 0;
        for (const { channel, count, level, fadeMs, wait } of changes) {
          output.change(levels(channel, Array<number>(count).fill(level), { fadeMs }), now);
          for (let n = 0; n < count; n += 1) asked[channel + n]?.push(level);
          now += wait;
          if (output.isFading) fading += 1;
          const slots = output.slotsAt(now);
          const isBetween = asked.slice(1).every((values, n) => {
            const slot = slots[n] ?? -1;
            return slot >= Math.min(...values) && slot <= Math.max(...values);
          });
          expect(isBetween).toBe(true);
        }
        expect([...output.slotsAt(now + 1000)]).toEqual(asked.slice(1).map((values) => values.at(-1)));
      }),
    );
    expect(fading).toBeGreaterThan(100);
  });
});
