import type { Scalar } from '../result';
import { meets, type Expectation } from '../driver';
import type { FinalOutcome, Why } from '../press';

/**
 * The sends of one device that are not finished: what each waits for, and how it ends. Pure: the runner tells it what
 * was sent, what came back and what time it is.
 */
export interface OpenSend {
  readonly id: string;
  readonly sentAt: number;
  readonly deadlineAt: number;
  /** The device will answer this send. */
  readonly answered: boolean;
  /** What must be reported; `undefined` when only the answer confirms it. */
  readonly expectations: readonly Expectation[] | undefined;
  /** Its outcome was already given as `late`; a report that still comes is noted. */
  readonly late: boolean;
  readonly accepted: boolean;
  /** How often it was sent. */
  readonly tries: number;
  /** When it is sent again if nothing has answered by then, and how often still. */
  readonly again?: { readonly at: number; readonly everyMs: number; readonly left: number };
}

export interface SendsState {
  readonly open: readonly OpenSend[];
}

interface SendResult {
  readonly id: string;
  readonly outcome: FinalOutcome;
  /** From sending to the result, in milliseconds. */
  readonly afterMs: number;
  readonly why: Why;
  readonly reason?: string;
  /** True when the outcome `late` was given before and this is the report that came afterwards. */
  readonly note?: boolean;
}

export interface SendsStep {
  readonly state: SendsState;
  readonly results: readonly SendResult[];
  /** Sends whose bytes go out once more. */
  readonly again?: readonly string[];
}

export const noSends: SendsState = { open: [] };

/** How long after its deadline a late report is still noted. */
const noteWindowMs = 30_000;
/** The most late sends that are watched for a report that still comes; the oldest are forgotten first. */
const maxLate = 100;

type ReadingNow = (key: string) => Scalar | undefined;

const holds = (expectations: readonly Expectation[], readingNow: ReadingNow): boolean =>
  expectations.every((each) => meets(each, readingNow(each.key)));

/** True when an earlier send, whose effect is still to come, is about one of the same readings. */
const isUnsettled = (earlier: readonly OpenSend[], expectations: readonly Expectation[]): boolean =>
  expectations.some(({ key }) =>
    earlier.some((send) => !send.late && send.expectations?.some((each) => each.key === key)),
  );

/**
 * What a reading will be once everything sent before has taken effect; `undefined` when nothing open is about it. A cut
 * right behind a change of preview swaps in the new preview, not the one still reported.
 */
export function expectedValue(state: SendsState, key: string): Scalar | undefined {
  return state.open
    .findLast((send) => !send.late && send.expectations?.some((each) => each.key === key))
    ?.expectations?.find((each) => each.key === key)?.equals;
}

/**
 * Enters a send whose bytes have gone out. `readingNow` gives fresh readings only.
 *
 * A state that the device freshly reports already confirms the send: at once where the device gives no answers, with
 * its answer where it does, so that a refusal is not missed.
 */
export function begin(
  state: SendsState,
  send: Omit<OpenSend, 'late' | 'accepted' | 'tries'>,
  readingNow: ReadingNow,
): SendsStep {
  const { expectations } = send;
  if (!send.answered && expectations && holds(expectations, readingNow) && !isUnsettled(state.open, expectations)) {
    return { state, results: [{ id: send.id, outcome: 'confirmed', why: 'already-so', afterMs: 0 }] };
  }
  // A copy of an earlier command would come behind this one and undo it: a start behind its stop, an old value behind a new one.
  const earlier = state.open.map((each) => (each.again ? { ...each, again: undefined } : each));
  return {
    state: { open: [...earlier, { ...send, late: false, accepted: false, tries: 1 }] },
    results: [],
  };
}

/** The device accepted or refused a send. */
export function onAnswer(
  state: SendsState,
  id: string,
  answer: { readonly accepted: true } | { readonly accepted: false; readonly reason: string },
  now: number,
  readingNow: ReadingNow,
): SendsStep {
  const send = state.open.find((open) => open.id === id);
  if (!send) return { state, results: [] };
  const rest = { open: state.open.filter((open) => open !== send) };
  if (!answer.accepted) {
    return { state: rest, results: [result(send, 'refused', 'refused-by-device', now, answer.reason)] };
  }
  const earlier = state.open.slice(0, state.open.indexOf(send));
  const { expectations } = send;
  if (!expectations || (holds(expectations, readingNow) && !isUnsettled(earlier, expectations))) {
    return { state: rest, results: [result(send, 'confirmed', expectations ? 'already-so' : 'accepted', now)] };
  }
  const open = state.open.map((each) => (each === send ? { ...each, accepted: true, again: undefined } : each));
  return { state: { open }, results: [] };
}

/**
 * Readings have changed: everything whose effect is now reported is confirmed. So is what the device accepted before it
 * about the same readings: both took effect within one report, which shows only the last.
 *
 * A report that comes sooner than a round trip cannot be the effect: it was so already. What is answered then waits for the answer, so that
 * a refusal is not missed.
 */
export function onReadings(
  state: SendsState,
  changed: ReadonlySet<string>,
  now: number,
  readingNow: ReadingNow,
  roundTripMs = 0,
): SendsStep {
  const results: SendResult[] = [];
  const confirmedKeys = new Set<string>();
  const open: OpenSend[] = [];
  for (const send of [...state.open].reverse()) {
    const keys = send.expectations?.map(({ key }) => key) ?? [];
    const reported = send.expectations && keys.some((key) => changed.has(key)) && holds(send.expectations, readingNow);
    const isTooSoon = now - send.sentAt < roundTripMs;
    if (reported && isTooSoon && send.answered && !send.accepted) {
      open.unshift(send);
      continue;
    }
    const overtaken = send.accepted && keys.length > 0 && keys.every((key) => confirmedKeys.has(key));
    if (!reported && !overtaken) {
      open.unshift(send);
      continue;
    }
    for (const key of keys) confirmedKeys.add(key);
    results.unshift(
      reported
        ? result(send, 'confirmed', isTooSoon ? 'already-so' : 'reported', now)
        : result(send, 'confirmed', 'superseded', now, 'The next command came before the device could report it.'),
    );
  }
  return results.length === 0 ? { state, results } : { state: { open }, results };
}

/**
 * Time has passed: sends beyond their deadline become `late`, and are forgotten some time after that. One that the device
 * accepted and whose effect is reported freshly is confirmed: it was so already, and nothing had to change. What nothing has answered is
 * sent again where its driver says so.
 */
export function onTime(state: SendsState, now: number, readingNow: ReadingNow): SendsStep {
  const results: SendResult[] = [];
  const again: string[] = [];
  const open = state.open.flatMap((send): OpenSend[] => {
    if (send.late) return now - send.deadlineAt > noteWindowMs ? [] : [send];
    if (now < send.deadlineAt) {
      if (!send.again || now < send.again.at) return [send];
      again.push(send.id);
      return [sentAgain(send, send.again, now)];
    }
    if (send.accepted && send.expectations && holds(send.expectations, readingNow)) {
      results.push(result(send, 'confirmed', 'already-so', now));
      return [];
    }
    results.push({
      id: send.id,
      outcome: 'late',
      why: 'timed-out',
      afterMs: now - send.sentAt,
      reason: withTries(
        send,
        send.accepted
          ? 'The device accepted it but has not reported the effect.'
          : 'The device has not reported it in time.',
      ),
    });
    return [{ ...send, late: true, again: undefined }];
  });
  const tooMany = open.filter((send) => send.late).length - maxLate;
  const kept =
    tooMany > 0
      ? open.filter((send, n) => !send.late || open.slice(0, n).filter((each) => each.late).length >= tooMany)
      : open;
  return { state: { open: kept }, results, again };
}

function sentAgain(send: OpenSend, { everyMs, left }: NonNullable<OpenSend['again']>, now: number): OpenSend {
  const next = left > 1 ? { at: now + everyMs, everyMs, left: left - 1 } : undefined;
  return { ...send, tries: send.tries + 1, again: next };
}

/** The connection is gone: everything open ends as `lost`. */
export function onLost(state: SendsState, now: number, why: Why, reason: string): SendsStep {
  const results = state.open.filter((send) => !send.late).map((send) => result(send, 'lost', why, now, reason));
  return { state: noSends, results };
}

/** When `onTime` has to be called next, or `undefined` when nothing waits. */
export function nextDeadline(state: SendsState): number | undefined {
  let next: number | undefined;
  for (const send of state.open) {
    const at = send.late ? send.deadlineAt + noteWindowMs + 1 : Math.min(send.deadlineAt, send.again?.at ?? Infinity);
    if (next === undefined || at < next) next = at;
  }
  return next;
}

function result(send: OpenSend, outcome: FinalOutcome, why: Why, now: number, reason?: string): SendResult {
  const base = { id: send.id, outcome, why, afterMs: now - send.sentAt, reason: withTries(send, reason) };
  return send.late ? { ...base, note: true } : base;
}

const times = ['', 'once', 'twice', 'three times', 'four times', 'five times', 'six times'];

/** A reason that tells that it was sent more than once. */
function withTries({ tries }: OpenSend, reason: string | undefined): string | undefined {
  if (tries === 1) return reason;
  return [reason, `Sent ${times[tries] ?? `${tries} times`}, because nothing answered.`].filter(Boolean).join(' ');
}
