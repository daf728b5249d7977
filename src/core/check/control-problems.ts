import { checkValue, splitKey, takesReading, type DriverDocument } from '../driver';
import { addressProblems, readPictureAddress } from '../picture';
import { hasReading, nearest, readingsOfLabel } from '../face';
import { readingsOfLamps, readingsOfLive } from '../lamp';
import { clashesOf } from '../press';
import { drivingOther, gesturesOf, sendsOf, zoneOf, type ResponseGesture } from '../page';
import { problemOfLive } from './live-problems';
import { problemsOfRule } from './rule-problems';
import {
  devicesOf,
  isTallyKey,
  ownDevice,
  ownDocument,
  ownId,
  isLive,
  resolveArgument,
  resolveReading,
  sendsOfControl,
  type ControlRecord,
  type DeviceRecord,
  type PageRecord,
  type SendSpec,
} from '../show';

/** What of a control will not work, with what the repair needs to know. */
export type ControlProblem = { readonly message: string } & (
  | { readonly what: 'page-gone' }
  | { readonly what: 'outside' }
  /** It is of a kind that needs something which is not there. */
  | { readonly what: 'empty' }
  /** What it chooses on its page is not there to be chosen. */
  | { readonly what: 'choice-gone' }
  | { readonly what: 'macro-gone' }
  /** Two of its responses do not go together. */
  | { readonly what: 'clash' }
  | { readonly what: 'device-gone'; readonly device: string }
  | {
      readonly what: 'command-gone';
      readonly gesture: Gesture;
      readonly index: number;
      /** A command of the device with a name that is near. */
      readonly near: string | undefined;
    }
  | { readonly what: 'parameter'; readonly gesture: Gesture; readonly index: number; readonly param: string }
  /** With one of the devices that its zone picks it would not work. */
  | { readonly what: 'picked'; readonly device: string }
  /** One of its rules cannot be judged. */
  | { readonly what: 'rule'; readonly index: number }
  | { readonly what: 'reading-gone'; readonly device: string; readonly key: string; readonly near: string | undefined }
);

type Gesture = ResponseGesture | 'range';

/** Where the things are that a control or page names. */
export interface Sources {
  readonly device: (id: string) => DeviceRecord | undefined;
  readonly page: (id: string) => PageRecord | undefined;
  /** Where macros are not known they are not asked for. */
  readonly hasMacro?: (id: string) => boolean;
  /** Where snapshots are not known they are not asked for. */
  readonly hasSnapshot?: (number: number) => boolean;
  /** The driver document as the device uses it. */
  readonly document: (device: DeviceRecord) => DriverDocument | undefined;
  /** What the program itself can be told in this show; what it can in every show when absent. */
  readonly own?: DriverDocument;
}

/** Everything in a control that will not work: what it names and is not there any more, bad parameters, a bad place. */
export function problemsOfControl(control: ControlRecord, given: Sources): ControlProblem[] {
  const own = problemsForDevices(control, given);
  // What does not work with the first device would be said again for each of the others.
  return own.length > 0 ? own : problemsOfPicked(control, given);
}

/** What of a control is wrong with the other devices that its zone picks. What they do not have is no fault: see `lackingWith`. */
function problemsOfPicked(control: ControlRecord, given: Sources): ControlProblem[] {
  const page = given.page(control.data.page);
  const pick = page && zoneOf(page.data.zones, control.data)?.pick;
  return (pick?.devices.slice(1) ?? []).flatMap((device) =>
    problemsWith(control, pick?.devices[0] ?? '', device, given)
      .filter(({ what }) => !isLack(what))
      .map(({ message }): ControlProblem => ({ what: 'picked', device, message })),
  );
}

/**
 * What of a control that was made for one device another one does not have, in words. A control whose command is lacking is barred
 * while its zone drives that device.
 */
export function lackingWith(control: ControlRecord, made: string, device: string, given: Sources): string[] {
  const tag = given.device(device)?.data.tag ?? '';
  const first = given.device(made);
  const document = first && given.document(first);
  return problemsWith(control, made, device, given).flatMap((problem): string[] => {
    if (problem.what === 'command-gone') {
      const send = (problem.gesture === 'range' ? [control.data.range?.send] : sendsOf(control.data, problem.gesture))[
        problem.index
      ];
      const title = document?.commands[send?.command ?? '']?.title ?? send?.command ?? '';
      return [`${tag} has no command for “${title}”.`];
    }
    if (problem.what !== 'reading-gone') return isLack(problem.what) ? [problem.message] : [];
    // What another one counts in another unit has a name that no document has.
    const key = problem.key.trim();
    const title = document?.readings[splitKey(key).family]?.title ?? key;
    return [`${tag} does not report “${title}”.`];
  });
}

const isLack = (what: ControlProblem['what']): boolean =>
  what === 'command-gone' || what === 'reading-gone' || what === 'empty';

/** The problems of a control as it is while its zone drives another device than it was made for. */
function problemsWith(control: ControlRecord, made: string, device: string, given: Sources): ControlProblem[] {
  const [first, there] = [given.device(made), given.device(device)];
  if (!there || (first && isAlike(first, there))) return [];
  const driven = drivingOther(control.data, made, device, {
    documentOf: (id) => {
      const known = given.device(id);
      return known && given.document(known);
    },
    roleOf: (id) => given.device(id)?.data.role,
  });
  return problemsForDevices({ ...control, data: driven }, given).filter(({ what }) => what !== 'device-gone');
}

/** True for devices with the same driver, options and additions: what works with one works with the other. */
const isAlike = ({ data: a }: DeviceRecord, { data: b }: DeviceRecord): boolean =>
  a.driver === b.driver && JSON.stringify([a.options, a.additions]) === JSON.stringify([b.options, b.additions]);

function problemsForDevices(control: ControlRecord, given: Sources): ControlProblem[] {
  const sources = knowingOwn(given);
  const { data } = control;
  const found: ControlProblem[] = [];
  const page = sources.page(data.page);
  if (!page) found.push({ what: 'page-gone', message: 'Its page no longer exists.' });
  else if (data.col + data.cols > page.data.columns || data.row + data.rows > page.data.rows)
    found.push({ what: 'outside', message: 'It lies outside its page.' });
  if (page && data.sets && !canChoose(page, data.sets, sources))
    found.push({
      what: 'choice-gone',
      message:
        'page' in data.sets ? 'The page that it opens no longer exists.' : 'What it chooses is no longer on its page.',
    });
  for (const device of devicesOf(data)) {
    if (!sources.device(device))
      found.push({
        what: 'device-gone',
        device,
        message: `A device that it uses is no longer in the rig (${device}).`,
      });
  }
  for (const gesture of gesturesOf(data))
    found.push(...problemsOfSends(data, sendsOf(data, gesture), gesture, sources));
  for (const message of clashesOf(data.responses)) found.push({ what: 'clash', message });
  const { runs } = data.responses;
  if (runs && sources.hasMacro && !sources.hasMacro(runs.macro))
    found.push({ what: 'macro-gone', message: 'The macro that it begins no longer exists.' });
  if (data.range) {
    const { send, param } = data.range;
    found.push(...problemsOfSends(data, [send], 'range', sources, param));
  }
  found.push(...problemsOfKind(data, sources));
  const refs = [...readingsOfLabel(data.label, data.values), ...readingsOfLamps(data)];
  if (data.shows && 'reading' in data.shows) refs.push(resolveReading(data.shows.reading, data.values));
  for (const ref of [data.range?.reading, data.range?.most, data.shows?.kind === 'bar' ? data.shows.most : undefined])
    if (ref) refs.push(resolveReading(ref, data.values));
  for (const { params } of [...sendsOfControl(data), ...(runs ? [runs] : [])])
    for (const argument of Object.values(params))
      if (isLive(argument)) refs.push(...readingsOfLive(argument, data.values));
  const documentOf = documentIn(sources);
  const naming = { documentOf, tagOf: (id: string) => sources.device(id)?.data.tag };
  for (const [index, { when }] of data.lamps.entries())
    for (const message of problemsOfRule(when, data, naming)) found.push({ what: 'rule', index, message });
  const seen = new Set<string>();
  for (const { device: id, key } of refs) {
    const device = sources.device(id);
    const document = device && sources.document(device);
    if (!document || hasReading(document, key) || seen.has(`${id} ${key}`)) continue;
    seen.add(`${id} ${key}`);
    const near = nearest(key, Object.keys(document.readings));
    const message = isTallyKey(key)
      ? `${device.data.tag} feeds no input of a switcher, so its tally is not known. Tie it to one in the rig.`
      : `${device.data.tag} has no reading “${key}”.${near ? ` Is “${near}” meant?` : ''}`;
    found.push({ what: 'reading-gone', device: id, key, near, message });
  }
  return found;
}

/** What the program itself says is there in every show. */
export const knowingOwn = (sources: Sources): Sources => ({
  ...sources,
  device: (id) => (id === ownId ? ownDevice : sources.device(id)),
  document: (device) => (device.id === ownId ? (sources.own ?? ownDocument) : sources.document(device)),
});

function canChoose({ data }: PageRecord, sets: NonNullable<ControlRecord['data']['sets']>, { page }: Sources): boolean {
  if ('go' in sets || 'screen' in sets) return true;
  if ('page' in sets) return page(sets.page) !== undefined;
  if ('shift' in sets) return (data.shifts ?? []).some(({ id }) => id === sets.shift);
  return data.zones.some(({ id, pick }) => id === sets.zone && pick?.devices.includes(sets.device));
}

/** A stick and a list are about something that the driver offers under a name. */
function problemsOfKind(
  { type, range, drive, list, presets, shows }: ControlRecord['data'],
  sources: Sources,
): ControlProblem[] {
  const lost = (what: string): ControlProblem[] => [{ what: 'empty', message: what }];
  if (shows?.kind === 'address') {
    const place = readPictureAddress(shows.url);
    if (typeof place === 'string') return lost(`It shows no picture. ${addressProblems[place]}`);
  }
  if (shows && 'device' in shows) {
    const of = sources.device(shows.device);
    const known = of && sources.document(of);
    const [named, there] = shows.kind === 'still' ? [shows.still, known?.stills] : [shows.layout, known?.layouts];
    if (known && !(named in (there ?? {})))
      return lost(`${of.data.tag} has nothing to show that is called “${named}”.`);
  }
  const about = drive ?? list ?? (presets?.device === undefined ? undefined : { device: presets.device });
  const device = about && sources.device(about.device);
  const document = device && sources.document(device);
  if ((type === 'fader' || type === 'dial') && !range) return lost('It has no command that takes its value.');
  if (type === 'stick' && !drive) return lost('It steers nothing.');
  if (type === 'list' && !list) return lost('It lists nothing.');
  if (type === 'presets' && !presets) return lost('No presets are chosen for it to show.');
  if (presets && document && !document.presets)
    return lost(`The driver of ${device?.data.tag ?? ''} does not say how presets are stored.`);
  if (drive && document && !(drive.drive in document.drives))
    return lost(`${device?.data.tag ?? ''} has nothing to steer that is called “${drive.drive}”.`);
  if (list && document && !(list.list in document.lists))
    return lost(`${device?.data.tag ?? ''} has no list “${list.list}”.`);
  return [];
}

/** What a parameter that is the number of a snapshot is picked from. */
const documentIn = (sources: Sources) => (id: string) => {
  const device = sources.device(id);
  return device && sources.document(device);
};

const snapshotNames = 'snapshot[].name';

function problemsOfSends(
  data: ControlRecord['data'],
  sends: readonly SendSpec[],
  gesture: Gesture,
  sources: Sources,
  /** A parameter that the hand sets. */
  free?: string,
): ControlProblem[] {
  const documentOf = documentIn(sources);
  return sends.flatMap((send, index): ControlProblem[] => {
    const device = sources.device(send.device);
    const document = device && sources.document(device);
    if (!document) return [];
    const command = document.commands[send.command];
    if (!command) {
      const near = nearest(send.command, Object.keys(document.commands));
      const message = `${device.data.tag} has no command “${send.command}”.`;
      return [{ what: 'command-gone', gesture, index, near, message }];
    }
    return Object.entries(command.params).flatMap(([param, definition]): ControlProblem[] => {
      if (param === free) return [];
      const argument = send.params[param];
      if (isLive(argument)) {
        const message = problemOfLive(argument, data.values, definition.value, documentOf);
        return message === undefined
          ? []
          : [{ what: 'parameter', gesture, index, param, message: `${definition.title}: ${message}` }];
      }
      const value = argument === undefined ? definition.default : resolveArgument(argument, data.values);
      if (value === undefined && (definition.optional || takesReading(definition))) return [];
      if (definition.listFrom === snapshotNames && typeof value === 'number' && sources.hasSnapshot?.(value) === false)
        return [{ what: 'parameter', gesture, index, param, message: `There is no snapshot ${value}.` }];
      const checked = checkValue(definition.value, value);
      if (checked.ok) return [];
      const message = `${device.data.tag} ${command.title}: ${definition.title} ${checked.error}.`;
      return [{ what: 'parameter', gesture, index, param, message }];
    });
  });
}
