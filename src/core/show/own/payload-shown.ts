import { fail, ok, type Result } from '../../result';
import { fromEscaped, fromHex, toEscaped, toHex } from '../../wire';
import { pieces } from './typed-text';

/** What a payload is before it is sent: as text and as hexadecimal digits, with the values in braces that fill it. */
interface PayloadShown {
  readonly text: string;
  readonly hex: string;
  /** Bytes, without those of the values. */
  readonly length: number;
  readonly hasHoles: boolean;
}

interface Mistake {
  /** Position in what was typed, in UTF-16 units from 0. */
  readonly offset: number;
  readonly message: string;
}

/**
 * @param ending escapes that are added behind it
 * @param known names of values in braces that are holes
 */
export function payloadShown(
  as: 'text' | 'hex',
  typed: string,
  ending: string,
  known: readonly string[],
): Result<PayloadShown, Mistake> {
  let at = 0;
  const texts: string[] = [];
  const hexes: string[] = [];
  let length = 0;
  let hasHoles = false;
  for (const { text, isHole } of pieces(typed, known)) {
    if (isHole) {
      hasHoles = true;
      texts.push(text);
      hexes.push(text);
    } else {
      const bytes = as === 'hex' ? fromHex(text) : fromEscaped(text.replace(/\\([{}])/g, '$1'));
      if (!bytes.ok) return fail({ ...bytes.error, offset: at + bytes.error.offset });
      texts.push(toEscaped(bytes.value));
      hexes.push(spaced(bytes.value));
      length += bytes.value.length;
    }
    at += text.length;
  }
  const end = fromEscaped(ending);
  if (end.ok && end.value.length > 0) {
    texts.push(toEscaped(end.value));
    hexes.push(spaced(end.value));
    length += end.value.length;
  }
  return ok({ text: texts.join(''), hex: hexes.filter(Boolean).join(' '), length, hasHoles });
}

const spaced = (bytes: Uint8Array): string => toHex(bytes).replace(/..(?=.)/g, '$& ');
