import { expect, it } from 'vitest';
import { maxPictureBytes, pictureType } from './picture';

const bytes = (text: string, more = 0) =>
  Uint8Array.from([...text].map((letter) => letter.charCodeAt(0)).concat(Array.from({ length: more }, () => 0)));

it.each([
  ['\x89PNG\r\n\x1a\n', 'image/png'],
  ['\xff\xd8\xff\xe0', 'image/jpeg'],
  ['RIFF\x10\x00\x00\x00WEBPVP8 ', 'image/webp'],
])('knows a picture by how it begins: %j', (begins, type) => {
  expect(pictureType(bytes(begins, 20))).toEqual({ ok: true, value: type });
});

it.each([
  ['GIF89a', 'a GIF'],
  ['%PDF-1.7', 'a PDF'],
  ['<svg xmlns', 'a drawing or a web page'],
  ['BM', 'a BMP'],
  ['RIFF\x10\x00\x00\x00WAVE', 'no picture that is known here'],
  ['', 'no picture that is known here'],
])('refuses what is none, and says what it seems to be: %j', (begins, what) => {
  const refused = pictureType(bytes(begins));
  expect(refused).toEqual({ ok: false, error: `It is ${what}. Use PNG, JPEG or WebP.` });
});

it('refuses one that is too large, and says how large it may be', () => {
  expect(pictureType(bytes('\x89PNG\r\n\x1a\n', maxPictureBytes - 8)).ok).toBe(true);
  const refused = pictureType(bytes('\x89PNG\r\n\x1a\n', maxPictureBytes));
  expect(!refused.ok && refused.error).toContain('is the most');
});
