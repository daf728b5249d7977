import type { TallyView } from '../core/live';
import { readingId } from '../core/show';
import { readingsForTally, tallyOf, type Tally } from '../core/tally';
import type { ReadingStore } from './readings';
import type { RunningShow } from './running-show';

/** The tally of every tied device, worked out anew whenever something that it depends on has changed. */
export class TallyBoard {
  private refs: ReadonlySet<string> = new Set();
  private now: ReadonlyMap<string, Tally> = new Map();
  private looking: NodeJS.Immediate | undefined;

  /** @param onChange told the devices whose tally is another than before */
  constructor(
    private readonly show: RunningShow,
    private readonly readings: ReadingStore,
    private readonly onChange: (devices: readonly string[]) => void,
  ) {}

  of(device: string): Tally | undefined {
    return this.now.get(device);
  }

  get view(): TallyView {
    return {
      devices: Object.fromEntries(
        [...this.now].flatMap(([id, tally]) => {
          const device = this.show.devices.get(id);
          return device ? [[id, { tag: device.data.tag, name: device.data.name, ...tally }]] : [];
        }),
      ),
    };
  }

  /** How many devices have a tally. */
  get count(): number {
    return this.now.size;
  }

  /** Devices, drivers or ties have changed; when a whole show is taken over, they do so many times in a row. */
  lookSoon(): void {
    this.looking ??= setImmediate(() => {
      this.looking = undefined;
      this.look();
    });
  }

  stop(): void {
    clearImmediate(this.looking);
  }

  private look(): void {
    const { ties } = this.show;
    const refs =
      ties.size === 0
        ? []
        : readingsForTally({ devices: [...this.show.devices.values()], documentOf: this.show.documentOf });
    this.refs = new Set(refs.map(readingId));
    this.work();
  }

  onReadings(device: string, keys: readonly string[]): void {
    if (this.refs.size > 0 && keys.some((key) => this.refs.has(readingId({ device, key })))) this.work();
  }

  private work(): void {
    const before = this.now;
    this.now = tallyOf({
      devices: [...this.show.devices.values()],
      ties: [...this.show.ties.values()],
      documentOf: this.show.documentOf,
      readingNow: (ref) => this.readings.get(ref),
    });
    const changed = [...new Set([...before.keys(), ...this.now.keys()])].filter(
      (id) => !same(before.get(id), this.now.get(id)),
    );
    if (changed.length > 0) this.onChange(changed);
  }
}

const same = (a: Tally | undefined, b: Tally | undefined): boolean =>
  a?.onAir === b?.onAir && a?.next === b?.next && a?.recorded === b?.recorded;
