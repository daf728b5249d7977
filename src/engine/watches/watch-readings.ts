import type { Scalar } from '../../core/result';
import { ownId, type WatchRecord } from '../../core/show';
import type { WatchState } from '../../core/watch';
import type { ReadingStore } from '../devices/readings';

/** What of a watch is shown besides what its record says. */
interface WatchFacts {
  readonly state: WatchState;
  readonly isInService: boolean;
  /** When it fired last, in milliseconds since 1970. */
  readonly firedAt: number | undefined;
  /** What made it fire last, or kept it from it. */
  readonly why: string | undefined;
  /** Its next time, in milliseconds since 1970. */
  readonly nextAt: number | undefined;
}

const keys = ['name', 'state', 'count', 'last', 'why', 'next', 'left'] as const;

/** Says of each watch what it is called and how it is doing, as readings of the program itself. */
export class WatchReadings {
  private readonly told = new Map<string, Scalar>();

  constructor(
    private readonly readings: ReadingStore,
    /** A time in milliseconds since 1970 in words, in the show's time zone. */
    private readonly timeText: (at: number) => string,
  ) {}

  tell({ data }: WatchRecord, { state, isInService, firedAt, why, nextAt }: WatchFacts): void {
    const isWaiting = data.inService !== undefined && !isInService;
    const word = !state.isOn
      ? 'off'
      : state.stopped !== undefined
        ? 'stopped'
        : state.isSpent
          ? 'spent'
          : isWaiting
            ? 'waiting'
            : 'on';
    const now = Date.now();
    const acts = word === 'on' || word === 'waiting';
    const values: Readonly<Record<(typeof keys)[number], Scalar | undefined>> = {
      name: data.name,
      state: word,
      count: state.count,
      last: firedAt === undefined ? '' : this.timeText(firedAt),
      why: state.stopped ?? why ?? '',
      next: nextAt === undefined || !acts ? '' : this.timeText(nextAt),
      left: nextAt === undefined || !acts ? undefined : Math.max(0, (nextAt - now) / 1000),
    };
    const base = `watch[${data.number}]`;
    const news: { key: string; value: Scalar }[] = [];
    const gone: string[] = [];
    for (const key of keys) {
      const value = values[key];
      const full = `${base}.${key}`;
      if (value === undefined) {
        if (this.told.delete(full)) gone.push(full);
        continue;
      }
      // A time that runs is told when its end has changed, not whenever it is looked at.
      const marker = key === 'left' ? (nextAt ?? 0) : value;
      if (this.told.get(full) === marker) continue;
      this.told.set(full, marker);
      news.push({ key: full, value });
    }
    if (news.length + gone.length > 0) this.readings.report(ownId, news, now, gone);
  }

  forget(number: number): void {
    const gone = keys.map((key) => `watch[${number}].${key}`).filter((key) => this.told.delete(key));
    if (gone.length > 0) this.readings.report(ownId, [], Date.now(), gone);
  }
}
