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

/** What a report has changed. */
interface TallyChange {
  /** Devices whose tally has changed. */
  readonly devices: readonly string[];
  /** Switchers of which inputs may be seen elsewhere now. */
  readonly switchers: ReadonlySet<string>;
}

const nothingChanged: TallyChange = { devices: [], switchers: new Set() };

/**
 * The tally of every device that a tie makes the source of something. A switcher that feeds another one is on air by that one's
 * tally, and what it carries with it, on its program or on the output that the tie names. The program of a switcher that feeds
 * none is the air, unless it is said not to be. A ring of switchers carries nothing.
 *
 * It is made for a set of devices, drivers and ties, and kept up to date from then on: a report costs what it may change, and one that tally does
 * not depend on a look into a set, however many devices there are.
 */
export class TallyNetwork {
  private readonly bySource = new Map<string, TieRecord['data'][]>();
  private readonly bySwitcher = new Map<string, TieRecord['data'][]>();
  private readonly offAir: ReadonlySet<string>;
  /** By switcher, the readings that decide what it puts where. */
  private readonly deciding = new Map<string, ReadonlySet<string>>();
  /** By device, whether what its recording readings say is that it records. */
  private readonly recorders = new Map<string, { readonly keys: readonly string[]; now: Tri }>();
  private recording: Tri = false;
  /** By switcher, the inputs that anybody asks for, and how each of them is carried now. */
  private readonly watched = new Map<string, number[]>();
  private readonly carries = new Map<string, readonly string[]>();
  private readonly switchers = new Map<string, SwitcherNow>();
  private readonly inputs = new Map<string, Map<number, OnAir>>();
  private readonly visiting = new Set<string>();
  private readonly tallies = new Map<string, Tally>();

  /** @param shown inputs of switchers that are asked for besides those that ties lead to */
  constructor(
    private readonly sources: TallySources,
    shown: Iterable<{ readonly switcher: string; readonly input: number }> = [],
  ) {
    for (const { data } of sources.ties) {
      listOf(this.bySource, data.source).push(data);
      listOf(this.bySwitcher, data.switcher).push(data);
    }
    this.offAir = new Set(sources.devices.flatMap(({ id, data }) => (data.offAir ? [id] : [])));
    const asked = [...sources.ties.map(({ data }) => data), ...shown];
    for (const { switcher, input } of asked) {
      const inputs = listOf(this.watched, switcher);
      if (!inputs.includes(input)) inputs.push(input);
    }
    for (const id of this.watched.keys()) {
      const document = sources.documentOf(id);
      if (!document) continue;
      this.deciding.set(id, new Set(readingsOfTally(document)));
      this.carries.set(id, this.whatItCarries(id));
    }
    if (this.watched.size > 0)
      for (const { id } of sources.devices) {
        const keys = recordingReadings(sources.documentOf(id));
        if (keys.length > 0) this.recorders.set(id, { keys, now: this.recordsNow(id, keys) });
      }
    this.recording = this.anyRecords();
    for (const device of this.bySource.keys()) this.tallies.set(device, this.tallyOf(device));
  }

  /** By device. */
  get all(): ReadonlyMap<string, Tally> {
    return this.tallies;
  }

  of(device: string): Tally | undefined {
    return this.tallies.get(device);
  }

  ofInput(switcher: string, input: number): Tally {
    return this.withRecording(this.at(switcher, input));
  }

  /** The device that a tie makes the source of an input. */
  sourceOf(switcher: string, input: number): string | undefined {
    return this.bySwitcher.get(switcher)?.find((tie) => tie.input === input)?.source;
  }

  /** Readings of a device have changed. */
  onReadings(device: string, keys: readonly string[]): TallyChange {
    const recordingChanged = this.onRecorder(device, keys);
    const deciding = this.deciding.get(device);
    const changed = deciding && keys.some((key) => deciding.has(key)) ? this.look(device) : [];
    if (changed.length === 0 && !recordingChanged) return nothingChanged;
    const { touched, switchers } = this.reach(device, changed);
    if (recordingChanged) for (const switcher of this.watched.keys()) switchers.add(switcher);
    const devices: string[] = [];
    for (const each of recordingChanged ? this.bySource.keys() : touched) {
      const now = this.tallyOf(each);
      if (isSame(this.tallies.get(each), now)) continue;
      this.tallies.set(each, now);
      devices.push(each);
    }
    return { devices, switchers };
  }

  /** Looks anew at what a switcher puts where. Returns those of the inputs that are asked for which are carried otherwise now. */
  private look(switcher: string): number[] {
    this.switchers.delete(switcher);
    const before = this.carries.get(switcher);
    const now = this.whatItCarries(switcher);
    this.carries.set(switcher, now);
    return (this.watched.get(switcher) ?? []).filter((_, n) => now[n] !== before?.[n]);
  }

  /** For each input that is watched, in their order, where it can be seen. */
  private whatItCarries(switcher: string): readonly string[] {
    const { carried, output } = this.now(switcher);
    const through = this.bySource.get(switcher) ?? [];
    return (this.watched.get(switcher) ?? []).map((input) => {
      let where = `${carried('onAir', input)} ${carried('next', input)}`;
      for (const tie of through) if (tie.output !== undefined) where += ` ${output(tie.output)(input)}`;
      return where;
    });
  }

  /** What hangs on these inputs of a switcher: the devices that are tied there, and all that feed those that are switchers themselves. */
  private reach(switcher: string, changed: readonly number[]) {
    const touched = new Set<string>();
    const switchers = new Set<string>();
    if (changed.length === 0) return { touched, switchers };
    // Those of which every input is looked at anew.
    const whole = new Set<string>();
    switchers.add(switcher);
    for (const input of changed) this.inputs.get(switcher)?.delete(input);
    const next = (this.bySwitcher.get(switcher) ?? []).filter(({ input }) => changed.includes(input));
    for (let tie = next.pop(); tie; tie = next.pop()) {
      touched.add(tie.source);
      // In a ring it comes back to where it began, whose other inputs hang on it as well.
      if (!this.watched.has(tie.source) || whole.has(tie.source)) continue;
      whole.add(tie.source);
      switchers.add(tie.source);
      this.inputs.delete(tie.source);
      next.push(...(this.bySwitcher.get(tie.source) ?? []));
    }
    return { touched, switchers };
  }

  /** True when whether anything records has changed. */
  private onRecorder(device: string, keys: readonly string[]): boolean {
    const recorder = this.recorders.get(device);
    if (!recorder || !keys.some((key) => recorder.keys.includes(key))) return false;
    recorder.now = this.recordsNow(device, recorder.keys);
    const before = this.recording;
    this.recording = this.anyRecords();
    return before !== this.recording;
  }

  private anyRecords(): Tri {
    let any: Tri = false;
    for (const { now } of this.recorders.values()) any = or(any, now);
    return any;
  }

  private recordsNow(device: string, keys: readonly string[]): Tri {
    let any: Tri = false;
    for (const key of keys) {
      const reading = this.sources.readingNow({ device, key });
      const known = reading?.freshness === 'fresh' && reading.value !== undefined;
      any = or(any, known ? reading.value === true : 'unknown');
    }
    return any;
  }

  private tallyOf(device: string): Tally {
    const ties = this.bySource.get(device) ?? [];
    return this.withRecording(eitherOf(ties.map(({ switcher, input }) => this.at(switcher, input))));
  }

  private withRecording(found: OnAir): Tally {
    return { ...found, recorded: and(found.onAir, this.recording) };
  }

  private now(switcher: string): SwitcherNow {
    const found = this.switchers.get(switcher) ?? switcherNow(switcher, this.sources);
    this.switchers.set(switcher, found);
    return found;
  }

  private at(switcher: string, input: number): OnAir {
    const known = this.inputs.get(switcher)?.get(input);
    if (known) return known;
    const found: OnAir = { onAir: this.seen('onAir', switcher, input), next: this.seen('next', switcher, input) };
    const ofSwitcher = this.inputs.get(switcher) ?? new Map<number, OnAir>();
    this.inputs.set(switcher, ofSwitcher.set(input, found));
    return found;
  }

  /**
   * Whether an input can be seen on air, or where it is set up next. Both are followed for themselves: an input may be next by a way that comes
   * past itself on air, which is no ring. Within a ring nothing is remembered, as it depends on where the ring was entered.
   */
  private seen(what: keyof OnAir, switcher: string, input: number): Tri {
    const known = this.inputs.get(switcher)?.get(input);
    if (known) return known[what];
    const id = `${switcher} ${input} ${what}`;
    if (this.visiting.has(id)) return false;
    this.visiting.add(id);
    const { carried, output } = this.now(switcher);
    const through = this.bySource.get(switcher) ?? [];
    const beyond = (part: keyof OnAir): Tri => {
      const program = through.filter((tie) => tie.output === undefined);
      if (program.length === 0) return part === 'onAir' && !this.offAir.has(switcher);
      return program.reduce<Tri>((any, tie) => or(any, this.seen(part, tie.switcher, tie.input)), false);
    };
    // What is carried nowhere needs no further look.
    const along = (on: Tri, further: () => Tri): Tri => (on === false ? false : and(on, further()));
    let found =
      what === 'onAir'
        ? along(carried('onAir', input), () => beyond('onAir'))
        : or(
            along(carried('next', input), () => beyond('onAir')),
            along(carried('onAir', input), () => beyond('next')),
          );
    for (const tie of through)
      if (tie.output !== undefined)
        found = or(
          found,
          along(output(tie.output)(input), () => this.seen(what, tie.switcher, tie.input)),
        );
    this.visiting.delete(id);
    return found;
  }
}

/** The tally of every device that a tie makes the source of something, as it is now. */
export const tallyOf = (sources: TallySources): ReadonlyMap<string, Tally> => new TallyNetwork(sources).all;

function listOf<T>(map: Map<string, T[]>, key: string): T[] {
  const list = map.get(key) ?? [];
  map.set(key, list);
  return list;
}

const isSame = (a: Tally | undefined, b: Tally): boolean =>
  a?.onAir === b.onAir && a.next === b.next && a.recorded === b.recorded;

type OnAir = Pick<Tally, 'onAir' | 'next'>;

interface SwitcherNow {
  readonly carried: Carried;
  readonly output: (key: string) => (input: number) => Tri;
}

function switcherNow(switcher: string, { documentOf, readingNow }: TallySources): SwitcherNow {
  const document = documentOf(switcher);
  if (!document?.tally) return { carried: () => false, output: () => () => false };
  const value = (key: string) => readingNow({ device: switcher, key });
  let outputs: Map<string, (input: number) => Tri> | undefined;
  return {
    carried: carriedBy(document, value),
    output: (key) => {
      const found = outputs?.get(key) ?? onOutput(document, key, value);
      (outputs ??= new Map()).set(key, found);
      return found;
    },
  };
}

const nowhere: OnAir = { onAir: false, next: false };
const eitherOf = (all: readonly OnAir[]): OnAir =>
  all.reduce((a, b) => ({ onAir: or(a.onAir, b.onAir), next: or(a.next, b.next) }), nowhere);

/** The readings that say that a device records. */
const recordingReadings = (document: DriverDocument | undefined): string[] =>
  Object.entries(document?.readings ?? {}).flatMap(([key, { means, value, index }]) =>
    means === 'recording' && value.type === 'onOff' && !index ? [key] : [],
  );

const or = (a: Tri, b: Tri): Tri =>
  a === true || b === true ? true : a === 'unknown' || b === 'unknown' ? 'unknown' : false;
const and = (a: Tri, b: Tri): Tri =>
  a === false || b === false ? false : a === 'unknown' || b === 'unknown' ? 'unknown' : true;
