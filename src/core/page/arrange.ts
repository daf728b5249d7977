import { fail, ok, type Result } from '../result';
import { areaAt, cellsOf, contains, mostCells, overlaps, sameArea, type Area, type Cell } from './area';

/** Something with a place on a page. */
export interface Placed extends Area {
  readonly id: string;
}

/** New places of those that move, and how many rows the page has afterwards. */
export interface Arrangement {
  readonly places: ReadonlyMap<string, Area>;
  readonly rows: number;
}

interface Size {
  readonly columns: number;
  readonly rows: number;
}

/**
 * Moves some of what is placed on a page by so many cells. What lies where they go changes places with them: it moves the
 * other way, or into the cells that became free. Below its last row the page grows. Refused, with a sentence, where
 * something would leave the page at another side or finds no room.
 */
export function moveBy(
  page: Size,
  placed: readonly Placed[],
  moving: ReadonlySet<string>,
  by: Cell,
): Result<Arrangement, string> {
  const movers = placed.filter(({ id }) => moving.has(id));
  const moved = movers.map((each) => ({ ...each, col: each.col + by.col, row: each.row + by.row }));
  if (moved.some(({ col, row, cols }) => col < 0 || row < 0 || col + cols > page.columns))
    return fail('There is no room in this direction: the page ends here.');
  const rows = Math.max(page.rows, ...moved.map((each) => each.row + each.rows));
  if (rows > mostCells) return fail(`A page has at most ${mostCells} rows.`);
  const places = new Map<string, Area>(moved.map((each) => [each.id, each]));
  const others = placed.filter(({ id }) => !moving.has(id));
  const displaced = others.filter((other) => moved.some((each) => overlaps(each, other)));
  const taken: Area[] = [...moved, ...others.filter((other) => !displaced.includes(other))];
  const whole: Area = { col: 0, row: 0, cols: page.columns, rows };
  const fits = (area: Area) => contains(whole, area) && !taken.some((each) => overlaps(each, area));
  for (const other of inOrder(displaced)) {
    const back = { ...other, col: other.col - by.col, row: other.row - by.row };
    const left = movers.flatMap((each) => cellsOf(each)).sort((a, b) => a.row - b.row || a.col - b.col);
    const place = [back, ...left.map((cell) => areaAt(other, cell))].find(fits);
    if (!place) return fail('What lies there does not fit into the cells that would become free.');
    places.set(other.id, place);
    taken.push(place);
  }
  for (const each of placed) if (sameArea(each, places.get(each.id) ?? each)) places.delete(each.id);
  return ok({ places, rows });
}

/** Gives one control another area. Refused where others lie or the page ends; below its last row the page grows. */
export function resizeTo(page: Size, placed: readonly Placed[], id: string, to: Area): Result<Arrangement, string> {
  if (to.cols < 1 || to.rows < 1) return fail('A control covers at least one cell.');
  if (to.col < 0 || to.row < 0 || to.col + to.cols > page.columns) return fail('The page ends here.');
  const rows = Math.max(page.rows, to.row + to.rows);
  if (rows > mostCells) return fail(`A page has at most ${mostCells} rows.`);
  if (placed.some((other) => other.id !== id && overlaps(other, to))) return fail('Another control is there.');
  return ok({ places: new Map([[id, areaAt(to, to)]]), rows });
}

/** The first place, from a cell on and row by row, where a block of areas fits between what is placed; the page may grow. */
export function placeFor(
  page: Size,
  placed: readonly Area[],
  block: readonly Area[],
  from: Cell,
): Result<Cell, string> {
  const cols = Math.max(1, ...block.map((each) => each.col + each.cols));
  const rows = Math.max(1, ...block.map((each) => each.row + each.rows));
  if (cols > page.columns)
    return fail(`This needs ${cols} columns; the page has ${page.columns}. Give the page more columns first.`);
  for (let row = from.row; row + rows <= mostCells; row += 1) {
    for (
      let col = row === from.row ? Math.min(from.col, page.columns - cols) : 0;
      col + cols <= page.columns;
      col += 1
    ) {
      const free = block.every((each) => {
        const there = areaAt(each, { col: each.col + col, row: each.row + row });
        return !placed.some((other) => overlaps(other, there));
      });
      if (free) return ok({ col, row });
    }
  }
  return fail(`There is no room left: a page has at most ${mostCells} rows.`);
}

export const inOrder = <T extends Cell>(areas: readonly T[]): T[] =>
  [...areas].sort((a, b) => a.row - b.row || a.col - b.col);
