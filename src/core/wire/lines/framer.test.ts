import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { encodeLine } from './codec';
import { LineFramer, type LineEnding, type LineFrame, type LineFramerOptions } from './framer';

const options = (over: Partial<LineFramerOptions> = {}): LineFramerOptions => ({
  ending: 'lf',
  encoding: 'utf-8',
  maxFrameBytes: 16,
  ...over,
});

const fromHex = (hex: string) =>
  Uint8Array.from(hex.replace(/ /g, '').match(/../g) ?? [], (pair) => parseInt(pair, 16));
const readAll = (bytes: Uint8Array, given = options()) => new LineFramer(given).push(bytes).map(shown);
const shown = (frame: LineFrame) => (frame.kind === 'line' ? frame.text : '<overlong>');

const vectors: readonly {
  name: string;
  hex: string;
  ending?: LineEnding;
  encoding?: 'utf-8' | 'latin-1';
  lines: readonly string[];
}[] = [
  { name: 'one line ended by LF', hex: '41 42 0a', lines: ['AB'] },
  { name: 'one line ended by CR LF', hex: '41 42 0d 0a', lines: ['AB'] },
  { name: 'two lines joined', hex: '41 0a 42 0a', lines: ['A', 'B'] },
  { name: 'an empty line', hex: '0a', lines: [''] },
  { name: 'a CR inside a line is content', hex: '41 0d 42 0a', lines: ['A\rB'] },
  { name: 'no ending yet', hex: '41 42', lines: [] },
  { name: 'UTF-8 of two and three bytes (RFC 3629, section 3)', hex: 'c3 a9 e2 82 ac 0a', lines: ['é€'] },
  { name: 'a stray continuation byte becomes U+FFFD', hex: '41 80 42 0a', lines: ['A\ufffdB'] },
  { name: 'a byte order mark is content', hex: 'ef bb bf 41 0a', lines: ['\ufeffA'] },
  { name: 'lines ended by CR', ending: 'cr', hex: '41 0d 42 0d', lines: ['A', 'B'] },
  { name: 'CR chosen, CR LF sent', ending: 'cr', hex: '41 0d 0a 42 0d 0a', lines: ['A', 'B'] },
  { name: 'lines ended by NUL', ending: 'nul', hex: '41 0a 00 42 00', lines: ['A\n', 'B'] },
  { name: 'latin-1 (ISO/IEC 8859-1)', encoding: 'latin-1', hex: 'e9 ff 0a', lines: ['éÿ'] },
  { name: 'exactly the longest line', hex: `${'61'.repeat(16)} 0d 0a`, lines: ['a'.repeat(16)] },
  { name: 'one byte too long', hex: `${'61'.repeat(17)} 0a 42 0a`, lines: ['<overlong>', 'B'] },
  { name: 'much too long', hex: `${'61'.repeat(99)} 0a 42 0a`, lines: ['<overlong>', 'B'] },
];

describe('LineFramer', () => {
  it.each(vectors)('reads $name', ({ hex, ending, encoding, lines }) => {
    expect(readAll(fromHex(hex), options({ ...(ending && { ending }), ...(encoding && { encoding }) }))).toEqual(lines);
  });

  it.each(vectors)('reads the same at every split point of $name', ({ hex, ending, encoding, lines }) => {
    const bytes = fromHex(hex);
    const given = options({ ...(ending && { ending }), ...(encoding && { encoding }) });
    for (let at = 0; at <= bytes.length; at += 1) {
      const framer = new LineFramer(given);
      expect([...framer.push(bytes.subarray(0, at)), ...framer.push(bytes.subarray(at))].map(shown)).toEqual(lines);
    }
  });

  it('gives the same lines however the stream is split', () => {
    const stream = fc
      .uint8Array({ maxLength: 200 })
      .map((bytes) => bytes.map((byte) => (byte % 7 === 0 ? 0x0a : byte % 11 === 0 ? 0x0d : byte)));
    const ending = fc.constantFrom<LineEnding>('lf', 'crlf', 'cr', 'nul');
    fc.assert(
      fc.property(stream, ending, fc.array(fc.nat(20), { maxLength: 60 }), (bytes, chosen, sizes) => {
        const framer = new LineFramer(options({ ending: chosen }));
        const frames: LineFrame[] = [];
        let at = 0;
        for (const size of sizes) {
          frames.push(...framer.push(bytes.subarray(at, at + size)));
          at += size;
        }
        frames.push(...framer.push(bytes.subarray(at)));
        expect(frames.map(shown)).toEqual(readAll(bytes, options({ ending: chosen })));
      }),
    );
  });

  it('keeps every byte of a line in raw, ending included', () => {
    const bytes = fromHex('41 0d 0a 42 0a');
    const raw = new LineFramer(options()).push(bytes).flatMap((frame) => (frame.kind === 'line' ? [...frame.raw] : []));
    expect(Uint8Array.from(raw)).toEqual(bytes);
  });

  it('says which lines are not valid UTF-8', () => {
    const [good, bad] = new LineFramer(options()).push(fromHex('41 0a c3 0a'));
    expect([good?.kind === 'line' && good.malformed, bad?.kind === 'line' && bad.malformed]).toEqual([false, true]);
  });

  it('reports a babbler that never ends its line once, and holds no more than its limit', () => {
    const framer = new LineFramer(options());
    let overlong = 0;
    for (let i = 0; i < 1000; i += 1) overlong += framer.push(new Uint8Array(1000).fill(0x61)).length;
    expect(overlong).toBe(1);
    expect(framer.rest().length).toBeLessThanOrEqual(18);
  });
});

describe('encodeLine', () => {
  const encode = { ending: 'crlf', encoding: 'utf-8', maxFrameBytes: 16 } as const;

  it('puts the ending behind the text', () => {
    const line = encodeLine('AB', encode);
    expect(line.ok && [...line.value]).toEqual([0x41, 0x42, 0x0d, 0x0a]);
  });

  it.each([
    { name: 'a line feed', text: 'A\nB', code: 'ending-inside', offset: 1 },
    { name: 'a carriage return', text: '\rB', code: 'ending-inside', offset: 0 },
    { name: 'a NUL', text: 'AB\0', code: 'ending-inside', offset: 2 },
    { name: 'more bytes than the device takes', text: '€€€€€€', code: 'overlong', offset: 16 },
  ])('refuses $name, because it would not be one line', ({ text, code, offset }) => {
    const line = encodeLine(text, encode);
    expect(!line.ok && { code: line.error.code, offset: line.error.offset }).toEqual({ code, offset });
  });

  it('refuses what the character set of the device does not have', () => {
    const line = encodeLine('a€', { ...encode, encoding: 'latin-1' });
    expect(!line.ok && line.error.code).toBe('not-encodable');
  });

  it('is read back as it was by the framer', () => {
    const text = fc.string({ maxLength: 40, unit: 'grapheme' }).filter((s) => !/[\r\n\0]/.test(s) && s.isWellFormed());
    fc.assert(
      fc.property(text, fc.constantFrom<LineEnding>('lf', 'crlf', 'cr', 'nul'), (line, ending) => {
        const bytes = encodeLine(line, { ending, encoding: 'utf-8', maxFrameBytes: 4000 });
        expect(bytes.ok && readAll(bytes.value, options({ ending, maxFrameBytes: 4000 }))).toEqual([line]);
      }),
    );
  });
});
