import {
  decodeSaid,
  encodeCommand,
  encodeOwn,
  expectationsOf,
  type DecodedReply,
  type EncodedCommand,
  type OwnMessage,
  type ReadingChange,
} from '../../core/driver';
import {
  acceptsPresses,
  downCauses,
  initialSession,
  noEvidence,
  Outbox,
  step,
  whyUnreachable,
  type Evidence,
  type Link,
  type OwnPurpose,
  type SendClass,
  type SessionEffect,
  type SessionEvent,
  type SessionState,
  type SessionTimer,
} from '../../core/session';
import type { Answer, Arrived } from '../../core/wire';
import { FloodWatch } from './flood-watch';
import { Inbox } from './inbox';
import { ReadTurn } from './read-turn';
import { openLink, type DeviceLink } from './links';
import { maskedWire, type MaskedWire } from './masked-wire';
import { channelOf, classOfStop, maxWaiting, tellDropped, type Outward } from './outward';
import { Requests, type SentRequest } from './requests';
import type { PreparedSend, SessionHooks, SessionOptions } from './session-types';
import { SendBook, type SendListener } from './send-book';
import { harmlessQuestion, Stopwatch } from './stopwatch';

const nothing = new Uint8Array();
/** A frame that takes longer than this to come is shown as far as it has come. */
const restAfterMs = 200;

/**
 * One device's connection: runs the session's reducer on a real link and keeps account of what was sent. It never throws,
 * and a slow, silent or babbling device costs the others nothing.
 */
export class DeviceSession {
  private state: SessionState = initialSession;
  private link: Link = { word: 'off' };
  private lastLink: Link | undefined;
  private evidence: Evidence = noEvidence;
  private faults = 0;
  private readonly flood = new FloodWatch();
  private readonly timers = new Map<SessionTimer, NodeJS.Timeout>();
  private pumpTimer: NodeJS.Timeout | undefined;
  private restTimer: NodeJS.Timeout | undefined;
  /** So many bytes of the frame that is coming are on the wire already. */
  private restShown = 0;
  private wire: DeviceLink | undefined;
  private readonly outbox: Outbox<Outward>;
  private readonly requests: Requests;
  private readonly inbox: Inbox;
  private readonly book: SendBook;
  private changes: ReadingChange[] = [];
  private syncLeft = 0;
  private nextRef = 1;
  private readonly stopwatch = new Stopwatch();
  private lastHeardAt = 0;
  private lastAnswerMs: number | undefined;
  private heardCounts = { unasked: 0, answers: 0, unreadable: 0 };
  private readonly onWire: MaskedWire;
  private readonly answered: boolean;

  constructor(
    private readonly options: SessionOptions,
    private readonly hooks: SessionHooks,
    readTurn = new ReadTurn(),
  ) {
    const { link, answers } = options.driver.document;
    this.answered = answers !== 'none';
    this.outbox = new Outbox({ window: this.answered ? link.window : Infinity, gapMs: link.gapMs, maxWaiting });
    // Over datagrams an answer may never come, and nothing keeps the order then.
    this.requests = new Requests(answers === 'in-order' && link.kind !== 'udp', (over) => this.onRequestsOver(over));
    this.inbox = new Inbox(
      readTurn,
      (frame) => this.readFrame(frame),
      () => this.reportChanges(),
      (on) => {
        this.flood.onHold(on);
        if (on) this.wire?.pause();
        else this.wire?.resume();
      },
      (count) => {
        this.flood.onDropped();
        this.fault(`${count} frames came faster than they could be read and were dropped.`);
      },
    );
    this.book = new SendBook(hooks.freshReading, (ask) => {
      const message = options.driver.questions.get(ask);
      if (message) this.queueOwn({ ask, message }, 'poll');
    });
    this.onWire = maskedWire(hooks.onWire, options.user, options.password);
  }

  /** Frames so far that could not be read. */
  get faultCount(): number {
    return this.faults;
  }

  /** When it reported faster than could be read last, in milliseconds since 1970; 0: never. */
  get floodedAt(): number {
    return this.flood.floodedAt;
  }

  /** When something was heard last, in milliseconds since 1970 (0: never), and how long the last answer took. */
  get pulse(): { readonly heardAt: number; readonly ms: number | undefined } {
    return { heardAt: this.lastHeardAt, ms: this.link.word === 'up' ? this.lastAnswerMs : undefined };
  }

  /** What came over the present connection: reports that nobody had asked for, answers, and what could not be read. */
  get counts(): { readonly unasked: number; readonly answers: number; readonly unreadable: number } {
    return this.heardCounts;
  }

  /**
   * Times a question that changes nothing.
   *
   * @param done told the milliseconds, or `undefined` when no answer came in time
   * @returns false when nothing can be asked of this kind of device, or it is not up (any more)
   */
  timeQuestion(done: (ms: number | undefined) => void): boolean {
    const question = harmlessQuestion(this.options.driver);
    if (!question || this.link.word !== 'up') return false;
    this.stopwatch.start(question, this.options.driver.document.link.answerWithinMs, done);
    const item = { is: 'own', own: question.own, purpose: 'poll', from: undefined } as const;
    this.outbox.put({ class: 'own', newest: undefined, item });
    this.pump();
    return true;
  }

  start(): void {
    this.dispatch({ type: 'enable' });
  }

  /** Whether this kind of device can be asked something that changes nothing. */
  get hasQuestion(): boolean {
    return harmlessQuestion(this.options.driver) !== undefined;
  }

  /** Another try now, asked for by a person. */
  callAgain(): void {
    this.dispatch({ type: 'call again' });
  }

  /** Ends the connection and every open send. May be called twice. */
  stop(): void {
    this.dispatch({ type: 'disable' });
  }

  /**
   * Sends a command: at once where nothing is in its way, else in its turn. The listener may hear before this returns.
   * False when the device cannot be spoken to, so that nothing of it has gone out or will.
   */
  send(
    prepared: PreparedSend,
    listener: SendListener,
    wanted: SendClass = prepared.command.class,
    onBytes?: (bytes: Uint8Array) => void,
    owners: readonly string[] = [],
  ): boolean {
    if (!this.wire || !this.takesSends(wanted)) {
      listener({ outcome: 'lost', why: 'link-down', ms: 0, reason: whyUnreachable(this.link, this.lastLink) });
      return false;
    }
    const now = performance.now();
    const item = { is: 'command', prepared, listener, onBytes, owners } as const;
    const as = wanted === 'stop' ? classOfStop(this.outbox, prepared, owners) : wanted;
    if (this.outbox.isFree(now, this.requests.inFlight, as)) {
      this.sendCommand(item, now);
      return true;
    }
    const newest = as === 'continuous' ? channelOf(prepared) : undefined;
    tellDropped(this.outbox.put({ class: as, newest, item }));
    this.pump();
    return true;
  }

  /** An owed stop goes out as soon as the device can be spoken to, before it is called `up`. */
  private takesSends(as: SendClass): boolean {
    if (acceptsPresses(this.link.word)) return true;
    return as === 'stop' && (this.state.at === 'syncing' || this.state.at === 'up' || this.state.at === 'one-way');
  }

  private dispatch(event: SessionEvent): void {
    const { driver, user, password, through } = this.options;
    const next = step(
      {
        driver,
        user,
        password,
        through,
        readingNow: this.hooks.freshReading,
        now: performance.now(),
        random: Math.random(),
      },
      this.state,
      event,
    );
    this.state = next.state;
    for (const effect of next.effects) {
      this.run(effect);
      // A write that fails ends the session within its own effects; what was still to do belongs to the past.
      if (this.state !== next.state) return;
    }
    if (next.effects.length > 0) this.finishSync();
  }

  private run(effect: SessionEffect): void {
    switch (effect.do) {
      case 'connect':
        return this.connect(effect.generation);
      case 'close':
        return this.close();
      case 'send':
        if (effect.purpose === 'greeting') return this.sendOwn(effect.own, effect.purpose, effect.texts, undefined);
        return this.queueOwn(effect.own, effect.purpose);
      case 'payOwed':
        return this.hooks.payOwed();
      case 'startTimer':
        return this.startTimer(effect.timer, effect.afterMs);
      case 'stopTimers':
        for (const timer of this.timers.values()) clearTimeout(timer);
        return this.timers.clear();
      case 'link':
        return this.setLink(effect.link);
    }
  }

  private connect(generation: number): void {
    this.syncLeft = 0;
    this.setEvidence(noEvidence);
    const isNow = () => generation === this.state.generation;
    this.wire = openLink(this.options.driver.document, this.options, {
      onOpen: () => {
        if (isNow() && this.wire?.proves) this.setEvidence({ ...this.evidence, connected: true });
        this.dispatch({ type: 'opened', generation });
      },
      onArrived: (frames) => {
        this.restShown = 0;
        if (isNow()) this.inbox.push(frames);
      },
      onBytes: () => {
        if (isNow()) this.restTimer ??= setTimeout(() => this.showRest(), restAfterMs);
      },
      onRejected: (as, detail) => this.dispatch({ type: 'rejected', generation, as, detail }),
      onEnd: (cause, detail) => {
        if (!isNow()) return;
        // What came before the end counts: a last report, or the reason why the device hangs up.
        this.inbox.drain();
        this.dispatch({ type: 'ended', generation, cause, detail });
      },
    });
  }

  private close(): void {
    clearTimeout(this.restTimer);
    this.restTimer = undefined;
    const rest = this.wire?.rest().subarray(this.restShown) ?? nothing;
    if (rest.length > 0) this.onWire('in', rest, 'the beginning of a frame that never ended');
    this.restShown = 0;
    this.wire?.close();
    this.wire = undefined;
    this.stopwatch.stop();
    this.heardCounts = { unasked: 0, answers: 0, unreadable: 0 };
    this.inbox.clear();
    this.changes = [];
    this.requests.clear();
    clearTimeout(this.pumpTimer);
    this.pumpTimer = undefined;
    const reason = 'The connection broke before it was sent.';
    for (const left of this.outbox.clear())
      if (left.is === 'command') left.listener({ outcome: 'lost', why: 'cut-off', ms: 0, reason });
    this.book.lose('cut-off', 'The connection broke before the device answered.');
  }

  /** Bytes that came are seen on the wire also while the frame that they begin has not ended. */
  private showRest(): void {
    this.restTimer = undefined;
    const rest = this.wire?.rest() ?? nothing;
    if (rest.length <= this.restShown) return;
    this.onWire('in', rest.subarray(this.restShown), 'part of a frame that has not ended');
    this.restShown = rest.length;
  }

  // ── out ──────────────────────────────────────────────────────────────────────────────────────────────────────────

  /** Lets out what waits, as far as window and gap allow. */
  private pump(): void {
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
      if (!this.wire) return;
    }
  }

  private sendCommand({ prepared, listener, onBytes }: Extract<Outward, { is: 'command' }>, now: number): void {
    const { wire } = this;
    const ref = this.nextRef++;
    const encoded = prepared.encoded ?? this.encodeNow(prepared, ref, listener);
    if (!wire || !encoded) return;
    // First of all the bytes: everything else can wait.
    const written = wire.write(encoded.out, ref);
    this.outbox.sent(now);
    if (!written.ok) {
      listener({
        outcome: 'lost',
        why: 'cut-off',
        ms: 0,
        reason: written.stuck ? downCauses['not-reading'].tryNext : written.reason,
      });
      if (written.stuck) this.dispatch({ type: 'ended', generation: this.state.generation, cause: 'not-reading' });
      return;
    }
    const shown = this.onWire('out', written.bytes);
    onBytes?.(shown);
    const { command } = prepared;
    const { confirm } = command;
    const { answered } = this;
    const expectations = expectationsOf(command, encoded.params, this.book.expected);
    const answerWithinMs = this.options.driver.document.link.answerWithinMs;
    const id = String(ref);
    if (answered) {
      this.requests.begin({
        ref,
        name: prepared.id,
        sendId: id,
        purpose: undefined,
        from: undefined,
        sentAt: now,
        deadlineAt: now + answerWithinMs,
      });
    }
    if (!answered && !expectations) return listener({ outcome: 'sent', why: 'one-way', ms: 0 });
    const deadlineAt = now + (confirm?.withinMs ?? answerWithinMs);
    this.book.begin({ id, sentAt: now, deadlineAt, answered, expectations }, confirm, listener);
  }

  private encodeNow(prepared: PreparedSend, ref: number, listener: SendListener): EncodedCommand | undefined {
    const encoded = encodeCommand(this.options.driver, prepared.id, prepared.given, {
      ref,
      readingNow: this.hooks.freshReading,
    });
    if (encoded.ok) return encoded.value;
    listener({ outcome: 'lost', why: 'bad-value', ms: 0, reason: encoded.error.message });
    return undefined;
  }

  /** A question of our own takes its turn. One that is under way already is not asked twice. */
  private queueOwn(own: OwnMessage, purpose: OwnPurpose, from?: number): void {
    const paging = own.ask === undefined ? undefined : this.options.driver.document.questions[own.ask]?.paging;
    if (purpose === 'poll' && own.ask !== undefined && this.requests.isAsking(own.ask)) return;
    if (purpose === 'sync') this.syncLeft += 1;
    this.outbox.put({
      class: 'own',
      newest: undefined,
      item: { is: 'own', own, purpose, from: from ?? paging?.first },
    });
    this.pump();
  }

  private sendOwn(
    own: OwnMessage,
    purpose: OwnPurpose,
    texts: Readonly<Record<string, string>>,
    from: number | undefined,
  ): void {
    const { driver, user, password } = this.options;
    const ref = this.nextRef++;
    const known = from === undefined ? { user, password, ...texts } : { user, password, ...texts, from: String(from) };
    const message = encodeOwn(driver, own.message, known, ref);
    if (!message.ok) return this.fault(message.error.message);
    const now = performance.now();
    this.stopwatch.sent(own, ref, now);
    const written = this.wire?.write(message.value.out, ref);
    this.outbox.sent(now);
    if (!written) return;
    if (!written.ok) {
      if (written.stuck) this.dispatch({ type: 'ended', generation: this.state.generation, cause: 'not-reading' });
      return this.fault(written.reason);
    }
    this.onWire(
      'out',
      written.bytes,
      purpose,
      Object.values(texts).map((text) => utf8.encode(text)),
    );
    // A greeting is answered by what the next step expects, unless answers name their request anyway.
    const counted = this.answered && (purpose !== 'greeting' || driver.document.answers === 'matched');
    if (!counted) return purpose === 'sync' ? this.syncAnswered() : undefined;
    const deadlineAt = now + driver.document.link.answerWithinMs;
    this.requests.begin({
      ref,
      name: own.ask,
      sendId: undefined,
      purpose,
      from,
      sentAt: now,
      deadlineAt,
    });
  }

  /** Answers that did not come: the window opens, and what was asked to know the state is asked again. */
  private onRequestsOver(over: readonly SentRequest[]): void {
    for (const { ref, name, purpose, from } of over) {
      if (this.options.driver.document.answers === 'matched') this.wire?.forget(ref);
      // Where answers come in order, asking again would only bring two.
      if (purpose !== 'sync' || name === undefined || this.state.at !== 'syncing' || this.requests.get(ref)) continue;
      const own = this.options.driver.sync.find((each) => each.ask === name);
      if (!own) continue;
      this.syncLeft -= 1;
      this.queueOwn(own, 'sync', from);
    }
    this.pump();
  }

  // ── in ───────────────────────────────────────────────────────────────────────────────────────────────────────────

  private readFrame(frame: Arrived): void {
    const { generation } = this.state;
    this.lastHeardAt = Date.now();
    if (!this.evidence.heard) this.setEvidence({ ...this.evidence, heard: true });
    if (frame.broken !== undefined) {
      this.onWire('in', frame.raw, frame.broken);
      return this.dispatch({ type: 'ended', generation, cause: 'out-of-step', detail: frame.broken });
    }
    if (this.state.at === 'silent' && this.requests.hasOverdue) {
      // Answers were lost while nothing came: from here on each would be taken for another's.
      const detail = 'Answers were lost while the device was silent; the conversation begins anew.';
      this.onWire('in', frame.raw, detail);
      return this.dispatch({ type: 'ended', generation, cause: 'out-of-step', detail });
    }
    const request = this.requestOf(frame.answer);
    const replies = frame.says.map((said) => decodeSaid(this.options.driver, said, request?.name));
    const understood = frame.answer !== undefined || replies.some((reply) => reply !== undefined);
    const named = replies.find((reply) => reply?.ref !== undefined)?.ref;
    const answers = frame.answer !== undefined || replies.some((reply) => reply?.accepts || reply?.refuses);
    const answered = named === undefined ? (answers ? request : undefined) : this.requests.get(named);
    const quiet = replies.length > 0 && replies.every((reply) => reply?.quiet);
    this.onWire('in', frame.raw, quiet ? 'report' : this.remarkOn(frame, understood, answered));
    if (frame.fault !== undefined) {
      this.faults += 1;
      this.heardCounts.unreadable += 1;
    }
    if (understood && !this.evidence.understood) this.setEvidence({ ...this.evidence, understood: true });
    if (this.state.at === 'up' || this.state.at === 'silent') {
      if (answered) this.heardCounts.answers += 1;
      else if (understood) this.heardCounts.unasked += 1;
      for (const said of frame.says) this.stopwatch.heard(said.text);
    }
    let refusal: string | undefined;
    for (const reply of replies) if (reply) refusal = this.readReply(reply, frame.answer !== undefined) ?? refusal;
    if (frame.answer) this.onFrameAnswer(frame.answer, refusal);
    // The state must be known before the link is called up.
    if (this.state.at !== 'up') this.reportChanges();
    if (generation !== this.state.generation) return;
    const passing = this.state.at === 'signing in' || this.state.at === 'syncing';
    if (frame.says.length === 0 && passing) {
      this.dispatch({ type: 'heard', generation, text: frame.answer ? '' : undefined });
    }
    for (const said of frame.says)
      if (passing || understood) this.dispatch({ type: 'heard', generation, text: said.text });
    if (frame.says.length === 0 && understood && !passing) this.dispatch({ type: 'heard', generation, text: '' });
  }

  private requestOf(answer: Answer | undefined): SentRequest | undefined {
    if (answer) return this.requests.get(answer.ref);
    return this.options.driver.document.answers === 'in-order' ? this.requests.oldest : undefined;
  }

  /** Enters what a reply says. Returns why it refuses, for an answer that the link has matched itself. */
  private readReply(reply: DecodedReply, matched: boolean): string | undefined {
    if (reply.clears.length > 0) {
      this.reportChanges();
      this.hooks.onReadings([], reply.clears);
    }
    for (const change of reply.readings) this.changes.push(change);
    for (const fault of reply.faults) this.fault(fault);
    if (matched) return reply.refuses?.reason;
    if (!reply.accepts && !reply.refuses) return undefined;
    const ref = reply.ref ?? this.requests.oldest?.ref;
    const { refuses } = reply;
    if (ref !== undefined) this.onRequestDone(ref, refuses?.reason, refuses?.code);
    else if (refuses) {
      // Nobody waits for an answer: a device that only speaks when it refuses means what was sent last.
      this.reportChanges();
      const { oldest } = this.book;
      if (oldest !== undefined) this.book.answer(oldest, refuses.reason);
      this.checkCode(refuses.code, refuses.reason);
    }
    return undefined;
  }

  private onFrameAnswer({ ref, how, code }: Answer, refusal: string | undefined): void {
    if (how === 'accepted') {
      this.requests.accept(ref);
      return this.pump();
    }
    const reason =
      how === 'refused'
        ? ((code === undefined ? undefined : this.options.driver.document.errors[code]) ??
          refusal ??
          `The device refused it${code === undefined ? '' : ` (${code})`}.`)
        : undefined;
    this.onRequestDone(ref, how === 'refused' && refusal !== undefined ? refusal : reason, code);
  }

  /** A request is answered: with a reason, it was refused. Reports before an answer count before it. */
  private onRequestDone(ref: number, reason: string | undefined, code: string | undefined): void {
    this.stopwatch.answered(ref);
    this.reportChanges();
    const request = this.requests.end(ref);
    if (request) this.lastAnswerMs = performance.now() - request.sentAt;
    if (reason !== undefined && this.checkCode(code, reason)) return;
    if (request?.sendId !== undefined) this.book.answer(request.sendId, reason);
    else if (reason !== undefined && request) this.fault(`“${request.name ?? 'a question'}” was refused: ${reason}`);
    const more = reason === undefined && request ? this.askNextPage(request) : false;
    if (request?.purpose === 'sync' && !more) this.syncAnswered();
    this.pump();
  }

  /** True when the code means that the sign-in is wrong or somebody else has the device; the session then ends so. */
  private checkCode(code: string | undefined, reason: string): boolean {
    const { lockedOutCodes, occupiedCodes } = this.options.driver.document.link;
    if (code === undefined) return false;
    const as = lockedOutCodes.includes(code) ? 'locked out' : occupiedCodes.includes(code) ? 'occupied' : undefined;
    if (!as) return false;
    this.dispatch({ type: 'rejected', generation: this.state.generation, as, detail: reason });
    return true;
  }

  /** Asks for the next piece of a list, until all that the device says there are have come. */
  private askNextPage({ name, from, purpose }: SentRequest): boolean {
    const sync = purpose === 'sync';
    const { driver } = this.options;
    const paging = name === undefined ? undefined : driver.document.questions[name]?.paging;
    const message = name === undefined ? undefined : driver.questions.get(name);
    if (!paging || !message || from === undefined) return false;
    const count = Number(this.hooks.freshReading(paging.count) ?? 0);
    const next = from + paging.step;
    if (next >= paging.first + count) return false;
    if (sync) this.syncLeft -= 1;
    this.queueOwn({ ask: name, message }, sync ? 'sync' : 'poll', next);
    return true;
  }

  private syncAnswered(): void {
    this.syncLeft -= 1;
    this.finishSync();
  }

  private finishSync(): void {
    const { answered } = this.options.driver.document.sync;
    if (this.state.at !== 'syncing' || !answered || this.syncLeft > 0) return;
    this.dispatch({ type: 'synced', generation: this.state.generation });
  }

  /** What the wire says beside a frame that came in. */
  private remarkOn(frame: Arrived, understood: boolean, request: SentRequest | undefined): string | undefined {
    if (frame.fault !== undefined) return frame.fault;
    const isUp = this.state.at === 'up' || this.state.at === 'silent';
    if (!understood) return isUp ? 'no reply of the driver fits' : undefined;
    return isUp ? request?.purpose : undefined;
  }

  private fault(text: string): void {
    this.faults += 1;
    this.hooks.onWire('note', nothing, text);
  }

  private reportChanges(): void {
    const { changes } = this;
    if (changes.length === 0) return;
    this.changes = [];
    const reported = this.hooks.onReadings(changes, []);
    if (!this.evidence.reported) this.setEvidence({ ...this.evidence, reported: true });
    this.book.reported(reported);
  }

  private startTimer(timer: SessionTimer, afterMs: number): void {
    clearTimeout(this.timers.get(timer));
    const { generation } = this.state;
    this.timers.set(
      timer,
      setTimeout(() => this.dispatch({ type: 'timer', generation, timer }), afterMs),
    );
  }

  private setLink(link: Link): void {
    this.link = link;
    if (link.word === 'down' || link.word === 'locked out' || link.word === 'occupied') this.lastLink = link;
    else if (link.word === 'up' || link.word === 'off') this.lastLink = undefined;
    this.hooks.onLink(link);
  }

  private setEvidence(evidence: Evidence): void {
    this.evidence = evidence;
    this.hooks.onEvidence(evidence);
  }
}

const utf8 = new TextEncoder();
