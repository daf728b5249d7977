import { conditionNow, ReadingIndex, type LampMemory } from '../../core/lamp';
import { readingsOfCall } from '../../core/page';
import { readingId, type PageRecord } from '../../core/show';
import type { ReadingStore } from '../devices/readings';
import type { ShowChange } from '../parts';
import type { StatusBoard } from '../topics/status-board';
import type { RunningShow } from '../show/running-show';
import { WakeTimer } from './wake-timer';

/** Which pages are called now, by their conditions. Panels that follow go to the first of theirs. */
export class CalledPages {
  private readonly index = new ReadingIndex();
  private readonly memories = new Map<string, LampMemory>();
  /** Of each page with a condition, whether it holds; `undefined` when nobody knows. */
  private readonly truths = new Map<string, boolean | undefined>();
  private readonly timer = new WakeTimer((pages) => this.look(pages));
  private told = '';

  constructor(
    private readonly show: RunningShow,
    private readonly readings: ReadingStore,
    private readonly status: StatusBoard,
  ) {}

  onShow(change: ShowChange): void {
    if (change.kind !== 'page') return;
    const { id, now, before } = change;
    const [condition, earlier] = [now, before].map((page) => JSON.stringify(page?.data.calledBy));
    if (condition === earlier && now) return this.tell();
    this.memories.delete(id);
    this.truths.delete(id);
    this.timer.set(id, undefined);
    this.index.put(id, now ? readingsOfCall(now.data) : []);
    if (now) this.look([id]);
    else this.tell();
  }

  onReadings(device: string, keys: readonly string[]): void {
    const touched = new Set(keys.flatMap((key) => [...this.index.usersOf(readingId({ device, key }))]));
    if (touched.size > 0) this.look([...touched]);
  }

  stop(): void {
    this.timer.stop();
  }

  private look(pages: readonly string[]): void {
    for (const id of pages) {
      const page = this.show.pages.get(id);
      if (page) this.lookAt(page);
    }
    this.tell();
  }

  private lookAt({ id, data: { calledBy } }: PageRecord): void {
    if (!calledBy || !('when' in calledBy)) return;
    const memory = this.memories.get(id) ?? new Map<string, number>();
    this.memories.set(id, memory);
    const sources = {
      readingNow: this.readings.get.bind(this.readings),
      documentOf: this.show.documentOf,
      now: Date.now(),
    };
    const { truth, again } = conditionNow(calledBy.when, sources, memory);
    this.truths.set(id, typeof truth.is === 'boolean' ? truth.is : undefined);
    this.timer.set(id, again < Infinity ? again : undefined);
  }

  private tell(): void {
    const inOrder = [...this.show.pages.values()]
      .filter(({ id }) => this.truths.has(id))
      .sort((a, b) => a.data.order - b.data.order);
    const are = (truth: boolean | undefined) =>
      inOrder.filter(({ id }) => this.truths.get(id) === truth).map(({ id }) => id);
    const called = { now: are(true), unsure: are(undefined) };
    const text = JSON.stringify(called);
    if (text === this.told) return;
    this.told = text;
    this.status.set({ called });
  }
}
