import { checkValue, memberKey, splitKey, takesReading, type DriverCommand, type DriverDocument } from '../driver';
import type { Scalar } from '../result';
import type { Edit, MacroStep, ShowRecord } from '../show';
import { newMacroEdit } from './edits';

/** What was done by hand while a macro is recorded: commands that went out, macros that were begun, and what devices reported. */

type Params = Readonly<Record<string, Scalar>>;

/** A command of a device. */
export interface HeardSend {
  readonly is: 'send';
  readonly device: string;
  readonly command: string;
  readonly params: Params;
  /** It was done at the device itself and made out from what that reported. */
  readonly atDevice?: true;
}

export type Heard = { readonly atMs: number } & (
  HeardSend | { readonly is: 'macro'; readonly macro: string; readonly params: Params }
);

export interface Recording {
  /** By the recorder's clock, in milliseconds. */
  readonly startedAt: number;
  readonly heard: readonly Heard[];
  /** Until when what a device reports counts as brought about by a command. */
  readonly quietUntil: ReadonlyMap<string, number>;
}

/** The most steps of a recording: as many as a segment has. */
export const mostHeard = 500;
/** The shortest interval at which a moving fader is recorded. */
const thinnedMs = 100;
/** What a hand does at a device counts as one thing while it goes on without a pause as long as this. */
const moreOfTheSameMs = 500;
/** How long a device may take to report the effect of a command, where its driver does not say. */
const usuallyMs = 1000;

export const beginRecording = (now: number): Recording => ({ startedAt: now, heard: [], quietUntil: new Map() });

export const isFull = ({ heard }: Recording): boolean => heard.length >= mostHeard;

/** A macro was begun. */
export const hearMacro = (recording: Recording, now: number, macro: string, params: Params): Recording =>
  put(recording, { atMs: now - recording.startedAt, is: 'macro', macro, params });

/** A command went out. Of continuous ones, such as a fader's, the newest replaces those shortly before it. */
export function hearCommand(
  recording: Recording,
  now: number,
  command: DriverCommand,
  send: Omit<HeardSend, 'is'>,
): Recording {
  const quiet = quieten(recording, now, command, send.device);
  const heard = { atMs: now - recording.startedAt, is: 'send', ...send } as const;
  const last = quiet.heard.at(-1);
  const overtakes = command.class === 'continuous' && last !== undefined && overtaken(last, heard, command, thinnedMs);
  return overtakes ? put({ ...quiet, heard: quiet.heard.slice(0, -1) }, heard) : put(quiet, heard);
}

/** A command went out that is not part of what is recorded; what the device reports of it is not either. */
export function quieten(recording: Recording, now: number, command: DriverCommand, device: string): Recording {
  const until = now + Math.max(300, command.confirm?.withinMs ?? usuallyMs);
  if (until <= (recording.quietUntil.get(device) ?? 0)) return recording;
  return { ...recording, quietUntil: new Map(recording.quietUntil).set(device, until) };
}

/**
 * A device reports something. Where no command from here has brought that about, it was done at the device; what it reports
 * shortly after that is a consequence of it, unless it is more of the same.
 */
export function hearReading(
  recording: Recording,
  now: number,
  device: string,
  document: DriverDocument,
  key: string,
  value: Scalar,
  readingNow: (key: string) => Scalar | undefined,
): Recording {
  const found = commandBehind(document, key, value, readingNow);
  if (!found) return recording;
  const { id, command, params } = found;
  const heard = { atMs: now - recording.startedAt, is: 'send', device, command: id, params, atDevice: true } as const;
  const at = recording.heard.findLastIndex((each) => each.is === 'send' && each.device === device);
  const last = recording.heard[at];
  const isMore = last?.is === 'send' && last.atDevice && overtaken(last, heard, command, moreOfTheSameMs);
  if (!isMore && now < (recording.quietUntil.get(device) ?? 0)) return recording;
  const before = isMore ? { ...recording, heard: recording.heard.toSpliced(at, 1) } : recording;
  return put(quieten(before, now, command, device), heard);
}

const put = (recording: Recording, heard: Heard): Recording =>
  isFull(recording) ? recording : { ...recording, heard: [...recording.heard, heard] };

/** Shortly before, and the same but for values that a hand moves through: not which strip, but how loud. */
function overtaken(last: Heard, now: Heard, command: DriverCommand, withinMs: number): boolean {
  if (last.is !== 'send' || now.is !== 'send' || last.device !== now.device || last.command !== now.command)
    return false;
  const members = command.confirm?.by === 'readings' ? command.confirm.all.map(({ index }) => index) : [];
  const isMoved = (name: string) => {
    const type = command.params[name]?.value.type;
    if (type === 'decimal' || type === 'time') return true;
    return type === 'whole' && command.class === 'continuous' && !members.includes(name);
  };
  const names = [...new Set([...Object.keys(last.params), ...Object.keys(now.params)])];
  return (
    now.atMs - last.atMs < withinMs && names.every((name) => last.params[name] === now.params[name] || isMoved(name))
  );
}

type Behind = { readonly id: string; readonly command: DriverCommand; readonly params: Params };

/**
 * The command that brings about that a reading has this value, as the driver says what confirms it. `undefined` where there is none,
 * or where it needs more than the reports tell.
 */
export function commandBehind(
  document: DriverDocument,
  key: string,
  value: Scalar,
  readingNow: (key: string) => Scalar | undefined,
): Behind | undefined {
  const own = new Set([document.tallyLamp?.command, document.displays?.command]);
  const found = Object.entries(document.commands).flatMap(([id, command]) => {
    const params = own.has(id) ? undefined : paramsBehind(command, key, value, readingNow);
    return params ? [{ id, command, params }] : [];
  });
  // The one that says the most exactly what was reported: first those whose parameter it is, then those with fewer of their own.
  const told = ({ params }: Behind) => Object.values(params).filter((each) => each === value).length;
  const left = ({ command, params }: Behind) => Object.keys(command.params).length - Object.keys(params).length;
  return found.sort((a, b) => told(b) - told(a) || left(a) - left(b))[0];
}

function paramsBehind(
  { confirm, params: definitions }: DriverCommand,
  key: string,
  value: Scalar,
  readingNow: (key: string) => Scalar | undefined,
): Params | undefined {
  if (confirm?.by !== 'readings') return undefined;
  const { family, index } = splitKey(key);
  const trigger = confirm.all.find(({ reading }) => reading === family);
  if (!trigger || trigger.changes || (trigger.index === undefined) !== (index === undefined)) return undefined;
  const params: Record<string, Scalar> = {};
  if (trigger.index !== undefined && index !== undefined) params[trigger.index] = index;
  for (const { reading, index: by, equals, changes } of confirm.all) {
    if (changes || (typeof equals === 'object' && 'before' in equals)) return undefined;
    const isTrigger = reading === family;
    if (typeof equals === 'object' && 'param' in equals) {
      const now = isTrigger ? value : readingNow(by === undefined ? reading : memberKey(reading, String(params[by])));
      if (now !== undefined) params[equals.param] = now;
    } else if (isTrigger && equals !== value) return undefined;
  }
  const isFree = (name: string) => {
    const definition = definitions[name];
    if (!definition) return false;
    return definition.optional || takesReading(definition) || definition.default !== undefined;
  };
  // That something is cued tells nothing of which clip was loaded: what a command cannot do without has to be what was reported.
  const isLiteral = typeof trigger.equals !== 'object';
  const needs = confirm.all.flatMap(({ equals }) =>
    typeof equals === 'object' && 'param' in equals ? equals.param : [],
  );
  if (isLiteral && !needs.every(isFree)) return undefined;
  const fits = Object.entries(definitions).every(([name, { value: shape }]) =>
    name in params ? checkValue(shape, params[name]).ok : isFree(name),
  );
  return fits ? params : undefined;
}

/** A macro of what was recorded: one segment, its zero point at the first thing that was done. */
export function recordedEdit(
  records: readonly ShowRecord[],
  heard: readonly Heard[],
  newId: (kind: 'mac' | 'seg' | 'step') => string,
  name: string,
): Edit {
  const zero = heard[0]?.atMs ?? 0;
  const steps = heard.map((each): MacroStep => {
    const at = Math.min(3_600_000, Math.round(each.atMs - zero));
    const id = newId('step');
    if (each.is === 'macro') return { id, at, does: { is: 'macro', macro: each.macro, params: { ...each.params } } };
    const { device, command, params } = each;
    return { id, at, does: { is: 'send', send: { device, command, params: { ...params } } } };
  });
  return { ...newMacroEdit(records, newId, name.slice(0, 60), steps), title: `Record macro ${name}` };
}
