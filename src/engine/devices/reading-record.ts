import { splitKey } from '../../core/driver';
import { isEngineKey, presetReached, tallyState } from '../../core/show';
import type { ReadingStore } from './readings';
import { Thinning } from './thinning';
import type { RunningShow } from '../show/running-show';
import type { AsRun } from '../record/as-run';

/** What has not changed for this long has come to rest. */
const restMs = 1000;
const lookMs = 250;

/** A change that was passed over, when it was reported. */
interface Passed {
  readonly device: string;
  readonly key: string;
  seenAt: number;
  at: number;
}

/** Records what the devices report, thinned, without what their drivers call quiet. */
export class ReadingRecord {
  private readonly thinning = new Thinning();
  private readonly passed = new Map<string, Passed>();
  private timer: NodeJS.Timeout | undefined;

  constructor(
    private readonly show: RunningShow,
    private readonly readings: ReadingStore,
    private readonly asRun: AsRun,
  ) {}

  onReadings(device: string, keys: readonly string[]): void {
    const record = this.show.devices.get(device);
    if (!record) return;
    const quiet = this.show.driverOf(record)?.quietReadings;
    const now = performance.now();
    for (const key of keys) {
      // Of tally the device's own is kept: what is true of inputs follows from the switcher's readings.
      if (isEngineKey(key) && key !== tallyState && key !== presetReached) continue;
      if (quiet?.has(splitKey(key).family)) continue;
      const id = `${device} ${key}`;
      if (this.thinning.allows(id, now)) {
        this.passed.delete(id);
        this.enter(device, key);
      } else {
        const known = this.passed.get(id);
        if (known) Object.assign(known, { seenAt: now, at: Date.now() });
        else this.passed.set(id, { device, key, seenAt: now, at: Date.now() });
        this.timer ??= setInterval(() => this.look(performance.now()), lookMs).unref();
      }
    }
  }

  stop(): void {
    this.look(Infinity);
  }

  /** Enters what has come to rest, with the time at which it did. */
  private look(now: number): void {
    for (const [id, { device, key, seenAt, at }] of this.passed) {
      if (now - seenAt < restMs) continue;
      this.passed.delete(id);
      if (this.thinning.allowsRest(id, Math.min(now, performance.now()))) this.enter(device, key, at);
    }
    if (this.passed.size > 0) return;
    clearInterval(this.timer);
    this.timer = undefined;
  }

  private enter(device: string, key: string, at?: number): void {
    const record = this.show.devices.get(device);
    const value = this.readings.fresh(device, key);
    if (record && value !== undefined) this.asRun.record({ kind: 'reading', device: record.data.tag, key, value }, at);
  }
}
