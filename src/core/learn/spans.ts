/** Texts of one kind compared: what is the same in all of them, and what differs. */
export type Span =
  { readonly is: 'same'; readonly text: string } | { readonly is: 'different'; readonly texts: readonly string[] };

/** Words, numbers and what is between them. */
const tokenPattern = /-?\d+(?:\.\d+)?|[\p{L}_]+|"[^"]*"|\s+|[^\p{L}\p{N}\s_]/gu;

const tokensOf = (text: string): string[] => text.match(tokenPattern) ?? [];
const isSeparator = (token: string): boolean => /^[^\p{L}\p{N}_"-]/u.test(token) || token === '-';

/**
 * Compares lines. `undefined` where they are built differently: other words in other places.
 *
 * A single line differs in its last number, or its last word: that is what a report is usually about.
 */
export function lineSpans(lines: readonly string[]): readonly Span[] | undefined {
  const all = lines.map(tokensOf);
  const [first] = all;
  if (!first || first.length === 0) return undefined;
  const distinct = new Set(lines).size;
  if (distinct === 1) {
    const at = lastOf(first);
    return at === -1 ? undefined : joined(first.map((text, n) => (n === at ? differs([text]) : same(text))));
  }
  // Where counts differ, what follows the common beginning is one value.
  const isAlike = all.every(
    (tokens) =>
      tokens.length === first.length &&
      tokens.every(
        (token, n) => isSeparator(token) === isSeparator(first[n] ?? '') && (!isSeparator(token) || token === first[n]),
      ),
  );
  if (isAlike) {
    return joined(
      first.map((text, n) => {
        const texts = all.map((tokens) => tokens[n] ?? '');
        return texts.every((each) => each === text) ? same(text) : differs(texts);
      }),
    );
  }
  const start = commonTokens(all);
  if (start === 0) return undefined;
  const rest = all.map((tokens) => tokens.slice(start).join(''));
  return joined([...first.slice(0, start).map(same), differs(rest)]);
}

/** In a pattern over hexadecimal digits: one byte, whichever it is. */
const anyByte = '..';

/**
 * Compares frames in hexadecimal digits, byte by byte. Frames of several lengths differ from the first byte in which they differ on.
 *
 * @param fixed the first and the last bytes that hold no value: what differs among the first is any byte, the last are left out
 */
export function byteSpans(
  frames: readonly string[],
  fixed: { readonly before: number; readonly behind: number } = { before: 0, behind: 0 },
): readonly Span[] | undefined {
  const all = frames.map((hex) => hex.match(/../g) ?? []).map((bytes) => bytes.slice(0, bytes.length - fixed.behind));
  const [first] = all;
  const shortest = Math.min(...all.map(({ length }) => length));
  if (!first || shortest < fixed.before) return undefined;
  const at = (n: number): Span => {
    const texts = all.map((bytes) => bytes[n] ?? '');
    return texts.every((text) => text === texts[0]) ? same(texts[0] ?? '') : differs(texts);
  };
  const head = Array.from({ length: fixed.before }, (_, n): Span => {
    const span = at(n);
    return span.is === 'same' ? span : same(anyByte);
  });
  const isOfOneLength = all.every(({ length }) => length === shortest);
  const body: Span[] = [];
  for (let n = fixed.before; n < shortest; n += 1) {
    const span = at(n);
    // Behind a byte that differs, frames of other lengths do not correspond.
    if (!isOfOneLength && span.is === 'different') break;
    body.push(span);
  }
  const rest = fixed.before + body.length;
  const tail = isOfOneLength ? [] : [differs(all.map((bytes) => bytes.slice(rest).join('')))];
  return joined([...head, ...body, ...tail]);
}

const same = (text: string): Span => ({ is: 'same', text });
const differs = (texts: readonly string[]): Span => ({ is: 'different', texts });

/** Neighbours that are the same become one. */
function joined(spans: readonly Span[]): Span[] {
  const out: Span[] = [];
  for (const span of spans) {
    const last = out.at(-1);
    if (span.is === 'same' && last?.is === 'same') out[out.length - 1] = same(last.text + span.text);
    else out.push(span);
  }
  return out;
}

function lastOf(tokens: readonly string[]): number {
  const number = tokens.findLastIndex((token) => /^-?\d/.test(token));
  return number !== -1 ? number : tokens.findLastIndex((token) => /^[\p{L}"]/u.test(token));
}

function commonTokens(all: readonly (readonly string[])[]): number {
  const [first = []] = all;
  let count = 0;
  while (count < first.length && all.every((tokens) => tokens[count] === first[count])) count += 1;
  return count;
}
