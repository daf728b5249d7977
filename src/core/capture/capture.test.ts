import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import visionSwitcher from '../../drivers/vision-switcher.json';
import { compileDriver } from '../driver';
import { toHex } from '../wire';
import { captureRows, type CaptureDevice } from './rows';
import { conversationsOf } from './conversations';
import { readCapture, type Packet } from './packets';
import { writePcapng, type CapturedDevice, type CapturedMessage } from './write';

const utf8 = new TextEncoder();
const bytes = (hex: string): Uint8Array => Uint8Array.from(Buffer.from(hex.replaceAll(/[^0-9a-f]/gi, ''), 'hex'));
const big = (value: number, size: number) => value.toString(16).padStart(size * 2, '0');

/** An IPv4 packet with TCP, written by hand from RFC 791 and RFC 9293; its checksums are nobody's concern here. */
function tcp(from: string, to: string, sequence: number, payload: string | Uint8Array, flags = 0x18): Uint8Array {
  const [a = '', aPort = ''] = from.split(':');
  const [b = '', bPort = ''] = to.split(':');
  const address = (text: string) =>
    text
      .split('.')
      .map((part) => big(Number(part), 1))
      .join('');
  const body = typeof payload === 'string' ? utf8.encode(payload) : payload;
  return bytes(
    `45 00 ${big(40 + body.length, 2)} 0000 4000 40 06 0000 ${address(a)} ${address(b)}` +
      `${big(Number(aPort), 2)} ${big(Number(bPort), 2)} ${big(sequence >>> 0, 4)} 00000000 50 ${big(flags, 1)} ffff 0000 0000${toHex(body)}`,
  );
}

const raw = (packet: Uint8Array, at = 0): Packet => ({ at, linkType: 101, bytes: packet, isCut: false });
const says = (packets: readonly Packet[]): string[] =>
  conversationsOf(packets).flatMap(({ pieces }) =>
    pieces.map((piece) => `${piece.toCalled ? '>' : '<'}${piece.missing || ''} ${Buffer.from(piece.bytes).toString()}`),
  );

const switcherDocument = compileDriver(visionSwitcher);
if (!switcherDocument.ok) throw new Error('The driver does not compile.');
const { framing } = switcherDocument.value.document;
const switcher: CaptureDevice = { id: 'sw', transport: 'tcp', host: '10.9.8.7', port: 4401, framing };

describe('a capture file', () => {
  const header = (magic: string, rest: string) => bytes(`${magic} ${rest}`);

  it.each([
    [
      'in little-endian microseconds',
      'd4c3b2a1',
      '02000400 00000000 00000000 ffff0000 65000000',
      '01000000 40420f00 02000000 02000000',
    ],
    [
      'in big-endian microseconds',
      'a1b2c3d4',
      '00020004 00000000 00000000 0000ffff 00000065',
      '00000001 000f4240 00000002 00000002',
    ],
    [
      'in little-endian nanoseconds',
      '4d3cb2a1',
      '02000400 00000000 00000000 ffff0000 65000000',
      '01000000 00ca9a3b 02000000 02000000',
    ],
    [
      'with its frame check sequence told',
      'd4c3b2a1',
      '02000400 00000000 00000000 ffff0000 65000094',
      '01000000 40420f00 02000000 02000000',
    ],
  ])('in the older format is read %s', (_name, magic, rest, record) => {
    const read = readCapture(header(magic, `${rest} ${record} abcd`));
    expect(read).toEqual({
      ok: true,
      value: { kind: 'pcap', packets: [{ at: 2000, linkType: 101, bytes: bytes('abcd'), isCut: false }] },
    });
  });

  it('of sections in both byte orders is read, with the resolution of each interface, and blocks passed over that it does not know', () => {
    // pcapng, 4.1: section header; 4.2: interface with if_tsresol 9; 4.3: enhanced packet; an unknown block; 4.4: simple packet.
    const little =
      '0a0d0d0a 1c000000 4d3c2b1a 01000000 ffffffffffffffff 1c000000' +
      '01000000 20000000 6500 0000 00000000 0900 0100 09000000 0000 0000 20000000' +
      '0b000000 10000000 01020304 10000000' +
      '06000000 24000000 00000000 00000000 00ca9a3b 01000000 05000000 aa000000 24000000';
    const large =
      '0a0d0d0a 0000001c 1a2b3c4d 0001 0000 ffffffffffffffff 0000001c' +
      '00000001 00000014 0071 0000 00000003 00000014' +
      '00000003 00000014 00000005 bbccdd00 00000014';
    expect(readCapture(bytes(little + large))).toEqual({
      ok: true,
      value: {
        kind: 'pcapng',
        packets: [
          { at: 1000, linkType: 101, bytes: bytes('aa'), isCut: true },
          { at: 0, linkType: 113, bytes: bytes('bbccdd'), isCut: true },
        ],
      },
    });
  });

  it.each([
    ['nothing', new Uint8Array(), 'empty'],
    ['a packed one', bytes('1f8b08000000'), 'gzip'],
    ['a text', utf8.encode('{"at":1}'), 'JSON'],
    ['something else', bytes('00112233445566778899'), 'neither pcapng nor pcap'],
    ['a damaged one', bytes('0a0d0d0a 1b000000 4d3c2b1a 01000000 ffffffffffffffff 1c000000'), 'byte 0'],
  ])('that is %s says what it is', (_name, file, part) => {
    const read = readCapture(file);
    expect(read.ok ? '' : read.error.message).toMatch(new RegExp(part));
  });

  it('that breaks off is used as far as it goes, wherever that is', () => {
    const whole = writePcapng(messages(3));
    const all = readCapture(whole);
    expect(all.ok && all.value.packets.length).toBe(3);
    let least = 3;
    for (let end = whole.length - 1; end >= 60; end -= 1) {
      const read = readCapture(whole.subarray(0, end));
      if (!read.ok) throw new Error(read.error.message);
      // Between two blocks nothing is missing.
      expect(read.value.packets.length).toBeLessThanOrEqual(least);
      least = read.value.packets.length;
      if (read.value.cutAt !== undefined) expect(read.value.cutAt).toBeLessThanOrEqual(end);
    }
    expect(least).toBe(0);
  });

  it('never throws, whatever is in it', () => {
    const whole = writePcapng(messages(4));
    const damaged = fc.array(fc.tuple(fc.nat(whole.length - 1), fc.nat(255)), { maxLength: 20 }).map((places) => {
      const copy = whole.slice();
      for (const [at, value] of places) copy[at] = value;
      return copy;
    });
    let read = 0;
    fc.assert(
      fc.property(fc.oneof(damaged, fc.uint8Array({ maxLength: 400 })), (file) => {
        const rows = captureRows(file, [switcher]);
        if (rows.ok && rows.value.rows.length > 0) read += 1;
        return true;
      }),
      { numRuns: 2000 },
    );
    // What is damaged in a few places is still read for the most part.
    expect(read).toBeGreaterThan(300);
  });
});

describe('a conversation over TCP', () => {
  const us = '10.9.8.1:50001';
  const them = '10.9.8.7:4401';

  it('is put in order, what was sent twice is read once, and gaps are told', () => {
    const packets = [
      raw(tcp(us, them, 100, '', 0x02)),
      raw(tcp(them, us, 900, '', 0x12)),
      raw(tcp(us, them, 101, 'TAKE')),
      raw(tcp(us, them, 107, '\r\n')),
      raw(tcp(us, them, 105, ' 2')),
      raw(tcp(us, them, 101, 'TAKE 2')),
      raw(tcp(them, us, 901, 'NOW ')),
      raw(tcp(them, us, 910, '2\r\n')),
    ];
    expect(says(packets)).toEqual(['> TAKE', '>  2', '> \r\n', '< NOW ', '<5 2\r\n']);
  });

  it('is read over the end of the numbers', () => {
    const packets = [
      raw(tcp(us, them, 0xfffffffe, 'abcd')),
      raw(tcp(us, them, 6, 'gh')),
      raw(tcp(us, them, 2, 'efef')),
    ];
    expect(says(packets)).toEqual(['> abcd', '> efef', '> gh']);
  });

  it('whose beginning was not captured belongs to the one with the lower port', () => {
    const [conversation] = conversationsOf([raw(tcp(them, us, 5, 'NOW'))]);
    expect(conversation?.called).toEqual({ address: '10.9.8.7', port: 4401 });
  });

  it('is the same bytes in any order, sent twice or not, as long as nothing is missing', () => {
    let shuffled = 0;
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 1, max: 9 }), { minLength: 1, maxLength: 12 }),
        fc.infiniteStream(fc.nat()),
        fc.nat(),
        (sizes, order, start) => {
          const text = sizes.map((size, n) => String.fromCharCode(97 + n).repeat(size)).join('');
          let at = 0;
          const parts = sizes.map((size) => {
            const part = raw(tcp(us, them, start + 1 + at, text.slice(at, at + size)));
            at += size;
            return part;
          });
          const twice = [...parts, ...parts.filter((_, n) => n % 3 === 0)];
          const mixed = twice
            .map((part) => ({ part, key: order.next().value as number }))
            .sort((a, b) => a.key - b.key)
            .map(({ part }) => part);
          if (mixed[0] !== parts[0]) shuffled += 1;
          const [conversation] = conversationsOf([raw(tcp(us, them, start, '', 0x02)), ...mixed]);
          const read = conversation?.pieces.map((piece) => Buffer.from(piece.bytes).toString()).join('');
          return read === text && conversation?.missing === 0;
        },
      ),
    );
    expect(shuffled).toBeGreaterThan(20);
  });
});

describe('the rows of a capture', () => {
  it('are cut into frames as the driver of the device cuts them', () => {
    const packets = [
      tcp('10.9.8.1:50001', '10.9.8.7:4401', 1, 'TAKE 2\r\n'),
      tcp('10.9.8.7:4401', '10.9.8.1:50001', 1, 'DONE\r\nNOW pro'),
      tcp('10.9.8.7:4401', '10.9.8.1:50001', 14, 'gram 2\r\nNEXT'),
    ];
    const read = captureRows(file(packets), [switcher]);
    if (!read.ok) throw new Error(read.error.message);
    const { parts, rows } = read.value;
    expect(parts).toMatchObject([{ id: 'sw', device: { id: 'sw', isExact: true }, missing: 0 }]);
    const text = (hex: string) => Buffer.from(hex, 'hex').toString();
    expect(rows.map(({ dir, hex, note }) => [dir, text(hex), note])).toEqual([
      ['out', 'TAKE 2\r\n', undefined],
      ['in', 'DONE\r\n', undefined],
      ['in', 'NOW program 2\r\n', undefined],
      ['in', 'NEXT', 'an incomplete message'],
    ]);
  });

  it('begin anew behind a gap, so that no message is made of two halves', () => {
    const packets = [
      tcp('10.9.8.1:50001', '10.9.8.7:4401', 1, '', 0x02),
      tcp('10.9.8.7:4401', '10.9.8.1:50001', 0, '', 0x12),
      tcp('10.9.8.7:4401', '10.9.8.1:50001', 1, 'NOW pro'),
      tcp('10.9.8.7:4401', '10.9.8.1:50001', 30, 'gram 2\r\nDONE\r\n'),
    ];
    const read = captureRows(file(packets), [switcher]);
    if (!read.ok) throw new Error(read.error.message);
    expect(read.value.rows.map(({ hex, note }) => [Buffer.from(hex, 'hex').toString(), note])).toEqual([
      ['NOW pro', 'an incomplete message'],
      ['', '22 bytes are missing in the capture'],
      ['gram 2\r\n', undefined],
      ['DONE\r\n', undefined],
    ]);
  });

  it('end where the device paused, for a driver that cuts by pauses', () => {
    const packets = [1, 4, 7].map((at) => tcp('10.9.8.7:4401', '10.9.8.1:50001', at, 'abc'));
    const silence = { kind: 'silence', ms: 100, as: 'text', encoding: 'utf-8', maxFrameBytes: 100 } as const;
    const read = captureRows(file(packets), [{ ...switcher, framing: silence }]);
    expect(read.ok && read.value.rows.map(({ hex }) => Buffer.from(hex, 'hex').toString())).toEqual([
      'abc',
      'abc',
      'abc',
    ]);
  });

  it('know a device from another room by its port, if only one has it, and leave what is strange as it is', () => {
    const packets = [
      tcp('192.168.1.5:51000', '192.168.1.9:4401', 1, 'TAKE 1\r\n'),
      tcp('192.168.1.5:51001', '192.168.1.10:9999', 1, 'HELLO'),
    ];
    const read = captureRows(file(packets), [switcher]);
    expect(read.ok && read.value.parts.map(({ id, device }) => [id, device?.isExact])).toEqual([
      ['sw', false],
      ['part-1', undefined],
    ]);
    const two = captureRows(file(packets), [switcher, { ...switcher, id: 'sw2', host: '10.9.8.8' }]);
    expect(two.ok && two.value.parts.map(({ id }) => id)).toEqual(['part-0', 'part-1']);
  });

  it('are the same messages that were written', () => {
    const message = fc.record({
      toDevice: fc.boolean(),
      hex: fc.uint8Array({ minLength: 1, maxLength: 40 }).map(toHex),
      comment: fc.string({ maxLength: 20 }),
    });
    fc.assert(
      fc.property(
        fc.array(message, { maxLength: 20 }),
        fc.constantFrom('tcp' as const, 'udp' as const),
        (list, transport) => {
          const device = { id: 'x', transport, host: '10.0.0.9', port: 7000 };
          const read = captureRows(writePcapng(list.map((each, n) => ({ ...each, at: 1000 + n, device }))), []);
          if (!read.ok) throw new Error(read.error.message);
          expect(read.value.rows.map(({ at, dir, hex }) => [at, dir, hex])).toEqual(
            list.map(({ toDevice, hex }, n) => [1000 + n, toDevice ? 'out' : 'in', hex]),
          );
        },
      ),
    );
  });
});

const device: CapturedDevice = { id: 'd', transport: 'tcp', host: '10.9.8.7', port: 4401 };
function messages(count: number): CapturedMessage[] {
  return Array.from({ length: count }, (_, n) => ({
    at: 1_700_000_000_000 + n * 250,
    toDevice: n % 2 === 0,
    hex: toHex(utf8.encode(`message ${n}\r\n`)),
    comment: `comment ${n}`,
    device,
  }));
}

/** A file in the older format, with packets without a frame. */
function file(packets: readonly Uint8Array[]): Uint8Array {
  const records = packets.map(
    (packet, n) => `${big(n, 4)} 00000000 ${big(packet.length, 4)} ${big(packet.length, 4)} ${toHex(packet)}`,
  );
  return bytes(`a1b2c3d4 00020004 00000000 00000000 0000ffff 00000065 ${records.join('')}`);
}
