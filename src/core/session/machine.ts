import type { CompiledDriver } from '../driver';
import type { DownCause, Link } from './link';
import { retryDelayMs } from './retry';

/**
 * The life of one device's link as a reducer: what happened goes in, the next state and what to do come out. It opens
 * no socket and reads no clock; the runner in the engine does, and hands each callback's generation back.
 *
 * ```
 *  off ─enable▶ calling ─opened▶ signing in ─greeted▶ syncing ─complete▶ up ◀─heard── silent
 *                  ▲                 │                    │               └──nothing──▶ │
 *                  └──── retry ──── down ◀───────────── any end ─────────────────────────┘
 * ```
 */
export type SessionState =
  | { readonly at: 'off'; readonly generation: number }
  | { readonly at: 'calling'; readonly generation: number; readonly failures: number }
  | { readonly at: 'signing in'; readonly generation: number; readonly failures: number; readonly nextStep: number }
  | { readonly at: 'syncing'; readonly generation: number; readonly failures: number }
  | { readonly at: 'up'; readonly generation: number; readonly heardAt: number }
  | { readonly at: 'silent'; readonly generation: number; readonly heardAt: number }
  | {
      readonly at: 'down';
      readonly generation: number;
      readonly failures: number;
      readonly cause: DownCause;
      readonly detail?: string;
    };

export type SessionTimer = 'connect' | 'step' | 'sync' | 'keepAlive' | 'retry' | `poll${number}`;

export type SessionEvent =
  | { readonly type: 'enable' }
  | { readonly type: 'disable' }
  | { readonly type: 'opened'; readonly generation: number }
  | { readonly type: 'ended'; readonly generation: number; readonly cause: DownCause; readonly detail?: string }
  | { readonly type: 'line'; readonly generation: number; readonly text: string }
  | { readonly type: 'timer'; readonly generation: number; readonly timer: SessionTimer };

export type SessionEffect =
  | { readonly do: 'connect'; readonly generation: number }
  | { readonly do: 'close' }
  | { readonly do: 'send'; readonly text: string; readonly purpose: 'greeting' | 'sync' | 'keep-alive' | 'poll' }
  | { readonly do: 'startTimer'; readonly timer: SessionTimer; readonly afterMs: number }
  | { readonly do: 'stopTimers' }
  | { readonly do: 'link'; readonly link: Link };

export interface SessionContext {
  readonly driver: CompiledDriver;
  /** Monotonic, in milliseconds. */
  readonly now: number;
  /** From 0 up to, not including, 1. */
  readonly random: number;
}

export interface SessionStep {
  readonly state: SessionState;
  readonly effects: readonly SessionEffect[];
}

export const initialSession: SessionState = { at: 'off', generation: 0 };

/** The next state, and what the runner has to do, in order. Events of an earlier generation change nothing. */
export function step(context: SessionContext, state: SessionState, event: SessionEvent): SessionStep {
  if ('generation' in event && event.generation !== state.generation) return { state, effects: [] };
  switch (event.type) {
    case 'enable':
      return state.at === 'off' ? call(state.generation + 1, 0, context) : { state, effects: [] };
    case 'disable':
      if (state.at === 'off') return { state, effects: [] };
      return {
        state: { at: 'off', generation: state.generation + 1 },
        effects: [{ do: 'stopTimers' }, { do: 'close' }, { do: 'link', link: { word: 'off' } }],
      };
    case 'opened':
      if (state.at !== 'calling') return { state, effects: [] };
      return greet(context, { at: 'signing in', generation: state.generation, failures: state.failures, nextStep: 0 }, [
        { do: 'stopTimers' },
        { do: 'link', link: { word: 'signing in' } },
      ]);
    case 'ended':
      return end(context, state, event.cause, event.detail);
    case 'line':
      return onLine(context, state, event.text);
    case 'timer':
      return onTimer(context, state, event.timer);
  }
}

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

type SigningIn = Extract<SessionState, { at: 'signing in' }>;

/** Sends every greeting line that is ours to send, up to the next one that must come from the device. */
function greet(context: SessionContext, state: SigningIn, before: readonly SessionEffect[]): SessionStep {
  const effects = [...before];
  let { nextStep } = state;
  for (;;) {
    const next = context.driver.greeting[nextStep];
    if (!next) return sync(context, state, effects);
    if ('expect' in next) {
      effects.push({ do: 'startTimer', timer: 'step', afterMs: next.withinMs });
      return { state: { ...state, nextStep }, effects };
    }
    effects.push({ do: 'send', text: next.send, purpose: 'greeting' });
    nextStep += 1;
  }
}

function sync(context: SessionContext, state: SigningIn, before: readonly SessionEffect[]): SessionStep {
  const { sync: ask } = context.driver.document;
  const effects: SessionEffect[] = [...before, { do: 'stopTimers' }, { do: 'link', link: { word: 'syncing' } }];
  for (const text of ask.send) effects.push({ do: 'send', text, purpose: 'sync' });
  if (!context.driver.syncUntil) return up(context, state.generation, effects);
  effects.push({ do: 'startTimer', timer: 'sync', afterMs: ask.withinMs });
  return { state: { at: 'syncing', generation: state.generation, failures: state.failures }, effects };
}

function up(context: SessionContext, generation: number, before: readonly SessionEffect[]): SessionStep {
  const effects: SessionEffect[] = [...before, { do: 'stopTimers' }, { do: 'link', link: { word: 'up' } }];
  const { link, polls } = context.driver.document;
  if (link.keepAlive) effects.push({ do: 'startTimer', timer: 'keepAlive', afterMs: link.keepAlive.everyMs });
  polls.forEach((poll, n) => effects.push({ do: 'startTimer', timer: `poll${n}`, afterMs: poll.everyMs }));
  return { state: { at: 'up', generation, heardAt: context.now }, effects };
}

function end(context: SessionContext, state: SessionState, cause: DownCause, detail?: string): SessionStep {
  if (state.at === 'off' || state.at === 'down') return { state, effects: [] };
  // A device that had proved itself starts counting anew; TCP alone proves nothing.
  const failures = ('failures' in state ? state.failures : 0) + 1;
  return {
    state: { at: 'down', generation: state.generation + 1, failures, cause, detail },
    effects: [
      { do: 'stopTimers' },
      { do: 'close' },
      { do: 'link', link: { word: 'down', cause, detail } },
      { do: 'startTimer', timer: 'retry', afterMs: retryDelayMs(failures, cause, context.random) },
    ],
  };
}

function onLine(context: SessionContext, state: SessionState, text: string): SessionStep {
  switch (state.at) {
    case 'signing in': {
      const expected = context.driver.greeting[state.nextStep];
      if (!expected || !('expect' in expected)) return { state, effects: [] };
      if (!expected.expect.matcher(text).find()) {
        return end(context, state, 'wrong-greeting', `It said “${text.slice(0, 80)}”.`);
      }
      return greet(context, { ...state, nextStep: state.nextStep + 1 }, [{ do: 'stopTimers' }]);
    }
    case 'syncing':
      if (context.driver.syncUntil?.matcher(text).find()) return up(context, state.generation, []);
      return { state, effects: [] };
    case 'up':
      return { state: { ...state, heardAt: context.now }, effects: [] };
    case 'silent':
      return {
        state: { at: 'up', generation: state.generation, heardAt: context.now },
        effects: [{ do: 'link', link: { word: 'up' } }],
      };
    default:
      return { state, effects: [] };
  }
}

function onTimer(context: SessionContext, state: SessionState, timer: SessionTimer): SessionStep {
  if (timer === 'retry')
    return state.at === 'down' ? call(state.generation + 1, state.failures, context) : { state, effects: [] };
  if (timer === 'connect') return state.at === 'calling' ? end(context, state, 'no-answer') : { state, effects: [] };
  if (timer === 'step') return state.at === 'signing in' ? end(context, state, 'no-greeting') : { state, effects: [] };
  if (timer === 'sync') return state.at === 'syncing' ? end(context, state, 'no-sync') : { state, effects: [] };
  if (state.at !== 'up' && state.at !== 'silent') return { state, effects: [] };
  if (timer === 'keepAlive') return keepAlive(context, state);
  const poll = context.driver.document.polls[Number(timer.slice('poll'.length))];
  if (!poll) return { state, effects: [] };
  return {
    state,
    effects: [
      { do: 'send', text: poll.send, purpose: 'poll' },
      { do: 'startTimer', timer, afterMs: poll.everyMs },
    ],
  };
}

function keepAlive(context: SessionContext, state: Extract<SessionState, { at: 'up' | 'silent' }>): SessionStep {
  const rule = context.driver.document.link.keepAlive;
  if (!rule) return { state, effects: [] };
  const quietMs = context.now - state.heardAt;
  if (quietMs >= rule.giveUpAfterMs) return end(context, state, 'silence');
  const effects: SessionEffect[] = [
    { do: 'send', text: rule.send, purpose: 'keep-alive' },
    { do: 'startTimer', timer: 'keepAlive', afterMs: rule.everyMs },
  ];
  if (state.at === 'silent' || quietMs < rule.silentAfterMs) return { state, effects };
  return {
    state: { at: 'silent', generation: state.generation, heardAt: state.heardAt },
    effects: [{ do: 'link', link: { word: 'silent' } }, ...effects],
  };
}
