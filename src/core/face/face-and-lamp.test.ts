import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { lampNow, ReadingIndex } from '../lamp';
import type { Reading } from '../reading';
import { readingId, type Condition, type LampRule, type ReadingRef } from '../show';
import { formatLabel, parseLabel, renderLabel } from './label';

const idOf = (tag: string) => (tag === 'SW1' ? 'd1' : undefined);
const tagOf = (id: string) => (id === 'd1' ? 'SW1' : undefined);
const fresh = (value: string | number | boolean): Reading => ({ value, at: 5, freshness: 'fresh' });
const from = (readings: Record<string, Reading>) => (ref: ReadingRef) => readings[ref.key];

describe('labels', () => {
  it('name the device by id, so that a new tag breaks nothing', () => {
    const label = parseLabel('Lane {SW1.input[3].name}!', idOf);
    expect(label.ok && label.value).toEqual([
      { text: 'Lane ' },
      { reading: { device: 'd1', key: 'input[3].name' } },
      { text: '!' },
    ]);
    expect(label.ok && formatLabel(label.value, () => 'MIX')).toBe('Lane {MIX.input[3].name}!');
  });

  it.each([
    ['Lane {SW1.program', 5],
    ['Lane }', 5],
    ['{program}', 0],
    ['ab{XX9.program}', 2],
  ])('say at which character %s is wrong', (typed, offset) => {
    const label = parseLabel(typed, idOf);
    expect(!label.ok && label.error.offset).toBe(offset);
  });

  it('are typed back as they were, whatever stands in them', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.oneof(
            fc.string({ minLength: 1 }).map((text) => ({ text })),
            fc.constant({ reading: { device: 'd1', key: 'input[$input].name' } }),
          ),
        ),
        (segments) => {
          const again = parseLabel(formatLabel(segments, tagOf), idOf);
          expect(again.ok && formatLabel(again.value, tagOf)).toBe(formatLabel(segments, tagOf));
        },
      ),
    );
  });

  it('use the values of their control', () => {
    const label = [{ reading: { device: 'd1', key: 'input[$input].name' } }];
    expect(renderLabel(label, { input: 3 }, from({ 'input[3].name': fresh('Finish') }))).toEqual([{ text: 'Finish' }]);
  });

  it('keep the last text of a reading that is not fresh, marked, instead of a placeholder', () => {
    const label = [{ reading: { device: 'd1', key: 'name' } }];
    expect(renderLabel(label, {}, from({ name: { value: 'Finish', at: 5, freshness: 'unknown' } }))).toEqual([
      { text: 'Finish', doubt: 'unknown' },
    ]);
    expect(renderLabel(label, {}, from({}))).toEqual([{ text: '–', doubt: 'unknown' }]);
  });
});

describe('lamps', () => {
  const is = (key: string, to: number): Condition => ({ op: 'equals', reading: { device: 'd1', key }, to });
  const rules: LampRule[] = [
    { when: is('program', 3), show: 'onAir' },
    { when: is('preview', 3), show: 'next', word: 'READY' },
  ];
  const stale: Reading = { value: 1, at: 77, freshness: 'stale' };

  it.each([
    [
      { program: fresh(3), preview: fresh(3) },
      { show: 'onAir', word: 'ON AIR' },
    ],
    [
      { program: fresh(1), preview: fresh(3) },
      { show: 'next', word: 'READY' },
    ],
    [{ program: fresh(1), preview: fresh(2) }, { show: 'off' }],
    [
      { program: stale, preview: fresh(3) },
      { show: 'stale', since: 77 },
    ],
    [{ program: fresh(1) }, { show: 'unknown' }],
    [{ program: { value: 3, at: 1, freshness: 'unknown' }, preview: fresh(2) }, { show: 'unknown' }],
  ] as const)('with %j show %j', (readings, lamp) => {
    expect(lampNow(rules, {}, from(readings as Record<string, Reading>))).toEqual(lamp);
  });

  it.each([
    ['not', { not: is('a', 1) }, { a: fresh(2) }, true],
    ['all, one doubtful and one false', { all: [is('gone', 1), is('a', 1)] }, { a: fresh(2) }, false],
    ['any, one doubtful and one true', { any: [is('gone', 1), is('a', 2)] }, { a: fresh(2) }, true],
    ['differs', { op: 'differs', reading: { device: 'd1', key: 'a' }, to: 1 }, { a: fresh(2) }, true],
  ] as const)('decide %s', (_name, when, readings, lit) => {
    expect(lampNow([{ when: when as Condition, show: 'active' }], {}, from(readings)).show).toBe(
      lit ? 'active' : 'off',
    );
  });

  it('never show a meaning that a reading which is not fresh has decided', () => {
    const freshness = fc.constantFrom<Reading['freshness']>('fresh', 'stale', 'unknown');
    fc.assert(
      fc.property(freshness, freshness, fc.nat(4), fc.nat(4), (one, two, program, preview) => {
        const lamp = lampNow(
          rules,
          {},
          from({
            program: { value: program, at: 1, freshness: one },
            preview: { value: preview, at: 1, freshness: two },
          }),
        );
        if (lamp.show === 'onAir') expect([one, program]).toEqual(['fresh', 3]);
        if (lamp.show === 'next') expect([one, two, preview]).toEqual(['fresh', 'fresh', 3]);
      }),
    );
  });
});

describe('the index from readings to controls', () => {
  it('holds the same as looking through all controls', () => {
    const refs = fc.array(
      fc.nat(6).map((n) => ({ device: 'd1', key: `k${n}` })),
      { maxLength: 4 },
    );
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.nat(5), fc.option(refs, { nil: undefined })), { maxLength: 40 }), (acts) => {
        const index = new ReadingIndex();
        const plain = new Map<string, readonly ReadingRef[]>();
        for (const [n, uses] of acts) {
          const control = `c${n}`;
          if (uses) {
            index.put(control, uses);
            plain.set(control, uses);
          } else {
            index.remove(control);
            plain.delete(control);
          }
        }
        for (let n = 0; n <= 6; n += 1) {
          const id = readingId({ device: 'd1', key: `k${n}` });
          const users = [...plain]
            .filter(([, uses]) => uses.some((ref) => readingId(ref) === id))
            .map(([control]) => control);
          expect([...index.usersOf(id)].sort()).toEqual(users.sort());
        }
      }),
    );
  });
});
