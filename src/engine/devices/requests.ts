import type { OwnMessage } from '../../core/driver';
import type { OwnPurpose } from '../../core/session';

/** Something that was sent to a device and that it will answer. */
export interface SentRequest {
  readonly ref: number;
  /** The question or command, by name, for replies that are only read as an answer to it. */
  readonly name: string | undefined;
  /** The send that waits for it; `undefined` for a question of the session's own. */
  readonly sendId: string | undefined;
  /** Why the session asked by itself, where it did. */
  readonly purpose: OwnPurpose | undefined;
  /** The member for which a question was asked. */
  readonly member: OwnMessage['member'];
  /** The first member asked for, where a list comes in pieces. */
  readonly from: number | undefined;
  /** Both monotonic, in milliseconds. */
  readonly sentAt: number;
  readonly deadlineAt: number;
  /** The press that it was sent for. */
  readonly press?: string | undefined;
  /** How often it was sent again: where answers come in order, that many more may come. */
  readonly repeats?: number;
  /** What looked like its answer reported another value. */
  readonly isDoubtful?: boolean;
}

/** The most unanswered requests that are remembered; beyond that the oldest are forgotten. */
const maxRemembered = 1000;

/**
 * What a device still owes an answer to, oldest first. A device that answers in order is matched by age, so that one whose
 * time is over keeps its place; one that names the request is matched by number.
 */
export class Requests {
  private open = new Map<number, SentRequest>();
  /** Those that no longer count against the window: accepted, or their time is over. */
  private readonly freed = new Set<number>();

  private timer: NodeJS.Timeout | undefined;

  /** @param onOver told those whose time is over, as soon as it is */
  constructor(
    /** Answers name nothing; each is that of the oldest. */
    private readonly inOrder: boolean,
    private readonly keepsOrder: boolean,
    private readonly onOver: (over: readonly SentRequest[]) => void,
  ) {}

  get inFlight(): number {
    return this.open.size - this.freed.size;
  }

  private get nextDeadline(): number | undefined {
    for (const request of this.open.values()) if (!this.freed.has(request.ref)) return request.deadlineAt;
    return undefined;
  }

  begin(request: SentRequest): void {
    this.open.set(request.ref, request);
    this.timer ??= this.nextTimer();
    if (this.open.size <= maxRemembered) return;
    const [oldest] = this.open.keys();
    if (oldest !== undefined) this.end(oldest);
  }

  get(ref: number): SentRequest | undefined {
    return this.open.get(ref);
  }

  /** It was sent once more, and has until then. */
  askedAgain(ref: number, deadlineAt: number): void {
    const request = this.open.get(ref);
    if (request) this.open.set(ref, { ...request, deadlineAt, repeats: (request.repeats ?? 0) + 1 });
  }

  /** Something looked like its answer and reported another value. */
  doubt(ref: number): void {
    const request = this.open.get(ref);
    if (request) this.open.set(ref, { ...request, isDoubtful: true });
  }

  /** All that are not answered, oldest first. */
  get all(): readonly SentRequest[] {
    return [...this.open.values()];
  }

  /** The one that the next answer is for, where answers come in order. */
  get oldest(): SentRequest | undefined {
    const [first] = this.open.values();
    return first;
  }

  /** True when this question was sent and may still be answered in time. */
  isAsking({ ask, member }: OwnMessage): boolean {
    for (const { ref, name, member: asked } of this.open.values())
      if (name === ask && asked?.index === member?.index && !this.freed.has(ref)) return true;
    return false;
  }

  /** The device took it, but has not finished: it no longer counts against the window. */
  accept(ref: number): void {
    if (this.open.has(ref)) this.freed.add(ref);
  }

  /** It was answered, or nobody waits for it any more. */
  end(ref: number): SentRequest | undefined {
    const request = this.open.get(ref);
    this.open.delete(ref);
    this.freed.delete(ref);
    if (request?.repeats && this.inOrder) this.awaitRepeats(request, request.repeats);
    return request;
  }

  /** Of what was sent again each copy may be answered. The answers must not be taken for those of what is sent next. */
  private awaitRepeats(request: SentRequest, repeats: number): void {
    const ref = -Math.abs(request.ref);
    const copy = { ...request, ref, sendId: undefined, press: undefined, repeats: repeats - 1 };
    this.open = new Map([[ref, copy], ...this.open]);
    this.timer ??= this.nextTimer();
  }

  /** Those whose time is over. Where answers come in order they stay, for their answer would be taken for another's. */
  private expire(now: number): SentRequest[] {
    const over = [...this.open.values()].filter(({ ref, deadlineAt }) => now >= deadlineAt && !this.freed.has(ref));
    for (const { ref } of over) {
      if (this.keepsOrder) this.freed.add(ref);
      else this.end(ref);
    }
    return over;
  }

  /** True when an answer is overdue whose place is kept: what comes next may be taken for it. */
  get hasOverdue(): boolean {
    return this.keepsOrder && this.freed.size > 0;
  }

  clear(): void {
    this.open.clear();
    this.freed.clear();
    clearTimeout(this.timer);
    this.timer = undefined;
  }

  private nextTimer(): NodeJS.Timeout | undefined {
    const next = this.nextDeadline;
    if (next === undefined) return undefined;
    return setTimeout(() => this.onTime(), Math.max(1, next - performance.now()));
  }

  private onTime(): void {
    this.timer = undefined;
    const over = this.expire(performance.now());
    this.timer = this.nextTimer();
    this.onOver(over);
  }
}
