import type { AsRunRow } from './topics';

/** Who sends to the tally lamps: the program itself. */
export const tallySender = 'tally';

/** True for what a person or another program has pressed or sent, and not this program by itself. */
export const isPressed = (row: AsRunRow): row is Extract<AsRunRow, { kind: 'press' }> =>
  row.kind === 'press' && row.who !== tallySender;

/**
 * What a row of the record is about. Each class has its own limit, so that a device that comes and goes, or a camera that pans, never
 * pushes a press out of the record.
 */
export type RowClass = 'press' | 'tally' | 'link' | 'reading' | 'other';

type Classified = Pick<AsRunRow, 'kind'> & { readonly who?: string };

export function classOfRow(row: Classified): RowClass {
  switch (row.kind) {
    case 'press':
      return isPressed(row as AsRunRow) ? 'press' : 'tally';
    case 'stop':
    case 'begin':
    case 'run':
      return 'press';
    case 'link':
    case 'reading':
      return row.kind;
    case 'aim':
    case 'service':
    case 'note':
      return 'other';
  }
}

/** How many rows of each class the record keeps: a million in all. */
export const keptInRecord: Readonly<Record<RowClass, number>> = {
  press: 500_000,
  tally: 100_000,
  link: 100_000,
  reading: 200_000,
  other: 100_000,
};

/** How many rows of each class a screen keeps, at least where there are as many. */
const keptOnScreen: Readonly<Record<RowClass, number>> = { press: 300, tally: 40, link: 60, reading: 60, other: 40 };
export const mostOnScreen = Object.values(keptOnScreen).reduce((a, b) => a + b);

/** The rows that a screen keeps: where there are too many, the oldest go of the classes that have more than their share. */
export function keptAsRun(rows: readonly AsRunRow[]): readonly AsRunRow[] {
  let over = rows.length - mostOnScreen;
  if (over <= 0) return rows;
  const counts = new Map<RowClass, number>();
  for (const row of rows) counts.set(classOfRow(row), (counts.get(classOfRow(row)) ?? 0) + 1);
  return rows.filter((row) => {
    const of = classOfRow(row);
    const count = counts.get(of) ?? 0;
    if (over <= 0 || count <= keptOnScreen[of]) return true;
    counts.set(of, count - 1);
    over -= 1;
    return false;
  });
}
