import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import visionSwitcher from '../../drivers/vision-switcher.json';
import { compileDriver } from '../driver';
import { acceptsPresses, causeOfSocketError, type DownCause } from './link';
import {
  initialSession,
  step,
  type SessionEffect,
  type SessionEvent,
  type SessionState,
  type SessionTimer,
} from './machine';
import { worstOutcome, type FinalOutcome } from '../press';
import { retryDelayMs } from './retry';
import {
  begin,
  expectedValue,
  nextDeadline,
  noSends,
  onAnswer,
  onLost,
  onReadings,
  onTime,
  type SendsState,
} from './sends';

const compiled = compileDriver(visionSwitcher);
if (!compiled.ok) throw new Error('The driver does not compile.');
const driver = compiled.value;

const context = { driver, user: '', password: '', readingNow: () => undefined };

/** Runs events on the machine; returns the state and everything it asked for. */
function play(events: readonly ((state: SessionState) => SessionEvent & { readonly now?: number })[], spoken = driver) {
  let state: SessionState = initialSession;
  const effects: SessionEffect[] = [];
  for (const event of events) {
    const { now = 0, ...made } = event(state);
    const next = step({ ...context, driver: spoken, now, random: 0.5 }, state, made as SessionEvent);
    state = next.state;
    effects.push(...next.effects);
  }
  return { state, effects, links: effects.flatMap((effect) => (effect.do === 'link' ? [effect.link.word] : [])) };
}

const enable = () => ({ type: 'enable' }) as const;
const opened = (state: SessionState) => ({ type: 'opened', generation: state.generation }) as const;
const line =
  (text: string, now = 0) =>
  (state: SessionState) =>
    ({ type: 'heard', generation: state.generation, text, now }) as const;
const timer =
  (name: SessionTimer, now = 0) =>
  (state: SessionState) =>
    ({ type: 'timer', generation: state.generation, timer: name, now }) as const;
const ended = (cause: DownCause) => (state: SessionState) =>
  ({ type: 'ended', generation: state.generation, cause }) as const;
const toUp = [enable, opened, line('HAIL switcher 1 12'), line('NOW program 1'), line('DONE')];

describe('the link', () => {
  it('goes up only after greeting and the whole state', () => {
    expect(play(toUp).links).toEqual(['calling', 'signing in', 'syncing', 'up']);
  });

  it('asks for the state once greeted', () => {
    expect(play(toUp.slice(0, 3)).effects).toContainEqual({
      do: 'send',
      own: driver.sync[0],
      purpose: 'sync',
      texts: {},
    });
  });

  it('says that something else answers, with what it said', () => {
    const { state } = play([enable, opened, line('220 mail ready')]);
    expect(state).toMatchObject({ at: 'down', cause: 'wrong-greeting', detail: 'It said “220 mail ready”.' });
  });

  it.each([
    ['no-answer', [enable, timer('connect')]],
    ['no-greeting', [enable, opened, timer('step')]],
    ['no-sync', [enable, opened, line('HAIL switcher 1 12'), timer('sync')]],
    ['refused', [enable, ended('refused')]],
    ['closed', [...toUp, ended('closed')]],
  ] as const)('is down by %s', (cause, events) => {
    expect(play([...events]).state).toMatchObject({ at: 'down', cause });
  });

  it('falls silent when nothing comes back, and is up again with the next line', () => {
    const quiet = [...toUp, timer('keepAlive', 1000), timer('keepAlive', 3000)];
    expect(play(quiet).links.at(-1)).toBe('silent');
    expect(play([...quiet, line('DONE', 3100)]).links.at(-1)).toBe('up');
  });

  it('of a device that is asked nothing is up for a minute after each time it has spoken', () => {
    const asksNothing = { ...driver, greeting: [], sync: [], syncUntil: undefined, polls: [], keepAlive: undefined };
    const links = (...events: Parameters<typeof play>[0]) =>
      play([enable, opened, ...events], asksNothing).links.slice(2);
    const begun = ['syncing', 'not checked', 'up'];
    expect(links(line('NOW program 1', 1000))).toEqual(begun);
    expect(links(line('NOW program 1', 1000), line('NOW program 2', 50_000), timer('unheard', 61_000))).toEqual(begun);
    expect(links(line('NOW program 1', 1000), timer('unheard', 61_000))).toEqual([...begun, 'not checked']);
    expect(links(line('NOW program 1', 1000), timer('unheard', 61_000), line('NOW program 1', 70_000)).at(-1)).toBe(
      'up',
    );
  });

  it('gives a silent device up in the end', () => {
    expect(play([...toUp, timer('keepAlive', 3000), timer('keepAlive', 9000)]).state).toMatchObject({
      at: 'down',
      cause: 'silence',
    });
  });

  it('tries again at once after a device that had proved itself is lost', () => {
    const retry = play([...toUp, ended('closed')]).effects.find(
      (effect) => effect.do === 'startTimer' && effect.timer === 'retry',
    );
    expect(retry).toMatchObject({ afterMs: 0 });
  });

  /** How long each call waits for the one before, of a device that comes up and is lost after so long, every time. */
  const waitsOf = (heldMs: number, heardAfterMs: number) => {
    let state: SessionState = initialSession;
    let now = 0;
    return Array.from({ length: 12 }, (_, n) => {
      let waitMs = -1;
      const events = [n === 0 ? enable : timer('retry'), ...toUp.slice(1), line('NOW program 2'), ended('closed')];
      events.forEach((event, at) => {
        if (at === events.length - 2) now += heardAfterMs;
        if (at === events.length - 1) now += heldMs - heardAfterMs;
        const next = step({ ...context, now, random: 1 }, state, event(state) as SessionEvent);
        state = next.state;
        for (const effect of next.effects)
          if (effect.do === 'startTimer' && effect.timer === 'retry') waitMs = effect.afterMs;
      });
      now += waitMs;
      return waitMs;
    });
  };

  it('waits longer and longer for a device that comes up and is lost at once', () => {
    expect(waitsOf(10, 5)).toEqual([0, 100, 200, 400, 800, 1000, 1000, 1000, 1000, 1000, 1000, 1000]);
    // Held, but nothing was heard since it came up: that proves nothing.
    expect(waitsOf(20_000, 5).at(-1)).toBe(1000);
  });

  it('calls at once again whenever the connection had held for some seconds and said something', () => {
    expect(new Set(waitsOf(20_000, 10_000))).toEqual(new Set([0]));
    expect(new Set(waitsOf(61_000, 5))).toEqual(new Set([0]));
  });

  it('takes no notice of what belongs to an earlier connection', () => {
    const { state } = play([...toUp, ended('closed'), timer('retry')]);
    const late = step({ ...context, now: 0, random: 0 }, state, { type: 'opened', generation: state.generation - 1 });
    expect(late).toEqual({ state, effects: [] });
  });

  it('keeps its promises under any order of events', () => {
    /** Of the present connection, or seldom of the one before. */
    const back = fc.constantFrom(0, 0, 0, 0, 0, 0, 0, 1);
    const text = fc.constantFrom('HAIL switcher 1 12', 'HAIL switcher 1 12', 'DONE', 'DONE', 'NOW program 2', '?');
    const of = <T extends object>(weight: number, type: string, more: { [K in keyof T]: fc.Arbitrary<T[K]> }) => ({
      weight,
      arbitrary: fc.record({ type: fc.constant(type), back, ...more }),
    });
    const event = fc.oneof(
      of(3, 'enable', {}),
      of(1, 'disable', {}),
      of(10, 'opened', {}),
      of(1, 'ended', { cause: fc.constantFrom<DownCause>('refused', 'closed') }),
      of(20, 'heard', { text }),
      of(2, 'timer', { timer: fc.constantFrom<SessionTimer>('connect', 'step', 'sync', 'keepAlive', 'retry') }),
    );
    const reached = new Map<SessionState['at'], number>();
    let runs = 0;
    fc.assert(
      fc.property(fc.array(event, { minLength: 40, maxLength: 80 }), (events) => {
        let state: SessionState = initialSession;
        let open = 0;
        let now = 0;
        const seen = new Set<SessionState['at']>();
        for (const { back: before, ...each } of events) {
          now += 700;
          const event = { ...each, generation: state.generation - before } as unknown as SessionEvent;
          const next = step({ ...context, now, random: 0.3 }, state, event);
          expect(next.state.generation).toBeGreaterThanOrEqual(state.generation);
          for (const effect of next.effects) {
            if (effect.do === 'connect') open += 1;
            if (effect.do === 'close') open = 0;
            // Never two connections at once, and nothing is sent without one.
            expect(open).toBeLessThanOrEqual(1);
            if (effect.do === 'send') expect(open).toBe(1);
          }
          // Whatever happens, something will happen next: no state waits for ever without a timer.
          if (next.state.at === 'down' && state.at !== 'down') {
            expect(next.effects).toContainEqual(expect.objectContaining({ do: 'startTimer', timer: 'retry' }));
          }
          state = next.state;
          seen.add(state.at);
        }
        runs += 1;
        for (const at of seen) reached.set(at, (reached.get(at) ?? 0) + 1);
      }),
      { numRuns: 300 },
    );
    // A property says nothing of states that its runs never reach.
    for (const at of ['calling', 'signing in', 'syncing', 'up', 'down'] as const)
      expect((reached.get(at) ?? 0) / runs, at).toBeGreaterThan(0.15);
  });
});

describe('reconnecting', () => {
  it('is at once first, then within its limits, for ever', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 2, max: 100_000 }),
        fc.double({ min: 0, max: 0.999, noNaN: true }),
        (failures, random) => {
          expect(retryDelayMs(1, 'refused', random)).toBe(0);
          expect(retryDelayMs(failures, 'refused', random)).toBeLessThanOrEqual(1000);
          expect(retryDelayMs(failures, 'no-answer', random)).toBeLessThanOrEqual(5000);
          expect(retryDelayMs(failures, 'no-answer', random)).toBeGreaterThan(0);
        },
      ),
    );
  });

  it('grows', () => {
    expect([2, 3, 4, 5, 9].map((failures) => retryDelayMs(failures, 'no-answer', 1))).toEqual([
      100, 200, 400, 800, 5000,
    ]);
  });
});

it.each([
  ['ECONNREFUSED', 'refused'],
  ['ETIMEDOUT', 'no-answer'],
  ['EHOSTUNREACH', 'no-answer'],
  ['ENETUNREACH', 'unreachable'],
  ['ENOTFOUND', 'name-not-found'],
  ['ECONNRESET', 'reset'],
  [undefined, 'other'],
])('the system error %s means %s', (code, cause) => {
  expect(causeOfSocketError(code)).toBe(cause);
});

it('accepts presses only where something can go out', () => {
  const words = [
    'off',
    'calling',
    'signing in',
    'syncing',
    'up',
    'silent',
    'down',
    'locked out',
    'occupied',
    'one-way',
  ] as const;
  expect(words.filter(acceptsPresses)).toEqual(['up', 'silent', 'one-way']);
});

it('shows the worst outcome of a press of several commands', () => {
  const cases: readonly [FinalOutcome[], FinalOutcome][] = [
    [[], 'sent'],
    [['confirmed', 'confirmed'], 'confirmed'],
    [['confirmed', 'sent'], 'sent'],
    [['late', 'confirmed'], 'late'],
    [['refused', 'late'], 'refused'],
    [['confirmed', 'refused', 'lost'], 'lost'],
  ];
  for (const [outcomes, worst] of cases) expect(worstOutcome(outcomes)).toBe(worst);
});

describe('the sends of a device', () => {
  const program: Record<string, number> = {};
  const now = (key: string) => program[key];
  const send = (id: string, equals: number, answered = true) => ({
    id,
    sentAt: 0,
    deadlineAt: 1000,
    answered,
    expectations: [{ key: 'program', equals }],
  });
  const changed = new Set(['program']);
  const accepted = { accepted: true } as const;

  it('are confirmed by the report of their effect', () => {
    program['program'] = 1;
    const { state } = begin(noSends, send('a', 3), now);
    program['program'] = 3;
    expect(onReadings(state, changed, 40, now).results).toEqual([
      { id: 'a', outcome: 'confirmed', why: 'reported', afterMs: 40, reason: undefined },
    ]);
  });

  it('are confirmed at once when it was so already and the device gives no answers', () => {
    program['program'] = 3;
    expect(begin(noSends, send('a', 3, false), now).results).toMatchObject([{ outcome: 'confirmed' }]);
  });

  it('wait for the answer when it was so already, so that a refusal is not missed', () => {
    program['program'] = 3;
    const { state, results } = begin(noSends, send('a', 3), now);
    expect(results).toEqual([]);
    expect(onAnswer(state, 'a', accepted, 2, now).results).toMatchObject([{ outcome: 'confirmed' }]);
    expect(onAnswer(state, 'a', { accepted: false, reason: 'no' }, 2, now).results).toMatchObject([
      { outcome: 'refused', reason: 'no' },
    ]);
  });

  it('take no notice of an answer to something else', () => {
    program['program'] = 1;
    const { state } = begin(noSends, send('a', 3), now);
    expect(onAnswer(state, 'b', { accepted: false, reason: 'no' }, 3, now)).toEqual({ state, results: [] });
  });

  it('are not confirmed by a state that an earlier send is about to change', () => {
    program['program'] = 1;
    let state = begin(noSends, send('a', 3), now).state;
    state = begin(state, send('b', 1), now).state;
    state = onAnswer(state, 'a', accepted, 1, now).state;
    const early = onAnswer(state, 'b', accepted, 2, now);
    expect(early.results).toEqual([]);
    expect(onTime(early.state, 1000, now).results.map(({ id, outcome }) => [id, outcome])).toEqual([
      ['a', 'late'],
      ['b', 'confirmed'],
    ]);
  });

  it('that were overtaken within one report are confirmed with the one that overtook them', () => {
    program['program'] = 1;
    let state = begin(begin(noSends, send('a', 3), now).state, send('b', 4), now).state;
    state = onAnswer(onAnswer(state, 'a', accepted, 1, now).state, 'b', accepted, 2, now).state;
    program['program'] = 4;
    expect(onReadings(state, changed, 40, now).results.map(({ id, outcome }) => [id, outcome])).toEqual([
      ['a', 'confirmed'],
      ['b', 'confirmed'],
    ]);
  });

  it('know what a reading will be once they have taken effect', () => {
    program['program'] = 1;
    const { state } = begin(begin(noSends, send('a', 3), now).state, send('b', 4), now);
    expect([expectedValue(state, 'program'), expectedValue(state, 'preview')]).toEqual([4, undefined]);
  });

  describe('that may be sent again', () => {
    const repeated = { ...send('a', 3), again: { at: 100, everyMs: 100, left: 2 } };
    const start = () => {
      program['program'] = 1;
      return begin(noSends, repeated, now).state;
    };

    it('go out again when nothing answers, as often as their driver says, and tell it', () => {
      let state = start();
      const sent: (readonly string[] | undefined)[] = [];
      for (const at of [99, 100, 150, 200, 300, 400]) {
        const next = onTime(state, at, now);
        sent.push(next.again);
        state = next.state;
      }
      expect(sent).toEqual([[], ['a'], [], ['a'], [], []]);
      expect(nextDeadline(state)).toBe(1000);
      expect(onTime(state, 1000, now).results).toMatchObject([
        {
          outcome: 'late',
          reason: 'The device has not reported it in time. Sent three times, because nothing answered.',
        },
      ]);
      program['program'] = 3;
      expect(onReadings(state, changed, 240, now).results).toMatchObject([
        { outcome: 'confirmed', reason: 'Sent three times, because nothing answered.' },
      ]);
    });

    it('do not once something else was sent: the copy would undo it', () => {
      const { state } = begin(start(), send('b', 1), now);
      expect([onTime(state, 300, now).again, nextDeadline(state)]).toEqual([[], 1000]);
    });

    it('do not once the device has accepted them', () => {
      const { state } = onAnswer(start(), 'a', accepted, 50, now);
      expect([onTime(state, 300, now).again, nextDeadline(state)]).toEqual([[], 1000]);
    });
  });

  it('become late once, and the report that still comes is noted', () => {
    program['program'] = 1;
    const begun = begin(noSends, send('a', 3), now);
    const late = onTime(begun.state, 1000, now);
    expect(late.results).toMatchObject([{ id: 'a', outcome: 'late' }]);
    expect(onTime(late.state, 1500, now).results).toEqual([]);
    program['program'] = 3;
    expect(onReadings(late.state, changed, 1800, now).results).toMatchObject([
      { outcome: 'confirmed', note: true, afterMs: 1800 },
    ]);
  });

  it('are lost with the connection, each once', () => {
    program['program'] = 1;
    const { state } = begin(begin(noSends, send('a', 3), now).state, send('b', 4), now);
    const lost = onLost(state, 5, 'cut-off', 'gone');
    expect(lost.results.map(({ id, outcome }) => [id, outcome])).toEqual([
      ['a', 'lost'],
      ['b', 'lost'],
    ]);
    expect(lost.state).toEqual(noSends);
    expect(nextDeadline(lost.state)).toBeUndefined();
  });

  it('each get exactly one outcome, whatever comes in whatever order', () => {
    const act = fc.constantFrom('send', 'sendPlain', 'accept', 'refuse', 'report', 'time');
    fc.assert(
      fc.property(fc.array(act, { maxLength: 80 }), (acts) => {
        let state: SendsState = noSends;
        let at = 0;
        let sent = 0;
        const outcomes = new Map<string, number>();
        for (const each of [...acts, 'lose']) {
          at += 173;
          const entry = { ...send(String(sent), (sent % 3) + 1, each === 'send'), sentAt: at, deadlineAt: at + 400 };
          if (each.startsWith('send')) sent += 1;
          if (each === 'report') program['program'] = (at % 3) + 1;
          const next = each.startsWith('send')
            ? begin(state, entry, now)
            : each === 'accept'
              ? onAnswer(state, state.open[0]?.id ?? '', accepted, at, now)
              : each === 'refuse'
                ? onAnswer(state, state.open.at(-1)?.id ?? '', { accepted: false, reason: 'no' }, at, now)
                : each === 'report'
                  ? onReadings(state, changed, at, now)
                  : each === 'time'
                    ? onTime(state, at, now)
                    : onLost(state, at, 'cut-off', 'gone');
          state = next.state;
          for (const result of next.results)
            if (!result.note) outcomes.set(result.id, (outcomes.get(result.id) ?? 0) + 1);
        }
        expect([...outcomes.values()].every((count) => count === 1)).toBe(true);
        expect(outcomes.size).toBe(sent);
      }),
    );
  });
});
