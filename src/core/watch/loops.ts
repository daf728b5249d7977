import { memberKey, splitKey, type DriverDocument } from '../driver';
import { sendsOfMacro } from '../macro';
import type { Scalar } from '../result';
import {
  ownId,
  readingId,
  sendsOfControl,
  variableOrders,
  variableReading,
  type ControlRecord,
  type SentArgument,
  type MacroRecord,
  type ShowRecord,
  type VariableRecord,
  type WatchRecord,
} from '../show';
import { readingsOfWhen, sendsOfWatch } from './key-tie';

/** What watches and what they do are found by. */
interface LoopSources {
  readonly records: readonly ShowRecord[];
  readonly documentOf: (device: string) => DriverDocument | undefined;
}

type Send = {
  readonly device: string;
  readonly command: string;
  readonly params: Readonly<Record<string, SentArgument>>;
};

/**
 * A way from a watch back to itself: what it does may change what it, or another watch in between, waits for.
 * @returns the names of the watches on it, the first one again at the end; `undefined` when there is none
 */
export function watchLoop(watch: WatchRecord, sources: LoopSources): readonly string[] | undefined {
  const known = lookUp(sources);
  const path: WatchRecord[] = [];
  const seen = new Set<string>();
  const look = (at: WatchRecord): boolean => {
    path.push(at);
    for (const next of setOff(at, known)) {
      if (next.id === watch.id) return true;
      if (seen.has(next.id)) continue;
      seen.add(next.id);
      if (look(next)) return true;
    }
    path.pop();
    return false;
  };
  return look(watch) ? [...path.map(({ data }) => data.name), watch.data.name] : undefined;
}

interface Known {
  readonly watches: readonly WatchRecord[];
  readonly macros: ReadonlyMap<string, MacroRecord>;
  readonly controls: ReadonlyMap<string, ControlRecord>;
  readonly variables: ReadonlyMap<string, VariableRecord>;
  readonly orders: ReturnType<typeof variableOrders>;
  readonly documentOf: LoopSources['documentOf'];
}

function lookUp({ records, documentOf }: LoopSources): Known {
  const watches: WatchRecord[] = [];
  const macros = new Map<string, MacroRecord>();
  const controls = new Map<string, ControlRecord>();
  const variables = new Map<string, VariableRecord>();
  for (const record of records) {
    if (record.kind === 'watch') watches.push(record);
    else if (record.kind === 'macro') macros.set(record.id, record);
    else if (record.kind === 'control') controls.set(record.id, record);
    else if (record.kind === 'variable') variables.set(record.id, record);
  }
  return { watches, macros, controls, variables, orders: variableOrders(variables.values()), documentOf };
}

/** The watches that wait for something that this one may change. */
function setOff(watch: WatchRecord, known: Known): WatchRecord[] {
  const changes = new Set<string>();
  const fired = new Set<number>();
  for (const send of sendsOf(watch, known)) {
    if (send.device === ownId && send.command === 'fireWatch' && typeof send.params.watch === 'number')
      fired.add(send.params.watch);
    for (const id of changesOf(send, known)) changes.add(id);
  }
  return known.watches.filter(({ data }) => fired.has(data.number) || waitsFor(data).some((id) => changes.has(id)));
}

function sendsOf({ data }: WatchRecord, { macros, controls }: Known): readonly Send[] {
  const ofMacro = (id: string | undefined) => (id === undefined ? [] : sendsOfMacro(id, (each) => macros.get(each)));
  const pressed = controls.get(data.presses ?? '');
  return [
    ...sendsOfWatch(data),
    ...ofMacro(data.runs?.macro),
    ...(pressed ? [...sendsOfControl(pressed.data), ...ofMacro(pressed.data.responses.runs?.macro)] : []),
  ];
}

/** The readings that a command is confirmed by: what it changes. */
function changesOf({ device, command, params }: Send, { documentOf, orders, variables }: Known): string[] {
  const order = device === ownId ? orders.get(command) : undefined;
  const variable = order && variables.get(order.variable);
  if (variable) return [readingId({ device, key: variableReading(variable.data.key) })];
  const confirm = documentOf(device)?.commands[command]?.confirm;
  if (confirm?.by !== 'readings') return [];
  return confirm.all.map(({ reading, index }) => {
    const member: Scalar | undefined =
      index !== undefined && typeof params[index] !== 'object' ? params[index] : undefined;
    return readingId({ device, key: member === undefined ? reading : memberKey(reading, String(member)) });
  });
}

/** The readings that a watch waits for: each member of a family, and the family. */
function waitsFor({ when }: WatchRecord['data']): string[] {
  const refs = readingsOfWhen(when);
  return refs.flatMap((ref) => [readingId(ref), readingId({ device: ref.device, key: splitKey(ref.key).family })]);
}
