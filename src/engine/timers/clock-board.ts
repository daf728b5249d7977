import { clockKeys, clockView, type ClockView } from '../../core/timers';
import type { Publish } from '../../core/live';
import type { DeviceRecord } from '../../core/show';
import type { ReadingStore } from '../devices/readings';
import type { LinkChange, ShowChange } from '../parts';
import type { RunningShow } from '../show/running-show';
import type { StatusBoard } from '../topics/status-board';
import type { TopicBook } from '../topics/topic-book';

interface Sources {
  readonly show: RunningShow;
  readonly readings: ReadingStore;
  readonly publish: Publish;
  readonly topics: TopicBook;
  readonly status: StatusBoard;
}

/** Every clock of the rig, for screens that show one all over. */
export class ClockBoard {
  private readonly views = new Map<string, ClockView>();
  private counting: NodeJS.Immediate | undefined;

  constructor(private readonly sources: Sources) {
    sources.topics.serve('clocks', { whole: () => Object.fromEntries(this.views) });
  }

  onShow(change: ShowChange): void {
    if (change.kind !== 'device') return;
    const { id, now } = change;
    if (now?.data.role === 'clock') this.look(now);
    else if (this.views.delete(id)) this.sources.publish('clocks', { drop: [id] });
    // A whole show comes device by device.
    this.counting ??= setImmediate(() => {
      this.counting = undefined;
      this.sources.status.set({ clocks: this.views.size });
    });
  }

  onReadings(device: string, keys: readonly string[]): void {
    if (!this.views.has(device)) return;
    const record = this.sources.show.devices.get(device);
    const shown = record && clockKeys(this.sources.show.documentOf(device));
    if (record && keys.some((key) => shown?.has(key))) this.look(record);
  }

  onLink({ device }: LinkChange): void {
    const record = this.views.has(device) ? this.sources.show.devices.get(device) : undefined;
    if (record) this.look(record);
  }

  stop(): void {
    clearImmediate(this.counting);
  }

  private look(record: DeviceRecord): void {
    const { show, readings, publish } = this.sources;
    const view = clockView(record, { documentOf: show.documentOf, readingNow: (ref) => readings.get(ref) });
    if (JSON.stringify(view) === JSON.stringify(this.views.get(record.id))) return;
    this.views.set(record.id, view);
    publish('clocks', { put: { [record.id]: view } });
  }
}
