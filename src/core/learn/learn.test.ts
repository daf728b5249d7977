import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { checkNewDriver } from '../driver';
import { driverDocumentSchema } from '../driver/schema';
import { checksums, fromHex, toHex } from '../wire';
import {
  cutFrames,
  isAlike,
  learnCommand,
  learnFraming,
  learnReading,
  newDocument,
  piecesOf,
  samplesOf,
  withCommand,
  withReading,
  type WrittenDocument,
} from '.';

const ascii = (text: string) => new TextEncoder().encode(text);
const hex = (text: string) => {
  const bytes = fromHex(text);
  if (!bytes.ok) throw new Error(bytes.error.message);
  return bytes.value;
};
const parsed = (document: WrittenDocument) => driverDocumentSchema.parse(document);
const problemsOf = (document: WrittenDocument) => {
  const checked = checkNewDriver(document);
  return checked.ok ? [] : checked.error;
};

function guessed(pieces: readonly Uint8Array[], isStream = true) {
  const [best] = learnFraming(pieces, isStream);
  if (!best) throw new Error('No framing was found.');
  return best;
}

describe('how frames are cut', () => {
  it.each([
    ['CR LF', ['LEVEL 3\r\n', 'OK\r\nLEVEL ', '4\r\n'], 'lines that end with CR LF', 3],
    ['LF', ['a 1\n', 'b 2\nc 3\n'], 'lines that end with LF', 3],
    ['CR', ['T=20\r', 'T=21\r'], 'lines that end with CR', 2],
    ['a prompt', ['ready>', 'level 3>', 'done>'], 'frames that end with 3E', 3],
    ['JSON', ['{"a":1}\n', '{"b":[2]}\n'], 'one JSON object a line', 2],
    ['nothing', ['ON', 'OFF', 'STANDBY'], 'a pause ends each message', 3],
  ])('text: %s', (_, pieces, title, frames) => {
    expect(guessed(pieces.map(ascii))).toMatchObject({ title, frames });
  });

  it('datagrams are messages', () => {
    expect(guessed([ascii('{"level":3}'), ascii('{"level":4}')], false).framing).toMatchObject({ as: 'json' });
    expect(guessed([ascii('LEVEL 3'), ascii('LEVEL 4')], false).framing).toMatchObject({ as: 'text' });
    expect(guessed([hex('01 ff'), hex('02 fe')], false).framing).toMatchObject({ kind: 'message', as: 'bytes' });
  });

  it('nothing is made of nothing', () => {
    expect(learnFraming([], true)).toEqual([]);
    expect(learnFraming([new Uint8Array()], true)).toEqual([]);
  });

  it('bytes of any kind give a guess or none, and never throw', () => {
    const pieces = fc.array(fc.uint8Array({ maxLength: 40 }), { maxLength: 12 });
    fc.assert(
      fc.property(pieces, fc.boolean(), (all, isStream) => {
        for (const { framing } of learnFraming(all, isStream)) cutFrames(framing, all, isStream);
      }),
    );
  });

  it('a protocol with a start, a length and a checksum is found again from sixty of its frames, wherever they are cut', () => {
    const algorithms = ['sum8', 'xor8', 'sum8neg', 'crc16modbus', 'crc16ccitt', 'sum16'] as const;
    const protocol = fc.record({
      start: fc.integer({ min: 0x80, max: 0xff }),
      header: fc.integer({ min: 1, max: 3 }),
      width: fc.constantFrom<1 | 2>(1, 2),
      isBig: fc.boolean(),
      counted: fc.constantFrom('payload', 'rest', 'all'),
      algorithm: fc.constantFrom(...algorithms),
      payloads: fc.array(fc.uint8Array({ minLength: 1, maxLength: 12 }), { minLength: 60, maxLength: 60 }),
    });
    let withCheck = 0;
    fc.assert(
      fc.property(protocol, ({ start, header, width, isBig, counted, algorithm, payloads }) => {
        const { width: checkWidth, of } = checksums[algorithm];
        const frames = payloads.map((payload) => {
          const whole = header + width + payload.length + checkWidth;
          const length = counted === 'payload' ? payload.length : counted === 'rest' ? whole - header - width : whole;
          const field = width === 1 ? [length] : isBig ? [length >> 8, length & 255] : [length & 255, length >> 8];
          const body = [start, ...Array<number>(header - 1).fill(0x11), ...field, ...payload];
          const check = of(Uint8Array.from(body));
          const bytes = Array.from({ length: checkWidth }, (_, n) => (check >>> ((checkWidth - 1 - n) * 8)) & 255);
          return Uint8Array.from([...body, ...bytes]);
        });
        // Some frames come together in one piece.
        const pieces = frames.flatMap((frame, n) =>
          n % 10 === 9 ? [] : n % 10 === 8 ? [Uint8Array.from([...frame, ...(frames[n + 1] ?? [])])] : [frame],
        );
        const { framing } = guessed(pieces);
        expect(cutFrames(framing, pieces, true).map(toHex)).toEqual(frames.map(toHex));
        if ('check' in framing && framing.check) withCheck += 1;
      }),
      { numRuns: 60 },
    );
    expect(withCheck).toBeGreaterThan(50);
  });
});

/** A dimmer that nobody has described: 7E, length of what follows, what it is, values, sum. */
const dimmer = (kind: number, ...values: number[]) => {
  const body = [0x7e, values.length + 2, kind, ...values];
  return Uint8Array.from([...body, body.reduce((all, byte) => all + byte, 0) & 255]);
};
const levels = [
  [1, 0],
  [2, 128],
  [3, 255],
  [1, 64],
  [2, 7],
].map(([channel = 0, level = 0]) => dimmer(0x41, channel, level));
const names = ['Kitchen', 'Hall', 'Mast'].map((name) => dimmer(0x42, ...ascii(name)));

describe('a driver from a capture alone', () => {
  it('of bytes: framing, readings and commands are proposed, and the samples pass', () => {
    const heard = [...levels, ...names];
    const { framing, title } = guessed(heard);
    expect(title).toContain('checksum sum8');
    let document = newDocument('tcp', 9100, framing);

    const read = learnReading(parsed(document), levels);
    if (!read.ok) throw new Error(read.error);
    expect(read.value.map((each) => each.title)).toEqual([
      'Value, as one number',
      'Value of each number',
      'Value, Value',
    ]);
    const family = read.value.find((each) => each.title.includes('of each'));
    if (!family) throw new Error('No family was proposed.');
    expect(family.values).toEqual(['0', '128', '255', '64', '7']);
    document = withReading(document, family, []);
    document = withReading(document, family, samplesOf(document, levels));

    const own = learnReading(parsed(newDocument('tcp', 0, framing)), levels, 'Dim level');
    const called = own.ok ? own.value.find((each) => each.title.includes('of each')) : undefined;
    expect(called?.reply).toEqual({
      match: '^7E0441(?P<number>..)(?P<dimLevel>..)',
      set: { 'dimLevel[{number}]': '{dimLevel}' },
    });
    const named = learnReading(parsed(document), names);
    if (!named.ok) throw new Error(named.error);
    expect(named.value[0]?.values).toEqual(['Kitchen', 'Hall', 'Mast']);

    const sent = [dimmer(0x21, 1, 200), dimmer(0x21, 4, 9)];
    const set = learnCommand(parsed(document), 'Set level', sent);
    if (!set.ok) throw new Error(set.error);
    expect(set.value.command.send).toEqual({ hex: '7E 04 21 {value:u8} {value2:u8} {check sum8}' });
    document = withCommand(document, set.value);

    expect(problemsOf(document)).toEqual([]);
    expect(parsed(document).samples.length).toBe(7);
  });

  it('of bytes with a text of any length: the length is computed', () => {
    const document = newDocument('tcp', 9100, guessed([...levels, ...names]).framing);
    const sent = ['Steps', 'Bow'].map((name) => dimmer(0x31, 2, ...ascii(name)));
    const rename = learnCommand(parsed(document), 'Rename', sent);
    if (!rename.ok) throw new Error(rename.error);
    const whole = withCommand(document, rename.value);
    expect(problemsOf(whole)).toEqual([]);
  });

  it('of text: a family of levels, a switch, a command', () => {
    const { framing } = guessed(['LEVEL 3 IS -12\r\n', 'LEVEL 4 IS 0\r\n'].map(ascii));
    let document = newDocument('tcp', 9100, framing);
    const frames = ['LEVEL 3 IS -12\r\n', 'LEVEL 4 IS 0\r\n', 'LEVEL 11 IS 7\r\n'].map(ascii);
    const read = learnReading(parsed(document), frames);
    if (!read.ok) throw new Error(read.error);
    const [family] = read.value;
    if (!family) throw new Error('No reading was proposed.');
    expect(family.reply).toEqual({
      match: '^LEVEL (?P<level>-?[0-9]+) IS (?P<is>-?[0-9]+)$',
      set: { 'is[{level}]': '{is}' },
    });
    document = withReading(document, family, []);
    document = withReading(document, family, samplesOf(document, frames));
    const lamp = ['LAMP ON\r\n', 'LAMP OFF\r\n'].map(ascii);
    const switched = learnReading(parsed(document), lamp);
    if (!switched.ok) throw new Error(switched.error);
    expect(switched.value[0]?.readings).toEqual({
      lamp: { title: 'Lamp', value: { type: 'onOff', on: 'ON', off: 'OFF' } },
    });
    const set = learnCommand(parsed(document), 'Set level', ['SET 3 -12\r\n', 'SET 11 4\r\n'].map(ascii));
    if (!set.ok) throw new Error(set.error);
    expect(set.value.command).toMatchObject({ says: 'Set level {set} {value}', send: 'SET {set} {value}' });
    expect(problemsOf(withCommand(document, set.value))).toEqual([]);
  });

  it.each([
    ['built differently', ['LEVEL 3\r\n', 'ERR bad thing\r\n'], /built differently/],
    ['of another framing', ['LEVEL 3\r\n', 'half of'], /does not fit the framing/],
    ['alike in everything', ['READY', 'READY'].map((text) => `${text} !\r\n`), /all the same|^$/],
  ])('frames that are %s are told apart', (_, lines, message) => {
    const document = parsed(newDocument('tcp', 9100, guessed([ascii('A 1\r\n'), ascii('B 2\r\n')]).framing));
    const read = learnReading(document, lines.map(ascii));
    expect(read.ok ? '' : read.error).toMatch(message);
  });

  it('whatever frames are marked, what is proposed compiles, and reads the frames that it came from', () => {
    const word = fc.constantFrom('LEVEL', 'GAIN', 'LAMP', 'IN', 'OUT', 'on', 'off');
    const value = fc.oneof(fc.integer({ min: -99, max: 999 }).map(String), word, fc.constantFrom('1.5', '-0.25'));
    const separator = fc.constantFrom(' ', '=', ': ');
    const alike = fc
      .tuple(word, separator, fc.array(value, { minLength: 1, maxLength: 5 }))
      .map(([first, between, values]) => values.map((last) => first + between + last));
    const mixed = fc.array(
      fc.tuple(word, separator, value).map((parts) => parts.join('')),
      { minLength: 1, maxLength: 5 },
    );
    const document = newDocument('tcp', 9100, guessed([ascii('A 1\r\n'), ascii('B 2\r\n')]).framing);
    let learned = 0;
    fc.assert(
      fc.property(fc.oneof(alike, mixed), (lines) => {
        const frames = lines.map((text) => ascii(`${text}\r\n`));
        const read = learnReading(parsed(document), frames);
        if (!read.ok) return;
        for (const each of read.value) {
          learned += 1;
          const with1 = withReading(document, each, []);
          const samples = samplesOf(with1, frames);
          expect(problemsOf(withReading(document, each, samples))).toEqual([]);
          for (const sample of samples)
            expect(Object.keys('gives' in sample ? sample.gives : {}).length).toBeGreaterThan(0);
        }
      }),
    );
    expect(learned).toBeGreaterThan(30);
  });
});

it('frames of one kind are found by the first of them', () => {
  const document = parsed(newDocument('tcp', 0, guessed([...levels, ...names]).framing));
  const [first = new Uint8Array()] = levels;
  expect([...levels, ...names].filter((frame) => isAlike(document, first, frame))).toEqual(levels);
  const text = parsed(newDocument('tcp', 0, guessed([ascii('A 1\n'), ascii('B 2\n')]).framing));
  const lines = ['LEVEL 1\n', 'LEVEL 12\n', 'LAMP on\n'].map(ascii);
  expect(lines.map((line) => isAlike(text, ascii('LEVEL 7\n'), line))).toEqual([true, true, false]);
});

describe('messages that were pasted', () => {
  it('are hexadecimal digits or text, to the device or from it', () => {
    const read = piecesOf('7E 04 21\n> 7e0422\n\n< LEVEL 3\nREADY\\r\n> SET 1 20\\x0D', '\r\n');
    const shown = read.ok ? read.value.map(({ dir, bytes }) => `${dir} ${toHex(bytes)}`) : read.error;
    expect(shown).toEqual([
      'in 7E0421',
      'out 7E0422',
      `in ${toHex(ascii('LEVEL 3\r\n'))}`,
      `in ${toHex(ascii('READY\r'))}`,
      `out ${toHex(ascii('SET 1 20\r'))}`,
    ]);
  });

  it.each([
    ['', /no message/],
    ['OK\nLEVEL \\q', /^Line 2, character 7/],
  ])('%j is refused with its place', (text, message) => {
    const read = piecesOf(text, '');
    expect(read.ok ? '' : read.error).toMatch(message);
  });
});
