import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { ReadingIndex } from '../lamp';
import type { Reading } from '../reading';
import { readingId, type ReadingRef } from '../show';
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
