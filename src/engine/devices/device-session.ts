import {
  acceptsPresses,
  initialSession,
  noEvidence,
  step,
  whyUnreachable,
  type Evidence,
  type Link,
  type SendClass,
  type SessionEffect,
  type SessionEvent,
  type SessionState,
  type SessionTimer,
} from '../../core/session';
import { openLink, type DeviceLink } from './links';
import { maskedWire, type MaskedWire } from './masked-wire';
import { ReadSlices } from './read-slices';
import type { SendListener } from './send-book';
import { SessionReader } from './session-reader';
import { SessionSender } from './session-sender';
import type { PreparedSend, SendWatch, SessionHooks, SessionOptions } from './session-types';
import { harmlessQuestion } from './stopwatch';
import { SyncProgress } from './sync-progress';

const nothing = new Uint8Array();
/** A frame that takes longer than this to come is shown as far as it has come. */
const restAfterMs = 200;

/**
 * One device's connection: runs the session's reducer on a real link. What goes out is the sender's business, what comes in the reader's.
 * It never throws, and a slow, silent or babbling device costs the others nothing.
 */
export class DeviceSession {
  private state: SessionState = initialSession;
  private link: Link = { word: 'off' };
  private lastLink: Link | undefined;
  private evidence: Evidence = noEvidence;
  private faults = 0;
  private readonly timers = new Map<SessionTimer, NodeJS.Timeout>();
  private restTimer: NodeJS.Timeout | undefined;
  /** This many bytes of the frame that is coming are on the wire already. */
  private restShown = 0;
  private wire: DeviceLink | undefined;
  private readonly sync = new SyncProgress(() => this.finishSync());
  private readonly sender: SessionSender;
  private readonly reader: SessionReader;
  private readonly onWire: MaskedWire;

  constructor(
    private readonly options: SessionOptions,
    private readonly hooks: SessionHooks,
    readSlices = new ReadSlices(),
  ) {
    const onFault = (text?: string) => this.fault(text);
    this.onWire = maskedWire(hooks.onWire, options.user, options.password);
    this.sender = new SessionSender(options, this.sync, {
      freshReading: hooks.freshReading,
      onWire: this.onWire,
      onFault,
      onUnanswered: hooks.onUnanswered,
      onStuck: () => this.dispatch({ type: 'ended', generation: this.state.generation, cause: 'not-reading' }),
      isSyncing: () => this.state.at === 'syncing',
    });
    this.reader = new SessionReader(options, this.sender, this.sync, readSlices, {
      onReadings: hooks.onReadings,
      fresh: hooks.freshReading,
      onWire: this.onWire,
      onFault,
      onSeen: (what) => {
        if (!this.evidence[what]) this.setEvidence({ ...this.evidence, [what]: true });
      },
      onAnswer: hooks.onAnswer,
      onRequest: hooks.onRequest,
      state: () => this.state,
      dispatch: (event) => this.dispatch(event),
    });
  }

  /** Frames so far that could not be read. */
  get faultCount(): number {
    return this.faults;
  }

  /** When it reported faster than could be read last, in milliseconds since 1970; 0: never. */
  get floodedAt(): number {
    return this.reader.floodedAt;
  }

  /** When something was heard last, in milliseconds since 1970 (0: never), and how long the last answer took. */
  get pulse(): { readonly heardAt: number; readonly ms: number | undefined } {
    const { heardAt, ms } = this.reader.pulse;
    return { heardAt, ms: this.link.word === 'up' ? ms : undefined };
  }

  /** What came over the present connection: reports that nobody had asked for, answers, and what could not be read. */
  get counts(): SessionReader['counts'] {
    return this.reader.counts;
  }

  /** Commands that wait for their turn. */
  get waiting(): number {
    return this.sender.waiting;
  }

  /**
   * Times a question that changes nothing.
   *
   * @param done told the milliseconds, or `undefined` when no answer came in time
   * @returns false when this kind of device has no such question, or it is not up
   */
  timeQuestion(done: (ms: number | undefined) => void): boolean {
    return this.link.word === 'up' && this.sender.time(done);
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
    watch?: SendWatch,
    owners: readonly string[] = [],
  ): boolean {
    if (!this.wire || !this.takesSends(wanted)) {
      listener({ outcome: 'lost', why: 'link-down', ms: 0, reason: whyUnreachable(this.link, this.lastLink) });
      return false;
    }
    this.sender.send(prepared, listener, wanted, watch, owners);
    return true;
  }

  /** True while commands are accepted. */
  get isReachable(): boolean {
    return this.wire !== undefined && acceptsPresses(this.link.word);
  }

  /** An owed stop goes out as soon as the device can be spoken to, before it is called `up`. */
  private takesSends(as: SendClass): boolean {
    if (acceptsPresses(this.link.word)) return true;
    return as === 'stop' && ['syncing', 'up', 'one-way', 'not checked'].includes(this.state.at);
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
    if (next.effects.length > 0) this.sync.look();
  }

  private run(effect: SessionEffect): void {
    switch (effect.do) {
      case 'connect':
        return this.connect(effect.generation);
      case 'close':
        return this.close();
      case 'send':
        if (effect.purpose === 'greeting') return this.sender.greet(effect.own, effect.texts);
        return this.sender.queue(effect.own, effect.purpose);
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
    this.sync.begin();
    this.setEvidence(noEvidence);
    const isNow = () => generation === this.state.generation;
    const link = openLink(this.options.driver.document, this.options, {
      onOpen: () => {
        if (isNow() && this.wire?.proves) this.setEvidence({ ...this.evidence, connected: true });
        this.dispatch({ type: 'opened', generation });
      },
      onArrived: (frames) => {
        this.restShown = 0;
        if (isNow()) this.reader.push(frames);
      },
      onBytes: () => {
        if (isNow()) this.restTimer ??= setTimeout(() => this.showRest(), restAfterMs);
      },
      onRejected: (as, detail) => this.dispatch({ type: 'rejected', generation, as, detail }),
      onEnd: (cause, detail) => {
        if (!isNow()) return;
        // What came before the end counts: a last report, or the reason why the device hangs up.
        this.reader.drain();
        this.dispatch({ type: 'ended', generation, cause, detail });
      },
    });
    this.wire = link;
    this.sender.open(link);
    this.reader.open(link);
  }

  private close(): void {
    clearTimeout(this.restTimer);
    this.restTimer = undefined;
    const rest = this.wire?.rest().subarray(this.restShown) ?? nothing;
    if (rest.length > 0) this.onWire('in', rest, 'the beginning of a frame that never ended');
    this.restShown = 0;
    this.wire?.close();
    this.wire = undefined;
    this.reader.close();
    this.sender.close();
  }

  /** Bytes that came are seen on the wire also while the frame that they begin has not ended. */
  private showRest(): void {
    this.restTimer = undefined;
    const rest = this.wire?.rest() ?? nothing;
    if (rest.length <= this.restShown) return;
    this.onWire('in', rest.subarray(this.restShown), 'part of a frame that has not ended');
    this.restShown = rest.length;
  }

  private finishSync(): void {
    if (this.state.at !== 'syncing' || !this.options.driver.document.sync.answered) return;
    this.dispatch({ type: 'synced', generation: this.state.generation });
  }

  /** Counts what could not be read; the wire says it where there is something to say beside the frame itself. */
  private fault(text: string | undefined): void {
    this.faults += 1;
    if (text !== undefined) this.hooks.onWire('note', nothing, text);
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
