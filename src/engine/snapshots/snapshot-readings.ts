import { splitKey } from '../../core/driver';
import type { Scalar } from '../../core/result';
import { ownId, readingId, type SnapshotRecord } from '../../core/show';
import {
  blackReason,
  foldersOf,
  groupsOf,
  inFolderOrder,
  keysOf,
  pictureOf,
  stateNow,
  tracksOf,
  type SnapshotState,
} from '../../core/snapshot';
import type { ReadingStore } from '../devices/readings';
import type { RunningShow } from '../show/running-show';
import type { GlideRun } from './glide-run';

interface Sources {
  readonly show: RunningShow;
  readonly readings: ReadingStore;
  readonly runs: ReadonlyMap<string, GlideRun>;
}

/** Changes of many readings, and what glides, are told in one go. */
const everyMs = 100;

/** Says of each snapshot what it is called, how it looks, and whether its devices agree with it: as readings of the program itself. */
export class SnapshotReadings {
  private timer: NodeJS.Timeout | undefined;
  /** The snapshots that keep a reading, by the reading. */
  private readonly keepers = new Map<string, Set<string>>();
  /** By device, the families that name sources: when they change, pictures are drawn anew. */
  private readonly namers = new Map<string, Set<string>>();
  /** The devices of which a snapshot keeps something. */
  private readonly kept = new Set<string>();
  private readonly dirty = new Set<string>();
  private readonly told = new Map<string, Scalar>();
  private areDrawn = false;
  /** Called up, and nothing else over it since. */
  private readonly called = new Set<string>();
  private last = 0;

  constructor(private readonly sources: Sources) {}

  /** The number of the snapshot that was called up last. */
  get lastNumber(): number {
    return this.last;
  }

  /** A snapshot, a device or its driver has changed: all of it is worked out anew, soon. */
  onShow(): void {
    this.areDrawn = false;
    this.soon();
  }

  onReadings(device: string, keys: readonly string[]): void {
    // Every report of every device comes by here.
    if (!this.kept.has(device)) return;
    const names = this.namers.get(device);
    for (const key of keys) {
      const id = readingId({ device, key });
      for (const keeper of this.keepers.get(id) ?? []) this.dirty.add(keeper);
      if (names?.has(splitKey(key).family)) this.areDrawn = false;
    }
    if (this.dirty.size > 0 || !this.areDrawn) this.soon();
  }

  /** This snapshot is on its way: whatever was called up over the same readings before is no longer meant. */
  onCalled(snapshot: SnapshotRecord): void {
    const own = new Set(snapshot.data.parts.map(({ device, keep }) => `${device} ${keep}`));
    for (const id of this.called) {
      const parts = this.sources.show.snapshots.get(id)?.data.parts ?? [];
      if (!parts.some(({ device, keep }) => own.has(`${device} ${keep}`))) continue;
      this.called.delete(id);
      this.dirty.add(id);
      const other = this.sources.show.snapshots.get(id);
      if (other) this.setToward(other, 0);
    }
    this.called.add(snapshot.id);
    this.dirty.add(snapshot.id);
    this.last = snapshot.data.number;
    this.tell([{ key: 'lastSnapshot', value: this.last }]);
    this.soon();
  }

  /** Something glides, or does not any more. */
  touch(snapshot: SnapshotRecord): void {
    this.dirty.add(snapshot.id);
    this.soon();
  }

  /** Where a fader between two snapshots is. */
  setToward(snapshot: SnapshotRecord, at: number): void {
    this.tell([{ key: `snapshot[${snapshot.data.number}].toward`, value: at }]);
  }

  stop(): void {
    clearTimeout(this.timer);
  }

  private soon(): void {
    this.timer ??= setTimeout(() => this.now(), everyMs);
    this.timer.unref();
  }

  private now(): void {
    this.timer = undefined;
    if (!this.areDrawn) this.draw();
    const changes: { key: string; value: Scalar }[] = [];
    const unknown: string[] = [];
    const running = [...this.sources.runs.values()];
    for (const id of this.dirty) {
      const snapshot = this.sources.show.snapshots.get(id);
      if (!snapshot) continue;
      const run = running.find((each) => each.snapshot.id === id);
      const base = `snapshot[${snapshot.data.number}]`;
      const state: SnapshotState = run ? 'moving' : this.stateOf(snapshot);
      if (state === 'unknown') unknown.push(`${base}.state`);
      else changes.push({ key: `${base}.state`, value: state });
      if (state === 'there') changes.push({ key: `${base}.toward`, value: 100 });
      changes.push({ key: `${base}.progress`, value: run ? Math.round(run.share * 100) : state === 'there' ? 100 : 0 });
    }
    this.dirty.clear();
    changes.push({ key: 'gliding', value: running.length > 0 });
    changes.push({ key: 'glidesHeld', value: running.some((run) => run.isHeld) });
    this.tell(changes, unknown);
    for (const run of running) this.dirty.add(run.snapshot.id);
    if (running.length > 0) this.soon();
  }

  private stateOf({ id, data }: SnapshotRecord): SnapshotState {
    const { show, readings } = this.sources;
    const fresh = (device: string, key: string) => readings.fresh(device, key);
    return stateNow(data, { documentOf: show.documentOf, fresh }, this.called.has(id));
  }

  /** Names, pictures and what is kept by which snapshot. */
  private draw(): void {
    this.areDrawn = true;
    const { show, readings } = this.sources;
    const snapshots = [...show.snapshots.values()].sort(inFolderOrder);
    this.keepers.clear();
    this.kept.clear();
    this.namers.clear();
    const changes: { key: string; value: Scalar }[] = [];
    const readingNow = (device: string, key: string) => readings.get({ device, key });
    for (const { id, data } of snapshots) {
      const base = `snapshot[${data.number}]`;
      changes.push(
        { key: `${base}.name`, value: data.name },
        { key: `${base}.folder`, value: data.folder },
        { key: `${base}.toward`, value: this.told.get(`${base}.toward`) ?? 0 },
        { key: `${base}.black`, value: blackReason(data.parts, show.documentOf) !== undefined },
        { key: `${base}.picture`, value: pictureOf(data, { documentOf: show.documentOf, readingNow }) ?? '' },
      );
      for (const part of data.parts) this.index(id, part.device, part.keep);
      this.dirty.add(id);
    }
    groupsOf(show.devices.values(), show.documentOf).forEach(({ title }, n) =>
      changes.push({ key: `group[${n + 1}].name`, value: title }),
    );
    foldersOf(snapshots)
      .filter((name) => name !== '')
      .forEach((name, n) => changes.push({ key: `folder[${n + 1}].name`, value: name }));
    const now = new Set(changes.map(({ key }) => key));
    const gone = [...this.told.keys()].filter(
      (key) => /^(snapshot|folder|group)\[/.test(key) && !now.has(key) && !/\.(state|progress)$/.test(key),
    );
    const without = gone.flatMap((key) => [
      key,
      ...['state', 'progress'].map((each) => key.replace('.name', `.${each}`)),
    ]);
    this.tell(changes, [...new Set(without)]);
  }

  private index(snapshot: string, device: string, keep: string): void {
    const document = this.sources.show.documentOf(device);
    const definition = document?.keeps[keep];
    if (!document || !definition) return;
    this.kept.add(device);
    for (const key of keysOf(tracksOf(document, definition))) {
      const id = readingId({ device, key });
      this.keepers.set(id, (this.keepers.get(id) ?? new Set()).add(snapshot));
    }
    const names = document.layouts[definition.layout ?? '']?.names;
    if (names !== undefined) this.namers.set(device, (this.namers.get(device) ?? new Set()).add(names));
  }

  /** Enters what has changed; `unknown` is forgotten. */
  private tell(
    changes: readonly { readonly key: string; readonly value: Scalar }[],
    unknown: readonly string[] = [],
  ): void {
    const news = changes.filter(({ key, value }) => this.told.get(key) !== value);
    const lost = unknown.filter((key) => this.told.has(key));
    for (const { key, value } of news) this.told.set(key, value);
    for (const key of lost) this.told.delete(key);
    if (news.length + lost.length > 0) this.sources.readings.report(ownId, news, Date.now(), lost);
  }
}
