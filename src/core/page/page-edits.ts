import {
  controlsOf,
  hideOn,
  pagesOf,
  panelsHiding,
  type ControlRecord,
  type ControlStart,
  type Edit,
  type PageRecord,
  type RecordChange,
  type ShowRecord,
} from '../show';
import type { Cell } from './area';
import type { Arrangement } from './arrange';

/** The edits of the page editor, as values. */

/** A new page after the others, of a size that fits a tablet. A name that is taken gets a number. */
export function addPageEdit(
  records: readonly ShowRecord[],
  name: string,
  id: string,
): { edit: Edit; page: PageRecord } {
  const page: PageRecord = {
    kind: 'page',
    id,
    version: 1,
    data: { name: freeName(records, name), order: nextOrder(records), columns: 6, rows: 4, note: '', zones: [] },
  };
  return { page, edit: { title: `Add page ${page.data.name}`, changes: [{ op: 'add', record: page }] } };
}

const nextOrder = (records: readonly ShowRecord[]): number =>
  Math.max(0, ...pagesOf(records).map(({ data }) => data.order)) + 1;

function freeName(records: readonly ShowRecord[], name: string): string {
  const taken = new Set(pagesOf(records).map(({ data }) => data.name));
  let free = name;
  for (let n = 2; taken.has(free); n += 1) free = `${name} ${n}`;
  return free;
}

/** A page with all its controls once more, right after it; they are its own and change without the first. */
export function duplicatePageEdit(
  records: readonly ShowRecord[],
  page: PageRecord,
  newId: (kind: 'page' | 'ctl' | 'zone') => string,
): { edit: Edit; page: PageRecord } {
  const after = pagesOf(records).find(({ data }) => data.order > page.data.order);
  const copy: PageRecord = {
    ...page,
    id: newId('page'),
    version: 1,
    data: {
      ...page.data,
      name: freeName(records, page.data.name),
      order: after ? (page.data.order + after.data.order) / 2 : page.data.order + 1,
      zones: page.data.zones.map((zone) => ({ ...zone, id: newId('zone') })),
    },
  };
  const zones = new Map(page.data.zones.map(({ id }, n) => [id, copy.data.zones[n]?.id ?? id]));
  const hidden = new Map<string, readonly string[]>();
  const controls = controlsOf(records, page.id).map(({ data, ...control }): RecordChange => {
    const sets = data.sets && 'zone' in data.sets ? { ...data.sets, zone: zones.get(data.sets.zone) ?? '' } : data.sets;
    const own = { ...data, page: copy.id, ...(sets ? { sets } : {}) };
    const id = newId('ctl');
    hidden.set(id, panelsHiding(records, control.id));
    return { op: 'add', record: { ...control, id, version: 1, data: own } };
  });
  return {
    page: copy,
    edit: {
      title: `Duplicate page ${page.data.name}`,
      changes: [{ op: 'add', record: copy }, ...controls, ...hideOn(records, hidden)],
    },
  };
}

/** Takes a page away with its controls. */
export const removePageEdit = (records: readonly ShowRecord[], page: PageRecord): Edit => ({
  title: `Remove page ${page.data.name}`,
  changes: [...controlsOf(records, page.id), page].map((record) => ({ op: 'remove', record })),
});

/** Puts a page at a place in the order of all pages, counted from 0; a place beyond the end is the end. Pages keep their numbers as far as that goes. */
export function placePageEdit(records: readonly ShowRecord[], page: PageRecord, place: number): Edit {
  const all = pagesOf(records);
  const others = all.filter(({ id }) => id !== page.id);
  const at = Math.max(0, Math.min(place, others.length));
  const before = others[at - 1]?.data.order;
  const after = others[at]?.data.order;
  // It is there already, and no other page has its number.
  if (all[at]?.id === page.id && page.data.order !== before && page.data.order !== after)
    return { title: `Order of ${page.data.name}`, changes: [] };
  const order =
    before === undefined
      ? (after ?? 1) - 1
      : after === undefined
        ? before + 1
        : before < after
          ? (before + after) / 2
          : undefined;
  const numbered =
    order !== undefined && order !== before && order !== after
      ? [{ record: page, order }]
      : // There is no number between two alike: all are counted anew.
        others.toSpliced(at, 0, page).map((record, n) => ({ record, order: n + 1 }));
  return {
    title: `Order of ${page.data.name}`,
    changes: numbered
      .filter((each) => each.record.data.order !== each.order)
      .map(({ record, order: to }) => ({
        op: 'update',
        from: record,
        to: { ...record, data: { ...record.data, order: to } },
      })),
  };
}

/** Puts a new control on a cell; below the last row the page grows by one. */
export function addControlEdit(page: PageRecord, cell: Cell, start: ControlStart, id: string, title: string): Edit {
  const record: ControlRecord = {
    kind: 'control',
    id,
    version: 1,
    data: { page: page.id, type: 'button', ...cell, cols: 1, rows: 1, ...start },
  };
  const grown: RecordChange[] =
    cell.row < page.data.rows
      ? []
      : [{ op: 'update', from: page, to: { ...page, data: { ...page.data, rows: cell.row + 1 } } }];
  return { title, changes: [...grown, { op: 'add', record }] };
}

/** Makes a control anew where it lies: nothing of what it did or showed stays, on any level. */
export function replaceControlEdit(from: ControlRecord, start: ControlStart, title: string): Edit {
  const { page, col, row, cols, rows } = from.data;
  const to = { ...from, data: { page, type: 'button' as const, col, row, cols, rows, ...start } };
  return { title, changes: [{ op: 'update', from, to }] };
}

/** Puts controls where an arrangement says, and lets the page grow with them. */
export function arrangeEdit(
  page: PageRecord,
  controls: readonly ControlRecord[],
  { places, rows }: Arrangement,
  title: string,
): Edit | undefined {
  const changes = controls.flatMap((from): RecordChange[] => {
    const place = places.get(from.id);
    if (!place) return [];
    const { col, row, cols, rows: high } = place;
    return [{ op: 'update', from, to: { ...from, data: { ...from.data, col, row, cols, rows: high } } }];
  });
  if (rows !== page.data.rows)
    changes.push({ op: 'update', from: page, to: { ...page, data: { ...page.data, rows } } });
  return changes.length > 0 ? { title, changes } : undefined;
}

export const removeControlsEdit = (records: readonly ControlRecord[], title: string): Edit => ({
  title,
  changes: records.map((record) => ({ op: 'remove', record })),
});

/** The same change for several controls; `undefined` when it changes none. */
export function changeControlsEdit(
  controls: readonly ControlRecord[],
  change: (data: ControlRecord['data']) => ControlRecord['data'],
  title: string,
): Edit | undefined {
  const changes = controls.flatMap((from): RecordChange[] => {
    const data = change(from.data);
    return data === from.data ? [] : [{ op: 'update', from, to: { ...from, data } }];
  });
  return changes.length > 0 ? { title, changes } : undefined;
}

/** Changes of the page itself that leave its size alone. */
export const changePageEdit = (
  page: PageRecord,
  to: Partial<Pick<PageRecord['data'], 'name' | 'note' | 'zones' | 'legend' | 'badges' | 'shifts' | 'calledBy'>>,
  title = `Change page ${page.data.name}`,
): Edit => ({ title, changes: [{ op: 'update', from: page, to: { ...page, data: { ...page.data, ...to } } }] });
