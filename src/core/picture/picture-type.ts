const text = (bytes: Uint8Array, from: number, to: number): string =>
  new TextDecoder('latin1').decode(bytes.subarray(from, to));

/**
 * What kind of picture bytes are, by how they begin; `undefined` for what is none. What a device says of its own bytes is often wrong.
 * JPEG: ISO/IEC 10918-1, B.1.1.3 (SOI). PNG: RFC 2083, 3.1. GIF89a, 17. WebP: RFC 9649, 2.4. SVG 2, 5.1.
 */
export function pictureTypeOf(bytes: Uint8Array): string | undefined {
  if (bytes[0] === 0xff && bytes[1] === 0xd8 && bytes[2] === 0xff) return 'image/jpeg';
  if (text(bytes, 0, 8) === '\x89PNG\r\n\x1a\n') return 'image/png';
  if (/^GIF8[79]a/.test(text(bytes, 0, 6))) return 'image/gif';
  if (text(bytes, 0, 4) === 'RIFF' && text(bytes, 8, 12) === 'WEBP') return 'image/webp';
  const begin = text(bytes, 0, 512).replace(/^\u00ef\u00bb\u00bf/, '');
  if (/^\s*(<\?xml[^>]*>\s*)?(<!--[\s\S]*?-->\s*)*(<!DOCTYPE svg[^>]*>\s*)?<svg[\s>]/i.test(begin))
    return 'image/svg+xml';
  return undefined;
}
