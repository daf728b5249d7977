import type { ControlRecord, PageRecord } from '../show';
import { cellsOf, overlaps, type Cell } from './area';

/** The cells of a page on which no control lies, row by row. */
export function emptyCells(page: PageRecord, controls: Iterable<ControlRecord>): Cell[] {
  const areas = Array.from(controls, ({ data }) => data);
  const { columns, rows } = page.data;
  const taken = new Set(areas.flatMap((area) => cellsOf(area).map(({ col, row }) => row * columns + col)));
  return cellsOf({ col: 0, row: 0, cols: columns, rows }).filter(({ col, row }) => !taken.has(row * columns + col));
}

/** True when nothing lies on any cell of an area. */
export const isFree = (area: Parameters<typeof overlaps>[0], controls: Iterable<ControlRecord>): boolean =>
  !Array.from(controls).some(({ data }) => overlaps(data, area));
