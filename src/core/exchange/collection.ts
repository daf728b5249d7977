import type { DriverDocument } from '../driver';
import { z } from 'zod';
import {
  idSchema,
  macroDataSchema,
  mostChanges,
  mostSnapshots,
  snapshotDataSchema,
  type Edit,
  type MacroRecord,
  type ShowRecord,
  type SnapshotData,
  type SnapshotPart,
  type SnapshotRecord,
} from '../show';
import { deviceMentionSchema } from '../page';
import { addSnapshotsEdit, freeNumber, isNoSource, snapshotsOf, tracksOf } from '../snapshot';
import { fail, ok, type Result } from '../result';
import { snapshotsCalledBy } from './carried-snapshots';
import { carriedOf, macrosInto } from './macro-file';

/** Snapshots and macros as a file of their own, with what has to be known of their devices. */

/** 1 has no macros. */
const version = 2;
const collectionSchema = z.object({
  format: z.literal('sorrelfinch-snapshots'),
  version: z.union([z.literal(1), z.literal(version)]),
  title: z.string().max(80),
  devices: z.array(deviceMentionSchema).max(200),
  /** Pages that steps of macros open, by name. */
  pages: z
    .array(z.strictObject({ id: idSchema, name: z.string().max(60) }))
    .max(500)
    .default([]),
  snapshots: z.array(snapshotDataSchema).max(mostSnapshots),
  macros: z
    .array(z.strictObject({ id: idSchema, data: macroDataSchema }))
    .max(500)
    .default([]),
});
export type Collection = z.infer<typeof collectionSchema>;

/** What is chosen as a file, with the macros that those begin, and the snapshots that they call. */
export const collectionOf = (
  title: string,
  records: readonly ShowRecord[],
  snapshots: readonly SnapshotRecord[],
  macros: readonly MacroRecord[] = [],
): Collection =>
  collectionSchema.parse({
    format: 'sorrelfinch-snapshots',
    version,
    title,
    ...carriedOf(records, macros, snapshots),
  });

/** Reads a file. Fails with what it is instead, or where it is wrong. */
export function readCollection(text: string): Result<Collection, string> {
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch {
    return fail('This file is not JSON. Choose a file that was saved with “Save as a file” here.');
  }
  const format = typeof json === 'object' && json !== null && 'format' in json ? json.format : undefined;
  if (format !== 'sorrelfinch-snapshots')
    return fail('This file holds no snapshots. Choose a file that was saved with “Save as a file” here.');
  if ('version' in (json as object) && (json as { version: unknown }).version === version + 1)
    return fail('This file was saved by a newer version of the program. Update this one, then import it again.');
  const parsed = collectionSchema.safeParse(json);
  if (parsed.success && parsed.data.snapshots.length + parsed.data.macros.length > 0) return ok(parsed.data);
  if (parsed.success) return fail('This file is empty: there is neither a snapshot nor a macro in it.');
  const [issue] = parsed.error.issues;
  return fail(`${issue?.path.join('.') ?? 'The file'}: ${issue?.message ?? 'is wrong'}.`);
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
  if (highest > mostSnapshots)
    return fail(`There are not enough free numbers for these snapshots: the highest is ${mostSnapshots}.`);
  // A macro that calls what is left out shall call nothing, and not the snapshot that has its number here.
  const leftOut = collection.snapshots.filter(({ number }) => !numbers.has(number));
  const gone = leftOut.map((data): SnapshotRecord => ({ kind: 'snapshot', id: String(data.number), version: 1, data }));
  const nowhere = freeNumber(snapshotsOf(records), highest + 1);
  const called = new Map([...numbers, ...leftOut.map(({ number }) => [number, nowhere] as const)]);
  const macros = macrosInto(records, collection, patch.devices, called, newId);
  const lacking =
    leftOut.length === 0
      ? []
      : collection.macros
          .filter((macro) => snapshotsCalledBy([], [macro], gone).length > 0)
          .map(({ data }) => data.name);
  const all = [...changes, ...macros.changes];
  if (all.length === 0) return fail('Nothing of this file would be new here.');
  if (all.length > mostChanges) return fail(`This is too much for one step: at most ${mostChanges} changes.`);
  const parts = [
    made.length > 0 && (made.length === 1 ? '1 snapshot' : `${made.length} snapshots`),
    macros.changes.length > 0 && (macros.changes.length === 1 ? '1 macro' : `${macros.changes.length} macros`),
  ];
  const title = `Import ${parts.filter(Boolean).join(' and ')}`;
  return ok({ edit: { title, changes: all }, numbers, macros: macros.changes.length, lacking });
}
