import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { LineFramer } from './framer';

/** A device of which nobody knows how its lines end. */
const framer = () => new LineFramer({ ending: 'any', encoding: 'utf-8', maxFrameBytes: 64 });
const bytes = (text: string) => new TextEncoder().encode(text);
const texts = (frames: ReturnType<LineFramer['push']>) =>
  frames.map((frame) => (frame.kind === 'line' ? frame.text : '<overlong>'));

describe('lines that end in any way', () => {
  it.each([
    ['LF', 'one\ntwo\n', ['one', 'two']],
    ['CR', 'one\rtwo\r', ['one', 'two']],
    ['CR LF', 'one\r\ntwo\r\n', ['one', 'two']],
    ['NUL', 'one\0two\0', ['one', 'two']],
    ['a mixture', 'one\r\ntwo\rthree\0four\n', ['one', 'two', 'three', 'four']],
    ['empty lines', '\r\n\r\n', ['', '']],
    ['LF behind a line of its own', 'one\n\ntwo\n', ['one', '', 'two']],
    ['a line that is too long', `${'x'.repeat(70)}\rnext\r`, ['<overlong>', 'next']],
  ])('%s', (_name, stream, lines) => {
    expect(texts(framer().push(bytes(stream)))).toEqual(lines);
  });

  it('are the same however the stream is cut, and what has not ended is kept to be seen', () => {
    const line = fc.string({ unit: fc.constantFrom('a', 'b', ' ', 'é'), maxLength: 12 });
    const ended = fc
      .tuple(line, fc.constantFrom('\r\n', '\r', '\n', '\0'))
      .filter(([text, end]) => text !== '' || end !== '\n');
    fc.assert(
      fc.property(fc.array(ended, { maxLength: 8 }), line, fc.array(fc.nat(12)), (lines, rest, cuts) => {
        const stream = bytes(lines.map(([text, end]) => text + end).join('') + rest);
        const whole = framer();
        const cut = framer();
        const expected = texts(whole.push(stream));
        const got: string[] = [];
        let at = 0;
        for (const size of [...cuts, stream.length]) {
          got.push(...texts(cut.push(stream.subarray(at, at + size))));
          at += size;
        }
        expect(got).toEqual(expected);
        expect(cut.rest()).toEqual(whole.rest());
        expect(new TextDecoder().decode(cut.rest())).toBe(rest);
      }),
    );
  });
});
