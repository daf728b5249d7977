import { calledBy } from '../macro';
import {
  mapConditionReadings,
  type ControlRecord,
  type MacroData,
  type MacroDoes,
  type MacroRecord,
  type MacroSend,
  type ReadingRef,
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
}

/** A macro with everything that it names called as it is elsewhere. Panels are not carried: steps keep their id. */
export function mapMacro(data: MacroData, to: MacroMapping): MacroData {
  const reading = (ref: ReadingRef): ReadingRef => ({ ...ref, device: to.device(ref.device) });
  const params = (given: MacroSend['params']): MacroSend['params'] =>
    Object.fromEntries(
      Object.entries(given).map(([name, argument]) => [
        name,
        typeof argument === 'object' && 'reading' in argument ? { reading: reading(argument.reading) } : argument,
      ]),
    );
  const send = (each: MacroSend): MacroSend => ({
    ...each,
    device: to.device(each.device),
    params: params(each.params),
  });
  const does = (step: MacroDoes): MacroDoes => {
    switch (step.is) {
      case 'send':
        return { ...step, send: send(step.send) };
      case 'pulse':
        return { ...step, on: send(step.on), off: send(step.off) };
      case 'macro':
        return { ...step, macro: to.macro(step.macro), params: params(step.params) };
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
      ...(segment.waits
        ? { waits: { ...segment.waits, until: mapConditionReadings(segment.waits.until, reading) } }
        : {}),
      ...(segment.onlyIf ? { onlyIf: mapConditionReadings(segment.onlyIf, reading) } : {}),
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
  type Responses = ControlRecord['data']['responses'];
  const own = (responses: Responses): Responses =>
    responses.runs ? { ...responses, runs: { ...responses.runs, macro: to(responses.runs.macro) } } : responses;
  return {
    ...data,
    responses: own(data.responses),
    ...(data.shifts
      ? {
          shifts: Object.fromEntries(
            Object.entries(data.shifts).map(([level, each]) => [
              level,
              each.responses ? { ...each, responses: own(each.responses) } : each,
            ]),
          ),
        }
      : {}),
  };
}
