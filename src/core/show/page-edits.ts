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
  const pages = records.filter((record): record is PageRecord => record.kind === 'page');
  const taken = new Set(pages.map(({ data }) => data.name));
  let free = name;
  for (let n = 2; taken.has(free); n += 1) free = `${name} ${n}`;
  const order = Math.max(0, ...pages.map(({ data }) => data.order)) + 1;
  const page: PageRecord = {
    kind: 'page',
    id,
    version: 1,
    data: { name: free, order, columns: 6, rows: 4, note: '', zones: [] },
  };
  return { page, edit: { title: `Add page ${free}`, changes: [{ op: 'add', record: page }] } };
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
