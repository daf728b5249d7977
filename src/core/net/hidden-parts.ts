import ipaddr from 'ipaddr.js';

/** A piece of a text; what tells where a device or a computer is can be covered. */
export interface TextPart {
  readonly text: string;
  readonly telling: boolean;
}

/** What might be a URL, a hardware address, an IPv6 or an IPv4 address with its port; what is none is sorted out afterwards. */
const candidates =
  /[a-z][a-z0-9+.-]{1,20}:\/\/[^\s"'<>“”]+|\b(?:[0-9a-f]{2}[:-]){5}[0-9a-f]{2}\b|[0-9a-f]{0,4}:[0-9a-f:]{0,40}:[0-9a-f:.]{0,20}|\b\d{1,3}(?:\.\d{1,3}){3}(?::\d{1,5})?(?:\/\d{1,2})?/gi;

/**
 * Cuts a text into what tells an address (IP and hardware addresses, URLs with all that is in them, the given host names) and
 * the rest. Joined again the parts are the text.
 *
 * @param names host names that are in use; found whatever their capitals
 */
export function partsOf(text: string, names: readonly string[] = []): readonly TextPart[] {
  const spans = [...text.matchAll(candidates)].flatMap((match) => {
    const [found] = match;
    return isTelling(found) ? [{ from: match.index, to: match.index + found.length }] : [];
  });
  const lower = text.toLowerCase();
  for (const name of names) {
    if (name.length < 2) continue;
    for (let at = lower.indexOf(name.toLowerCase()); at >= 0; at = lower.indexOf(name.toLowerCase(), at + name.length))
      spans.push({ from: at, to: at + name.length });
  }
  if (spans.length === 0) return [{ text, telling: false }];
  spans.sort((a, b) => a.from - b.from);
  const parts: TextPart[] = [];
  let at = 0;
  for (const { from, to } of spans) {
    if (to <= at) continue;
    const start = Math.max(from, at);
    if (start > at) parts.push({ text: text.slice(at, start), telling: false });
    parts.push({ text: text.slice(start, to), telling: true });
    at = to;
  }
  if (at < text.length) parts.push({ text: text.slice(at), telling: false });
  return parts;
}

function isTelling(found: string): boolean {
  if (found.includes('://')) return true;
  if (/^(?:[0-9a-f]{2}[:-]){5}[0-9a-f]{2}$/i.test(found)) return true;
  const bare = found.replace(/\/\d+$/, '');
  if (bare.includes('.') && !bare.includes('::') && bare.split(':').length <= 2) {
    return ipaddr.IPv4.isValidFourPartDecimal(bare.split(':')[0] ?? '');
  }
  // A time of day has colons too.
  return ipaddr.IPv6.isValid(bare.replace(/[:.]$/, (end) => (bare.endsWith('::') ? end : '')));
}
