import { formatLabel } from '../face';
import { madeFor, type KnownDevices } from './context';
import type { DriverDocument } from '../driver';
import { liveText } from '../lamp';
import {
  devicesOf,
  pagesOf,
  isLive,
  resolveArgument,
  sendsOfControl,
  type ControlRecord,
  type DeviceRecord,
  type Edit,
  type PageRecord,
  type RecordChange,
  type ShowRecord,
} from '../show';

/** A control that was found, and by what. */
interface Found {
  readonly control: ControlRecord;
  readonly page: PageRecord;
  /** The label as it was typed. */
  readonly label: string;
  /** Where the words stand: `label`, `SW1 Switch program`, `source 3`. */
  readonly by: readonly string[];
}

type DocumentOf = (device: DeviceRecord) => DriverDocument | undefined;

/**
 * The controls in which every word of what was typed occurs: in the label, in a command, in a parameter with its value, or in
 * the device that it drives or shows. In the order of the pages, and as they lie on them.
 */
export function findControls(records: readonly ShowRecord[], typed: string, documentOf: DocumentOf): Found[] {
  const words = typed.toLowerCase().split(/\s+/).filter(Boolean);
  const devices = new Map(records.flatMap((record) => (record.kind === 'device' ? [[record.id, record]] : [])));
  const pages = new Map(pagesOf(records).map((page, order) => [page.id, { page, order }]));
  const found = records.flatMap((control) => {
    if (control.kind !== 'control') return [];
    const on = pages.get(control.data.page);
    if (!on) return [];
    const facts = factsOf(control, devices, documentOf);
    const by = facts.filter((fact) => words.some((word) => fact.toLowerCase().includes(word)));
    const all = facts.join('\n').toLowerCase();
    if (!words.every((word) => all.includes(word))) return [];
    const label = formatLabel(control.data.label, (id) => devices.get(id)?.data.tag);
    return [{ control, page: on.page, order: on.order, label, by: by.filter((fact) => fact !== label) }];
  });
  return found
    .sort(
      (a, b) => a.order - b.order || a.control.data.row - b.control.data.row || a.control.data.col - b.control.data.col,
    )
    .map(({ order: _, ...each }) => each);
}

function factsOf(
  { data }: ControlRecord,
  devices: ReadonlyMap<string, DeviceRecord>,
  documentOf: DocumentOf,
): string[] {
  const label = formatLabel(data.label, (id) => devices.get(id)?.data.tag);
  const sends = sendsOfControl(data).flatMap((send) => {
    const device = devices.get(send.device);
    const command = device && documentOf(device)?.commands[send.command];
    const params = Object.entries(send.params).map(([name, argument]) => {
      const title = command?.params[name]?.title ?? name;
      const text = isLive(argument)
        ? liveText(argument, (id) => devices.get(id)?.data.tag)
        : String(resolveArgument(argument, data.values) ?? '');
      return `${title} ${text}`;
    });
    return [`${device?.data.tag ?? 'missing device'} ${command?.title ?? send.command}`, ...params];
  });
  const named = devicesOf(data).flatMap((id) => {
    const device = devices.get(id);
    return device ? [`${device.data.tag} ${device.data.name}`] : [];
  });
  return [...new Set([label, ...sends, ...named])];
}

/**
 * Makes everything in some controls that is about one device about another. `lost` says, control by control, what the other
 * device does not have: those controls are changed too, and say so until they are mended.
 */
export function retargetEdit(
  controls: readonly ControlRecord[],
  from: string,
  to: DeviceRecord,
  devices: KnownDevices,
  title: string,
): { readonly edit: Edit | undefined; readonly changed: number; readonly lost: readonly string[] } {
  const lost = new Set<string>();
  const document = devices.documentOf(to.id);
  const changes = controls.flatMap((control): RecordChange[] => {
    if (!devicesOf(control.data).includes(from)) return [];
    const data = madeFor(control.data, from, to.id, devices);
    for (const send of sendsOfControl(data))
      if (send.device === to.id && document && !(send.command in document.commands)) lost.add(send.command);
    return [{ op: 'update', from: control, to: { ...control, data } }];
  });
  return { edit: changes.length > 0 ? { title, changes } : undefined, changed: changes.length, lost: [...lost] };
}
