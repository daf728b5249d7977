import type { SnapshotChange } from '../core/live';
import type { Edit, SnapshotRecord } from '../core/show';
import { freeNumber, newSnapshotEdit, overwriteEdit, swapBackEdit } from '../core/snapshot';
import { commitEdit } from './edits';
import type { ShowDb } from './open';
import { recordsOfKind } from './records';

/** What commands change has a history of its own: nobody at the desk takes back what an operator has kept. */
const window = 'snapshotsofcommands';

/** Writes what a command has made of a snapshot. Returns why nothing was written, as a sentence. */
export function writeSnapshot(
  db: ShowDb,
  change: SnapshotChange,
  now: number,
  newId: (kind: 'snap') => string,
): string | undefined {
  const all = recordsOfKind(db, 'snapshot');
  const id = change.do === 'take' ? change.like : change.id;
  const from = all.find((each) => each.id === id);
  if (!from) return 'This snapshot is no longer in the show.';
  const edit = editOf(all, from, change, newId);
  if (!edit) return `“${from.data.name}” was not overwritten yet: there is nothing to get back.`;
  const done = commitEdit(db, edit, window, now);
  return done.ok ? undefined : done.error.message;
}

function editOf(
  all: readonly SnapshotRecord[],
  from: SnapshotRecord,
  change: SnapshotChange,
  newId: (kind: 'snap') => string,
): Edit | undefined {
  switch (change.do) {
    case 'overwrite':
      return overwriteEdit(from, change.parts, change.takenAt);
    case 'getBack':
      return swapBackEdit(from);
    case 'take': {
      const { name, folder, tint } = from.data;
      const { parts, takenAt } = change;
      const called = change.name.trim() || `${name.slice(0, 56)} ${freeNumber(all)}`;
      return newSnapshotEdit(all, newId, { name: called, folder, parts, takenAt, ...(tint ? { tint } : {}) });
    }
  }
}
