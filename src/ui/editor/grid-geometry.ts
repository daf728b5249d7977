import type { Area, Cell } from '../../core/page';

interface Track {
  readonly from: number;
  readonly to: number;
}

/** Where the cells of a grid lie on the screen. It holds until the grid is scrolled or changes its size. */
export interface GridGeometry {
  readonly columns: readonly Track[];
  readonly rows: readonly Track[];
  /** The left upper corner of the grid itself. */
  readonly origin: { readonly left: number; readonly top: number };
}

/** Reads where the columns and rows of a page's grid are: each row of cells has a row for the titles of zones above it. */
export function geometryOf(grid: HTMLElement): GridGeometry {
  const style = getComputedStyle(grid);
  const { left, top } = grid.getBoundingClientRect();
  const tracks = (sizes: string, gap: string, start: number): Track[] => {
    let at = start;
    return sizes.split(' ').map((size) => {
      const track = { from: at, to: at + parseFloat(size) };
      at = track.to + parseFloat(gap);
      return track;
    });
  };
  const rows = tracks(style.gridTemplateRows, style.rowGap, top + parseFloat(style.paddingTop));
  return {
    columns: tracks(style.gridTemplateColumns, style.columnGap, left + parseFloat(style.paddingLeft)),
    rows: rows.filter((_, n) => n % 2 === 1),
    origin: { left, top },
  };
}

/** The cell at a point, the nearest where the point lies between cells. `undefined` far outside the grid. */
export function cellAt({ columns, rows }: GridGeometry, x: number, y: number): Cell | undefined {
  const nearest = (tracks: readonly Track[], at: number) => {
    const [first] = tracks;
    const last = tracks.at(-1);
    if (!first || !last || at < first.from - outside || at > last.to + outside) return undefined;
    const index = tracks.findIndex(({ to }) => at <= to + 4);
    return index === -1 ? tracks.length - 1 : index;
  };
  const col = nearest(columns, x);
  const row = nearest(rows, y);
  return col === undefined || row === undefined ? undefined : { col, row };
}

const outside = 24;

/** An area in pixels from the left upper corner of the grid. */
export interface Box {
  readonly left: number;
  readonly top: number;
  readonly width: number;
  readonly height: number;
}

export function boxOf({ columns, rows, origin }: GridGeometry, { col, row, cols, rows: high }: Area): Box {
  const left = columns[col]?.from ?? 0;
  const top = rows[row]?.from ?? 0;
  return {
    left: left - origin.left,
    top: top - origin.top,
    width: (columns[Math.min(columns.length - 1, col + cols - 1)]?.to ?? left) - left,
    height: (rows[Math.min(rows.length - 1, row + high - 1)]?.to ?? top) - top,
  };
}
