import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { ControlRecord, SendSpec } from '../show';
import { newPress, stepPress } from './account';
import type { Ending, PressContext, PressEffect, PressEvent, PressState } from './account';

type Responses = ControlRecord['data']['responses'];

const send = (command: string, waitMs?: number): SendSpec => ({
  device: 'sw',
  command,
  params: {},
  ...(waitMs === undefined ? {} : { waitMs }),
});

const plain: PressContext = {
  now: 0,
  responses: { tap: [send('cut')] },
  isHeld: false,
  isDry: false,
  missingGuard: undefined,
  isBarred: () => false,
  isOn: () => false,
  isOwedOff: () => true,
  turn: () => [],
};

/** A press with these responses, in these circumstances. A tap sends its first turn. */
const pressOf = (responses: Partial<Responses>, circumstances: Partial<PressContext> = {}): PressContext => {
  const all = { tap: [], ...responses };
  return { ...plain, responses: all, turn: () => all.tap, ...circumstances };
};

/** One effect as a word or two. */
function wordOf(effect: PressEffect): string {
  switch (effect.do) {
    case 'send':
    case 'list':
      return `${effect.do} ${effect.spec.command}`;
    case 'owe':
      return ['owe', effect.held && 'release', effect.off && 'off', effect.tells && 'told'].filter(Boolean).join(' ');
    case 'settle':
      return effect.sent ? 'settle sent' : 'settle none';
    case 'start timer':
      return `${effect.timer} in ${effect.afterMs}`;
    case 'repeat':
      return `repeat ${effect.n}`;
    case 'end':
      return `${effect.outcome} ${effect.why}`;
    default:
      return effect.do;
  }
}

/** Everything that comes of these events, one after the other; `issued` follows by itself, as with the runner. */
function play(context: PressContext, events: readonly PressEvent[]): string[] {
  let state: PressState = newPress;
  const words: string[] = [];
  for (const event of events) {
    const step = stepPress(context, state, event);
    state = step.state;
    words.push(...step.effects.map(wordOf).filter((word) => word !== 'issued'));
  }
  return words;
}

const begin: PressEvent = { type: 'begin' };
const issued: PressEvent = { type: 'issued' };
const released: PressEvent = { type: 'released', by: 'hand' };
const lostHand: PressEvent = { type: 'released', by: 'loss' };
const good: Ending = { outcome: 'confirmed', why: 'reported', ms: 1 };
const bad: Ending = { outcome: 'lost', why: 'link-down', ms: 0, reason: 'down' };
const ended = (n: number, ending: Ending = good): PressEvent => ({ type: 'ended', n, ending });
const timer = (name: 'long' | 'repeat' | `send ${number}`): PressEvent => ({ type: 'timer', timer: name });

describe('the account of a press', () => {
  const twoSends = { tap: [send('one'), send('two')] };
  const held = { tap: [send('go')], release: [send('stop')] };
  const long = { tap: [send('short')], long: { afterMs: 600, sends: [send('long')] } };
  const off = { tap: [send('on')], off: { sends: [send('off')], afterMs: 5000, again: 'restart' as const } };
  const asks = { tap: [send('say')], asks: { items: [], mostMs: 9000 } };
  const repeat = { tap: [send('step')], repeat: { firstMs: 400, everyMs: 100 } };
  const macro = { tap: [], runs: { macro: 'm', params: {} } };

  it.each<[string, PressContext, PressEvent[], string[]]>([
    [
      'a tap is sent at once and ends with its answer',
      pressOf({ tap: [send('cut')] }),
      [begin, issued, ended(0)],
      ['send cut', 'count turn', 'waiting', 'confirmed reported'],
    ],
    [
      'an answer that is there before everything is issued ends it without waiting',
      pressOf({ tap: [send('cut')] }),
      [begin, ended(0), issued],
      ['send cut', 'count turn', 'confirmed reported'],
    ],
    [
      'a tap that is lost is not counted',
      pressOf({ tap: [send('cut')] }),
      [begin, ended(0, bad), issued],
      ['send cut', 'lost link-down'],
    ],
    [
      'the worst of several sends is the outcome, which comes with the last one',
      pressOf(twoSends),
      [begin, issued, ended(1, bad), ended(0)],
      ['send one', 'send two', 'count turn', 'waiting', 'lost link-down'],
    ],
    [
      'an answer counts once',
      pressOf(twoSends),
      [begin, issued, ended(0), ended(0)],
      ['send one', 'send two', 'count turn', 'waiting'],
    ],
    [
      'a send with a wait goes out at its time',
      pressOf({ tap: [send('one'), send('two', 250)] }),
      [begin, ended(0), issued, timer('send 1'), ended(1)],
      ['send one', 'list two', 'send 1 in 250', 'count turn', 'waiting', 'send two', 'confirmed reported'],
    ],
    [
      'waits add up',
      pressOf({ tap: [send('one', 100), send('two', 250)] }),
      [begin],
      ['list one', 'send 0 in 100', 'list two', 'send 1 in 350'],
    ],
    [
      'dry, nothing waits',
      pressOf({ tap: [send('one'), send('two', 250)] }, { isDry: true }),
      [begin],
      ['send one', 'send two'],
    ],
    [
      'what is guarded is shown and not sent',
      pressOf(twoSends, { missingGuard: 'hold' }),
      [begin, issued],
      ['list one', 'list two', 'skipped guarded'],
    ],
    [
      'a guarded macro is not begun',
      pressOf(macro, { missingGuard: 'twice' }),
      [begin, issued],
      ['list macro', 'skipped guarded'],
    ],
    ['what a rule bars sends nothing', pressOf(twoSends, { isBarred: () => true }), [begin], ['skipped barred']],
    ['a control without a response says so', pressOf({}), [begin, issued], ['skipped nothing-to-send']],
    [
      'a macro ends the press when it has ended',
      pressOf(macro),
      [begin, issued, ended(0, { outcome: 'skipped', why: 'running-already', ms: 0 })],
      ['begin macro', 'count turn', 'waiting', 'skipped running-already'],
    ],
    [
      'a release is owed before the first byte',
      pressOf(held, { isHeld: true }),
      [begin, ended(0), issued],
      ['owe release', 'send go', 'settle sent', 'count turn', 'hold', 'confirmed reported'],
    ],
    [
      'of a held press that was lost nothing is owed',
      pressOf(held, { isHeld: true }),
      [begin, ended(0, bad), issued],
      ['owe release', 'send go', 'settle none', 'hold', 'lost link-down'],
    ],
    ['a tap of a control with a release owes none', pressOf(held), [begin], ['send go']],
    [
      'a press with nothing but a release ends with that',
      pressOf({ release: [send('stop')] }, { isHeld: true }),
      [begin, issued, released, ended(0)],
      [
        'owe release told',
        'list stop',
        'settle sent',
        'count turn',
        'hold',
        'waiting',
        'stop timers',
        'confirmed reported',
      ],
    ],
    [
      'what waits for its time is given up when the hand lets go',
      pressOf({ tap: [send('one'), send('two', 250)], release: [send('stop')] }, { isHeld: true }),
      [begin, ended(0), issued, released, timer('send 1')],
      [
        'owe release',
        'send one',
        'list two',
        'send 1 in 250',
        'settle sent',
        'count turn',
        'hold',
        'waiting',
        'stop timers',
        'skipped released',
      ],
    ],
    [
      'a long press is decided by its time',
      pressOf(long, { isHeld: true }),
      [begin, timer('long'), issued, ended(0)],
      ['waiting', 'hold', 'long in 600', 'send long', 'count turn', 'waiting', 'confirmed reported'],
    ],
    [
      'let go before its time it is a tap',
      pressOf(long, { isHeld: true }),
      [begin, released, timer('long'), issued, ended(0)],
      ['waiting', 'hold', 'long in 600', 'stop timers', 'send short', 'count turn', 'waiting', 'confirmed reported'],
    ],
    [
      'with a release, that follows the short press at once',
      pressOf({ ...long, release: [send('stop')] }, { isHeld: true }),
      [begin, released, ended(0), issued],
      [
        'waiting',
        'hold',
        'long in 600',
        'stop timers',
        'owe release',
        'send short',
        'settle sent',
        'count turn',
        'hold',
        'let go',
        'confirmed reported',
      ],
    ],
    [
      'a hand that is lost before the time sends nothing',
      pressOf(long, { isHeld: true }),
      [begin, lostHand, timer('long')],
      ['waiting', 'hold', 'long in 600', 'stop timers', 'skipped released'],
    ],
    [
      'a press that repeats goes on after its outcome, until the hand lets go',
      pressOf(repeat, { isHeld: true }),
      [begin, ended(0), issued, timer('repeat'), timer('repeat'), released, timer('repeat')],
      [
        'send step',
        'count turn',
        'hold',
        'repeat in 400',
        'confirmed reported',
        'repeat 1',
        'repeat in 100',
        'repeat 2',
        'repeat in 100',
        'stop timers',
      ],
    ],
    [
      'a repeat that is only tapped is sent once',
      pressOf(repeat),
      [begin, ended(0), issued, timer('repeat')],
      ['send step', 'count turn', 'confirmed reported'],
    ],
    [
      'what turns off after a time is owed that',
      pressOf(off),
      [begin, ended(0), issued],
      ['owe off', 'send on', 'settle sent', 'count turn', 'confirmed reported'],
    ],
    [
      'a second press turns it off where that was chosen',
      pressOf(off, { isOn: () => true }),
      [begin],
      ['turn off', 'sent stopped'],
    ],
    [
      'what would come behind the turning off is not sent',
      pressOf({ ...off, tap: [send('on', 100)] }, { isOwedOff: () => false }),
      [begin, issued, timer('send 0')],
      ['owe off', 'list on', 'send 0 in 100', 'settle sent', 'count turn', 'waiting', 'skipped released'],
    ],
    [
      'dry, what would follow is shown',
      pressOf(off, { isDry: true }),
      [begin, ended(0, { outcome: 'skipped', why: 'dry', ms: 0 }), issued],
      ['send on', 'list off', 'skipped dry'],
    ],
    [
      'a question is asked first',
      pressOf(asks),
      [begin, { type: 'answered' }, ended(0, { outcome: 'skipped', why: 'dry', ms: 0 }), issued],
      ['ask', 'send say', 'skipped dry'],
    ],
    [
      'a rule may bar it while somebody types',
      pressOf(asks, { isBarred: barredFrom(2) }),
      [begin, { type: 'answered' }],
      ['ask', 'skipped barred'],
    ],
    [
      'a question without an answer sends nothing',
      pressOf(asks),
      [begin, { type: 'unanswered', reason: 'late' }],
      ['ask', 'skipped unanswered'],
    ],
    [
      'answers that came with the press are not asked for',
      pressOf(asks, { answers: { ok: true } }),
      [begin],
      ['send say'],
    ],
    [
      'answers that will not do send nothing',
      pressOf(asks, { answers: { ok: false, reason: 'no' } }),
      [begin],
      ['skipped unanswered'],
    ],
    ['a guard comes before the question', pressOf(asks, { missingGuard: 'hold' }), [begin], ['skipped guarded']],
    [
      'the end of the engine loses what waits for its time',
      pressOf({ tap: [send('one', 100)] }),
      [begin, issued, { type: 'stopped' }],
      ['list one', 'send 0 in 100', 'count turn', 'waiting', 'stop timers', 'lost stopped'],
    ],
  ])('%s', (_, context, events, words) => {
    expect(play(context, events)).toEqual(words);
  });
});

/** A rule that bars from the nth look on. */
function barredFrom(n: number): () => boolean {
  let looks = 0;
  return () => (looks += 1) >= n;
}

const sendArb = fc
  .record({ command: fc.constantFrom('a', 'b', 'c'), waitMs: fc.constantFrom(undefined, 0, 20) })
  .map(({ command, waitMs }) => send(command, waitMs));
const sendsArb = fc.array(sendArb, { maxLength: 3 });
const someSends = fc.array(sendArb, { minLength: 1, maxLength: 2 });
/** What cannot be combined in a control is not combined here, but that a question goes with everything: shows made elsewhere may hold that. */
const kindArb = fc.oneof(
  fc.constant({}),
  fc.record({ held: someSends }),
  fc.record({ long: fc.record({ afterMs: fc.constant(500), sends: someSends }) }),
  fc.constant({ repeat: { firstMs: 300, everyMs: 100 } }),
);
const responsesArb = fc
  .tuple(
    kindArb,
    fc.record(
      {
        tap: sendsArb,
        release: someSends,
        off: fc.record({ sends: someSends, afterMs: fc.constant(1000), again: fc.constant('restart' as const) }),
        runs: fc.constant({ macro: 'm', params: {} }),
      },
      { requiredKeys: ['tap'] },
    ),
    fc.constantFrom<Partial<Responses>>({}, {}, {}, { asks: { items: [], mostMs: 1000 } }),
  )
  .map(([kind, own, asks]): Responses => ({ ...kind, ...own, ...asks }));
const contextArb = fc
  .record({
    responses: responsesArb,
    isHeld: fc.constantFrom(true, true, false),
    isDry: fc.boolean(),
    // Most presses get through.
    missingGuard: fc.constantFrom(undefined, undefined, undefined, 'hold' as const),
    isBarred: fc.constantFrom(false, false, false, false, true),
    isOwedOff: fc.boolean(),
  })
  .map(({ responses, isBarred, isOwedOff, ...rest }) =>
    pressOf(responses, { ...rest, isBarred: () => isBarred, isOwedOff: () => isOwedOff }),
  );

const endingArb = fc.constantFrom<Ending>(
  good,
  bad,
  { outcome: 'sent', why: 'one-way', ms: 0 },
  { outcome: 'late', why: 'timed-out', ms: 900 },
);
const eventArb = fc.oneof(
  { weight: 5, arbitrary: fc.record({ n: fc.nat(4), ending: endingArb }).map(({ n, ending }) => ended(n, ending)) },
  {
    weight: 3,
    arbitrary: fc.constantFrom(timer('long'), timer('repeat'), timer('repeat'), timer('send 0'), timer('send 1')),
  },
  { weight: 2, arbitrary: fc.constantFrom<PressEvent>({ type: 'answered' }, { type: 'unanswered', reason: 'late' }) },
  { weight: 2, arbitrary: fc.constantFrom(released, lostHand) },
  { weight: 1, arbitrary: fc.constant<PressEvent>({ type: 'stopped' }) },
);

/** Plays random events like a runner: the answers of some sends come at once, `issued` in its turn. */
function playLikeRunner(context: PressContext, events: readonly PressEvent[], atOnce: readonly (Ending | undefined)[]) {
  const effects: PressEffect[] = [];
  const states = new Set<PressState['at']>();
  const queue: PressEvent[] = [];
  let state: PressState = newPress;
  const run = (event: PressEvent): void => {
    queue.push(event);
    for (let next = queue.shift(); next; next = queue.shift()) {
      const step = stepPress(context, state, next);
      state = step.state;
      states.add(state.at);
      for (const effect of step.effects) {
        effects.push(effect);
        const answer = effect.do === 'send' ? atOnce[effect.n] : undefined;
        if (effect.do === 'send' && answer) queue.push(ended(effect.n, answer));
        if (effect.do === 'issued') queue.push(issued);
        if (effect.do === 'let go') queue.push(released);
      }
    }
  };
  run(begin);
  for (const event of events) run(event);
  return { effects, states, state: state as PressState };
}

describe('in any order of events', () => {
  const reached = new Map<string, number>();
  const note = (what: string) => reached.set(what, (reached.get(what) ?? 0) + 1);
  const runs = 3000;

  it('a press ends once, sends each command once, and settles what it owes before anything follows', () => {
    fc.assert(
      fc.property(
        contextArb,
        fc.array(eventArb, { maxLength: 12 }),
        fc.array(fc.option(endingArb, { nil: undefined }), { minLength: 5, maxLength: 5 }),
        (context, events, atOnce) => {
          const { effects, states, state } = playLikeRunner(context, events, atOnce);
          const count = (what: PressEffect['do']) => effects.filter((each) => each.do === what).length;
          const place = (what: PressEffect['do']) => effects.findIndex((each) => each.do === what);
          for (const each of states) note(each);
          if (count('repeat') > 0) note('repeated');
          if (count('let go') > 0) note('let go');

          expect(count('end')).toBe(state.at === 'ended' ? 1 : 0);
          const sent = effects.flatMap((each) => (each.do === 'send' ? [each.n] : []));
          expect(new Set(sent).size).toBe(sent.length);
          expect(count('owe')).toBeLessThanOrEqual(1);
          expect(count('settle')).toBe(count('owe'));
          if (count('owe') > 0 && count('send') > 0) expect(place('owe')).toBeLessThan(place('send'));
          // Nothing that goes on is left without a hand or a time that ends it.
          if (context.isDry) expect(count('owe')).toBe(0);
          if (context.missingGuard || context.isBarred()) expect(count('send') + count('begin macro')).toBe(0);
          const end = effects.find((each) => each.do === 'end');
          if (end && count('send') > 0) expect(end.sends.length).toBeGreaterThanOrEqual(sent.length);
        },
      ),
      { numRuns: runs },
    );
    // A property that never gets anywhere proves nothing.
    for (const [what, share] of [
      ['asking', 0.1],
      ['deciding', 0.03],
      ['sending', 0.5],
      ['ended', 0.5],
      ['repeated', 0.01],
      ['let go', 0.005],
    ] as const)
      expect(reached.get(what) ?? 0, what).toBeGreaterThan(share * runs);
  });

  it('a press whose hand and engine are gone waits for nothing but its devices', () => {
    fc.assert(
      fc.property(contextArb, fc.array(eventArb, { maxLength: 8 }), (context, events) => {
        const answered: PressEvent[] = [{ type: 'unanswered', reason: 'late' }, lostHand, { type: 'stopped' }];
        const { state } = playLikeRunner(context, [...events, ...answered], []);
        const isOpen = state.at === 'sending' && state.sends.every(({ is }) => is !== 'due later');
        expect(state.at === 'ended' || isOpen).toBe(true);
        if (state.at === 'ended') expect(state.repeats).toBeUndefined();
      }),
      { numRuns: runs },
    );
  });
});
