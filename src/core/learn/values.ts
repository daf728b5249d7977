import type { ValueShape } from '../driver';
import type { Span } from './spans';

/** How the frames of a document are looked at. */
export type FrameText = 'text' | 'bytes';

/** Something that differs between the frames that were marked. */
export interface Hole {
  readonly name: string;
  readonly title: string;
  /** What each frame has there, as it is written. */
  readonly texts: readonly string[];
  /** Bytes that differ side by side, taken as one number. */
  readonly bytes: number;
}

/** Spans with their holes named; neighbouring holes of bytes stay apart unless `joins` says otherwise. */
export type Part = { readonly is: 'same'; readonly text: string } | { readonly is: 'hole'; readonly hole: Hole };

/**
 * Names what differs by the words before it.
 *
 * @param taken names that are used already
 */
export function partsOf(spans: readonly Span[], as: FrameText, joins: boolean, taken: ReadonlySet<string>): Part[] {
  const used = new Set(taken);
  const parts: Part[] = [];
  let words = '';
  for (const span of spans) {
    if (span.is === 'same') {
      if (as === 'text') words = span.text;
      parts.push(span);
      continue;
    }
    const last = parts.at(-1);
    if (
      joins &&
      as === 'bytes' &&
      last?.is === 'hole' &&
      isByte(last.hole) &&
      span.texts.every((text) => text.length === 2)
    ) {
      const texts = last.hole.texts.map((text, n) => text + (span.texts[n] ?? ''));
      parts[parts.length - 1] = { is: 'hole', hole: { ...last.hole, texts, bytes: last.hole.bytes + 1 } };
      continue;
    }
    const title = titleFrom(words);
    const name = freeName(nameFrom(title), used);
    used.add(name);
    parts.push({ is: 'hole', hole: { name, title, texts: span.texts, bytes: 1 } });
  }
  return parts;
}

/** No more than four bytes are one number. */
const isByte = ({ texts, bytes }: Hole): boolean => bytes < 4 && texts.every((text) => text.length === bytes * 2);

export function freeName(wanted: string, used: ReadonlySet<string>): string {
  if (!used.has(wanted)) return wanted;
  let n = 2;
  while (used.has(`${wanted}${n}`)) n += 1;
  return `${wanted}${n}`;
}

/** The last words of what stands before a value: `LEVEL OF STRIP ` gives “Strip”. */
function titleFrom(text: string): string {
  const words = text.match(/\p{L}{2,}/gu) ?? [];
  const last = words.at(-1)?.toLowerCase() ?? 'value';
  return last.charAt(0).toUpperCase() + last.slice(1);
}

/** A name for a document made of a title: `Set the level` gives `setTheLevel`. */
export function nameFrom(title: string): string {
  const words = title.normalize('NFKD').match(/[A-Za-z0-9]+/g) ?? [];
  const name = words
    .map((word, n) => (n === 0 ? word.toLowerCase() : word.charAt(0).toUpperCase() + word.slice(1)))
    .join('');
  return /^[a-z]/.test(name) ? name : name === '' ? 'value' : `do${name}`;
}

/** What kind of value the texts of a hole are. */
export function shapeOf({ texts }: Pick<Hole, 'texts'>, as: FrameText): ValueShape {
  const distinct = [...new Set(texts)];
  if (as === 'bytes') {
    if (distinct.length === 2 && distinct.every((text) => text === '00' || text === '01'))
      return { type: 'onOff', on: '01', off: '00' };
    if (texts.every((text) => text.length > 2) && texts.every(isPrintableHex)) return { type: 'text', reads: 'hex' };
    return texts.every((text) => text.length <= 8) ? { type: 'whole', reads: 'hex' } : { type: 'text', reads: 'text' };
  }
  if (texts.every((text) => /^-?\d{1,15}$/.test(text))) return { type: 'whole' };
  if (texts.every((text) => /^-?\d+(\.\d+)?$/.test(text))) return { type: 'decimal' };
  for (const [on, off] of switches) {
    const isSwitch = distinct.every((text) => text.toLowerCase() === on || text.toLowerCase() === off);
    const write = (word: string) =>
      distinct.find((text) => text.toLowerCase() === word) ?? casedLike(distinct[0] ?? '', word);
    if (isSwitch) return { type: 'onOff', on: write(on), off: write(off) };
  }
  const isWords = texts.every((text) => /^[\p{L}_]+$/u.test(text));
  if (isWords && distinct.length >= 2 && distinct.length <= 8 && texts.length > distinct.length)
    return { type: 'choice', choices: distinct.map((value) => ({ value, title: value.toLowerCase() })) };
  return { type: 'text' };
}

const switches = [
  ['on', 'off'],
  ['true', 'false'],
  ['yes', 'no'],
] as const;

const casedLike = (model: string, word: string): string => (model === model.toUpperCase() ? word.toUpperCase() : word);

const isPrintableHex = (hex: string): boolean => (hex.match(/../g) ?? []).every((pair) => pair >= '20' && pair <= '7E');
