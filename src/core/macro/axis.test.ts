import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { macroRecord } from '../../../test/support/records';
import type { MacroStep } from '../show';
import { axisOf, fittingScale } from './axis';
import { placedStep } from './edits';
import { planOf } from './plan';

const step = (id: string, at: number, device = 'dev-a'): MacroStep => ({
  id,
  at,
  does: { is: 'send', send: { device, command: 'go', params: {} } },
});
const waits = {
  until: { op: 'equals' as const, reading: { device: 'dev-a', key: 'x' }, to: 1 },
  mostMs: 1000,
  otherwise: 'stop' as const,
};
const planned = (segments: Parameters<typeof macroRecord>[1]) =>
  planOf(macroRecord('m', segments).data.segments, () => 0);

describe('the axis of a macro', () => {
  it('lays segments side by side, with room for waits, pre-roll and names', () => {
    const plan = planned([
      { steps: [step('a', -200), step('b', 1000)] },
      { waits, steps: [step('c', 0)] },
      { times: 3, steps: [step('d', 500)] },
    ]);
    const { segments, lengthMs, width } = axisOf(plan, 0.5, (n) => (n === 1 ? 400 : 0));
    expect(lengthMs).toBe(1200 + 0 + 1500);
    expect(segments.map(({ zeroMs }) => zeroMs)).toEqual([200, 1200, 1200]);
    expect(segments.map(({ waitWidth }) => waitWidth > 0)).toEqual([false, true, false]);
    // 200 ms of pre-roll at half a pixel a millisecond.
    expect(segments[0]?.zeroX).toBe(114);
    expect(segments[1]?.width).toBeGreaterThan(400);
    expect(segments.at(-1)?.left).toBe((segments[0]?.width ?? 0) + (segments[1]?.width ?? 0));
    expect(width).toBe(segments.reduce((sum, each) => sum + each.width, 0));
  });

  it('finds each time again at its place, and segments never overlap', () => {
    const times = fc.array(fc.integer({ min: -5000, max: 20_000 }), { maxLength: 6 });
    fc.assert(
      fc.property(
        fc.array(times, { minLength: 1, maxLength: 6 }),
        fc.double({ min: 0.01, max: 2, noNaN: true }),
        (all, scale) => {
          const plan = planned(all.map((ats, n) => ({ steps: ats.map((at, k) => step(`${n}-${k}`, at)) })));
          const axis = axisOf(plan, scale);
          axis.segments.forEach(({ left, width, firstMs, lastMs }, n) => {
            for (const ms of [firstMs, 0, lastMs]) {
              const x = axis.x(n, ms);
              expect(x).toBeGreaterThanOrEqual(left);
              expect(x).toBeLessThan(left + width);
              expect(axis.at(x).segment).toBe(n);
              expect(axis.at(x).ms).toBeCloseTo(ms, 3);
            }
          });
          expect(axis.at(axis.width + 100).segment).toBe(all.length - 1);
        },
      ),
    );
  });

  it('fits a macro into its room, at the largest scale that does', () => {
    const plan = planned([{ steps: [step('a', 0), step('b', 4000)] }, { steps: [step('c', 6000)] }]);
    const widthAt = (scale: number) => axisOf(plan, scale).width;
    const scale = fittingScale(widthAt, 1000, 0.001, 2);
    expect(widthAt(scale)).toBeLessThanOrEqual(1000);
    expect(widthAt(scale * 1.02)).toBeGreaterThan(1000);
    // Its names need more than that: it is drawn wider, and its times can still be told apart.
    const tight = fittingScale(widthAt, 100, 0.001, 2);
    expect(widthAt(tight)).toBeGreaterThan(widthAt(0.001) * 1.3);
    expect(fittingScale(widthAt, 1e6, 0.001, 2)).toBe(2);
  });
});

describe('a step that is placed', () => {
  const { data } = macroRecord('m', [{ steps: [step('a', 0), step('b', 40)] }, { steps: [] }]);

  it('keeps all others as they are, in its own segment and in another one', () => {
    const here = placedStep(data, 'a', { segment: 's0', at: 80.04 });
    expect(here.segments[0]?.steps.map(({ id, at }) => [id, at])).toEqual([
      ['a', 80],
      ['b', 40],
    ]);
    const there = placedStep(data, 'a', { segment: 's1', at: 10, device: 'dev-b' });
    expect(there.segments.map(({ steps }) => steps.map(({ id }) => id))).toEqual([['b'], ['a']]);
    expect(there.segments[1]?.steps[0]?.does).toMatchObject({ send: { device: 'dev-b', command: 'go' } });
  });

  it('changes nothing where the step or the segment is gone, or has no room', () => {
    expect(placedStep(data, 'x', { segment: 's0', at: 0 })).toBe(data);
    expect(placedStep(data, 'a', { segment: 'x', at: 0 })).toBe(data);
    const full = macroRecord('m', [
      { steps: [step('a', 0)] },
      { steps: Array.from({ length: 500 }, (_, n) => step(`f${n}`, n)) },
    ]).data;
    expect(placedStep(full, 'a', { segment: 's1', at: 0 })).toBe(full);
  });
});
