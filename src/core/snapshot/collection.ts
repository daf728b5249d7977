import { z } from 'zod';
import type { DriverDocument } from '../driver';
import { fail, ok, type Result } from '../result';
import {
  snapshotDataSchema,
  type DeviceRecord,
  type Edit,
  type RecordChange,
  type ShowRecord,
  type SnapshotData,
  type SnapshotPart,
  type SnapshotRecord,
} from '../show';
import { freeNumber, snapshotsOf } from './folders';
import { isNoSource } from './black';
import { tracksOf } from './tracks';

/** Snapshots as a file of their own, with what has to be known of their devices. */

const deviceSchema = z.object({
  id: z.string().min(1).max(80),
  tag: z.string().min(1).max(16),
  name: z.string().max(80),
  role: z.string().max(20),
  driver: z.string().max(64),
});
const collectionSchema = z.object({
  format: z.literal('sorrelfinch-snapshots'),
  version: z.literal(1),
  title: z.string().max(80),
  devices: z.array(deviceSchema).max(200),
  snapshots: z.array(snapshotDataSchema).min(1).max(999),
});
export type Collection = z.infer<typeof collectionSchema>;

/** These snapshots as a file. What they kept before they were overwritten stays here. */
export function collectionOf(
  title: string,
  snapshots: readonly SnapshotRecord[],
  deviceOf: (id: string) => DeviceRecord | undefined,
): Collection {
  const used = new Set(snapshots.flatMap(({ data }) => data.parts.map(({ device }) => device)));
  return {
    format: 'sorrelfinch-snapshots',
    version: 1,
    title,
    devices: [...used].flatMap((id) => {
      const device = deviceOf(id);
      return device
        ? [{ id, tag: device.data.tag, name: device.data.name, role: device.data.role, driver: device.data.driver }]
        : [];
    }),
    snapshots: snapshots.map(({ data: { before: _, ...data } }) => data),
  };
}

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
  const parsed = collectionSchema.safeParse(json);
  if (parsed.success) return ok(parsed.data);
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

/** Adds snapshots in one edit, with free numbers, or overwrites those of the same name and folder. */
export function addSnapshotsEdit(
  records: readonly ShowRecord[],
  wanted: readonly Omit<SnapshotData, 'number' | 'order'>[],
  newId: (kind: 'snap') => string,
  { title, replaces }: { readonly title: string; readonly replaces: boolean },
): Edit {
  let all: readonly SnapshotRecord[] = snapshotsOf(records);
  let next = freeNumber(all, 1, wanted.length);
  const changes: RecordChange[] = [];
  for (const data of wanted) {
    const same = all.find((each) => each.data.name === data.name && each.data.folder === data.folder);
    if (replaces && same) {
      const before = { parts: same.data.parts, takenAt: same.data.takenAt };
      // Its number and its place stay: buttons call it by them.
      const { number, order } = same.data;
      changes.push({ op: 'update', from: same, to: { ...same, data: { ...data, number, order, before } } });
      continue;
    }
    const record: SnapshotRecord = {
      kind: 'snapshot',
      id: newId('snap'),
      version: 1,
      data: { ...data, number: next, order: Math.max(0, ...all.map((each) => each.data.order)) + 1 },
    };
    all = [...all, record];
    next += 1;
    changes.push({ op: 'add', record });
  }
  return { title, changes };
}
