/**
 * Reading keys. A family is written with empty brackets (`input[].name`), one of its members with an index
 * (`input[3].name`). A key has at most one pair of brackets.
 */

/** `input[].name` and 3 give `input[3].name`; a key without brackets is returned as it is. */
export function memberKey(family: string, index: number | string): string {
  return family.replace('[]', `[${index}]`);
}

interface SplitKey {
  readonly family: string;
  readonly index?: number;
}

/** Keys taken apart before: each is asked for with every report and every look at a face. */
const known = new Map<string, SplitKey>();
const mostKnown = 20_000;

/** Takes a key apart: `input[3].name` gives family `input[].name` and index 3. */
export function splitKey(key: string): SplitKey {
  let split = known.get(key);
  if (split) return split;
  const match = /\[(\d{1,6})\]/.exec(key);
  split = match ? { family: key.replace(match[0], '[]'), index: Number(match[1]) } : { family: key };
  if (known.size >= mostKnown) known.clear();
  known.set(key, split);
  return split;
}
