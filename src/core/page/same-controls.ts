import { canonicalJson, type ControlRecord } from '../show';

type Data = ControlRecord['data'];

interface ControlPairs {
  /** The new controls, each with the one of the page that it takes the place of. */
  readonly pairs: readonly { readonly data: Data; readonly was: ControlRecord | undefined }[];
  /** Controls of the page that none takes the place of. */
  readonly left: readonly ControlRecord[];
}

/**
 * Which of a page's controls each new one takes the place of: the one that does and says the same, wherever it lies; else the one with the
 * same label; else the one that lies in the same cell. Each is taken once, and kinds stay apart.
 */
export function sameControls(page: readonly ControlRecord[], fresh: readonly Data[]): ControlPairs {
  const left = new Set(page);
  const was = new Map<number, ControlRecord>();
  const ways: readonly ((data: Data) => string)[] = [
    ({ page: _, ...data }) => canonicalJson(data),
    ({ page: _, col: __, row: ___, ...data }) => canonicalJson(data),
    ({ type, label, values, col, row }) => canonicalJson({ type, label, values, col, row }),
    ({ type, label, values }) => canonicalJson({ type, label, values }),
    ({ type, col, row }) => canonicalJson({ type, col, row }),
  ];
  for (const way of ways) {
    const byKey = new Map<string, ControlRecord[]>();
    for (const record of left) {
      const key = way(record.data);
      byKey.set(key, [...(byKey.get(key) ?? []), record]);
    }
    fresh.forEach((data, n) => {
      if (was.has(n)) return;
      const record = byKey.get(way(data))?.shift();
      if (!record) return;
      was.set(n, record);
      left.delete(record);
    });
  }
  return { pairs: fresh.map((data, n) => ({ data, was: was.get(n) })), left: [...left] };
}
