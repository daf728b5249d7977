import { fail, ok, type Result } from '../result';

const digits = '0123456789ABCDEF';

/** Two capital digits a byte, without spaces. */
export function toHex(bytes: Uint8Array): string {
  let text = '';
  for (const byte of bytes) text += digits.charAt(byte >> 4) + digits.charAt(byte & 15);
  return text;
}

/** Reads hexadecimal digits in pairs; spaces, commas, colons, points, hyphens and line breaks may stand between pairs. The offset is that of the character at fault. */
export function fromHex(text: string): Result<Uint8Array, { readonly offset: number; readonly message: string }> {
  const bytes: number[] = [];
  for (let i = 0; i < text.length; i += 1) {
    const c = text.charAt(i);
    if (/[\s,:.-]/.test(c)) continue;
    if (!/[0-9A-Fa-f]/.test(c)) return fail({ offset: i, message: `“${c}” is not a hexadecimal digit.` });
    const second = text.charAt(i + 1);
    if (!/[0-9A-Fa-f]/.test(second)) {
      return fail({ offset: i + 1, message: 'A byte has two digits: the second one is missing.' });
    }
    bytes.push(parseInt(c + second, 16));
    i += 1;
  }
  return ok(Uint8Array.from(bytes));
}
