import type { DriverDocument } from '../driver';
import {
  ownDocumentOf,
  sourcesOf,
  withEngineReadings,
  type ControlRecord,
  type DeviceRecord,
  type PageRecord,
  type ShowRecord,
} from '../show';
import { conflictsOf } from './conflicts';
import { problemsOfControl } from './control-problems';
import { problemsOfPage } from './page-problems';
import { problemsOfWatch } from './watch-problems';

/** Something in a show that will not work, and where. */
interface ShowProblem {
  readonly record: string;
  readonly message: string;
}

/** Everything in a show that will not work: missing devices, commands and readings, bad parameters, bad places. */
export function problemsOf(
  records: Iterable<ShowRecord>,
  driverOf: (device: DeviceRecord) => { readonly document: DriverDocument } | undefined,
): ShowProblem[] {
  const devices = new Map<string, DeviceRecord>();
  const pages = new Map<string, PageRecord>();
  const macros = new Set<string>();
  const snapshots = new Set<number>();
  const controls: ControlRecord[] = [];
  const all = [...records];
  for (const record of all) {
    if (record.kind === 'device') devices.set(record.id, record);
    else if (record.kind === 'page') pages.set(record.id, record);
    else if (record.kind === 'control') controls.push(record);
    else if (record.kind === 'macro') macros.add(record.id);
    else if (record.kind === 'snapshot') snapshots.add(record.data.number);
  }
  const problems: ShowProblem[] = [];
  const tags = new Map<string, string>();
  for (const device of devices.values()) {
    const tag = device.data.tag.toUpperCase();
    if (tags.has(tag)) problems.push({ record: device.id, message: `The tag ${device.data.tag} is used twice.` });
    tags.set(tag, device.id);
    if (!driverOf(device)) {
      const message = `The driver “${device.data.driver}” is not installed here, or does not go with its own commands.`;
      problems.push({ record: device.id, message });
    }
    problems.push(...problemsOfAddress(device, devices));
  }
  for (const { devices: ids, message } of conflictsOf(devices.values(), driverOf)) {
    problems.push(...ids.slice(0, 1).map((record) => ({ record, message })));
  }
  const tied = sourcesOf(all);
  const sources = {
    device: (id: string) => devices.get(id),
    page: (id: string) => pages.get(id),
    hasMacro: (id: string) => macros.has(id),
    hasSnapshot: (number: number) => snapshots.has(number),
    document: (device: DeviceRecord) => {
      const document = driverOf(device)?.document;
      return document && withEngineReadings(document, tied.has(device.id));
    },
    own: ownDocumentOf(all),
  };
  for (const page of pages.values())
    for (const { message } of problemsOfPage(page, sources)) problems.push({ record: page.id, message });
  for (const control of controls)
    for (const { message } of problemsOfControl(control, sources)) problems.push({ record: control.id, message });
  for (const record of all)
    if (record.kind === 'watch')
      for (const { message } of problemsOfWatch(record, { ...sources, records: all }))
        problems.push({ record: record.id, message });
  return problems;
}

function problemsOfAddress(device: DeviceRecord, devices: ReadonlyMap<string, DeviceRecord>): ShowProblem[] {
  const { host, through, tag } = device.data;
  if (!through) return host === '' ? [{ record: device.id, message: `${tag} has no address yet.` }] : [];
  const gateway = devices.get(through.device);
  if (!gateway) return [{ record: device.id, message: `${tag} is reached through a gateway that is not in the rig.` }];
  if (gateway.data.through)
    return [{ record: device.id, message: `${tag} is reached through a gateway behind a gateway.` }];
  return [];
}
