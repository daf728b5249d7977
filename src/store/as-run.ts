import { desc, eq, lt, sql } from 'drizzle-orm';
import type { AsRunRow } from '../core/live';
import { asRun, engineState } from './as-run-schema';
import { inTransaction, type AsRunDb } from './open';

/** How much is kept: whatever is older or beyond is removed, oldest first. */
export interface Retention {
  readonly maxRows: number;
  readonly maxAgeMs: number;
}

/** A row as it is handed to the writer: already text, so that a batch is cheap to hand over. */
export interface AsRunText {
  readonly n: number;
  readonly at: number;
  readonly kind: AsRunRow['kind'];
  readonly row: string;
}

/** One statement costs less than many; SQLite takes some ten thousand values in one. */
const rowsPerInsert = 200;

export function writeAsRun(db: AsRunDb, rows: readonly AsRunText[]): void {
  if (rows.length === 0) return;
  inTransaction(db, (tx) => {
    // A row that is sent twice, because nobody knew whether it was written, is written once.
    for (let from = 0; from < rows.length; from += rowsPerInsert) {
      const some = rows.slice(from, from + rowsPerInsert);
      tx.insert(asRun).values(some).onConflictDoNothing().run();
    }
  });
}

/** The newest rows, oldest first. */
export function newestAsRun(db: AsRunDb, count: number): AsRunRow[] {
  const rows = db.select({ row: asRun.row }).from(asRun).orderBy(desc(asRun.n)).limit(count).all();
  return rows.reverse().map(({ row }) => JSON.parse(row) as AsRunRow);
}

/** Removes what is beyond the retention; returns how many rows went. */
export function pruneAsRun(db: AsRunDb, retention: Retention, now: number): number {
  return inTransaction(db, (tx) => {
    const newest =
      tx
        .select({ n: sql<number | null>`max(${asRun.n})` })
        .from(asRun)
        .get()?.n ?? 0;
    const tooMany = tx
      .delete(asRun)
      .where(lt(asRun.n, newest - retention.maxRows + 1))
      .run().changes;
    const tooOld = tx
      .delete(asRun)
      .where(lt(asRun.at, now - retention.maxAgeMs))
      .run().changes;
    return tooMany + tooOld;
  });
}

export function readEngineState(db: AsRunDb, key: 'aim'): string | undefined {
  return db.select().from(engineState).where(eq(engineState.key, key)).get()?.value;
}

export function writeEngineState(db: AsRunDb, key: 'aim', value: string): void {
  db.insert(engineState).values({ key, value }).onConflictDoUpdate({ target: engineState.key, set: { value } }).run();
}
