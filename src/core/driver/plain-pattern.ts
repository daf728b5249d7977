/**
 * A fast matcher for the plain patterns that most drivers have: `^NOW program (?P<n>[0-9]+)$`, `^(?P<a>on|off) (?P<text>.*)$`.
 * It reads the text once, from left to right, and never goes back, so it is as safe as the linear-time engine and many times
 * faster. A pattern of any other shape is not plain and goes to that engine; a test holds the two to the same answers.
 *
 * Plain is: anchored at the start; literal characters; groups of one set (`[…]`, `.`, `\d`, `[\s\S]`) with `+`, `*`, `{n}` or nothing behind it,
 * or of words of which none begins another; and, so that nothing has to be taken back, behind `+` and `*` only a literal that is not in the set, or the end.
 */
export interface PlainPattern {
  /** The texts of the groups in the order of `groups`; `undefined` when the text does not fit. */
  match(text: string): readonly string[] | undefined;
  readonly groups: readonly string[];
}

type Part =
  | { readonly is: 'literal'; readonly text: string }
  | { readonly is: 'set'; readonly has: (code: number) => boolean; readonly least: number; readonly most: number }
  | { readonly is: 'words'; readonly words: readonly string[] };

const groupPattern = /^\(\?P<([A-Za-z][A-Za-z0-9]*)>/;
const quantifier = /^(\+|\*|\{(\d{1,3})\})?/;

/** Reads a pattern; `undefined` when it is not plain. */
export function plainPattern(source: string): PlainPattern | undefined {
  if (!source.startsWith('^')) return undefined;
  const parts: { readonly part: Part; readonly group: boolean }[] = [];
  const groups: string[] = [];
  let rest = source.slice(1);
  let anchored = false;
  while (rest !== '') {
    if (rest === '$') {
      anchored = true;
      break;
    }
    const group = groupPattern.exec(rest);
    const read = group ? readGroup(rest.slice(group[0].length)) : readLiteral(rest);
    if (!read) return undefined;
    if (group) groups.push(group[1] ?? '');
    parts.push({ part: read.part, group: group !== null });
    rest = read.rest;
  }
  if (!isDeterministic(parts.map(({ part }) => part))) return undefined;
  return { groups, match: (text) => match(parts, anchored, text) };
}

function readLiteral(source: string): { part: Part; rest: string } | undefined {
  const plain = /^(?:[A-Za-z0-9 :;=#,_/!"'<>@~&%-]|\\[^A-Za-z0-9])+/.exec(source)?.[0];
  if (plain === undefined) return undefined;
  // What repeats or makes optional belongs to the last character alone: not plain.
  if (/^[*+?{|]/.test(source.slice(plain.length))) return undefined;
  return { part: { is: 'literal', text: plain.replace(/\\(.)/g, '$1') }, rest: source.slice(plain.length) };
}

function readGroup(source: string): { part: Part; rest: string } | undefined {
  const words = /^([A-Za-z0-9_-]+(?:\|[A-Za-z0-9_-]+)*)\)/.exec(source);
  if (words) {
    const list = (words[1] ?? '').split('|');
    const clash = list.some((a, n) => list.some((b, m) => n !== m && b.startsWith(a)));
    return clash ? undefined : { part: { is: 'words', words: list }, rest: source.slice(words[0].length) };
  }
  const set = readSet(source);
  if (!set) return undefined;
  const [whole = '', sign, count] = quantifier.exec(source.slice(set.length)) ?? [];
  const end = set.length + whole.length;
  if (source.charAt(end) !== ')' || /^[*+?{]/.test(source.slice(end + 1))) return undefined;
  const least = sign === '*' ? 0 : count === undefined ? 1 : Number(count);
  const most = sign === '+' || sign === '*' ? Infinity : least;
  return { part: { is: 'set', has: set.has, least, most }, rest: source.slice(end + 1) };
}

function readSet(source: string): { has: (code: number) => boolean; length: number } | undefined {
  if (source.startsWith('.')) return { has: (code) => code !== 10, length: 1 };
  if (source.startsWith('[\\s\\S]')) return { has: () => true, length: 6 };
  if (source.startsWith('\\d')) return { has: (code) => code >= 48 && code <= 57, length: 2 };
  const bracket = /^\[(\^?)((?:[A-Za-z0-9 :;=#,_/!.+-])+)\]/.exec(source);
  if (!bracket) return undefined;
  const [whole, negated, body = ''] = bracket;
  const member = new Uint8Array(128);
  for (let i = 0; i < body.length; i += 1) {
    const from = body.charCodeAt(i);
    const isRange = body.charAt(i + 1) === '-' && i + 2 < body.length;
    const to = isRange ? body.charCodeAt(i + 2) : from;
    if (to < from) return undefined;
    for (let code = from; code <= to; code += 1) member[code] = 1;
    if (isRange) i += 2;
  }
  const within = (code: number) => code < 128 && member[code] === 1;
  return { has: negated ? (code) => !within(code) : within, length: whole.length };
}

/** True when no choice would ever have to be taken back. */
function isDeterministic(parts: readonly Part[]): boolean {
  return parts.every((part, n) => {
    if (part.is !== 'set' || part.most !== Infinity) return true;
    const next = parts[n + 1];
    if (!next) return true;
    return next.is === 'literal' && !part.has(next.text.charCodeAt(0));
  });
}

function match(
  parts: readonly { readonly part: Part; readonly group: boolean }[],
  anchored: boolean,
  text: string,
): readonly string[] | undefined {
  const found: string[] = [];
  let at = 0;
  for (const { part, group } of parts) {
    const end = endOf(part, text, at);
    if (end === -1) return undefined;
    if (group) found.push(text.slice(at, end));
    at = end;
  }
  return anchored && at !== text.length ? undefined : found;
}

function endOf(part: Part, text: string, at: number): number {
  switch (part.is) {
    case 'literal':
      return text.startsWith(part.text, at) ? at + part.text.length : -1;
    case 'words': {
      for (const word of part.words) if (text.startsWith(word, at)) return at + word.length;
      return -1;
    }
    case 'set': {
      const limit = Math.min(text.length, at + part.most);
      let end = at;
      while (end < limit && part.has(text.charCodeAt(end))) end += 1;
      return end - at < part.least ? -1 : end;
    }
  }
}
