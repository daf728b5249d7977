import type { ShowRecord, SnapshotRecord } from '../show';

/** The snapshots of a show, by folder and then in their order. */
export const snapshotsOf = (records: readonly ShowRecord[]): SnapshotRecord[] =>
  records.filter((record): record is SnapshotRecord => record.kind === 'snapshot').sort(inFolderOrder);

export const inFolderOrder = (a: SnapshotRecord, b: SnapshotRecord): number =>
  a.data.folder.localeCompare(b.data.folder) || a.data.order - b.data.order || a.data.number - b.data.number;

/** The names of all folders that hold a snapshot; what is in none has an empty name. */
export const foldersOf = (snapshots: readonly SnapshotRecord[]): string[] => [
  ...new Set([...snapshots].sort(inFolderOrder).map(({ data }) => data.folder)),
];

/** The snapshot some steps on from another of its folder, round at the ends; the first or last one when none of it was called up yet. */
export function stepInFolder(
  snapshots: readonly SnapshotRecord[],
  folder: string,
  lastNumber: number | undefined,
  by: number,
): SnapshotRecord | undefined {
  const own = snapshots.filter(({ data }) => data.folder === folder).sort(inFolderOrder);
  const at = own.findIndex(({ data }) => data.number === lastNumber);
  if (at === -1) return by < 0 ? own.at(-1) : own[0];
  return own[(((at + by) % own.length) + own.length) % own.length];
}

/** The lowest number from which on so many are free, in a row: a series can count over them. */
export function freeNumber(snapshots: readonly SnapshotRecord[], from = 1, count = 1): number {
  const taken = new Set(snapshots.map(({ data }) => data.number));
  let number = from;
  for (let n = 0; n < count; n += 1) {
    if (!taken.has(number + n)) continue;
    number += n + 1;
    n = -1;
  }
  return number;
}
