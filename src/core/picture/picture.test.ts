import { describe, expect, it } from 'vitest';
import { decodePicture, encodePicture } from './messages';
import { pictureTypeOf } from './picture-type';
import { pathAt, readPictureAddress, retryAfterMs, widthToAsk } from './source';

const bytes = (...list: number[]) => Uint8Array.from(list);
const text = (body: string) => new TextEncoder().encode(body);

describe('what kind of picture bytes are', () => {
  it.each([
    ['a JPEG', bytes(0xff, 0xd8, 0xff, 0xe0), 'image/jpeg'],
    ['a PNG', bytes(0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a), 'image/png'],
    ['a GIF', text('GIF89a'), 'image/gif'],
    ['a WebP', text('RIFF1234WEBP'), 'image/webp'],
    ['a drawing', text('<svg xmlns="http://www.w3.org/2000/svg"/>'), 'image/svg+xml'],
    ['a drawing with its declaration', text('<?xml version="1.0"?>\n<!-- by hand -->\n<svg>'), 'image/svg+xml'],
    ['a page', text('<!doctype html><svg>'), undefined],
    ['nothing', bytes(), undefined],
  ])('%s is told by how it begins', (_, body, type) => expect(pictureTypeOf(body)).toBe(type));
});

describe('a picture on its way to a screen', () => {
  it('arrives as it was sent, and is refused when it is cut off', () => {
    const head = { key: 'k'.repeat(22), n: 7, at: 1_760_000_000_000, type: 'image/jpeg' };
    const whole = encodePicture(head, bytes(1, 2, 3));
    expect(decodePicture(whole)).toEqual({ ok: true, value: { head, bytes: bytes(1, 2, 3) } });
    for (const size of [0, 1, 2, 30]) expect(decodePicture(whole.subarray(0, size)).ok).toBe(false);
  });
});

describe('the address of a picture', () => {
  it.each([
    ['http://10.0.5.20/video?x=1', { secure: false, host: '10.0.5.20', port: 80, path: '/video?x=1' }],
    ['https://cam.local:8443/v', { secure: true, host: 'cam.local', port: 8443, path: '/v' }],
    [' http://[fe80::1]:81/ ', { secure: false, host: 'fe80::1', port: 81, path: '/' }],
    ['10.0.5.20/video', 'no-url'],
    ['', 'no-url'],
    ['rtsp://10.0.5.20/video', 'not-http'],
    ['http://a:b@10.0.5.20/', 'sign-in-in-url'],
  ])('%s is read, or refused with the reason', (url, place) => expect(readPictureAddress(url)).toEqual(place));

  it('takes the smallest width that is enough, or the largest there is', () => {
    expect([100, 320, 321, 5000].map((wanted) => widthToAsk([1280, 320, 640], wanted))).toEqual([320, 320, 640, 1280]);
    expect(widthToAsk(undefined, 100)).toBeUndefined();
    expect([pathAt('/v?w={width}', 320), pathAt('/v', undefined)]).toEqual(['/v?w=320', '/v']);
  });
});

it('a source that fails is tried again after longer and longer, up to ten seconds', () => {
  const waits = [1, 2, 3, 4, 5, 6, 20].map((failures) => retryAfterMs(failures, 1));
  expect(waits).toEqual([500, 1000, 2000, 4000, 8000, 10_000, 10_000]);
  expect(retryAfterMs(3, 0)).toBe(1600);
});
