import {
  decodeReply,
  encodeDriverLine,
  expectationsOf,
  type CompiledDriver,
  type DecodedReply,
  type DriverCommand,
  type EncodedCommand,
  type ReadingChange,
} from '../core/driver';
import type { Scalar } from '../core/result';
import {
  acceptsPresses,
  begin,
  beginOwn,
  expectedValue,
  downCauses,
  initialSession,
  nextDeadline,
  noSends,
  onAnswer,
  onLost,
  onReadings,
  onTime,
  step,
  type DownCause,
  type FinalOutcome,
  type Link,
  type SendResult,
  type SendsState,
  type SessionEffect,
  type SessionEvent,
  type SessionState,
  type SessionTimer,
} from '../core/session';
import { LineFramer, type LineFrame } from '../core/wire';
import { TcpLink } from './tcp-link';

/** What a session tells the engine. None of these may throw. */
export interface SessionHooks {
  readonly onLink: (link: Link) => void;
  /** Enters readings; returns the keys reported. */
  readonly onReadings: (changes: readonly ReadingChange[]) => ReadonlySet<string>;
  readonly onWire: (dir: 'out' | 'in' | 'note', bytes: Uint8Array, note?: string) => void;
  readonly freshReading: (key: string) => Scalar | undefined;
}

/** A command ready to go out. */
export interface PreparedSend {
  readonly command: DriverCommand;
  readonly encoded: EncodedCommand;
}

/** What became of one send. Called at least once; after `late` once more when the report still comes. */
export type SendListener = (result: {
  readonly outcome: FinalOutcome;
  readonly ms: number;
  readonly reason?: string;
  readonly note?: boolean;
}) => void;

const maxUnsentBytes = 256 * 1024;
/** How long lines of one device are read before everything else has its turn. */
const sliceMs = 2;
const maxUnanswered = 1000;
const nothing = new Uint8Array();

/**
 * One device's connection: runs the session's reducer on a real socket and keeps account of what was sent. It never
 * throws, and a slow, silent or babbling device costs the others nothing.
 */
export class DeviceSession {
  private state: SessionState = initialSession;
  private link: Link = { word: 'off' };
  private lastCause: DownCause | undefined;
  private sends: SendsState = noSends;
  private readonly listeners = new Map<string, SendListener>();
  private readonly timers = new Map<SessionTimer, NodeJS.Timeout>();
  private deadline: NodeJS.Timeout | undefined;
  private tcp: TcpLink | undefined;
  private framer: LineFramer;
  private backlog: LineFrame[] = [];
  private nextSend = 1;

  constructor(
    private readonly host: string,
    private readonly port: number,
    private readonly driver: CompiledDriver,
    private readonly hooks: SessionHooks,
  ) {
    this.framer = this.newFramer();
  }

  start(): void {
    this.dispatch({ type: 'enable' });
  }

  /** Ends the connection and every open send. May be called twice. */
  stop(): void {
    this.dispatch({ type: 'disable' });
  }

  /** Sends a command now. The listener hears of the outcome, possibly before this returns. */
  send({ command, encoded }: PreparedSend, listener: SendListener): void {
    if (!this.tcp || !acceptsPresses(this.link.word)) {
      return listener({ outcome: 'lost', ms: 0, reason: this.whyNotReachable() });
    }
    // First of all the bytes: everything else can wait.
    const taken = this.tcp.write(encoded.bytes);
    const now = performance.now();
    this.hooks.onWire('out', encoded.bytes);
    if (!taken) {
      listener({ outcome: 'lost', ms: 0, reason: downCauses['not-reading'].tryNext });
      return this.dispatch({ type: 'ended', generation: this.state.generation, cause: 'not-reading' });
    }
    const expectations = expectationsOf(
      command,
      encoded.params,
      (key) => expectedValue(this.sends, key) ?? this.hooks.freshReading(key),
    );
    const answered = this.driver.document.answers === 'in-order';
    if (!command.confirm || (command.confirm.by === 'readings' && !expectations)) {
      if (answered) this.sends = beginOwn(this.sends);
      return listener({ outcome: 'sent', ms: 0 });
    }
    const id = String(this.nextSend++);
    this.listeners.set(id, listener);
    const deadlineAt = now + command.confirm.withinMs;
    const send = { id, sentAt: now, deadlineAt, answered, expectations };
    this.settle(begin(this.sends, send, this.hooks.freshReading));
  }

  private whyNotReachable(): string {
    // Between two tries the link is `calling`; why the last one failed is still what helps.
    if (this.lastCause) {
      const { title, tryNext } = downCauses[this.lastCause];
      return `The device is down (${title}). ${tryNext}`;
    }
    return `The device's link is ${this.link.word}.`;
  }

  private dispatch(event: SessionEvent): void {
    const next = step({ driver: this.driver, now: performance.now(), random: Math.random() }, this.state, event);
    this.state = next.state;
    for (const effect of next.effects) {
      this.run(effect);
      // A write that fails ends the session within its own effects; what was still to do belongs to the past.
      if (this.state !== next.state) return;
    }
  }

  private run(effect: SessionEffect): void {
    switch (effect.do) {
      case 'connect':
        return this.connect(effect.generation);
      case 'close':
        return this.close();
      case 'send':
        return this.sendOwn(effect.text, effect.purpose);
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
    this.framer = this.newFramer();
    this.backlog = [];
    this.tcp = new TcpLink(this.host, this.port, maxUnsentBytes, {
      onOpen: () => this.dispatch({ type: 'opened', generation }),
      onChunk: (chunk) => this.onChunk(generation, chunk),
      onEnd: (cause, detail) => {
        // What came before the end counts: a last report, or the reason why the device hangs up.
        this.readBacklog(generation, Infinity);
        const rest = this.framer.rest();
        if (generation === this.state.generation && rest.length > 0)
          this.hooks.onWire('in', rest, 'a line without its ending');
        this.dispatch({ type: 'ended', generation, cause, detail });
      },
    });
  }

  private close(): void {
    this.tcp?.close();
    this.tcp = undefined;
    this.backlog = [];
    this.settle(onLost(this.sends, performance.now(), 'The connection broke before the device answered.'));
    this.listeners.clear();
  }

  private sendOwn(text: string, purpose: string): void {
    const bytes = encodeDriverLine(this.driver, text);
    if (!bytes.ok || !this.tcp) return;
    this.hooks.onWire('out', bytes.value, purpose);
    if (!this.tcp.write(bytes.value)) {
      this.dispatch({ type: 'ended', generation: this.state.generation, cause: 'not-reading' });
    } else if (this.driver.document.answers === 'in-order' && purpose !== 'greeting') {
      this.sends = beginOwn(this.sends);
    }
  }

  private onChunk(generation: number, chunk: Uint8Array): void {
    if (generation !== this.state.generation) return;
    const idle = this.backlog.length === 0;
    for (const frame of this.framer.push(chunk)) this.backlog.push(frame);
    if (idle) this.readBacklog(generation, sliceMs);
  }

  /** Reads lines for a while; what is left waits until everything else has had its turn, and the socket with it. */
  private readBacklog(generation: number, forMs: number): void {
    if (generation !== this.state.generation || this.backlog.length === 0) return;
    const stopAt = performance.now() + forMs;
    let read = 0;
    const changes: ReadingChange[] = [];
    for (const frame of this.backlog) {
      this.readFrame(generation, frame, changes);
      read += 1;
      if (generation !== this.state.generation) return;
      if ((read & 15) === 0 && performance.now() > stopAt) break;
    }
    this.report(changes);
    this.backlog.splice(0, read);
    if (this.backlog.length > 0) {
      this.tcp?.pause();
      setImmediate(() => this.readBacklog(generation, sliceMs));
    } else {
      this.tcp?.resume();
    }
  }

  private readFrame(generation: number, frame: LineFrame, changes: ReadingChange[]): void {
    if (frame.kind === 'overlong') {
      this.hooks.onWire(
        'note',
        nothing,
        `A line longer than ${this.driver.document.framing.maxFrameBytes} bytes was dropped.`,
      );
      return;
    }
    const reply = decodeReply(this.driver, frame.text);
    this.hooks.onWire('in', frame.raw, this.remarkOn(frame, reply));
    if (reply) {
      for (const change of reply.readings) changes.push(change);
      for (const fault of reply.faults) this.hooks.onWire('note', nothing, fault);
      if (reply.accepts || reply.refuses) {
        // Reports before an answer count before it.
        this.report(changes.splice(0));
        const answer = reply.refuses
          ? { accepted: false as const, reason: reply.refuses.reason }
          : { accepted: true as const };
        this.settle(onAnswer(this.sends, answer, performance.now(), this.hooks.freshReading));
      }
    }
    if (this.state.at !== 'up') {
      // The state must be known before the link is called up.
      this.report(changes.splice(0));
    }
    this.dispatch({ type: 'line', generation, text: frame.text });
  }

  /** What the wire says beside a line that came in. */
  private remarkOn(frame: Extract<LineFrame, { kind: 'line' }>, reply: DecodedReply | undefined): string | undefined {
    if (frame.malformed) return 'not valid in the character set of the driver';
    if (!reply) return this.state.at === 'up' ? 'no pattern of the driver fits' : undefined;
    const answersUs = (reply.accepts || reply.refuses) && this.sends.unanswered[0] === null;
    return answersUs && (this.state.at === 'up' || this.state.at === 'silent') ? 'keep-alive' : undefined;
  }

  private report(changes: readonly ReadingChange[]): void {
    if (changes.length === 0) return;
    const reported = this.hooks.onReadings(changes);
    if (this.sends.open.length === 0) return;
    this.settle(onReadings(this.sends, reported, performance.now(), this.hooks.freshReading));
  }

  private settle({ state, results }: { readonly state: SendsState; readonly results: readonly SendResult[] }): void {
    this.sends =
      state.unanswered.length > maxUnanswered
        ? { ...state, unanswered: state.unanswered.slice(-maxUnanswered) }
        : state;
    for (const result of results) {
      const listener = this.listeners.get(result.id);
      if (result.outcome !== 'late') this.listeners.delete(result.id);
      listener?.({ outcome: result.outcome, ms: result.afterMs, reason: result.reason, note: result.note });
    }
    if (this.listeners.size > this.sends.open.length) this.forgetListeners();
    const next = nextDeadline(this.sends);
    clearTimeout(this.deadline);
    this.deadline =
      next === undefined
        ? undefined
        : setTimeout(
            () => this.settle(onTime(this.sends, performance.now(), this.hooks.freshReading)),
            Math.max(0, next - performance.now()) + 1,
          );
  }

  /** Sends that stayed late for too long are forgotten, and with them who listens. */
  private forgetListeners(): void {
    const open = new Set(this.sends.open.map((send) => send.id));
    for (const id of this.listeners.keys()) if (!open.has(id)) this.listeners.delete(id);
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
    if (link.word === 'down') this.lastCause = link.cause;
    else if (link.word === 'up' || link.word === 'off') this.lastCause = undefined;
    this.hooks.onLink(link);
  }

  private newFramer(): LineFramer {
    return new LineFramer(this.driver.document.framing);
  }
}
