import type { DriverDocument } from '../driver';
import type { Reading } from '../reading';
import type { DeviceRecord, ReadingRef, TieRecord } from '../show';
import { carriedBy, onOutput, readingsOfTally, type Carried, type Tri } from './carried';

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
 * tally, and what it carries with it, on its program or on the output that the tie names. The program of a switcher that feeds
 * none is the air, unless it is said not to be. A ring of switchers carries nothing.
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
  const ties = sources.ties.map(({ data }) => data);
  const recording = recordingNow(sources);
  const offAir = new Set(sources.devices.flatMap(({ id, data }) => (data.offAir ? [id] : [])));
  const switchers = new Map<string, SwitcherNow>();
  const known = new Map<string, OnAir>();
  const visiting = new Set<string>();

  const now = (switcher: string): SwitcherNow => {
    const found = switchers.get(switcher) ?? switcherNow(switcher, sources);
    switchers.set(switcher, found);
    return found;
  };
  const at = (switcher: string, input: number): OnAir => {
    const id = `${switcher} ${input}`;
    const before = known.get(id);
    if (before) return before;
    if (visiting.has(id)) return nowhere;
    visiting.add(id);
    const { carried, output } = now(switcher);
    const through = ties.filter(({ source }) => source === switcher);
    const program = through.filter((tie) => tie.output === undefined);
    const beyond =
      program.length > 0
        ? eitherOf(program.map((tie) => at(tie.switcher, tie.input)))
        : offAir.has(switcher)
          ? nowhere
          : air;
    const main: OnAir = {
      onAir: and(carried('onAir', input), beyond.onAir),
      next: or(and(carried('next', input), beyond.onAir), and(carried('onAir', input), beyond.next)),
    };
    const others = through.flatMap((tie): OnAir[] => {
      if (tie.output === undefined) return [];
      const on = output(tie.output)(input);
      // What is on no output of this kind goes nowhere: no need to look further.
      const there = on === false ? nowhere : at(tie.switcher, tie.input);
      return [{ onAir: and(on, there.onAir), next: and(on, there.next) }];
    });
    visiting.delete(id);
    const found = eitherOf([main, ...others]);
    // What was found inside a ring depends on where it was entered.
    if (visiting.size === 0) known.set(id, found);
    return found;
  };
  const withRecording = (found: OnAir): Tally => ({ ...found, recorded: and(found.onAir, recording) });
  return {
    of: (device) =>
      withRecording(
        eitherOf(ties.flatMap(({ source, switcher, input }) => (source === device ? [at(switcher, input)] : []))),
      ),
    ofInput: (switcher, input) => withRecording(at(switcher, input)),
  };
}

type OnAir = Pick<Tally, 'onAir' | 'next'>;

interface SwitcherNow {
  readonly carried: Carried;
  readonly output: (key: string) => (input: number) => Tri;
}

function switcherNow(switcher: string, { documentOf, readingNow }: TallySources): SwitcherNow {
  const document = documentOf(switcher);
  if (!document?.tally) return { carried: () => false, output: () => () => false };
  const value = (key: string) => readingNow({ device: switcher, key });
  const outputs = new Map<string, (input: number) => Tri>();
  return {
    carried: carriedBy(document, value),
    output: (key) => {
      const found = outputs.get(key) ?? onOutput(document, key, value);
      outputs.set(key, found);
      return found;
    },
  };
}

const nowhere: OnAir = { onAir: false, next: false };
/** Beyond the program of the last switcher in a chain. */
const air: OnAir = { onAir: true, next: false };
const eitherOf = (all: readonly OnAir[]): OnAir =>
  all.reduce((a, b) => ({ onAir: or(a.onAir, b.onAir), next: or(a.next, b.next) }), nowhere);

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
