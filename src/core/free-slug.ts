/**
 * A name as a part of an address, small letters, digits and hyphens: `Crews to the water` becomes `crews-to-the-water`, with a number behind it
 * where that is taken.
 *
 * @param most characters before the number
 * @param fallback where nothing of the name is left
 */
export function freeSlug(name: string, taken: Iterable<string>, most: number, fallback: string): string {
  const known = new Set(taken);
  const stem =
    name
      .normalize('NFKD')
      .replace(/\p{M}/gu, '')
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, '-')
      .replace(/^-+|-+$/g, '')
      .slice(0, most) || fallback;
  for (let n = 1; ; n += 1) {
    const slug = n === 1 ? stem : `${stem}-${n}`;
    if (!known.has(slug)) return slug;
  }
}
