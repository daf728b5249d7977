import { splitKey, type CompiledDriver } from '../../core/driver';
import type { NewsItem } from '../../core/live';
import type { Reading } from '../../core/reading';
import type { DeviceRecord } from '../../core/show';
import type { ReadingStore } from '../devices/readings';
import type { RunningShow } from '../show/running-show';
import type { StatusBoard } from '../topics/status-board';

const keptItems = 5;
/** A change counts as caused by the last sender to the device if that was not longer ago than this. */
const causeMs = 15_000;

/** What everybody is told: what somebody has started or stopped, by what the device reports of it. */
export class News {
  private items: readonly NewsItem[] = [];
  private nextN = 1;
  private readonly last = new Map<string, Reading['value']>();
  private readonly senders = new Map<string, { readonly who: string; readonly at: number }>();

  constructor(
    private readonly show: RunningShow,
    private readonly readings: ReadingStore,
    private readonly status: StatusBoard,
  ) {}

  onReadings(device: string, keys: readonly string[]): void {
    const record = this.show.devices.get(device);
    const driver = record && this.show.driverOf(record);
    if (!record || !driver) return;
    for (const key of keys) {
      const reading = this.readings.get({ device, key });
      if (reading) this.onReading(record, driver, key, reading);
    }
  }

  /** Somebody has sent something to a device. */
  onSent(device: string, who: string): void {
    this.senders.set(device, { who, at: Date.now() });
  }

  private onReading({ id, data }: DeviceRecord, driver: CompiledDriver, key: string, reading: Reading): void {
    const told = driver.document.readings[splitKey(key).family]?.told;
    if (!told || reading.freshness !== 'fresh') return;
    const of = `${id} ${key}`;
    const before = this.last.get(of);
    this.last.set(of, reading.value);
    // What was so already when the device was found, or before it was cut off, is no news.
    const sentence = told[String(reading.value)];
    if (!sentence || before === undefined || before === reading.value) return;
    const at = Date.now();
    const sender = this.senders.get(id);
    const by = sender && at - sender.at < causeMs ? sender.who : undefined;
    const item = { n: this.nextN++, at, text: `${data.name} ${sentence}.`, ...(by === undefined ? {} : { by }) };
    this.items = [...this.items, item].slice(-keptItems);
    this.status.set({ news: this.items });
  }
}
