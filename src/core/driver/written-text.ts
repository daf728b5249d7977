import { fail, ok, type Result } from '../result';
import { fromHex, toHex } from '../wire';

/**
 * Ways in which a device writes a text that is not plain: percent-encoded (RFC 3986, 2.1), Base64 (RFC 4648, 4, padded), UTF-8 bytes in
 * hexadecimal digits, or between double quotes with a backslash before `"` and `\`.
 */
export const textWritings = ['percent', 'base64', 'hexutf8', 'quoted'] as const;
export type TextWriting = (typeof textWritings)[number];

const utf8 = new TextEncoder();
const strictUtf8 = new TextDecoder('utf-8', { fatal: true });
const binary = (bytes: Uint8Array): string => Array.from(bytes, (byte) => String.fromCharCode(byte)).join('');

export function writeText(as: TextWriting, text: string): string {
  switch (as) {
    case 'percent':
      return encodeURIComponent(text.toWellFormed());
    case 'base64':
      return btoa(binary(utf8.encode(text)));
    case 'hexutf8':
      return toHex(utf8.encode(text));
    case 'quoted':
      return `"${text.replace(/["\\]/g, '\\$&')}"`;
  }
}

/** The text that was written. Fails with a sentence when it is not written so. */
export function readText(as: TextWriting, written: string): Result<string, string> {
  switch (as) {
    case 'percent':
      return attempt(() => decodeURIComponent(written), `“${written}” is not percent-encoded text`);
    case 'base64':
      return attempt(
        () => strictUtf8.decode(Uint8Array.from(atob(written), (c) => c.charCodeAt(0))),
        `“${written}” is not Base64 of a text`,
      );
    case 'hexutf8': {
      const bytes = fromHex(written);
      const fault = `“${written}” is not text in hexadecimal digits`;
      return bytes.ok ? attempt(() => strictUtf8.decode(bytes.value), fault) : fail(fault);
    }
    case 'quoted': {
      const inner = /^"((?:[^"\\]|\\.)*)"$/s.exec(written.trim());
      return inner ? ok((inner[1] ?? '').replace(/\\(.)/gs, '$1')) : fail(`“${written}” has no quotes around it`);
    }
  }
}

function attempt(read: () => string, fault: string): Result<string, string> {
  try {
    return ok(read());
  } catch {
    return fail(fault);
  }
}
