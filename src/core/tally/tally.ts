import type { DriverDocument } from '../driver';
import type { Reading } from '../reading';
import type { DeviceRecord, ReadingRef, TieRecord } from '../show';
import { carriedBy, readingsOfTally, type Carried, type Tri } from './carried';

/** Whether the picture of a device is on air, next, or being recorded. */
export interface Tally {
  readonly onAir: Tri;
  readonly next: Tri;
  /** It is on air while something records what is on air. */
  readonly recorded: Tri;
}

/** Where the facts come from. Switchers are the devices whose driver has a `tally`. */
export interface TallySources {
  readonly devices: readonly DeviceRecord[];
  readonly ties: readonly TieRecord[];
  readonly documentOf: (device: string) => DriverDocument | undefined;
  readonly readingNow: (ref: ReadingRef) => Reading | undefined;
}

/**
 * The tally of every device that a tie makes the source of something. A switcher that feeds another one is on air by that one's
 * tally, and what it carries with it; a switcher that feeds none is the last in the chain, and its program is the air. A ring of
 * switchers carries nothing.
 */
export function tallyOf(sources: TallySources): ReadonlyMap<string, Tally> {
  const { of } = tallyReader(sources);
  return new Map([...new Set(sources.ties.map(({ data }) => data.source))].map((device) => [device, of(device)]));
}

/** Works out the tally of single devices and of single inputs, each once. It looks at the readings as they are when it is asked. */
export interface TallyReader {
  readonly of: (device: string) => Tally;
  readonly ofInput: (switcher: string, input: number) => Tally;
}

export function tallyReader(sources: TallySources): TallyReader {
  const carried = new Map<string, Carried>();
  const ties = sources.ties.map(({ data }) => data);
  const recording = recordingNow(sources);
  const known = new Map<string, Tally>();
  const visiting = new Set<string>();

  const carriedOf = (switcher: string): Carried => {
    let found = carried.get(switcher);
    if (!found) {
      const document = sources.documentOf(switcher);
      found = document?.tally
        ? carriedBy(document, (key) => sources.readingNow({ device: switcher, key }))
        : () => false;
      carried.set(switcher, found);
    }
    return found;
  };
  const of = (device: string): Tally => {
    const before = known.get(device);
    if (before) return before;
    if (visiting.has(device)) return nothing;
    visiting.add(device);
    let onAir: Tri = false;
    let next: Tri = false;
    for (const { switcher, input } of ties.filter(({ source }) => source === device)) {
      const there = ofInput(switcher, input);
      onAir = or(onAir, there.onAir);
      next = or(next, there.next);
    }
    visiting.delete(device);
    const tally = { onAir, next, recorded: and(onAir, recording) };
    // What was found inside a ring depends on where it was entered.
    if (visiting.size === 0) known.set(device, tally);
    return tally;
  };
  const ofInput = (switcher: string, input: number): Tally => {
    const beyond = ties.some(({ source }) => source === switcher) ? of(switcher) : lastInChain;
    const bus = carriedOf(switcher);
    const onAir = and(bus('onAir', input), beyond.onAir);
    const next = or(and(bus('next', input), beyond.onAir), and(bus('onAir', input), beyond.next));
    return { onAir, next, recorded: and(onAir, recording) };
  };
  return { of, ofInput };
}

const nothing: Tally = { onAir: false, next: false, recorded: false };
const lastInChain: Tally = { onAir: true, next: false, recorded: false };

/** Every reading that tally depends on. */
export function readingsForTally({ devices, documentOf }: Pick<TallySources, 'devices' | 'documentOf'>): ReadingRef[] {
  return devices.flatMap(({ id }) => {
    const document = documentOf(id);
    if (!document) return [];
    const keys = [...readingsOfTally(document), ...recordingReadings(document).map(({ key }) => key)];
    return keys.map((key) => ({ device: id, key }));
  });
}

/** Whether anything in the rig records. */
function recordingNow({ devices, documentOf, readingNow }: TallySources): Tri {
  let now: Tri = false;
  for (const { id } of devices) {
    const document = documentOf(id);
    for (const { key } of document ? recordingReadings(document) : []) {
      const reading = readingNow({ device: id, key });
      const one: Tri =
        reading?.freshness !== 'fresh' || reading.value === undefined ? 'unknown' : reading.value === true;
      now = or(now, one);
    }
  }
  return now;
}

const recordingReadings = (document: DriverDocument) =>
  Object.entries(document.readings).flatMap(([key, { means, value, index }]) =>
    means === 'recording' && value.type === 'onOff' && !index ? [{ key }] : [],
  );

const or = (a: Tri, b: Tri): Tri =>
  a === true || b === true ? true : a === 'unknown' || b === 'unknown' ? 'unknown' : false;
const and = (a: Tri, b: Tri): Tri =>
  a === false || b === false ? false : a === 'unknown' || b === 'unknown' ? 'unknown' : true;
