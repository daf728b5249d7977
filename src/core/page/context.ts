import { contractBridge, type ContractBridge, type DriverDocument } from '../driver';
import type { Reading } from '../reading';
import {
  resolveArgument,
  sendsOfControl,
  withDevices,
  type ControlRecord,
  type PageRecord,
  type ReadingRef,
  type SendSpec,
  type ShowRecord,
  type Zone,
} from '../show';
import { zoneOf } from './area';
import { bridged } from './bridged';
import type { PageContext } from './context-key';

type Data = ControlRecord['data'];
type Tie = Extract<ShowRecord, { kind: 'tie' }>;

/** The control's data on a shift level. */
export function atLevel(data: Data, shift: string | undefined): Data {
  const other = shift === undefined ? undefined : data.shifts?.[shift];
  return other ? { ...data, ...other } : data;
}

/** What a shift level can have of its own; everything else of a control is the same on all levels. */
const levelFields = ['label', 'values', 'responses', 'lamps', 'tint', 'icon', 'picture'] as const;

/** True when a change that is made on a level changes something that is the same on all levels. */
export function changesAllLevels(data: Data, shift: string | undefined, change: (at: Data) => Data): boolean {
  if (shift === undefined) return false;
  const shared = (of: Data) => {
    const { shifts: _, ...rest } = of;
    for (const field of levelFields) delete (rest as Partial<Data>)[field];
    return JSON.stringify(rest);
  };
  const before = atLevel(data, shift);
  return shared(before) !== shared(change(before));
}

/**
 * The control's data after a change that was made on a shift level: what a level can have is kept for that level, where it is
 * another than usually; everything else is changed for all levels.
 */
export function changedAtLevel(data: Data, shift: string | undefined, change: (at: Data) => Data): Data {
  if (shift === undefined) return change(data);
  const before = atLevel(data, shift);
  const after = change(before);
  if (after === before) return data;
  const { shifts: _, ...rest } = after;
  const base = { ...rest, ...pickFields(data) } as Data;
  for (const field of levelFields) if (!(field in data)) delete base[field];
  const own = Object.fromEntries(
    levelFields.flatMap((field) =>
      after[field] !== undefined && JSON.stringify(after[field]) !== JSON.stringify(data[field])
        ? [[field, after[field]]]
        : [],
    ),
  );
  const { [shift]: __, ...levels } = data.shifts ?? {};
  const next = Object.keys(own).length > 0 ? { ...levels, [shift]: own } : levels;
  return Object.keys(next).length > 0 ? { ...base, shifts: next } : base;
}

const pickFields = (data: Data): Partial<Data> =>
  Object.fromEntries(levelFields.flatMap((field) => (field in data ? [[field, data[field]]] : [])));

/**
 * Which device a zone drives: the one that was picked; else the one that the readings name which it follows; else the first, or the
 * one that they named last where the zone keeps it.
 *
 * @param last what the readings named last
 */
export function pickedIn(
  zone: Zone,
  { picks }: PageContext,
  ties: readonly Tie[],
  readingNow: (ref: ReadingRef) => Reading | undefined,
  tagOf: (device: string) => string | undefined,
  last?: string,
): string | undefined {
  const { pick } = zone;
  if (!pick) return undefined;
  const chosen = picks[zone.id];
  if (chosen !== undefined && pick.devices.includes(chosen)) return chosen;
  const named = namedByReadings(pick, ties, readingNow, tagOf);
  if (named !== undefined) return named;
  return pick.whenNone === 'last' && last !== undefined && pick.devices.includes(last) ? last : pick.devices[0];
}

/**
 * The device among those that a zone picks from which the readings name that it follows: by the input, through the ties, or by the tag.
 * `undefined` while none of them does, or what they say is not fresh.
 */
export function namedByReadings(
  pick: NonNullable<Zone['pick']>,
  ties: readonly Tie[],
  readingNow: (ref: ReadingRef) => Reading | undefined,
  tagOf: (device: string) => string | undefined,
): string | undefined {
  for (const ref of pick.follow ?? []) {
    const reading = readingNow(ref);
    if (reading?.freshness !== 'fresh') continue;
    const source = ties.find(
      ({ data }) => data.switcher === ref.device && data.input === reading.value && pick.devices.includes(data.source),
    )?.data.source;
    const named = source ?? pick.devices.find((device) => tagOf(device) === reading.value);
    if (named !== undefined) return named;
  }
  return undefined;
}

/** What is asked of devices where a control is about another one than it was made for. */
export interface KnownDevices {
  readonly documentOf: (device: string) => DriverDocument | undefined;
  readonly roleOf: (device: string) => string | undefined;
}

/**
 * A control as it is in a context: on its shift level, and about the device that its zone drives now. Where this has another driver, the
 * control uses the names and ranges of that one, as the contract of the role says.
 */
export function inContext(
  control: ControlRecord,
  page: PageRecord,
  shift: string | undefined,
  picked: (zone: Zone) => string | undefined,
  devices: KnownDevices,
): ControlRecord {
  const level = atLevel(control.data, shift);
  const zone = zoneOf(page.data.zones, control.data);
  const made = zone?.pick?.devices[0];
  const device = zone && picked(zone);
  const data =
    made === undefined || device === undefined || device === made ? level : drivingOther(level, made, device, devices);
  return data === control.data ? control : { ...control, data };
}

/** How what one device is told and says is called by another; `undefined` where their drivers are the same or unknown. */
function bridgeTo(made: string, device: string, { documentOf, roleOf }: KnownDevices): ContractBridge | undefined {
  const [from, to] = [documentOf(made), documentOf(device)];
  return from && to && contractBridge(roleOf(made) ?? from.role, from, to);
}

/** A control's data about another device than it was made for. */
export function drivingOther(data: Data, made: string, device: string, devices: KnownDevices): Data {
  const to = devices.documentOf(device);
  const bridge = bridgeTo(made, device, devices);
  const driven = withDevices(bridge ? bridged(data, made, bridge) : data, (each) => (each === made ? device : each));
  const lacks =
    to !== undefined &&
    (sendsOfControl(driven).some((send) => send.device === device && !takes(to, send, driven.values)) ||
      (driven.drive?.device === device && !to.drives[driven.drive.drive]));
  return {
    ...driven,
    ...(lacks ? { lamps: [...driven.lamps, always] } : {}),
    // What it picks is said once and for all; what it drives goes with the pick.
    ...(data.sets ? { sets: data.sets } : {}),
  };
}

/** A control's data made for another device instead, on all its levels: under the names and in the ranges of that one's driver. */
export function madeFor(data: Data, made: string, device: string, devices: KnownDevices): Data {
  const to = (id: string) => (id === made ? device : id);
  const bridge = bridgeTo(made, device, devices);
  if (!bridge) return withDevices(data, to);
  const shifts = Object.entries(data.shifts ?? {}).map(([level, own]) => {
    const whole = bridged(atLevel(data, level), made, bridge);
    const fields = levelFields.flatMap((field) => (field in own ? [[field, whole[field]] as const] : []));
    return [level, Object.fromEntries(fields)] as const;
  });
  return withDevices(
    { ...bridged(data, made, bridge), ...(data.shifts ? { shifts: Object.fromEntries(shifts) } : {}) },
    to,
  );
}

/** False for a command that a document does not have, or one with a choice that it does not have. */
function takes({ commands }: DriverDocument, { command, params }: SendSpec, values: Data['values']): boolean {
  const known = commands[command];
  return (
    known !== undefined &&
    Object.entries(params).every(([name, argument]) => {
      const shape = known.params[name]?.value;
      const value = resolveArgument(argument, values);
      return shape?.type !== 'choice' || value === undefined || shape.choices.some((each) => each.value === value);
    })
  );
}

/** Bars a control: what it was made to send does not exist at the device that is picked. */
const always: Data['lamps'][number] = { when: { cel: 'true', readings: [] }, bars: true };
