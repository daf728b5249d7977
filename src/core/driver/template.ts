import { fail, ok, type Result } from '../result';
import { checksums, type ChecksumName } from '../wire';
import { byteFormats, type ByteFormat } from './template-bytes';
import { textWritings, type TextWriting } from './written-text';

/**
 * Text and bytes with holes: `TAKE {input}`, `SRC {input:dec2}`, `\x02ADD {channel:hex2}{?note| {note}}\r`.
 *
 * A hole names a parameter, a group, an option of the device (`{option.unit}`) or one of its readings (`{reading.serial}`), with an optional format after a colon: `decN` and `hexN` write N digits padded with
 * zeros, `padN` fills a text with blanks to N characters; `u8`, `u16be`, `u16le`, `u32be`, `u32le`, `f32be`, `nibN` (N bytes
 * of four bits each) and `bcdN` (N bytes of two decimal digits) write bytes. `path` writes a whole path of a request, as it was typed. `percent`, `base64`, `hexutf8`
 * and `quoted` write a text in these ways. `{?name|…}` is left out when the parameter was left out. `{length u8|…}` writes the number of bytes of what it encloses and
 * then that; `{length u16be+3|…}` three more. `{check xor8}`, `{check crc16modbus from 1 as u16le}` is a checksum over everything before it.
 * `\r \n \t \0 \\ \{ \}` and `\xHH` are escapes.
 */
export type TemplatePart =
  | { readonly kind: 'text'; readonly text: string }
  | { readonly kind: 'byte'; readonly value: number }
  | { readonly kind: 'hole'; readonly name: string; readonly format?: HoleFormat }
  | { readonly kind: 'optional'; readonly name: string; readonly parts: readonly TemplatePart[] }
  | {
      readonly kind: 'length';
      readonly format: HoleFormat;
      /** Added to the number of bytes. */
      readonly plus: number;
      readonly parts: readonly TemplatePart[];
    }
  | {
      readonly kind: 'check';
      readonly algorithm: ChecksumName;
      readonly from: number;
      readonly as: ByteFormat | 'hex';
    };

export type HoleFormat =
  | { readonly as: 'dec' | 'hex' | 'pad' | 'path' | TextWriting; readonly digits: number }
  | { readonly as: ByteFormat; readonly digits: number };

interface TemplateError {
  /** Position in the template, in UTF-16 units from 0. */
  readonly offset: number;
  readonly message: string;
}

const holePattern = /^((?:option\.)?[A-Za-z][A-Za-z0-9]*|reading(?:\.[a-z][A-Za-z0-9]*)+)(?::([a-z][a-z0-9]*))?$/;
const lengthPattern = /^\{length ([a-z][a-z0-9]*)(?:([+-]\d{1,3}))?\|/;
const checkPattern = /^check ([a-z0-9]+)(?: from (\d{1,3}))?(?: as ([a-z0-9]+))?$/;

/** Reads a template. `hex`: outside the holes stand hexadecimal digits instead of text. */
export function parseTemplate(source: string, hex = false): Result<readonly TemplatePart[], TemplateError> {
  const parsed = parseParts(source, 0, hex, false);
  return parsed.ok ? ok(parsed.value.parts) : parsed;
}

function parseParts(
  source: string,
  start: number,
  hex: boolean,
  inside: boolean,
): Result<{ readonly parts: readonly TemplatePart[]; readonly end: number }, TemplateError> {
  const parts: TemplatePart[] = [];
  let text = '';
  const flush = () => {
    if (text) parts.push({ kind: 'text', text });
    text = '';
  };
  let i = start;
  while (i < source.length) {
    const c = source.charAt(i);
    if (c === '}' && inside) break;
    if (c === '{') {
      flush();
      const hole = readHole(source, i, hex);
      if (!hole.ok) return hole;
      parts.push(hole.value.part);
      i = hole.value.end;
    } else if (c === '}') {
      return fail({ offset: i, message: 'This “}” has no “{”. Write “\\}” for the character itself.' });
    } else if (hex) {
      if (/\s/.test(c)) {
        i += 1;
        continue;
      }
      const pair = /^[0-9A-Fa-f]{2}/.exec(source.slice(i, i + 2));
      if (!pair) return fail({ offset: i, message: 'Expected two hexadecimal digits, or a hole such as {speed:u8}.' });
      parts.push({ kind: 'byte', value: parseInt(pair[0], 16) });
      i += 2;
    } else if (c === '\\') {
      const escape = readEscape(source, i);
      if (!escape.ok) return escape;
      if (typeof escape.value.is === 'string') text += escape.value.is;
      else {
        flush();
        parts.push({ kind: 'byte', value: escape.value.is });
      }
      i += escape.value.length;
    } else {
      text += c;
      i += 1;
    }
  }
  flush();
  if (inside && i >= source.length) return fail({ offset: start, message: 'This part has no “}” at its end.' });
  return ok({ parts, end: i });
}

function readHole(
  source: string,
  at: number,
  hex: boolean,
): Result<{ readonly part: TemplatePart; readonly end: number }, TemplateError> {
  const optional = /^\{\?((?:option\.)?[A-Za-z][A-Za-z0-9]*)\|/.exec(source.slice(at));
  if (optional) {
    const inner = parseParts(source, at + optional[0].length, hex, true);
    if (!inner.ok) return inner;
    const part = { kind: 'optional', name: optional[1] ?? '', parts: inner.value.parts } as const;
    return ok({ part, end: inner.value.end + 1 });
  }
  const sized = lengthPattern.exec(source.slice(at));
  if (sized) {
    const format = readFormat(sized[1] ?? '');
    if (!format || !isLengthFormat(format)) {
      return fail({ offset: at, message: 'A length is written as u8, u16be, u16le, u32be, u32le, decN or hexN.' });
    }
    const inner = parseParts(source, at + sized[0].length, hex, true);
    if (!inner.ok) return inner;
    const part = { kind: 'length', format, plus: Number(sized[2] ?? 0), parts: inner.value.parts } as const;
    return ok({ part, end: inner.value.end + 1 });
  }
  const end = source.indexOf('}', at);
  if (end === -1) return fail({ offset: at, message: 'This “{” has no “}”. Write “\\{” for the character itself.' });
  const content = source.slice(at + 1, end);
  const check = checkPattern.exec(content);
  if (check) {
    const [, algorithm = '', from = '0', as] = check;
    if (!(algorithm in checksums)) {
      return fail({
        offset: at,
        message: `There is no checksum “${algorithm}”. Known: ${Object.keys(checksums).join(', ')}.`,
      });
    }
    const name = algorithm as ChecksumName;
    const width = checksums[name].width;
    const usual = width === 1 ? 'u8' : width === 2 ? 'u16be' : 'u32be';
    if (as !== undefined && as !== 'hex' && !isByteFormat(as)) {
      return fail({ offset: at, message: `A checksum is written as hex, ${byteFormats.join(', ')}, not as “${as}”.` });
    }
    return ok({
      part: { kind: 'check', algorithm: name, from: Number(from), as: (as as ByteFormat) ?? usual },
      end: end + 1,
    });
  }
  const match = holePattern.exec(content);
  const format = match?.[2] === undefined ? undefined : readFormat(match[2]);
  if (!match || format === null) {
    return fail({
      offset: at,
      message: `Expected a name, or a name with a format such as {input:dec2} or {speed:u8}. Formats: decN, hexN, padN, path, ${[...textWritings, ...byteFormats].map((each) => (each === 'nib' || each === 'bcd' ? `${each}N` : each)).join(', ')}.`,
    });
  }
  const [, name = ''] = match;
  return ok({ part: format ? { kind: 'hole', name, format } : { kind: 'hole', name }, end: end + 1 });
}

function readFormat(text: string): HoleFormat | null {
  if (text === 'path' || isTextWriting(text)) return { as: text, digits: 0 };
  const digits = /^(dec|hex|pad)([1-9]\d?)$/.exec(text);
  if (digits) return { as: digits[1] as 'dec', digits: Number(digits[2]) };
  const bytes = /^(nib|bcd)([1-8])$/.exec(text);
  if (bytes) return { as: bytes[1] as 'nib', digits: Number(bytes[2]) };
  return isByteFormat(text) && text !== 'nib' && text !== 'bcd' ? { as: text, digits: 0 } : null;
}

export const isTextWriting = (text: string): text is TextWriting => (textWritings as readonly string[]).includes(text);

const isLengthFormat = ({ as }: HoleFormat): boolean =>
  as === 'dec' || as === 'hex' || (isByteFormat(as) && /^u\d/.test(as));

export const isByteFormat = (text: string): text is ByteFormat => (byteFormats as readonly string[]).includes(text);

function readEscape(source: string, at: number): Result<{ is: string | number; length: number }, TemplateError> {
  const next = source.charAt(at + 1);
  if (next === '{' || next === '}' || next === '\\') return ok({ is: next, length: 2 });
  const known: Readonly<Record<string, number>> = { r: 13, n: 10, t: 9, '0': 0 };
  if (known[next] !== undefined) return ok({ is: known[next], length: 2 });
  const hex = /^x([0-9A-Fa-f]{2})/.exec(source.slice(at + 1, at + 4));
  if (hex) return ok({ is: parseInt(hex[1] ?? '', 16), length: 4 });
  return fail({ offset: at, message: 'Unknown escape. Known are \\r \\n \\t \\0 \\\\ \\{ \\} and \\xHH.' });
}

/** The names of all holes and optional parts, each once. */
export function holesOf(parts: readonly TemplatePart[]): string[] {
  return [
    ...new Set(
      parts.flatMap((part) =>
        part.kind === 'hole'
          ? [part.name]
          : part.kind === 'optional'
            ? [part.name, ...holesOf(part.parts)]
            : part.kind === 'length'
              ? holesOf(part.parts)
              : [],
      ),
    ),
  ];
}

/** True when it has parts that only make sense as bytes: a byte format or a checksum. */
export function needsBytes(parts: readonly TemplatePart[]): boolean {
  return parts.some(
    (part) =>
      part.kind === 'check' ||
      (part.kind === 'optional' && needsBytes(part.parts)) ||
      (part.kind === 'length' && (isByteFormat(part.format.as) || needsBytes(part.parts))) ||
      (part.kind === 'hole' && part.format !== undefined && isByteFormat(part.format.as)),
  );
}
