import { z } from 'zod';
import { controlsOfZone, deviceMentionSchema, inOrder, isScreenKey, mentionOf, readingsOfCall } from '../page';
import type { Problem, Result } from '../result';
import {
  controlDataSchema,
  controlsOf,
  devicesOf,
  mapConditionReadings,
  idSchema,
  macroDataSchema,
  pageDataSchema,
  picturesOfControl,
  picturesOfRecord,
  presetDataSchema,
  mostSnapshots,
  pictureSchema,
  snapshotDataSchema,
  withDevices,
  type ControlRecord,
  type DeviceRecord,
  type MacroRecord,
  type PageRecord,
  type Picture,
  type ReadingRef,
  type ShowRecord,
  type Zone,
} from '../show';
import { camerasOf, presetsOf } from '../preset';
import { readOwnFile } from './own-file';
import { devicesOfMacro, macrosBegunBy, mapMacro, withMacro, type MacroMapping } from './carried-macros';
import { onDevices, snapshotsCalledBy } from './carried-snapshots';

/**
 * Pages as a file: JSON with the pages, their controls, the macros that those begin, the snapshots that they call, what the devices are that they
 * name, and their pictures. Ids in it are its own (`p1`, `z1`, `d1`, `m1`), given in order, so that the same pages always give the same bytes. No address is in it.
 */
const pageFileFormat = 'sorrelfinch-pages';
/** 1 has no macros, 2 no presets, 3 no snapshots, 4 no pictures of snapshots. */
const pageFileVersion = 5;

const pageFileSchema = z.strictObject({
  format: z.literal(pageFileFormat),
  version: z.union([z.literal(1), z.literal(2), z.literal(3), z.literal(4), z.literal(pageFileVersion)]),
  devices: z.array(deviceMentionSchema).max(2000),
  pages: z
    .array(z.strictObject({ id: idSchema, data: pageDataSchema }))
    .min(1)
    .max(500),
  controls: z.array(controlDataSchema).max(20_000),
  /** Those that the controls begin, and those that these begin themselves. */
  macros: z
    .array(z.strictObject({ id: idSchema, data: macroDataSchema }))
    .max(500)
    .default([]),
  /** Those of the cameras whose presets the pages show. */
  presets: z.array(presetDataSchema).max(5000).default([]),
  /** Those that the controls and macros call. */
  snapshots: z.array(snapshotDataSchema).max(mostSnapshots).default([]),
  pictures: z.array(pictureSchema).max(2000).default([]),
});
export type PageFile = z.infer<typeof pageFileSchema>;

/** The pages as a file, in the order of the show. `pictures` are those that the pages use. */
export function pageFileOf(
  records: readonly ShowRecord[],
  pages: readonly PageRecord[],
  pictures: readonly Picture[] = [],
): PageFile {
  const controls = pages.flatMap((page) => controlsOf(records, page.id));
  return fileOf(records, pages, controls, pictures);
}

/** One zone as a file: a page of its size with nothing but its controls. */
export function zoneFileOf(
  records: readonly ShowRecord[],
  page: PageRecord,
  zone: Zone,
  pictures: readonly Picture[] = [],
): PageFile {
  const only: PageRecord = {
    ...page,
    data: { ...page.data, name: zone.title, columns: zone.cols, rows: zone.rows, zones: [{ ...zone, col: 0, row: 0 }] },
  };
  const own = controlsOfZone(page, zone, controlsOf(records, page.id)).map((control) => ({
    ...control,
    data: { ...control.data, col: control.data.col - zone.col, row: control.data.row - zone.row },
  }));
  return fileOf(records, [only], own, pictures);
}

function fileOf(
  records: readonly ShowRecord[],
  pages: readonly PageRecord[],
  controls: readonly ControlRecord[],
  pictures: readonly Picture[],
): PageFile {
  const pageIds = new Map(pages.map(({ id }, n) => [id, `p${n + 1}`]));
  const sorted = pages.flatMap((page) =>
    inOrder(controls.filter(({ data }) => data.page === page.id).map(({ data }) => data)),
  );
  const macros = macrosBegunBy(sorted, records);
  const snapshots = snapshotsCalledBy(sorted, macros, records);
  const named = new Set([
    ...sorted.flatMap(devicesOf),
    ...sorted.flatMap(({ presets: board }) => (board ? camerasOf(board, presetsOf(records)) : [])),
    ...pages.flatMap(({ data }) => devicesOfPage(data)),
    ...macros.flatMap(({ data }) => devicesOfMacro(data)),
    ...snapshots.flatMap(({ parts }) => parts.map(({ device }) => device)),
  ]);
  const devices = records
    .filter((record): record is DeviceRecord => record.kind === 'device' && named.has(record.id))
    .sort((a, b) => (a.data.tag < b.data.tag ? -1 : 1));
  const deviceIds = new Map(devices.map(({ id }, n) => [id, `d${n + 1}`]));
  // A device that is gone keeps its id, which says nothing but is the same each time.
  const mapDevice = (id: string) => deviceIds.get(id) ?? id;
  const own = new Counter();
  const mapped = pages.map((page, n) => ({
    id: pageIds.get(page.id) ?? '',
    data: { ...mapPage(page.data, mapDevice, own), order: n + 1 },
  }));
  const presets = sorted.some((data) => data.presets)
    ? presetsOf(records).filter(({ data }) => deviceIds.has(data.device))
    : [];
  const used = new Set([
    ...sorted.flatMap(picturesOfControl),
    ...presets.flatMap(picturesOfRecord),
    ...snapshots.flatMap(({ picture }) => picture ?? []),
  ]);
  const macroIds = new Map(macros.map(({ id }, n) => [id, `m${n + 1}`]));
  const mapping: MacroMapping = {
    macro: (id) => macroIds.get(id) ?? id,
    page: (id) => pageIds.get(id) ?? id,
    device: mapDevice,
    zone: (id) => own.of('zone', id),
    shift: (id) => own.of('shift', id),
  };
  // Parsed once more, so that the fields have the order of the schema, however the records were made.
  return pageFileSchema.parse({
    format: pageFileFormat,
    version: pageFileVersion,
    devices: devices.map((device) => ({ ...mentionOf(device), id: mapDevice(device.id) })),
    pages: mapped,
    controls: sorted.map((data) => withMacro(mapControl(data, mapping.page, mapDevice, own), mapping.macro)),
    macros: macros.map(({ id, data }) => ({ id: mapping.macro(id), data: mapMacro(data, mapping) })),
    // How one is recalled, and what it was before, is about the camera that it comes from.
    presets: presets.map(({ data: { byPlace: _, before: __, ...data } }) => ({
      ...data,
      device: mapDevice(data.device),
    })),
    snapshots: snapshots.map((data, n) => ({ ...onDevices(data, mapDevice), order: n + 1 })),
    pictures: pictures.filter(({ hash }) => used.has(hash)).sort((a, b) => (a.hash < b.hash ? -1 : 1)),
  });
}

/** Gives ids of one sort new ones, each the same every time. */
class Counter {
  private readonly given = new Map<string, string>();
  private readonly counts = new Map<string, number>();

  constructor(private readonly make?: (sort: 'zone' | 'shift' | 'ctl') => string) {}

  of(sort: 'zone' | 'shift' | 'ctl', id: string): string {
    const key = `${sort} ${id}`;
    const known = this.given.get(key);
    if (known) return known;
    const count = (this.counts.get(sort) ?? 0) + 1;
    this.counts.set(sort, count);
    const next = this.make?.(sort) ?? `${sort === 'ctl' ? 'r' : sort[0]}${count}`;
    this.given.set(key, next);
    return next;
  }
}

const devicesOfPage = (data: PageRecord['data']): string[] => [
  ...data.zones.flatMap(({ pick }) => [...(pick?.devices ?? []), ...(pick?.follow ?? []).map(({ device }) => device)]),
  ...readingsOfCall(data).map(({ device }) => device),
];

function mapPage(data: PageRecord['data'], device: (id: string) => string, ids: Counter): PageRecord['data'] {
  const withDevice = (ref: ReadingRef): ReadingRef => ({ ...ref, device: device(ref.device) });
  return {
    ...data,
    zones: data.zones.map(({ pick, ...zone }) => ({
      ...zone,
      id: ids.of('zone', zone.id),
      ...(pick
        ? {
            pick: {
              ...pick,
              devices: pick.devices.map(device),
              ...(pick.follow ? { follow: pick.follow.map(withDevice) } : {}),
            },
          }
        : {}),
    })),
    ...(data.shifts ? { shifts: data.shifts.map(({ id, name }) => ({ id: ids.of('shift', id), name })) } : {}),
    ...(data.calledBy && 'when' in data.calledBy
      ? { calledBy: { when: mapConditionReadings(data.calledBy.when, withDevice) } }
      : {}),
  };
}

function mapControl(
  data: ControlRecord['data'],
  pageId: (id: string) => string,
  device: (id: string) => string,
  ids: Counter,
): ControlRecord['data'] {
  const { sets, shifts, series, ...rest } = withDevices(data, device);
  const chosen =
    sets &&
    (isScreenKey(sets)
      ? 'page' in sets
        ? { page: pageId(sets.page) }
        : sets
      : 'zone' in sets
        ? { ...sets, zone: ids.of('zone', sets.zone) }
        : { ...sets, shift: ids.of('shift', sets.shift) });
  return {
    ...rest,
    page: pageId(rest.page),
    ...(series ? { series: { ...series, id: ids.of('ctl', series.id) } } : {}),
    ...(shifts
      ? { shifts: Object.fromEntries(Object.entries(shifts).map(([level, own]) => [ids.of('shift', level), own])) }
      : {}),
    ...(chosen ? { sets: chosen } : {}),
  };
}

/** The text of a page file: two spaces an indent, so that it can be read and compared. */
export const pageFileText = (file: PageFile): string => `${JSON.stringify(file, null, 2)}\n`;

/** Reads a page file. Everything that is wrong with it is said, each with its place. */
export function readPageFile(text: string): Result<PageFile, readonly Problem[]> {
  return readOwnFile(text, pageFileSchema, { format: pageFileFormat, version: pageFileVersion, what: 'pages' });
}

/** The file's pages and controls with ids of this show: pages as given, devices as mapped, everything else new. */
export function mappedFile(
  file: Pick<PageFile, 'pages'> & {
    readonly controls: readonly ControlRecord['data'][];
    readonly macros: readonly { readonly id: string; readonly data: MacroRecord['data'] }[];
  },
  page: (id: string) => string,
  device: (id: string) => string,
  macro: (id: string) => string,
  newId: (sort: 'zone' | 'shift' | 'ctl') => string,
): {
  readonly pages: readonly { readonly id: string; readonly data: PageRecord['data'] }[];
  readonly controls: readonly ControlRecord['data'][];
  readonly macros: readonly { readonly id: string; readonly data: MacroRecord['data'] }[];
} {
  const ids = new Counter(newId);
  const mapping: MacroMapping = {
    macro,
    // A page that does not come along stays named as it was: the check says that it is not there.
    page: (id) => page(id) || id,
    device,
    zone: (id) => ids.of('zone', id),
    shift: (id) => ids.of('shift', id),
  };
  return {
    pages: file.pages.map(({ id, data }) => ({ id: page(id), data: mapPage(data, device, ids) })),
    controls: file.controls.map((data) => withMacro(mapControl(data, mapping.page, device, ids), macro)),
    macros: file.macros.map(({ id, data }) => ({ id: macro(id), data: mapMacro(data, mapping) })),
  };
}
