/**
 * Reading keys. A family is written with empty brackets (`input[].name`), one of its members with an index
 * (`input[3].name`). A key has at most one pair of brackets.
 */

/** `input[].name` and 3 give `input[3].name`; a key without brackets is returned as it is. */
export function memberKey(family: string, index: number | string): string {
  return family.replace('[]', `[${index}]`);
}

/** Takes a key apart: `input[3].name` gives family `input[].name` and index 3. */
export function splitKey(key: string): { readonly family: string; readonly index?: number } {
  const match = /\[(\d{1,6})\]/.exec(key);
  if (!match) return { family: key };
  return { family: key.replace(match[0], '[]'), index: Number(match[1]) };
}
