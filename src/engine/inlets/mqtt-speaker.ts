import {
  answerLine,
  fitsFilter,
  isOwnTopic,
  onlineTopic,
  publishedTopic,
  requestOfTopic,
  requestTopic,
  topicText,
  usualPublished,
  type InletAnswer,
} from '../../core/inlet';
import { longestInletText, type InletData } from '../../core/show';
import { type News, type Subscriber } from './followers';
import type { Listener } from './inlet-listener';
import type { FoundSubject } from './subjects';

/** The longest message that can be a request, in bytes of its payload. */
const mostPayloadBytes = 2000;
const mostPublished = 3000;
/** How often new readings and edited controls are looked for. */
const lookMs = 3000;
/** So many are published at once; presses may come between. */
const slice = 25;

/** Something that was published by somebody. */
interface Publication {
  readonly topic: string;
  readonly payload: Uint8Array;
  readonly from: string;
  /** Of a caller with a token of its own. */
  readonly caller?: string;
  /** The broker kept it: nobody has asked for it just now. */
  readonly isOld: boolean;
  /** Its sender does not know whether it came before. */
  readonly isRepeated: boolean;
  /** Returns false where no answer can go. */
  readonly answer: (text: string) => boolean;
}

type Publish = (topic: string, payload: string, retain: boolean) => void;

/** What both kinds of MQTT inlet share: what a message means, and the lamps and readings that are kept published. */
export class MqttSpeaker {
  private readonly published = new Map<
    string,
    { readonly topic: string; readonly of: object; readonly subject: FoundSubject }
  >();
  /** The last value of each topic. */
  private readonly told = new Map<string, string>();
  private readonly taken = new Map<string, string>();
  private queue: FoundSubject[] = [];
  private looking: NodeJS.Timeout | undefined;
  private isOpen = false;
  private readonly subscriber: Subscriber;

  constructor(
    private readonly data: InletData,
    private readonly listener: Listener,
    private readonly publish: Publish,
    id: string,
  ) {
    this.subscriber = { id, lapses: false, most: mostPublished, tell: (subject, now) => this.tell(subject, now) };
  }

  start(): void {
    this.isOpen = true;
    this.publish(onlineTopic(this.data), 'true', true);
    this.look();
    this.looking = setInterval(() => this.look(), lookMs);
    this.looking.unref();
  }

  close(): void {
    this.isOpen = false;
    clearInterval(this.looking);
    this.listener.followers.unfollow(this.subscriber.id);
  }

  /** Returns false for a source that sends too much. */
  hear({ topic, payload, from, caller, isOld, isRepeated, answer }: Publication): boolean {
    const { data, listener } = this;
    // What the program itself has published comes back where somebody listens to everything.
    if (isOwnTopic(data, topic)) return true;
    const said = Buffer.from(payload.subarray(0, mostPayloadBytes)).toString('utf8');
    const asked = requestOfTopic(data, topic, said);
    const text = topicText(topic, said);
    const refuse = (why: string) => {
      listener.onRefused(from, why);
      return true;
    };
    if (payload.length > mostPayloadBytes || text.length > longestInletText)
      return asked ? refuse('message too long') : true;
    if (asked && isOld) return refuse('a retained request, which may be old');
    if (asked && isRepeated) return refuse('sent again: it may have been carried out already');
    const request = topicText(topic.slice(requestTopic(data).length + 1), said);
    return listener.onHeard({
      text,
      request: () => asked,
      from,
      ...(caller === undefined ? {} : { caller }),
      answer: (given: InletAnswer) => {
        const line = `${request} ${answerLine(given)}`;
        return asked && answer(line) ? Buffer.from(line) : undefined;
      },
      subscriber: this.subscriber,
    });
  }

  /** Publishes what is new, and takes back what is gone. */
  private look(): void {
    const filters = this.data.publishes ?? usualPublished;
    const wanted = this.listener.subjects.wanted(
      (address) => filters.some((filter) => fitsFilter(filter, address.slice(1))),
      filters.every((filter) => filter.startsWith('lamp/')),
    );
    const ids = new Set(wanted.map(({ id }) => id));
    for (const [id, { topic, subject }] of this.published) {
      if (ids.has(id)) continue;
      this.listener.followers.unfollow(this.subscriber.id, subject.id);
      this.published.delete(id);
      this.clear(topic, id);
    }
    const isIdle = this.queue.length === 0;
    this.queue = wanted.filter((subject) => this.published.get(subject.id)?.of !== subject.of);
    if (isIdle && this.queue.length > 0) this.publishSlice();
  }

  private publishSlice(): void {
    if (!this.isOpen) return;
    for (const subject of this.queue.splice(0, slice)) {
      const now = this.listener.followers.follow(this.subscriber, subject);
      if (!now.ok) {
        this.queue = [];
        return this.listener.onRefused('this program', `only ${mostPublished} topics are published`);
      }
      const before = this.published.get(subject.id);
      const topic = this.topicFor(subject);
      if (before && before.topic !== topic) this.clear(before.topic, subject.id);
      this.published.set(subject.id, { topic, of: subject.of, subject });
      this.put(topic, now.value);
    }
    if (this.queue.length > 0) setImmediate(() => this.publishSlice());
  }

  /** Of two with the same name the second is published by its id. */
  private topicFor({ id, address }: FoundSubject): string {
    const topic = publishedTopic(this.data, address);
    const owner = this.taken.get(topic) ?? id;
    if (owner !== id) return publishedTopic(this.data, `/${id.split(' ').join('/')}`);
    this.taken.set(topic, id);
    return topic;
  }

  private tell(subject: FoundSubject, now: News): void {
    // What was asked for with “follow” besides is published in the same way.
    this.put(this.published.get(subject.id)?.topic ?? publishedTopic(this.data, subject.address), now);
  }

  private put(topic: string, now: News): void {
    const payload = payloadOf(now);
    if ((this.told.get(topic) ?? '') === payload) return;
    this.told.set(topic, payload);
    this.publish(topic, payload, true);
    this.listener.onTold(Buffer.from(topicText(topic, payload)));
  }

  /** An empty message takes a retained one back (MQTT 3.1.1 and 5.0, 3.3.1.3). */
  private clear(topic: string, owner: string): void {
    if (this.taken.get(topic) === owner) this.taken.delete(topic);
    if (this.told.delete(topic)) this.publish(topic, '', true);
  }
}

/** A value that nobody can vouch for is no value: it is taken back until it is known again. */
function payloadOf(now: News): string {
  switch (now.is) {
    case 'value':
      return now.isFresh ? String(now.value) : '';
    case 'lamp':
      return `${now.show} ${now.word}`.trim();
    case 'error':
      return '';
  }
}
