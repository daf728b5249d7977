import type { Edit, RecordChange, ShowRecord, SnapshotData, SnapshotPart, SnapshotRecord } from '../show';
import { freeNumber, snapshotsOf } from './folders';

type NewId = (kind: 'snap') => string;

/** What a snapshot is made of when it is taken. */
interface NewSnapshot extends Pick<SnapshotData, 'name' | 'folder' | 'picture'> {
  readonly parts: readonly SnapshotPart[];
  readonly takenAt: string;
  readonly note?: string;
  readonly tint?: SnapshotData['tint'];
}

/** A new snapshot, the last of its folder, with the lowest free number. */
export function newSnapshotEdit(records: readonly ShowRecord[], newId: NewId, made: NewSnapshot): Edit {
  const all = snapshotsOf(records);
  const { name, folder, parts, takenAt, picture, note = '', tint } = made;
  const data: SnapshotData = {
    name,
    number: freeNumber(all),
    order: lastOrder(all) + 1,
    folder,
    note,
    parts: [...parts],
    takenAt,
    ...(picture === undefined ? {} : { picture }),
    ...(tint ? { tint } : {}),
  };
  const record: SnapshotRecord = { kind: 'snapshot', id: newId('snap'), version: 1, data };
  return { title: `Take snapshot ${name}`, changes: [{ op: 'add', record }] };
}

const lastOrder = (all: readonly SnapshotRecord[]): number => Math.max(0, ...all.map(({ data }) => data.order));

export const changeSnapshotEdit = (from: SnapshotRecord, data: SnapshotData, what: string): Edit => ({
  title: `${what} of snapshot ${from.data.name}`,
  changes: [{ op: 'update', from, to: { ...from, data } }],
});

/** It keeps what is set now; what it kept can be got back. */
export function overwriteEdit(from: SnapshotRecord, { parts, takenAt, picture }: Kept): Edit {
  const { picture: _, ...data } = from.data;
  const to: SnapshotData = {
    ...data,
    parts: [...parts],
    takenAt,
    ...(picture === undefined ? {} : { picture }),
    before: keptOf(from.data),
  };
  return { title: `Overwrite snapshot ${data.name}`, changes: [{ op: 'update', from, to: { ...from, data: to } }] };
}

/** The values of a snapshot, when they were taken, and the picture that was fetched with them. */
interface Kept {
  readonly parts: readonly SnapshotPart[];
  readonly takenAt: string;
  readonly picture?: string | undefined;
}

const keptOf = ({ parts, takenAt, picture }: SnapshotData): NonNullable<SnapshotData['before']> => ({
  parts,
  takenAt,
  ...(picture === undefined ? {} : { picture }),
});

/** It keeps again what it kept before it was overwritten, and the other way round. */
export function swapBackEdit(from: SnapshotRecord): Edit | undefined {
  const { before, picture: _, ...data } = from.data;
  if (!before) return undefined;
  const now = keptOf(from.data);
  return {
    title: `Get back what snapshot ${data.name} kept before`,
    changes: [{ op: 'update', from, to: { ...from, data: { ...data, ...before, before: now } } }],
  };
}

export function copySnapshotEdit(records: readonly ShowRecord[], from: SnapshotRecord, newId: NewId): Edit {
  const all = snapshotsOf(records);
  const { before: _, ...data } = from.data;
  const name = `${data.name} copy`.slice(0, 60);
  const record: SnapshotRecord = {
    kind: 'snapshot',
    id: newId('snap'),
    version: 1,
    data: { ...data, name, number: freeNumber(all, data.number), order: lastOrder(all) + 1 },
  };
  return { title: `Copy snapshot ${data.name}`, changes: [{ op: 'add', record }] };
}

export const removeSnapshotEdit = (record: SnapshotRecord): Edit => ({
  title: `Remove snapshot ${record.data.name}`,
  changes: [{ op: 'remove', record }],
});

/** Puts a snapshot at a place among those of its folder. */
export function placeSnapshotEdit(records: readonly ShowRecord[], record: SnapshotRecord, to: number): Edit {
  const others = snapshotsOf(records).filter(({ id, data }) => id !== record.id && data.folder === record.data.folder);
  const order = others.toSpliced(to, 0, record);
  return {
    title: `Order of snapshot ${record.data.name}`,
    changes: order.flatMap((each, n) =>
      each.data.order === n + 1
        ? []
        : [{ op: 'update' as const, from: each, to: { ...each, data: { ...each.data, order: n + 1 } } }],
    ),
  };
}

/** Why a number cannot be given to a snapshot; `undefined` when it can. */
export function numberProblem(
  records: readonly ShowRecord[],
  record: SnapshotRecord,
  number: number,
): string | undefined {
  if (!Number.isInteger(number) || number < 1 || number > 999) return 'A number is 1 to 999.';
  const other = snapshotsOf(records).find(({ id, data }) => id !== record.id && data.number === number);
  return other ? `“${other.data.name}” has this number.` : undefined;
}

/** The parts with one value changed. */
export const withValue = (
  parts: readonly SnapshotPart[],
  device: string,
  key: string,
  value: SnapshotPart['values'][string],
): SnapshotPart[] =>
  parts.map((part) =>
    part.device === device && key in part.values ? { ...part, values: { ...part.values, [key]: value } } : part,
  );

/** The parts of one snapshot with a group of another in place of the own one, or besides. */
export const withPartOf = (parts: readonly SnapshotPart[], other: SnapshotPart): SnapshotPart[] => {
  const isSame = ({ device, keep }: SnapshotPart) => device === other.device && keep === other.keep;
  return parts.some(isSame) ? parts.map((part) => (isSame(part) ? other : part)) : [...parts, other];
};

/** Adds snapshots in one edit, with free numbers, or overwrites those of the same name and folder. */
export function addSnapshotsEdit(
  records: readonly ShowRecord[],
  wanted: readonly Omit<SnapshotData, 'number' | 'order'>[],
  newId: (kind: 'snap') => string,
  { title, replaces }: { readonly title: string; readonly replaces: boolean },
): Edit {
  let all: readonly SnapshotRecord[] = snapshotsOf(records);
  let next = freeNumber(all, 1, wanted.length);
  const changes: RecordChange[] = [];
  for (const data of wanted) {
    const same = all.find((each) => each.data.name === data.name && each.data.folder === data.folder);
    if (replaces && same) {
      const before = keptOf(same.data);
      // Its number and its place stay: buttons call it by them.
      const { number, order } = same.data;
      changes.push({ op: 'update', from: same, to: { ...same, data: { ...data, number, order, before } } });
      continue;
    }
    const record: SnapshotRecord = {
      kind: 'snapshot',
      id: newId('snap'),
      version: 1,
      data: { ...data, number: next, order: Math.max(0, ...all.map((each) => each.data.order)) + 1 },
    };
    all = [...all, record];
    next += 1;
    changes.push({ op: 'add', record });
  }
  return { title, changes };
}
