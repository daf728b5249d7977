import { compileParsed, encodeCommand, type CompiledDriver, type DriverDocument } from '../driver';
import { givenProblem, loopOf, planOf, sendsOfStep, valuesOf, type PlannedStep } from '../macro';
import type { Scalar } from '../result';
import {
  ownDevice,
  ownDocument,
  ownId,
  isLive,
  readingsOfArgument,
  readingsOfCondition,
  resolveArgument,
  snapshotCalled,
  valueNameOf,
  type Condition,
  type DeviceRecord,
  type SentArgument,
  type MacroRecord,
  type MacroSend,
  type MacroStep,
  type PageRecord,
  withEngineReadings,
} from '../show';
import { problemOfLive } from './live-problems';
import { problemsOfRule } from './rule-problems';

/** Something about a macro that would go wrong when it runs. */
export interface MacroProblem {
  /** Where: a segment, or one of its steps; the whole macro without. */
  readonly segment?: string;
  readonly step?: string;
  readonly message: string;
}

export interface MacroSources {
  readonly devices: ReadonlyMap<string, DeviceRecord>;
  readonly driverOf: (device: DeviceRecord) => CompiledDriver | undefined;
  readonly macros: ReadonlyMap<string, MacroRecord>;
  readonly page: (id: string) => PageRecord | undefined;
  readonly hasPanel: (id: string) => boolean;
  /** True for a page that a panel of the show does not have. */
  readonly lacksPage?: (panel: string, page: string) => boolean;
  /** Where snapshots are not known they are not asked for. */
  readonly hasSnapshot?: (number: number) => boolean;
  /** Why a snapshot would show only black, if it would. */
  readonly blackReasonOf?: (number: number) => string | undefined;
  /** What the program itself can be told in this show; what it can in every show when absent. */
  readonly own?: DriverDocument;
}

const compiledOwn = new WeakMap<DriverDocument, CompiledDriver>();
/** How the program itself is told something, compiled when it is first asked for. */
function ownDriver(document: DriverDocument): CompiledDriver | undefined {
  const known = compiledOwn.get(document);
  if (known) return known;
  const compiled = compileParsed(document);
  if (!compiled.ok) return undefined;
  compiledOwn.set(document, compiled.value);
  return compiled.value;
}

const knowingOwn = (sources: MacroSources): MacroSources => ({
  ...sources,
  devices: new Map([...sources.devices, [ownId, ownDevice]]),
  driverOf: (device) => (device.id === ownId ? ownDriver(sources.own ?? ownDocument) : sources.driverOf(device)),
});

/** A check before it runs: everything that can be known while it is edited. */
export function problemsOfMacro(macro: MacroRecord, given: MacroSources): MacroProblem[] {
  const sources = knowingOwn(given);
  const { segments } = macro.data;
  const loop = loopOf(macro, sources.macros);
  const all: MacroProblem[] = [];
  if (loop) all.push({ message: `It calls itself in a circle: ${loop.join(' → ')}. Remove one of these steps.` });
  if (segments.every(({ steps }) => steps.length === 0)) all.push({ message: 'It is empty: nothing would be sent.' });
  const plan = planOf(segments, (send) => actsAfter(send, sources));
  for (const [n, segment] of segments.entries()) {
    const conditions = [segment.waits?.until, segment.onlyIf].filter((each) => each !== undefined);
    for (const message of conditions.flatMap((each) => problemsOfCondition(each, macro, sources)))
      all.push({ segment: segment.id, message });
    for (const step of segment.steps)
      for (const message of problemsOfStep(step, macro, sources))
        all.push({ segment: segment.id, step: step.id, message });
    for (const each of tooFast(plan[n]?.steps ?? [], sources)) all.push({ segment: segment.id, ...each });
  }
  return all;
}

/** How long after sending a command acts, in milliseconds, by its driver. */
export function actsAfter(
  { device, command }: MacroSend,
  { devices, driverOf }: Pick<MacroSources, 'devices' | 'driverOf'>,
): number {
  const record = devices.get(device);
  return (record && driverOf(record)?.commands.get(command)?.command.actsAfterMs) ?? 0;
}

function problemsOfStep(step: MacroStep, macro: MacroRecord, sources: MacroSources): string[] {
  const { does } = step;
  switch (does.is) {
    case 'send':
    case 'pulse':
      return [...new Set(sendsOfStep(step).flatMap((send) => problemOfSend(send, macro, sources) ?? []))];
    case 'macro': {
      const called = sources.macros.get(does.macro);
      if (!called) return ['The macro that it begins no longer exists.'];
      const wrong = givenProblem(called.data, literals(does.params, macro));
      return wrong ? [wrong] : [];
    }
    default: {
      const gone = does.panel !== undefined && !sources.hasPanel(does.panel);
      const page = 'page' in does ? does.page : undefined;
      const misses = page !== undefined && does.panel !== undefined && sources.lacksPage?.(does.panel, page);
      return [
        ...(gone ? ['The panel no longer exists.'] : []),
        ...(misses ? ['The panel does not have this page: nothing would happen there.'] : []),
        ...problemsOfShown(does, sources),
      ];
    }
  }
}

/** What panels are to show is not there. */
function problemsOfShown(
  does: Exclude<MacroStep['does'], { is: 'send' | 'pulse' | 'macro' }>,
  sources: MacroSources,
): string[] {
  if (!('page' in does)) return [];
  const page = sources.page(does.page)?.data;
  if (!page) return ['The page no longer exists.'];
  if (does.is === 'shift' && does.shift !== undefined && !page.shifts?.some(({ id }) => id === does.shift))
    return [`The page ${page.name} has no such level any more.`];
  if (does.is !== 'pick') return [];
  const zone = page.zones.find(({ id }) => id === does.zone);
  if (!zone?.pick) return [`The page ${page.name} has no such zone any more.`];
  if (does.device !== undefined && !zone.pick.devices.includes(does.device))
    return [`The zone ${zone.title} cannot drive that device any more.`];
  return [];
}

function problemOfSend(
  { device, command, params }: MacroSend,
  macro: MacroRecord,
  sources: MacroSources,
): string | undefined {
  const record = sources.devices.get(device);
  if (!record) return 'Its device is not in the rig.';
  const driver = sources.driverOf(record);
  if (!driver) return `The driver of ${record.data.tag} is not installed here.`;
  if (!driver.commands.has(command)) return `${record.data.tag} has no command “${command}”.`;
  const { snapshot } = literals(params, macro);
  if (device === ownId && typeof snapshot === 'number' && sources.hasSnapshot?.(snapshot) === false)
    return `There is no snapshot ${snapshot}.`;
  const called = snapshotCalled({ device, command, params: literals(params, macro) }, {});
  const black = called === undefined ? undefined : sources.blackReasonOf?.(called);
  if (black !== undefined) return `Snapshot ${called} would show only black. ${black}`;
  for (const [name, argument] of Object.entries(params)) {
    const param = driver.commands.get(command)?.command.params[name];
    if (readingsOfArgument(argument).some(({ device }) => !sources.devices.has(device) && device !== ownId))
      return 'The reading that it takes a value from is not in the rig.';
    const value = valueNameOf(argument);
    if (value !== undefined && !macro.data.params.some((each) => each.name === value))
      return `The macro has no parameter “${value}”.`;
    const wrong =
      isLive(argument) && param
        ? problemOfLive(argument, valuesOf(macro.data, {}), param.value, documentIn(sources))
        : undefined;
    if (wrong !== undefined) return `${param?.title ?? name}: ${wrong}`;
  }
  // What is looked up then is not known yet.
  if (Object.values(params).some(isLive)) return undefined;
  const encoded = encodeCommand(driver, command, literals(params, macro), { ref: 1, readingNow: () => 0 });
  return encoded.ok ? undefined : encoded.error.message;
}

function literals(params: Readonly<Record<string, SentArgument>>, macro: MacroRecord): Record<string, Scalar> {
  const values = valuesOf(macro.data, {});
  return Object.fromEntries(
    Object.entries(params).flatMap(([name, argument]) => {
      const value = resolveArgument(argument, values);
      return value === undefined ? [] : [[name, value] as const];
    }),
  );
}

const documentIn = (sources: MacroSources) => (id: string) => {
  if (id === ownId) return sources.own ?? ownDocument;
  const device = sources.devices.get(id);
  const document = device && sources.driverOf(device)?.document;
  return document && withEngineReadings(document, true);
};

function problemsOfCondition(when: Condition, macro: MacroRecord, sources: MacroSources): string[] {
  const documentOf = documentIn(sources);
  const gone = readingsOfCondition(when).find(({ device }) => !sources.devices.has(device) && device !== ownId);
  if (gone) return ['It waits for a reading of a device that is not in the rig: this never comes true.'];
  const tagOf = (id: string) => sources.devices.get(id)?.data.tag;
  return problemsOfRule(when, { values: valuesOf(macro.data, {}) }, { documentOf, tagOf });
}

/** Commands that follow one another faster than their device takes them. */
function tooFast(
  steps: readonly PlannedStep[],
  { devices, driverOf }: MacroSources,
): { step: string; message: string }[] {
  const last = new Map<string, number>();
  return steps.flatMap(({ step, sendAt, does }) => {
    if (does.is !== 'send') return [];
    const device = devices.get(does.send.device);
    const gapMs = (device && driverOf(device)?.document.link.gapMs) ?? 0;
    const before = last.get(does.send.device);
    last.set(does.send.device, sendAt);
    if (!device || before === undefined || sendAt - before >= gapMs) return [];
    const after = Math.round((sendAt - before) * 10) / 10;
    return [
      {
        step,
        message: `${device.data.tag} takes a command every ${gapMs} ms; this one comes ${after} ms after the one before.`,
      },
    ];
  });
}
