import type { InletAnswer, InletError } from '../../core/inlet';
import { ReadingIndex } from '../../core/lamp';
import { fail, ok, type Result } from '../../core/result';
import { readingId } from '../../core/show';
import type { FoundSubject } from './subjects';

/** Somebody outside who wants to hear of changes. */
export interface Subscriber {
  /** The same for everything that it follows: its connection, or the address that it sends from. */
  readonly id: string;
  /** Nothing tells when it has gone: it has to ask again now and then. */
  readonly lapses: boolean;
  /** How many subjects it may follow, if more than the default. */
  readonly most?: number;
  readonly tell: (subject: FoundSubject, now: News) => void;
}

/** What a subject is now; an error while nobody knows. */
export type News = Extract<InletAnswer, { is: 'value' | 'lamp' | 'error' }>;

interface Following {
  readonly subscriber: Subscriber;
  readonly subject: FoundSubject;
  told: string;
  toldAt: number;
  /** Until when it is told, by `performance.now()`. */
  until: number;
}

const mostOfOne = 200;
const mostInAll = 6000;
/** What changes all the time is told so often and no more. */
const thinMs = 40;
const tickMs = 250;
const lapseMs = 120_000;

/** Tells subscribers what has changed of what they follow, thinned. */
export class Followers {
  private readonly all = new Map<string, Following>();
  private readonly index = new ReadingIndex();
  private readonly counts = new Map<string, number>();
  private readonly due = new Set<string>();
  private ticking: NodeJS.Timeout | undefined;
  private telling: NodeJS.Timeout | undefined;

  /** Returns what it is now. */
  follow(subscriber: Subscriber, subject: FoundSubject): Result<News, InletError> {
    const id = keyOf(subscriber.id, subject.id);
    const before = this.all.get(id);
    const count = this.counts.get(subscriber.id) ?? 0;
    const most = subscriber.most ?? mostOfOne;
    if (!before && (count >= most || this.all.size >= mostInAll))
      return fail({ code: 'too-many', message: `At most ${most} readings and lamps can be followed.` });
    if (!before) this.counts.set(subscriber.id, count + 1);
    const now = newsOf(subject);
    const until = subscriber.lapses ? performance.now() + lapseMs : Infinity;
    this.all.set(id, { subscriber, subject, told: JSON.stringify(now), toldAt: performance.now(), until });
    this.index.put(id, subject.refs);
    this.ticking ??= setInterval(() => this.tick(), tickMs);
    this.ticking.unref();
    return ok(now);
  }

  /** @param subject everything when left out */
  unfollow(subscriber: string, subject?: string): void {
    for (const [id, each] of this.all)
      if (each.subscriber.id === subscriber && (subject === undefined || each.subject.id === subject)) this.end(id);
  }

  onReadings(device: string, keys: readonly string[]): void {
    if (this.all.size === 0) return;
    for (const key of keys) for (const id of this.index.usersOf(readingId({ device, key }))) this.due.add(id);
    if (this.due.size > 0) this.soon(0);
  }

  stop(): void {
    clearInterval(this.ticking);
    clearTimeout(this.telling);
    this.all.clear();
  }

  private soon(ms: number): void {
    this.telling ??= setTimeout(() => this.tellDue(), ms);
  }

  private tellDue(): void {
    this.telling = undefined;
    const now = performance.now();
    for (const id of this.due) {
      const each = this.all.get(id);
      if (each && now - each.toldAt < thinMs) continue;
      this.due.delete(id);
      if (each) this.tell(each);
    }
    if (this.due.size > 0) this.soon(thinMs / 2);
  }

  private tell(each: Following): void {
    const news = newsOf(each.subject);
    const text = JSON.stringify(news);
    if (text === each.told) return;
    each.told = text;
    each.toldAt = performance.now();
    each.subscriber.tell(each.subject, news);
  }

  private tick(): void {
    const now = performance.now();
    for (const [id, each] of this.all) {
      if (each.until < now) this.end(id);
      else if (each.subject.hasClock) this.tell(each);
    }
    if (this.all.size > 0) return;
    clearInterval(this.ticking);
    this.ticking = undefined;
  }

  private end(id: string): void {
    const each = this.all.get(id);
    if (!each || !this.all.delete(id)) return;
    this.index.remove(id);
    this.due.delete(id);
    const { id: subscriber } = each.subscriber;
    const count = (this.counts.get(subscriber) ?? 1) - 1;
    if (count > 0) this.counts.set(subscriber, count);
    else this.counts.delete(subscriber);
  }
}

const keyOf = (subscriber: string, subject: string): string => `${subscriber}\n${subject}`;

export const newsOf = (subject: FoundSubject): News =>
  subject.now() ?? { is: 'error', code: 'not-known', message: `${subject.name} is not known now.` };
