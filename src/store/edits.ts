import { and, asc, desc, eq } from 'drizzle-orm';
import { fail, ok, type Result } from '../core/result';
import { applyEdit, invertEdit, rebaseEdit, storedEditSchema, type Edit, type EditError } from '../core/show';
import { turnBeside, writeBeside, type Beside } from './beside';
import { headSeq, writeMeta } from './meta';
import { inTransaction, type ShowDb } from './open';
import { getRecord, putRecord, removeRecord } from './records';
import { edits } from './show-schema';

export interface EditDone {
  readonly seq: number;
  readonly title: string;
  readonly changed: number;
}

export type EditFailure = EditError | { readonly code: 'nothing-left'; readonly message: string };

/**
 * Applies an edit of a desk window, whole or not at all, with what changes beside it, and remembers it for undo. An edit that changes
 * nothing is no error and leaves no trace.
 */
export function commitEdit(
  db: ShowDb,
  edit: Edit,
  window: string,
  now: number,
  beside: Beside = { drivers: [], secrets: [] },
): Result<EditDone, EditFailure> {
  const { title } = edit;
  if (edit.changes.length + beside.drivers.length + beside.secrets.length === 0)
    return ok({ seq: headSeq(db), title, changed: 0 });
  return inTransaction(db, (tx) => {
    const done = write(tx, edit);
    if (!done.ok) return done;
    const kept = writeBeside(tx, beside, now);
    tx.delete(edits)
      .where(and(eq(edits.window, window), eq(edits.state, 'undone')))
      .run();
    tx.insert(edits)
      .values({ at: now, window, title, edit: JSON.stringify(done.value.applied), beside: kept, state: 'done' })
      .run();
    return ok({ seq: done.value.seq, title, changed: edit.changes.length });
  });
}

/** Undoes the last edit of this window that has not been undone; refused when somebody changed the same thing since. */
export const undoEdit = (db: ShowDb, window: string) => turn(db, window, 'done');

/** Does the last edit that this window took back once more. */
export const redoEdit = (db: ShowDb, window: string) => turn(db, window, 'undone');

function turn(db: ShowDb, window: string, state: 'done' | 'undone'): Result<EditDone, EditFailure> {
  try {
    return turnNow(db, window, state);
  } catch (error) {
    if (error instanceof TurnRefused) return fail(error.why);
    throw error;
  }
}

/** Rolls the transaction back: the records could be taken back, what was changed beside them could not. */
class TurnRefused extends Error {
  constructor(readonly why: EditError) {
    super(why.message);
  }
}

function turnNow(db: ShowDb, window: string, state: 'done' | 'undone'): Result<EditDone, EditFailure> {
  return inTransaction(db, (tx): Result<EditDone, EditFailure> => {
    const row = tx
      .select()
      .from(edits)
      .where(and(eq(edits.window, window), eq(edits.state, state)))
      .orderBy(state === 'done' ? desc(edits.id) : asc(edits.id))
      .limit(1)
      .get();
    if (!row) {
      return fail({
        code: 'nothing-left',
        message: state === 'done' ? 'There is nothing to undo.' : 'There is nothing to redo.',
      });
    }
    const inverse = rebaseEdit(
      (id) => getRecord(tx, id),
      invertEdit(storedEditSchema.parse(JSON.parse(row.edit)), row.title),
    );
    const done = write(tx, inverse);
    if (!done.ok) return done;
    const beside = turnBeside(tx, row.beside, Date.now());
    if (!beside.ok) throw new TurnRefused(beside.error);
    tx.update(edits)
      .set({
        state: state === 'done' ? 'undone' : 'done',
        edit: JSON.stringify(done.value.applied),
        beside: beside.value,
      })
      .where(eq(edits.id, row.id))
      .run();
    return ok({ seq: done.value.seq, title: row.title, changed: inverse.changes.length });
  });
}

/** What undo and redo would do now for a window, by title. */
export function undoState(db: ShowDb, window: string): { readonly undo?: string; readonly redo?: string } {
  const title = (state: 'done' | 'undone') =>
    db
      .select({ title: edits.title })
      .from(edits)
      .where(and(eq(edits.window, window), eq(edits.state, state)))
      .orderBy(state === 'done' ? desc(edits.id) : asc(edits.id))
      .limit(1)
      .get()?.title;
  return { undo: title('done'), redo: title('undone') };
}

function write(tx: ShowDb, edit: Edit): Result<{ seq: number; applied: Edit }, EditError> {
  const result = applyEdit((id) => getRecord(tx, id), edit);
  if (!result.ok) return result;
  const seq = headSeq(tx) + 1;
  for (const record of result.value.puts) putRecord(tx, record, seq);
  for (const record of result.value.removes) removeRecord(tx, record, seq);
  writeMeta(tx, 'head', String(seq));
  return ok({ seq, applied: result.value.applied });
}
