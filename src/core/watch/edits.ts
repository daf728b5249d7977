import type { Edit, ShowRecord, WatchData, WatchRecord, WatchWhen } from '../show';

type NewId = (kind: 'watch') => string;

/** The watches of a show in their order. */
export const watchesOf = (records: readonly ShowRecord[]): WatchRecord[] =>
  records
    .filter((record): record is WatchRecord => record.kind === 'watch')
    .sort((a, b) => a.data.order - b.data.order || a.data.number - b.data.number);

const last = (all: readonly WatchRecord[]): number => Math.max(0, ...all.map(({ data }) => data.order));

function freeNumber(all: readonly WatchRecord[]): number {
  const taken = new Set(all.map(({ data }) => data.number));
  let number = 1;
  while (taken.has(number)) number += 1;
  return number;
}

export function newWatchEdit(
  records: readonly ShowRecord[],
  newId: NewId,
  {
    name,
    when,
    sends = [],
  }: Pick<WatchData, 'name'> & Partial<Pick<WatchData, 'sends'>> & { readonly when: WatchWhen },
): Edit {
  const all = watchesOf(records);
  const data: WatchData = {
    name,
    number: freeNumber(all),
    order: last(all) + 1,
    note: '',
    when,
    // It fires when somebody has seen what it does.
    off: true,
    delayMs: 0,
    quietMs: 0,
    mostPerMinute: 60,
    sends,
  };
  const record: WatchRecord = { kind: 'watch', id: newId('watch'), version: 1, data };
  return { title: `Add watch ${name}`, changes: [{ op: 'add', record }] };
}

export const changeWatchEdit = (from: WatchRecord, data: WatchData, what: string): Edit => ({
  title: `${what} of watch ${from.data.name}`,
  changes: [{ op: 'update', from, to: { ...from, data } }],
});

export function copyWatchEdit(records: readonly ShowRecord[], from: WatchRecord, newId: NewId): Edit {
  const all = watchesOf(records);
  const name = `${from.data.name} copy`.slice(0, 60);
  const record: WatchRecord = {
    kind: 'watch',
    id: newId('watch'),
    version: 1,
    data: { ...from.data, name, number: freeNumber(all), order: last(all) + 1, off: true },
  };
  return { title: `Copy watch ${from.data.name}`, changes: [{ op: 'add', record }] };
}

export const removeWatchEdit = (record: WatchRecord): Edit => ({
  title: `Remove watch ${record.data.name}`,
  changes: [{ op: 'remove', record }],
});

/** Puts a watch at a place in the list. */
export function placeWatchEdit(records: readonly ShowRecord[], record: WatchRecord, to: number): Edit {
  const others = watchesOf(records).filter(({ id }) => id !== record.id);
  return {
    title: `Order of watch ${record.data.name}`,
    changes: others
      .toSpliced(to, 0, record)
      .flatMap((each, n) =>
        each.data.order === n + 1
          ? []
          : [{ op: 'update' as const, from: each, to: { ...each, data: { ...each.data, order: n + 1 } } }],
      ),
  };
}
