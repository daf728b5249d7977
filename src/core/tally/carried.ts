import { indexesOf, memberKey, type DriverDocument } from '../driver';
import type { Reading } from '../reading';
import type { Scalar } from '../result';
import type { DeviceRecord } from '../show';

/** Where a picture can be seen: on air, about to be, or on an output of its own. */
export type Bus = 'onAir' | 'next' | 'aux';

/** True, false, or not known: a reading that would decide is not fresh. */
export type Tri = boolean | 'unknown';

/** For each bus of a switcher, whether an input is on it. */
export type Carried = (bus: Bus, input: number) => Tri;

type DriverTally = NonNullable<DriverDocument['tally']>;
type While = DriverTally['outputs'][number]['while'];
type Value = (key: string) => Reading | undefined;

/** Small arrays: the state of every switcher is made anew with each of its reports, and a bus carries a handful of inputs. */
interface BusState {
  /** What is certainly on it. */
  readonly sure: number[];
  /** What may be on it: a reading beside it is in doubt. */
  readonly maybe: number[];
  /** Anything may be on it: the reading that says what is in doubt. */
  open: boolean;
}

/** What a switcher puts where, by what it reports. Inputs that are made of others carry those. */
export function carriedBy(document: DriverDocument, value: Value): Carried {
  const { tally } = document;
  if (!tally) return () => false;
  const dark = tally.dark ? isNow(value(tally.dark.reading), tally.dark.is) : false;
  const buses: Partial<Record<Bus, BusState>> = {};
  return (bus, input) => {
    if (bus === 'onAir' && dark === true) return false;
    const on = isOn((buses[bus] ??= busNow(bus, document, tally, value)), input);
    return bus === 'onAir' && dark === 'unknown' && on === true ? 'unknown' : on;
  };
}

function busNow(bus: Bus, document: DriverDocument, tally: DriverTally, value: Value): BusState {
  const state = newBus();
  for (const { shows, reading, while: only } of tally.outputs)
    if (shows === bus) enter(state, document, reading, only, value);
  openUp(state, document, tally, value);
  return state;
}

/** Whether an input is on one output of a switcher, named by the reading that says what it shows. */
export function onOutput(document: DriverDocument, output: string, value: Value): (input: number) => Tri {
  const { tally } = document;
  const part = tally?.outputs.find(({ reading }) => keysOf(document, reading).includes(output));
  // An output that the switcher does not have: nobody knows what is on it.
  if (!tally || !part) return () => 'unknown';
  const bus = newBus();
  enter(bus, document, part.reading, part.while, value, output);
  openUp(bus, document, tally, value);
  return (input) => isOn(bus, input);
}

/** The outputs of a switcher besides its program, each by the reading that says what it shows. */
export function outputsOf(
  document: DriverDocument,
  options: DeviceRecord['data']['options'],
): { readonly key: string; readonly title: string }[] {
  const families = (document.tally?.outputs ?? []).flatMap(({ shows, reading }) => (shows === 'aux' ? [reading] : []));
  return families.flatMap((family) => {
    const { title = family, index } = document.readings[family] ?? {};
    if (!index) return [{ key: family, title }];
    return indexesOf(index, options).map((n) => ({ key: memberKey(family, n), title: `${title} ${n}` }));
  });
}

/** Every reading that decides about it. */
export function readingsOfTally(document: DriverDocument): string[] {
  const { tally } = document;
  if (!tally) return [];
  const parts = [...tally.outputs, ...tally.inside];
  const families = [
    ...parts.flatMap(({ reading, while: only }) => (only ? [reading, only.reading] : [reading])),
    ...(tally.dark ? [tally.dark.reading] : []),
  ];
  return [...new Set(families.flatMap((family) => keysOf(document, family)))];
}

const isOn = ({ sure, maybe, open }: BusState, input: number): Tri =>
  sure.includes(input) ? true : maybe.includes(input) || open ? 'unknown' : false;

const newBus = (): BusState => ({ sure: [], maybe: [], open: false });

/** Enters what one reading, or each member of a family, puts on a bus. @param member only this one of the family */
function enter(
  bus: BusState,
  document: DriverDocument,
  reading: string,
  only: While,
  value: Value,
  member?: string,
): void {
  for (const { key, whileKey } of pairsOf(document, reading, only?.reading)) {
    if (member !== undefined && key !== member) continue;
    const counts = only === undefined || whileKey === undefined ? true : isNow(value(whileKey), only.is);
    if (counts === false) continue;
    const now = value(key);
    if (now?.freshness !== 'fresh' || typeof now.value !== 'number') bus.open = true;
    else addTo(counts === true ? bus.sure : bus.maybe, now.value);
  }
}

/** What the inputs on a bus are made of is on it too; so is what that is made of, each looked into once. */
function openUp(bus: BusState, document: DriverDocument, { inside }: DriverTally, value: Value): void {
  /** How each of them was looked into. */
  let seen: ('sure' | 'maybe' | undefined)[] | undefined;
  for (let again = true; again;) {
    again = false;
    for (let n = 0; n < inside.length; n += 1) {
      const part = inside[n];
      if (!part) continue;
      const { input, reading, while: only } = part;
      const on = bus.sure.includes(input) ? 'sure' : bus.maybe.includes(input) || bus.open ? 'maybe' : undefined;
      if (!on || seen?.[n] === on || seen?.[n] === 'sure') continue;
      seen ??= [];
      seen[n] = on;
      again = true;
      const made = newBus();
      enter(made, document, reading, only, value);
      for (const each of made.sure) addTo(bus[on], each);
      for (const each of made.maybe) addTo(bus.maybe, each);
      if (made.open) bus.open = true;
    }
  }
}

function addTo(list: number[], input: number): void {
  if (!list.includes(input)) list.push(input);
}

function isNow(reading: Reading | undefined, is: Scalar): Tri {
  return reading?.freshness !== 'fresh' || reading.value === undefined ? 'unknown' : reading.value === is;
}

interface Pair {
  readonly key: string;
  readonly whileKey: string | undefined;
}

/** By document, the pairs that were asked for: they are asked for with every report. */
const pairs = new WeakMap<DriverDocument, Map<string, readonly Pair[]>>();

/** The keys of a reading or of all members of a family, each with that of the reading beside it. */
function pairsOf(document: DriverDocument, reading: string, beside: string | undefined): readonly Pair[] {
  const known = pairs.get(document) ?? new Map<string, readonly Pair[]>();
  pairs.set(document, known);
  const id = beside === undefined ? reading : `${reading} ${beside}`;
  const found = known.get(id) ?? makePairs(document, reading, beside);
  known.set(id, found);
  return found;
}

function makePairs(document: DriverDocument, reading: string, beside: string | undefined): readonly Pair[] {
  const range = document.readings[reading]?.index;
  if (!range) return [{ key: reading, whileKey: beside }];
  return indexesOf(range).map((index) => ({
    key: memberKey(reading, index),
    whileKey: beside === undefined ? undefined : memberKey(beside, index),
  }));
}

function keysOf(document: DriverDocument, family: string): string[] {
  const range = document.readings[family]?.index;
  return range ? indexesOf(range).map((index) => memberKey(family, index)) : [family];
}
