import type { SnapshotChange } from '../core/live';
import type { Edit, SnapshotData, SnapshotRecord } from '../core/show';
import { freeNumber, newSnapshotEdit, overwriteEdit, swapBackEdit } from '../core/snapshot';
import { commitEdit } from './edits';
import type { ShowDb } from './open';
import { putPicture } from './pictures';
import { recordsOfKind } from './records';
import { scaledPicture } from './scaled-picture';

/** What commands change has a history of its own: nobody at the desk takes back what an operator has kept. */
const window = 'snapshotsofcommands';

/** Writes what a command has made of a snapshot. Returns why nothing was written, as a sentence. */
export async function writeSnapshot(
  db: ShowDb,
  change: SnapshotChange,
  now: number,
  newId: (kind: 'snap') => string,
): Promise<string | undefined> {
  const picture = await pictureIn(db, change);
  const all = recordsOfKind(db, 'snapshot');
  if (change.do === 'takeNew') {
    const { do: _, picture: __, name, ...made } = change;
    const edit = newSnapshotEdit(all, newId, { ...made, ...picture, name: name || `Snapshot ${freeNumber(all)}` });
    const done = commitEdit(db, edit, window, now);
    return done.ok ? undefined : done.error.message;
  }
  const id = change.do === 'take' ? change.like : change.id;
  const from = all.find((each) => each.id === id);
  if (!from) return 'This snapshot is no longer in the show.';
  const edit = editOf(all, from, change, picture, newId);
  if (!edit) return `“${from.data.name}” was not overwritten yet: there is nothing to get back.`;
  const done = commitEdit(db, edit, window, now);
  return done.ok ? undefined : done.error.message;
}

/** The picture of a change, kept in the show; one that cannot be read is left out. */
async function pictureIn(db: ShowDb, change: SnapshotChange): Promise<Pick<SnapshotData, 'picture'>> {
  if (!('picture' in change) || change.picture === undefined) return {};
  const scaled = await scaledPicture(Buffer.from(change.picture, 'base64'));
  const kept = scaled.ok ? putPicture(db, scaled.value) : scaled;
  return kept.ok ? { picture: kept.value } : {};
}

function editOf(
  all: readonly SnapshotRecord[],
  from: SnapshotRecord,
  change: Exclude<SnapshotChange, { do: 'takeNew' }>,
  picture: Pick<SnapshotData, 'picture'>,
  newId: (kind: 'snap') => string,
): Edit | undefined {
  switch (change.do) {
    case 'overwrite':
      return overwriteEdit(from, { parts: change.parts, takenAt: change.takenAt, ...picture });
    case 'getBack':
      return swapBackEdit(from);
    case 'take': {
      const { name, folder, tint } = from.data;
      const { parts, takenAt } = change;
      const called = change.name.trim() || `${name.slice(0, 56)} ${freeNumber(all)}`;
      return newSnapshotEdit(all, newId, {
        name: called,
        folder,
        parts,
        takenAt,
        ...picture,
        ...(tint ? { tint } : {}),
      });
    }
  }
}
