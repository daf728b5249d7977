import type { ShowRecord } from './records';

/** What turns one set of records into another. */
export interface ShowDifference {
  /** Added or changed, as they are now. */
  readonly puts: readonly ShowRecord[];
  readonly removes: readonly { readonly kind: ShowRecord['kind']; readonly id: string }[];
}

/** Which ids differ between two manifests (id to content hash). */
export function differManifests(
  from: ReadonlyMap<string, string>,
  to: ReadonlyMap<string, string>,
): { readonly put: string[]; readonly remove: string[] } {
  const put: string[] = [];
  const remove: string[] = [];
  for (const [id, hash] of to) if (from.get(id) !== hash) put.push(id);
  for (const id of from.keys()) if (!to.has(id)) remove.push(id);
  return { put, remove };
}
