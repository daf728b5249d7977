import { splitKey } from '../../core/driver';
import { isEngineKey, presetReached, tallyState } from '../../core/show';
import type { ReadingStore } from './readings';
import { Thinning } from './thinning';
import type { RunningShow } from '../show/running-show';
import type { AsRun } from '../record/as-run';

/** Records what the devices report, thinned, without what their drivers call quiet. */
export class ReadingRecord {
  private readonly thinning = new Thinning();

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
      if (quiet?.has(splitKey(key).family) || !this.thinning.allows(`${device} ${key}`, now)) continue;
      const value = this.readings.fresh(device, key);
      if (value !== undefined) this.asRun.record({ kind: 'reading', device: record.data.tag, key, value });
    }
  }
}
