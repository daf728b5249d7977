import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Condition, MacroSegment, MacroStep } from '../show';
import { planOf } from './plan';
import { advanceRun, beginRun, leaveRun, wakeAt, type DueStep, type Run } from './run';

const send = (command: string) => ({ device: 'd', command, params: {} });
const step = (id: string, at: number, more: Partial<MacroStep> = {}): MacroStep => ({
  id,
  at,
  does: { is: 'send', send: send(id) },
  ...more,
});
const segment = (steps: MacroStep[], more: Partial<MacroSegment> = {}): MacroSegment => ({
  id: 's',
  name: '',
  steps,
  ...more,
});
const ready: Condition = { op: 'equals', reading: { device: 'd', key: 'ready' }, to: true };
const noDelay = () => 0;

/** Plays a run with a clock of its own that jumps from one wake to the next. */
function play(
  segments: MacroSegment[],
  {
    at = 1000,
    holds = () => true,
    until = 1e9,
    late = 0,
  }: { at?: number; holds?: (now: number, place: string) => boolean; until?: number; late?: number } = {},
) {
  let now = at;
  const due: (DueStep & { readonly now: number })[] = [];
  let run = beginRun(planOf(segments, noDelay), now);
  for (let n = 0; n < 10_000; n += 1) {
    const next = advanceRun(run, now, (_condition, place) => holds(now, place));
    run = next.run;
    due.push(...next.due.map((each) => ({ ...each, now })));
    const wake = wakeAt(run);
    if (wake === undefined || now >= until) break;
    now = Math.min(Math.max(wake, now) + late, until);
  }
  return {
    run,
    due,
    sent: due.map(({ step: { step: id, half }, plannedAt }) => [half ? `${id} ${half}` : id, plannedAt - at]),
  };
}

describe('the plan of a macro', () => {
  it('sends earlier what has to act on time, and gives the pre-roll its room', () => {
    const [plan] = planOf(
      [segment([step('cut', 500, { acts: true }), step('wipe', 0), step('load', -200)])],
      ({ command }) => (command === 'cut' ? 40 : 0),
    );
    expect(plan?.preRollMs).toBe(200);
    expect(plan?.lengthMs).toBe(500);
    expect(plan?.steps.map(({ step: id, sendAt, actAt }) => [id, sendAt, actAt])).toEqual([
      ['load', -200, -200],
      ['wipe', 0, 0],
      ['cut', 460, 500],
    ]);
  });

  it('makes two moments of a pulse', () => {
    const pulse = step('horn', 100, { does: { is: 'pulse', on: send('on'), off: send('off'), forMs: 700 } });
    const [plan] = planOf([segment([pulse])], noDelay);
    expect(
      plan?.steps.map(({ half, sendAt, does }) => [half, sendAt, does.is === 'send' && does.send.command]),
    ).toEqual([
      ['on', 100, 'on'],
      ['off', 800, 'off'],
    ]);
  });
});

describe('a run', () => {
  it('plays its segments one after the other, each from its own zero point', () => {
    const { sent, run } = play([segment([step('a', -100), step('b', 300)]), segment([step('c', 0), step('d', 50)])]);
    expect(sent).toEqual([
      ['a', 0],
      ['b', 400],
      ['c', 400],
      ['d', 450],
    ]);
    expect(run.phase).toEqual({ is: 'ended', how: 'done', at: 1450 });
  });

  it('repeats a segment as often as it says', () => {
    const { sent } = play([segment([step('a', 0), step('b', 100)], { times: 3 })]);
    expect(sent.filter(([id]) => id === 'a').map(([, at]) => at)).toEqual([0, 100, 200]);
  });

  it('does not drift, however late it is looked at', () => {
    const late = play([segment([step('a', 0), step('b', 40)], { times: 100 })], { late: 7 });
    const exact = play([segment([step('a', 0), step('b', 40)], { times: 100 })]);
    expect(late.sent).toEqual(exact.sent);
  });

  it('waits until its condition holds, and counts from then', () => {
    const { sent } = play(
      [segment([step('a', 0)]), segment([step('b', 0)], { waits: { until: ready, mostMs: 5000, otherwise: 'stop' } })],
      {
        holds: (now) => now >= 3000,
        late: 100,
      },
    );
    expect(sent).toEqual([
      ['a', 0],
      ['b', 5100],
    ]);
  });

  it('loses no time where what it waits for holds already', () => {
    const { sent } = play(
      [
        segment([step('a', 0), step('a2', 10)]),
        segment([step('b', 0)], { waits: { until: ready, mostMs: 5000, otherwise: 'stop' } }),
      ],
      { late: 9 },
    );
    expect(sent.at(-1)).toEqual(['b', 10]);
  });

  it.each<['go on' | 'stop' | 'way out', string[], string]>([
    ['go on', ['a', 'b', 'out'], 'done'],
    ['stop', ['a'], 'gave up'],
    ['way out', ['a', 'out'], 'gave up'],
  ])('which waits in vain does what it was told to: %s', (otherwise, ids, how) => {
    const { sent, run } = play(
      [
        segment([step('a', 0)]),
        segment([step('b', 0)], { waits: { until: ready, mostMs: 2000, otherwise } }),
        segment([step('out', 0)], { part: 'way out' }),
      ],
      { holds: () => false },
    );
    expect(sent.map(([id]) => id)).toEqual(ids);
    expect(run.phase).toMatchObject({ is: 'ended', how });
  });

  it('passes over what is only for another case', () => {
    const { sent } = play([segment([step('a', 0)], { onlyIf: ready }), segment([step('b', 0)])], {
      holds: () => false,
    });
    expect(sent.map(([id]) => id)).toEqual(['b']);
  });

  it('is left at once, or by its way out, and a second time at once', () => {
    const segments = [
      segment([step('a', 0), step('b', 1000)]),
      segment([step('c', 0)]),
      segment([step('out', 0), step('last', 500)], { part: 'way out' }),
    ];
    const { run } = play(segments, { until: 1200 });
    expect(leaveRun(run, 1200, 'stop').phase).toEqual({ is: 'ended', how: 'stopped', at: 1200 });
    const leaving = advanceRun(leaveRun(run, 1200, 'way out'), 1200, () => true);
    expect(leaving.due.map(({ step: { step: id } }) => id)).toEqual(['out']);
    expect(advanceRun(leaving.run, 1700, () => true).run.phase).toEqual({ is: 'ended', how: 'stopped', at: 1700 });
    expect(leaveRun(leaving.run, 1300, 'way out').phase).toMatchObject({ is: 'ended', how: 'stopped' });
  });

  it('sends every step once, never early, and in order, whenever it is looked at', () => {
    const stepArb = fc.record({
      at: fc.integer({ min: -2000, max: 5000 }),
      id: fc.string({ minLength: 1, maxLength: 3 }),
    });
    const segmentsArb = fc.array(
      fc.record({ steps: fc.array(stepArb, { maxLength: 12 }), times: fc.integer({ min: 1, max: 3 }) }),
      { minLength: 1, maxLength: 4 },
    );
    fc.assert(
      fc.property(
        segmentsArb,
        fc.array(fc.integer({ min: 0, max: 900 }), { minLength: 1, maxLength: 60 }),
        (made, jumps) => {
          const segments = made.map(({ steps, times }) =>
            segment(
              steps.map(({ id, at }) => step(id, at)),
              { times },
            ),
          );
          const expected = play(segments).due.map(({ step: { step: id }, plannedAt }) => [id, plannedAt]);
          let now = 1000;
          let run: Run = beginRun(planOf(segments, noDelay), now);
          const got: unknown[] = [];
          for (let n = 0; n < 50_000 && run.phase.is !== 'ended'; n += 1) {
            const next = advanceRun(run, now, () => true);
            for (const {
              plannedAt,
              step: { step: id },
            } of next.due) {
              expect(plannedAt).toBeLessThanOrEqual(now);
              got.push([id, plannedAt]);
            }
            run = next.run;
            now += (jumps[n % jumps.length] ?? 0) + 5;
          }
          expect(got).toEqual(expected);
          expect(run.phase.is).toBe('ended');
        },
      ),
    );
  });
});
