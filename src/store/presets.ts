import type { PresetChange } from '../core/live';
import {
  byPlaceEdit,
  favouriteEdit,
  forgetEdit,
  getBackEdit,
  nameEdit,
  orderEdit,
  pictureEdit,
  presetsOf,
  storeEdit,
} from '../core/preset';
import type { Result } from '../core/result';
import type { Edit, PresetRecord } from '../core/show';
import { commitEdit } from './edits';
import type { ShowDb } from './open';
import { putPicture } from './pictures';
import { recordsOfKind } from './records';
import { scaledPicture } from './scaled-picture';

/** The edits of panels have a history of their own: nobody at the desk takes back what a camera has stored. */
const window = 'presetsofpanels';

/**
 * Writes a change that somebody made at a panel, with its picture scaled. Resolves with what is missing, as a sentence: why nothing was written, or
 * that a store was written without its picture.
 */
export async function writePreset(
  db: ShowDb,
  change: PresetChange,
  now: number,
  newId: (kind: 'preset') => string,
): Promise<string | undefined> {
  const picture = await pictureOf(change);
  const all = recordsOfKind(db, 'preset');
  const from = presetsOf(all, change.device).find(({ data }) => data.number === change.number);
  const kept = picture?.ok ? putPicture(db, picture.value) : picture;
  const without = kept && !kept.ok ? `Its picture is not kept. ${kept.error}` : undefined;
  const edit = change.do === 'store' ? storing(all, change, kept, newId) : from && changing(from, change, kept);
  if (!edit) return without ?? 'The preset has changed in the meantime. Check it and try again.';
  const done = commitEdit(db, edit, window, now);
  return done.ok ? without : done.error.message;
}

async function pictureOf(change: PresetChange): Promise<Result<Uint8Array, string> | undefined> {
  if (!('picture' in change) || change.picture === undefined) return undefined;
  return scaledPicture(Buffer.from(change.picture, 'base64'));
}

function storing(
  all: readonly PresetRecord[],
  { device, number, name, place, storedAt }: Extract<PresetChange, { do: 'store' }>,
  picture: Result<string, string> | undefined,
  newId: (kind: 'preset') => string,
): Edit {
  const stored = { storedAt, ...(place ? { place } : {}), ...(picture?.ok ? { picture: picture.value } : {}) };
  return storeEdit(all, { device, number, ...(name === undefined ? {} : { name }) }, stored, newId);
}

function changing(
  from: PresetRecord,
  change: Exclude<PresetChange, { do: 'store' }>,
  picture: Result<string, string> | undefined,
): Edit | undefined {
  switch (change.do) {
    case 'forget':
      return forgetEdit(from);
    case 'picture':
      return picture?.ok ? pictureEdit(from, picture.value) : undefined;
    case 'name':
      return nameEdit(from, change);
    case 'favourite':
      return favouriteEdit(from, change.on);
    case 'byPlace':
      return byPlaceEdit(from, change.on);
    case 'order':
      return orderEdit(from, change.order);
    case 'getBack':
      return getBackEdit(from);
  }
}
