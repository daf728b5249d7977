import { fail, ok, type Result } from '../result';

/**
 * Text with holes: `TAKE {input}`, `SRC {input:dec2}`, `\x02ADD {channel:hex2}`.
 *
 * A hole names a parameter or a group, with an optional number format after a colon: `decN` pads with zeros to N
 * decimal digits, `hexN` writes N hexadecimal digits. `\{`, `\}`, `\\`, `\t` and `\xHH` stand for themselves.
 */
export type TemplatePart =
  | { readonly kind: 'text'; readonly text: string }
  | {
      readonly kind: 'hole';
      readonly name: string;
      readonly format?: { readonly base: 10 | 16; readonly digits: number };
    };

export interface TemplateError {
  /** Position in the template, in UTF-16 units from 0. */
  readonly offset: number;
  readonly message: string;
}

const holePattern = /^([A-Za-z][A-Za-z0-9]*)(?::(dec|hex)([1-9]))?$/;

export function parseTemplate(source: string): Result<readonly TemplatePart[], TemplateError> {
  const parts: TemplatePart[] = [];
  let text = '';
  for (let i = 0; i < source.length; i += 1) {
    const c = source[i];
    if (c === '\\') {
      const escape = readEscape(source, i);
      if (!escape.ok) return escape;
      text += escape.value.text;
      i += escape.value.length - 1;
    } else if (c === '{') {
      const end = source.indexOf('}', i);
      if (end === -1) return fail({ offset: i, message: 'This “{” has no “}”. Write “\\{” for the character itself.' });
      const match = holePattern.exec(source.slice(i + 1, end));
      if (!match) {
        return fail({ offset: i, message: 'Expected a name, or a name with a format such as {input:dec2}.' });
      }
      if (text) parts.push({ kind: 'text', text });
      text = '';
      const [, name = '', base, digits] = match;
      parts.push(
        base
          ? { kind: 'hole', name, format: { base: base === 'hex' ? 16 : 10, digits: Number(digits) } }
          : { kind: 'hole', name },
      );
      i = end;
    } else if (c === '}') {
      return fail({ offset: i, message: 'This “}” has no “{”. Write “\\}” for the character itself.' });
    } else {
      text += c;
    }
  }
  if (text) parts.push({ kind: 'text', text });
  return ok(parts);
}

function readEscape(source: string, at: number): Result<{ text: string; length: number }, TemplateError> {
  const next = source[at + 1];
  if (next === '{' || next === '}' || next === '\\') return ok({ text: next, length: 2 });
  if (next === 't') return ok({ text: '\t', length: 2 });
  const hex = /^x([0-9A-Fa-f]{2})/.exec(source.slice(at + 1, at + 4));
  if (hex) return ok({ text: String.fromCharCode(parseInt(hex[1] ?? '', 16)), length: 4 });
  return fail({ offset: at, message: 'Unknown escape. Known are \\{ \\} \\\\ \\t and \\xHH.' });
}

/** The names of all holes, each once. */
export function holesOf(parts: readonly TemplatePart[]): string[] {
  return [...new Set(parts.flatMap((part) => (part.kind === 'hole' ? [part.name] : [])))];
}

/** Fills the holes. A hole without a value stays empty; compiling a document makes sure that there is none. */
export function fillTemplate(parts: readonly TemplatePart[], values: Readonly<Record<string, string>>): string {
  let text = '';
  for (const part of parts) {
    if (part.kind === 'text') text += part.text;
    else if (!part.format) text += values[part.name] ?? '';
    else {
      const whole = Math.trunc(Number(values[part.name] ?? 0));
      const digits = Math.abs(whole).toString(part.format.base).toUpperCase().padStart(part.format.digits, '0');
      text += whole < 0 ? `-${digits}` : digits;
    }
  }
  return text;
}
