import type { ControlRecord, PageRecord } from './records';

export interface Cell {
  readonly col: number;
  readonly row: number;
}

/** The cells of a page on which no control lies, row by row. */
export function emptyCells(page: PageRecord, controls: Iterable<ControlRecord>): Cell[] {
  const taken = new Set<string>();
  for (const { data } of controls) {
    for (let row = data.row; row < data.row + data.rows; row += 1) {
      for (let col = data.col; col < data.col + data.cols; col += 1) taken.add(`${col} ${row}`);
    }
  }
  const cells: Cell[] = [];
  for (let row = 0; row < page.data.rows; row += 1) {
    for (let col = 0; col < page.data.columns; col += 1) if (!taken.has(`${col} ${row}`)) cells.push({ col, row });
  }
  return cells;
}
