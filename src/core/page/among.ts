import { splitKey, type DriverDocument } from '../driver';
import type { Scalar } from '../result';
import type { Among } from '../show';

type Readings = Readonly<Record<string, { readonly value?: Scalar }>>;

/**
 * The groups that what a device lists falls into by the texts beside each item: the folders of snapshots. A text that belongs to one item
 * only makes no group, unless another text of its kind does.
 */
export function groupsOf(document: DriverDocument | undefined, items: string | undefined, readings: Readings): Among[] {
  const list = Object.values(document?.lists ?? {}).find((each) => each.items === items);
  const kinds = (list?.texts ?? []).filter((reading) => document?.readings[reading]?.value.type === 'text');
  return kinds.flatMap((reading) => {
    const counts = new Map<Scalar, number>();
    for (const [key, { value }] of Object.entries(readings))
      if (value !== undefined && value !== '' && splitKey(key).family === reading)
        counts.set(value, (counts.get(value) ?? 0) + 1);
    if (![...counts.values()].some((count) => count > 1)) return [];
    return [...counts.keys()].sort((a, b) => String(a).localeCompare(String(b))).map((is) => ({ reading, is }));
  });
}

/** A group as a text that says which it is, for a choice. */
export const groupId = (among: Among | undefined): string => (among ? `${among.reading} ${String(among.is)}` : '');
