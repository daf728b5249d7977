import { applyDiff, type ClientMessage } from '../../core/live';
import { Listeners } from './listeners';

interface Topic {
  readonly listeners: Listeners<[]>;
  /** `undefined` until the first whole; `null` when the engine says there is none. */
  data: unknown;
  n: number;
  /** A difference was missed: those that follow wait for the whole. */
  broken: boolean;
}

/** A screen that is left and entered again within this time keeps its topic. */
const keptMs = 500;
/** A topic that was asked for ahead is kept this long for somebody to listen. */
const aheadMs = 5000;
const topicsPerMessage = 32;

/** The topics that this screen follows, kept up to date by numbered differences. The whole is asked for again when one was missed. */
export class TopicCache {
  private readonly topics = new Map<string, Topic>();
  private missedCount = 0;

  constructor(private readonly say: (message: ClientMessage) => boolean) {}

  /** How many differences have not come. */
  get missed(): number {
    return this.missedCount;
  }

  /** The topic as it is now: `undefined` while not known, `null` when there is none. */
  readonly get = (name: string): unknown => this.topics.get(name)?.data;

  readonly listen = (name: string, listener: () => void): (() => void) => {
    const known = this.topics.get(name);
    const topic = known ?? this.enter(name);
    if (!known) this.say({ t: 'sub', topics: [name] });
    const remove = topic.listeners.add(listener);
    return () => {
      remove();
      if (topic.listeners.size === 0) this.leaveLater(name, topic, keptMs);
    };
  };

  /** Topics that are asked for before anybody listens to them. */
  keepAhead(names: readonly string[]): void {
    for (const name of names) if (!this.topics.has(name)) this.leaveLater(name, this.enter(name), aheadMs);
  }

  /** A new connection is open: everything is followed anew but what was asked for on it already. */
  onOpen(asked: readonly string[]): void {
    const names = [...this.topics.keys()].filter((name) => !asked.includes(name));
    for (const topic of this.topics.values()) topic.broken = true;
    for (let i = 0; i < names.length; i += topicsPerMessage)
      this.say({ t: 'sub', topics: names.slice(i, i + topicsPerMessage) });
  }

  onWhole(name: string, n: number, data: unknown): void {
    const topic = this.topics.get(name);
    if (!topic) return;
    Object.assign(topic, { n, data, broken: false });
    topic.listeners.tell();
  }

  onDiff(name: string, n: number, diff: unknown): void {
    const topic = this.topics.get(name);
    if (!topic || topic.broken || topic.data === undefined || topic.data === null) return;
    if (n !== topic.n + 1) {
      topic.broken = true;
      this.missedCount += 1;
      this.say({ t: 'again', topic: name });
      return;
    }
    topic.n = n;
    topic.data = applyDiff(name, topic.data, diff);
    topic.listeners.tell();
  }

  private enter(name: string): Topic {
    const topic: Topic = { listeners: new Listeners(), data: undefined, n: 0, broken: false };
    this.topics.set(name, topic);
    return topic;
  }

  private leaveLater(name: string, topic: Topic, afterMs: number): void {
    setTimeout(() => {
      if (topic.listeners.size > 0 || this.topics.get(name) !== topic) return;
      this.topics.delete(name);
      this.say({ t: 'unsub', topics: [name] });
    }, afterMs);
  }
}
