/**
 * What waits to go out to one device, by class: stops first, then what is urgent, the ordinary, our own questions, and
 * last what is continuous. Within a class the order stays as it came.
 */
export type SendClass = 'stop' | 'urgent' | 'ordinary' | 'own' | 'continuous';

const order: readonly SendClass[] = ['stop', 'urgent', 'ordinary', 'own', 'continuous'];

interface Waiting<T> {
  readonly class: SendClass;
  /** Of several with the same key only the newest is wanted (a fader, a stick). */
  readonly newest?: string;
  readonly item: T;
}

interface OutboxLimits {
  /** The most requests that may wait for their answers at once. */
  readonly window: number;
  /** The smallest pause between two messages, in milliseconds. */
  readonly gapMs: number;
  /** The most that are kept. */
  readonly maxWaiting: number;
}

type Next<T> =
  | { readonly is: 'item'; readonly item: T }
  | { readonly is: 'wait'; readonly forMs: number }
  | { readonly is: 'nothing' };

export class Outbox<T> {
  private readonly queues = new Map<SendClass, Waiting<T>[]>(order.map((each) => [each, []]));
  private count = 0;
  private lastAt = -Infinity;

  constructor(private readonly limits: OutboxLimits) {}

  get size(): number {
    return this.count;
  }

  /** True when something can go out at once, past the queues. A stop waits for no answer and no window. */
  isFree(now: number, inFlight: number, as: SendClass): boolean {
    if (now - this.lastAt < this.limits.gapMs) return false;
    if (as === 'stop') return (this.queues.get('stop')?.length ?? 0) === 0;
    return this.count === 0 && inFlight < this.limits.window;
  }

  /** Something has gone out. */
  sent(now: number): void {
    this.lastAt = now;
  }

  /** Puts something in its place. Returns what it replaces, or itself when there is no room. */
  put(waiting: Waiting<T>): T | undefined {
    const queue = this.queues.get(waiting.class) ?? [];
    const older = waiting.newest === undefined ? -1 : queue.findIndex((each) => each.newest === waiting.newest);
    if (older >= 0) {
      const [replaced] = queue.splice(older, 1, waiting);
      return replaced?.item;
    }
    if (this.count >= this.limits.maxWaiting && waiting.class !== 'stop') return waiting.item;
    queue.push(waiting);
    this.count += 1;
    return undefined;
  }

  /** What goes out next, or how long to wait for the gap. With a full window only stops go out; an answer frees it. */
  next(now: number, inFlight: number): Next<T> {
    if (this.count === 0) return { is: 'nothing' };
    const full = inFlight >= this.limits.window;
    for (const name of full ? (['stop'] as const) : order) {
      const queue = this.queues.get(name);
      if (!queue || queue.length === 0) continue;
      const forMs = this.lastAt + this.limits.gapMs - now;
      if (forMs > 0) return { is: 'wait', forMs };
      const first = queue.shift();
      this.count -= 1;
      if (first) return { is: 'item', item: first.item };
    }
    return { is: 'nothing' };
  }

  /** Takes out what fits, in its order, except stops. */
  take(fits: (item: T) => boolean): T[] {
    const taken: T[] = [];
    if (this.count === 0) return taken;
    for (const [name, queue] of this.queues) {
      if (name === 'stop') continue;
      const kept = queue.filter(({ item }) => !fits(item));
      for (const { item } of queue) if (fits(item)) taken.push(item);
      queue.splice(0, queue.length, ...kept);
    }
    this.count -= taken.length;
    return taken;
  }

  /** What goes out before something of this class that is put now, except what may still come and overtake it. */
  ahead(as: SendClass): T[] {
    return order
      .slice(0, order.indexOf(as) + 1)
      .flatMap((name) => (this.queues.get(name) ?? []).map(({ item }) => item));
  }

  /** The last class in which something that fits waits; `undefined` when nothing does. */
  classOf(fits: (item: T) => boolean): SendClass | undefined {
    return order.findLast((name) => this.queues.get(name)?.some(({ item }) => fits(item)));
  }

  /** Empties it; returns what was waiting. */
  clear(): T[] {
    const all = order.flatMap(
      (name) =>
        this.queues
          .get(name)
          ?.splice(0)
          .map(({ item }) => item) ?? [],
    );
    this.count = 0;
    return all;
  }
}
