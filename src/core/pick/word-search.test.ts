import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { deviceRecord } from '../../../test/support/records';
import { shippedDrivers } from '../../drivers';
import { DriverShelf } from '../driver';
import { showLookup } from '../show';
import { commandEntries } from './command-entries';
import { WordSearch, type PickEntry } from './word-search';

const shelf = new DriverShelf();
shelf.put(shippedDrivers);
const devices = [
  deviceRecord('SW1', { role: 'switcher', driver: 'vision-switcher', name: 'Vision switcher' }),
  deviceRecord('C1', { name: 'Start tower' }),
  deviceRecord('C2', { name: 'Mid-course' }),
  deviceRecord('A1', { role: 'audio', driver: 'audio-mixer', name: 'Mixer' }),
];
const lookup = showLookup(devices, (device) => {
  const driver = shelf.for(device.data);
  return driver?.document;
});
const readings = {
  'dev-SW1': { 'input[3].name': { value: 'Finish' }, 'input[4].name': { value: 'Pontoon' } },
  'dev-A1': { 'strip[2].name': { value: 'Pontoon mic' } },
} as Readonly<Record<string, Readonly<Record<string, { value: string }>>>>;
const search = new WordSearch(commandEntries(lookup, (device) => readings[device]));
/** What is found first, as `device command values`. */
const first = (typed: string) => {
  const [match] = search.find(typed);
  return match && [match.entry.tag, match.entry.key, match.values];
};

describe('a command is found', () => {
  it.each([
    ['c2 pres 4', ['C2', 'recall', { preset: 4 }]],
    ['4 recall C2', ['C2', 'recall', { preset: 4 }]],
    ['preset 4 store c1', ['C1', 'store', { preset: 4 }]],
    ['cut', ['SW1', 'cut', {}]],
    ['sw1 take finish', ['SW1', 'take', { input: 3 }]],
    ['take 4', ['SW1', 'take', { input: 4 }]],
    ['key 2 off', ['SW1', 'key', { key: 2, on: false }]],
    ['mute pontoon on', ['A1', 'mute', { strip: 2, on: true }]],
    ['level pontoon -20', ['A1', 'level', { strip: 2, level: -20 }]],
    ['white balance indoor c1', ['C1', 'whiteBalance', { mode: 'indoor' }]],
    ['mid home', ['C2', 'home', {}]],
  ])('by “%s”', (typed, expected) => {
    expect(first(typed)).toEqual(expected);
  });

  it('by nothing: all of them, in their order', () => {
    expect(search.find(' ').map(({ entry }) => entry.id)).toEqual(
      commandEntries(lookup, () => undefined).map(({ id }) => id),
    );
  });

  it('not by words that fit nothing, nor by a value out of its range', () => {
    expect(search.find('c2 preset pontoon')).toEqual([]);
    expect(search.find('key 9 on')).toEqual([]);
    expect(search.find('take 4.5')).toEqual([]);
  });
});

const entries: PickEntry[] = [
  { id: 'a', title: 'Café lights', tag: 'L1' },
  { id: 'b', title: 'Light', tag: 'L2', group: 'Café' },
  { id: 'c', title: 'Lights of the hall', tag: 'L3', more: 'dims slowly' },
];
const ids = (typed: string) => new WordSearch(entries).find(typed).map(({ entry }) => entry.id);

describe('words', () => {
  it('are found without their accents and capitals', () => expect(ids('CAFE')).toEqual(['a', 'b']));
  it('fit a title better than a group, and a short title better than a long one', () => {
    expect(ids('light')).toEqual(['b', 'a', 'c']);
  });
  it('fit what was used last before what fits as well', () => {
    const found = (typed: string) => new WordSearch(entries).find(typed, ['c']).map(({ entry }) => entry.id);
    expect(found('light')).toEqual(['c', 'b', 'a']);
    expect(found('cafe light')).toEqual(['a', 'b']);
  });
  it('are found inside a word, and in what is said beside the title', () => {
    expect(ids('ights')).toEqual(['a', 'c']);
    expect(ids('slowly')).toEqual(['c']);
  });
});

it('whatever is typed, each word narrows what was found, and nothing throws', () => {
  const vocabulary = fc.constantFrom(
    'c1',
    'c2',
    'sw1',
    'pre',
    'set',
    'on',
    '4',
    'key',
    'to',
    'pontoon',
    'x',
    '(',
    '\\',
    '−3',
  );
  let narrowed = 0;
  fc.assert(
    fc.property(fc.array(vocabulary, { minLength: 1, maxLength: 5 }), fc.string({ maxLength: 8 }), (words, more) => {
      search.find(more);
      const all = search.find(words.join(' '));
      for (const [n] of words.entries()) {
        const fewer = new Set(search.find(words.filter((_, at) => at !== n).join(' ')).map(({ entry }) => entry.id));
        for (const { entry } of all) expect(fewer).toContain(entry.id);
        if (all.length > 0 && fewer.size > all.length) narrowed += 1;
      }
    }),
    { numRuns: 200 },
  );
  expect(narrowed).toBeGreaterThan(20);
});
