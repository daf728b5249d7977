import type { DriverDocument, DriverReading, DriverReply } from '../driver';
import { fail, ok, type Result } from '../result';
import { fromHex, toEscaped } from '../wire';
import { byteSpans, lineSpans } from './spans';
import { frameTextOf, fixedBytes, saidText } from './frame-text';
import { freeName, nameFrom, partsOf, shapeOf, type FrameText, type Hole, type Part } from './values';

/** A reading that was worked out from frames: what would be added to the document. */
export interface ReadingProposal {
  /** What it would read, in words. */
  readonly title: string;
  /** What it reads in each of the frames that were marked. */
  readonly values: readonly string[];
  readonly readings: Readonly<Record<string, DriverReading>>;
  readonly reply: DriverReply;
}

/**
 * Proposes readings from frames of one kind: each way in which what differs in them can be meant. Fails with a sentence where they have nothing in
 * common, or nothing differs.
 *
 * @param frames as they came, with their ends
 * @param title what they report, where a person says so
 */
export function learnReading(
  document: DriverDocument,
  frames: readonly Uint8Array[],
  title = '',
): Result<readonly ReadingProposal[], string> {
  const { framing } = document;
  const as = frameTextOf(framing);
  if (as === undefined)
    return fail('The bench learns readings from text and bytes only. For JSON, use "take" with a JSON Pointer.');
  const texts = frames.map((frame) => saidText(document, frame));
  if (texts.length === 0 || texts.some((text) => text === undefined))
    return fail('One of the marked frames does not fit the framing of the document.');
  const said = texts.filter((text) => text !== undefined);
  const spans = as === 'text' ? lineSpans(said) : byteSpans(said, fixedBytes(framing));
  if (!spans) return fail('The marked frames are built differently. Mark frames of one kind.');
  if (!spans.some(({ is }) => is === 'different'))
    return fail('The marked frames are all the same. Mark frames that report different values.');
  const taken = new Set(Object.keys(document.readings).map((key) => key.replace(/\[\]$/, '')));
  const ways = as === 'bytes' ? [true, false] : [false];
  const proposals = ways.flatMap((joins) => ofParts(partsOf(spans, as, joins, taken), as, title, taken));
  const unlike = proposals.filter(({ title }, n) => proposals.findIndex((other) => other.title === title) === n);
  return ok(unlike);
}

function ofParts(parts: readonly Part[], as: FrameText, title: string, taken: ReadonlySet<string>): ReadingProposal[] {
  const holes = parts.flatMap((part) => (part.is === 'hole' ? [part.hole] : []));
  const [first, second] = holes;
  const isFamily = holes.length === 2 && first && second && first.texts.every((text) => isIndex(text, as));
  const own = proposal(titled(parts, first, title, taken), as, undefined);
  if (!isFamily) return [own];
  // Bytes have no words before them that could name the member.
  const index = as === 'bytes' ? { ...first, name: 'number', title: 'Number' } : first;
  const numbered = parts.map((part) => (part.is === 'hole' && part.hole === first ? { ...part, hole: index } : part));
  return [proposal(titled(numbered, second, title, taken), as, index), own];
}

/** The parts with one hole called what a person calls it. */
function titled(parts: readonly Part[], hole: Hole | undefined, title: string, taken: ReadonlySet<string>): Part[] {
  const wanted = title.trim();
  return parts.map((part) =>
    part.is !== 'hole' || part.hole !== hole || wanted === ''
      ? part
      : { is: 'hole', hole: { ...part.hole, title: wanted, name: freeName(nameFrom(wanted), taken) } },
  );
}

const isIndex = (text: string, as: FrameText): boolean =>
  (as === 'text' ? /^\d{1,3}$/ : /^0[0-9A-F]$|^[0-3][0-9A-F]$/).test(text);

function proposal(parts: readonly Part[], as: FrameText, index: Hole | undefined): ReadingProposal {
  const values = parts.flatMap((part) => (part.is === 'hole' && part.hole !== index ? [part.hole] : []));
  const number = (text: string) => (as === 'bytes' ? parseInt(text, 16) : Number(text));
  const members = index?.texts.map(number) ?? [];
  const readings = Object.fromEntries(
    values.map((hole): [string, DriverReading] => {
      const base = { title: hole.title, value: shapeOf(hole, as) };
      if (!index) return [hole.name, base];
      const span = { title: index.title, from: Math.min(1, ...members), to: Math.max(...members) };
      return [`${hole.name}[]`, { ...base, index: span }];
    }),
  );
  const key = (hole: Hole) => (index ? `${hole.name}[{${index.name}}]` : hole.name);
  const set = Object.fromEntries(values.map((hole) => [key(hole), `{${hole.name}}`]));
  const match = `^${parts.map((part) => patternOf(part, as, [...values, ...(index ? [index] : [])])).join('')}${as === 'text' ? '$' : ''}`;
  const of = index ? ` of each ${index.title.toLowerCase()}` : '';
  const joined = values.some(({ bytes }) => bytes > 1) ? ', as one number' : '';
  return {
    title: `${values.map(({ title }) => title).join(', ')}${of}${joined}`,
    values: (values[0]?.texts ?? []).map((_, n) => values.map((hole) => shownValue(hole, n, as)).join(', ')),
    readings,
    reply: { match, set },
  };
}

function shownValue(hole: Hole, n: number, as: FrameText): string {
  const text = hole.texts[n] ?? '';
  if (as === 'text') return text;
  if (shapeOf(hole, as).type !== 'text') return String(parseInt(text, 16));
  const bytes = fromHex(text);
  return bytes.ok ? toEscaped(bytes.value) : text;
}

function patternOf(part: Part, as: FrameText, named: readonly Hole[]): string {
  if (part.is === 'same') return as === 'text' ? part.text.replace(/[\\^$.*+?()[\]{}|]/g, '\\$&') : part.text;
  const { hole } = part;
  const shape = shapeOf(hole, as);
  const lengths = new Set(hole.texts.map(({ length }) => length));
  const one =
    as === 'bytes'
      ? lengths.size === 1
        ? '.'.repeat(hole.texts[0]?.length ?? 2)
        : '.*?'
      : shape.type === 'whole'
        ? '-?[0-9]+'
        : shape.type === 'decimal'
          ? '-?[0-9.]+'
          : shape.type === 'text'
            ? '.*'
            : '[^ ]+';
  return named.includes(hole) ? `(?P<${hole.name}>${one})` : one;
}
