import { msOfFrame, rateOf } from '../../core/macro';
import type { KeyWhen, WatchRecord } from '../../core/show';
import { FramePhase, framesApart, framesText, keyOrderOf, keyReading, showsInput } from '../../core/watch';
import type { Order } from '../presses/dispatcher';
import type { Ahead } from '../presses/pre-roll';
import type { ReadingStore } from '../devices/readings';
import type { RunningShow } from '../show/running-show';

interface KeyTieSources {
  readonly show: RunningShow;
  readonly readings: ReadingStore;
  /** A key is about to be switched on, or was. Returns whether the watch fires, after so many milliseconds. */
  readonly happened: (watch: string, because: string, afterMs: number) => boolean;
  /** False for a watch that would not fire now. */
  readonly isArmed: (watch: string) => boolean;
  readonly takeOut: (watch: string, because: string) => void;
}

/** How long after a key command its report may come, in milliseconds. */
const reportWithinMs = 3000;

/** The watches that tie graphics to keys: they fire before the program switches a key, or late when somebody switches it at the device. */
export class KeyTies {
  private readonly bySwitcher = new Map<string, Map<string, WatchRecord>>();
  /** Fired for a key whose report is still to come: by watch, until when it is waited for, by `performance.now()`. */
  private readonly begun = new Map<string, number>();

  /** Where each switcher is within its frame, with the length of a frame for which that was learned. */
  private readonly phases = new Map<string, { readonly frameMs: number; readonly phase: FramePhase }>();

  constructor(private readonly sources: KeyTieSources) {}

  put(record: WatchRecord): void {
    this.remove(record.id);
    const { when } = record.data;
    if (when.is !== 'key') return;
    const ofSwitcher = this.bySwitcher.get(when.switcher) ?? new Map<string, WatchRecord>();
    this.bySwitcher.set(when.switcher, ofSwitcher.set(record.id, record));
  }

  remove(watch: string): void {
    for (const ofSwitcher of this.bySwitcher.values()) ofSwitcher.delete(watch);
    this.begun.delete(watch);
  }

  forget(): void {
    this.begun.clear();
  }

  /** A command is about to leave. Fires what comes before it, each with its own pre-roll; the longest one is waited for. */
  readonly before = ({ device, prepared, who }: Order): Ahead | undefined => {
    const tied = this.bySwitcher.get(device.id);
    const order = tied && tied.size > 0 ? keyOrderOf(prepared.id, prepared.given) : undefined;
    if (!tied || !order?.on) return undefined;
    const due = [...tied].flatMap(([id, { data }]) => {
      const { when } = data;
      if (when.is !== 'key' || when.key !== order.key || !this.comesOn(when) || !this.sources.isArmed(id)) return [];
      return [{ id, name: data.name, frames: when.preRoll, ms: this.preRollMs(when) }];
    });
    const longest = due.reduce((most, each) => (each.frames > most.frames ? each : most), { frames: 0, ms: 0 });
    const { first, second } = framesApart(
      longest.frames,
      this.frameMs,
      this.phaseOf(device.id).since(performance.now()),
    );
    const fired = due.filter(({ id, frames, ms }) => {
      const ahead = frames === 0 ? '' : `, ${framesText(frames)} before it`;
      const after = first + longest.ms - ms;
      return this.sources.happened(id, `${device.data.tag} key ${order.key} by ${who}${ahead}`, after);
    });
    if (fired.length === 0) return undefined;
    const until = performance.now() + second + reportWithinMs;
    for (const { id } of fired) this.begun.set(id, until);
    return {
      ms: second,
      says: `Pre-roll of ${fired.map(({ name }) => name).join(', ')}`,
      onFailed: () => {
        for (const { id } of fired)
          if (this.begun.delete(id))
            this.sources.takeOut(id, `${device.data.tag} key ${order.key} was not switched on`);
      },
    };
  };

  /** A switcher reports, which it does when a frame begins. */
  onReport(device: string): void {
    const tied = this.bySwitcher.get(device);
    if (tied && tied.size > 0) this.phaseOf(device).report(performance.now());
  }

  /** Of a show with another rate nothing is known yet. */
  private phaseOf(device: string): FramePhase {
    const { frameMs } = this;
    const known = this.phases.get(device);
    if (known?.frameMs === frameMs) return known.phase;
    const phase = new FramePhase(frameMs);
    this.phases.set(device, { frameMs, phase });
    return phase;
  }

  private get frameMs(): number {
    return msOfFrame(1, rateOf(this.sources.show.rate));
  }

  /** The key is reported to be on. Fires, unless that was done before it. */
  onKeyOn({ id }: WatchRecord, when: KeyWhen): void {
    const begun = this.begun.get(id);
    this.begun.delete(id);
    if (begun !== undefined && performance.now() <= begun) return;
    if (!this.showsInput(when)) return;
    const tag = this.sources.show.deviceOf(when.switcher)?.data.tag ?? '?';
    const late = when.preRoll === 0 ? '' : `: ${framesText(when.preRoll)} late`;
    this.sources.happened(id, `${tag} key ${when.key} was switched on at the device${late}`, 0);
  }

  /** It is not on already, and shows what the watch is about. */
  private comesOn(when: KeyWhen): boolean {
    const { device, key } = keyReading(when);
    return this.sources.readings.fresh(device, key) !== true && this.showsInput(when);
  }

  private showsInput(when: KeyWhen): boolean {
    return showsInput(when, ({ device, key }) => this.sources.readings.fresh(device, key));
  }

  private preRollMs({ preRoll }: KeyWhen): number {
    return msOfFrame(preRoll, rateOf(this.sources.show.rate));
  }
}
