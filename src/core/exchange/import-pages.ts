import { memberKey, splitKey, type DriverDocument } from '../driver';
import { hasReading, readingsOfLabel } from '../face';
import { readingsOfLamps } from '../lamp';
import { fail, ok, type Result, type Scalar } from '../result';
import { sendsOfStep } from '../macro';
import {
  canonicalJson,
  controlsOf,
  mapConditionArguments,
  mapReadings,
  mapSends,
  pagesOf,
  readingsOfArgument,
  resolveArgument,
  valueNameOf,
  mostChanges,
  sendsOfControl,
  type ControlRecord,
  type DeviceRecord,
  type Edit,
  type PageRecord,
  type RecordChange,
  type ShowRecord,
  type SnapshotData,
} from '../show';
import { type DeviceMention, guessDevices, sameControls } from '../page';
import { carriedMacros, freeName, macrosBegunBy, withMacro } from './carried-macros';
import { carriedSnapshots, onDevices, snapshotsCalledBy, withSnapshotNumbers } from './carried-snapshots';
import { presetsOf, withoutCamera } from '../preset';
import { mappedFile, type PageFile } from './page-file';

type Data = ControlRecord['data'];
type DocumentOf = (device: DeviceRecord) => DriverDocument | undefined;

/** Numbers of things that are stored in a device, such as its macros, that the file's controls call. */
export interface StoredNumbers {
  /** The family that lists them. */
  readonly family: string;
  readonly title: string;
  readonly used: readonly number[];
  /** Those that controls of this show call on the same device. */
  readonly clash: readonly number[];
}

/** One device of the file, and what comes of it in this rig. */
export interface PatchRow {
  readonly mention: DeviceMention;
  readonly device: DeviceRecord | undefined;
  readonly differs: readonly string[];
  /** What its controls use and the device of this rig does not have. */
  readonly cannot: readonly string[];
  readonly stored: readonly StoredNumbers[];
}

/** The devices that the file's devices most likely are. */
export const guessPatch = (file: PageFile, records: readonly ShowRecord[]): Map<string, string> =>
  guessDevices(file.devices, devicesIn(records));

const devicesIn = (records: readonly ShowRecord[]): DeviceRecord[] =>
  records.filter((record): record is DeviceRecord => record.kind === 'device');

/** What the table of an import says, device by device, for a choice of devices of this rig. */
export function patchRows(
  file: PageFile,
  patch: ReadonlyMap<string, string>,
  records: readonly ShowRecord[],
  documentOf: DocumentOf,
): PatchRow[] {
  const devices = new Map(devicesIn(records).map((device) => [device.id, device]));
  return file.devices.map((mention): PatchRow => {
    const device = devices.get(patch.get(mention.id) ?? '');
    const document = device && documentOf(device);
    if (!device) return { mention, device, differs: [], cannot: [], stored: [] };
    const differs = [
      device.data.tag !== mention.tag && `is ${device.data.tag} here`,
      device.data.name !== mention.name && `is called ${device.data.name} here`,
      device.data.role !== mention.role && `is a ${device.data.role} here`,
      device.data.driver !== mention.driver && `has the driver ${device.data.driver} here`,
    ].filter((each) => each !== false);
    if (!document) return { mention, device, differs, cannot: ['Its driver is not installed here.'], stored: [] };
    return {
      mention,
      device,
      differs,
      cannot: missingIn(file, mention.id, document),
      stored: storedIn(file, mention.id, device.id, document, records),
    };
  });
}

function missingIn(file: PageFile, id: string, document: DriverDocument): string[] {
  const missing = new Set<string>();
  for (const data of file.controls) {
    for (const { device, command } of sendsOfControl(data))
      if (device === id && !(command in document.commands)) missing.add(`no command “${command}”`);
    const taken = sendsOfControl(data).flatMap(({ params }) => Object.values(params).flatMap(readingsOfArgument));
    for (const { device, key } of [...readingsOfLabel(data.label, data.values), ...readingsOfLamps(data), ...taken])
      if (device === id && !hasReading(document, key)) missing.add(`no reading “${key}”`);
    if (data.drive?.device === id && !(data.drive.drive in document.drives))
      missing.add(`nothing to steer “${data.drive.drive}”`);
    if (data.list?.device === id && !(data.list.list in document.lists)) missing.add(`no list “${data.list.list}”`);
  }
  for (const { data } of file.macros)
    for (const { device, command } of data.segments.flatMap(({ steps }) => steps.flatMap(sendsOfStep)))
      if (device === id && !(command in document.commands)) missing.add(`no command “${command}”, in ${data.name}`);
  return [...missing];
}

/** The numbers that controls call of each list that is stored in the device. */
function calledOf(controls: Iterable<Data>, device: string, document: DriverDocument): Map<string, Set<number>> {
  const called = new Map<string, Set<number>>();
  for (const data of controls) {
    for (const send of sendsOfControl(data)) {
      if (send.device !== device) continue;
      for (const [name, argument] of Object.entries(send.params)) {
        const family = storedFamily(document, send.command, name);
        const value = resolveArgument(argument, data.values);
        if (family === undefined || typeof value !== 'number') continue;
        called.set(family, (called.get(family) ?? new Set()).add(value));
      }
    }
  }
  return called;
}

function storedFamily(document: DriverDocument | undefined, command: string, param: string): string | undefined {
  const family = document?.commands[command]?.params[param]?.listFrom;
  return family !== undefined && document?.readings[family]?.stored ? family : undefined;
}

function storedIn(
  file: PageFile,
  mention: string,
  device: string,
  document: DriverDocument,
  records: readonly ShowRecord[],
): StoredNumbers[] {
  const own = records.flatMap((record) => (record.kind === 'control' ? [record.data] : []));
  const here = calledOf(own, device, document);
  return [...calledOf(file.controls, mention, document)].map(([family, used]) => ({
    family,
    title: document.readings[family]?.title ?? family,
    used: [...used].sort((a, b) => a - b),
    clash: [...used].filter((number) => here.get(family)?.has(number)).sort((a, b) => a - b),
  }));
}

/** What becomes of a page of the file: a new page, or one in the place of a page that is there. */
export type Placing = ReadonlyMap<string, 'new' | 'leave' | { readonly over: string }>;

/** By device of this rig and family: how far stored numbers are moved. */
type Moves = ReadonlyMap<string, number>;
export const moveKey = (device: string, family: string): string => `${device} ${family}`;

/**
 * Brings pages of a file into the show, in one edit. Devices that are not patched keep their id of the file, so that their
 * controls say that the device is missing. Nothing of any device is changed.
 */
export function importEdit(
  records: readonly ShowRecord[],
  file: PageFile,
  patch: ReadonlyMap<string, string>,
  placing: Placing,
  moves: Moves,
  documentOf: DocumentOf,
  newId: (kind: 'page' | 'zone' | 'shift' | 'ctl' | 'mac' | 'preset' | 'snap') => string,
): Result<{ readonly edit: Edit; readonly pages: readonly string[] }, string> {
  const there = new Map(pagesOf(records).map((page) => [page.id, page]));
  const ids = new Map<string, string>();
  for (const { id } of file.pages) {
    const way = placing.get(id) ?? 'new';
    if (way !== 'leave') ids.set(id, typeof way === 'object' ? way.over : newId('page'));
  }
  if (ids.size === 0) return fail('Choose at least one page of the file to import.');
  if (new Set(ids.values()).size < ids.size) return fail('Two pages of the file would replace the same page.');
  const macroIds = new Map(macrosWanted(file, ids).map((id) => [id, newId('mac')]));
  const snapshots = carriedSnapshots(
    snapshotsWanted(file, ids).map((data) => onDevices(data, (id) => patch.get(id) ?? id)),
    records,
    newId,
  );
  if (!snapshots.ok) return snapshots;
  const mapped = mappedFile(
    { ...file, ...withSnapshotNumbers(file.controls, file.macros, snapshots.value.numbers) },
    (id) => ids.get(id) ?? '',
    (id) => patch.get(id) ?? id,
    (id) => macroIds.get(id) ?? '',
    newId,
  );
  const macros = carriedMacros(mapped.macros, records);
  const devices = new Map(devicesIn(records).map((device) => [device.id, device]));
  const document = (id: string) => {
    const device = devices.get(id);
    return device && documentOf(device);
  };
  const last = Math.max(0, ...[...there.values()].map(({ data }) => data.order));
  const names = new Set([...there.values()].map(({ data }) => data.name));
  const changes: RecordChange[] = [];
  mapped.pages.forEach(({ id, data }, n) => {
    if (id === '') return;
    const old = there.get(id);
    if (old) {
      changes.push({ op: 'update', from: old, to: { ...old, data: { ...data, order: old.data.order } } });
      return;
    }
    const name = freeName(names, data.name);
    names.add(name);
    const record: PageRecord = { kind: 'page', id, version: 1, data: { ...data, name, order: last + n + 1 } };
    changes.push({ op: 'add', record });
  });
  changes.push(...macros.changes, ...snapshots.value.changes);
  for (const page of new Set(ids.values())) {
    const fresh = mapped.controls
      .filter((data) => data.page === page)
      .map((data) => withMacro(withMoves(data, moves, document), macros.idOf));
    // A control that stays what it was keeps its id: panels that hide it, and gear that is bound to it, know it by that.
    const { pairs, left } = sameControls(controlsOf(records, page), fresh);
    for (const record of left) changes.push({ op: 'remove', record });
    for (const { data, was } of pairs) {
      if (was && canonicalJson(was.data) === canonicalJson(data)) continue;
      if (was) changes.push({ op: 'update', from: was, to: { ...was, data } });
      else changes.push({ op: 'add', record: { kind: 'control', id: newId('ctl'), version: 1, data } });
    }
  }
  changes.push(...presetsCarried(file, records, patch, document, newId));
  if (changes.length > mostChanges) return fail(`This is too much for one step: at most ${mostChanges} changes.`);
  const count = ids.size === 1 ? 'a page' : `${ids.size} pages`;
  return ok({ edit: { title: `Import ${count}`, changes }, pages: [...ids.values()] });
}

/**
 * The presets of the file for the cameras that they are now about. None that this show has already is replaced, and what this rig's cameras
 * have never stored is recalled by its position.
 */
function presetsCarried(
  { presets }: PageFile,
  records: readonly ShowRecord[],
  patch: ReadonlyMap<string, string>,
  document: (device: string) => DriverDocument | undefined,
  newId: (kind: 'preset') => string,
): RecordChange[] {
  const taken = new Set(presetsOf(records).map(({ data }) => `${data.device} ${data.number}`));
  return presets.flatMap((data): RecordChange[] => {
    const device = patch.get(data.device);
    const driver = device === undefined ? undefined : document(device);
    if (device === undefined || !driver?.presets || taken.has(`${device} ${data.number}`)) return [];
    taken.add(`${device} ${data.number}`);
    const own = withoutCamera(driver, { ...data, device });
    return [{ op: 'add', record: { kind: 'preset', id: newId('preset'), version: 1, data: own } }];
  });
}

/** The macros of the file that come along with the pages that do. */
function macrosWanted(file: PageFile, pages: ReadonlyMap<string, string>): string[] {
  const all: ShowRecord[] = file.macros.map(({ id, data }) => ({ kind: 'macro', id, version: 1, data }));
  return macrosBegunBy(
    file.controls.filter(({ page }) => pages.has(page)),
    all,
  ).map(({ id }) => id);
}

/** The snapshots of the file that come along with the pages that do. */
function snapshotsWanted(file: PageFile, pages: ReadonlyMap<string, string>): readonly SnapshotData[] {
  const records: ShowRecord[] = file.snapshots.map((data) => ({
    kind: 'snapshot',
    id: String(data.number),
    version: 1,
    data,
  }));
  const controls = file.controls.filter(({ page }) => pages.has(page));
  const macros = new Set(macrosWanted(file, pages));
  return snapshotsCalledBy(
    controls,
    file.macros.filter(({ id }) => macros.has(id)),
    records,
  );
}

/** Moves the numbers of things stored in a device: in commands, in the readings of the same members, and in lamps about them. */
function withMoves(data: Data, moves: Moves, document: (device: string) => DriverDocument | undefined): Data {
  if (moves.size === 0) return data;
  const by = (device: string, family: string | undefined) =>
    family === undefined ? 0 : (moves.get(moveKey(device, family)) ?? 0);
  const values: Record<string, Scalar> = { ...data.values };
  const literal = new Map<string, Map<number, number>>();
  for (const send of sendsOfControl(data)) {
    for (const [name, argument] of Object.entries(send.params)) {
      const offset = by(send.device, storedFamily(document(send.device), send.command, name));
      const before = resolveArgument(argument, data.values);
      if (offset === 0 || typeof before !== 'number') continue;
      const value = valueNameOf(argument);
      if (value !== undefined) values[value] = before + offset;
      else
        literal.set(send.device, (literal.get(send.device) ?? new Map<number, number>()).set(before, before + offset));
    }
  }
  const sends = mapSends(data, (send) => ({
    ...send,
    params: Object.fromEntries(
      Object.entries(send.params).map(([name, argument]) => {
        const offset = by(send.device, storedFamily(document(send.device), send.command, name));
        return [name, typeof argument === 'number' ? argument + offset : argument];
      }),
    ),
  }));
  const shown = mapReadings(sends, (ref) => {
    const { family, index } = splitKey(ref.key);
    const stored = document(ref.device)?.readings[family]?.stored ? family : undefined;
    return index === undefined ? ref : { ...ref, key: memberKey(family, index + by(ref.device, stored)) };
  });
  return {
    ...shown,
    values,
    lamps: shown.lamps.map((rule) => ({
      ...rule,
      when: mapConditionArguments(rule.when, (to, reading) => {
        const moved = typeof to === 'number' ? literal.get(reading.device)?.get(to) : undefined;
        return moved ?? to;
      }),
    })),
  };
}
