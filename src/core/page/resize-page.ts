import { fail, ok, type Result } from '../result';
import {
  controlsOf,
  type ControlRecord,
  type Edit,
  type PageRecord,
  type RecordChange,
  type ShowRecord,
} from '../show';
import { areaAt, cellsOf, contains, overlaps, type Area } from './area';
import { inOrder } from './arrange';
import { addPageEdit } from './page-edits';

/**
 * What becomes of the controls that lie outside a page when it gets smaller: they move to free cells inside, to a page of
 * their own, or they are removed.
 */
export type Outside = 'inside' | 'new page' | 'remove';

export interface PageSize {
  readonly columns: number;
  readonly rows: number;
}

/** The controls that would lie outside a page of another size, wholly or in part. */
export function outsideOf(controls: readonly ControlRecord[], { columns, rows }: PageSize): ControlRecord[] {
  const page: Area = { col: 0, row: 0, cols: columns, rows };
  return controls.filter(({ data }) => !contains(page, data));
}

/**
 * Gives a page another size. `outside` says what becomes of controls for which there is no place any more; without it,
 * or when they do not fit inside, the edit is refused with a sentence. Zones are cut at the edge.
 */
export function resizePageEdit(
  records: readonly ShowRecord[],
  page: PageRecord,
  size: PageSize,
  outside: Outside | undefined,
  newId: (kind: 'page') => string,
): Result<Edit, string> {
  const controls = controlsOf(records, page.id);
  const out = inOrder(outsideOf(controls, size).map((control) => ({ ...control.data, control })));
  const count = out.length === 1 ? 'One control lies' : `${out.length} controls lie`;
  if (out.length > 0 && !outside) return fail(`${count} outside ${size.columns} columns by ${size.rows} rows.`);
  const zones = page.data.zones.flatMap((zone) => {
    const cols = Math.min(zone.cols, size.columns - zone.col);
    const rows = Math.min(zone.rows, size.rows - zone.row);
    return cols > 0 && rows > 0 ? [{ ...zone, cols, rows }] : [];
  });
  const changes: RecordChange[] = [
    { op: 'update', from: page, to: { ...page, data: { ...page.data, ...size, zones } } },
  ];
  const title = `Size of page ${page.data.name}`;
  const update = (from: ControlRecord, to: Partial<ControlRecord['data']>) =>
    void changes.push({ op: 'update', from, to: { ...from, data: { ...from.data, ...to } } });
  if (outside === 'remove') for (const { control } of out) changes.push({ op: 'remove', record: control });
  else if (outside === 'new page') {
    const made = addPageEdit(records, `${page.data.name}, the rest`.slice(0, 60), newId('page'));
    const top = Math.min(...out.map(({ row }) => row));
    const data = {
      ...made.page.data,
      columns: page.data.columns,
      rows: Math.max(1, ...out.map(({ row, rows }) => row - top + rows)),
    };
    changes.unshift({ op: 'add', record: { ...made.page, data } });
    for (const { control, row } of out) update(control, { page: made.page.id, row: row - top });
  } else {
    const taken: Area[] = controls.map(({ data }) => data).filter((area) => contains(wholeOf(size), area));
    for (const { control, ...area } of out) {
      const place = cellsOf(wholeOf(size))
        .map((cell) => areaAt(area, cell))
        .find((there) => contains(wholeOf(size), there) && !taken.some((each) => overlaps(each, there)));
      if (!place)
        return fail(`${count} outside, and there are not enough free cells inside. Choose another way for them.`);
      taken.push(place);
      update(control, { col: place.col, row: place.row });
    }
  }
  return ok({ title, changes });
}

const wholeOf = ({ columns, rows }: PageSize): Area => ({ col: 0, row: 0, cols: columns, rows });
