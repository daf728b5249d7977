import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { compiled } from '../../../test/support/records';
import replayDeck from '../../drivers/replay-deck.json';
import type { Reading } from '../reading';
import type { Scalar } from '../result';
import { conditionSchema, type Condition, type LampRule, type ReadingRef } from '../show';
import { lookNow, type LampMemory } from '.';
import { truthOf } from './truth';

const fresh = (value: Scalar, since = 1, changed = true): Reading => ({
  value,
  at: since,
  since,
  ...(changed ? { changed: true as const } : {}),
  freshness: 'fresh',
});
const stale = (value: Scalar): Reading => ({ ...fresh(value), at: 77, freshness: 'stale' });
const ref = (key: string): ReadingRef => ({ device: 'd1', key });
const is = (key: string, to: Scalar): Condition => ({ op: 'equals', reading: ref(key), to });
const from =
  (readings: Readonly<Record<string, Reading>>) =>
  ({ key }: ReadingRef) =>
    readings[key];
const look = (
  rules: readonly LampRule[],
  readings: Readonly<Record<string, Reading>>,
  now = 1000,
  memory?: LampMemory,
) => lookNow(rules, {}, { readingNow: from(readings), now }, memory);
const truth = (when: Condition, readings: Readonly<Record<string, Reading>>, now = 1000) =>
  truthOf(
    conditionSchema.parse(JSON.parse(JSON.stringify(when))),
    { values: { lane: 4 }, sources: { readingNow: from(readings), now }, memory: new Map(), again: Infinity },
    '',
  );

describe('lamps', () => {
  const rules: LampRule[] = [
    { when: is('program', 3), show: 'onAir' },
    { when: is('preview', 3), show: 'next', word: 'READY', blink: true },
  ];
  it.each([
    [
      { program: fresh(3), preview: fresh(3) },
      { show: 'onAir', word: 'ON AIR' },
    ],
    [
      { program: fresh(1), preview: fresh(3) },
      { show: 'next', word: 'READY', blink: true },
    ],
    [{ program: fresh(1), preview: fresh(2) }, { show: 'off' }],
    [
      { program: stale(1), preview: fresh(3) },
      { show: 'stale', since: 77 },
    ],
    [{ program: fresh(1) }, { show: 'unknown' }],
    [{ program: { value: 3, at: 1, freshness: 'unknown' }, preview: fresh(2) }, { show: 'unknown' }],
  ] as const)('with %j show %j', (readings, lamp) => {
    expect(look(rules, readings as Record<string, Reading>).lamp).toEqual(lamp);
  });

  it('never show a meaning that a reading which is not fresh has decided', () => {
    const freshness = fc.constantFrom<Reading['freshness']>('fresh', 'stale', 'unknown');
    fc.assert(
      fc.property(freshness, freshness, fc.nat(4), fc.nat(4), (one, two, program, preview) => {
        const { lamp } = look(rules, {
          program: { value: program, at: 1, freshness: one },
          preview: { value: preview, at: 1, freshness: two },
        });
        if (lamp.show === 'onAir') expect([one, program]).toEqual(['fresh', 3]);
        if (lamp.show === 'next') expect([one, two, preview]).toEqual(['fresh', 'fresh', 3]);
      }),
    );
  });
});

describe('a rule', () => {
  it('can give another label, icon and picture, or bar the control; each is decided by the rules that say something about it', () => {
    const rules: LampRule[] = [
      { when: is('on', true), show: 'recording' },
      { when: is('on', true), label: [{ text: 'Stop' }], bars: true },
      { when: is('warm', true), label: [{ text: 'Warm' }], icon: 'sun' },
    ];
    expect(look(rules, { on: fresh(true), warm: fresh(true) })).toEqual({
      lamp: { show: 'recording', word: 'REC' },
      label: [{ text: 'Stop' }],
      icon: 'sun',
      barred: true,
    });
    expect(look(rules, { on: fresh(false), warm: fresh(true) })).toEqual({
      lamp: { show: 'off' },
      label: [{ text: 'Warm' }],
      icon: 'sun',
    });
    // In doubt it is neither barred nor renamed; the lamp says that it does not know.
    expect(look(rules, { on: stale(true), warm: fresh(false) })).toEqual({ lamp: { show: 'stale', since: 77 } });
  });
});

describe('a condition', () => {
  it.each<[Condition, Scalar, boolean]>([
    [{ op: 'differs', reading: ref('a'), to: 1 }, 2, true],
    [{ op: 'above', reading: ref('a'), to: 2 }, 2, false],
    [{ op: 'above', reading: ref('a'), to: 2 }, 2.5, true],
    [{ op: 'below', reading: ref('a'), to: { value: 'lane' } }, 3, true],
    [{ op: 'below', reading: ref('a'), to: { value: 'lane' } }, 4, false],
    [{ op: 'within', reading: ref('a'), from: 2, to: 4 }, 2, true],
    [{ op: 'within', reading: ref('a'), from: 2, to: 4 }, 4, true],
    [{ op: 'within', reading: ref('a'), from: 2, to: 4 }, 4.1, false],
    [{ op: 'contains', reading: ref('a'), to: 'FINISH' }, 'Heat 1 finish', true],
    [{ op: 'contains', reading: ref('a'), to: 'start' }, 'Heat 1 finish', false],
    [{ op: 'oneOf', reading: ref('a'), to: ['idle', 'failed'] }, 'failed', true],
    [{ op: 'oneOf', reading: ref('a'), to: [1, { value: 'lane' }] }, 4, true],
    [{ op: 'oneOf', reading: ref('a'), to: [1, 2] }, '1', false],
    [{ not: is('a', 1) }, 2, true],
    [{ all: [is('a', 2), { not: is('a', 1) }] }, 2, true],
    [{ any: [is('a', 1), is('a', 3)] }, 2, false],
    [{ cel: 'r0 > 1.5 && r0 < 3.0', readings: [ref('a')] }, 2, true],
    [{ cel: 'r0 == lane', readings: [ref('a')] }, 4, true],
    [{ cel: 'r0 + 1 == 5', readings: [ref('a')] }, 4, true],
    [{ cel: 'r0 > 3', readings: [ref('a')] }, 3.5, true],
  ])('%j with %j is %j', (when, value, expected) => {
    expect(truth(when, { a: fresh(value) }).is).toBe(expected);
  });

  it('says which reading decided', () => {
    expect(truth({ any: [is('a', 1), is('b', 1)] }, { a: fresh(2), b: fresh(1) })).toEqual({ is: true, by: ref('b') });
    expect(truth({ all: [is('a', 2), is('b', 1)] }, { a: fresh(2), b: fresh(3) })).toEqual({ is: false, by: ref('b') });
    expect(truth({ all: [is('a', 2), is('b', 1)] }, { a: fresh(2), b: stale(1) })).toMatchObject({
      is: 'stale',
      by: ref('b'),
    });
  });

  it.each<[string, Condition, Record<string, Reading>, boolean | 'unknown']>([
    ['all, one doubtful and one false', { all: [is('gone', 1), is('a', 1)] }, { a: fresh(2) }, false],
    ['any, one doubtful and one true', { any: [is('gone', 1), is('a', 2)] }, { a: fresh(2) }, true],
    ['not of what is not known', { not: is('gone', 1) }, {}, 'unknown'],
    ['a text above a number', { op: 'above', reading: ref('a'), to: 1 }, { a: fresh('x') }, 'unknown'],
    [
      'an expression that cannot be worked out',
      { cel: 'r0 + 1 > 2', readings: [ref('a')] },
      { a: fresh('x') },
      'unknown',
    ],
    ['an expression that is no expression', { cel: 'r0 >', readings: [ref('a')] }, { a: fresh(1) }, 'unknown'],
  ])('decides %s', (_name, when, readings, expected) => {
    expect(truth(when, readings).is).toBe(expected);
  });

  it('is never true or false by a reading that is not fresh, unless another part alone decides', () => {
    const leaf = fc.constantFrom('a', 'b').map((key): Condition => is(key, 1));
    const tree = fc.letrec<{ node: Condition }>((tie) => ({
      node: fc.oneof(
        { depthSize: 'small' },
        leaf,
        fc.record({ not: tie('node') }),
        fc.record({ all: fc.array(tie('node'), { minLength: 1, maxLength: 3 }) }),
        fc.record({ any: fc.array(tie('node'), { minLength: 1, maxLength: 3 }) }),
      ),
    })).node;
    fc.assert(
      fc.property(tree, fc.boolean(), (when, a) => {
        const known = (b: number) => truth(when, { a: fresh(a ? 1 : 0), b: fresh(b) }).is;
        const doubtful = truth(when, { a: fresh(a ? 1 : 0), b: stale(1) }).is;
        // What is decided in spite of the doubt is so whatever the doubtful reading is.
        if (typeof doubtful === 'boolean') expect([known(0), known(1)]).toEqual([doubtful, doubtful]);
      }),
    );
  });
});

describe('time', () => {
  const running: LampRule[] = [{ when: { lasting: is('a', 1), forMs: 500 }, show: 'warning' }];

  it('has to pass before what lasts is true, and begins anew when it was false between', () => {
    const memory: LampMemory = new Map();
    const at = (now: number, value: number, since: number) => look(running, { a: fresh(value, since) }, now, memory);
    expect(at(1000, 1, 1000)).toEqual({ lamp: { show: 'off' }, again: 1500 });
    expect(at(1400, 1, 1000)).toEqual({ lamp: { show: 'off' }, again: 1500 });
    expect(at(1500, 1, 1000)).toEqual({ lamp: { show: 'warning', word: 'WARNING' } });
    expect(at(1600, 0, 1600).lamp).toEqual({ show: 'off' });
    expect(at(1700, 1, 1700)).toEqual({ lamp: { show: 'off' }, again: 2200 });
  });

  it('that has passed before anybody looked counts', () => {
    expect(look(running, { a: fresh(1, 400) }, 1000).lamp.show).toBe('warning');
    expect(look(running, { a: fresh(1, 800) }, 1000)).toEqual({ lamp: { show: 'off' }, again: 1300 });
  });

  it('goes on for a part that another part decides against meanwhile', () => {
    const rules: LampRule[] = [{ when: { any: [is('b', 1), { lasting: is('a', 1), forMs: 500 }] }, show: 'warning' }];
    const memory: LampMemory = new Map();
    look(rules, { a: fresh(1, 1000), b: fresh(1, 1000) }, 1000, memory);
    look(rules, { a: fresh(0, 1200), b: fresh(1, 1000) }, 1200, memory);
    look(rules, { a: fresh(1, 1300), b: fresh(1, 1000) }, 1300, memory);
    expect(look(rules, { a: fresh(1, 1300), b: fresh(0, 1600) }, 1600, memory)).toMatchObject({
      lamp: { show: 'off' },
      again: 1800,
    });
  });

  it('ends what has changed just now, and what was heard of for the first time has not changed', () => {
    const rules: LampRule[] = [{ when: { op: 'changed', reading: ref('a'), withinMs: 300 }, show: 'active' }];
    expect(look(rules, { a: fresh(2, 900) }, 1000)).toEqual({ lamp: { show: 'active', word: 'ACTIVE' }, again: 1200 });
    expect(look(rules, { a: fresh(2, 900) }, 1200)).toEqual({ lamp: { show: 'off' } });
    expect(look(rules, { a: fresh(2, 900, false) }, 1000)).toEqual({ lamp: { show: 'off' } });
  });

  it('runs on in clocks between reports', () => {
    const document = compiled(replayDeck).document;
    const [key = '', { runs } = {}] =
      Object.entries(document.readings).find(([, each]) => each.runs && each.runs.rate < 0) ?? [];
    if (!runs) throw new Error('The deck has no clock that runs down.');
    const rules: LampRule[] = [{ when: { op: 'below', reading: ref(key), to: 10 }, show: 'warning' }];
    const readings = { [key]: fresh(12, 1000), [runs.while]: fresh(runs.equals, 1000) };
    const at = (now: number, more: Record<string, Reading> = {}) =>
      lookNow(rules, {}, { readingNow: from({ ...readings, ...more }), documentOf: () => document, now });
    expect(at(1000)).toEqual({ lamp: { show: 'off' }, again: 3001 });
    expect(at(3001).lamp.show).toBe('warning');
    // While it stands it stays what was reported.
    const stopped = { [runs.while]: fresh(runs.equals === true ? false : 'paused', 1000) };
    expect(at(9000, stopped)).toEqual({ lamp: { show: 'off' } });
  });

  it('wakes in the future, and looking then finds everything that would have been seen by looking all the time', () => {
    const when = fc.constantFrom<Condition>(
      { lasting: is('a', 1), forMs: 300 },
      { op: 'changed', reading: ref('a'), withinMs: 250 },
      {
        any: [
          { lasting: { not: is('a', 1) }, forMs: 200 },
          { op: 'changed', reading: ref('a'), withinMs: 100 },
        ],
      },
    );
    const steps = fc.array(fc.tuple(fc.integer({ min: 1, max: 400 }), fc.nat(1)), { minLength: 1, maxLength: 12 });
    fc.assert(
      fc.property(when, steps, (condition, reports) => {
        const rules: LampRule[] = [{ when: condition, show: 'active' }];
        const [seldom, always]: LampMemory[] = [new Map(), new Map()];
        let reading = fresh(0, 0, false);
        let [now, wake] = [0, Infinity];
        let shown = look(rules, { a: reading }, now, seldom);
        wake = shown.again ?? Infinity;
        for (const [wait, value] of reports) {
          const report = now + wait;
          for (; now < report; now += 1) {
            if (now >= wake) {
              shown = look(rules, { a: reading }, now, seldom);
              expect(shown.again ?? Infinity).toBeGreaterThan(now);
              wake = shown.again ?? Infinity;
            }
            expect(shown.lamp).toEqual(look(rules, { a: reading }, now, always).lamp);
          }
          if (value !== reading.value) reading = fresh(value, now);
          shown = look(rules, { a: reading }, now, seldom);
          wake = shown.again ?? Infinity;
        }
      }),
      { numRuns: 60 },
    );
  });
});
