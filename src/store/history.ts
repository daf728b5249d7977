import { and, count, desc, inArray, lt, lte, notInArray, sql } from 'drizzle-orm';
import type { HistoryFigures } from '../core/show';
import { runningRevision } from './meta';
import { inTransaction, type ShowDb } from './open';
import { contents, edits, revisionDrivers, revisionEntries, revisions } from './show-schema';

/** How much of what was done is kept. The newest edits and revisions always are, and the revision in service with the one before it. */
const historyLimits = { edits: 5000, bytes: 200 * 1024 * 1024, ageMs: 180 * 24 * 3600 * 1000, revisions: 200 };
/** However old or large they are. */
const alwaysKept = { edits: 50, revisions: 10 };

/** The size of the history and its limits, for display. */
export function historyFigures(db: ShowDb): HistoryFigures {
  const all = db
    .select({
      edits: count(),
      bytes: sql<number | null>`sum(length(${edits.edit}) + coalesce(length(${edits.beside}), 0))`,
    })
    .from(edits)
    .get();
  const made = db.select({ revisions: count() }).from(revisions).get();
  return { edits: all?.edits ?? 0, bytes: all?.bytes ?? 0, revisions: made?.revisions ?? 0, limits: historyLimits };
}

/** Removes what is beyond the limits of age and size: the oldest edits that undo could take back, and the oldest revisions. */
export function trimHistory(db: ShowDb, now: number, limits = historyLimits): void {
  inTransaction(db, (tx) => {
    trimEdits(tx, now, limits);
    trimRevisions(tx, limits);
  });
}

function trimEdits(tx: ShowDb, now: number, limits: typeof historyLimits): void {
  const kept = tx
    .select({
      id: edits.id,
      at: edits.at,
      bytes: sql<number>`length(${edits.edit}) + coalesce(length(${edits.beside}), 0)`,
    })
    .from(edits)
    .orderBy(desc(edits.id))
    .all();
  let bytes = 0;
  const first = kept.find((each, n) => {
    bytes += each.bytes;
    if (n < alwaysKept.edits) return false;
    return n >= limits.edits || bytes > limits.bytes || now - each.at > limits.ageMs;
  });
  if (first) tx.delete(edits).where(lte(edits.id, first.id)).run();
}

function trimRevisions(tx: ShowDb, limits: typeof historyLimits): void {
  const running = runningRevision(tx);
  const all = tx.select({ number: revisions.number }).from(revisions).orderBy(desc(revisions.number)).all();
  const needed = new Set(all.slice(0, Math.max(limits.revisions, alwaysKept.revisions)).map(({ number }) => number));
  if (running !== null) {
    needed.add(running);
    const before = tx
      .select({ number: revisions.number })
      .from(revisions)
      .where(lt(revisions.number, running))
      .orderBy(desc(revisions.number))
      .get();
    if (before) needed.add(before.number);
  }
  const over = all.map(({ number }) => number).filter((number) => !needed.has(number));
  if (over.length === 0) return;
  for (const table of [revisionEntries, revisionDrivers]) tx.delete(table).where(inArray(table.revision, over)).run();
  tx.delete(revisions).where(inArray(revisions.number, over)).run();
  // Contents that no revision has any more.
  const used = [revisionEntries, revisionDrivers].map((table) => tx.select({ hash: table.hash }).from(table));
  const [byRecords, byDrivers] = used;
  if (byRecords && byDrivers)
    tx.delete(contents)
      .where(and(notInArray(contents.hash, byRecords), notInArray(contents.hash, byDrivers)))
      .run();
}
