import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { compiled, controlRecord, deviceRecord, pageRecord } from '../../../test/support/records';
import { viscaOverIp } from '../../drivers/visca';
import { guessPatch, importEdit, pageFileOf, pageFileText, readPageFile } from '../exchange';
import { applyEdit, presetReached, type PresetRecord, type ShowRecord } from '../show';
import { favouriteEdit, getBackEdit, movedOrder, presetsOf, storeEdit } from './edits';
import { isAtPlace, placeNow, recallSends } from './place';
import { tilesNow } from './tiles';

const { document } = compiled(viscaOverIp);
const place = { pan: 10, tilt: 0, zoom: 25, focus: 50 };
const preset = (number: number, more: Partial<PresetRecord['data']> = {}, device = 'dev-C1'): PresetRecord => ({
  kind: 'preset',
  id: `${device}-${number}`,
  version: 1,
  data: { device, number, name: '', note: '', order: number, storedAt: '', ...more },
});
const camera = (tag: string): ShowRecord => deviceRecord(tag, { role: 'camera', driver: 'ptz-camera' });
let count = 0;
const newId = (kind: string) => `${kind}-${(count += 1)}`;
const doc = (records: readonly ShowRecord[]) => new Map(records.map((record) => [record.id, record]));

describe('a store', () => {
  it('keeps what was there, and getting that back twice is where it began', () => {
    const records = [preset(3, { name: 'Bank', place, favourite: true })];
    const stored = { place: { ...place, pan: -40 }, storedAt: 'now' };
    const done = applyEdit(
      (id) => doc(records).get(id),
      storeEdit(records, { device: 'dev-C1', number: 3 }, stored, newId),
    );
    const [overwritten] = done.ok ? (done.value.puts as PresetRecord[]) : [];
    expect(overwritten?.data).toMatchObject({ name: 'Bank', favourite: true, place: { pan: -40 }, before: { place } });
    const back = (from: PresetRecord | undefined) => {
      const [change] = (from && getBackEdit(from)?.changes) ?? [];
      return change?.op === 'update' ? (change.to as PresetRecord) : undefined;
    };
    const once = back(overwritten);
    expect(once?.data).toMatchObject({ place, byPlace: true, before: { place: { pan: -40 } } });
    expect(back(once)?.data).toEqual(overwritten?.data);
  });

  it('of a camera that does not say where it is cannot be got back: the camera has only the newer one', () => {
    expect(getBackEdit(preset(1, { before: { name: '', storedAt: '' } }))).toBeUndefined();
  });
});

describe('a recall', () => {
  it('is the number, or the position by the commands of the driver', () => {
    expect(recallSends(document, preset(4))).toEqual([{ device: 'dev-C1', command: 'recall', params: { preset: 4 } }]);
    const sends = recallSends(document, preset(4, { place, byPlace: true }));
    expect(sends.map(({ command, params }) => [command, params])).toEqual([
      ['moveTo', { pan: 10, tilt: 0 }],
      ['zoomTo', { zoom: 25 }],
    ]);
    expect(recallSends(document, preset(4, { byPlace: true }))).toEqual([]);
  });

  it('has reached its place where the camera is as near as its protocol can tell; the focus counts while it is set by hand', () => {
    const now = (more: object) => (key: string) => ({ ...place, autoFocus: true, ...more })[key as 'pan'];
    expect(placeNow(document, now({}))).toEqual(place);
    expect(placeNow(document, now({ pan: undefined }))).toBeUndefined();
    expect(isAtPlace(document, place, now({ pan: 10.1 }))).toBe(true);
    expect(isAtPlace(document, place, now({ pan: 10.4 }))).toBe(false);
    expect(isAtPlace(document, place, now({ focus: 90 }))).toBe(true);
    expect(isAtPlace(document, place, now({ focus: 90, autoFocus: false }))).toBe(false);
  });
});

it('moves past empty places and back again, for any order', () => {
  fc.assert(
    fc.property(
      fc.uniqueArray(fc.integer({ min: 0, max: 20 }), { minLength: 2, maxLength: 12 }),
      fc.nat(),
      (all, n) => {
        const order = all[n % all.length] ?? 0;
        const rank = (of: number, among: readonly number[]) => among.filter((each) => each < of).length;
        const others = all.filter((each) => each !== order);
        for (const by of [-1, 1] as const) {
          const to = movedOrder(order, all, by);
          const at = rank(order, others);
          if (to === undefined) expect(at).toBe(by === 1 ? others.length : 0);
          else expect(rank(to, others)).toBe(at + by);
        }
      },
    ),
    { seed: 7 },
  );
});

it('shows the places of a camera, or the favourites of all', () => {
  const presets = [preset(1, { name: 'Wide', order: 0.5 }), preset(9), preset(2, { favourite: true }, 'dev-C2')];
  const sources = {
    presets: () => presets,
    documentOf: () => document,
    tagOf: (id: string) => id.slice(4),
    readingNow: ({ key }: { key: string }) =>
      key === presetReached ? ({ value: 1, at: 0, freshness: 'fresh' } as never) : undefined,
  };
  const shown = tilesNow({ device: 'dev-C1', places: 4 }, sources);
  expect(shown.map(({ number, empty, mark }) => [number, empty ?? false, mark])).toEqual([
    [0, true, undefined],
    [1, false, 'reached'],
    [2, true, undefined],
    [3, true, undefined],
    [9, false, undefined],
  ]);
  expect(tilesNow({ places: 4 }, sources).map(({ tag, number }) => [tag, number])).toEqual([['C2', 2]]);
});

it('comes along with a page into another rig, whose camera is sent to the position', () => {
  const board = controlRecord('board', { type: 'presets', presets: { device: 'dev-C1', places: 6 } });
  const here = [
    camera('C1'),
    pageRecord('page', 'Race'),
    board,
    preset(2, { name: 'Bank', place, before: { name: '', storedAt: '' } }),
  ];
  const pages = here.filter((record) => record.kind === 'page');
  const read = readPageFile(pageFileText(pageFileOf(here, pages)));
  if (!read.ok) throw new Error(JSON.stringify(read.error));
  const there = [camera('C1'), preset(5, { name: 'Own' })];
  const patch = guessPatch(read.value, there);
  const made = importEdit(there, read.value, patch, new Map(), new Map(), () => document, newId);
  if (!made.ok) throw new Error(made.error);
  const after = applyEdit((id) => doc(there).get(id), made.value.edit);
  const presets = presetsOf([...there, ...(after.ok ? after.value.puts : [])]);
  expect(presets.map(({ data }) => [data.number, data.name, data.byPlace ?? false])).toEqual([
    [2, 'Bank', true],
    [5, 'Own', false],
  ]);
  // What is there already is not replaced.
  const again = importEdit(
    presets,
    read.value,
    new Map([['d1', 'dev-C1']]),
    new Map(),
    new Map(),
    () => document,
    newId,
  );
  expect(
    again.ok && presetsOf(again.value.edit.changes.flatMap((change) => ('record' in change ? [change.record] : []))),
  ).toEqual([]);
});

it('is marked as a favourite, and not any more', () => {
  const [change] = favouriteEdit(preset(1), true).changes;
  const marked = change?.op === 'update' ? (change.to as PresetRecord) : preset(1);
  expect(marked.data.favourite).toBe(true);
  const [back] = favouriteEdit(marked, false).changes;
  expect(back?.op === 'update' && 'favourite' in back.to.data).toBe(false);
});
