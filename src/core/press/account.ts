import type { ControlRecord, SendSpec } from '../show';
import { barredReason, dryReason, guardedReason, letGoReason, nothingReason, type Guard, type Why } from './endings';
import { worstOutcome, type FinalOutcome } from './outcome';
import { repeatAfterMs } from './turns';

type Responses = ControlRecord['data']['responses'];

/**
 * The account of one press, from the finger to its outcome, without sockets, timers or records. The runner carries out the effects in
 * their order and reports what comes of them as events.
 *
 *     new ─▶ asking ─▶ deciding ─▶ sending ─▶ ended
 *
 * `asking` waits for answers, `deciding` for how long the press is held; a press passes by what it does not need. A press that repeats goes
 * on repeating after its own outcome, until the hand releases it.
 */
export type PressState =
  | { readonly at: 'new' }
  | { readonly at: 'asking' }
  | { readonly at: 'deciding' }
  | Sending
  | { readonly at: 'ended'; readonly repeats: Repeats | undefined };

interface Sending {
  readonly at: 'sending';
  readonly startedAt: number;
  readonly sends: readonly SendState[];
  /** Its effects have all been carried out. Until then nothing ends it, for more may be on its way out. */
  readonly isIssued: boolean;
  /** What it owes was entered before its first byte: `held` of its release, `off` of what turns it off. */
  readonly owes: { readonly held: boolean; readonly off: boolean };
  /** Nothing is sent but the release, so that its outcome is the press's. */
  readonly isReleaseOnly: boolean;
  /** What becomes of the hand once everything is issued. */
  readonly then: 'hold' | 'let go' | undefined;
  readonly repeats: Repeats | undefined;
}

interface Repeats {
  /** The number of the repetition that comes next; the first is 1. */
  readonly n: number;
  readonly sends: readonly SendSpec[];
}

type SendState =
  | { readonly is: 'due later'; readonly spec: SendSpec }
  | { readonly is: 'under way' }
  | ({ readonly is: 'ended' } & Ending);

/** How one send of a press, or the whole press, ended. */
export interface Ending {
  readonly outcome: FinalOutcome;
  readonly why: Why;
  /** In milliseconds. */
  readonly ms: number;
  readonly reason?: string;
}

/** `send` with the number of a send that waits for its time; `long` and `repeat` of the hand. */
export type PressTimer = 'long' | 'repeat' | `send ${number}`;

export type PressEvent =
  | { readonly type: 'begin' }
  /** The questions were answered; the control in the context has the answers from now on. */
  | { readonly type: 'answered' }
  | { readonly type: 'unanswered'; readonly reason: string }
  /** The hand has let go, or the panel it was on is gone. */
  | { readonly type: 'released'; readonly by: 'hand' | 'loss' }
  | { readonly type: 'timer'; readonly timer: PressTimer }
  /** All effects up to and including `issued` have been carried out. */
  | { readonly type: 'issued' }
  /** How a send went. */
  | { readonly type: 'ended'; readonly n: number; readonly ending: Ending }
  /** The engine stops. */
  | { readonly type: 'stopped' };

export type PressEffect =
  /** Puts the questions of the control. */
  | { readonly do: 'ask' }
  /**
   * Enters in the ledger what the press owes: its release where it is held, and what turns it off. Where `tells` is true, how each command
   * of the release went is reported as an `ended` event, the first one's as that of send 0.
   */
  | {
      readonly do: 'owe';
      readonly held: boolean;
      readonly off: boolean;
      readonly takesMs: number;
      readonly tells: boolean;
    }
  /** Whether anything has left: what was entered takes effect, or is struck out. */
  | { readonly do: 'settle'; readonly sent: boolean }
  /** Hands send n to the device, and puts it in the list where it is not there yet. */
  | { readonly do: 'send'; readonly n: number; readonly spec: SendSpec }
  /** Puts send n in the list without sending it. */
  | { readonly do: 'list'; readonly n: number; readonly spec: SendSpec }
  | { readonly do: 'begin macro'; readonly n: number }
  /** Puts the macro in the list without beginning it. */
  | { readonly do: 'list macro'; readonly n: number }
  /** The turn that was taken counts: the next tap takes the one after it. */
  | { readonly do: 'count turn' }
  /** What an earlier press has on is turned off now. */
  | { readonly do: 'turn off' }
  | { readonly do: 'hold' }
  | { readonly do: 'let go' }
  /** Sends these once more, as a press of its own. */
  | { readonly do: 'repeat'; readonly n: number; readonly sends: readonly SendSpec[] }
  | { readonly do: 'start timer'; readonly timer: PressTimer; readonly afterMs: number }
  | { readonly do: 'stop timers' }
  | { readonly do: 'issued' }
  | { readonly do: 'waiting' }
  | ({ readonly do: 'end'; readonly sends: readonly Ending[] } & Ending);

/** What a press goes by. Its methods are asked at the moment of each decision and must not change anything. */
export interface PressContext {
  /** In milliseconds from any zero point. */
  readonly now: number;
  readonly responses: Responses;
  readonly isHeld: boolean;
  /** The aim is dry. */
  readonly isDry: boolean;
  /** How it must be confirmed, and was not; absent where nothing keeps it back. */
  readonly missingGuard: Guard | undefined;
  /** Answers that came with the press: whether they will do. Absent where somebody has to be asked. */
  readonly answers?: { readonly ok: true } | { readonly ok: false; readonly reason: string };
  isBarred(): boolean;
  /** An earlier press has something on that a second one turns off. */
  isOn(): boolean;
  /** What it has on is still owed its turning off. */
  isOwedOff(): boolean;
  /** What a tap sends now: the next turn of a control that alternates. */
  turn(): readonly SendSpec[];
}

interface PressStep {
  readonly state: PressState;
  readonly effects: readonly PressEffect[];
}

export const newPress: PressState = { at: 'new' };

const engineStopped = 'The engine was stopped before its turn came.';
const goneBeforeLong = 'Disconnected before the long-press time; nothing was sent.';

/** Takes one event into account. An event that does not belong to the state changes nothing. */
export function stepPress(context: PressContext, state: PressState, event: PressEvent): PressStep {
  switch (event.type) {
    case 'begin':
      return state.at === 'new' ? begin(context) : stay(state);
    case 'answered':
      if (state.at !== 'asking') return stay(state);
      // A rule may have barred it while somebody was typing.
      return context.isBarred() ? skip(barredReason, 'barred') : carryOut(context);
    case 'unanswered':
      return state.at === 'asking' ? skip(event.reason, 'unanswered') : stay(state);
    case 'released':
      return onReleased(context, state, event.by);
    case 'timer':
      return onTimer(context, state, event.timer);
    case 'issued':
      return state.at === 'sending' ? onIssued(context, state) : stay(state);
    case 'ended':
      return state.at === 'sending' ? endSend(context, state, event.n, event.ending) : stay(state);
    case 'stopped':
      return onStopped(context, state);
  }
}

const stay = (state: PressState): PressStep => ({ state, effects: [] });

/** Ends with nothing sent. */
const skip = (reason: string, why: Why): PressStep => endNow({ outcome: 'skipped', why, ms: 0, reason });

const endNow = (ending: Ending, before: readonly PressEffect[] = []): PressStep => ({
  state: { at: 'ended', repeats: undefined },
  effects: [...before, { do: 'end', sends: [], ...ending }],
});

function begin(context: PressContext): PressStep {
  if (context.isBarred()) return skip(barredReason, 'barred');
  if (context.isOn())
    return endNow({ outcome: 'sent', why: 'stopped', ms: 0, reason: 'Turned off early by hand.' }, [
      { do: 'turn off' },
    ]);
  if (!context.responses.asks) return carryOut(context);
  if (context.missingGuard) return skip(guardedReason(context.missingGuard), 'guarded');
  if (!context.answers) return { state: { at: 'asking' }, effects: [{ do: 'ask' }] };
  return context.answers.ok ? carryOut(context) : skip(context.answers.reason, 'unanswered');
}

/** What the gesture does: see docs/architecture.md, "What a press does". */
function carryOut(context: PressContext): PressStep {
  const { held = [], long, repeat, asks } = context.responses;
  // What is asked first cannot be held.
  if (!context.isHeld || asks) return send(context, { sends: context.turn(), begins: true, isHeld: false });
  if (held.length > 0) return send(context, { sends: [...context.turn(), ...held], begins: true, isHeld: true });
  if (long && !context.missingGuard)
    return {
      state: { at: 'deciding' },
      effects: [{ do: 'waiting' }, { do: 'hold' }, { do: 'start timer', timer: 'long', afterMs: long.afterMs }],
    };
  const sends = context.turn();
  return send(context, { sends, begins: true, isHeld: true, ...(repeat ? { repeats: { n: 1, sends } } : {}) });
}

interface Plan {
  readonly sends: readonly SendSpec[];
  readonly begins: boolean;
  readonly isHeld: boolean;
  /** Let go already: what is owed for it follows at once. */
  readonly isLetGo?: boolean;
  readonly repeats?: Repeats;
}

function send(context: PressContext, { sends: specs, begins, isHeld, isLetGo = false, repeats }: Plan): PressStep {
  const { responses, isDry, missingGuard } = context;
  const { runs, release = [], off } = responses;
  const isBegun = begins && runs !== undefined;
  const effects: PressEffect[] = [];
  const sends: SendState[] = [];
  if (missingGuard) {
    const guarded = skipped(guardedReason(missingGuard), 'guarded');
    specs.forEach((spec, n) => effects.push({ do: 'list', n, spec }));
    if (isBegun && specs.length === 0) effects.push({ do: 'list macro', n: 0 });
    sends.push(...effects.map(() => guarded));
    return issue(context, sends, effects, { held: false, off: false }, false, undefined, undefined);
  }
  const owes = { held: isHeld && release.length > 0 && !isDry, off: off !== undefined && !isDry };
  const isReleaseOnly = owes.held && specs.length === 0 && !isBegun;
  const takesMs = specs.reduce((sum, { waitMs = 0 }) => sum + waitMs, 0);
  if (owes.held || owes.off) effects.push({ do: 'owe', ...owes, takesMs, tells: isReleaseOnly });
  let afterMs = 0;
  specs.forEach((spec, n) => {
    afterMs += spec.waitMs ?? 0;
    // Dry, nothing has to wait for its time.
    const isLater = afterMs > 0 && !isDry;
    sends.push(isLater ? { is: 'due later', spec } : { is: 'under way' });
    if (isLater) effects.push({ do: 'list', n, spec }, { do: 'start timer', timer: `send ${n}`, afterMs });
    else effects.push({ do: 'send', n, spec });
  });
  if (isBegun) {
    effects.push({ do: 'begin macro', n: sends.length });
    sends.push({ is: 'under way' });
  }
  // Dry, what would follow by itself is shown with the press.
  const follow = isDry ? [...(isHeld ? release : []), ...(off?.sends ?? [])] : isReleaseOnly ? release : [];
  for (const spec of follow) {
    effects.push({ do: 'list', n: sends.length, spec });
    sends.push(isDry ? skipped(dryReason, 'dry') : { is: 'under way' });
  }
  const then = !isHeld ? undefined : isLetGo ? 'let go' : 'hold';
  return issue(context, sends, effects, owes, isReleaseOnly, then, repeats);
}

const skipped = (reason: string, why: Why): SendState => ({ is: 'ended', outcome: 'skipped', why, ms: 0, reason });

const issue = (
  { now }: PressContext,
  sends: readonly SendState[],
  effects: readonly PressEffect[],
  owes: Sending['owes'],
  isReleaseOnly: boolean,
  then: Sending['then'],
  repeats: Repeats | undefined,
): PressStep => ({
  state: { at: 'sending', startedAt: now, sends, isIssued: false, owes, isReleaseOnly, then, repeats },
  effects: [...effects, { do: 'issued' }],
});

function onIssued(context: PressContext, state: Sending): PressStep {
  const { sends, owes, isReleaseOnly, then, repeats } = state;
  const isNothingGone =
    !isReleaseOnly &&
    sends.every((each) => each.is === 'ended' && (each.outcome === 'lost' || each.outcome === 'skipped'));
  const effects: PressEffect[] = [];
  if (owes.held || owes.off) effects.push({ do: 'settle', sent: !isNothingGone });
  if (!isNothingGone) effects.push({ do: 'count turn' });
  if (then) effects.push({ do: 'hold' });
  if (repeats && context.responses.repeat)
    effects.push({ do: 'start timer', timer: 'repeat', afterMs: repeatAfterMs(1, context.responses.repeat) });
  const isOpen = sends.some(({ is }) => is !== 'ended');
  if (isOpen) effects.push({ do: 'waiting' });
  const ended = closeIfDone(context, { ...state, isIssued: true });
  if (then === 'let go') effects.push({ do: 'let go' });
  return { state: ended.state, effects: [...effects, ...ended.effects] };
}

function endSend(context: PressContext, state: Sending, n: number, ending: Ending): PressStep {
  if (state.sends[n]?.is !== 'under way') return stay(state);
  return closeIfDone(context, { ...state, sends: state.sends.with(n, { is: 'ended', ...ending }) });
}

/** The press ends with its last send, as the worst of them did. */
function closeIfDone({ now }: PressContext, state: Sending): PressStep {
  const endings = state.sends.filter((each) => each.is === 'ended');
  if (!state.isIssued || endings.length < state.sends.length) return stay(state);
  const outcome = worstOutcome(endings.map((each) => each.outcome));
  const decisive = endings.find((each) => each.outcome === outcome) ?? {
    outcome: 'skipped' as const,
    why: 'nothing-to-send' as const,
    reason: nothingReason,
  };
  const { why, reason } = decisive;
  const end: PressEffect = {
    do: 'end',
    outcome: decisive.outcome,
    why,
    ms: now - state.startedAt,
    ...(reason === undefined ? {} : { reason }),
    sends: endings,
  };
  return { state: { at: 'ended', repeats: state.repeats }, effects: [end] };
}

function onReleased(context: PressContext, state: PressState, by: 'hand' | 'loss'): PressStep {
  const { release = [] } = context.responses;
  switch (state.at) {
    case 'deciding': {
      if (by === 'loss') return withStop(skip(goneBeforeLong, 'released'));
      const isHeld = release.length > 0;
      return withStop(send(context, { sends: context.turn(), begins: true, isHeld, isLetGo: true }));
    }
    case 'sending': {
      // What still waits for its time belonged to the hand.
      if (state.then === undefined) return stay({ ...state, repeats: undefined });
      const sends = state.sends.map((each) => (each.is === 'due later' ? skipped(letGoReason, 'released') : each));
      return withStop(closeIfDone(context, { ...state, sends, repeats: undefined }));
    }
    case 'ended':
      return { state: { at: 'ended', repeats: undefined }, effects: [{ do: 'stop timers' }] };
    default:
      return stay(state);
  }
}

const withStop = ({ state, effects }: PressStep): PressStep => ({
  state,
  effects: [{ do: 'stop timers' }, ...effects],
});

function onTimer(context: PressContext, state: PressState, timer: PressTimer): PressStep {
  const { long, repeat, release = [] } = context.responses;
  if (timer === 'long') {
    if (state.at !== 'deciding' || !long) return stay(state);
    return send(context, { sends: long.sends, begins: false, isHeld: release.length > 0 });
  }
  if (timer === 'repeat') {
    if ((state.at !== 'sending' && state.at !== 'ended') || !state.repeats || !repeat) return stay(state);
    const { n, sends } = state.repeats;
    return {
      state: { ...state, repeats: { n: n + 1, sends } },
      effects: [
        { do: 'repeat', n, sends },
        { do: 'start timer', timer, afterMs: repeatAfterMs(n + 1, repeat) },
      ],
    };
  }
  const n = Number(timer.slice('send '.length));
  const due = state.at === 'sending' ? state.sends[n] : undefined;
  if (state.at !== 'sending' || due?.is !== 'due later') return stay(state);
  // Turned off already: what would come behind that must not turn it on again.
  if (state.owes.off && !context.isOwedOff())
    return closeIfDone(context, { ...state, sends: state.sends.with(n, skipped(letGoReason, 'released')) });
  const sends = state.sends.with(n, { is: 'under way' });
  return { state: { ...state, sends }, effects: [{ do: 'send', n, spec: due.spec }] };
}

/** What waits for its time, an answer or the hand is given up; what is under way is not told any more. */
function onStopped(context: PressContext, state: PressState): PressStep {
  if (state.at === 'sending') {
    const lost: SendState = { is: 'ended', outcome: 'lost', why: 'stopped', ms: 0, reason: engineStopped };
    const sends = state.sends.map((each) => (each.is === 'due later' ? lost : each));
    return withStop(closeIfDone(context, { ...state, sends, repeats: undefined }));
  }
  return withStop(stay(state.at === 'ended' ? { at: 'ended', repeats: undefined } : state));
}
