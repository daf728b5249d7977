import type { DriverDocument } from '../driver';
import { z } from 'zod';
import {
  mostChanges,
  mostSnapshots,
  type Edit,
  type MacroRecord,
  type Picture,
  type ShowRecord,
  type SnapshotData,
  type SnapshotPart,
  type SnapshotRecord,
} from '../show';
import { addSnapshotsEdit, isNoSource, snapshotsOf, tracksOf } from '../snapshot';
import { fail, ok, type Result } from '../result';
import { notEnoughNumbers, snapshotsCalledBy } from './carried-snapshots';
import { contentsOf } from './contents';
import { carriedOf, carriedShape, macrosInto } from './macro-file';
import { readOwnFile } from './own-file';

/** Snapshots and macros as a file of their own, with what has to be known of their devices. */

/** 1 has no macros, 2 no pictures. */
const version = 3;
const collectionSchema = z.object({
  format: z.literal('sorrelfinch-snapshots'),
  version: z.union([z.literal(1), z.literal(2), z.literal(version)]),
  title: z.string().max(80),
  ...carriedShape,
});
export type Collection = z.infer<typeof collectionSchema>;

/** What is chosen as a file, with the macros that those begin, and the snapshots that they call. */
export const collectionOf = (
  title: string,
  records: readonly ShowRecord[],
  snapshots: readonly SnapshotRecord[],
  macros: readonly MacroRecord[] = [],
  pictures: readonly Picture[] = [],
): Collection =>
  collectionSchema.parse({
    format: 'sorrelfinch-snapshots',
    version,
    title,
    ...carriedOf(records, macros, snapshots, pictures),
  });

/** Reads a file. Fails with what it is instead, or where it is wrong. */
export function readCollection(text: string): Result<Collection, string> {
  const read = readOwnFile(text, collectionSchema, { format: 'sorrelfinch-snapshots', version, what: 'snapshots' });
  if (!read.ok) {
    const [{ path, message } = { path: '', message: 'The file is wrong.' }] = read.error;
    // What is wrong with the file as a whole needs no place.
    return fail(['', 'format', 'version'].includes(path) ? message : `${path}: ${message}`);
  }
  const { snapshots, macros } = read.value;
  if (snapshots.length + macros.length === 0) return fail('This file contains no snapshots and no macros.');
  return read;
}

/** How a collection is laid over a rig. */
interface CollectionPatch {
  /** By device of the file, a device of the rig; absent: its parts are left out. */
  readonly devices: ReadonlyMap<string, string>;
  /** By source number of the file, one of the rig. */
  readonly sources: ReadonlyMap<number, number>;
  /** The source that boxes show in place of one that the device does not have. */
  readonly background?: number | undefined;
  /** Snapshots with the same name and folder are overwritten instead of being added. */
  readonly replaces: boolean;
}

interface Sources {
  readonly documentOf: (device: string) => DriverDocument | undefined;
}

/** The readings of a group that name a source: their parameter is picked from a list of the device. */
function sourceKeys(document: DriverDocument, keep: string): ReadonlySet<string> {
  const definition = document.keeps[keep];
  if (!definition) return new Set();
  return new Set(
    tracksOf(document, definition).flatMap((track) =>
      track.values.flatMap(({ param, key }) =>
        document.commands[track.command]?.params[param]?.listFrom === undefined ? [] : [key],
      ),
    ),
  );
}

/** The sources that a collection uses, as far as they are numbers. @param documentOf of the device that each is patched to */
export function sourcesUsed({ snapshots }: Collection, patch: CollectionPatch, { documentOf }: Sources): number[] {
  const used = new Set<number>();
  for (const { parts } of snapshots)
    for (const { device, keep, values } of parts) {
      const document = documentOf(patch.devices.get(device) ?? '');
      const keys = document ? sourceKeys(document, keep) : new Set<string>();
      for (const [key, value] of Object.entries(values))
        if (keys.has(key) && typeof value === 'number') used.add(value);
    }
  return [...used].sort((a, b) => a - b);
}

/** A part on the rig: on another device, with other sources. `undefined` where its device is left out or keeps no such group. */
function patched(part: SnapshotPart, patch: CollectionPatch, { documentOf }: Sources): SnapshotPart | undefined {
  const device = patch.devices.get(part.device);
  const document = documentOf(device ?? '');
  if (device === undefined || !document?.keeps[part.keep]) return undefined;
  const keys = sourceKeys(document, part.keep);
  const sourceOf = (value: number, key: string): number => {
    const source = patch.sources.get(value) ?? value;
    return patch.background !== undefined && isNoSource(document, key, source) ? patch.background : source;
  };
  const values = Object.fromEntries(
    Object.entries(part.values).map(([key, value]) => [
      key,
      keys.has(key) && typeof value === 'number' ? sourceOf(value, key) : value,
    ]),
  );
  return { device, keep: part.keep, values };
}

/** The snapshots as they would be here; the parts that are left out are gone, and a snapshot without any is left out. */
export const laidOver = (collection: Collection, patch: CollectionPatch, sources: Sources): SnapshotData[] =>
  collection.snapshots.flatMap((data) => {
    const parts = data.parts.flatMap((part) => patched(part, patch, sources) ?? []);
    return parts.length === 0 ? [] : [{ ...data, parts }];
  });

/** What comes of a collection in a show. */
interface CollectionImport {
  readonly edit: Edit;
  /** The number of each snapshot here, by its number in the file. */
  readonly numbers: ReadonlyMap<number, number>;
  /** How many macros are new; the others are in the show already. */
  readonly macros: number;
  /** Names of the macros that call a snapshot that is left out. */
  readonly lacking: readonly string[];
}

/** Brings a collection into the show, in one edit. Macros call its snapshots by the numbers that these get. */
export function importCollectionEdit(
  records: readonly ShowRecord[],
  collection: Collection,
  patch: CollectionPatch,
  sources: Sources,
  newId: (kind: 'snap' | 'mac') => string,
): Result<CollectionImport, string> {
  const made = laidOver(collection, patch, sources);
  const { changes } = addSnapshotsEdit(records, made, newId, { title: '', replaces: patch.replaces });
  const numbers = new Map<number, number>();
  changes.forEach((change, n) => {
    const record = change.op === 'update' ? change.to : change.record;
    const was = made[n]?.number;
    if (record.kind === 'snapshot' && was !== undefined) numbers.set(was, record.data.number);
  });
  const highest = Math.max(0, ...numbers.values());
  if (highest > mostSnapshots) return fail(notEnoughNumbers(made.length));
  // A macro that calls what is left out shall call nothing, and not the snapshot that has its number here.
  const leftOut = collection.snapshots.filter(({ number }) => !numbers.has(number));
  const gone = leftOut.map((data): SnapshotRecord => ({ kind: 'snapshot', id: String(data.number), version: 1, data }));
  const nowhere = lastFree(records, [...numbers.values()]);
  const called = new Map([...numbers, ...leftOut.map(({ number }) => [number, nowhere] as const)]);
  const macros = macrosInto(records, collection, patch.devices, called, newId);
  const lacking =
    leftOut.length === 0
      ? []
      : collection.macros
          .filter((macro) => snapshotsCalledBy([], [macro], gone).length > 0)
          .map(({ data }) => data.name);
  const all = [...changes, ...macros.changes];
  if (all.length === 0) return fail('Everything in this file is already in the show.');
  if (all.length > mostChanges) return fail(`This is too much for one step: at most ${mostChanges} changes.`);
  const title = `Import ${contentsOf(made.length, macros.changes.length)}`;
  return ok({ edit: { title, changes: all }, numbers, macros: macros.changes.length, lacking });
}

/** The highest number that no snapshot has: new ones get the lowest, so that it stays free longest. */
function lastFree(records: readonly ShowRecord[], also: readonly number[]): number {
  const taken = new Set([...snapshotsOf(records).map(({ data }) => data.number), ...also]);
  let number = mostSnapshots;
  while (number > 1 && taken.has(number)) number -= 1;
  return number;
}
