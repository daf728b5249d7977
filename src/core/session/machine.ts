import type { RE2JS } from 're2js';
import type { CompiledDriver, CompiledStep, OwnMessage } from '../driver';
import type { Scalar } from '../result';
import { derive } from './derive';
import type { DownCause, Link } from './link';
import { firstPollMs, nextPollMs } from './poll-times';
import { retryDelayMs } from './retry';

/**
 * The life of one device's link as a reducer: what happened goes in, the next state and what to do come out. It opens
 * no socket and reads no clock; the runner in the engine does, and hands each callback's generation back.
 *
 * ```
 *  off ─enable▶ calling ─opened▶ signing in ─greeted▶ syncing ─complete▶ up ◀─heard── silent
 *                  ▲                 │  │                 │               └──nothing──▶ │
 *                  │                 │  └─not accepted▶ locked out, occupied            │
 *                  └──── retry ──── down ◀───────────── any end ─────────────────────────┘
 * ```
 */
export type SessionState =
  | { readonly at: 'off'; readonly generation: number }
  | { readonly at: 'calling'; readonly generation: number; readonly failures: number }
  | {
      readonly at: 'signing in';
      readonly generation: number;
      readonly failures: number;
      readonly nextStep: number;
      /** What the device's greeting said so far, by group. */
      readonly captured: Readonly<Record<string, string>>;
      readonly heard: boolean;
    }
  | { readonly at: 'syncing'; readonly generation: number; readonly failures: number; readonly heard: boolean }
  | ({ readonly at: 'up'; readonly heardAt: number } & Held)
  | ({ readonly at: 'silent'; readonly heardAt: number } & Held)
  /** Nothing can come back. */
  | ({ readonly at: 'one-way' } & Held)
  /** Nothing is asked, and nothing has been heard. */
  | ({ readonly at: 'not checked' } & Held)
  /** Waits for a person. */
  | { readonly at: 'locked out'; readonly generation: number }
  | {
      readonly at: 'down';
      readonly generation: number;
      readonly failures: number;
      readonly cause: DownCause | 'occupied';
      readonly detail?: string;
    };

/** An established connection, and the failed attempts before it. */
interface Held {
  readonly generation: number;
  /** Consecutive attempts before this one that did not last. */
  readonly failures: number;
  /** When it was established. */
  readonly since: number;
}

/**
 * A connection has proved itself once it has lasted this long and something was heard over it. Over a one-way link failures only show when
 * something is sent, which may be seldom, so it has to last longer.
 */
const provenAfterMs = 3000;
const provenOneWayAfterMs = 20_000;
/** A device that is never asked counts as up for this long after its last message. */
const uncheckedAfterMs = 60_000;
/** A device that never speaks unasked has proved itself after this long. */
const provenByTimeAloneMs = 60_000;

export type SessionTimer = 'connect' | 'step' | 'sync' | 'keepAlive' | 'retry' | 'unheard' | `poll${number}`;

export type SessionEvent =
  | { readonly type: 'enable' }
  | { readonly type: 'disable' }
  /** A person asks for another try now. */
  | { readonly type: 'call again' }
  | { readonly type: 'opened'; readonly generation: number }
  | { readonly type: 'ended'; readonly generation: number; readonly cause: DownCause; readonly detail?: string }
  /** A frame came: its text, or `undefined` when it could not be read or has none. */
  | { readonly type: 'heard'; readonly generation: number; readonly text: string | undefined }
  /** Everything asked after connecting was answered. */
  | { readonly type: 'synced'; readonly generation: number }
  /** The device said that the sign-in is wrong, or that somebody else has it. */
  | {
      readonly type: 'rejected';
      readonly generation: number;
      readonly as: 'locked out' | 'occupied';
      readonly detail?: string;
    }
  | { readonly type: 'timer'; readonly generation: number; readonly timer: SessionTimer };

export type OwnPurpose = 'greeting' | 'sync' | 'keep-alive' | 'poll';

export type SessionEffect =
  | { readonly do: 'connect'; readonly generation: number }
  | { readonly do: 'close' }
  | {
      readonly do: 'send';
      readonly own: OwnMessage;
      readonly purpose: OwnPurpose;
      /** What fills the holes besides user and password. */
      readonly texts: Readonly<Record<string, string>>;
    }
  /** Stops that are owed go out before anything else. */
  | { readonly do: 'payOwed' }
  | { readonly do: 'startTimer'; readonly timer: SessionTimer; readonly afterMs: number }
  | { readonly do: 'stopTimers' }
  | { readonly do: 'link'; readonly link: Link };

interface SessionContext {
  readonly driver: CompiledDriver;
  readonly user: string;
  readonly password: string;
  /** Reached through a gateway: what fails before the port is open is the gateway's. */
  readonly through?: string;
  readonly readingNow: (key: string) => Scalar | undefined;
  /** Monotonic, in milliseconds. */
  readonly now: number;
  /** From 0 up to, not including, 1. */
  readonly random: number;
}

interface SessionStep {
  readonly state: SessionState;
  readonly effects: readonly SessionEffect[];
}

export const initialSession: SessionState = { at: 'off', generation: 0 };

/** The next state, and what the runner has to do, in order. Events of an earlier generation change nothing. */
export function step(context: SessionContext, state: SessionState, event: SessionEvent): SessionStep {
  const stay: SessionStep = { state, effects: [] };
  if ('generation' in event && event.generation !== state.generation) return stay;
  switch (event.type) {
    case 'enable':
      return state.at === 'off' ? call(state.generation + 1, 0, context) : stay;
    case 'call again':
      if (state.at !== 'locked out' && state.at !== 'down') return stay;
      return prepend([{ do: 'stopTimers' }], call(state.generation + 1, 0, context));
    case 'disable':
      if (state.at === 'off') return stay;
      return {
        state: { at: 'off', generation: state.generation + 1 },
        effects: [{ do: 'stopTimers' }, { do: 'close' }, { do: 'link', link: { word: 'off' } }],
      };
    case 'opened':
      return state.at === 'calling' ? opened(context, state) : stay;
    case 'ended':
      return end(context, state, event.cause, event.detail);
    case 'heard':
      return onHeard(context, state, event.text);
    case 'synced':
      return state.at === 'syncing' ? up(context, state, []) : stay;
    case 'rejected':
      if (state.at === 'off' || state.at === 'down' || state.at === 'locked out') return stay;
      return reject(context, state, event.as, event.detail);
    case 'timer':
      return onTimer(context, state, event.timer);
  }
}

const prepend = (before: readonly SessionEffect[], { state, effects }: SessionStep): SessionStep => ({
  state,
  effects: [...before, ...effects],
});

function call(generation: number, failures: number, { driver }: SessionContext): SessionStep {
  return {
    state: { at: 'calling', generation, failures },
    effects: [
      { do: 'link', link: { word: 'calling' } },
      { do: 'startTimer', timer: 'connect', afterMs: driver.document.link.connectTimeoutMs },
      { do: 'connect', generation },
    ],
  };
}

function opened(context: SessionContext, state: Extract<SessionState, { at: 'calling' }>): SessionStep {
  const { generation, failures } = state;
  const signingIn = { at: 'signing in', generation, failures, nextStep: 0, captured: {}, heard: false } as const;
  return greet(context, signingIn, [{ do: 'stopTimers' }, { do: 'link', link: { word: 'signing in' } }]);
}

type SigningIn = Extract<SessionState, { at: 'signing in' }>;

/** Sends every greeting line that is ours to send, up to the next one that must come from the device. */
function greet(context: SessionContext, state: SigningIn, before: readonly SessionEffect[]): SessionStep {
  const effects = [...before];
  let { nextStep } = state;
  for (;;) {
    const next = context.driver.greeting[nextStep];
    if (!next) return greeted(context, state, effects);
    if (next.needs !== undefined && isEmpty(context, state, next.needs)) {
      nextStep += 1;
      continue;
    }
    if ('expect' in next) {
      effects.push({ do: 'startTimer', timer: 'step', afterMs: next.withinMs });
      return { state: { ...state, nextStep }, effects };
    }
    effects.push({ do: 'send', own: next.send, purpose: 'greeting', texts: textsFor(context, state, next) });
    nextStep += 1;
  }
}

/** True if this name, password or captured group is empty. */
const isEmpty = ({ user, password }: SessionContext, { captured }: SigningIn, name: string): boolean =>
  !({ ...captured, user, password } as Readonly<Record<string, string>>)[name];

function textsFor(
  { user, password }: SessionContext,
  { captured }: SigningIn,
  { derive: rules }: Extract<CompiledStep, { send: unknown }>,
): Readonly<Record<string, string>> {
  const texts = { ...captured, user, password };
  // A group that took part in no match was not given: what is optional on it is left out.
  const given = Object.fromEntries(Object.entries(captured).filter(([, text]) => text !== ''));
  return { ...given, user, password, ...derive(rules, texts) };
}

function greeted(context: SessionContext, state: SigningIn, before: readonly SessionEffect[]): SessionStep {
  const { driver } = context;
  const { generation, failures, heard } = state;
  if (driver.document.link.direction === 'out') {
    return {
      state: { at: 'one-way', generation, failures, since: context.now },
      effects: [...before, { do: 'stopTimers' }, { do: 'link', link: { word: 'one-way' } }, { do: 'payOwed' }],
    };
  }
  const { sync } = driver.document;
  const effects: SessionEffect[] = [
    ...before,
    { do: 'stopTimers' },
    { do: 'link', link: { word: 'syncing' } },
    { do: 'payOwed' },
  ];
  for (const own of driver.sync) effects.push({ do: 'send', own, purpose: 'sync', texts: {} });
  const waits = driver.syncUntil !== undefined || (sync.answered && driver.sync.length > 0);
  if (!waits) return up(context, state, effects);
  effects.push({ do: 'startTimer', timer: 'sync', afterMs: sync.withinMs });
  return { state: { at: 'syncing', generation, failures, heard }, effects };
}

function up(
  context: SessionContext,
  { generation, failures }: Extract<SessionState, { at: 'signing in' | 'syncing' }>,
  before: readonly SessionEffect[],
): SessionStep {
  const { now } = context;
  const { link } = context.driver.document;
  const { polls } = context.driver;
  if (!asksAnything(context)) {
    const unchecked: SessionEffect[] = [{ do: 'stopTimers' }, { do: 'link', link: { word: 'not checked' } }];
    return { state: { at: 'not checked', generation, failures, since: now }, effects: [...before, ...unchecked] };
  }
  // A stop that carries readings could not be made before they were asked for.
  const owed: SessionEffect[] = context.driver.sync.length > 0 ? [{ do: 'payOwed' }] : [];
  const effects: SessionEffect[] = [...before, { do: 'stopTimers' }, ...owed, { do: 'link', link: { word: 'up' } }];
  const first = (everyMs: number, part = 0) => firstPollMs(everyMs, (context.random + part) % 1);
  if (link.keepAlive) effects.push({ do: 'startTimer', timer: 'keepAlive', afterMs: first(link.keepAlive.everyMs) });
  polls.forEach((poll, n) => {
    if (poll.atOnce) effects.push({ do: 'send', own: poll, purpose: 'poll', texts: {} });
    // Polls of one device are spread, so that they do not all fall into one turn of the event loop.
    effects.push({ do: 'startTimer', timer: `poll${n}`, afterMs: first(poll.everyMs, n / polls.length) });
  });
  return { state: { at: 'up', generation, failures, since: now, heardAt: now }, effects };
}

/** Whether anything is expected of the device by itself, so that its silence would be noticed. */
const asksAnything = ({ driver }: SessionContext): boolean =>
  driver.greeting.length + driver.sync.length + driver.polls.length > 0 || driver.keepAlive !== undefined;

function end(context: SessionContext, state: SessionState, given: DownCause, said?: string): SessionStep {
  if (state.at === 'off' || state.at === 'down' || state.at === 'locked out') return { state, effects: [] };
  const { cause, detail } = context.through
    ? behind(context.through, state, given, said)
    : { cause: given, detail: said };
  return fall(context, state, cause, { word: 'down', cause, detail });
}

/** What failed before a port was open is the gateway's; what fails behind it is the device's own. */
function behind(gateway: string, state: SessionState, cause: DownCause, detail?: string) {
  if (state.at === 'calling') return { cause: 'gateway' as const, detail: `${gateway}: ${cause}` };
  const silent = cause === 'no-sync' || cause === 'no-answer' || cause === 'no-greeting' || cause === 'silence';
  return { cause: silent ? ('behind-gateway' as const) : cause, detail };
}

function fall(
  context: SessionContext,
  state: Exclude<SessionState, { at: 'off' | 'down' | 'locked out' }>,
  cause: DownCause | 'occupied',
  link: Link,
): SessionStep {
  const failures = hasProved(state, context.now) ? 1 : state.failures + 1;
  return {
    state: { at: 'down', generation: state.generation + 1, failures, cause, detail: link.detail },
    effects: [
      { do: 'stopTimers' },
      { do: 'close' },
      { do: 'link', link },
      { do: 'startTimer', timer: 'retry', afterMs: retryDelayMs(failures, cause, context.random) },
    ],
  };
}

/** Whether a connection has proved itself, so that its end is the first failure again. */
function hasProved(state: Exclude<SessionState, { at: 'off' | 'down' | 'locked out' }>, now: number): boolean {
  if (state.at === 'one-way' || state.at === 'not checked') return now - state.since >= provenOneWayAfterMs;
  if (state.at !== 'up' && state.at !== 'silent') return false;
  // Only what is heard after the link came up counts: the greeting says nothing about how long it will last.
  return state.heardAt - state.since >= provenAfterMs || now - state.since >= provenByTimeAloneMs;
}

function reject(
  context: SessionContext,
  state: Exclude<SessionState, { at: 'off' | 'down' | 'locked out' }>,
  as: 'locked out' | 'occupied',
  detail?: string,
): SessionStep {
  if (as === 'occupied') return fall(context, state, 'occupied', { word: 'occupied', detail });
  return {
    state: { at: 'locked out', generation: state.generation + 1 },
    effects: [{ do: 'stopTimers' }, { do: 'close' }, { do: 'link', link: { word: 'locked out', detail } }],
  };
}

const fits = (pattern: RE2JS | undefined, text: string): boolean => pattern?.matcher(text).find() ?? false;

function onHeard(context: SessionContext, state: SessionState, text: string | undefined): SessionStep {
  switch (state.at) {
    case 'signing in':
      return onGreeting(context, { ...state, heard: true }, text);
    case 'syncing':
      if (text !== undefined && fits(context.driver.syncUntil, text)) return up(context, state, []);
      return { state: state.heard ? state : { ...state, heard: true }, effects: [] };
    case 'up':
      return { state: { ...state, heardAt: context.now }, effects: [] };
    case 'silent':
      return {
        state: { ...state, at: 'up', heardAt: context.now },
        effects: [{ do: 'link', link: { word: 'up' } }],
      };
    case 'not checked':
      return {
        state: { ...state, at: 'up', heardAt: context.now },
        effects: [
          { do: 'link', link: { word: 'up' } },
          { do: 'startTimer', timer: 'unheard', afterMs: uncheckedAfterMs },
        ],
      };
    default:
      return { state, effects: [] };
  }
}

function onGreeting(context: SessionContext, state: SigningIn, text: string | undefined): SessionStep {
  const expected = context.driver.greeting[state.nextStep];
  if (!expected || !('expect' in expected)) return { state, effects: [] };
  const said = text === undefined ? 'It sent something that cannot be read.' : `It said “${text.slice(0, 80)}”.`;
  if (text === undefined) return end(context, state, 'wrong-greeting', said);
  if (fits(expected.lockedOut, text)) return reject(context, state, 'locked out', said);
  if (fits(expected.occupied, text)) {
    const by = whoHolds(expected.occupied, text);
    return reject(context, state, 'occupied', by === undefined ? said : `In use by: ${by}.`);
  }
  const matcher = expected.expect.matcher(text);
  if (!matcher.find()) return end(context, state, 'wrong-greeting', said);
  const captured = { ...state.captured };
  for (const name of expected.groups) captured[name] = matcher.group(name) ?? '';
  return greet(context, { ...state, captured, nextStep: state.nextStep + 1 }, [{ do: 'stopTimers' }]);
}

/** Who else has the device, where its greeting says so: the group `by` of the pattern. */
function whoHolds(pattern: RE2JS | undefined, text: string): string | undefined {
  if (!pattern || !('by' in pattern.namedGroups())) return undefined;
  const matcher = pattern.matcher(text);
  return matcher.find() ? (matcher.group('by') ?? undefined)?.slice(0, 80) : undefined;
}

function onTimer(context: SessionContext, state: SessionState, timer: SessionTimer): SessionStep {
  const stay: SessionStep = { state, effects: [] };
  switch (timer) {
    case 'retry':
      return state.at === 'down' ? call(state.generation + 1, state.failures, context) : stay;
    case 'connect':
      return state.at === 'calling' ? end(context, state, 'no-answer') : stay;
    case 'step':
      return state.at === 'signing in' ? end(context, state, unanswered(context, state.heard, 'no-greeting')) : stay;
    case 'sync':
      return state.at === 'syncing' ? end(context, state, unanswered(context, state.heard, 'no-sync')) : stay;
    default:
      break;
  }
  if (state.at !== 'up' && state.at !== 'silent') return stay;
  if (timer === 'keepAlive') return keepAlive(context, state);
  if (timer === 'unheard') return unheard(context, state);
  const n = Number(timer.slice('poll'.length));
  const poll = context.driver.polls[n];
  if (!poll) return stay;
  const wanted = !poll.while || context.readingNow(poll.while.reading) === poll.while.equals;
  const again: SessionEffect = { do: 'startTimer', timer, afterMs: nextPollMs(poll.everyMs, context.random) };
  return { state, effects: wanted ? [{ do: 'send', own: poll, purpose: 'poll', texts: {} }, again] : [again] };
}

/** A device that is never asked returns to `not checked` when its last message is too old. */
function unheard(context: SessionContext, state: Extract<SessionState, { at: 'up' | 'silent' }>): SessionStep {
  const leftMs = state.heardAt + uncheckedAfterMs - context.now;
  if (leftMs > 0) return { state, effects: [{ do: 'startTimer', timer: 'unheard', afterMs: leftMs }] };
  const { generation, failures, since } = state;
  return {
    state: { at: 'not checked', generation, failures, since },
    effects: [{ do: 'link', link: { word: 'not checked' } }],
  };
}

/** Where nothing is connected, an open link proves nothing: when nothing at all came back, nobody answers. */
function unanswered({ driver }: SessionContext, heard: boolean, otherwise: DownCause): DownCause {
  const { kind } = driver.document.link;
  if (!heard && kind === 'serial') return 'serial-silent';
  return !heard && (kind === 'udp' || kind === 'http') ? 'no-answer' : otherwise;
}

function keepAlive(context: SessionContext, state: Extract<SessionState, { at: 'up' | 'silent' }>): SessionStep {
  const rule = context.driver.document.link.keepAlive;
  const own = context.driver.keepAlive;
  if (!rule || !own) return { state, effects: [] };
  const quietMs = context.now - state.heardAt;
  if (quietMs >= rule.giveUpAfterMs) return end(context, state, 'silence');
  const effects: SessionEffect[] = [
    { do: 'send', own, purpose: 'keep-alive', texts: {} },
    { do: 'startTimer', timer: 'keepAlive', afterMs: nextPollMs(rule.everyMs, context.random) },
  ];
  if (state.at === 'silent' || quietMs < rule.silentAfterMs) return { state, effects };
  return {
    state: { ...state, at: 'silent' },
    effects: [{ do: 'link', link: { word: 'silent' } }, ...effects],
  };
}
