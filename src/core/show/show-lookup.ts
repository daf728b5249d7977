import type { DriverDocument } from '../driver';
import { ownDevice, ownDocumentOf, ownId } from './own-device';
import type { DeviceRecord, MacroRecord, PageRecord, PresetRecord, ShowRecord, SnapshotRecord } from './records';
import { sourcesOf, withEngineReadings } from './engine-readings';

/** Finds what records name by id: devices with their documents, pages, macros. What the program itself says is a device, too. */
export interface ShowLookup {
  /** The devices of the rig. */
  readonly devices: readonly DeviceRecord[];
  /** Those whose readings can be shown: the rig, and what the program itself says. */
  readonly readable: readonly DeviceRecord[];
  readonly deviceOf: (id: string) => DeviceRecord | undefined;
  readonly documentOf: (id: string) => DriverDocument | undefined;
  readonly roleOf: (id: string) => string | undefined;
  readonly tagOf: (id: string) => string | undefined;
  /** The id of the device with this tag. */
  readonly idOf: (tag: string) => string | undefined;
  readonly pageOf: (id: string) => PageRecord | undefined;
  readonly macroOf: (id: string) => MacroRecord | undefined;
  /** By its number. */
  readonly snapshotOf: (number: number) => SnapshotRecord | undefined;
  /** The presets of all cameras. */
  readonly presets: () => readonly PresetRecord[];
}

/** @param documentOfDevice the document of a device of the rig as it is used there; `undefined` when its driver is not installed */
export function showLookup(
  records: readonly ShowRecord[],
  documentOfDevice: (device: DeviceRecord) => DriverDocument | undefined,
): ShowLookup {
  const devices = records.filter((record): record is DeviceRecord => record.kind === 'device');
  const readable = [...devices, ownDevice];
  const byId = new Map(readable.map((device) => [device.id, device]));
  const byTag = new Map(readable.map(({ id, data }) => [data.tag, id]));
  const snapshots = records.filter((record): record is SnapshotRecord => record.kind === 'snapshot');
  const presets = records.filter((record): record is PresetRecord => record.kind === 'preset');
  const own = ownDocumentOf(records);
  const sources = sourcesOf(records);
  const macros = new Map(records.flatMap((record) => (record.kind === 'macro' ? [[record.id, record] as const] : [])));
  const pages = new Map(records.flatMap((record) => (record.kind === 'page' ? [[record.id, record] as const] : [])));
  return {
    devices,
    readable,
    deviceOf: (id) => byId.get(id),
    documentOf: (id) => {
      if (id === ownId) return own;
      const device = byId.get(id);
      const document = device && documentOfDevice(device);
      return document && withEngineReadings(document, sources.has(id));
    },
    roleOf: (id) => byId.get(id)?.data.role,
    tagOf: (id) => byId.get(id)?.data.tag,
    idOf: (tag) => byTag.get(tag),
    pageOf: (id) => pages.get(id),
    macroOf: (id) => macros.get(id),
    snapshotOf: (number) => snapshots.find(({ data }) => data.number === number),
    presets: () => presets,
  };
}
