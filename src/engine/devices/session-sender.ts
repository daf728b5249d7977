import {
  confirmQuestions,
  encodeCommand,
  encodeOwn,
  expectationsOf,
  type DriverCommand,
  type DriverDocument,
  type EncodedCommand,
  type OwnMessage,
} from '../../core/driver';
import { downCauses, Outbox, type OpenSend, type OwnPurpose, type SendClass } from '../../core/session';
import type { Outgoing } from '../../core/wire';
import type { DeviceLink, Lane } from './links';
import type { MaskedWire } from './masked-wire';
import { channelOf, classOfStop, dropEnded, maxWaiting, tellDropped, titleOf, type Outward } from './outward';
import { Requests, type SentRequest } from './requests';
import { SendBook, type SendListener } from './send-book';
import type { PreparedSend, SendWatch, SessionHooks, SessionOptions } from './session-types';
import { harmlessQuestion, Stopwatch } from './stopwatch';
import type { SyncProgress } from './sync-progress';

interface SenderHooks {
  readonly freshReading: SessionHooks['freshReading'];
  readonly onWire: MaskedWire;
  /** The device does not take what it is sent. */
  readonly onStuck: () => void;
  readonly onFault: (text: string) => void;
  readonly onUnanswered: SessionHooks['onUnanswered'];
  /** True while the state of the device is being fetched. */
  readonly isSyncing: () => boolean;
}

type Command = Extract<Outward, { is: 'command' }>;

/** The way out to one device: what waits for its turn, what has left and is not answered yet, what has not had its effect yet. */
export class SessionSender {
  readonly requests: Requests;
  readonly book: SendBook;
  readonly stopwatch = new Stopwatch();
  private readonly outbox: Outbox<Outward>;
  private readonly isAnswered: boolean;
  private link: DeviceLink | undefined;
  private pumpTimer: NodeJS.Timeout | undefined;
  private nextRef = 1;
  /** Questions that the device does not know. */
  private readonly leftOut = new Set<string>();

  constructor(
    private readonly options: SessionOptions,
    private readonly sync: SyncProgress,
    private readonly hooks: SenderHooks,
  ) {
    const { link, answers } = options.driver.document;
    this.isAnswered = answers !== 'none';
    // A message with a connection of its own waits in the outbox, where its time to be answered has not begun.
    const window = link.perMessage ? 1 : link.window;
    this.outbox = new Outbox({ window: this.isAnswered ? window : Infinity, gapMs: link.gapMs, maxWaiting });
    // Over datagrams an answer may never come, and nothing keeps the order then; over connections that are closed none comes later.
    const inOrder = answers === 'in-order';
    const keepsOrder = inOrder && link.kind !== 'udp' && !link.perMessage;
    this.requests = new Requests(inOrder, keepsOrder, (over) => this.onRequestsOver(over));
    this.book = new SendBook(hooks.freshReading, (own) => this.queue(own, 'poll'));
  }

  open(link: DeviceLink): void {
    this.link = link;
  }

  /** The connection is over: everything that waits or is under way is lost, and says so. */
  close(): void {
    this.link = undefined;
    this.stopwatch.stop();
    this.requests.clear();
    this.leftOut.clear();
    clearTimeout(this.pumpTimer);
    this.pumpTimer = undefined;
    const reason = 'The connection broke before it was sent.';
    for (const left of this.outbox.clear())
      if (left.is === 'command') left.listener({ outcome: 'lost', why: 'cut-off', ms: 0, reason });
    this.book.lose('cut-off', 'The connection broke before the device answered.');
  }

  /** Messages that wait for their turn. */
  get waiting(): number {
    return this.outbox.size;
  }

  /** Sends a command: at once where nothing is in its way, else in its turn. */
  send(
    prepared: PreparedSend,
    listener: SendListener,
    wanted: SendClass,
    watch: SendWatch | undefined,
    owners: readonly string[],
  ): void {
    const now = performance.now();
    const item: Command = { is: 'command', prepared, listener, watch, owners };
    const as = wanted === 'stop' ? classOfStop(this.outbox, prepared, owners) : wanted;
    dropEnded(this.outbox, prepared);
    if (this.outbox.isFree(now, this.requests.inFlight, as)) return this.sendCommand(item, now);
    if (watch?.onQueued) {
      const ahead = this.outbox.ahead(as);
      watch.onQueued(ahead.slice(0, 5).map(titleOf), ahead.length, this.requests.inFlight);
    }
    const newest = as === 'continuous' ? channelOf(prepared) : undefined;
    tellDropped(this.outbox.put({ class: as, newest, item }));
    this.pump();
  }

  /** A question of our own takes its turn. One that is under way already is not asked twice. */
  queue(own: OwnMessage, purpose: OwnPurpose, from?: number): void {
    const paging = own.ask === undefined ? undefined : this.options.driver.document.questions[own.ask]?.paging;
    if (purpose === 'poll' && own.ask !== undefined && (this.leftOut.has(own.ask) || this.requests.isAsking(own)))
      return;
    if (purpose === 'sync') this.sync.asked();
    this.outbox.put({
      class: 'own',
      newest: undefined,
      item: { is: 'own', own, purpose, from: from ?? paging?.first },
    });
    this.pump();
  }

  /** This question is not polled any more on this connection. */
  leaveOut(question: string): void {
    this.leftOut.add(question);
  }

  /** Sends a message of the greeting at once: nothing else goes out before it. */
  greet(own: OwnMessage, texts: Readonly<Record<string, string>>): void {
    this.sendOwn(own, 'greeting', texts, undefined);
  }

  /** Times a question that changes nothing. Returns false when this kind of device has none. */
  time(done: (ms: number | undefined) => void): boolean {
    const question = harmlessQuestion(this.options.driver);
    if (!question) return false;
    this.stopwatch.start(question, this.options.driver.document.link.answerWithinMs, done);
    const item = { is: 'own', own: question.own, purpose: 'poll', from: undefined } as const;
    this.outbox.put({ class: 'own', newest: undefined, item });
    this.pump();
    return true;
  }

  /** Asks for the next piece of a list, until all that the device says there are have come. */
  askNextPage({ name, from, purpose }: SentRequest): boolean {
    const { driver } = this.options;
    const paging = name === undefined ? undefined : driver.document.questions[name]?.paging;
    const [own] = (name === undefined ? undefined : driver.asked.get(name)) ?? [];
    if (!paging || !own || from === undefined) return false;
    const count = Number(this.hooks.freshReading(paging.count) ?? 0);
    const next = from + paging.step;
    if (next >= paging.first + count) return false;
    const isSync = purpose === 'sync';
    if (isSync) this.sync.askedAgain();
    this.queue(own, isSync ? 'sync' : 'poll', next);
    return true;
  }

  /** Lets out what waits, as far as window and gap allow. */
  pump(): void {
    clearTimeout(this.pumpTimer);
    this.pumpTimer = undefined;
    for (;;) {
      const now = performance.now();
      const next = this.outbox.next(now, this.requests.inFlight);
      if (next.is === 'nothing') return;
      if (next.is === 'wait') {
        this.pumpTimer = setTimeout(() => this.pump(), next.forMs);
        return;
      }
      const { item } = next;
      if (item.is === 'command') this.sendCommand(item, now);
      else this.sendOwn(item.own, item.purpose, {}, item.from);
      if (!this.link) return;
    }
  }

  private sendCommand({ prepared, listener, watch }: Command, now: number): void {
    const { link } = this;
    const isAnswered = this.isAnswered && !prepared.command.unanswered;
    const ref = this.nextRef++;
    const encoded = prepared.encoded ?? this.encodeNow(prepared, ref, listener);
    if (!link || !encoded) return;
    // First of all the bytes: everything else can wait.
    const written = link.write(encoded.out, ref, laneOf(prepared.command));
    this.outbox.sent(now);
    if (!written.ok) {
      const reason = written.stuck ? downCauses['not-reading'].tryNext : written.reason;
      listener({ outcome: 'lost', why: 'cut-off', ms: 0, reason });
      if (written.stuck) this.hooks.onStuck();
      return;
    }
    const shown = this.hooks.onWire('out', written.bytes, undefined, undefined, {
      name: prepared.id,
      press: watch?.press,
      prepared,
    });
    watch?.onBytes?.(shown);
    const { command } = prepared;
    const { confirm } = command;
    const expectations = expectationsOf(command, encoded.params, this.book.expected);
    const { answerWithinMs } = this.options.driver.document.link;
    const id = String(ref);
    if (isAnswered)
      this.requests.begin({
        ref,
        name: prepared.id,
        sendId: id,
        press: watch?.press,
        purpose: undefined,
        member: undefined,
        from: undefined,
        sentAt: now,
        deadlineAt: now + answerWithinMs,
      });
    if (!isAnswered && !expectations) return listener({ outcome: 'sent', why: 'one-way', ms: 0 });
    const again = againFor(command, this.options.driver.document.link, now);
    const lastTry = again ? again.everyMs * (again.left + 1) : 0;
    const deadlineAt = now + Math.max(confirm?.withinMs ?? answerWithinMs, lastTry);
    const resend = () => this.resend(encoded.out, ref, prepared, watch);
    const begun = { id, sentAt: now, deadlineAt, answered: isAnswered, expectations, again };
    const questions = confirmQuestions(this.options.driver, command, encoded.params);
    const everyMs = confirm?.by === 'readings' ? confirm.askEveryMs : 0;
    const asks = questions.length > 0 ? { questions, everyMs } : undefined;
    this.book.begin(begun, asks, { listener, watch, resend });
  }

  /** Puts out once more what nothing has answered, with its number. */
  private resend(out: Outgoing, ref: number, prepared: PreparedSend, watch: SendWatch | undefined): void {
    const { link } = this;
    if (!link) return;
    const now = performance.now();
    const written = link.write(out, ref, laneOf(prepared.command));
    this.outbox.sent(now);
    if (!written.ok) return written.stuck ? this.hooks.onStuck() : this.hooks.onFault(written.reason);
    const about = { name: prepared.id, press: watch?.press, prepared };
    watch?.onBytes?.(this.hooks.onWire('out', written.bytes, 'sent again', undefined, about));
    this.requests.askedAgain(ref, now + this.options.driver.document.link.answerWithinMs);
  }

  private encodeNow(prepared: PreparedSend, ref: number, listener: SendListener): EncodedCommand | undefined {
    // Two steps in quick succession are two: the second one begins where the first one leads to.
    const readingNow = this.book.expected;
    const encoded = encodeCommand(this.options.driver, prepared.id, prepared.given, { ref, readingNow });
    if (encoded.ok) return encoded.value;
    listener({ outcome: 'lost', why: 'bad-value', ms: 0, reason: encoded.error.message });
    return undefined;
  }

  private sendOwn(
    own: OwnMessage,
    purpose: OwnPurpose,
    texts: Readonly<Record<string, string>>,
    from: number | undefined,
  ): void {
    const { driver, user, password } = this.options;
    const ref = this.nextRef++;
    const known = { user, password, ...texts, ...(from === undefined ? {} : { from: String(from) }) };
    const message = encodeOwn(driver, own, known, ref, this.hooks.freshReading);
    if (!message.ok) {
      // A poll that carries a reading waits until that is known.
      if (purpose === 'poll') return;
      this.hooks.onFault(message.error.message);
      return purpose === 'sync' ? this.sync.answered() : undefined;
    }
    const now = performance.now();
    this.stopwatch.sent(own, ref, now);
    const written = this.link?.write(message.value.out, ref);
    this.outbox.sent(now);
    if (!written) return;
    if (!written.ok) {
      if (written.stuck) this.hooks.onStuck();
      return this.hooks.onFault(written.reason);
    }
    const secrets = Object.values(texts).map((text) => utf8.encode(text));
    this.hooks.onWire('out', written.bytes, purpose, secrets, { name: own.ask });
    // A greeting is answered by what the next step expects, unless answers name their request anyway.
    const isCounted = this.isAnswered && (purpose !== 'greeting' || driver.document.answers === 'matched');
    if (!isCounted) return purpose === 'sync' ? this.sync.answered() : undefined;
    const deadlineAt = now + driver.document.link.answerWithinMs;
    const { ask: name, member } = own;
    this.requests.begin({ ref, name, sendId: undefined, purpose, member, from, sentAt: now, deadlineAt });
  }

  /** Answers that did not come: the window opens, and what was asked to know the state is asked again. */
  private onRequestsOver(over: readonly SentRequest[]): void {
    this.hooks.onUnanswered(over.length);
    for (const { ref, name, purpose, member, from } of over) {
      if (this.options.driver.document.answers === 'matched') this.link?.forget(ref);
      // Where answers come in order, asking again would only bring two.
      if (purpose !== 'sync' || name === undefined || !this.hooks.isSyncing() || this.requests.get(ref)) continue;
      const own = this.options.driver.sync.find((each) => each.ask === name && each.member?.index === member?.index);
      if (!own) continue;
      this.sync.askedAgain();
      this.queue(own, 'sync', from);
    }
    this.pump();
  }
}

const utf8 = new TextEncoder();

const laneOf = ({ class: as, stop }: DriverCommand): Lane => (as === 'ordinary' && !stop ? 'others' : 'movements');

/** When a command is sent again if nothing answers, and how often; `undefined` where its driver does not say that this is harmless. */
function againFor({ again }: DriverCommand, link: DriverDocument['link'], now: number): OpenSend['again'] {
  if (!again || !link.again || link.again.times === 0) return undefined;
  const { times, everyMs } = link.again;
  return { at: now + everyMs, everyMs, left: times };
}
