import { z } from 'zod';
import { placeText } from '../net';
import { fail, ok, type Problem, type Result } from '../result';
import { parseJson } from '../wire';
import { withoutAddress } from './device-form';
import { cutTitle, type Edit } from './edit';
import { pictureSchema, type Picture } from './picture';
import { recordSchema, type DeviceRecord, type ShowRecord } from './records';

/**
 * A show as a file: JSON, with every record of the show and the driver documents that were installed for it. Passwords are only
 * in it where a passphrase was given, sealed under it. `docs/show-file.md` describes it.
 */
const showFileFormat = 'sorrelfinch-show';
const showFileVersion = 1;

const base64 = z.string().regex(/^[A-Za-z0-9+/=]*$/, 'base64');

/** Passwords by device, sealed with AES-256-GCM under a key that scrypt (RFC 7914) makes of the passphrase. */
const sealedSchema = z.strictObject({
  kdf: z.literal('scrypt'),
  n: z.number().int().min(16_384).max(1_048_576),
  r: z.number().int().min(1).max(32),
  p: z.number().int().min(1).max(16),
  salt: base64,
  nonce: base64,
  tag: base64,
  body: base64,
});

const headSchema = z.object({ format: z.literal(showFileFormat), version: z.number().int() });

export const showFileSchema = z.strictObject({
  format: z.literal(showFileFormat),
  version: z.literal(showFileVersion),
  name: z.string().max(80),
  /** When it was saved, as ISO 8601. */
  savedAt: z.string().max(40),
  records: z.array(recordSchema).max(200_000),
  /** Driver documents that do not ship with the program. */
  drivers: z.array(z.record(z.string(), z.unknown())).max(500).default([]),
  secrets: sealedSchema.optional(),
  /** The pictures that controls show. */
  pictures: z.array(pictureSchema).max(5000).optional(),
  /** Signed reports of the line check, as they were signed. */
  reports: z.array(z.record(z.string(), z.unknown())).max(500).optional(),
});

export type ShowFile = z.infer<typeof showFileSchema>;
export type SealedSecrets = z.infer<typeof sealedSchema>;

export function showFileOf(
  records: readonly ShowRecord[],
  drivers: readonly Record<string, unknown>[],
  savedAt: string,
  secrets?: SealedSecrets,
  pictures: readonly Picture[] = [],
): ShowFile {
  const show = records.find((record) => record.kind === 'show');
  return {
    format: showFileFormat,
    version: showFileVersion,
    name: show?.data.name ?? '',
    savedAt,
    records: [...records],
    drivers: [...drivers],
    ...(secrets ? { secrets } : {}),
    ...(pictures.length > 0 ? { pictures: [...pictures] } : {}),
  };
}

/** Reads a show file, whole or not at all. What is wrong is told with its place. */
export function readShowFile(text: string): Result<ShowFile, readonly Problem[]> {
  const refuse = (path: string, message: string) => fail([{ path, message }]);
  const parsed = parseJson(text.replace(/^\ufeff/, ''));
  if (!parsed.ok) return refuse('file', `It is not JSON: ${parsed.error} Was the file cut off on its way?`);
  const head = headSchema.safeParse(parsed.value);
  if (!head.success) {
    return refuse('format', `It is not a show file of this program: “format” expects “${showFileFormat}”.`);
  }
  if (head.data.version > showFileVersion) {
    const message = `It was saved by a later version of this program (file version ${head.data.version}, known is ${showFileVersion}). Load it there.`;
    return refuse('version', message);
  }
  const file = showFileSchema.safeParse(parsed.value);
  if (!file.success) {
    return fail(
      file.error.issues.slice(0, 20).map(({ path, message }) => ({ path: path.map(String).join('.'), message })),
    );
  }
  const twice = duplicateOf(file.data.records);
  if (twice !== undefined) return refuse('records', `The record “${twice}” is in it twice.`);
  const shows = file.data.records.filter(({ kind }) => kind === 'show').length;
  return shows === 1 ? ok(file.data) : refuse('records', `It has ${shows} records of the kind “show”; there is one.`);
}

function duplicateOf(records: readonly ShowRecord[]): string | undefined {
  const known = new Set<string>();
  for (const { id } of records) {
    if (known.has(id)) return id;
    known.add(id);
  }
  return undefined;
}

/** Whether a show that is loaded finds its devices where this rig has them, or where the file has them. */
export type LoadedAddresses = 'rig' | 'file';

/** The device of this rig that a device of a file is: the same one, else the one with its tag and driver. */
export function sameDevice(device: DeviceRecord, rig: readonly ShowRecord[]): DeviceRecord | undefined {
  const devices = rig.filter((record): record is DeviceRecord => record.kind === 'device');
  return (
    devices.find(({ id }) => id === device.id) ??
    devices.find(({ data }) => data.tag === device.data.tag && data.driver === device.data.driver)
  );
}

/** The records of a file with each device where this rig has it. What this rig does not have stays where the file has it. */
const atThisRig = (records: readonly ShowRecord[], rig: readonly ShowRecord[]): ShowRecord[] =>
  records.map((record) => {
    const here = record.kind === 'device' && !record.data.through ? sameDevice(record, rig) : undefined;
    if (record.kind !== 'device' || !here || here.data.through) return record;
    const { host, port, user } = here.data;
    return { ...record, data: { ...record.data, host, port, user } };
  });

/** The devices that a file has elsewhere than this rig. */
export const addressesThatDiffer = (file: Pick<ShowFile, 'records'>, rig: readonly ShowRecord[]) =>
  file.records.flatMap((record) => {
    const here = record.kind === 'device' && !record.data.through ? sameDevice(record, rig) : undefined;
    if (record.kind !== 'device' || !here) return [];
    const [inRig, inFile] = [here, record].map(({ data: { host, port } }) =>
      host === '' ? 'none' : placeText(host, port),
    );
    return inRig === inFile ? [] : [{ tag: record.data.tag, rig: inRig ?? '', file: inFile ?? '' }];
  });

/** Puts the records of a file in place of those that are there, in one edit that one undo takes back. */
export function loadEdit(
  now: readonly ShowRecord[],
  { name, records: given }: Pick<ShowFile, 'name' | 'records'>,
  addresses: LoadedAddresses = 'file',
): Edit {
  const file = { name, records: addresses === 'rig' ? atThisRig(given, now) : given };
  const before = new Map(now.map((record) => [record.id, record]));
  const after = new Map(file.records.map((record) => [record.id, record]));
  return {
    title: cutTitle(`Load “${file.name}”`),
    changes: [
      ...now
        .filter(({ id, kind }) => after.get(id)?.kind !== kind)
        .map((record) => ({ op: 'remove' as const, record })),
      ...file.records.map((record) => {
        const from = before.get(record.id);
        return from?.kind === record.kind
          ? { op: 'update' as const, from, to: { ...record, version: from.version } as ShowRecord }
          : { op: 'add' as const, record: { ...record, version: 1 } as ShowRecord };
      }),
    ],
  };
}

/** The same show with its devices' addresses taken out: a template for another room. */
export const withoutAddresses = (records: readonly ShowRecord[]): ShowRecord[] =>
  records.map((record) =>
    record.kind === 'device' && !record.data.through
      ? { ...record, data: { ...record.data, host: withoutAddress(record) } }
      : record,
  );
