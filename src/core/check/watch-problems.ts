import {
  ownId,
  plainButton,
  type ControlRecord,
  type KeyWhen,
  type LampRule,
  type PageRecord,
  type ShowRecord,
  type WatchData,
  type WatchRecord,
} from '../show';
import { hasReading } from '../face';
import { groupsOf, isKnownZone, keyCommand, keyReading, patternProblem, scheduleProblem, watchLoop } from '../watch';
import { problemsOfControl, type Sources } from './control-problems';

interface WatchSources extends Sources {
  readonly records: readonly ShowRecord[];
}

/** What of a watch will not work. */
export interface WatchProblem {
  readonly of: 'when' | 'unless' | 'then' | 'loop';
  readonly message: string;
}

/** Everything in a watch that will not work: what it names and is not there any more, an impossible time, a loop. */
export function problemsOfWatch(watch: WatchRecord, sources: WatchSources): WatchProblem[] {
  const { data } = watch;
  const { when, unless, presses, runs, sends } = data;
  const found: WatchProblem[] = [];
  const has = (kind: ShowRecord['kind'], id: string) =>
    sources.records.some((record) => record.kind === kind && record.id === id);
  const add = (of: WatchProblem['of'], messages: readonly { readonly message: string }[]) =>
    found.push(...messages.map(({ message }) => ({ of, message })));
  if (when.is === 'time') {
    const message = scheduleProblem(when.schedule, scheduleClockOf(sources.records));
    if (message !== undefined) found.push({ of: 'when', message });
    const zone = sources.records.find((record) => record.kind === 'show')?.data.zone;
    if (zone !== undefined && !isKnownZone(zone))
      found.push({
        of: 'when',
        message: `This computer does not know the time zone ${zone}. It uses its own time zone instead.`,
      });
  } else if (when.is === 'key') {
    add('when', problemsOfKey(when, sources));
  } else if (when.is !== 'message') {
    const condition = when.is === 'true' ? when.condition : changeAsCondition(when);
    add('when', judged({ lamps: [{ when: condition, show: 'active' }] }, sources));
  }
  if (when.is === 'message' && when.inlet !== undefined && !has('inlet', when.inlet))
    found.push({ of: 'when', message: 'The inlet that it listens to no longer exists.' });
  if (when.is === 'message') add('when', problemsOfPattern(when, data, sources));
  if (unless) add('unless', judged({ lamps: [{ when: unless, show: 'active' }] }, sources));
  add('then', judged({ sends, ...(runs ? { runs } : {}) }, sources));
  if (presses !== undefined && !has('control', presses))
    found.push({ of: 'then', message: 'The control that it presses no longer exists.' });
  if (sends.length === 0 && !runs && presses === undefined)
    found.push({ of: 'then', message: 'It does nothing yet. Add a command, a macro or a control.' });
  const documentOf = (id: string) => {
    if (id === ownId) return sources.own;
    const device = sources.device(id);
    return device && sources.document(device);
  };
  const loop = watchLoop(watch, { records: sources.records, documentOf });
  if (loop)
    found.push({
      of: 'loop',
      message:
        loop.length === 2
          ? 'It may set itself off: it changes what it waits for.'
          : `It may set itself off: ${loop.join(' → ')}.`,
    });
  return found;
}

/** A pattern that is none, and groups that fill nothing. */
function problemsOfPattern(
  when: Extract<WatchData['when'], { is: 'message' }>,
  { runs }: WatchData,
  { records }: WatchSources,
) {
  const message = patternProblem(when);
  if (message !== undefined) return [{ message }];
  const fills = new Set(
    records.flatMap((record): string[] => {
      if (record.kind === 'variable') return [record.data.key];
      return record.kind === 'macro' && record.id === runs?.macro ? record.data.params.map(({ name }) => name) : [];
    }),
  );
  const known = new Set([...fills].map((name) => name.toLowerCase()));
  return groupsOf(when)
    .filter((group) => !known.has(group.toLowerCase()))
    .map((group) => ({
      message: `The group ${group} fills nothing: no variable and no parameter of the macro has this name.`,
    }));
}

/** A switcher that is not there, a key that it does not have, and taking out that would never happen. */
function problemsOfKey(when: KeyWhen, sources: Sources) {
  const { switcher, out } = when;
  const found: { readonly message: string }[] = [];
  const device = sources.device(switcher);
  const document = device && sources.document(device);
  if (!device) found.push({ message: 'The switcher of its key is no longer in the rig.' });
  else if (document && !document.commands[keyCommand])
    found.push({ message: `${device.data.tag} has no keys that could be switched.` });
  else if (document && !hasReading(document, keyReading(when).key))
    found.push({ message: `${device.data.tag} has no key ${when.key}.` });
  if (!out) return found;
  if (out.sends.length === 0) found.push({ message: 'Choose what takes the graphics out again.' });
  if (!out.withKey && out.afterMs === undefined)
    found.push({ message: 'Nothing takes the graphics out: choose with the key, after a time, or both.' });
  found.push(...judged({ sends: out.sends }, sources));
  return found;
}

/** In what the schedule of a show counts: a zone that this computer does not know is left out, as the engine does. */
export function scheduleClockOf(records: readonly ShowRecord[]): {
  readonly zone?: string | undefined;
  readonly beginsAt?: string | undefined;
} {
  for (const record of records)
    if (record.kind === 'show') {
      const { zone, beginsAt } = record.data;
      return { beginsAt, ...(zone !== undefined && isKnownZone(zone) ? { zone } : {}) };
    }
  return {};
}

/** A reading that is waited for has to be there, like one that is compared. */
const changeAsCondition = ({ reading }: Extract<WatchData['when'], { is: 'change' }>): LampRule['when'] => ({
  op: 'changed',
  reading,
  withinMs: 1000,
});

/** What would be wrong with a control that does the same. */
function judged(
  {
    sends = [],
    runs,
    lamps = [],
  }: { readonly sends?: WatchData['sends']; readonly runs?: WatchData['runs']; readonly lamps?: LampRule[] },
  sources: Sources,
) {
  const control: ControlRecord = {
    kind: 'control',
    id: 'watch',
    version: 1,
    data: { ...plainButton, page: 'watch', responses: { tap: sends, ...(runs ? { runs } : {}) }, lamps },
  };
  const page: PageRecord = {
    kind: 'page',
    id: 'watch',
    version: 1,
    data: { name: '', order: 0, columns: 1, rows: 1, note: '', zones: [] },
  };
  return problemsOfControl(control, { ...sources, page: (id) => (id === 'watch' ? page : sources.page(id)) });
}
