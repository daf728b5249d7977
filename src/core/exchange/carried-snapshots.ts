import { memberKey, splitKey } from '../driver';
import { freeNumber, snapshotsOf } from '../snapshot';
import {
  canonicalJson,
  mapConditionArguments,
  mapReadings,
  mapSends,
  mostSnapshots,
  ownId,
  snapshotParams,
  valueNameOf,
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

const withNumbers = (params: Params, names: Iterable<string>, to: ToNumber): Record<string, SentArgument> => {
  const changed: Record<string, SentArgument> = { ...params };
  for (const name of names) {
    const given = changed[name];
    if (typeof given === 'number') changed[name] = to(given);
  }
  return changed;
};

/** A reading of one snapshot, of another number. */
function readingOf(ref: ReadingRef, to: ToNumber): ReadingRef {
  if (ref.device !== ownId) return ref;
  const { family, index } = splitKey(ref.key);
  return index === undefined || !family.startsWith('snapshot[]') ? ref : { ...ref, key: memberKey(family, to(index)) };
}

/** The value that a reading is compared with, where the reading says the number of a snapshot. */
const compared =
  (to: ToNumber) =>
  <A>(argument: A, { device, key }: ReadingRef): A | number =>
    device === ownId && key === 'lastSnapshot' && typeof argument === 'number' && argument > 0
      ? to(argument)
      : argument;

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

/** The parts of a control that can differ on a shift level. */
type Level = Pick<Data, 'label' | 'responses' | 'lamps' | 'range' | 'shows'>;

/** A control that calls snapshots by other numbers, on every shift level. */
function renumberedControl(data: Data, to: ToNumber, flows: Flows): Data {
  /** Values of the control that are the number of a snapshot. */
  const numbers = new Set<string>();
  const level = <L extends Level>(given: L): L => {
    const own = mapSends(given, (send) => {
      if (send.device !== ownId) return send;
      const names = snapshotParams(send.command);
      for (const name of names) note(send.params[name]);
      return { ...send, params: withNumbers(send.params, names, to) };
    });
    const { runs } = own.responses;
    const begun = runs && [...(flows.get(runs.macro) ?? [])];
    for (const name of begun ?? []) note(runs?.params[name]);
    const responses =
      runs && begun
        ? { ...own.responses, runs: { ...runs, params: withNumbers(runs.params, begun, to) } }
        : own.responses;
    const read = mapReadings({ ...own, responses }, (ref) => {
      const [, value] = (ref.device === ownId && /^snapshot\[\$([A-Za-z0-9]+)\]/.exec(ref.key)) || [];
      if (value !== undefined) numbers.add(value);
      return readingOf(ref, to);
    });
    return {
      ...read,
      lamps: read.lamps.map((rule) => ({ ...rule, when: mapConditionArguments(rule.when, compared(to)) })),
    };
  };
  const note = (argument: SentArgument | undefined): void => {
    const value = valueNameOf(argument);
    if (value !== undefined) numbers.add(value);
  };
  const usual = level(data);
  const shifts = data.shifts
    ? Object.fromEntries(
        Object.entries(data.shifts).map(([id, own]) => {
          const whole = level({
            label: own.label ?? [],
            responses: own.responses ?? { tap: [] },
            lamps: own.lamps ?? [],
          });
          return [
            id,
            {
              ...own,
              ...(own.label ? { label: whole.label } : {}),
              ...(own.responses ? { responses: whole.responses } : {}),
              ...(own.lamps ? { lamps: whole.lamps } : {}),
            },
          ];
        }),
      )
    : undefined;
  const values: Record<string, Scalar> = { ...data.values };
  for (const name of numbers) {
    const value = values[name];
    if (typeof value === 'number') values[name] = to(value);
  }
  return { ...usual, values, ...(shifts ? { shifts } : {}) };
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
