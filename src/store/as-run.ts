import { and, desc, eq, lte, sql } from 'drizzle-orm';
import { classOfRow, type AsRunRow, type RowClass } from '../core/live';
import { asRun, engineState } from './as-run-schema';
import { inTransaction, type AsRunDb } from './open';

/** A row as it is handed to the writer: already text, so that a batch is cheap to hand over. */
export interface AsRunText {
  readonly n: number;
  readonly at: number;
  readonly kind: AsRunRow['kind'];
  readonly class: RowClass;
  readonly row: string;
  /** Of a row that is in the journal, too: it is entered once, whichever comes first. */
  readonly entry?: string;
}

/** The statement that adds a row, per database: to build its text for each row costs many times what SQLite needs to add it. */
const adding = new WeakMap<AsRunDb, ReturnType<typeof prepareAdding>>();

function prepareAdding(db: AsRunDb) {
  const { placeholder } = sql;
  return db
    .insert(asRun)
    .values({
      n: placeholder('n'),
      at: placeholder('at'),
      kind: placeholder('kind'),
      class: placeholder('class'),
      row: placeholder('row'),
      entry: placeholder('entry'),
    })
    .onConflictDoNothing()
    .prepare();
}

/** Adds rows, all of them or none. A row that is handed over again, because nobody knew whether it was written, is written once. */
export function writeAsRun(db: AsRunDb, rows: readonly AsRunText[]): void {
  if (rows.length === 0) return;
  inTransaction(db, () => {
    const add = adding.get(db) ?? prepareAdding(db);
    adding.set(db, add);
    for (const row of rows) add.run({ entry: null, ...row });
  });
}

/** The newest rows, oldest first. */
export function newestAsRun(db: AsRunDb, count: number): AsRunRow[] {
  const rows = db.select({ row: asRun.row }).from(asRun).orderBy(desc(asRun.n)).limit(count).all();
  return rows.reverse().map(({ row }) => JSON.parse(row) as AsRunRow);
}

/**
 * How much may go in one go without anybody being asked, as a part of what is kept: what a day adds to a record of a month. The record goes by
 * the rows that it has and never by the clock, which may be wrong by years.
 */
const askedAbove = 1 / 30;

interface Pruned {
  readonly removed: number;
  /** Rows beyond the limits that nobody has allowed to be removed yet. */
  readonly waiting: number;
}

/** Removes the oldest rows of each class that has more than it may keep. Many at once go only where `confirmed`. */
export function pruneAsRun(db: AsRunDb, keep: Readonly<Record<RowClass, number>>, confirmed = false): Pruned {
  return inTransaction(db, (tx) => {
    let [removed, waiting] = [0, 0];
    for (const [name, most] of Object.entries(keep)) {
      const ofClass = eq(asRun.class, name);
      const newest = tx.select({ n: asRun.n }).from(asRun).where(ofClass);
      const cut = newest.orderBy(desc(asRun.n)).limit(1).offset(most).get();
      if (!cut) continue;
      const beyond = and(ofClass, lte(asRun.n, cut.n));
      const count =
        tx
          .select({ count: sql<number>`count(*)` })
          .from(asRun)
          .where(beyond)
          .get()?.count ?? 0;
      if (count > Math.max(1, most * askedAbove) && !confirmed) waiting += count;
      else removed += tx.delete(asRun).where(beyond).run().changes;
    }
    return { removed, waiting };
  });
}

/**
 * Enters what earlier engines had shown and not yet written when they were killed, behind everything that is there. Lines are those of a journal:
 * `{"entry":…,` and the row without its number. One that was cut off, or is there already, is passed over.
 */
export function replayJournal(db: AsRunDb, text: string): number {
  const highest =
    db
      .select({ n: sql<number | null>`max(${asRun.n})` })
      .from(asRun)
      .get()?.n ?? 0;
  const rows: AsRunText[] = [];
  for (const line of text.split('\n')) {
    const row = journaled(line);
    if (!row) continue;
    const { entry, ...rest } = row;
    const n = highest + rows.length + 1;
    const { at, kind } = rest;
    rows.push({ n, at, kind, class: classOfRow(rest), entry, row: JSON.stringify({ ...rest, n }) });
  }
  writeAsRun(db, rows);
  return rows.length;
}

function journaled(line: string): (AsRunRow & { readonly entry: string }) | undefined {
  try {
    const row = JSON.parse(line) as Partial<AsRunRow & { entry: string }>;
    const whole = typeof row.entry === 'string' && typeof row.at === 'number' && typeof row.kind === 'string';
    return whole ? (row as AsRunRow & { entry: string }) : undefined;
  } catch {
    // The end of a line that was being written when the engine was killed.
    return undefined;
  }
}

export function readEngineState(db: AsRunDb, key: 'aim'): string | undefined {
  return db.select().from(engineState).where(eq(engineState.key, key)).get()?.value;
}

export function writeEngineState(db: AsRunDb, key: 'aim', value: string): void {
  db.insert(engineState).values({ key, value }).onConflictDoUpdate({ target: engineState.key, set: { value } }).run();
}
