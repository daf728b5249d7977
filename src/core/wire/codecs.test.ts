// Vector tables: rows of bytes from the specifications, each with its clause. Exempt from the size limit.
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { ByteFramer, fromEscaped, toEscaped, type ByteFraming } from './bytes';
import { checksums, type ChecksumName } from './checksum';
import { basicHeader, digestHeader, readChallenge } from './digest';
import { arrivedFromHttp, EventStreamReader, makeExchange } from './exchange';
import { fromHex, toHex } from './hex';
import { atPointer, jsonText, parseJson } from './json';
import { maskSecrets } from './mask';
import {
  decodeModbusRequest,
  decodeModbusResponse,
  encodeModbusRequest,
  encodeModbusResponse,
  type ModbusRequest,
  type ModbusResponse,
} from './modbus';
import {
  decodeOsc,
  encodeOsc,
  encodeSlip,
  messagesOf,
  oscText,
  SlipFramer,
  type OscArgument,
  type OscPacket,
} from './osc';
import { decodeUmdV3, decodeUmdV5, encodeUmdV3, encodeUmdV5, type UmdV3Message, type UmdV5Packet } from './umd';
import { decodeViscaPacket, encodeViscaPacket, readViscaReply, ViscaPending, type ViscaPacket } from './visca';

const hex = (text: string): Uint8Array => {
  const bytes = fromHex(text);
  if (!bytes.ok) throw new Error(`${text}: ${bytes.error.message}`);
  return bytes.value;
};
const ascii = (text: string) => new TextEncoder().encode(text);

describe('checksums', () => {
  // The check values of the nine digits, as the catalogues of CRC algorithms give them.
  it.each<[ChecksumName, number]>([
    ['sum8', 0xdd],
    ['sum8neg', 0x23],
    ['sum16', 0x01dd],
    ['xor8', 0x31],
    ['crc16modbus', 0x4b37],
    ['crc16ccitt', 0x29b1],
    ['crc32', 0xcbf43926],
  ])('%s of “123456789”', (name, value) => {
    expect(checksums[name].of(ascii('123456789'))).toBe(value);
  });

  it('of nothing are defined', () => {
    for (const { of } of Object.values(checksums)) expect(Number.isInteger(of(new Uint8Array()))).toBe(true);
  });
});

describe('OSC 1.0', () => {
  const vectors: readonly { name: string; hex: string; packet: OscPacket }[] = [
    {
      // “OSC Message Examples”, the first one.
      name: 'the oscillator at 440 Hz',
      hex: '2f 6f 73 63 69 6c 6c 61 74 6f 72 2f 34 2f 66 72 65 71 75 65 6e 63 79 00 2c 66 00 00 43 dc 00 00',
      packet: { kind: 'message', address: '/oscillator/4/frequency', args: [{ type: 'f', value: 440 }] },
    },
    {
      // “OSC Message Examples”, the second one: two whole numbers, a text and two floats.
      name: '/foo with i i s f f',
      hex: '2f 66 6f 6f 00 00 00 00 2c 69 69 73 66 66 00 00 00 00 03 e8 ff ff ff ff 68 65 6c 6c 6f 00 00 00 3f 9d f3 b6 40 b5 b2 2d',
      packet: {
        kind: 'message',
        address: '/foo',
        args: [
          { type: 'i', value: 1000 },
          { type: 'i', value: -1 },
          { type: 's', value: 'hello' },
          { type: 'f', value: Math.fround(1.234) },
          { type: 'f', value: Math.fround(5.678) },
        ],
      },
    },
    {
      // “Atomic Data Types”, OSC-blob: length, bytes, padding.
      name: 'a blob of three bytes',
      hex: '2f 62 00 00 2c 62 00 00 00 00 00 03 01 02 03 00',
      packet: { kind: 'message', address: '/b', args: [{ type: 'b', value: Uint8Array.of(1, 2, 3) }] },
    },
    {
      // “OSC Type Tag String”: T, F, N and I have no bytes.
      name: 'true, false, nil and impulse',
      hex: '2f 74 00 00 2c 54 46 4e 49 00 00 00',
      packet: { kind: 'message', address: '/t', args: [{ type: 'T' }, { type: 'F' }, { type: 'N' }, { type: 'I' }] },
    },
    {
      // “OSC Bundles”: the time tag 1 means at once.
      name: 'a bundle of one message, at once',
      hex: '23 62 75 6e 64 6c 65 00 00 00 00 00 00 00 00 01 00 00 00 08 2f 61 00 00 2c 00 00 00',
      packet: { kind: 'bundle', timeTag: 1n, elements: [{ kind: 'message', address: '/a', args: [] }] },
    },
  ];

  it.each(vectors)('$name', ({ hex: text, packet }) => {
    expect(decodeOsc(hex(text))).toEqual({ ok: true, value: packet });
    expect(toHex(encodeOsc(packet))).toBe(toHex(hex(text)));
  });

  it.each(vectors)('$name, cut off anywhere, is refused', ({ hex: text }) => {
    const bytes = hex(text);
    // A message that ends after its address is one without type tags, as old senders write it.
    for (let end = 0; end < bytes.length; end += 1) {
      const cut = decodeOsc(bytes.subarray(0, end));
      if (cut.ok) expect(messagesOf(cut.value).every(({ args }) => args.length === 0)).toBe(true);
    }
  });

  it.each([
    ['an address without its slash', '61 00 00 00 2c 00 00 00', 'bad-value'],
    ['type tags without their comma', '2f 61 00 00 66 00 00 00 00 00 00 00', 'bad-value'],
    ['a type that nobody knows', '2f 61 00 00 2c 7a 00 00', 'bad-value'],
    ['a blob that is longer than the packet', '2f 61 00 00 2c 62 00 00 7f ff ff ff', 'short'],
    ['bytes left over', '2f 61 00 00 2c 00 00 00 00 00 00 00', 'left-over'],
  ])('refuses %s', (_name, text, code) => {
    const packet = decodeOsc(hex(text));
    expect(!packet.ok && packet.error.code).toBe(code);
  });

  it('refuses bundles that are nested too deep', () => {
    let packet: OscPacket = { kind: 'message', address: '/a', args: [] };
    for (let n = 0; n < 12; n += 1) packet = { kind: 'bundle', timeTag: 1n, elements: [packet] };
    const decoded = decodeOsc(encodeOsc(packet));
    expect(!decoded.ok && decoded.error.code).toBe('too-deep');
  });

  const text = fc.string().map((s) => s.replaceAll('\0', ''));
  const argument: fc.Arbitrary<OscArgument> = fc.oneof(
    fc.integer().map((value): OscArgument => ({ type: 'i', value })),
    fc.float({ noNaN: true }).map((value): OscArgument => ({ type: 'f', value })),
    fc.double({ noNaN: true }).map((value): OscArgument => ({ type: 'd', value })),
    text.map((value): OscArgument => ({ type: 's', value })),
    fc.uint8Array({ maxLength: 40 }).map((value): OscArgument => ({ type: 'b', value })),
    fc.bigInt({ min: -(2n ** 63n), max: 2n ** 63n - 1n }).map((value): OscArgument => ({ type: 'h', value })),
    fc.constantFrom<OscArgument>({ type: 'T' }, { type: 'F' }, { type: 'N' }, { type: 'I' }),
  );
  const message: fc.Arbitrary<OscPacket> = fc.record({
    kind: fc.constant('message' as const),
    address: text.map((s) => `/${s}`),
    args: fc.array(argument, { maxLength: 8 }),
  });
  const packets: fc.Arbitrary<OscPacket> = fc.oneof(
    message,
    fc.record({
      kind: fc.constant('bundle' as const),
      timeTag: fc.bigInt({ min: 0n, max: 2n ** 64n - 1n }),
      elements: fc.array(message, { maxLength: 4 }),
    }),
  );

  it('comes back as it went', () => {
    fc.assert(
      fc.property(packets, (packet) => void expect(decodeOsc(encodeOsc(packet))).toEqual({ ok: true, value: packet })),
    );
  });

  it('never throws on any bytes', () => {
    fc.assert(fc.property(fc.uint8Array({ maxLength: 200 }), (bytes) => void decodeOsc(bytes)));
    fc.assert(
      fc.property(packets, fc.nat(), fc.nat(255), (packet, at, byte) => {
        const bytes = encodeOsc(packet);
        bytes[at % bytes.length] = byte;
        decodeOsc(bytes);
      }),
    );
  });

  it('shows floats as short as they are still the same number', () => {
    fc.assert(
      fc.property(
        fc.float({ noNaN: true, noDefaultInfinity: true }),
        (value) =>
          void expect(Math.fround(Number(oscText({ type: 'f', value })))).toBe(Object.is(value, -0) ? 0 : value),
      ),
    );
  });
});

describe('SLIP, RFC 1055', () => {
  it('escapes END and ESC', () => {
    expect(toHex(encodeSlip(hex('01 C0 02 DB 03')))).toBe('C001DBDC02DBDD03C0');
  });

  it('comes back as it went, however the stream is split', () => {
    fc.assert(
      fc.property(
        fc.array(fc.uint8Array({ minLength: 1, maxLength: 40 }), { maxLength: 5 }),
        fc.nat(50),
        (frames, cut) => {
          const stream = frames.flatMap((frame) => [...encodeSlip(frame)]);
          const framer = new SlipFramer(64);
          const got = [
            ...framer.push(Uint8Array.from(stream.slice(0, cut))),
            ...framer.push(Uint8Array.from(stream.slice(cut))),
          ];
          expect(got).toEqual(frames.map((raw) => ({ kind: 'frame', raw })));
        },
      ),
    );
  });

  it('drops what is too long and what is escaped wrongly, and goes on behind it', () => {
    const framer = new SlipFramer(4);
    expect(framer.push(hex('C0 01 02 03 04 05 C0 DB 99 C0 07 C0'))).toEqual([
      { kind: 'dropped', code: 'overlong' },
      { kind: 'dropped', code: 'garbage' },
      { kind: 'frame', raw: Uint8Array.of(7) },
    ]);
  });
});

describe('VISCA over IP', () => {
  const vectors: readonly { name: string; hex: string; packet: ViscaPacket }[] = [
    {
      name: 'zoom tele, as a command', // header 8 bytes: type, length, sequence number
      hex: '01 00 00 06 00 00 00 07 81 01 04 07 02 FF',
      packet: { type: 'command', sequence: 7, payload: hex('81 01 04 07 02 FF') },
    },
    {
      name: 'where do you look, as an inquiry',
      hex: '01 10 00 05 00 00 01 00 81 09 06 12 FF',
      packet: { type: 'inquiry', sequence: 256, payload: hex('81 09 06 12 FF') },
    },
    {
      name: 'the acknowledgement of a command in socket 1',
      hex: '01 11 00 03 00 00 00 07 90 41 FF',
      packet: { type: 'reply', sequence: 7, payload: hex('90 41 FF') },
    },
    {
      name: 'the reset of the sequence number',
      hex: '02 00 00 01 00 00 00 00 01',
      packet: { type: 'control', sequence: 0, payload: Uint8Array.of(1) },
    },
    {
      name: 'its answer',
      hex: '02 01 00 01 00 00 00 00 01',
      packet: { type: 'controlReply', sequence: 0, payload: Uint8Array.of(1) },
    },
  ];

  it.each(vectors)('$name', ({ hex: text, packet }) => {
    expect(decodeViscaPacket(hex(text))).toEqual({ ok: true, value: packet });
    expect(toHex(encodeViscaPacket(packet))).toBe(toHex(hex(text)));
  });

  it.each(vectors)('$name, cut off anywhere or with a byte more, is refused', ({ hex: text }) => {
    const bytes = hex(text);
    for (let end = 0; end < bytes.length; end += 1) expect(decodeViscaPacket(bytes.subarray(0, end)).ok).toBe(false);
    expect(decodeViscaPacket(Uint8Array.from([...bytes, 0])).ok).toBe(false);
  });

  it('never throws on any bytes', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 40 }), (bytes) => {
        decodeViscaPacket(bytes);
        readViscaReply(bytes);
      }),
    );
  });

  it.each([
    ['90 41 FF', { kind: 'ack', socket: 1 }],
    ['90 52 FF', { kind: 'completion', socket: 2 }],
    ['90 50 02 FF', { kind: 'information', data: Uint8Array.of(2) }],
    ['90 60 02 FF', { kind: 'error', socket: 0, code: '02' }],
    ['90 61 41 FF', { kind: 'error', socket: 1, code: '41' }],
    ['80 41 FF', { kind: 'other' }],
  ] as const)('reads the reply %s', (text, reply) => {
    expect(readViscaReply(hex(text))).toEqual(reply);
  });

  it('without numbers: acknowledgements in order, completions by socket, inquiries in order', () => {
    const pending = new ViscaPending();
    pending.begin(1, false);
    pending.begin(2, false);
    pending.begin(3, true);
    const answers = ['90 41 FF', '90 50 00 FF', '90 42 FF', '90 52 FF', '90 61 04 FF', '90 51 FF'].map((text) =>
      pending.match(hex(text)),
    );
    expect(answers).toEqual([
      { ref: 1, how: 'accepted' },
      { ref: 3, how: 'done', code: undefined },
      { ref: 2, how: 'accepted' },
      { ref: 2, how: 'done', code: undefined },
      { ref: 1, how: 'refused', code: '04' },
      undefined,
    ]);
  });

  it('without a free socket refuses the command that waits for one', () => {
    const pending = new ViscaPending();
    pending.begin(1, false);
    pending.match(hex('90 41 FF'));
    pending.begin(2, false);
    expect(pending.match(hex('90 60 03 FF'))).toEqual({ ref: 2, how: 'refused', code: '03' });
  });
});

describe('Modbus TCP', () => {
  const vectors: readonly {
    name: string;
    request: string;
    response: string;
    asked: ModbusRequest;
    said: ModbusResponse;
  }[] = [
    {
      name: 'read coils 20 to 38', // Application Protocol 1.1b3, 6.1, example
      request: '00 01 00 00 00 06 01 01 00 13 00 13',
      response: '00 01 00 00 00 06 01 01 03 CD 6B 05',
      asked: { do: 'read', table: 'coil', address: 19, count: 19 },
      said: { is: 'values', table: 'coil', values: [1, 0, 1, 1, 0, 0, 1, 1, 1, 1, 0, 1, 0, 1, 1, 0, 1, 0, 1] },
    },
    {
      name: 'read discrete inputs 197 to 218', // 6.2
      request: '00 02 00 00 00 06 01 02 00 C4 00 16',
      response: '00 02 00 00 00 06 01 02 03 AC DB 35',
      asked: { do: 'read', table: 'input', address: 196, count: 22 },
      said: {
        is: 'values',
        table: 'input',
        values: [0, 0, 1, 1, 0, 1, 0, 1, 1, 1, 0, 1, 1, 0, 1, 1, 1, 0, 1, 0, 1, 1],
      },
    },
    {
      name: 'read holding registers 108 to 110', // 6.3
      request: '00 03 00 00 00 06 01 03 00 6B 00 03',
      response: '00 03 00 00 00 09 01 03 06 02 2B 00 00 00 64',
      asked: { do: 'read', table: 'holding', address: 107, count: 3 },
      said: { is: 'values', table: 'holding', values: [555, 0, 100] },
    },
    {
      name: 'read input register 9', // 6.4
      request: '00 04 00 00 00 06 01 04 00 08 00 01',
      response: '00 04 00 00 00 05 01 04 02 00 0A',
      asked: { do: 'read', table: 'register', address: 8, count: 1 },
      said: { is: 'values', table: 'register', values: [10] },
    },
    {
      name: 'write coil 173 on', // 6.5
      request: '00 05 00 00 00 06 01 05 00 AC FF 00',
      response: '00 05 00 00 00 06 01 05 00 AC FF 00',
      asked: { do: 'writeCoil', address: 172, on: true },
      said: { is: 'written', address: 172, count: 1 },
    },
    {
      name: 'write register 2 to 3', // 6.6
      request: '00 06 00 00 00 06 01 06 00 01 00 03',
      response: '00 06 00 00 00 06 01 06 00 01 00 03',
      asked: { do: 'writeHolding', address: 1, value: 3 },
      said: { is: 'written', address: 1, count: 1 },
    },
    {
      name: 'write coils 20 to 29', // 6.11
      request: '00 07 00 00 00 09 01 0F 00 13 00 0A 02 CD 01',
      response: '00 07 00 00 00 06 01 0F 00 13 00 0A',
      asked: {
        do: 'writeCoils',
        address: 19,
        values: [true, false, true, true, false, false, true, true, true, false],
      },
      said: { is: 'written', address: 19, count: 10 },
    },
    {
      name: 'write registers 2 and 3', // 6.12
      request: '00 08 00 00 00 0B 01 10 00 01 00 02 04 00 0A 01 02',
      response: '00 08 00 00 00 06 01 10 00 01 00 02',
      asked: { do: 'writeHoldings', address: 1, values: [10, 258] },
      said: { is: 'written', address: 1, count: 2 },
    },
    {
      name: 'an exception', // 7: the function code with its highest bit, and the code
      request: '00 09 00 00 00 06 01 01 04 A1 00 01',
      response: '00 09 00 00 00 03 01 81 02',
      asked: { do: 'read', table: 'coil', address: 1185, count: 1 },
      said: { is: 'exception', code: 2 },
    },
  ];

  it.each(vectors)('$name', ({ request, response, asked, said }) => {
    const header = { transaction: hex(request)[1] ?? 0, unit: 1 };
    expect(toHex(encodeModbusRequest(header, asked))).toBe(toHex(hex(request)));
    expect(decodeModbusRequest(hex(request))).toEqual({ ok: true, value: { header, request: asked } });
    expect(decodeModbusResponse(hex(response), asked)).toEqual({ ok: true, value: said });
    expect(toHex(encodeModbusResponse(header, asked, said))).toBe(toHex(hex(response)));
  });

  it.each(vectors)('$name, cut off anywhere, is refused', ({ request, response, asked }) => {
    for (let end = 0; end < hex(request).length; end += 1)
      expect(decodeModbusRequest(hex(request).subarray(0, end)).ok).toBe(false);
    for (let end = 0; end < hex(response).length; end += 1) {
      expect(decodeModbusResponse(hex(response).subarray(0, end), asked).ok).toBe(false);
    }
  });

  it.each([
    ['a function that it does not know', '00 01 00 00 00 02 01 2B', 1],
    ['more coils than one answer holds', '00 01 00 00 00 06 01 01 00 00 07 D1', 3],
    ['a coil that is neither on nor off', '00 01 00 00 00 06 01 05 00 00 12 34', 3],
  ])('answers %s with its exception', (_name, text, exception) => {
    const request = decodeModbusRequest(hex(text));
    expect(!request.ok && request.error.exception).toBe(exception);
  });

  it('never throws on any bytes', () => {
    const asked: ModbusRequest = { do: 'read', table: 'coil', address: 0, count: 9 };
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 60 }), (bytes) => {
        decodeModbusRequest(bytes);
        decodeModbusResponse(bytes, asked);
      }),
    );
  });
});

describe('UMD tally', () => {
  const v3: readonly { name: string; hex: string; message: UmdV3Message }[] = [
    {
      // 3.1, HEADER: address + 0x80. CTRL: bits 0 to 3 tallies 1 to 4, bits 4 and 5 brightness. DISPLAY DATA: 16 characters.
      name: 'display 1, first tally, full brightness',
      hex: '81 31 53 54 41 52 54 20 54 4f 57 45 52 20 20 20 20 20',
      message: { display: 1, tallies: [true, false, false, false], brightness: 3, text: 'START TOWER' },
    },
    {
      name: 'the last display, all tallies, dark, sixteen characters',
      hex: 'fe 0f 30 31 32 33 34 35 36 37 38 39 41 42 43 44 45 46',
      message: { display: 126, tallies: [true, true, true, true], brightness: 0, text: '0123456789ABCDEF' },
    },
    {
      name: 'display 0 without a name',
      hex: '80 24 20 20 20 20 20 20 20 20 20 20 20 20 20 20 20 20',
      message: { display: 0, tallies: [false, false, true, false], brightness: 2, text: '' },
    },
  ];
  it.each(v3)('3.1: $name', ({ hex: bytes, message }) => {
    expect(toHex(encodeUmdV3(message))).toBe(toHex(hex(bytes)));
    expect(decodeUmdV3(hex(bytes))).toEqual({ ok: true, value: message });
  });

  it('3.1: what is too long is cut, accents are taken off, and what has no ASCII becomes ?', () => {
    const text = 'Zürich – Übertragung 9';
    const read = decodeUmdV3(encodeUmdV3({ display: 3, tallies: [false, false, false, false], brightness: 1, text }));
    expect(read.ok && read.value.text).toBe('Zurich ? Ubertra');
  });

  const v5: readonly { name: string; hex: string; packet: UmdV5Packet }[] = [
    {
      // 5.0: PBC, VER, FLAGS, SCREEN; INDEX, CONTROL (RH bits 0-1, text 2-3, LH 4-5, brightness 6-7), LENGTH, TEXT.
      name: 'one display, red on the left, green on the right',
      hex: '0d 00 00 00 00 00 05 00 d2 00 03 00 43 41 4d',
      packet: {
        screen: 0,
        displays: [{ display: 5, left: 'red', label: 'off', right: 'green', brightness: 3, text: 'CAM' }],
      },
    },
    {
      name: 'two displays of screen 258, amber text',
      hex: '11 00 00 00 02 01 01 00 0c 00 01 00 41 ff ff 40 00 00 00',
      packet: {
        screen: 258,
        displays: [
          { display: 1, left: 'off', label: 'amber', right: 'off', brightness: 0, text: 'A' },
          { display: 65535, left: 'off', label: 'off', right: 'off', brightness: 1, text: '' },
        ],
      },
    },
    {
      // FLAGS bit 0: the texts are UTF-16LE.
      name: 'a name that is not ASCII',
      hex: '0e 00 00 01 00 00 07 00 00 00 04 00 dc 00 54 26',
      packet: {
        screen: 0,
        displays: [{ display: 7, left: 'off', label: 'off', right: 'off', brightness: 0, text: 'Ü♔' }],
      },
    },
  ];
  it.each(v5)('5.0: $name', ({ hex: bytes, packet }) => {
    expect(toHex(encodeUmdV5(packet))).toBe(toHex(hex(bytes)));
    expect(decodeUmdV5(hex(bytes))).toEqual({ ok: true, value: packet });
  });

  it.each([
    ['3.1 without its first bit', 'v3', '01 31 41 41 41 41 41 41 41 41 41 41 41 41 41 41 41 41', 0],
    ['3.1 with a letter that is none', 'v3', '81 31 41 41 07 41 41 41 41 41 41 41 41 41 41 41 41 41', 4],
    ['3.1 with a byte too many', 'v3', '81 31 41 41 41 41 41 41 41 41 41 41 41 41 41 41 41 41 41', 18],
    ['5.0 with a wrong count', 'v5', '0c 00 00 00 00 00 05 00 d2 00 03 00 43 41 4d', 0],
    ['5.0 of another version', 'v5', '0d 00 01 00 00 00 05 00 d2 00 03 00 43 41 4d', 2],
    ['5.0 with control data', 'v5', '0d 00 00 00 00 00 05 00 d2 80 03 00 43 41 4d', 8],
    ['5.0 whose text ends early', 'v5', '0d 00 00 00 00 00 05 00 d2 00 04 00 43 41 4d', 12],
    ['5.0 with half a letter', 'v5', '0d 00 00 01 00 00 05 00 d2 00 03 00 43 41 4d', 10],
  ])('is refused at the place: %s', (_name, version, bytes, offset) => {
    const read = version === 'v3' ? decodeUmdV3(hex(bytes)) : decodeUmdV5(hex(bytes));
    expect(read).toMatchObject({ ok: false, error: { offset } });
  });

  it('truncated anywhere is refused, and random bytes never throw', () => {
    for (const { hex: bytes } of v5)
      for (let n = 0; n < hex(bytes).length; n += 1) expect(decodeUmdV5(hex(bytes).subarray(0, n)).ok).toBe(false);
    for (const { hex: bytes } of v3)
      for (let n = 0; n < hex(bytes).length; n += 1) expect(decodeUmdV3(hex(bytes).subarray(0, n)).ok).toBe(false);
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 64 }), (bytes) => {
        decodeUmdV3(bytes);
        decodeUmdV5(bytes);
      }),
    );
  });

  it('5.0: decode after encode is the identity', () => {
    const lamp = fc.constantFrom('off', 'red', 'green', 'amber');
    const display = fc.record({
      display: fc.integer({ min: 0, max: 65535 }),
      left: lamp,
      label: lamp,
      right: lamp,
      brightness: fc.integer({ min: 0, max: 3 }),
      text: fc.string({ maxLength: 40 }),
    });
    const packets = fc.record({
      screen: fc.integer({ min: 0, max: 65535 }),
      displays: fc.array(display, { maxLength: 8 }),
    });
    fc.assert(
      fc.property(packets, (packet) => {
        expect(decodeUmdV5(encodeUmdV5(packet as UmdV5Packet))).toEqual({ ok: true, value: packet });
      }),
    );
  });
});

describe('raw bytes over a stream', () => {
  const framings: readonly { name: string; framing: ByteFraming; frames: readonly string[] }[] = [
    {
      name: 'ended by 03',
      framing: { kind: 'terminated', terminator: Uint8Array.of(3) },
      frames: ['02 41 03', '02 42 43 03'],
    },
    {
      name: 'ended by two bytes',
      framing: { kind: 'terminated', terminator: Uint8Array.of(13, 10) },
      frames: ['41 0D 42 0D 0A', '0D 0D 0A'],
    },
    { name: 'of fixed length', framing: { kind: 'fixed', length: 3 }, frames: ['01 02 03', '04 05 06'] },
    {
      name: 'of fixed length with a start byte',
      framing: { kind: 'fixed', length: 3, start: Uint8Array.of(2) },
      frames: ['02 02 02', '02 00 FF'],
    },
    {
      name: 'behind a length of one byte',
      framing: { kind: 'prefixed', header: 0, width: 1, endian: 'big', counts: 'rest' },
      frames: ['00', '03 61 62 63'],
    },
    {
      name: 'behind a header and a length of two bytes that counts everything',
      framing: { kind: 'prefixed', header: 2, width: 2, endian: 'little', counts: 'all' },
      frames: ['AA BB 06 00 01 02', 'AA BB 04 00'],
    },
    {
      // ISO 1745, 2: the block check character follows the ETX that ends the text, and covers everything behind the STX.
      name: 'from STX to ETX and a block check behind it',
      framing: {
        kind: 'terminated',
        start: Uint8Array.of(2),
        terminator: Uint8Array.of(3),
        after: 1,
        check: { algorithm: 'xor8', from: 1 },
      },
      frames: ['02 41 42 03 00', '02 03 03', '02 31 03 32'],
    },
    {
      name: 'with a start, a length of the payload, a checksum over it and an end',
      framing: {
        kind: 'prefixed',
        start: Uint8Array.of(0xa5, 0x5a),
        header: 2,
        width: 1,
        endian: 'big',
        counts: 'rest',
        uncounted: 2,
        end: Uint8Array.of(0x0d),
        check: { algorithm: 'sum8', from: 3 },
      },
      frames: ['A5 5A 02 01 02 03 0D', 'A5 5A 00 00 0D', 'A5 5A 03 A5 5A 0D 0C 0D'],
    },
    {
      name: 'with a CRC that has its low byte first, behind a length that leaves out the header',
      framing: {
        kind: 'prefixed',
        header: 1,
        width: 1,
        endian: 'big',
        counts: 'rest',
        uncounted: 2,
        check: { algorithm: 'crc16modbus', from: 0, endian: 'little' },
      },
      frames: ['01 00 00 20', '01 01 05 E1 93'],
    },
    {
      name: 'with a checksum in hexadecimal digits before CR',
      framing: {
        kind: 'terminated',
        terminator: Uint8Array.of(13),
        check: { algorithm: 'sum8', from: 0, as: 'hex' },
      },
      frames: ['41 34 31 0D', '41 42 38 33 0D'],
    },
  ];

  it.each(framings)('$name are cut, however the stream is split', ({ framing, frames }) => {
    const stream = Uint8Array.from(frames.flatMap((frame) => [...hex(frame)]));
    for (let cut = 0; cut <= stream.length; cut += 1) {
      const framer = new ByteFramer(framing, 64);
      const got = [...framer.push(stream.subarray(0, cut)), ...framer.push(stream.subarray(cut))];
      expect(got).toEqual(frames.map((frame) => ({ kind: 'frame', raw: hex(frame) })));
    }
  });

  it('drops a frame that is too long, once, and goes on behind it', () => {
    const terminated = new ByteFramer({ kind: 'terminated', terminator: Uint8Array.of(3) }, 8);
    expect(terminated.push(Uint8Array.from([...new Uint8Array(100), 3, 65, 3]))).toEqual([
      { kind: 'dropped', code: 'overlong' },
      { kind: 'frame', raw: Uint8Array.of(65, 3) },
    ]);
    const prefixed = new ByteFramer({ kind: 'prefixed', header: 0, width: 1, endian: 'big', counts: 'rest' }, 8);
    expect(prefixed.push(Uint8Array.from([20, ...new Uint8Array(20), 1, 7]))).toEqual([
      { kind: 'dropped', code: 'overlong' },
      { kind: 'frame', raw: Uint8Array.of(1, 7) },
    ]);
  });

  it('looks for the start byte, and says once what it passed over', () => {
    const framer = new ByteFramer({ kind: 'fixed', length: 2, start: Uint8Array.of(2) }, 2);
    expect(framer.push(hex('09 09 02 01 02 02'))).toEqual([
      { kind: 'dropped', code: 'garbage' },
      { kind: 'frame', raw: hex('02 01') },
      { kind: 'frame', raw: hex('02 02') },
    ]);
  });

  it('never throws and never holds more than a frame, whatever comes', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...framings),
        fc.array(fc.uint8Array({ maxLength: 80 }), { maxLength: 8 }),
        ({ framing }, chunks) => {
          const framer = new ByteFramer(framing, 16);
          for (const chunk of chunks) framer.push(chunk);
          expect(framer.rest().length).toBeLessThanOrEqual(16);
        },
      ),
    );
  });

  const marked = {
    kind: 'prefixed',
    start: Uint8Array.of(0xa5),
    header: 1,
    width: 1,
    endian: 'big',
    counts: 'rest',
    uncounted: 2,
    end: Uint8Array.of(0x0d),
    check: { algorithm: 'sum8', from: 2 },
  } as const;
  const framed = (payload: readonly number[]) =>
    Uint8Array.from([0xa5, payload.length, ...payload, payload.reduce((all, byte) => all + byte, 0) & 0xff, 0x0d]);

  // A checksum of four bytes, so that no garbage is a frame by chance.
  const marked32 = { ...marked, uncounted: 5, check: { algorithm: 'crc32', from: 2 } } as const;
  const framed32 = (payload: readonly number[]) => {
    const sum = checksums.crc32.of(Uint8Array.from(payload));
    return Uint8Array.from([
      0xa5,
      payload.length,
      ...payload,
      sum >>> 24,
      (sum >> 16) & 255,
      (sum >> 8) & 255,
      sum & 255,
      0x0d,
    ]);
  };

  it('finds its way back after garbage, whatever the garbage is', () => {
    let lied = 0;
    const run = fc.property(
      fc.array(fc.oneof(fc.constant(0xa5), fc.integer({ min: 0, max: 255 })), { maxLength: 40 }),
      fc.array(fc.array(fc.integer({ min: 0, max: 255 }), { maxLength: 10 }), { minLength: 1, maxLength: 5 }),
      fc.integer({ min: 1, max: 7 }),
      (noise, payloads, step) => {
        const frames = payloads.map(framed32);
        // A length in the garbage that reaches behind all frames hides them until the bytes that it promises have come.
        const stream = [...noise, ...frames.flatMap((frame) => [...frame]), ...new Uint8Array(64)];
        const framer = new ByteFramer(marked32, 64);
        const got = [];
        for (let at = 0; at < stream.length; at += step) {
          got.push(...framer.push(Uint8Array.from(stream.slice(at, at + step))));
        }
        if (noise.includes(0xa5)) lied += 1;
        const read = got.flatMap((each) => (each.kind === 'frame' ? [toHex(each.raw)] : []));
        expect(read).toEqual(frames.map(toHex));
      },
    );
    fc.assert(run, { numRuns: 2000, examples: [[[0xa5, 0x20], [[1, 2, 3]], 1]] });
    expect(lied).toBeGreaterThan(1000);
  });

  it('never believes a damaged frame, and reads the next', () => {
    const framer = new ByteFramer(marked, 64);
    const bad = framed([1, 2, 3]);
    bad[3] = 9;
    const got = framer.push(Uint8Array.from([...bad, ...framed([4]), ...new Uint8Array(20)]));
    expect(got.filter(({ kind }) => kind === 'frame')).toEqual([{ kind: 'frame', raw: framed([4]) }]);
    expect(got[0]).toEqual({ kind: 'dropped', code: 'checksum', raw: bad });
  });

  it('stays quick with a stream in which a frame can begin at every byte', () => {
    const framer = new ByteFramer({ ...marked, width: 2 }, 65_536);
    const chunk = new Uint8Array(65_536).fill(0xa5);
    for (let n = 0; n < 4; n += 1) framer.push(chunk);
    expect(framer.rest().length).toBeLessThanOrEqual(65_536);
  });

  it('are dropped where their checksum is wrong', () => {
    const check = { algorithm: 'xor8', from: 1 } as const;
    const exchange = makeExchange({ kind: 'fixed', length: 4, start: 2, check, maxFrameBytes: 4 }, true);
    const [good, bad] = exchange.read(hex('02 0A 0C 06 02 0A 0C 07'));
    expect(good?.says).toEqual([{ kind: 'text', text: '020A0C06' }]);
    expect(bad).toMatchObject({ says: [], fault: 'Its checksum is wrong.' });
  });
});

describe('payloads that are typed', () => {
  it.each([
    ['HI\\r\\n', '48490D0A'],
    ['\\x02é\\\\', '02C3A95C'],
    ['\\0\\t', '0009'],
    ['', ''],
  ])('as text: %s', (typed, wanted) => {
    const bytes = fromEscaped(typed);
    expect(bytes.ok && toHex(bytes.value)).toBe(wanted);
  });

  it.each([
    ['AB\\q', 2],
    ['\\x0', 0],
    ['ok \\xZZ', 3],
  ])('as text with a mistake: %s, at its character', (typed, offset) => {
    const bytes = fromEscaped(typed);
    expect(!bytes.ok && bytes.error.offset).toBe(offset);
  });

  it.each([
    ['81 01 FF', '8101FF'],
    ['81:01,ff', '8101FF'],
  ])('as hex: %s', (typed, wanted) => {
    const bytes = fromHex(typed);
    expect(bytes.ok && toHex(bytes.value)).toBe(wanted);
  });

  it.each([
    ['81 0', 4],
    ['81 G1', 3],
    ['8', 1],
  ])('as hex with a mistake: %s, at its character', (typed, offset) => {
    const bytes = fromHex(typed);
    expect(!bytes.ok && bytes.error.offset).toBe(offset);
  });

  it('are the same bytes both ways', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 60 }), (bytes) => {
        expect(fromEscaped(toEscaped(bytes))).toEqual({ ok: true, value: bytes });
        expect(fromHex(toHex(bytes))).toEqual({ ok: true, value: bytes });
      }),
    );
  });
});

describe('JSON', () => {
  // RFC 6901, 5: the document and the pointers of its example.
  const document = parseJson(
    '{"foo":["bar","baz"],"":0,"a/b":1,"c%d":2,"e^f":3,"g|h":4,"i\\\\j":5,"k\\"l":6," ":7,"m~n":8}',
  );
  it.each([
    ['/foo', ['bar', 'baz']],
    ['/foo/0', 'bar'],
    ['/', 0],
    ['/a~1b', 1],
    ['/c%d', 2],
    ['/m~0n', 8],
    ['/foo/2', undefined],
    ['/foo/-1', undefined],
    ['/none/at/all', undefined],
    ['/constructor', undefined],
  ])('pointer %s', (pointer, value) => {
    if (!document.ok) throw new Error(document.error);
    expect(atPointer(document.value, pointer)).toEqual(value);
  });

  it('nested however deep is read or refused, never a crash', () => {
    for (const depth of [100, 100_000]) {
      const parsed = parseJson('['.repeat(depth) + ']'.repeat(depth));
      if (parsed.ok) jsonText(parsed.value);
    }
    expect(parseJson('{"a":').ok).toBe(false);
  });
});

describe('HTTP authentication', () => {
  it('answers the Digest challenge of RFC 7616, 3.9.1, in both algorithms', () => {
    const header =
      'Digest realm="http-auth@example.org", qop="auth, auth-int", algorithm=ALGO, nonce="7ypf/xlj9XXwfDPEoM4URrv/xwf94BcCAzFZH4GiTo0v", opaque="FQhe/qaU925kfnzjCev0ciny7QMkPqMAFRtzCUYo5tdS"';
    const request = {
      user: 'Mufasa',
      password: 'Circle of Life',
      method: 'GET',
      uri: '/dir/index.html',
      cnonce: 'f2/wE4q74E6zIJEtWaHKaf5wv/H5QzzpXusqGemxURZJ',
      count: 1,
    };
    const answer = (algorithm: string) => {
      const challenge = readChallenge(header.replace('ALGO', algorithm));
      return challenge && digestHeader(challenge, request);
    };
    expect(answer('MD5')).toContain('response="8ca523f5e9506fed4657c9700eebdbec"');
    expect(answer('SHA-256')).toContain('response="753927fa0e85d155564e2e272a28d1802ca10daf4496794697cf8db5856cb6c1"');
  });

  it('passes over challenges that it cannot answer', () => {
    expect(readChallenge('Basic realm="x"')).toBeUndefined();
    expect(readChallenge('Digest realm="x", nonce="y", algorithm=UNHEARD')).toBeUndefined();
    expect(readChallenge('Basic realm="a", Digest realm="x", nonce="y"')).toMatchObject({ realm: 'x', auth: false });
  });

  it('writes Basic credentials as RFC 7617, 2 and 2.1', () => {
    expect(basicHeader('Aladdin', 'open sesame')).toBe('Basic QWxhZGRpbjpvcGVuIHNlc2FtZQ==');
    expect(basicHeader('test', '123£')).toBe('Basic dGVzdDoxMjPCow==');
  });

  it('never throws on any header', () => {
    fc.assert(fc.property(fc.string(), (text) => void readChallenge(`Digest ${text}`)));
  });
});

describe('event streams', () => {
  // WHATWG HTML, 9.2.6: the examples of the section.
  it('join the lines of one event and pass comments over', () => {
    const reader = new EventStreamReader(1000);
    const events = reader.push(
      ascii('data: YHOO\ndata: +2\ndata: 10\n\n: test stream\n\ndata: first event\nid: 1\n\ndata:second event\nid\n\n'),
    );
    expect(events).toEqual([{ data: 'YHOO\n+2\n10' }, { data: 'first event' }, { data: 'second event' }]);
  });

  it('are the same however they are split', () => {
    const stream = ascii('data: a\r\ndata: é\r\n\r\ndata: b\n\ndata: c\r\r');
    const whole = new EventStreamReader(1000).push(stream);
    for (let cut = 0; cut <= stream.length; cut += 1) {
      const reader = new EventStreamReader(1000);
      expect([...reader.push(stream.subarray(0, cut)), ...reader.push(stream.subarray(cut))].slice(0, 2)).toEqual(
        whole.slice(0, 2),
      );
    }
  });

  it('drop an event that is too long', () => {
    const reader = new EventStreamReader(10);
    expect(reader.push(ascii(`data: ${'x'.repeat(50)}\n\ndata: y\n\n`))).toEqual(['overlong', { data: 'y' }]);
  });
});

it('keeps of a secret only its length', () => {
  const secrets = [ascii('tide-table-7'), ascii('ab')];
  const shown = (text: string, all: boolean) => new TextDecoder().decode(maskSecrets(ascii(text), secrets, all));
  expect(shown('LOGIN joe tide-table-7 tide-table-7', false)).toBe('LOGIN joe ************ ************');
  expect(shown('cab', false)).toBe('cab');
  expect(shown('cab', true)).toBe('c**');
});

describe('conversations', () => {
  const kinds = [
    { kind: 'lines', ending: 'crlf', encoding: 'utf-8', maxFrameBytes: 64 },
    { kind: 'json-lines', maxFrameBytes: 64 },
    { kind: 'terminated', terminator: 'FF', as: 'bytes', encoding: 'utf-8', maxFrameBytes: 16 },
    { kind: 'unframed', maxFrameBytes: 64 },
    { kind: 'message', as: 'json', encoding: 'utf-8', maxFrameBytes: 64 },
    { kind: 'osc', maxFrameBytes: 64 },
    { kind: 'visca', header: true, maxFrameBytes: 24 },
    { kind: 'visca', header: false, maxFrameBytes: 24 },
    { kind: 'modbus', maxFrameBytes: 260 },
  ] as const;

  it('of every kind bear any bytes without throwing', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...kinds),
        fc.boolean(),
        fc.array(fc.uint8Array({ maxLength: 100 }), { maxLength: 6 }),
        (framing, stream, chunks) => {
          const exchange = makeExchange(framing, stream);
          for (const chunk of chunks)
            for (const { raw } of exchange.read(chunk)) expect(raw.length).toBeLessThanOrEqual(300);
        },
      ),
    );
  });

  it('say what cannot be sent over them', () => {
    const exchange = makeExchange({ kind: 'modbus', maxFrameBytes: 260 }, true);
    expect(exchange.write({ kind: 'bytes', bytes: Uint8Array.of(1) }, 1)).toMatchObject({ ok: false });
  });

  it('match a Modbus response by its transaction and give each value a line', () => {
    const exchange = makeExchange({ kind: 'modbus', maxFrameBytes: 260 }, true);
    const request = { do: 'read', table: 'coil', address: 3, count: 2 } as const;
    exchange.write({ kind: 'modbus', request, unit: 1 }, 40);
    exchange.write({ kind: 'modbus', request, unit: 1 }, 41);
    const [second] = exchange.read(hex('00 02 00 00 00 04 01 01 01 02'));
    expect(second).toMatchObject({
      answer: { ref: 41, how: 'done' },
      says: [{ text: 'coil 3 0' }, { text: 'coil 4 1' }],
    });
    expect(exchange.read(hex('00 09 00 00 00 04 01 01 01 02'))[0]?.fault).toBe('Nothing was asked as transaction 9.');
  });

  it('begin anew when the camera counts differently', () => {
    const exchange = makeExchange({ kind: 'visca', header: true, maxFrameBytes: 24 }, false);
    expect(exchange.read(hex('02 01 00 02 00 00 00 05 0F 01'))[0]?.broken).toBeDefined();
  });

  it('read JSON lines one by one, and count what is none', () => {
    const exchange = makeExchange({ kind: 'json-lines', maxFrameBytes: 64 }, true);
    const frames = exchange.read(ascii('{"a":1}\r\n\nnot json\n[2]\n{"b"'));
    expect(frames.map(({ says, fault }) => says[0]?.text ?? (fault ? 'fault' : 'empty'))).toEqual([
      '{"a":1}',
      'empty',
      'fault',
      '[2]',
    ]);
    expect(new TextDecoder().decode(exchange.rest())).toBe('{"b"');
  });
});

describe('what an HTTP response says', () => {
  const read = (body: 'json' | 'text' | 'pairs' | 'none', text: string, status = 200) =>
    arrivedFromHttp({ kind: 'http', body, maxFrameBytes: 1000 }, { status, body: ascii(text) }, 7);

  it.each([
    ['json', '{"a":1}', ['{"a":1}']],
    ['text', 'one\r\ntwo\n', ['one', 'two']],
    ['pairs', 'a=1&b=x+y%21\nc=', ['a=1', 'b=x y!', 'c=']],
    ['pairs', 'broken=%E0%A4%A', ['broken=%E0%A4%A']],
    ['none', 'whatever', []],
  ] as const)('%s: %s', (body, text, says) => {
    expect(read(body, text)).toMatchObject({
      says: says.map((each) => ({ text: each })),
      answer: { ref: 7, how: 'done' },
    });
  });

  it('is done from 200 to 299 and refused otherwise, with the body read either way', () => {
    expect(read('json', '{"error":"no"}', 409)).toMatchObject({
      answer: { ref: 7, how: 'refused', code: '409' },
      says: [{ value: { error: 'no' } }],
    });
    expect(read('json', '<html>', 200).fault).toMatch(/^It is not JSON/);
  });
});
