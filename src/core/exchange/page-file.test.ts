import { describe, expect, it } from 'vitest';
import { demoShow } from '../../../demo/show';
import { counter, done, must } from '../../../test/support/records';
import { shippedDrivers } from '../../drivers';
import { DriverShelf } from '../driver';
import {
  controlsOf,
  devicesOf,
  pagesOf,
  type ControlRecord,
  type DeviceRecord,
  type PageRecord,
  type ShowRecord,
} from '../show';
import { guessPatch, importEdit, moveKey, patchRows } from './import-pages';
import { pageFileOf, pageFileText, readPageFile, zoneFileOf, type PageFile } from './page-file';
import { columnName, sheetOf } from '../page/sheet';

const records = demoShow(4400);
const shelf = new DriverShelf();
shelf.put(shippedDrivers);
const documentOf = ({ data }: DeviceRecord) => shelf.for(data)?.document;

/** The rig of the demo under other ids and tags, without pages. */
const otherRig = (): ShowRecord[] =>
  records.flatMap((record): ShowRecord[] =>
    record.kind === 'device'
      ? [{ ...record, id: `x-${record.id}`, data: { ...record.data, tag: `X${record.data.tag}` } }]
      : record.kind === 'show'
        ? [record]
        : [],
  );

const bring = (
  into: readonly ShowRecord[],
  file: PageFile,
  patch = guessPatch(file, into),
  moves = new Map<string, number>(),
) => done(into, must(importEdit(into, file, patch, new Map(), moves, documentOf, counter())).edit);

describe('pages as a file', () => {
  const file = pageFileOf(records, pagesOf(records));
  const text = pageFileText(file);

  it('come back equal: what was exported, imported and exported again is the same, byte for byte', () => {
    const into = otherRig();
    const read = must(readPageFile(text));
    expect(read).toEqual(file);
    const after = bring(into, read);
    const again = pageFileText(pageFileOf(after, pagesOf(after)));
    const renamed = again.replaceAll(/"tag": "X/g, '"tag": "');
    expect(renamed).toBe(text);
    expect(after.filter(({ kind }) => kind === 'control')).toHaveLength(
      records.filter(({ kind }) => kind === 'control').length,
    );
  });

  it('hold no address and no id of the show', () => {
    expect(text).not.toContain('127.0.0.1');
    expect(text).not.toContain('dev-');
    expect(text).not.toContain('page-');
  });

  it('make every control about the devices of the other rig', () => {
    const after = bring(otherRig(), file);
    const named = new Set(after.flatMap((each) => (each.kind === 'control' ? devicesOf(each.data) : [])));
    expect([...named].every((id) => id.startsWith('x-'))).toBe(true);
    const pontoon = pagesOf(after).find(({ data }) => data.name === 'Pontoon talk');
    expect(pontoon?.data.zones[0]?.pick?.devices.every((id) => id.startsWith('x-'))).toBe(true);
    expect(pontoon?.data.zones[0]?.pick?.follow?.[0]?.device.startsWith('x-')).toBe(true);
    const sets = controlsOf(after, pontoon?.id ?? '').flatMap(({ data }) => data.sets ?? []);
    expect(sets).toEqual([{ shift: pontoon?.data.shifts?.[0]?.id, while: 'held' }]);
  });

  it('leave a device that is not patched missing, so that its controls say so', () => {
    const patch = new Map(
      [...guessPatch(file, otherRig())].filter(([id]) => file.devices.find((each) => each.id === id)?.tag !== 'R1'),
    );
    const after = bring(otherRig(), file, patch);
    const gone = file.devices.find(({ tag }) => tag === 'R1')?.id ?? '';
    expect(after.some((each) => each.kind === 'control' && devicesOf(each.data).includes(gone))).toBe(true);
  });

  it('take the place of a page, whose controls go, and keep its id and order', () => {
    const titles = records.find((each): each is PageRecord => each.id === 'page-titles');
    if (!titles) throw new Error('no page');
    const one = pageFileOf(records, [titles]);
    const placing = new Map([['p1', { over: 'page-sound' }]]);
    const made = must(importEdit(records, one, guessPatch(one, records), placing, new Map(), documentOf, counter()));
    const after = done(records, made.edit);
    const sound = after.find((each): each is PageRecord => each.id === 'page-sound');
    expect(sound?.data).toMatchObject({ name: 'Titles', order: 6 });
    expect(controlsOf(after, 'page-sound')).toHaveLength(controlsOf(records, 'page-titles').length);
    const twice = new Map([
      ['p1', { over: 'page-sound' }],
      ['p2', { over: 'page-sound' }],
    ]);
    expect(importEdit(records, file, new Map(), twice, new Map(), documentOf, counter()).ok).toBe(false);
    const none = new Map(file.pages.map(({ id }) => [id, 'leave' as const]));
    expect(importEdit(records, file, new Map(), none, new Map(), documentOf, counter()).ok).toBe(false);
  });

  it('can be one zone', () => {
    const cameras = records.find((each): each is PageRecord => each.id === 'page-cameras');
    const zone = cameras?.data.zones[1];
    if (!cameras || !zone) throw new Error('no zone');
    const one = zoneFileOf(records, cameras, zone);
    expect(one.pages[0]?.data).toMatchObject({ name: zone.title, columns: 11, rows: 1 });
    expect(one.controls).toHaveLength(10);
    expect(one.controls.every(({ row }) => row === 0)).toBe(true);
    expect(one.devices.map(({ tag }) => tag)).toEqual(['C2']);
  });

  it.each([
    ['no JSON', 'pages', 'This is not JSON'],
    ['another format', '{"format":"sorrelfinch-show","version":1}', 'not pages'],
    ['a later version', '{"format":"sorrelfinch-pages","version":9}', 'newer version'],
    ['a page without a name', text.replace('"name": "Race"', '"name": ""'), 'pages.0.data.name'],
  ])('say what is wrong with %s', (_, wrong, words) => {
    const read = readPageFile(wrong);
    expect(!read.ok && JSON.stringify(read.error)).toContain(words);
  });
});

describe('the table of an import', () => {
  const race = records.find((each): each is PageRecord => each.id === 'page-race');
  const macro: ControlRecord = {
    kind: 'control',
    id: 'ctl-macro',
    version: 1,
    data: {
      page: 'page-race',
      type: 'button',
      col: 0,
      row: 0,
      cols: 1,
      rows: 1,
      label: [{ reading: { device: 'dev-switcher', key: 'macro[2].name' } }],
      values: {},
      responses: { tap: [{ device: 'dev-switcher', command: 'macro', params: { macro: 2 } }] },
      lamps: [
        { when: { op: 'equals', reading: { device: 'dev-switcher', key: 'macroRunning' }, to: 2 }, show: 'active' },
      ],
    },
  };
  if (!race) throw new Error('no page');
  const file = pageFileOf([...records, macro], [race]);
  const sw = file.devices.find(({ tag }) => tag === 'SW1')?.id ?? '';

  it('says what differs and what cannot work', () => {
    const rig = otherRig();
    const rows = patchRows(file, guessPatch(file, rig), rig, documentOf);
    expect(rows.find(({ mention }) => mention.tag === 'SW1')?.differs).toEqual(['is XSW1 here']);
    const deck = rig.find((each) => each.kind === 'device' && each.data.driver === 'replay-deck');
    const wrong = patchRows(file, new Map([[sw, deck?.id ?? '']]), rig, documentOf)[0];
    expect(wrong?.differs).toContain('is a playout here');
    expect(wrong?.cannot).toContain('no command “take”');
    expect(patchRows(file, new Map(), rig, documentOf)[0]).toMatchObject({ device: undefined });
  });

  it('finds stored numbers that are called here too, and moves them on request', () => {
    const rig: ShowRecord[] = [...records, macro];
    const patch = guessPatch(file, rig);
    const row = patchRows(file, patch, rig, documentOf).find(({ mention }) => mention.id === sw);
    expect(row?.stored).toMatchObject([{ family: 'macro[].name', used: [2], clash: [2] }]);
    const moved = bring(rig, file, patch, new Map([[moveKey('dev-switcher', 'macro[].name'), 10]]));
    const added = moved.find(
      (each): each is ControlRecord =>
        each.kind === 'control' && each.id !== 'ctl-macro' && each.data.responses.tap[0]?.command === 'macro',
    );
    expect(added?.data.responses.tap[0]?.params).toEqual({ macro: 12 });
    expect(added?.data.label).toEqual([{ reading: { device: 'dev-switcher', key: 'macro[12].name' } }]);
    expect(added?.data.lamps[0]?.when).toMatchObject({ to: 12 });
    const taken = moved.filter((each) => each.kind === 'control' && each.data.responses.tap[0]?.command === 'take');
    expect(JSON.stringify(taken)).not.toContain('"input":11');
  });
});

describe('the sheet of a page', () => {
  const tags = new Map(records.flatMap((each) => (each.kind === 'device' ? [[each.id, each.data.tag]] : [])));
  const sources = {
    documentOf: (id: string) => {
      const device = records.find((each): each is DeviceRecord => each.kind === 'device' && each.id === id);
      return device && documentOf(device);
    },
    tagOf: (id: string) => tags.get(id),
  };
  const rowsOf = (id: string) => {
    const page = records.find((each): each is PageRecord => each.id === id);
    if (!page) throw new Error('no page');
    return sheetOf(page, controlsOf(records, id), sources);
  };

  it('writes out label, response and lamp of every control', () => {
    const race = rowsOf('page-race');
    expect(race).toHaveLength(controlsOf(records, 'page-race').length);
    expect(race[0]).toMatchObject({
      place: 'A1',
      zone: 'Straight to program',
      response: ['SW1 Take to program (input 1)'],
      lamp: ['ON AIR when SW1 Program input is 1'],
    });
  });

  it('knows waits, holds, faders, sticks and lists', () => {
    const all = rowsOf('page-pontoon').flatMap(({ response }) => response);
    expect(all).toContain('after 240 ms SW1 Take to program (input 7)');
    expect(all).toContain('while held C4 Zoom in while held (speed 3)');
    expect(all).toContain('sets A1 Set level (strip 3) from -60 to 10');
    expect(all).toContain('steers C4: Pan and tilt');
    expect(all).toContain('lists R1: Clips (Load, Play, Stop, Jump)');
  });

  it.each([
    [0, 'A'],
    [25, 'Z'],
    [26, 'AA'],
    [63, 'BL'],
  ])('names column %d %s', (col, name) => expect(columnName(col)).toBe(name));
});
