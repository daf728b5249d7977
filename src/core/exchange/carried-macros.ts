import { calledBy } from '../macro';
import {
  canonicalJson,
  mapArgumentReadings,
  mapConditionReadings,
  mapLevels,
  type Condition,
  type ControlRecord,
  type MacroData,
  type MacroDoes,
  type MacroRecord,
  type MacroSend,
  type ReadingRef,
  type RecordChange,
  type ShowRecord,
} from '../show';

/** The macros that travel with pages: which they are, and how what they name is called elsewhere. */

/** The macros that controls begin, on any shift level, and those that these begin themselves. */
export function macrosBegunBy(
  controls: readonly ControlRecord['data'][],
  records: readonly ShowRecord[],
): readonly MacroRecord[] {
  const all = new Map(records.flatMap((record) => (record.kind === 'macro' ? [[record.id, record]] : [])));
  const found = new Map<string, MacroRecord>();
  const take = (id: string): void => {
    const macro = all.get(id);
    if (!macro || found.has(id)) return;
    found.set(id, macro);
    calledBy(macro).forEach(take);
  };
  for (const { responses, shifts = {} } of controls)
    for (const each of [responses, ...Object.values(shifts).map((own) => own.responses)])
      if (each?.runs) take(each.runs.macro);
  return [...found.values()];
}

/** What things are called where a macro goes. */
export interface MacroMapping {
  readonly macro: (id: string) => string;
  readonly page: (id: string) => string;
  readonly device: (id: string) => string;
  readonly zone: (id: string) => string;
  readonly shift: (id: string) => string;
  /** Changes commands, readings, conditions, and what is handed to a macro that is begun, besides, each with its own ids of the macro. */
  readonly send?: (send: MacroSend) => MacroSend;
  readonly reading?: (ref: ReadingRef) => ReadingRef;
  readonly condition?: (condition: Condition) => Condition;
  readonly begun?: (macro: string, params: MacroSend['params']) => MacroSend['params'];
}

/** A macro with everything that it names called as it is elsewhere. Panels are not carried: steps keep their id. */
export function mapMacro(data: MacroData, to: MacroMapping): MacroData {
  const reading = (given: ReadingRef): ReadingRef => {
    const ref = to.reading?.(given) ?? given;
    return { ...ref, device: to.device(ref.device) };
  };
  const condition = (given: Condition): Condition => mapConditionReadings(to.condition?.(given) ?? given, reading);
  const params = (given: MacroSend['params']): MacroSend['params'] =>
    Object.fromEntries(Object.entries(given).map(([name, argument]) => [name, mapArgumentReadings(argument, reading)]));
  const send = (given: MacroSend): MacroSend => {
    const each = to.send?.(given) ?? given;
    return { ...each, device: to.device(each.device), params: params(each.params) };
  };
  const does = (step: MacroDoes): MacroDoes => {
    switch (step.is) {
      case 'send':
        return { ...step, send: send(step.send) };
      case 'pulse':
        return { ...step, on: send(step.on), off: send(step.off) };
      case 'macro':
        return {
          ...step,
          macro: to.macro(step.macro),
          params: params(to.begun?.(step.macro, step.params) ?? step.params),
        };
      case 'page':
        return { ...step, page: to.page(step.page) };
      case 'shift':
        return { ...step, page: to.page(step.page), ...(step.shift ? { shift: to.shift(step.shift) } : {}) };
      case 'pick':
        return {
          ...step,
          page: to.page(step.page),
          zone: to.zone(step.zone),
          ...(step.device ? { device: to.device(step.device) } : {}),
        };
      case 'note':
      case 'brightness':
        return step;
    }
  };
  return {
    ...data,
    segments: data.segments.map((segment) => ({
      ...segment,
      ...(segment.waits ? { waits: { ...segment.waits, until: condition(segment.waits.until) } } : {}),
      ...(segment.onlyIf ? { onlyIf: condition(segment.onlyIf) } : {}),
      steps: segment.steps.map((step) => ({ ...step, does: does(step.does) })),
    })),
  };
}

/** The devices that a macro names, each once. What the program itself says is in every show. */
export function devicesOfMacro(data: MacroData): string[] {
  const found = new Set<string>();
  const same = (id: string) => id;
  mapMacro(data, {
    macro: same,
    page: same,
    zone: same,
    shift: same,
    device: (id) => {
      found.add(id);
      return id;
    },
  });
  return [...found];
}

/** The control with the macros that it begins, on every shift level, called otherwise. */
export function withMacro(data: ControlRecord['data'], to: (id: string) => string): ControlRecord['data'] {
  return mapLevels(data, (level) => {
    const { runs } = level.responses;
    return runs ? { ...level, responses: { ...level.responses, runs: { ...runs, macro: to(runs.macro) } } } : level;
  });
}

/** The macros that come along. One that is there already, by its name and to the letter, is used instead of a second one. */
export function carriedMacros(
  macros: readonly { readonly id: string; readonly data: MacroRecord['data'] }[],
  records: readonly ShowRecord[],
): { readonly changes: readonly RecordChange[]; readonly idOf: (id: string) => string } {
  const there = records.filter((record): record is MacroRecord => record.kind === 'macro');
  const content = ({ order: _, ...data }: MacroRecord['data']) => canonicalJson(data);
  const same = new Map<string, string>();
  const idOf = (id: string) => same.get(id) ?? id;
  const own = (data: MacroRecord['data']) =>
    mapMacro(data, { macro: idOf, page: keep, device: keep, zone: keep, shift: keep });
  // One that begins another can only be the same once that one is known to be: round after round, until nothing more is found.
  for (let before = -1; before < same.size;) {
    before = same.size;
    for (const { id, data } of macros) {
      const twin = same.has(id) ? undefined : there.find((each) => content(each.data) === content(own(data)));
      if (twin) same.set(id, twin.id);
    }
  }
  const names = new Set(there.map(({ data }) => data.name));
  const last = Math.max(0, ...there.map(({ data }) => data.order));
  const fresh = macros.filter(({ id }) => id !== '' && !same.has(id));
  return {
    idOf,
    changes: fresh.map(({ id, data }, n): RecordChange => {
      const name = freeName(names, data.name);
      names.add(name);
      return {
        op: 'add',
        record: { kind: 'macro', id, version: 1, data: { ...own(data), name, order: last + n + 1 } },
      };
    }),
  };
}

const keep = (id: string): string => id;

/** A name that nothing has yet: with a number behind it where it is taken. */
export function freeName(taken: ReadonlySet<string>, name: string): string {
  let free = name;
  for (let n = 2; taken.has(free); n += 1) free = `${name.slice(0, 56)} ${n}`;
  return free;
}
