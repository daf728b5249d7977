import { checksums } from '../wire';
import type { CompiledDriver } from './compile';
import type { DriverParameter } from './schema';
import { isByteFormat, isTextWriting, type HoleFormat, type TemplatePart } from './template';
import type { ByteFormat } from './template-bytes';
import { fillTemplateBytes } from './template-fill';

/** The driver, and the parameters of the command that is looked for. */
export interface Context {
  readonly driver: CompiledDriver;
  readonly params: Readonly<Record<string, DriverParameter>>;
}

const utf8 = new TextEncoder();

/** Bytes as text, one character each. */
export const binary = (bytes: Uint8Array): string => Array.from(bytes, (byte) => String.fromCharCode(byte)).join('');

export const encodingOf = ({ document: { framing } }: CompiledDriver): 'utf-8' | 'latin-1' =>
  ('encoding' in framing ? framing.encoding : undefined) ?? 'utf-8';

/** What every message of a template begins with, as far as it is plain. */
export function prefixOf(driver: CompiledDriver, parts: readonly TemplatePart[]): string {
  const [first] = parts;
  if (first?.kind !== 'text' && first?.kind !== 'byte') return '';
  return binary(fillTemplateBytes([first], {}, encodingOf(driver)));
}

const escaped = (text: string): string =>
  Array.from(text, (c) => `\\x{${c.charCodeAt(0).toString(16).padStart(2, '0')}}`).join('');

/**
 * The pattern (RE2) of what a template sends, over bytes of which each is one character. Parameters are its named groups, and `ref` the number of
 * the request.
 *
 * @param taken the names that are groups already
 */
export function patternOf(context: Context, parts: readonly TemplatePart[], taken: Set<string>): string {
  const { driver, params } = context;
  return parts
    .map((part): string => {
      switch (part.kind) {
        case 'text':
        case 'byte':
          return escaped(binary(fillTemplateBytes([part], {}, encodingOf(driver))));
        case 'optional':
          return `(?:${patternOf(context, part.parts, taken)})?`;
        case 'length':
          return `${formatPattern(part.format)}${patternOf(context, part.parts, taken)}`;
        case 'check': {
          const { width } = checksums[part.algorithm];
          return part.as === 'hex' ? `[0-9A-Fa-f]{${width * 2}}` : `.{${byteWidths[part.as] ?? width}}`;
        }
        case 'hole': {
          const { name, format } = part;
          if (name.startsWith('option.'))
            return escaped(binary(fillTemplateBytes([part], driver.optionTexts, encodingOf(driver))));
          const pattern = name === 'ref' ? '[0-9]+' : (choicePattern(params[name], format) ?? formatPattern(format));
          if (name.includes('.') || taken.has(name)) return pattern;
          taken.add(name);
          return `(?P<${name}>${pattern})`;
        }
      }
    })
    .join('');
}

/** What a choice or a switch can write, where nothing else formats it. */
function choicePattern(param: DriverParameter | undefined, format: HoleFormat | undefined): string | undefined {
  const shape = param?.value;
  if (format || !shape || (shape.type !== 'choice' && shape.type !== 'onOff')) return undefined;
  const texts = shape.type === 'choice' ? shape.choices.map(({ wire, value }) => wire ?? value) : [shape.on, shape.off];
  const longestFirst = [...texts].sort((a, b) => b.length - a.length);
  return `(?:${longestFirst.map((text) => escaped(binary(utf8.encode(text)))).join('|')})`;
}

const byteWidths: Readonly<Partial<Record<ByteFormat, number>>> = {
  u8: 1,
  u16be: 2,
  u16le: 2,
  u32be: 4,
  u32le: 4,
  f32be: 4,
};

function formatPattern(format: HoleFormat | undefined): string {
  if (!format || format.as === 'path' || isTextWriting(format.as)) return '.*?';
  if (format.as === 'dec') return '-?[0-9]+';
  if (format.as === 'hex') return '-?[0-9A-Fa-f]+';
  if (format.as === 'pad') return `.{${format.digits}}`;
  return isByteFormat(format.as) ? `.{${byteWidths[format.as] ?? format.digits}}` : '.*?';
}
