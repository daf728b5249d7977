import { checksums } from '../wire';
import { isByteFormat, isTextWriting, type HoleFormat, type TemplatePart } from './template';
import { putFormatted } from './template-bytes';
import { writeText } from './written-text';

const utf8 = new TextEncoder();

type TemplateValues = Readonly<Record<string, string | Uint8Array | undefined>>;

/** Fills the holes as text. A hole without a value stays empty; compiling a document makes sure that there is none. */
export function fillTemplate(parts: readonly TemplatePart[], values: TemplateValues): string {
  let text = '';
  for (const part of parts) {
    if (part.kind === 'text') text += part.text;
    else if (part.kind === 'byte') text += String.fromCharCode(part.value);
    else if (part.kind === 'optional') text += values[part.name] === undefined ? '' : fillTemplate(part.parts, values);
    else if (part.kind === 'hole') text += fillHole(part.format, values[part.name]);
    else if (part.kind === 'length') {
      const inner = fillTemplate(part.parts, values);
      text += fillHole(part.format, String(utf8.encode(inner).length + part.plus)) + inner;
    }
  }
  return text;
}

function fillHole(format: HoleFormat | undefined, value: string | Uint8Array | undefined): string {
  if (value instanceof Uint8Array) return Array.from(value, (byte) => String.fromCharCode(byte)).join('');
  if (!format || format.as === 'path') return value ?? '';
  if (isTextWriting(format.as)) return writeText(format.as, value ?? '');
  if (format.as === 'pad') return (value ?? '').slice(0, format.digits).padEnd(format.digits, ' ');
  const whole = Math.trunc(Number(value ?? 0)) || 0;
  const base = format.as === 'hex' ? 16 : 10;
  const digits = Math.abs(whole).toString(base).toUpperCase().padStart(format.digits, '0');
  return whole < 0 ? `-${digits}` : digits;
}

/** Fills the holes as bytes: text in the encoding, byte formats as they say, checksums over everything before them. */
export function fillTemplateBytes(
  parts: readonly TemplatePart[],
  values: TemplateValues,
  encoding: 'utf-8' | 'latin-1',
): Uint8Array {
  const out: number[] = [];
  put(parts, values, encoding, out);
  return Uint8Array.from(out);
}

function put(
  parts: readonly TemplatePart[],
  values: TemplateValues,
  encoding: 'utf-8' | 'latin-1',
  out: number[],
): void {
  const putText = (text: string) => {
    if (encoding === 'utf-8') for (const byte of utf8.encode(text)) out.push(byte);
    else for (const c of text) out.push((c.codePointAt(0) ?? 63) > 255 ? 63 : (c.codePointAt(0) ?? 63));
  };
  for (const part of parts) {
    if (part.kind === 'text') putText(part.text);
    else if (part.kind === 'byte') out.push(part.value);
    else if (part.kind === 'optional') {
      if (values[part.name] !== undefined) put(part.parts, values, encoding, out);
    } else if (part.kind === 'length') {
      const inner: number[] = [];
      put(part.parts, values, encoding, inner);
      const length = inner.length + part.plus;
      if (isByteFormat(part.format.as)) putFormatted(out, part.format.as, part.format.digits, length);
      else putText(fillHole(part.format, String(length)));
      for (const byte of inner) out.push(byte);
    } else if (part.kind === 'check') {
      const value = checksums[part.algorithm].of(Uint8Array.from(out.slice(part.from)));
      if (part.as === 'hex')
        putText(
          value
            .toString(16)
            .toUpperCase()
            .padStart(checksums[part.algorithm].width * 2, '0'),
        );
      else putFormatted(out, part.as, 2, value);
    } else {
      const value = values[part.name];
      const { format } = part;
      if (value instanceof Uint8Array) for (const byte of value) out.push(byte);
      else if (format && isByteFormat(format.as)) putFormatted(out, format.as, format.digits, Number(value ?? 0));
      else putText(fillHole(format, value));
    }
  }
}
