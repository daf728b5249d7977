import type { Expectation, OwnMessage } from '../../core/driver';
import type { Why, FinalOutcome } from '../../core/press';
import type { Scalar } from '../../core/result';
import {
  begin,
  expectedValue,
  nextDeadline,
  answeredBy,
  noSends,
  onAnswer,
  onLost,
  onReadings,
  onTime,
  roundTripOf,
  withTrip,
  type Awaiting,
  type RoundTrips,
  type OpenSend,
  type SendsState,
  type SendsStep,
} from '../../core/session';
import type { SentRequest } from './requests';
import type { SendWatch } from './session-types';

/** What became of one send. Called at least once; after `late` once more when the report still comes. */
export type SendListener = (result: {
  readonly outcome: FinalOutcome;
  readonly ms: number;
  readonly reason?: string;
  readonly why: Why;
  readonly note?: boolean;
}) => void;

/** Who hears of a send. */
interface Following {
  readonly listener: SendListener;
  readonly watch: SendWatch | undefined;
  /** Puts its bytes out once more. */
  readonly resend: () => void;
}

/** The questions that confirm a send, and their interval. */
interface Asks {
  readonly questions: readonly OwnMessage[];
  readonly everyMs: number;
}

/** A send whose bytes have gone out and whose outcome is still to come. */
interface Begun {
  readonly id: string;
  readonly sentAt: number;
  readonly deadlineAt: number;
  readonly answered: boolean;
  readonly expectations: readonly Expectation[] | undefined;
  readonly again?: OpenSend['again'];
}

/**
 * The sends of one device that are not finished: who listens for each, when each is late, and what is asked meanwhile of a
 * device that does not report by itself.
 */
export class SendBook {
  private sends: SendsState = noSends;
  private trips: RoundTrips = [];
  private readonly listeners = new Map<string, Following>();
  private readonly asking = new Map<string, Asks>();
  private deadline: NodeJS.Timeout | undefined;
  private askTimer: NodeJS.Timeout | undefined;

  constructor(
    private readonly freshReading: (key: string) => Scalar | undefined,
    /** Asks one of the document's questions, unless it is being asked already. */
    private readonly ask: (question: OwnMessage) => void,
  ) {}

  /** True while a command waits for its effect. */
  get isAwaiting(): boolean {
    return this.sends.open.length > 0;
  }

  /** The open send with this id; `undefined` once its outcome is known. */
  private find(id: string): OpenSend | undefined {
    return this.sends.open.find((send) => send.id === id);
  }

  /** Which of these requests an answer without a number is for, and which before it will not be answered any more. */
  answeredBy(requests: readonly SentRequest[], said: Parameters<typeof answeredBy>[1]): ReturnType<typeof answeredBy> {
    const awaiting = requests.map(({ ref, sentAt, sendId, isDoubtful = false }): Awaiting => {
      const send = sendId === undefined ? undefined : this.find(sendId);
      const isConfirmed = sendId !== undefined && !send;
      return { ref, sentAt, isConfirmed, isLate: send?.late ?? false, isDoubtful, expectations: send?.expectations };
    });
    return answeredBy(awaiting, said, performance.now(), this.roundTripMs);
  }

  /** The send that a device means that only speaks when it refuses. */
  refusedNow(): string | undefined {
    const awaiting = this.sends.open.map(({ id, sentAt, late, expectations }): Awaiting => {
      return { ref: Number(id), sentAt, isConfirmed: false, isLate: late, isDoubtful: false, expectations };
    });
    const said = { accepts: false, refuses: true, readings: [] };
    const { ref } = answeredBy(awaiting, said, performance.now(), this.roundTripMs);
    return ref === undefined ? undefined : String(ref);
  }

  /** An answer came that long after its request. */
  tripTaken(ms: number): void {
    this.trips = withTrip(this.trips, ms);
  }

  private get roundTripMs(): number {
    return roundTripOf(this.trips);
  }

  /** What a reading will be once everything sent before has taken effect, or what it is now. */
  readonly expected = (key: string): Scalar | undefined => expectedValue(this.sends, key) ?? this.freshReading(key);

  /** @param asks questions to repeat until its effect is seen */
  begin(send: Begun, asks: Asks | undefined, following: Following): void {
    this.listeners.set(send.id, following);
    if (asks) this.asking.set(send.id, asks);
    this.settle(begin(this.sends, send, this.freshReading));
    this.askAgain();
  }

  /** The device answered with these bytes: with a reason, it refused. */
  answer(id: string, reason: string | undefined, bytes: Uint8Array): void {
    this.listeners.get(id)?.watch?.onAnswer?.(bytes);
    const answer = reason === undefined ? { accepted: true as const } : { accepted: false as const, reason };
    this.settle(onAnswer(this.sends, id, answer, performance.now(), this.freshReading));
  }

  /** These readings have been reported. */
  reported(keys: ReadonlySet<string>): void {
    if (this.sends.open.length === 0) return;
    this.settle(onReadings(this.sends, keys, performance.now(), this.freshReading, this.roundTripMs));
  }

  /** The connection is gone: everything open ends as lost. */
  lose(why: Why, reason: string): void {
    this.asking.clear();
    clearTimeout(this.askTimer);
    this.askTimer = undefined;
    this.settle(onLost(this.sends, performance.now(), why, reason));
    this.listeners.clear();
  }

  private settle({ state, results, again = [] }: SendsStep): void {
    const { open } = this.sends;
    this.sends = state;
    for (const result of results) {
      const { listener, watch } = this.listeners.get(result.id) ?? {};
      if (result.why === 'reported') this.tripTaken(result.afterMs);
      if (watch?.onEffect && result.why === 'reported') this.tellEffect(watch.onEffect.bind(watch), open, result.id);
      if (result.outcome !== 'late') this.listeners.delete(result.id);
      const { outcome, afterMs, reason, why, note } = result;
      listener?.({ outcome, ms: afterMs, why, reason, note });
    }
    if (this.listeners.size > this.sends.open.length) this.forgetListeners();
    for (const id of again) this.listeners.get(id)?.resend();
    const next = nextDeadline(this.sends);
    clearTimeout(this.deadline);
    this.deadline =
      next === undefined
        ? undefined
        : setTimeout(
            () => this.settle(onTime(this.sends, performance.now(), this.freshReading)),
            Math.max(0, next - performance.now()) + 1,
          );
  }

  private tellEffect(tell: NonNullable<SendWatch['onEffect']>, open: readonly OpenSend[], id: string): void {
    const { expectations = [] } = open.find((each) => each.id === id) ?? {};
    tell(expectations.map(({ key }) => ({ key, value: this.freshReading(key) })));
  }

  /** Sends that stayed late for too long are forgotten, and with them who listens. */
  private forgetListeners(): void {
    const open = new Set(this.sends.open.map((send) => send.id));
    for (const id of this.listeners.keys()) if (!open.has(id)) this.listeners.delete(id);
  }

  /** Asks what confirms the open sends, now and again and again until they are settled. */
  private askAgain(): void {
    if (this.askTimer || this.asking.size === 0) return;
    const open = new Set(this.sends.open.filter((send) => !send.late).map((send) => send.id));
    let everyMs = Infinity;
    const questions = new Map<string, OwnMessage>();
    for (const [id, rule] of this.asking) {
      if (!open.has(id)) {
        this.asking.delete(id);
        continue;
      }
      everyMs = Math.min(everyMs, rule.everyMs);
      for (const own of rule.questions) questions.set(`${own.ask} ${own.member?.index}`, own);
    }
    for (const own of questions.values()) this.ask(own);
    if (this.asking.size === 0) return;
    this.askTimer = setTimeout(() => {
      this.askTimer = undefined;
      this.askAgain();
    }, everyMs);
  }
}
