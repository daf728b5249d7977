import { describe, expect, it } from 'vitest';
import { applyEdit, invertEdit, recordSchema, type ControlRecord, type MacroRecord, type PageRecord } from '../show';
import { searchOffers } from './offers';
import { addControlEdit, replaceControlEdit } from './page-edits';
import { offersOfPage, settableOn } from './page-offers';

const record = (kind: string, id: string, data: object) => recordSchema.parse({ kind, id, version: 1, data });
const race = record('page', 'race', {
  name: 'Race',
  order: 1,
  columns: 4,
  rows: 2,
  shifts: [{ id: 'replay', name: 'Replay' }],
  zones: [{ id: 'z', title: 'Camera', col: 0, row: 0, cols: 2, rows: 1, pick: { devices: ['c1', 'c2'] } }],
}) as PageRecord;
const sound = record('page', 'sound', { name: 'Sound', order: 2, columns: 4, rows: 2, zones: [] }) as PageRecord;
const macro = record('macro', 'm1', {
  name: 'Open the show',
  order: 1,
  segments: [{ id: 's', name: 'All', steps: [] }],
}) as MacroRecord;
const tagOf = (id: string) => id.toUpperCase();
const offers = offersOfPage(race, [race, sound], [macro], tagOf);

describe('what a page offers besides the rig', () => {
  it('is an empty control, macros, its levels, its picks, page keys and what a screen does', () => {
    expect(offers.map(({ purpose, title }) => `${purpose}: ${title}`)).toEqual([
      ': Empty control',
      'Macros: Open the show',
      'Levels: Level Replay, while held',
      'Levels: Level Replay, until another',
      'Picks: C1 in Camera',
      'Picks: C2 in Camera',
      'Page keys: The next page',
      'Page keys: The page before',
      'Page keys: The first page',
      'Page keys: Page Sound',
      'This screen: Lock against touch',
      'This screen: Dim or brighten',
    ]);
    expect(settableOn(sound, [race, sound], tagOf).map(({ title }) => title)).not.toContain('page Sound');
  });

  it('makes controls that the show takes, with a label where there is something to say', () => {
    for (const [n, offer] of offers.entries()) {
      const [change] = addControlEdit(race, { col: 0, row: 0 }, offer.start(), `ctl-${n}`, 'Add').changes;
      if (change?.op !== 'add' || change.record.kind !== 'control') throw new Error('It adds no control.');
      expect(recordSchema.parse(change.record)).toMatchObject({ data: { type: 'button' } });
      expect(change.record.data.label.length).toBe(offer.title === 'Empty control' ? 0 : 1);
    }
  });

  it('is found by its words', () => {
    expect(searchOffers(offers, 'open')[0]?.title).toBe('Open the show');
    expect(searchOffers(offers, 'page sound')[0]?.title).toBe('Page Sound');
  });
});

it('a control that is replaced keeps its place and nothing else, and one step back has it again', () => {
  const before = record('control', 'c', {
    page: 'race',
    type: 'fader',
    col: 1,
    row: 1,
    cols: 2,
    label: [{ text: 'Level' }],
    responses: { tap: [] },
    tint: 'plum',
    range: { send: { device: 'a', command: 'level', params: {} }, param: 'level', min: 0, max: 1 },
  }) as ControlRecord;
  const key = offers.find(({ title }) => title === 'The next page');
  if (!key) throw new Error('There is no such offer.');
  const edit = replaceControlEdit(before, key.start(), 'Replace');
  expect(edit.changes).toMatchObject([{ op: 'update', from: before }]);
  const [change] = edit.changes;
  if (change?.op !== 'update') throw new Error('It updates nothing.');
  expect(change.to.data).toEqual({
    page: 'race',
    type: 'button',
    col: 1,
    row: 1,
    cols: 2,
    rows: 1,
    label: [{ text: 'Next page' }],
    values: {},
    responses: { tap: [] },
    lamps: [],
    sets: { go: 'next' },
  });
  const applied = applyEdit((id) => (id === before.id ? before : undefined), edit);
  expect(applied.ok).toBe(true);
  expect(invertEdit(edit).changes).toMatchObject([{ op: 'update', to: before }]);
});
