import { describe, expect, it } from 'vitest';
import { controlRecord, must, pageRecord } from '../../../test/support/records';
import { problemsOfControl } from '../check';
import { recordSchema, type ShowRecord } from '../show';
import { usualContext } from './context-key';
import { mappedFile, pageFileOf, readPageFile, pageFileText } from '../exchange/page-file';
import { isScreenKey, pageOfKey, setBy } from './sets';

const pages = ['race', 'cameras', 'titles'];

describe('a page key', () => {
  it.each([
    [{ page: 'titles' }, 'race', undefined, 'titles'],
    [{ page: 'gone' }, 'race', undefined, undefined],
    [{ page: 'race' }, 'race', undefined, undefined],
    [{ go: 'next' }, 'race', undefined, 'cameras'],
    [{ go: 'next' }, 'titles', undefined, 'race'],
    [{ go: 'first' }, 'titles', 'race', 'race'],
    [{ go: 'back' }, 'titles', 'race', 'race'],
    [{ go: 'back' }, 'titles', undefined, undefined],
    [{ go: 'back' }, 'titles', 'gone', undefined],
  ] as const)('%j on %s, after %s, leads to %s', (key, now, before, goal) => {
    expect(pageOfKey(key, pages, now, before)).toBe(goal);
  });

  it('leads nowhere on a screen without pages, and changes nothing about how a page is looked at', () => {
    expect(pageOfKey({ go: 'next' }, [], undefined, undefined)).toBeUndefined();
    for (const key of [{ page: 'race' }, { go: 'next' as const }, { screen: 'lock' as const }]) {
      expect(isScreenKey(key)).toBe(true);
      expect(setBy(usualContext, key, true)).toBe(usualContext);
    }
    expect(isScreenKey({ shift: 's', while: 'held' })).toBe(false);
  });

  it('names a page that no longer exists as something to mend', () => {
    const page = pageRecord('page', 'Race');
    const problems = (sets: object) =>
      problemsOfControl(controlRecord('key', { sets: sets as never }), {
        device: () => undefined,
        document: () => undefined,
        page: (id) => (id === 'page' ? page : undefined),
      }).map(({ what }) => what);
    expect(problems({ page: 'gone' })).toEqual(['choice-gone']);
    expect(problems({ page: 'page' })).toEqual([]);
    expect(problems({ go: 'back' })).toEqual([]);
  });

  it('leads to the carried page where that comes along in a page file', () => {
    const one = pageRecord('one', 'One', { order: 1 });
    const two = pageRecord('two', 'Two', { order: 2 });
    const records: ShowRecord[] = [
      one,
      two,
      controlRecord('key', { page: 'one', sets: { page: 'two' } }),
      controlRecord('next', { page: 'one', col: 1, sets: { go: 'next' } }),
    ].map((record) => recordSchema.parse(record));
    const file = must(readPageFile(pageFileText(pageFileOf(records, [one, two]))));
    let made = 0;
    const mapped = mappedFile(
      file,
      (id) => `new-${id}`,
      (id) => id,
      (id) => id,
      (sort) => `${sort}-${(made += 1)}`,
    );
    const carried = mapped.pages.find(({ data }) => data.name === 'Two');
    expect(mapped.controls.map(({ sets }) => sets)).toEqual([{ page: carried?.id }, { go: 'next' }]);
  });
});
