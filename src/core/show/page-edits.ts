import { fail, ok, type Result } from '../result';
import type { Cell } from './cells';
import type { Edit, RecordChange } from './edit';
import type { ControlRecord, PageRecord, ShowRecord } from './records';

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

/** The pages of a show in their order. */
export const pagesOf = (records: readonly ShowRecord[]): PageRecord[] =>
  records
    .filter((record): record is PageRecord => record.kind === 'page')
    .sort((a, b) => a.data.order - b.data.order || a.id.localeCompare(b.id));

/** The controls of a page. */
export const controlsOf = (records: readonly ShowRecord[], page: string): ControlRecord[] =>
  records.filter((record): record is ControlRecord => record.kind === 'control' && record.data.page === page);

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
  const controls = controlsOf(records, page.id).map((control): RecordChange => ({
    op: 'add',
    record: { ...control, id: newId('ctl'), version: 1, data: { ...control.data, page: copy.id } },
  }));
  return {
    page: copy,
    edit: { title: `Duplicate page ${page.data.name}`, changes: [{ op: 'add', record: copy }, ...controls] },
  };
}

/** Takes a page away with its controls. */
export const removePageEdit = (records: readonly ShowRecord[], page: PageRecord): Edit => ({
  title: `Remove page ${page.data.name}`,
  changes: [...controlsOf(records, page.id), page].map((record) => ({ op: 'remove', record })),
});

/** Changes places with the page before or after; `undefined` where there is none. */
export function movePageEdit(
  records: readonly ShowRecord[],
  page: PageRecord,
  to: 'before' | 'after',
): Edit | undefined {
  const pages = pagesOf(records);
  const other = pages[pages.findIndex(({ id }) => id === page.id) + (to === 'after' ? 1 : -1)];
  if (!other) return undefined;
  const at = (record: PageRecord, order: number): RecordChange => ({
    op: 'update',
    from: record,
    to: { ...record, data: { ...record.data, order } },
  });
  // Of two that have the same order one has to give way.
  const same = page.data.order === other.data.order ? (to === 'after' ? 0.5 : -0.5) : 0;
  return {
    title: `Move page ${page.data.name}`,
    changes: [at(page, other.data.order + same), at(other, page.data.order)],
  };
}

/** Puts a new control on a cell; below the last row the page grows by one. */
export function addControlEdit(
  page: PageRecord,
  cell: Cell,
  start: Pick<ControlRecord['data'], 'label' | 'values' | 'responses' | 'lamps'>,
  id: string,
  title: string,
): Edit {
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

export const changeControlEdit = (from: ControlRecord, to: ControlRecord, title: string): Edit => ({
  title,
  changes: [{ op: 'update', from, to }],
});

export const removeControlEdit = (record: ControlRecord, title: string): Edit => ({
  title,
  changes: [{ op: 'remove', record }],
});

/** Another name or size for a page. Refused while a control lies where the page would end. */
export function changePageEdit(
  page: PageRecord,
  controls: readonly ControlRecord[],
  to: Pick<PageRecord['data'], 'name' | 'columns' | 'rows'>,
): Result<Edit, string> {
  const outside = controls.filter(({ data }) => data.col + data.cols > to.columns || data.row + data.rows > to.rows);
  if (outside.length > 0) {
    return fail(
      `${outside.length === 1 ? 'One control lies' : `${outside.length} controls lie`} outside ${to.columns} columns by ${to.rows} rows. Move or remove ${outside.length === 1 ? 'it' : 'them'} first.`,
    );
  }
  const zones = page.data.zones.flatMap((zone) => {
    const cols = Math.min(zone.cols, to.columns - zone.col);
    const rows = Math.min(zone.rows, to.rows - zone.row);
    return cols > 0 && rows > 0 ? [{ ...zone, cols, rows }] : [];
  });
  const changed: PageRecord = { ...page, data: { ...page.data, ...to, zones } };
  return ok({ title: `Change page ${page.data.name}`, changes: [{ op: 'update', from: page, to: changed }] });
}
