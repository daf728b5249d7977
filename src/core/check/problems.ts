import { checkValue, splitKey, type CompiledDriver } from '../driver';
import { conflictsOf } from './conflicts';
import { readingsOfLabel } from '../face';
import { readingsOfLamps } from '../lamp';
import { resolveArgument, type ControlRecord, type DeviceRecord, type PageRecord, type ShowRecord } from '../show';

/** Something in a show that will not work, and where. */
export interface ShowProblem {
  readonly record: string;
  readonly message: string;
}

/** Everything in a show that will not work: missing devices, commands and readings, bad parameters, bad places. */
export function problemsOf(
  records: Iterable<ShowRecord>,
  driverOf: (device: DeviceRecord) => CompiledDriver | undefined,
): ShowProblem[] {
  const devices = new Map<string, DeviceRecord>();
  const pages = new Map<string, PageRecord>();
  const controls: ControlRecord[] = [];
  for (const record of records) {
    if (record.kind === 'device') devices.set(record.id, record);
    else if (record.kind === 'page') pages.set(record.id, record);
    else if (record.kind === 'control') controls.push(record);
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
  for (const control of controls) problems.push(...problemsOfControl(control, devices, pages, driverOf));
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

function problemsOfControl(
  control: ControlRecord,
  devices: ReadonlyMap<string, DeviceRecord>,
  pages: ReadonlyMap<string, PageRecord>,
  driverOf: (device: DeviceRecord) => CompiledDriver | undefined,
): ShowProblem[] {
  const found: ShowProblem[] = [];
  const say = (message: string) => void found.push({ record: control.id, message });
  const { data } = control;
  const page = pages.get(data.page);
  if (!page) say('Its page does not exist.');
  else if (data.col + data.cols > page.data.columns || data.row + data.rows > page.data.rows)
    say('It lies outside its page.');

  const driver = (deviceId: string, what: string): CompiledDriver | undefined => {
    const device = devices.get(deviceId);
    if (!device) say(`${what} names a device that is not in the rig.`);
    return device && driverOf(device);
  };
  for (const send of [...data.responses.tap, ...(data.responses.held ?? [])]) {
    const compiled = driver(send.device, 'Its response');
    if (!compiled) continue;
    const entry = compiled.commands.get(send.command);
    if (!entry) {
      say(`${compiled.document.title} has no command “${send.command}”.`);
      continue;
    }
    for (const [name, param] of Object.entries(entry.command.params)) {
      const argument = send.params[name];
      const value = argument === undefined ? param.default : resolveArgument(argument, data.values);
      if (value === undefined && (param.optional || param.fromReading)) continue;
      const checked = checkValue(param.value, value);
      if (!checked.ok) say(`${entry.command.title}: ${param.title} ${checked.error}.`);
    }
  }
  for (const ref of [...readingsOfLabel(data.label, data.values), ...readingsOfLamps(data.lamps, data.values)]) {
    const compiled = driver(ref.device, 'Its label or lamp');
    if (!compiled) continue;
    const { family, index } = splitKey(ref.key);
    const reading = compiled.document.readings[family];
    const known =
      reading &&
      (!reading.index || (index !== undefined && index >= reading.index.from && index <= Number(reading.index.to)));
    if (!known) say(`${compiled.document.title} has no reading “${ref.key}”.`);
  }
  return found;
}
