import { movedTo, type Subnet } from '../net';
import { withoutAddress } from './device-form';
import type { Edit, RecordChange } from './edit';
import type { DeviceRecord, ShowRecord, TieRecord } from './records';
import { usersOfDevice } from './references';
import type { TableRow } from './rig-table';
import type { Steering } from './steering';

/** The edits of the rig, as values. */

/** A copy of a device under the next free tag, without an address: two devices never have the same. */
export function duplicateDeviceEdit(device: DeviceRecord, records: readonly ShowRecord[], id: string): Edit {
  const tags = records.flatMap((record) => (record.kind === 'device' ? [record.data.tag] : []));
  const tag = nextTag(device.data.tag, tags);
  const data = { ...device.data, tag, name: `${device.data.name} copy`.slice(0, 80), host: withoutAddress(device) };
  return {
    title: `Duplicate ${device.data.tag}`,
    changes: [{ op: 'add', record: { ...device, id, version: 1, data } }],
  };
}

/** The next tag of a row: `C1` is followed by `C2`, or the next that is free. */
export function nextTag(tag: string, taken: Iterable<string>): string {
  const [, stem = tag, digits] = /^(.*?)(\d*)$/.exec(tag) ?? [];
  const known = new Set([...taken].map((each) => each.toUpperCase()));
  for (let n = Number(digits ?? 0) + 1; ; n += 1) {
    const next = `${stem.slice(0, 16 - String(n).length)}${n}`;
    if (!known.has(next.toUpperCase())) return next;
  }
}

/** Removes devices and the ties that hang on them; controls and devices behind them stay, and say what is missing. */
export function removeDevicesEdit(devices: readonly DeviceRecord[], records: readonly ShowRecord[]): Edit {
  const ties = new Map(devices.flatMap(({ id }) => usersOfDevice(records, id).ties.map((tie) => [tie.id, tie])));
  const gone = new Set(devices.map(({ id }) => id));
  const presets = records.filter(({ kind, data }) => kind === 'preset' && gone.has(data.device));
  const changes: RecordChange[] = [
    ...[...ties.values(), ...presets].map((record): RecordChange => ({ op: 'remove', record })),
    ...devices.map((record): RecordChange => ({ op: 'remove', record })),
  ];
  return { title: `Remove ${tagsText(devices)}`, changes };
}

/** Moves the addresses of several devices to another subnet, keeping the host part. Host names and devices behind a gateway stay. */
export function shiftAddressesEdit(devices: readonly DeviceRecord[], subnet: Subnet): Edit {
  return changeDevicesEdit(devices, 'Move to another subnet:', (data) => {
    const host = movedTo(subnet, data.host);
    return host === undefined ? data : { ...data, host };
  });
}

/** One change to several devices, in one step that one undo takes back. */
export function changeDevicesEdit(
  devices: readonly DeviceRecord[],
  title: string,
  change: (data: DeviceRecord['data']) => DeviceRecord['data'],
): Edit {
  const changes = devices.flatMap((from): RecordChange[] => {
    const data = change(from.data);
    return data === from.data ? [] : [{ op: 'update', from, to: { ...from, data } }];
  });
  return { title: `${title} ${tagsText(devices)}`, changes };
}

/** Enters the good rows of a pasted table. */
export function enterTableEdit(
  rows: readonly TableRow[],
  newId: () => string,
): { readonly edit: Edit; readonly ids: readonly string[] } {
  const ids: string[] = [];
  const changes = rows.flatMap(({ device, replaces }): RecordChange[] => {
    if (!device) return [];
    const id = replaces?.id ?? newId();
    ids.push(id);
    if (replaces) return [{ op: 'update', from: replaces, to: { ...replaces, data: device } }];
    return [{ op: 'add', record: { kind: 'device', id, version: 1, data: device } }];
  });
  return { edit: { title: `Enter a table of ${changes.length}`, changes }, ids };
}

/**
 * Says that a device feeds an input, in place of what fed it before; `undefined` says that nothing of the rig does.
 * @param output of a source that is a switcher: the reading of the output that feeds it, its program when left out
 */
export function tieEdit(
  records: readonly ShowRecord[],
  switcher: DeviceRecord,
  input: number,
  source: DeviceRecord | undefined,
  id: string,
  output?: string,
): Edit {
  const before = records.find(
    (record): record is TieRecord =>
      record.kind === 'tie' && record.data.switcher === switcher.id && record.data.input === input,
  );
  const title = `Input ${input} of ${switcher.data.tag}: ${source?.data.tag ?? 'nothing'}`;
  if (!source) return { title, changes: before ? [{ op: 'remove', record: before }] : [] };
  if (before?.data.source === source.id && before.data.output === output) return { title, changes: [] };
  const data = { source: source.id, switcher: switcher.id, input, ...(output === undefined ? {} : { output }) };
  if (before) return { title, changes: [{ op: 'update', from: before, to: { ...before, data } }] };
  return { title, changes: [{ op: 'add', record: { kind: 'tie', id, version: 1, data } }] };
}

/** Says whether what a switcher's program shows is on air by itself, where no input is fed by it. */
export function offAirEdit(from: DeviceRecord, isOffAir: boolean): Edit {
  const { offAir: _, ...rest } = from.data;
  const data = isOffAir ? { ...rest, offAir: true as const } : rest;
  const title = `The program of ${from.data.tag} is ${isOffAir ? 'not ' : ''}on air`;
  return { title, changes: [{ op: 'update', from, to: { ...from, data } }] };
}

const tagsText = (devices: readonly DeviceRecord[]): string =>
  devices.length > 4 ? `${devices.length} devices` : devices.map(({ data }) => data.tag).join(', ');

type Display = NonNullable<DeviceRecord['data']['displays']>[number];

/** Says what one display of a device shows; `undefined` that it shows nothing of the rig. */
export function displayEdit(device: DeviceRecord, number: number, shows: Omit<Display, 'number'> | undefined): Edit {
  const others = (device.data.displays ?? []).filter((each) => each.number !== number);
  const displays = shows ? [...others, { number, ...shows }].sort((a, b) => a.number - b.number) : others;
  return setDisplays(device, displays, `Display ${number} of ${device.data.tag}`);
}

/** Deals the inputs of a switcher out over the displays, in their order, from a first display on. */
export function dealDisplaysEdit(device: DeviceRecord, switcher: string, inputs: readonly number[], first = 1): Edit {
  const displays = inputs.map((input, n) => ({ number: first + n, switcher, input }));
  return setDisplays(device, displays, `${displays.length} displays of ${device.data.tag}`);
}

function setDisplays(from: DeviceRecord, displays: readonly Display[], title: string): Edit {
  const { displays: _, ...rest } = from.data;
  const data = displays.length > 0 ? { ...rest, displays: [...displays] } : rest;
  return { title, changes: [{ op: 'update', from, to: { ...from, data } }] };
}

/** How what a device drives goes under a hand; what is `undefined` is as usual again. */
export function steeringEdit(device: DeviceRecord, drive: string, change: Partial<Steering>): Edit {
  const { [drive]: before, ...others } = device.data.steering ?? {};
  const set = Object.entries({ ...before, ...change }).filter(([, value]) => value !== undefined);
  const steering = { ...others, ...(set.length > 0 ? { [drive]: Object.fromEntries(set) as Steering } : {}) };
  const { steering: _, ...rest } = device.data;
  const data = Object.keys(steering).length > 0 ? { ...rest, steering } : rest;
  return {
    title: `Steering of ${device.data.tag}`,
    changes: [{ op: 'update', from: device, to: { ...device, data } }],
  };
}

/** What a device may ask for itself over its connection. */
export function requestRightsEdit(device: DeviceRecord, rights: DeviceRecord['data']['requests']): Edit {
  const { requests: _, ...rest } = device.data;
  const data = rights === undefined ? rest : { ...rest, requests: rights };
  return {
    title: `Requests of ${device.data.tag}`,
    changes: [{ op: 'update', from: device, to: { ...device, data } }],
  };
}
