import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { ControlRecord, PageRecord, TieRecord, Zone } from '../show';
import { atLevel, changedAtLevel, inContext, pickedIn } from './context';
import { contextKey, readContextKey, usualContext } from './context-key';

const unknownDevices = { documentOf: () => undefined, roleOf: () => undefined };

const data: ControlRecord['data'] = {
  page: 'p1',
  type: 'button',
  col: 1,
  row: 0,
  cols: 1,
  rows: 1,
  label: [{ text: 'Host' }],
  values: { preset: 0 },
  responses: { tap: [{ device: 'c1', command: 'recall', params: { preset: { value: 'preset' } } }] },
  lamps: [],
};

describe('a shift level', () => {
  it('replaces what is another on it, and nothing else', () => {
    const shifted = changedAtLevel(data, 's1', (at) => ({ ...at, label: [{ text: 'Guest' }] }));
    expect(shifted.label).toEqual([{ text: 'Host' }]);
    expect(shifted.shifts).toEqual({ s1: { label: [{ text: 'Guest' }] } });
    expect(atLevel(shifted, 's1').label).toEqual([{ text: 'Guest' }]);
    expect(atLevel(shifted, 's1').responses).toEqual(data.responses);
    expect(atLevel(shifted, 'other')).toEqual(shifted);
    expect(atLevel(shifted, undefined)).toBe(shifted);
  });

  it('goes when it is as usual again, and leaves places to all levels', () => {
    const shifted = changedAtLevel(data, 's1', (at) => ({ ...at, tint: 'plum', col: 4 }));
    expect(shifted).toMatchObject({ col: 4, shifts: { s1: { tint: 'plum' } } });
    expect(shifted).not.toHaveProperty('tint');
    const both = changedAtLevel(shifted, 's2', (at) => ({ ...at, values: { preset: 5 } }));
    expect(both.shifts).toEqual({ s1: { tint: 'plum' }, s2: { values: { preset: 5 } } });
    const back = changedAtLevel(shifted, 's1', ({ tint: _, ...at }) => at);
    expect(back).not.toHaveProperty('shifts');
  });

  it('is not touched by a change of the usual one', () => {
    const shifted = changedAtLevel(data, 's1', (at) => ({ ...at, label: [{ text: 'Guest' }] }));
    const usual = changedAtLevel(shifted, undefined, (at) => ({ ...at, label: [{ text: 'Presenter' }] }));
    expect(atLevel(usual, 's1').label).toEqual([{ text: 'Guest' }]);
    expect(usual.label).toEqual([{ text: 'Presenter' }]);
  });
});

describe('a context', () => {
  const word = fc.string({ unit: fc.constantFrom(...'abcXYZ019_-'), minLength: 1, maxLength: 12 });
  it('is one word, the same for the same context, and is taken apart again', () => {
    fc.assert(
      fc.property(
        word,
        fc.option(word, { nil: undefined }),
        fc.dictionary(
          word.filter((each) => each !== 'shift'),
          word,
        ),
        (page, shift, picks) => {
          const key = contextKey(page, { shift, picks });
          expect(readContextKey(key)).toEqual({ page, context: { shift, picks: { ...picks } } });
          const reversed = Object.fromEntries(Object.entries(picks).reverse());
          expect(contextKey(page, { shift, picks: reversed })).toBe(key);
        },
      ),
    );
  });

  it('leaves out what makes no sense', () => {
    expect(readContextKey('p;;shift;z=')).toEqual({ page: 'p', context: usualContext });
  });
});

describe('a zone with a pick', () => {
  const follow = [{ device: 'sw', key: 'preview' }];
  const zone: Zone = {
    id: 'z',
    title: 'Camera',
    col: 0,
    row: 0,
    cols: 2,
    rows: 1,
    pick: { devices: ['c1', 'c2', 'c3'], follow },
  };
  const page: PageRecord = {
    kind: 'page',
    id: 'p1',
    version: 1,
    data: { name: 'P', order: 1, columns: 4, rows: 1, note: '', zones: [zone] },
  };
  const tie = (source: string, input: number): TieRecord => ({
    kind: 'tie',
    id: `t${input}`,
    version: 1,
    data: { source, switcher: 'sw', input },
  });
  const ties = [tie('c2', 2), tie('c3', 3), tie('other', 4)];
  const picked = (value: string | number | undefined, picks = {}, freshness: 'fresh' | 'stale' = 'fresh') =>
    pickedIn(
      zone,
      { shift: undefined, picks },
      ties,
      () => (value === undefined ? undefined : { value, freshness }),
      (id) => id.toUpperCase(),
    );

  it.each([
    ['what somebody picked', 3, { z: 'c2' }, 'fresh', 'c2'],
    ['the device behind the input', 3, {}, 'fresh', 'c3'],
    ['the device of that tag', 'C2', {}, 'fresh', 'c2'],
    ['its first where the input is none of its devices', 4, {}, 'fresh', 'c1'],
    ['its first where the reading is not fresh', 3, {}, 'stale', 'c1'],
    ['its first where nothing is known', undefined, {}, 'fresh', 'c1'],
    ['no device that is not among its own', 2, { z: 'gone' }, 'fresh', 'c2'],
  ] as const)('drives %s', (_, value, picks, freshness, expected) => {
    expect(picked(value, picks, freshness)).toBe(expected);
  });

  it('makes its controls about the device, on their level, and leaves those outside alone', () => {
    const inside: ControlRecord = { kind: 'control', id: 'a', version: 1, data };
    const outside: ControlRecord = { kind: 'control', id: 'b', version: 1, data: { ...data, col: 3 } };
    const shown = inContext(inside, page, undefined, () => 'c2', unknownDevices);
    expect(shown.data.responses.tap[0]?.device).toBe('c2');
    expect(inContext(outside, page, undefined, () => 'c2', unknownDevices)).toBe(outside);
    expect(inContext(inside, page, undefined, () => 'c1', unknownDevices)).toBe(inside);
    const level: ControlRecord = { ...inside, data: { ...data, shifts: { s1: { values: { preset: 7 } } } } };
    expect(inContext(level, page, 's1', () => 'c3', unknownDevices).data).toMatchObject({
      values: { preset: 7 },
      responses: { tap: [{ device: 'c3' }] },
    });
  });
});
