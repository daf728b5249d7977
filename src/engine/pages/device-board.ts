import type { DriverDocument } from '../../core/driver';
import type { MapDiff } from '../../core/live';
import type { Reading } from '../../core/reading';
import type { DeviceRecord, ReadingRef } from '../../core/show';
import type { ReadingStore } from '../devices/readings';
import type { LinkChange, ShowChange } from '../parts';
import type { RunningShow } from '../show/running-show';

interface ViewSources {
  readonly documentOf: (device: string) => DriverDocument | undefined;
  readonly readingNow: (ref: ReadingRef) => Reading | undefined;
}

interface Options<View> {
  readonly show: RunningShow;
  readonly readings: ReadingStore;
  readonly isShown: (record: DeviceRecord, document: DriverDocument | undefined) => boolean;
  /** The readings that a view is made of. */
  readonly keysOf: (document: DriverDocument | undefined) => ReadonlySet<string>;
  readonly viewOf: (record: DeviceRecord, sources: ViewSources) => View;
  readonly onDiff: (diff: MapDiff<View>) => void;
  readonly onCount: (count: number) => void;
}

/** One view of all devices of a kind, kept up to date by what they report: all clocks, all that streams and records. */
export class DeviceBoard<View> {
  private readonly views = new Map<string, View>();
  private counting: NodeJS.Immediate | undefined;

  constructor(private readonly options: Options<View>) {}

  get whole(): Readonly<Record<string, View>> {
    return Object.fromEntries(this.views);
  }

  onShow(change: ShowChange): void {
    if (change.kind !== 'device') return;
    const { id, now } = change;
    const { show, isShown, onDiff, onCount } = this.options;
    if (now && isShown(now, show.documentOf(id))) this.look(now);
    else if (this.views.delete(id)) onDiff({ drop: [id] });
    // A whole show comes device by device.
    this.counting ??= setImmediate(() => {
      this.counting = undefined;
      onCount(this.views.size);
    });
  }

  onReadings(device: string, keys: readonly string[]): void {
    if (!this.views.has(device)) return;
    const { show, keysOf } = this.options;
    const record = show.devices.get(device);
    const shown = record && keysOf(show.documentOf(device));
    if (record && keys.some((key) => shown?.has(key))) this.look(record);
  }

  onLink({ device }: LinkChange): void {
    const record = this.views.has(device) ? this.options.show.devices.get(device) : undefined;
    if (record) this.look(record);
  }

  stop(): void {
    clearImmediate(this.counting);
  }

  private look(record: DeviceRecord): void {
    const { show, readings, viewOf, onDiff } = this.options;
    const view = viewOf(record, { documentOf: show.documentOf, readingNow: (ref) => readings.get(ref) });
    if (JSON.stringify(view) === JSON.stringify(this.views.get(record.id))) return;
    this.views.set(record.id, view);
    onDiff({ put: { [record.id]: view } });
  }
}
