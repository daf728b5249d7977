/** Cells of a page and areas of them. Columns and rows count from 0. */

export interface Cell {
  readonly col: number;
  readonly row: number;
}

export interface Area extends Cell {
  readonly cols: number;
  readonly rows: number;
}

/** The most columns or rows. */
export const mostCells = 64;

/** True when two areas have a cell in common. */
export const overlaps = (a: Area, b: Area): boolean =>
  a.col < b.col + b.cols && b.col < a.col + a.cols && a.row < b.row + b.rows && b.row < a.row + a.rows;

/** True when every cell of `inner` lies in `outer`. */
export const contains = (outer: Area, inner: Area): boolean =>
  inner.col >= outer.col &&
  inner.row >= outer.row &&
  inner.col + inner.cols <= outer.col + outer.cols &&
  inner.row + inner.rows <= outer.row + outer.rows;

/** The area between two cells, both included, whichever comes first. */
export function areaBetween(a: Cell, b: Cell): Area {
  const col = Math.min(a.col, b.col);
  const row = Math.min(a.row, b.row);
  return { col, row, cols: Math.abs(a.col - b.col) + 1, rows: Math.abs(a.row - b.row) + 1 };
}

/** The smallest area around several; `undefined` around none. */
export function boundsOf(areas: Iterable<Area>): Area | undefined {
  let bounds: Area | undefined;
  for (const { col, row, cols, rows } of areas) {
    if (!bounds) bounds = { col, row, cols, rows };
    else {
      const left = Math.min(bounds.col, col);
      const top = Math.min(bounds.row, row);
      const right = Math.max(bounds.col + bounds.cols, col + cols);
      const bottom = Math.max(bounds.row + bounds.rows, row + rows);
      bounds = { col: left, row: top, cols: right - left, rows: bottom - top };
    }
  }
  return bounds;
}

/** The cells of an area, row by row or column by column. */
export function cellsOf({ col, row, cols, rows }: Area, by: 'rows' | 'columns' = 'rows'): Cell[] {
  return Array.from({ length: cols * rows }, (_, n) =>
    by === 'rows'
      ? { col: col + (n % cols), row: row + Math.floor(n / cols) }
      : { col: col + Math.floor(n / rows), row: row + (n % rows) },
  );
}

/** The area with its left upper cell in another place. */
export const areaAt = ({ cols, rows }: Pick<Area, 'cols' | 'rows'>, { col, row }: Cell): Area => ({
  col,
  row,
  cols,
  rows,
});

export const sameArea = (a: Area, b: Area): boolean =>
  a.col === b.col && a.row === b.row && a.cols === b.cols && a.rows === b.rows;

/** The zone that a control belongs to: the first in which its left upper cell lies. */
export const zoneOf = <Z extends Area>(zones: readonly Z[], { col, row }: Pick<Area, 'col' | 'row'>): Z | undefined =>
  zones.find((zone) => contains(zone, { col, row, cols: 1, rows: 1 }));
