import { z } from 'zod';
import { fail, ok, type Result } from '../result';
import { canonicalJson } from './canonical';
import { recordSchema, type ShowRecord } from './records';

/**
 * Edits are values: applied to the records of a show they give new records, inverted they give the edit that takes
 * them back. Both go through JSON. The same changes serve saving, undo, broadcasting and publishing.
 */
export type RecordChange =
  | { readonly op: 'add'; readonly record: ShowRecord }
  | { readonly op: 'update'; readonly from: ShowRecord; readonly to: ShowRecord }
  | { readonly op: 'remove'; readonly record: ShowRecord };

export interface Edit {
  /** What was done, for people: “Change label of Finish”. */
  readonly title: string;
  readonly changes: readonly RecordChange[];
}

const changeSchema = z.discriminatedUnion('op', [
  z.strictObject({ op: z.literal('add'), record: recordSchema }),
  z.strictObject({ op: z.literal('update'), from: recordSchema, to: recordSchema }),
  z.strictObject({ op: z.literal('remove'), record: recordSchema }),
]);

/** More changes than this in one edit of a desk window are a mistake. */
export const mostChanges = 20_000;
const mostTitle = 120;

/** A title that fits: one that quotes a long label is cut. */
export const cutTitle = (title: string): string =>
  title.length <= mostTitle ? title : `${title.slice(0, mostTitle - 1)}…`;

export const editSchema = z.strictObject({
  title: z.string().min(1).max(10_000).transform(cutTitle),
  changes: z.array(changeSchema).max(mostChanges),
});

/** An edit as it was stored: whatever was stored can be taken back, however large it was. */
export const storedEditSchema = editSchema.extend({ changes: z.array(changeSchema) });

export type EditError =
  | { readonly code: 'exists'; readonly id: string; readonly message: string }
  | { readonly code: 'missing'; readonly id: string; readonly message: string }
  | { readonly code: 'changed-meanwhile'; readonly id: string; readonly message: string }
  | { readonly code: 'not-the-same'; readonly id: string; readonly message: string };

/**
 * The records that an edit leaves behind, and the edit as it was really applied (with the versions given).
 *
 * `lookup` gives the record as it is now. Nothing is applied when one change does not fit: a record to add exists, one
 * to update or remove is gone or has another version than the edit was made on.
 */
export function applyEdit(
  lookup: (id: string) => ShowRecord | undefined,
  edit: Edit,
): Result<
  { readonly puts: readonly ShowRecord[]; readonly removes: readonly ShowRecord[]; readonly applied: Edit },
  EditError
> {
  const pending = new Map<string, ShowRecord | undefined>();
  const current = (id: string) => (pending.has(id) ? pending.get(id) : lookup(id));
  const applied: RecordChange[] = [];
  for (const change of edit.changes) {
    const before = change.op === 'update' ? change.from : change.op === 'remove' ? change.record : undefined;
    const id = change.op === 'update' ? change.to.id : change.record.id;
    const now = current(id);
    if (!before) {
      if (now) return fail({ code: 'exists', id, message: 'There is already something with this id.' });
    } else if (!now) {
      return fail({ code: 'missing', id, message: 'It has been removed meanwhile.' });
    } else if (now.version !== before.version || now.kind !== before.kind) {
      return fail({
        code: 'changed-meanwhile',
        id,
        message: 'It has been changed meanwhile. Look at it again, then repeat your edit.',
      });
    }
    switch (change.op) {
      case 'add':
        pending.set(id, change.record);
        applied.push(change);
        break;
      case 'update': {
        if (change.from.id !== id || change.from.kind !== change.to.kind) {
          return fail({ code: 'not-the-same', id, message: 'An update cannot change the id or the kind of a record.' });
        }
        const to = { ...change.to, version: change.from.version + 1 } as ShowRecord;
        pending.set(id, to);
        applied.push({ op: 'update', from: change.from, to });
        break;
      }
      case 'remove':
        pending.set(id, undefined);
        applied.push(change);
        break;
    }
  }
  const puts: ShowRecord[] = [];
  const removes: ShowRecord[] = [];
  for (const [id, record] of pending) {
    if (record) puts.push(record);
    else {
      const was = lookup(id);
      if (was) removes.push(was);
    }
  }
  return ok({ puts, removes, applied: { title: edit.title, changes: applied } });
}

/**
 * The edit that takes an applied edit back. A record that comes back gets a version above the one it had, so that an
 * edit made on its former life cannot hit it.
 */
export function invertEdit(edit: Edit, title = `Undo: ${edit.title}`): Edit {
  const changes = [...edit.changes].reverse().map((change): RecordChange => {
    switch (change.op) {
      case 'add':
        return { op: 'remove', record: change.record };
      case 'update':
        return { op: 'update', from: change.to, to: change.from };
      case 'remove':
        return { op: 'add', record: { ...change.record, version: change.record.version + 1 } as ShowRecord };
    }
  });
  return { title: cutTitle(title), changes };
}

/**
 * The same edit on the records as they are now, for taking back an edit after others were taken back before it. A
 * record that still has the content which the edit expects gets its present version; any other is left alone, and
 * `applyEdit` then refuses it.
 */
export function rebaseEdit(lookup: (id: string) => ShowRecord | undefined, edit: Edit): Edit {
  const rebase = <R extends ShowRecord>(expected: R): R => {
    const now = lookup(expected.id);
    const same = now && now.kind === expected.kind && canonicalJson(now.data) === canonicalJson(expected.data);
    return same ? { ...expected, version: now.version } : expected;
  };
  return {
    title: edit.title,
    changes: edit.changes.map((change): RecordChange => {
      if (change.op === 'update') return { ...change, from: rebase(change.from) };
      return change.op === 'remove' ? { ...change, record: rebase(change.record) } : change;
    }),
  };
}
