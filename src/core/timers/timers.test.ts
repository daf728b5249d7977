import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { freeTimerId, timerListSchema, type TimerEntry } from './entry';
import { answerTimers, changedReports, reportsOf } from './conversation';
import { initialTimers, leftMsOf, nextPhaseInMs, viewTimers, withList, type TimersState } from './machine';

const timer = (id: string, lengthS: number, warnS = 0, graceS = 0): TimerEntry => ({
  id,
  name: `The ${id}`,
  speaker: '',
  lengthS,
  warnS,
  graceS,
});
const list = [timer('one', 60, 10), timer('two', 120, 30, 5), timer('three', 300)];

interface Given {
  readonly state?: TimersState;
  readonly now?: number;
}

/** What an order leads to, and what it was answered. */
function order(text: object, { state = initialTimers(list), now = 0 }: Given = {}) {
  const { state: next, lines } = answerTimers(state, JSON.stringify({ n: 7, ...text }), now, new Date(0));
  return { state: next, said: lines.at(-1) as { readonly ok?: number; readonly no?: number; readonly code?: number } };
}
const after = (orders: readonly object[], now = 0): TimersState =>
  orders.reduce<TimersState>((state, each) => order(each, { state, now }).state, initialTimers(list));

describe('a list of timers', () => {
  it('has the first one ready before anything has begun', () => {
    expect(viewTimers(initialTimers(list), 0)).toMatchObject({ phase: 'ready', shown: { id: 'one' }, leftMs: 60_000 });
    expect(viewTimers(initialTimers([]), 0)).toMatchObject({ phase: 'empty', leftMs: 0 });
  });

  it.each([
    [0, 'running', 120_000],
    [89_999, 'running', 30_001],
    [90_000, 'warning', 30_000],
    [120_000, 'warning', 0],
    [124_999, 'warning', -4999],
    [125_000, 'over', -5000],
    [400_000, 'over', -280_000],
  ] as const)('says after %i ms of two minutes that it is %s', (now, phase, leftMs) => {
    const begun = after([{ do: 'start', id: 'two' }]);
    expect(viewTimers(begun, now)).toMatchObject({ phase, leftMs });
  });

  it('comes to the one behind it as the next, and to none behind the last', () => {
    expect(after([{ do: 'startNext' }])).toMatchObject({ current: 'one', next: 'two' });
    expect(after([{ do: 'startPlace', place: 3 }])).toMatchObject({ current: 'three', next: undefined });
    expect(order({ do: 'startNext' }, { state: after([{ do: 'start', id: 'three' }]) }).said).toMatchObject({
      code: 4,
    });
  });

  it('keeps what is left while it is paused, and goes on from there', () => {
    const begun = after([{ do: 'start', id: 'one' }]);
    const paused = order({ do: 'pause' }, { state: begun, now: 20_000 }).state;
    expect(viewTimers(paused, 500_000)).toMatchObject({ phase: 'paused', leftMs: 40_000 });
    const on = order({ do: 'resume' }, { state: paused, now: 500_000 }).state;
    expect(leftMsOf(on, 510_000)).toBe(30_000);
  });

  it('moves the next one up and down and ends at the ends of the list', () => {
    const moved = (...by: readonly number[]) => after(by.map((each) => ({ do: 'move', by: each }))).next;
    expect([moved(1), moved(1, 1), moved(5), moved(5, -1), moved(-3)]).toEqual(['two', 'three', 'three', 'two', 'one']);
    // Behind the last one, up leads to the last.
    expect(
      after([
        { do: 'start', id: 'three' },
        { do: 'move', by: -1 },
      ]).next,
    ).toBe('three');
  });

  it('finds the next one by name, upper and lower case alike', () => {
    expect(after([{ do: 'nextName', name: ' the TWO ' }]).next).toBe('two');
    expect(order({ do: 'nextName', name: 'The four' }).said).toMatchObject({ no: 7, code: 2 });
  });

  it('refuses what cannot be and changes nothing', () => {
    const rows: readonly (readonly [object, readonly object[], number])[] = [
      [{ do: 'pause' }, [], 3],
      [{ do: 'resume' }, [{ do: 'startNext' }], 5],
      [{ do: 'pause' }, [{ do: 'startNext' }, { do: 'pause' }], 6],
      [{ do: 'stop' }, [], 3],
      [{ do: 'add', seconds: 10 }, [], 3],
      [{ do: 'add', seconds: -61 }, [{ do: 'startNext' }], 7],
      [{ do: 'startPlace', place: 0 }, [], 2],
      [{ do: 'start', id: 'four' }, [], 2],
      [{ do: 'explode' }, [], 1],
      [{ do: 'add', seconds: 'ten' }, [], 1],
    ];
    for (const [text, before, code] of rows) {
      const state = after(before);
      const result = order(text, { state });
      expect([text, result.said, result.state]).toEqual([text, expect.objectContaining({ no: 7, code }), state]);
    }
    expect(answerTimers(initialTimers(list), '{"n":', 0, new Date(0)).lines).toEqual([
      { no: 0, code: 1, text: 'not understood' },
    ]);
  });

  it('goes on with what has begun when the list is changed, at its new length', () => {
    const begun = after([{ do: 'start', id: 'two' }]);
    const longer = withList(begun, [timer('two', 180, 30), timer('new', 60)], 60_000);
    expect(viewTimers(longer, 60_000)).toMatchObject({ leftMs: 120_000, shown: { id: 'two' }, next: { id: 'new' } });
    const without = withList(begun, [timer('new', 60)], 60_000);
    expect(viewTimers(without, 60_000)).toMatchObject({ phase: 'ready', shown: { id: 'new' } });
    const last = withList(begun, [timer('one', 60), timer('two', 120)], 60_000);
    expect(viewTimers(last, 60_000)).toMatchObject({ shown: { id: 'two' }, next: undefined });
  });

  it('reports only what has changed', () => {
    const before = initialTimers(list);
    const { state } = order({ do: 'message', text: 'Two minutes' });
    expect(changedReports(before, state, 0)).toEqual([{ message: 'Two minutes' }]);
    expect(reportsOf(before, 0)).toHaveLength(3);
  });
});

const anyOrder = fc.oneof(
  fc.record({ do: fc.constant('startPlace'), place: fc.integer({ min: 0, max: 5 }) }),
  fc.record({ do: fc.constantFrom('startNext', 'pause', 'resume', 'restart', 'stop', 'list', 'state', 'ping') }),
  fc.record({ do: fc.constant('add'), seconds: fc.integer({ min: -90, max: 90 }) }),
  fc.record({ do: fc.constant('move'), by: fc.integer({ min: -3, max: 3 }) }),
  fc.record({ do: fc.constant('next'), place: fc.integer({ min: 0, max: 5 }) }),
);

it('keeps its promises under any orders at any times', () => {
  const reached = new Set<string>();
  fc.assert(
    fc.property(fc.array(fc.tuple(anyOrder, fc.integer({ min: 0, max: 90_000 })), { maxLength: 40 }), (orders) => {
      let state = initialTimers(list);
      let now = 0;
      for (const [text, waitMs] of orders) {
        now += waitMs;
        const before = viewTimers(state, now);
        const result = order(text, { state, now });
        // A refusal changes nothing; a time that passes alone is no change.
        if (result.said.no !== undefined) expect(result.state).toBe(state);
        state = result.state;
        const view = viewTimers(state, now);
        reached.add(view.phase);
        expect(view.phase === 'paused').toBe(state.current !== undefined && !state.isRunning);
        // Adding time is exact whatever runs, and pausing never costs any.
        if (text.do === 'pause' && result.said.ok !== undefined) expect(view.leftMs).toBe(before.leftMs);
        const inMs = nextPhaseInMs(state, now);
        if (inMs !== undefined) {
          expect(viewTimers(state, now + inMs - 1).phase).toBe(view.phase);
          expect(viewTimers(state, now + inMs).phase).not.toBe(viewTimers(state, now + inMs - 1).phase);
        }
      }
    }),
    { numRuns: 1500 },
  );
  expect([...reached].sort()).toEqual(['empty', 'over', 'paused', 'ready', 'running', 'warning']);
});

describe('the entries of a list', () => {
  it('have ids that are all different, and a warning within their length', () => {
    expect(timerListSchema.safeParse(list).success).toBe(true);
    expect(timerListSchema.safeParse([...list, timer('one', 5)]).success).toBe(false);
    expect(timerListSchema.safeParse([timer('long-warning', 10, 11)]).success).toBe(false);
    expect(timerListSchema.safeParse([timer('nothing', 0)]).success).toBe(false);
  });

  it('get an id from their name, with a number where it is taken', () => {
    expect([freeTimerId('Crews to the water', []), freeTimerId('Équipe 4!', []), freeTimerId('–', [])]).toEqual([
      'crews-to-the-water',
      'equipe-4',
      'timer',
    ]);
    expect(freeTimerId('Race', ['race', 'race-2'])).toBe('race-3');
  });
});
