import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { boundaryOf, MultipartFramer } from './multipart';

const text = (body: string) => new TextEncoder().encode(body);
const said = (bytes: Uint8Array) => new TextDecoder().decode(bytes);

/** Everything that a stream in pieces gives. */
function parts(stream: Uint8Array, sizes: readonly number[], max = 10_000) {
  const framer = new MultipartFramer('cut', max);
  const found: string[] = [];
  let error: string | undefined;
  let at = 0;
  for (let n = 0; at < stream.length; n += 1) {
    const size = Math.max(1, sizes[n % Math.max(1, sizes.length)] ?? 1);
    const result = framer.push(stream.subarray(at, at + size));
    if (result.ok) found.push(...result.value.map(({ body }) => said(body)));
    else error ??= result.error;
    at += size;
  }
  return { found, error };
}

describe('the boundary of a multipart type (RFC 2046, 5.1.1)', () => {
  it.each([
    ['multipart/x-mixed-replace; boundary=cut', 'cut'],
    ['multipart/x-mixed-replace;boundary="a cut"', 'a cut'],
    ['Multipart/X-Mixed-Replace; charset=x; BOUNDARY=cut; more=1', 'cut'],
    ['multipart/x-mixed-replace; boundary=--cut', 'cut'],
    ['multipart/x-mixed-replace', undefined],
    ['image/jpeg', undefined],
  ])('of %s is %s', (type, boundary) => expect(boundaryOf(type)).toBe(boundary));
});

describe('a stream of parts that replace one another', () => {
  it.each([
    {
      name: 'with lengths',
      stream: '--cut\r\nContent-Length: 5\r\n\r\n--cut\r\n--cut\r\nContent-Length: 3\r\n\r\ntwo\r\n',
      found: ['--cut', 'two'],
    },
    {
      name: 'without lengths',
      stream: '--cut\r\nA: b\r\n\r\none\r\n--cut\r\nA: b\r\n\r\n\r\n--cut',
      found: ['one', ''],
    },
    {
      name: 'with LF alone',
      stream: 'preamble\n--cut\nA: b\n\none\n--cut\nA: b\n\ntwo\n--cut--\n',
      found: ['one', 'two'],
    },
    { name: 'that has begun before', stream: 'the end of one\r\n--cut\r\n\r\none\r\n--cut', found: ['one'] },
  ])('$name is cut into its parts, however it comes in pieces', ({ stream, found }) => {
    for (let size = 1; size <= stream.length; size += 1)
      expect(parts(text(stream), [size])).toEqual({ found, error: undefined });
  });

  it('is refused where a part, its headers or what comes before are too large, and gives nothing any more', () => {
    expect(parts(text(`--cut\r\nContent-Length: 11\r\n\r\n`), [100], 10).error).toBe('part-too-large');
    expect(parts(text(`--cut\r\n\r\n${'x'.repeat(50)}`), [100], 10).error).toBe('part-too-large');
    expect(parts(text(`--cut\r\nA: ${'x'.repeat(9000)}`), [500]).error).toBe('headers-too-large');
    expect(parts(text('x'.repeat(9000)), [500]).error).toBe('no-boundary');
    const framer = new MultipartFramer('cut', 10);
    framer.push(text('--cut\r\nContent-Length: 11\r\n\r\n'));
    expect(framer.push(text('--cut\r\n\r\nx\r\n--cut'))).toEqual({ ok: false, error: 'part-too-large' });
  });

  it('gives what was put into it, in any pieces', () => {
    const bodies = fc.array(fc.uint8Array({ maxLength: 300 }), { minLength: 1, maxLength: 5 });
    let withMark = 0;
    fc.assert(
      fc.property(
        bodies,
        fc.array(fc.integer({ min: 1, max: 90 }), { minLength: 1 }),
        fc.boolean(),
        (list, sizes, mark) => {
          const sent = mark ? [...list, text('--cut\r\n\r\n')] : list;
          withMark += Number(mark);
          const stream = sent.flatMap((body) => [
            ...text(`--cut\r\nContent-Type: image/jpeg\r\nContent-Length: ${body.length}\r\n\r\n`),
            ...body,
            ...text('\r\n'),
          ]);
          const framer = new MultipartFramer('cut', 1000);
          const found: Uint8Array[] = [];
          let at = 0;
          for (let n = 0; at < stream.length; n += 1) {
            const size = sizes[n % sizes.length] ?? 1;
            const result = framer.push(Uint8Array.from(stream.slice(at, at + size)));
            if (result.ok) found.push(...result.value.map(({ body }) => body));
            at += size;
          }
          expect(found).toEqual(sent.map((body) => Uint8Array.from(body)));
        },
      ),
    );
    expect(withMark).toBeGreaterThan(20);
  });

  it('never throws at bytes from anywhere', () => {
    fc.assert(
      fc.property(fc.array(fc.uint8Array({ maxLength: 200 }), { maxLength: 20 }), (chunks) => {
        const framer = new MultipartFramer('c', 100);
        for (const chunk of chunks) framer.push(chunk);
      }),
    );
  });
});
