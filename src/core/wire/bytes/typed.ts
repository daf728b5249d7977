import { fail, ok, type Result } from '../../result';

interface TypedError {
  /** Position of the character at fault, from 0. */
  readonly offset: number;
  readonly message: string;
}

const named: Readonly<Record<string, number>> = { r: 13, n: 10, t: 9, '0': 0, '\\': 92, '{': 123, '}': 125 };
const utf8 = new TextEncoder();

/**
 * The bytes of a payload that a person typed as text: `\r \n \t \0 \\` and `\xHH` are escapes, everything else is itself in
 * UTF-8. A mistake is named with its character.
 */
export function fromEscaped(text: string): Result<Uint8Array, TypedError> {
  const bytes: number[] = [];
  for (let i = 0; i < text.length;) {
    if (text[i] !== '\\') {
      const c = String.fromCodePoint(text.codePointAt(i) ?? 0);
      bytes.push(...utf8.encode(c));
      i += c.length;
      continue;
    }
    const next = text.charAt(i + 1);
    const hex = /^x([0-9A-Fa-f]{2})/.exec(text.slice(i + 1, i + 4));
    if (hex) {
      bytes.push(parseInt(hex[1] ?? '', 16));
      i += 4;
    } else if (named[next] !== undefined) {
      bytes.push(named[next]);
      i += 2;
    } else if (next === 'x') {
      return fail({ offset: i, message: 'After \\x come two hexadecimal digits, such as \\x0D.' });
    } else {
      return fail({ offset: i, message: 'Unknown escape. Known are \\r \\n \\t \\0 \\\\ and \\xHH.' });
    }
  }
  return ok(Uint8Array.from(bytes));
}

/** How bytes would be typed as text: printable ASCII as it is, the rest as escapes. */
export function toEscaped(bytes: Uint8Array): string {
  let text = '';
  for (const byte of bytes) {
    if (byte === 13) text += '\\r';
    else if (byte === 10) text += '\\n';
    else if (byte === 92) text += '\\\\';
    else if (byte >= 32 && byte < 127) text += String.fromCharCode(byte);
    else text += `\\x${byte.toString(16).toUpperCase().padStart(2, '0')}`;
  }
  return text;
}
