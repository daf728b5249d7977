import {
  computedBy,
  computedFrom,
  decodeSaid,
  splitKey,
  type DecodedReply,
  type DriverDocument,
  type ReadingChange,
} from '../../core/driver';
import { readFrame, type Evidence, type FrameReading, type SessionEvent, type SessionState } from '../../core/session';
import type { Answer, Arrived, Said } from '../../core/wire';
import { FloodWatch } from './flood-watch';
import { Inbox } from './inbox';
import { ListAsks } from './list-asks';
import type { DeviceLink } from './links';
import type { MaskedWire } from './masked-wire';
import type { ReadSlices } from './read-slices';
import type { SentRequest } from './requests';
import type { SessionSender } from './session-sender';
import type { SessionHooks, SessionOptions } from './session-types';
import type { SyncProgress } from './sync-progress';

interface ReaderHooks {
  readonly onReadings: SessionHooks['onReadings'];
  readonly fresh: SessionHooks['freshReading'];
  readonly onWire: MaskedWire;
  /** Counts a fault; the wire tells it where there is something to say beside the frame. */
  readonly onFault: (text?: string) => void;
  /** Something was seen over this connection for the first time. */
  readonly onSeen: (what: Exclude<keyof Evidence, 'connected'>) => void;
  /** The session's state now. */
  readonly state: () => SessionState;
  readonly dispatch: (event: SessionEvent) => void;
  readonly onAnswer: SessionHooks['onAnswer'];
  readonly onRequest: SessionHooks['onRequest'];
}

/** Counts for one connection. */
interface Counts {
  /** Reports without a request. */
  unasked: number;
  answers: number;
  /** Answers without a matching request. */
  unmatched: number;
  unreadable: number;
  /** The reason for the last refusal of one of the program's own questions. */
  refusal: string | undefined;
  /** Complete frames that match no reply of the driver, and the text of the first one if it is readable. */
  unfitting: number;
  unfit: string | undefined;
}

const nothingHeard: Counts = {
  unasked: 0,
  answers: 0,
  unmatched: 0,
  unreadable: 0,
  refusal: undefined,
  unfitting: 0,
  unfit: undefined,
};

const nothing: Uint8Array = new Uint8Array();

/** The way in from one device: reads frames in turn with those of all others, and hands on what they say. */
export class SessionReader {
  private readonly inbox: Inbox;
  private readonly listAsks: ListAsks;
  private readonly flood = new FloodWatch();
  private link: DeviceLink | undefined;
  private changes: ReadingChange[] = [];
  /** The frame that is being read, as people may see it. */
  private shown = nothing;
  private lastHeardAt = 0;
  private lastAnswerMs: number | undefined;
  private heard: Counts = { ...nothingHeard };

  constructor(
    private readonly options: SessionOptions,
    private readonly sender: SessionSender,
    private readonly sync: SyncProgress,
    readSlices: ReadSlices,
    private readonly hooks: ReaderHooks,
  ) {
    // What is asked because of an answer belongs to the state that is being fetched.
    this.listAsks = new ListAsks(options.driver, (own) =>
      sender.queue(own, hooks.state().at === 'syncing' ? 'sync' : 'poll'),
    );
    this.inbox = new Inbox(
      readSlices,
      (frame) => this.read(frame),
      () => this.reportChanges(),
      (isHeld) => {
        this.flood.onHold(isHeld);
        if (isHeld) this.link?.pause();
        else this.link?.resume();
      },
      (count) => {
        this.flood.onDropped();
        hooks.onFault(`${count} frames came faster than they could be read and were dropped.`);
      },
    );
  }

  /** When the device last reported faster than it could be read, in milliseconds since 1970; 0: never. */
  get floodedAt(): number {
    return this.flood.floodedAt;
  }

  /** When something was heard last, in milliseconds since 1970 (0: never), and how long the last answer took. */
  get pulse(): { readonly heardAt: number; readonly ms: number | undefined } {
    return { heardAt: this.lastHeardAt, ms: this.lastAnswerMs };
  }

  /** Counts for the present connection, or the last one. */
  get counts(): Readonly<Counts> {
    return this.heard;
  }

  open(link: DeviceLink): void {
    this.link = link;
    this.heard = { ...nothingHeard };
  }

  push(frames: readonly Arrived[]): void {
    this.inbox.push(frames);
  }

  /** Reads what has come at once: the connection is over, and what came before counts. */
  drain(): void {
    this.inbox.drain();
  }

  close(): void {
    this.link = undefined;
    this.inbox.clear();
    this.listAsks.stop();
    this.changes = [];
  }

  private read(frame: Arrived): void {
    const { hooks, sender } = this;
    // It proves nothing about the device, and was not on the wire.
    if (frame.isOwn) return this.readOwn(frame);
    if (frame.isNotification) return this.readNotification(frame);
    const { requests } = sender;
    const { at, generation } = hooks.state();
    this.lastHeardAt = Date.now();
    hooks.onSeen('heard');
    const reading = readFrame(
      {
        driver: this.options.driver,
        at,
        hasOverdue: requests.hasOverdue,
        request: (ref) => requests.get(ref),
        oldest: requests.oldest,
        answered: (reply) => this.answered(reply).request,
      },
      frame,
    );
    this.shown = hooks.onWire(
      'in',
      frame.raw,
      reading.note,
      undefined,
      reading.is === 'read' ? reading.answers : undefined,
    );
    if (reading.is === 'out of step')
      return hooks.dispatch({ type: 'ended', generation, cause: 'out-of-step', detail: reading.note });
    this.count(frame, reading, at);
    let refusal: DecodedReply['refuses'];
    for (const reply of reading.replies) refusal = this.readReply(reply, frame.answer !== undefined) ?? refusal;
    if (frame.answer) this.onFrameAnswer(frame.answer, refusal);
    // The state must be known before the link is called up.
    if (hooks.state().at !== 'up') this.reportChanges();
    if (generation !== hooks.state().generation) return;
    for (const text of reading.heard) hooks.dispatch({ type: 'heard', generation, text });
  }

  private readOwn({ says }: Arrived): void {
    const replies = says.map((said) => decodeSaid(this.options.driver, said, undefined));
    const changes = replies.flatMap((reply) => reply?.readings ?? []);
    if (changes.length > 0) this.hooks.onReadings(...this.withComputed(changes));
  }

  /** It came beside the connection, so it answers nothing and proves nothing about it. */
  private readNotification({ says, raw, fault }: Arrived): void {
    const { at } = this.hooks.state();
    if (at !== 'up' && at !== 'silent') return;
    const replies = says.flatMap((said) => decodeSaid(this.options.driver, said, undefined) ?? []);
    this.hooks.onWire('in', raw, fault ?? (replies.length > 0 ? 'notification' : 'no reply of the driver fits'));
    if (fault !== undefined) this.hooks.onFault();
    for (const { accepts: _, refuses: __, ...reply } of replies)
      this.readReply({ ...reply, accepts: false, refuses: undefined }, false);
    this.reportChanges();
    this.heard.unasked += replies.length;
  }

  private count(
    { fault, says }: Arrived,
    { isUnderstood, isUnmatched, answers }: Extract<FrameReading<SentRequest>, { is: 'read' }>,
    at: SessionState['at'],
  ): void {
    if (fault !== undefined) {
      this.hooks.onFault();
      this.heard.unreadable += 1;
    }
    if (isUnderstood) this.hooks.onSeen('understood');
    else if (fault === undefined && at !== 'signing in') {
      this.heard.unfitting += 1;
      this.heard.unfit ??= readable(says[0], this.options.driver.document.framing);
    }
    if (at !== 'up' && at !== 'silent') return;
    if (isUnmatched) this.heard.unmatched += 1;
    if (answers !== undefined) this.heard.answers += 1;
    else if (isUnderstood) this.heard.unasked += 1;
    for (const said of says) this.sender.stopwatch.heard(said.text);
  }

  /** Enters what a reply says. Returns why it refuses, for an answer that the link has matched itself. */
  private readReply(reply: DecodedReply, isMatched: boolean): DecodedReply['refuses'] {
    if (reply.clears.length > 0) this.reportChanges();
    for (const change of reply.readings) this.changes.push(this.withDeadBand(change));
    if (reply.clears.length > 0) this.reportChanges(reply.clears);
    // A question may carry what the reply has just said.
    if (reply.asks.length > 0) this.reportChanges();
    // Before the sign-in is over nothing else may be asked.
    if (this.hooks.state().at !== 'signing in') this.listAsks.onReply(reply);
    for (const fault of reply.faults) this.hooks.onFault(fault);
    if (reply.requests.length > 0) {
      // What it has said in the same breath counts before.
      this.reportChanges();
      if (this.hooks.state().at !== 'signing in') reply.requests.forEach(this.hooks.onRequest);
    }
    if (isMatched) return reply.refuses;
    if (!reply.accepts && !reply.refuses) return undefined;
    const { requests, book } = this.sender;
    const { refuses } = reply;
    const { request, passed, doubted } = this.answered(reply);
    if (doubted !== undefined) requests.doubt(doubted);
    const ref = reply.ref ?? request?.ref;
    for (const gone of reply.ref === undefined ? passed : []) requests.end(gone);
    if (ref !== undefined) this.onRequestDone(ref, refuses?.reason, refuses?.code);
    else if (refuses) {
      // Nobody waits for an answer: a device that only speaks when it refuses means what was sent last.
      this.reportChanges();
      const refused = book.refusedNow();
      if (refused !== undefined) book.answer(refused, refuses.reason, this.shown);
      this.endsBy(refuses.code, refuses.reason);
    }
    return undefined;
  }

  /** What a reply without a number answers, and what was sent before it and will not be answered any more. */
  private answered({ accepts, refuses, readings }: DecodedReply): {
    readonly request: SentRequest | undefined;
    readonly passed: readonly number[];
    readonly doubted: number | undefined;
  } {
    const { requests, book } = this.sender;
    if (this.options.driver.document.answers !== 'in-order')
      return { request: requests.oldest, passed: [], doubted: undefined };
    const said = { accepts, refuses: refuses !== undefined, readings };
    const { ref, ...rest } = book.answeredBy(requests.all, said);
    return { request: ref === undefined ? undefined : requests.get(ref), ...rest };
  }

  private onFrameAnswer({ ref, how, code: status }: Answer, refusal: DecodedReply['refuses']): void {
    if (how === 'accepted') {
      this.sender.requests.accept(ref);
      return this.sender.pump();
    }
    if (how !== 'refused') return this.onRequestDone(ref, undefined, status);
    // What the device says itself tells more than the status of its answer, which only counts where it means the sign-in.
    const code = refusal?.code && !this.isDecisive(status) ? refusal.code : status;
    const named = code === undefined ? undefined : this.options.driver.document.errors[code];
    const unnamed = `The device refused it${code === undefined ? '' : ` (${code})`}.`;
    this.onRequestDone(ref, refusal?.reason ?? named ?? unnamed, code);
  }

  private isDecisive(code: string | undefined): boolean {
    const { lockedOutCodes, occupiedCodes } = this.options.driver.document.link;
    return code !== undefined && [...lockedOutCodes, ...occupiedCodes].includes(code);
  }

  /** A request is answered: with a reason, it was refused. Reports before an answer count before it. */
  private onRequestDone(ref: number, reason: string | undefined, code: string | undefined): void {
    const { sender } = this;
    sender.stopwatch.answered(ref);
    this.reportChanges();
    const request = sender.requests.end(ref);
    if (request) {
      this.lastAnswerMs = performance.now() - request.sentAt;
      sender.book.tripTaken(this.lastAnswerMs);
      this.hooks.onAnswer(this.lastAnswerMs);
    }
    if (reason !== undefined && this.endsBy(code, reason, request?.sendId !== undefined)) return;
    if (request?.sendId !== undefined) sender.book.answer(request.sendId, reason, this.shown);
    else if (reason !== undefined && request && this.isUnknown(code)) {
      if (request.name !== undefined) sender.leaveOut(request.name);
    } else if (reason !== undefined && request) {
      this.heard.refusal = reason;
      this.hooks.onFault(`“${request.name ?? 'a question'}” was refused: ${reason}`);
    } else if (request) this.heard.refusal = undefined;
    const isContinued = reason === undefined && request !== undefined && sender.askNextPage(request);
    if (request?.purpose === 'sync' && !isContinued) this.sync.answered();
    sender.pump();
  }

  /** True for a refusal by which the device says that it does not have what was asked for. */
  private isUnknown(code: string | undefined): boolean {
    return code !== undefined && this.options.driver.document.link.unknownCodes.includes(code);
  }

  /** Ends the session when the code means that the sign-in is wrong or another controller has the device. Returns whether it does. */
  private endsBy(code: string | undefined, reason: string, isCommand = true): boolean {
    const { lockedOutCodes, lockedOutBy, occupiedCodes } = this.options.driver.document.link;
    if (code === undefined) return false;
    const isSignIn = lockedOutCodes.includes(code) && !(isCommand && lockedOutBy === 'questions');
    const as = isSignIn ? 'locked out' : occupiedCodes.includes(code) ? 'occupied' : undefined;
    if (!as) return false;
    const { generation } = this.hooks.state();
    this.hooks.dispatch({ type: 'rejected', generation, as, detail: reason });
    return true;
  }

  /** Applies the dead band: a smaller change keeps the old value, unless a command waits for its effect. */
  private withDeadBand(change: ReadingChange): ReadingChange {
    const { deadBands } = this.options.driver;
    if (deadBands.size === 0 || typeof change.value !== 'number' || this.sender.book.isAwaiting) return change;
    const band = deadBands.get(splitKey(change.key).family);
    const now = band === undefined ? undefined : this.hooks.fresh(change.key);
    if (band === undefined || typeof now !== 'number' || Math.abs(change.value - now) >= band) return change;
    return { ...change, value: now };
  }

  /** Adds the computed readings that a report affects. Returns the changes, and the keys that became unknown. */
  private withComputed(
    changes: readonly ReadingChange[],
    fresh = this.hooks.fresh,
  ): [readonly ReadingChange[], readonly string[]] {
    const { computed } = this.options.driver;
    if (computed.length === 0) return [changes, []];
    const follows = computedBy(computed, changes, fresh);
    for (const fault of follows.faults) this.hooks.onFault(fault);
    return [[...changes, ...follows.changes], follows.unknown];
  }

  /** @param clears families that begin anew with these changes */
  private reportChanges(clears: readonly string[] = []): void {
    const { changes } = this;
    if (changes.length === 0 && clears.length === 0) return;
    this.changes = [];
    // What is cleared counts as unknown for what is computed with it.
    const isCleared = (key: string) => clears.includes(key) || clears.includes(splitKey(key).family);
    const fresh = (key: string) => (isCleared(key) ? undefined : this.hooks.fresh(key));
    const [all, unknown] = this.withComputed(changes, clears.length === 0 ? this.hooks.fresh : fresh);
    const cleared = clears.length === 0 ? [] : [...clears, ...computedFrom(this.options.driver.computed, clears)];
    const reported = this.hooks.onReadings(all, [...cleared, ...unknown]);
    if (changes.length === 0) return;
    this.hooks.onSeen('reported');
    this.sender.book.reported(reported);
  }
}

/** Returns a frame's text if it is readable. Byte frames without a checksum are left out, because noise produces them too. */
function readable(said: Said | undefined, framing: DriverDocument['framing']): string | undefined {
  if (said === undefined || said.kind === 'osc') return said?.text;
  const { text } = said;
  const isBytes = framing.kind === 'fixed' || framing.kind === 'visca' || ('as' in framing && framing.as === 'bytes');
  if (isBytes && !('check' in framing && framing.check)) return undefined;
  return text === '' || /[^\p{L}\p{M}\p{N}\p{P}\p{S}\p{Zs}\t]|\ufffd/u.test(text) ? undefined : text.slice(0, 80);
}
