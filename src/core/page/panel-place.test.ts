import { describe, expect, it } from 'vitest';
import { changePanelEdit, newPanelEdit, pathProblem, type PanelRecord, type ShowRecord } from '../show';
import { pageToShow, panelPlace } from './panel-place';

const pages = ['race', 'sound', 'cameras'].map((id) => ({ id, name: id }));
const panels = [
  { id: 'p1', path: 'director', name: 'Director', pages: ['cameras', 'race', 'gone'], hidden: [], brightness: 100 },
  { id: 'p2', path: 'all-of-it', name: 'All', pages: [], hidden: [], brightness: 100 },
];
const at = (address: string) => panelPlace(address, { panels, pages });

describe('where a panel’s address leads', () => {
  it.each([
    ['', undefined, '/panel', 'race sound cameras', undefined],
    ['sound', undefined, '/panel', 'race sound cameras', 'sound'],
    ['director', 'p1', '/panel/director', 'cameras race', undefined],
    ['director/race', 'p1', '/panel/director', 'cameras race', 'race'],
    ['all-of-it/', 'p2', '/panel/all-of-it', 'race sound cameras', undefined],
    ['nobody', undefined, '/panel', 'race sound cameras', 'nobody'],
  ])('“%s”', (address, id, base, own, asked) => {
    const place = at(address);
    expect([place.panel?.id, place.base, place.pages.map((page) => page.id).join(' '), place.asked]).toEqual([
      id,
      base,
      own,
      asked,
    ]);
  });

  it('is the page that was asked for, else the one shown last, else the first', () => {
    expect(pageToShow(at('director/race'), 'cameras')).toBe('race');
    expect(pageToShow(at('director'), 'race')).toBe('race');
    expect(pageToShow(at('director'), 'sound')).toBe('cameras');
    expect(pageToShow(panelPlace('', { panels: [], pages: [] }), 'x')).toBeUndefined();
  });
});

describe('panels of a show', () => {
  const made = (records: readonly ShowRecord[], name: string): PanelRecord => {
    const [change] = newPanelEdit(records, `pan-${records.length}`, name).changes;
    if (change?.op !== 'add' || change.record.kind !== 'panel') throw new Error('no panel');
    return change.record;
  };
  it('get an address of their own, whatever they are called', () => {
    const one = made([], 'Régie – Süd');
    const two = made([one], 'Régie – Süd');
    const three = made([one, two], '!!!');
    const four = made([one, two, three], 'Tally');
    expect([one, two, three, four].map(({ data }) => data.path)).toEqual([
      'regie-sud',
      'regie-sud-2',
      'panel',
      'tally-2',
    ]);
    for (const { data, id } of [one, two, three, four])
      expect(pathProblem(data.path, id, [one, two, three])).toBeUndefined();
  });

  it('are refused an address that is none, is taken, or stands for something else', () => {
    const one = made([], 'Director');
    const page = { kind: 'page', id: 'page-race', version: 1, data: {} } as ShowRecord;
    expect(pathProblem('Up', 'x', [one])).toContain('Small letters');
    expect(pathProblem('director', 'x', [one])).toContain('has this address already');
    expect(pathProblem('director', one.id, [one])).toBeUndefined();
    expect(pathProblem('tally', 'x', [])).toContain('something else');
    expect(pathProblem('page-race', 'x', [page])).toContain('id');
  });

  it('change as edits that can be taken back', () => {
    const one = made([], 'Director');
    expect(changePanelEdit(one, { brightness: 40 }, 'Brightness').changes).toEqual([
      { op: 'update', from: one, to: { ...one, data: { ...one.data, brightness: 40 } } },
    ]);
  });
});
