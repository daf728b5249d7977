import type { DriverDocument } from '../driver';
import type { Edit, PresetData, PresetRecord, ShowRecord } from '../show';

/** Changes of presets as edits of the show. What happens at the camera is up to the caller. */

type NewId = (kind: 'preset') => string;

/** What was there as a preset was stored. */
type Stored = Pick<PresetData, 'picture' | 'place' | 'storedAt'>;

export const presetsOf = (records: Iterable<ShowRecord>, device?: string): PresetRecord[] =>
  [...records]
    .filter((record): record is PresetRecord => record.kind === 'preset')
    .filter(({ data }) => device === undefined || data.device === device)
    .sort(inOrder);

const inOrder = (a: PresetRecord, b: PresetRecord): number =>
  a.data.order - b.data.order || a.data.number - b.data.number || a.id.localeCompare(b.id);

export const presetName = ({ name, number }: Pick<PresetData, 'name' | 'number'>): string =>
  name === '' ? `Preset ${number}` : name;

/** The preset was stored in the camera. One that was there is overwritten; what it was can be got back. */
export function storeEdit(
  records: readonly ShowRecord[],
  { device, number, name }: { readonly device: string; readonly number: number; readonly name?: string },
  stored: Stored,
  newId: NewId,
): Edit {
  const from = presetsOf(records, device).find(({ data }) => data.number === number);
  if (!from) {
    const data: PresetData = { device, number, name: name ?? '', note: '', order: number, ...stored };
    const record: PresetRecord = { kind: 'preset', id: newId('preset'), version: 1, data };
    return { title: `Store ${presetName(data).toLowerCase()}`, changes: [{ op: 'add', record }] };
  }
  const { before: _, byPlace: __, picture: ___, place: ____, ...rest } = from.data;
  const data: PresetData = { ...rest, ...stored, name: name ?? rest.name, before: keptOf(from.data) };
  return changeEdit(from, data, 'Store');
}

const keptOf = ({ name, picture, place, storedAt }: PresetData): NonNullable<PresetData['before']> => ({
  name,
  storedAt,
  ...(picture === undefined ? {} : { picture }),
  ...(place === undefined ? {} : { place }),
});

const changeEdit = (from: PresetRecord, data: PresetData, verb: string): Edit => ({
  title: `${verb} ${presetName(data)}`,
  changes: [{ op: 'update', from, to: { ...from, data } }],
});

/** What it was before it was last overwritten, and the other way round. The camera still holds the newer one, so it is recalled by its position. */
export function getBackEdit(from: PresetRecord): Edit | undefined {
  const { before, byPlace: _, picture: __, place: ___, ...rest } = from.data;
  if (!before?.place) return undefined;
  // Got back once more, it is what the camera holds.
  const isInCamera = from.data.byPlace === true;
  const data: PresetData = {
    ...rest,
    ...before,
    before: keptOf(from.data),
    ...(isInCamera ? {} : { byPlace: true as const }),
  };
  return changeEdit(from, data, 'Get back');
}

export const forgetEdit = (record: PresetRecord): Edit => ({
  title: `Forget ${presetName(record.data)}`,
  changes: [{ op: 'remove', record }],
});

export const pictureEdit = (from: PresetRecord, picture: string): Edit =>
  changeEdit(from, { ...from.data, picture }, 'New picture of');

/** What is absent stays as it is. */
export const nameEdit = (
  from: PresetRecord,
  { name = from.data.name, note = from.data.note }: { readonly name?: string; readonly note?: string },
): Edit => changeEdit(from, { ...from.data, name, note }, 'Name of');

export function favouriteEdit(from: PresetRecord, isFavourite: boolean): Edit {
  const { favourite: _, ...data } = from.data;
  return changeEdit(from, isFavourite ? { ...data, favourite: true } : data, 'Favourite:');
}

/** It is recalled by its position, or by its number again. */
export function byPlaceEdit(from: PresetRecord, on: boolean): Edit {
  const { byPlace: _, ...data } = from.data;
  return changeEdit(from, on ? { ...data, byPlace: true } : data, 'How to recall');
}

export const orderEdit = (from: PresetRecord, order: number): Edit =>
  changeEdit(from, { ...from.data, order }, 'Order of');

/**
 * The order that moves a preset one place forward or back among those that are shown with it; `undefined` at the end. Numbers that nothing is
 * stored under have a place, too.
 */
export function movedOrder(order: number, shown: readonly number[], by: -1 | 1): number | undefined {
  const others = shown.filter((each) => (by === 1 ? each > order : each < order)).sort((a, b) => (a - b) * by);
  const [first, second] = others;
  if (first === undefined) return undefined;
  return second === undefined ? first + by : (first + second) / 2;
}

/** Presets that came from another rig, or whose camera was swapped: the camera has none of them, so they are recalled by their positions. */
export const withoutCamera = (document: DriverDocument | undefined, data: PresetData): PresetData =>
  data.place && document?.presets?.keep !== undefined ? { ...data, byPlace: true } : data;
