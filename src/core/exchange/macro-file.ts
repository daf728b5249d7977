import { z } from 'zod';
import { calledBy } from '../macro';
import { fail, ok, type Problem, type Result } from '../result';
import {
  idSchema,
  macroDataSchema,
  mostChanges,
  mostSnapshots,
  pagesOf,
  pictureSchema,
  snapshotDataSchema,
  type DeviceRecord,
  type Edit,
  type MacroRecord,
  type Picture,
  type RecordChange,
  type ShowRecord,
  type SnapshotRecord,
} from '../show';
import { carriedMacros, devicesOfMacro, mapMacro, type MacroMapping } from './carried-macros';
import { snapshotsOf } from '../snapshot';
import { deviceMentionSchema, guessDevices, mentionOf, type DeviceMention } from '../page';
import { carriedSnapshots, onDevices, snapshotsCalledBy, withSnapshotNumbers } from './carried-snapshots';
import { contentsOf } from './contents';
import { readOwnFile } from './own-file';

/**
 * Macros as a file: JSON with the macros, those that they begin, the snapshots that they call, and what the devices and pages are that they
 * name. Ids in it are its own (`d1`, `p1`, `m1`), given in order, so that the same macros always give the same bytes. No address is in it.
 */
const macroFileFormat = 'sorrelfinch-macros';
/** 1 has no snapshots, 2 no pictures. */
const macroFileVersion = 3;

/** What travels in a file of macros or snapshots. */
export const carriedShape = {
  devices: z.array(deviceMentionSchema).max(2000),
  /** Pages that steps open, by name: they do not come along. */
  pages: z
    .array(z.strictObject({ id: idSchema, name: z.string().max(60) }))
    .max(500)
    .default([]),
  macros: z
    .array(z.strictObject({ id: idSchema, data: macroDataSchema }))
    .max(500)
    .default([]),
  /** Those that are chosen, and those that the macros call. */
  snapshots: z.array(snapshotDataSchema).max(mostSnapshots).default([]),
  /** Those of the snapshots. */
  pictures: z.array(pictureSchema).max(mostSnapshots).default([]),
};

const macroFileSchema = z.strictObject({
  format: z.literal(macroFileFormat),
  version: z.union([z.literal(1), z.literal(2), z.literal(macroFileVersion)]),
  ...carriedShape,
  macros: carriedShape.macros.unwrap().min(1),
});
export type MacroFile = z.infer<typeof macroFileSchema>;

const same = (id: string): string => id;

/** What goes into a file beside its format: ids in it are its own, given in order. */
type Carried = Pick<MacroFile, 'devices' | 'pages' | 'macros' | 'snapshots' | 'pictures'>;

/**
 * Macros and snapshots as a file holds them, with the macros that these begin and the snapshots that they call.
 *
 * @param pictures of the show; a snapshot whose picture is not among them goes without it
 */
export function carriedOf(
  records: readonly ShowRecord[],
  chosen: readonly MacroRecord[],
  besides: readonly SnapshotRecord[] = [],
  pictures: readonly Picture[] = [],
): Carried {
  const all = new Map(records.flatMap((record) => (record.kind === 'macro' ? [[record.id, record]] : [])));
  const macros = new Map<string, MacroRecord>();
  const take = (macro: MacroRecord | undefined): void => {
    if (!macro || macros.has(macro.id)) return;
    macros.set(macro.id, macro);
    for (const id of calledBy(macro)) take(all.get(id));
  };
  chosen.forEach(take);
  const list = [...macros.values()];
  const called = new Set(snapshotsCalledBy([], list, records).map(({ number }) => number));
  const snapshots = snapshotsOf(records).filter(
    ({ id, data }) => called.has(data.number) || besides.some((each) => each.id === id),
  );
  const named = new Set([
    ...list.flatMap(({ data }) => devicesOfMacro(data)),
    ...snapshots.flatMap(({ data }) => data.parts.map(({ device }) => device)),
  ]);
  const devices = records
    .filter((record): record is DeviceRecord => record.kind === 'device' && named.has(record.id))
    .sort((a, b) => (a.data.tag < b.data.tag ? -1 : 1));
  const opened = new Set<string>();
  for (const { data } of list)
    mapMacro(data, { macro: same, device: same, zone: same, shift: same, page: (id) => (opened.add(id), id) });
  const pages = pagesOf(records).filter(({ id }) => opened.has(id));
  const idIn = (ids: readonly { readonly id: string }[], letter: string) => {
    const known = new Map(ids.map(({ id }, n) => [id, `${letter}${n + 1}`]));
    return (id: string) => known.get(id) ?? id;
  };
  const mapping: MacroMapping = {
    macro: idIn(list, 'm'),
    device: idIn(devices, 'd'),
    page: idIn(pages, 'p'),
    zone: same,
    shift: same,
  };
  return {
    devices: devices.map((device) => ({ ...mentionOf(device), id: mapping.device(device.id) })),
    pages: pages.map(({ id, data }) => ({ id: mapping.page(id), name: data.name })),
    macros: list.map(({ id, data }, n) => ({
      id: mapping.macro(id),
      data: { ...mapMacro(data, mapping), order: n + 1 },
    })),
    // What one kept before it was overwritten stays here.
    snapshots: snapshots.map(({ data: { before: _, picture, ...data } }, n) => ({
      ...onDevices(data, mapping.device),
      order: n + 1,
      ...(pictures.some(({ hash }) => hash === picture) ? { picture } : {}),
    })),
    pictures: pictures
      .filter(({ hash }) => snapshots.some(({ data }) => data.picture === hash))
      .sort((a, b) => (a.hash < b.hash ? -1 : 1)),
  };
}

/** Some macros as a file, with those that they begin and the snapshots that they call. */
export const macroFileOf = (
  records: readonly ShowRecord[],
  chosen: readonly MacroRecord[],
  pictures: readonly Picture[] = [],
): MacroFile =>
  // Parsed once more, so that the fields have the order of the schema, however the records were made.
  macroFileSchema.parse({
    format: macroFileFormat,
    version: macroFileVersion,
    ...carriedOf(records, chosen, [], pictures),
  });

/** The text of a file of macros: two spaces an indent, so that it can be read and compared. */
export const macroFileText = (file: MacroFile): string => `${JSON.stringify(file, null, 2)}\n`;

/** Reads a file of macros. Everything that is wrong with it is said, each with its place. */
export const readMacroFile = (text: string): Result<MacroFile, readonly Problem[]> =>
  readOwnFile(text, macroFileSchema, { format: macroFileFormat, version: macroFileVersion, what: 'macros' });

/** The devices of this rig that those of a file most likely are. */
export const guessMacroPatch = (
  mentions: readonly DeviceMention[],
  records: readonly ShowRecord[],
): Map<string, string> =>
  guessDevices(
    mentions,
    records.filter((record): record is DeviceRecord => record.kind === 'device'),
  );

/**
 * The macros of a file as they come into the show. One that is there already to the letter does not come twice; a name that is taken gets a number.
 * Devices that are not patched keep their id of the file, and pages are found by their names: what is not there is marked in the macro.
 *
 * @param numbers of the snapshots that come along, by their numbers in the file
 */
export function macrosInto(
  records: readonly ShowRecord[],
  file: Pick<Carried, 'macros' | 'pages'>,
  patch: ReadonlyMap<string, string>,
  numbers: ReadonlyMap<number, number>,
  newId: (kind: 'mac') => string,
): { readonly changes: readonly RecordChange[]; readonly macros: readonly string[] } {
  const ids = new Map(file.macros.map(({ id }) => [id, newId('mac')]));
  const pages = new Map(
    file.pages.flatMap(({ id, name }) => {
      const page = pagesOf(records).find(({ data }) => data.name === name);
      return page ? [[id, page.id] as const] : [];
    }),
  );
  const mapping: MacroMapping = {
    macro: (id) => ids.get(id) ?? id,
    device: (id) => patch.get(id) ?? id,
    page: (id) => pages.get(id) ?? id,
    zone: same,
    shift: same,
  };
  const mapped = withSnapshotNumbers([], file.macros, numbers).macros.map(({ id, data }) => ({
    id: mapping.macro(id),
    data: mapMacro(data, mapping),
  }));
  const { changes, idOf } = carriedMacros(mapped, records);
  return { changes, macros: mapped.map(({ id }) => idOf(id)) };
}

/** Brings the macros of a file into the show with the snapshots that they call, in one edit. */
export function importMacrosEdit(
  records: readonly ShowRecord[],
  file: MacroFile,
  patch: ReadonlyMap<string, string>,
  newId: (kind: 'mac' | 'snap') => string,
): Result<{ readonly edit: Edit; readonly macros: readonly string[] }, string> {
  const snapshots = carriedSnapshots(
    file.snapshots.map((data) => onDevices(data, (id) => patch.get(id) ?? id)),
    records,
    newId,
  );
  if (!snapshots.ok) return snapshots;
  const { changes: added, macros } = macrosInto(records, file, patch, snapshots.value.numbers, newId);
  const changes = [...snapshots.value.changes, ...added];
  if (changes.length === 0) return fail('All macros of this file are in the show already.');
  if (changes.length > mostChanges) return fail(`This is too much for one step: at most ${mostChanges} changes.`);
  const what = contentsOf(snapshots.value.changes.length, added.length);
  return ok({ edit: { title: `Import ${what}`, changes }, macros });
}
