import { memberKey, splitKey } from '../driver';
import { freeNumber, snapshotsOf } from '../snapshot';
import {
  canonicalJson,
  mapConditionArguments,
  mapLevels,
  mapReadings,
  mapSends,
  mostSnapshots,
  ownId,
  snapshotParams,
  valueNameOf,
  type Argument,
  type Condition,
  type ControlRecord,
  type MacroData,
  type ReadingRef,
  type RecordChange,
  type SentArgument,
  type ShowRecord,
  type SnapshotData,
} from '../show';
import { mapMacro } from './carried-macros';
import { fail, ok, type Result, type Scalar } from '../result';

/**
 * The snapshots that travel with pages and macros. Controls and macros call a snapshot by its number, which can belong to another one
 * elsewhere: what comes along gets a number that is free, and what calls it is changed with it.
 */

type Data = ControlRecord['data'];
type ToNumber = (number: number) => number;
type Params = Readonly<Record<string, SentArgument>>;
interface Macro {
  readonly id: string;
  readonly data: MacroData;
}

/** Parameters of macros whose value is the number of a snapshot, by macro. */
type Flows = ReadonlyMap<string, ReadonlySet<string>>;

/** The parameters of macros that end up as the number of a snapshot, in commands of their own or of the macros that they begin. */
function flowsOf(macros: readonly Macro[]): Flows {
  const flows = new Map(macros.map(({ id }) => [id, new Set<string>()]));
  // One that hands its parameter on to another is only known once the other is: round after round, until nothing more is found.
  for (let found = -1, before = -2; found > before;) {
    before = found;
    for (const { id, data } of macros) {
      const own = flows.get(id);
      const take = (params: Params, names: Iterable<string>): void => {
        for (const name of names) {
          const from = valueNameOf(params[name]);
          if (from !== undefined) own?.add(from);
        }
      };
      mapMacro(data, {
        ...asTheyAre,
        send: (send) => (send.device === ownId && take(send.params, snapshotParams(send.command)), send),
        begun: (macro, params) => (take(params, flows.get(macro) ?? []), params),
      });
    }
    found = [...flows.values()].reduce((sum, { size }) => sum + size, 0);
  }
  return flows;
}

const asIs = (id: string): string => id;
const asTheyAre = { macro: asIs, page: asIs, device: asIs, zone: asIs, shift: asIs };

/** Values of a control that are called otherwise where they are the number of a snapshot, as they are also something else. */
type Renames = ReadonlyMap<string, string>;
const noRenames: Renames = new Map();

function numberOf(given: SentArgument, to: ToNumber, renames: Renames): SentArgument {
  if (typeof given === 'number') return to(given);
  const value = valueNameOf(given);
  return value === undefined || !renames.has(value) ? given : { value: renames.get(value) ?? value };
}

const withNumbers = (
  params: Params,
  names: Iterable<string>,
  to: ToNumber,
  renames = noRenames,
): Record<string, SentArgument> => {
  const changed: Record<string, SentArgument> = { ...params };
  for (const name of names) {
    const given = changed[name];
    if (given !== undefined) changed[name] = numberOf(given, to, renames);
  }
  return changed;
};

/** The name of the control’s value that says which snapshot a reading is about. */
const valueInKey = ({ device, key }: ReadingRef): string | undefined =>
  device === ownId ? /^snapshot\[\$([A-Za-z0-9]+)\]/.exec(key)?.[1] : undefined;

/** A reading of one snapshot, of another number. */
function readingOf(ref: ReadingRef, to: ToNumber, renames = noRenames): ReadingRef {
  if (ref.device !== ownId) return ref;
  const value = renames.get(valueInKey(ref) ?? '');
  if (value !== undefined) return { ...ref, key: ref.key.replace(/\$[A-Za-z0-9]+/, `$$${value}`) };
  const { family, index } = splitKey(ref.key);
  return index === undefined || !family.startsWith('snapshot[]') ? ref : { ...ref, key: memberKey(family, to(index)) };
}

/** True where a reading says the number of a snapshot. */
const saysNumber = ({ device, key }: ReadingRef): boolean => device === ownId && key === 'lastSnapshot';

/** The value that a reading is compared with, where the reading says the number of a snapshot; 0 is none. */
const compared =
  (to: ToNumber, renames = noRenames) =>
  (argument: Argument, reading: ReadingRef): Argument =>
    saysNumber(reading) && argument !== 0 ? (numberOf(argument, to, renames) as Argument) : argument;

/** A macro that calls snapshots by other numbers. @param flows of all macros that it begins */
function renumberedMacro({ id, data }: Macro, to: ToNumber, flows: Flows): MacroData {
  const names = flows.get(id);
  const mapped = mapMacro(data, {
    ...asTheyAre,
    send: (send) =>
      send.device === ownId ? { ...send, params: withNumbers(send.params, snapshotParams(send.command), to) } : send,
    begun: (macro, params) => withNumbers(params, flows.get(macro) ?? [], to),
    reading: (ref) => readingOf(ref, to),
    condition: (condition) => mapConditionArguments(condition, compared(to)),
  });
  return {
    ...mapped,
    params: mapped.params.map((param) =>
      names?.has(param.name) && typeof param.value === 'number' ? { ...param, value: to(param.value) } : param,
    ),
  };
}

interface Renumbered {
  readonly data: Data;
  /** Values of the control that are the number of a snapshot. */
  readonly numbers: ReadonlySet<string>;
  /** Values of the control that are something else. */
  readonly others: ReadonlySet<string>;
}

function withNewNumbers(data: Data, to: ToNumber, flows: Flows, renames: Renames): Renumbered {
  const numbers = new Set<string>();
  const others = new Set<string>();
  const note = (found: Set<string>, argument: SentArgument | undefined): void => {
    const value = valueNameOf(argument);
    if (value !== undefined) found.add(value);
  };
  const noteAll = (params: Params, names: readonly string[]): void => {
    for (const [name, argument] of Object.entries(params)) note(names.includes(name) ? numbers : others, argument);
  };
  const mapped = mapLevels(data, (given) => {
    const own = mapSends(given, (send) => {
      const names = send.device === ownId ? snapshotParams(send.command) : [];
      noteAll(send.params, names);
      return { ...send, params: withNumbers(send.params, names, to, renames) };
    });
    const { runs } = own.responses;
    const begun = runs ? [...(flows.get(runs.macro) ?? [])] : [];
    if (runs) noteAll(runs.params, begun);
    const responses = runs
      ? { ...own.responses, runs: { ...runs, params: withNumbers(runs.params, begun, to, renames) } }
      : own.responses;
    const read = mapReadings({ ...own, responses }, (ref) => {
      const value = valueInKey(ref);
      if (value !== undefined) numbers.add(value);
      else for (const [, name = ''] of ref.key.matchAll(/\$([A-Za-z0-9]+)/g)) others.add(name);
      return readingOf(ref, to, renames);
    });
    const when = (condition: Condition): Condition =>
      mapConditionArguments(condition, (argument, reading) => {
        note(saysNumber(reading) ? numbers : others, argument);
        return compared(to, renames)(argument, reading);
      });
    return { ...read, lamps: read.lamps.map((rule) => ({ ...rule, when: when(rule.when) })) };
  });
  return { data: mapped, numbers, others };
}

/** A control that calls snapshots by other numbers, on every shift level. */
function renumberedControl(data: Data, to: ToNumber, flows: Flows): Data {
  const first = withNewNumbers(data, to, flows, noRenames);
  const values: Record<string, Scalar> = { ...data.values };
  const renames = new Map<string, string>();
  for (const name of first.numbers) {
    const value = values[name];
    if (typeof value !== 'number') continue;
    const number = to(value);
    if (number === value) continue;
    // A value that also says which input is meant goes on to say so; the snapshot gets one of its own.
    const own = first.others.has(name) ? freeValueName(values) : name;
    if (own !== name) renames.set(name, own);
    values[own] = number;
  }
  const { data: mapped } = renames.size === 0 ? first : withNewNumbers(data, to, flows, renames);
  return { ...mapped, values };
}

function freeValueName(values: Readonly<Record<string, Scalar>>): string {
  let name = 'snapshot';
  for (let n = 2; name in values; n += 1) name = `snapshot${n}`;
  return name;
}

/** The folders that controls and macros go through: what is in them is called without its number. */
function foldersUsed(controls: readonly Data[], macros: readonly Macro[]): ReadonlySet<string> {
  const folders = new Set<string>();
  const take = (device: string, params: Params, values: Readonly<Record<string, Scalar>>): void => {
    if (device !== ownId || params.folder === undefined) return;
    const name = valueNameOf(params.folder);
    const folder = name === undefined ? params.folder : values[name];
    if (typeof folder === 'string') folders.add(folder);
  };
  for (const data of controls) {
    const levels = [data.responses, ...Object.values(data.shifts ?? {}).flatMap(({ responses }) => responses ?? [])];
    for (const responses of levels)
      mapSends({ responses, ...(data.range ? { range: data.range } : {}) }, (send) => {
        take(send.device, send.params, data.values);
        return send;
      });
    const { list } = data;
    const { among } = list?.device === ownId ? list : {};
    if (among?.reading === 'snapshot[].folder') folders.add(String(among.is));
  }
  for (const { data } of macros) {
    const values = Object.fromEntries(data.params.map(({ name, value }) => [name, value]));
    mapMacro(data, { ...asTheyAre, send: (send) => (take(send.device, send.params, values), send) });
  }
  return folders;
}

/** The snapshots that controls and macros call: by number, or by going through the folder that they are in. */
export function snapshotsCalledBy(
  controls: readonly Data[],
  macros: readonly Macro[],
  records: readonly ShowRecord[],
): readonly SnapshotData[] {
  const numbers = new Set<number>();
  const note: ToNumber = (number) => {
    numbers.add(number);
    return number;
  };
  const flows = flowsOf(macros);
  for (const data of controls) renumberedControl(data, note, flows);
  for (const macro of macros) renumberedMacro(macro, note, flows);
  const folders = foldersUsed(controls, macros);
  return snapshotsOf(records)
    .filter(({ data }) => numbers.has(data.number) || folders.has(data.folder))
    .map(({ data: { before: _, ...data } }) => data);
}

/** Controls and macros that call snapshots by the numbers that these have now. */
export function withSnapshotNumbers(
  controls: readonly Data[],
  macros: readonly Macro[],
  numbers: ReadonlyMap<number, number>,
): { readonly controls: readonly Data[]; readonly macros: readonly Macro[] } {
  if ([...numbers].every(([from, to]) => from === to)) return { controls, macros };
  const to: ToNumber = (number) => numbers.get(number) ?? number;
  const flows = flowsOf(macros);
  return {
    controls: controls.map((data) => renumberedControl(data, to, flows)),
    macros: macros.map((macro) => ({ id: macro.id, data: renumberedMacro(macro, to, flows) })),
  };
}

export const notEnoughNumbers = (count: number): string =>
  `There are not enough free numbers for ${count} snapshots. Numbers go up to ${mostSnapshots}.`;

/** A snapshot of other devices. */
export const onDevices = (data: SnapshotData, device: (id: string) => string): SnapshotData => ({
  ...data,
  parts: data.parts.map((part) => ({ ...part, device: device(part.device) })),
});

interface CarriedSnapshots {
  readonly changes: readonly RecordChange[];
  /** The number of each here, by its number in the file. */
  readonly numbers: ReadonlyMap<number, number>;
}

/**
 * The snapshots that come along. One that is there already, by its name, its folder and all that it keeps, is used instead of a second one; the others
 * keep their numbers where all of them are free, and else get the lowest numbers that are free in a row.
 *
 * @param wanted as they are for the devices of this rig
 */
export function carriedSnapshots(
  wanted: readonly SnapshotData[],
  records: readonly ShowRecord[],
  newId: (kind: 'snap') => string,
): Result<CarriedSnapshots, string> {
  const there = snapshotsOf(records);
  const content = ({ name, folder, parts }: SnapshotData) => canonicalJson({ name, folder, parts });
  const twins = new Map(there.map(({ data }) => [content(data), data.number]));
  const numbers = new Map<number, number>();
  for (const data of wanted) {
    const twin = twins.get(content(data));
    if (twin !== undefined) numbers.set(data.number, twin);
  }
  const fresh = wanted.filter(({ number }) => !numbers.has(number)).sort((a, b) => a.number - b.number);
  const taken = new Set(there.map(({ data }) => data.number));
  const areFree = fresh.every(({ number }) => !taken.has(number));
  const first = areFree ? 0 : freeNumber(there, 1, fresh.length);
  if (first + fresh.length - 1 > mostSnapshots) return fail(notEnoughNumbers(fresh.length));
  const order = Math.max(0, ...there.map(({ data }) => data.order));
  const changes = fresh.map((data, n): RecordChange => {
    const number = areFree ? data.number : first + n;
    numbers.set(data.number, number);
    return {
      op: 'add',
      record: { kind: 'snapshot', id: newId('snap'), version: 1, data: { ...data, number, order: order + n + 1 } },
    };
  });
  return ok({ changes, numbers });
}
