import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { demoShow } from '../../../demo/show';
import {
  applied,
  compiled,
  contentOf,
  controlRecord,
  counter,
  deviceRecord,
  done,
  must,
  pageRecord,
  type Doc,
} from '../../../test/support/records';
import replayDeck from '../../drivers/replay-deck.json';
import visionSwitcher from '../../drivers/vision-switcher.json';
import { renderLabel } from '../face';
import {
  devicesOf,
  invertEdit,
  resolveArgument,
  startOf,
  type ControlRecord,
  type DeviceRecord,
  type PageRecord,
  pagesOf,
  type ShowRecord,
} from '../show';
import {
  addControlEdit,
  addPageEdit,
  areaBetween,
  arrangeEdit,
  cellsOf,
  clipText,
  contains,
  controlsOfZone,
  copyZoneEdit,
  countablesOf,
  countFrom,
  dealEdit,
  dealOnEdit,
  goneMembers,
  duplicatePageEdit,
  emptyCells,
  findControls,
  groupOffers,
  guessDevices,
  legendOf,
  listedValues,
  membersOf,
  mentionOf,
  missingValues,
  groupsOf,
  moveBy,
  nextCells,
  offersOf,
  overlaps,
  pasteEdit,
  placeFor,
  placePageEdit,
  planSeries,
  putZoneEdit,
  readClip,
  removePageEdit,
  resizePageEdit,
  resizeTo,
  retargetEdit,
  searchOffers,
  seriesCells,
  shownCondition,
  startSeries,
  withValue,
  type Area,
  type Placed,
} from '.';

const switcher = compiled(visionSwitcher).document;
const deck = compiled(replayDeck).document;

const noDevices = { documentOf: () => undefined, roleOf: () => undefined };
const using = (document: typeof switcher) => ({
  ...noDevices,
  documentOf: (id: string) => (id === 'dev-other' ? document : undefined),
});

const page = (id: string, name: string, columns = 3, rows = 2): PageRecord => pageRecord(id, name, { columns, rows });

const control = (col: number, row: number, more: Partial<ControlRecord['data']> = {}): ControlRecord =>
  controlRecord(`c${col}-${row}`, { page: 'p1', col, row, label: [], ...more });

const device = (tag: string, driver = 'vision-switcher', name = tag): DeviceRecord => ({
  ...deviceRecord(tag, { name, role: 'switcher', driver }),
  id: `dev-${tag.toLowerCase()}`,
});

/** A random page on which nothing overlaps. */
const pages = fc
  .record({
    columns: fc.integer({ min: 1, max: 8 }),
    rows: fc.integer({ min: 1, max: 8 }),
    seeds: fc.array(fc.nat(1e6)),
  })
  .map(({ columns, rows, seeds }) => {
    const placed: Placed[] = [];
    for (const seed of seeds) {
      const area: Area = {
        col: seed % columns,
        row: Math.floor(seed / 7) % rows,
        cols: 1 + (Math.floor(seed / 49) % 3),
        rows: 1 + (Math.floor(seed / 343) % 2),
      };
      const fits = contains({ col: 0, row: 0, cols: columns, rows }, area);
      if (fits && !placed.some((other) => overlaps(other, area))) placed.push({ ...area, id: `c${placed.length}` });
    }
    return { size: { columns, rows }, placed };
  });

describe('the arithmetic of the grid', () => {
  it('finds the area between two cells, whichever comes first', () => {
    const area = { col: 1, row: 2, cols: 3, rows: 2 };
    expect(areaBetween({ col: 1, row: 3 }, { col: 3, row: 2 })).toEqual(area);
    expect(cellsOf({ col: 0, row: 0, cols: 2, rows: 2 }, 'columns')).toEqual([
      { col: 0, row: 0 },
      { col: 0, row: 1 },
      { col: 1, row: 0 },
      { col: 1, row: 1 },
    ]);
  });

  const three: Placed[] = [0, 1, 2].map((col) => ({ id: `c${col}`, col, row: 0, cols: 1, rows: 1 }));
  it.each([
    ['to a free cell', three, ['c0'], { col: 0, row: 1 }, { c0: '0 1' }],
    ['onto another, which takes its place', three, ['c0'], { col: 2, row: 0 }, { c0: '2 0', c2: '0 0' }],
    [
      'two together over a third, which goes behind them',
      three,
      ['c0', 'c1'],
      { col: 1, row: 0 },
      { c0: '1 0', c1: '2 0', c2: '0 0' },
    ],
    ['below the last row, where the page grows', three, ['c1'], { col: 0, row: 4 }, { c1: '1 4' }],
  ] as const)('moves %s', (_, placed, moving, by, expected) => {
    const { places } = must(moveBy({ columns: 3, rows: 2 }, placed, new Set(moving), by));
    expect(Object.fromEntries([...places].map(([id, { col, row }]) => [id, `${col} ${row}`]))).toEqual(expected);
  });

  it('a wide control changes places with the two that it covers', () => {
    const placed: Placed[] = [
      { id: 'wide', col: 0, row: 0, cols: 2, rows: 1 },
      { id: 'a', col: 0, row: 1, cols: 1, rows: 1 },
      { id: 'b', col: 1, row: 1, cols: 1, rows: 1 },
    ];
    const { places } = must(moveBy({ columns: 2, rows: 2 }, placed, new Set(['wide']), { col: 0, row: 1 }));
    expect([...places].map(([id, { col, row }]) => [id, col, row])).toEqual([
      ['wide', 0, 1],
      ['a', 0, 0],
      ['b', 1, 0],
    ]);
  });

  it('does not move over the edge, nor onto something too large for the place', () => {
    expect(moveBy({ columns: 3, rows: 2 }, three, new Set(['c0']), { col: -1, row: 0 }).ok).toBe(false);
    const large: Placed[] = [three[0] as Placed, { id: 'large', col: 1, row: 0, cols: 2, rows: 2 }];
    expect(moveBy({ columns: 3, rows: 2 }, large, new Set(['c0']), { col: 1, row: 0 }).ok).toBe(false);
  });

  it('never loses, doubles or overlaps anything, wherever something is moved', () => {
    fc.assert(
      fc.property(
        pages,
        fc.array(fc.nat(20)),
        fc.integer({ min: -8, max: 8 }),
        fc.integer({ min: -8, max: 8 }),
        (made, picks, col, row) => {
          const moving = new Set(picks.map((pick) => `c${pick}`));
          const result = moveBy(made.size, made.placed, moving, { col, row });
          if (!result.ok) return;
          const after = made.placed.map((each) => ({ ...each, ...result.value.places.get(each.id) }));
          const whole = { col: 0, row: 0, cols: made.size.columns, rows: result.value.rows };
          for (const [n, each] of after.entries()) {
            expect(contains(whole, each)).toBe(true);
            expect(after.slice(n + 1).some((other) => overlaps(other, each))).toBe(false);
            expect([each.cols, each.rows]).toEqual([made.placed[n]?.cols, made.placed[n]?.rows]);
          }
        },
      ),
    );
  });

  it('resizes where there is room, and says why where there is none', () => {
    const size = { columns: 3, rows: 2 };
    expect(must(resizeTo(size, three, 'c0', { col: 0, row: 0, cols: 1, rows: 3 })).rows).toBe(3);
    expect(resizeTo(size, three, 'c0', { col: 0, row: 0, cols: 2, rows: 1 })).toEqual({
      ok: false,
      error: 'Another control is there.',
    });
    expect(resizeTo(size, three, 'c2', { col: 2, row: 0, cols: 2, rows: 1 }).ok).toBe(false);
    expect(resizeTo(size, three, 'c2', { col: 2, row: 0, cols: 0, rows: 1 }).ok).toBe(false);
  });

  it('finds the first place for a block, in which it is free', () => {
    fc.assert(
      fc.property(pages, fc.integer({ min: 1, max: 3 }), fc.integer({ min: 1, max: 3 }), (made, cols, rows) => {
        const block: Area = { col: 0, row: 0, cols, rows };
        const place = placeFor(made.size, made.placed, [block], { col: 0, row: 0 });
        if (!place.ok) return void expect(cols).toBeGreaterThan(made.size.columns);
        const there = { ...block, ...place.value };
        expect(made.placed.some((each) => overlaps(each, there))).toBe(false);
        for (const cell of cellsOf({ col: 0, row: 0, cols: made.size.columns - cols + 1, rows: there.row + 1 })) {
          if (cell.row === there.row && cell.col >= there.col) break;
          expect(made.placed.some((each) => overlaps(each, { ...block, ...cell }))).toBe(true);
        }
      }),
    );
  });

  it('knows the empty cells of a page', () => {
    expect(emptyCells(page('p1', 'one'), [control(0, 0, { cols: 2 }), control(1, 1)])).toEqual([
      { col: 2, row: 0 },
      { col: 0, row: 1 },
      { col: 2, row: 1 },
    ]);
  });

  it('an arrangement is one edit, and none where nothing moves', () => {
    const one = page('p1', 'one');
    const own = [control(0, 0), control(1, 0)];
    const placed = own.map(({ id, data }) => ({ ...data, id }));
    const moved = must(moveBy(one.data, placed, new Set(['c0-0']), { col: 1, row: 0 }));
    const after = done([one, ...own], arrangeEdit(one, own, moved, 'Move'));
    expect(after.flatMap((each) => (each.kind === 'control' ? [[each.id, each.data.col]] : []))).toEqual([
      ['c0-0', 1],
      ['c1-0', 0],
    ]);
    const none = must(moveBy(one.data, placed, new Set(['c0-0']), { col: 0, row: 0 }));
    expect(arrangeEdit(one, own, none, 'Move')).toBeUndefined();
  });
});

describe('a page that gets smaller', () => {
  const one = page('p1', 'one', 3, 3);
  const own = [control(0, 0), control(2, 0), control(0, 2, { cols: 2 })];
  const records = [one, ...own];
  const size = { columns: 2, rows: 2 };
  it('asks where the controls go that lie outside', () => {
    const refused = resizePageEdit(records, one, size, undefined, counter());
    expect(refused).toEqual({ ok: false, error: '2 controls lie outside 2 columns by 2 rows.' });
    expect(resizePageEdit([one, control(0, 0)], one, size, undefined, counter()).ok).toBe(true);
  });

  it.each([
    ['inside', { 'c2-0': 'p1 1 0', 'c0-2': 'p1 0 1' }],
    ['new page', { 'c2-0': 'page-new-1 2 0', 'c0-2': 'page-new-1 0 2' }],
    ['remove', {}],
  ] as const)('puts them %s', (outside, expected) => {
    const after = done(records, must(resizePageEdit(records, one, size, outside, counter())));
    const places = after.flatMap((each) =>
      each.kind === 'control' && each.id !== 'c0-0'
        ? [[each.id, `${each.data.page} ${each.data.col} ${each.data.row}`]]
        : [],
    );
    expect(Object.fromEntries(places)).toEqual(expected);
  });

  it('says so when they do not fit inside', () => {
    expect(resizePageEdit(records, one, { columns: 1, rows: 2 }, 'inside', counter()).ok).toBe(false);
  });
});

describe('the clipboard', () => {
  const rig = [device('SW1'), device('SW2')];
  const one = page('p1', 'one', 4, 2);
  const two = { ...page('p2', 'two', 4, 2), id: 'p2' };
  const take = (on: string) => ({
    ...startOf(switcher, on, 'take', { input: 3 }),
  });
  const own = [
    control(1, 0, take('dev-sw1')),
    control(2, 1, { ...take('dev-sw1'), series: { id: 's1', value: 'input' } }),
  ];
  const records: ShowRecord[] = [...rig, one, two, ...own];

  it('takes controls to another page as they lie', () => {
    const clip = must(readClip(clipText(records, own)));
    const { edit, ids } = must(pasteEdit(records, two, clip, { col: 0, row: 0 }, counter()));
    const after = done(records, edit);
    const pasted = after.filter((each): each is ControlRecord => ids.includes(each.id));
    expect(pasted.map(({ data }) => [data.page, data.col, data.row])).toEqual([
      ['p2', 0, 0],
      ['p2', 1, 1],
    ]);
    expect(pasted[0]?.data.responses).toEqual(own[0]?.data.responses);
    expect(pasted[1]?.data.series?.id).not.toBe('s1');
  });

  it('goes to the next place where all of it fits, and lets the page grow', () => {
    const clip = must(readClip(clipText(records, own)));
    const after = done(records, must(pasteEdit(records, one, clip, { col: 1, row: 0 }, counter())).edit);
    const onPage = after.flatMap((each) => (each.kind === 'control' ? [each.data] : []));
    for (const [n, each] of onPage.entries())
      expect(onPage.slice(n + 1).some((other) => overlaps(other, each))).toBe(false);
  });

  it('finds the devices of another rig by what they are', () => {
    const text = clipText(records, own);
    const other = [{ ...device('MIX'), id: 'x1' }, two];
    const { edit } = must(pasteEdit(other, two, must(readClip(text)), { col: 0, row: 0 }, counter()));
    const [added] = edit.changes;
    expect(added?.op === 'add' && added.record.kind === 'control' && devicesOf(added.record.data)).toEqual(['x1']);
  });

  it('never takes one device for two others', () => {
    const mentions = ['C1', 'C2'].map((tag) => mentionOf(device(tag, 'ptz-camera')));
    const found = guessDevices(mentions, [{ ...device('C2', 'ptz-camera'), id: 'own' }]);
    expect([...found]).toEqual([['dev-c2', 'own']]);
  });

  it.each([
    ['', 'The clipboard has no text. Copy controls first.'],
    [
      'https://tide.example/board',
      'The clipboard holds other text (“https://tide.example/board”), not controls. Copy controls first.',
    ],
    ['{"format":"other"}', 'not controls'],
    ['{"format":"sorrelfinch-controls","version":1,"devices":[],"controls":[]}', 'damaged'],
  ])('says that “%s” is not ours', (text, words) => {
    const read = readClip(text);
    expect(!read.ok && read.error).toContain(words);
  });
});

describe('a series', () => {
  const one = page('p1', 'one', 6, 3);
  const first = control(0, 0, startOf(switcher, 'dev-sw1', 'take', { input: 1 }));
  const readings = {
    'input[2].name': { value: 'Finish' },
    'input[1].name': { value: 'Start' },
    'input[10].name': { value: 'Drone' },
  };

  it('counts face, command and lamp together', () => {
    const cells = seriesCells(first.data, { col: 0, row: 0, cols: 6, rows: 2 }, 'rows', [first.data]);
    const deal = { cells, values: must(countFrom(1, 12, 1)), param: 'input' };
    const made = must(dealEdit(one, first, [first], deal, switcher, counter()));
    expect(made.members).toHaveLength(12);
    const after = done([one, first], made.edit);
    expect(after.filter(({ kind }) => kind === 'control')).toHaveLength(12);
    for (const [n, { data }] of made.members.entries()) {
      const value = data.values[data.series?.value ?? ''];
      expect(value).toBe(n + 1);
      const [send] = data.responses.tap;
      expect(send && resolveArgument(send.params.input ?? 0, data.values)).toBe(n + 1);
      const [rule] = data.lamps;
      expect(rule && shownCondition(rule.when, data)).toMatchObject({ to: n + 1 });
    }
    expect(made.members[7]?.data).toMatchObject({ col: 1, row: 1 });
  });

  it('makes the number in a typed label, a lamp and a reading of it count, where they were about the same', () => {
    const typed = control(0, 0, {
      label: [{ text: 'Camera 3, take 13' }, { reading: { device: 'dev-sw1', key: 'input[3].name' } }],
      responses: { tap: [{ device: 'dev-sw1', command: 'take', params: { input: 3 } }] },
      lamps: [
        { when: { op: 'equals', reading: { device: 'dev-sw1', key: 'program' }, to: 3 }, show: 'onAir' },
        { when: { not: { op: 'equals', reading: { device: 'dev-x', key: 'program' }, to: 3 } }, show: 'next' },
      ],
    });
    const data = withValue(typed.data, 'input', switcher);
    expect(data.values).toEqual({ input: 3 });
    expect(data.label).toEqual([
      { text: 'Camera ' },
      { value: 'input' },
      { text: ', take 13' },
      { reading: { device: 'dev-sw1', key: 'input[$input].name' } },
    ]);
    expect(data.lamps[0]?.when).toMatchObject({ to: { value: 'input' } });
    expect(data.lamps[1]?.when).toMatchObject({ not: { to: 3 } });
    const text = renderLabel(data.label, { input: 7 }, () => undefined).map((segment) => segment.text);
    expect(text.join('')).toBe('Camera 7, take 13–');
  });

  it('goes over what the device lists, in its order, and is dealt on when the list has grown', () => {
    const param = switcher.commands.take?.params.input;
    if (!param) throw new Error('no parameter');
    const newId = counter();
    const listed = listedValues(param, readings);
    expect(listed).toEqual([1, 2, 10]);
    const cells = nextCells(one, first.data, [first.data], 2);
    const { members } = must(dealEdit(one, first, [first], { cells, values: listed, param: 'input' }, switcher, newId));
    const grown = { ...readings, 'input[11].name': { value: 'Launch' }, 'input[12].name': { value: 'Bank' } };
    const missing = missingValues(members, listedValues(param, grown));
    expect(missing).toEqual([11, 12]);
    const more = must(dealOnEdit(one, members, members, missing, newId));
    expect(membersOf(members[0] as ControlRecord, [...members, ...more.members.slice(1)])).toHaveLength(5);
    done([one, ...members], more.edit);
    expect(dealOnEdit(one, members, members, [], counter()).ok).toBe(false);
  });

  it('goes over one group of what the device lists, and is dealt on with that group only', () => {
    const document = {
      ...switcher,
      lists: { inputs: { title: 'Inputs', items: 'input[].name', texts: ['input[].kind'] } },
    };
    const kinds = {
      ...readings,
      'input[1].kind': { value: 'Shore' },
      'input[2].kind': { value: 'Boat' },
      'input[10].kind': { value: 'Boat' },
    };
    const withKinds = {
      ...document,
      readings: { ...switcher.readings, 'input[].kind': { ...switcher.readings['input[].name'], title: 'Kind' } },
    } as unknown as typeof switcher;
    const groups = groupsOf(withKinds, 'input[].name', kinds);
    expect(groups.map(({ is }) => is)).toEqual(['Boat', 'Shore']);
    expect(groupsOf(withKinds, 'input[].name', readings)).toEqual([]);
    const draft = startSeries(first, switcher);
    if (!draft) throw new Error('no series');
    const plan = must(planSeries(one, first, [first], { ...draft, among: groups[0] }, switcher, kinds, counter()));
    expect(plan.members.map(({ data }) => data.values[data.series?.value ?? ''])).toEqual([2, 10]);
    const among = plan.members[0]?.data.series?.among;
    const param = switcher.commands.take?.params.input;
    if (!param) throw new Error('no parameter');
    expect(missingValues(plan.members, listedValues(param, kinds, among))).toEqual([]);
    const grown = { ...kinds, 'input[11].name': { value: 'Tug' }, 'input[11].kind': { value: 'Boat' } };
    expect(missingValues(plan.members, listedValues(param, grown, among))).toEqual([11]);
  });

  it('tells which members the device does not list any more, and none while it lists nothing', () => {
    const cells = nextCells(one, first.data, [first.data], 2);
    const deal = { cells, values: [1, 2, 10], param: 'input' };
    const { members } = must(dealEdit(one, first, [first], deal, switcher, counter()));
    expect(goneMembers(members, [1, 2, 10, 11])).toEqual([]);
    expect(goneMembers(members, [1, 10]).map(({ data }) => data.values.input)).toEqual([2]);
    expect(goneMembers(members, [])).toEqual([]);
  });

  it('passes over cells that are taken, and refuses where nothing is left', () => {
    const taken = [first.data, control(2, 0).data];
    expect(seriesCells(first.data, { col: 0, row: 0, cols: 4, rows: 1 }, 'rows', taken)).toEqual([
      { col: 1, row: 0 },
      { col: 3, row: 0 },
    ]);
    const none = dealEdit(one, first, [first], { cells: [], values: [1, 2], param: 'input' }, switcher, counter());
    expect(none.ok).toBe(false);
  });

  it.each([
    [1, 4, 1, [1, 2, 3, 4]],
    [8, 2, 3, [8, 5, 2]],
    [0, 1, 0.25, [0, 0.25, 0.5, 0.75, 1]],
    [5, 5, 1, [5]],
  ])('counts from %d to %d in steps of %d', (from, to, step, expected) => {
    expect(must(countFrom(from, to, step))).toEqual(expected);
  });

  it.each([
    [1, 4, 0],
    [1, 1e9, 1],
    [Number.NaN, 4, 1],
  ])('does not count from %d to %d in steps of %d', (from, to, step) => {
    expect(countFrom(from, to, step).ok).toBe(false);
  });

  it('is planned from what was set: over the list without an area, or counted over the area that was drawn', () => {
    const draft = startSeries(first, switcher);
    if (!draft) throw new Error('nothing counts');
    expect(draft).toMatchObject({ param: 'input', how: 'list', over: { col: 0, row: 0, cols: 1, rows: 1 } });
    const listed = must(planSeries(one, first, [first], draft, switcher, readings, counter()));
    expect(listed.values).toEqual([1, 2, 10]);
    const over = { col: 0, row: 0, cols: 2, rows: 3 };
    const counted = { ...draft, over, how: 'count', by: 'columns' } as const;
    const plan = must(planSeries(one, first, [first], counted, switcher, {}, counter()));
    expect(plan.members.map(({ data }) => [data.values.input, data.col, data.row])).toEqual([
      [1, 0, 0],
      [2, 0, 1],
      [3, 0, 2],
      [4, 1, 0],
      [5, 1, 1],
      [6, 1, 2],
    ]);
    const short = must(planSeries(one, first, [first], { ...counted, to: 20 }, switcher, {}, counter()));
    expect([short.members.length, short.left]).toEqual([6, 14]);
    expect(planSeries(one, first, [first], draft, switcher, {}, counter()).ok).toBe(false);
    expect(startSeries(control(0, 0), switcher)).toBeUndefined();
  });

  it('offers what can count: numbers, choices and what is picked from a list', () => {
    expect(countablesOf(first.data, switcher).map(({ param }) => param)).toEqual(['input']);
    const play = control(0, 0, startOf(deck, 'dev-r1', 'play'));
    expect(countablesOf(play.data, deck).every(({ param }) => param !== 'on')).toBe(true);
    expect(countablesOf(control(0, 0).data, switcher)).toEqual([]);
  });
});

describe('zones', () => {
  const zone = { id: 'z1', title: 'Program', col: 0, row: 0, cols: 2, rows: 1 };
  const one: PageRecord = { ...page('p1', 'one', 4, 2), data: { ...page('p1', 'one', 4, 2).data, zones: [zone] } };
  const own = [control(0, 0, startOf(switcher, 'dev-sw1', 'take', { input: 1 })), control(3, 1)];

  it('do not overlap and do not leave the page', () => {
    expect(putZoneEdit(one, { ...zone, id: 'z2', col: 1 }).ok).toBe(false);
    expect(putZoneEdit(one, { ...zone, id: 'z2', col: 2, cols: 3 }).ok).toBe(false);
    const edit = must(putZoneEdit(one, { ...zone, title: 'On air' }));
    const after = done([one], edit)[0];
    expect(after?.kind === 'page' && after.data.zones).toEqual([{ ...zone, title: 'On air' }]);
  });

  it('are copied for another device in one step, with everything in them about the other', () => {
    const made = must(
      copyZoneEdit([one, ...own], one, zone, { from: 'dev-sw1', to: 'dev-sw2' }, 'Program 2', counter(), noDevices),
    );
    const after = done([one, ...own], made.edit);
    const copied = after.filter(
      (each): each is ControlRecord => each.kind === 'control' && each.id.startsWith('ctl-new'),
    );
    expect(copied).toHaveLength(1);
    expect(copied.map(({ data }) => devicesOf(data))).toEqual([['dev-sw2']]);
    const grown = after.find((each): each is PageRecord => each.kind === 'page');
    expect(grown && controlsOfZone(grown, made.zone, copied)).toHaveLength(1);
  });
});

describe('across pages', () => {
  const records = demoShow(4400);
  const documents = new Map([
    ['vision-switcher', switcher],
    ['replay-deck', deck],
  ]);
  const documentFor = (each: DeviceRecord) => documents.get(each.data.driver);

  it('controls are found by label, command, device and parameter', () => {
    const labels = (typed: string) => findControls(records, typed, documentFor).map(({ label }) => label);
    expect(labels('cut')).toContain('Cut');
    expect(labels('r1 play').length).toBeGreaterThan(0);
    expect(labels('nothing like this')).toEqual([]);
    expect(findControls(records, 'cut', documentFor).find(({ label }) => label === 'Cut')?.by).toContain('SW1 Cut');
  });

  it('everything about one device becomes about another, and what that one lacks is told', () => {
    const controls = records.filter((each): each is ControlRecord => each.kind === 'control');
    const other = { ...device('SW2'), id: 'dev-other' };
    const from = records.find((each): each is DeviceRecord => each.kind === 'device' && each.data.tag === 'SW1');
    const made = retargetEdit(controls, from?.id ?? '', other, using(switcher), 'Re-target');
    const after = done([...records, other], made.edit);
    expect(after.some((each) => each.kind === 'control' && devicesOf(each.data).includes(from?.id ?? ''))).toBe(false);
    expect(made).toMatchObject({ lost: [] });
    expect(retargetEdit(controls, from?.id ?? '', other, using(deck), 'Re-target').lost).toContain('cut');
  });

  it('the rig offers starters by purpose and commands, found by words of device, purpose and title', () => {
    const rig = records.filter((each): each is DeviceRecord => each.kind === 'device');
    const offers = offersOf(rig, documentFor, (id) => (id === 'dev-sw1' || id === 'sw1' ? {} : {}));
    expect(searchOffers(offers, 'sw1 cut')[0]).toMatchObject({ title: 'Cut', kind: 'starter' });
    expect(searchOffers(offers, 'sw1 nonsense')).toEqual([]);
    expect(searchOffers(offers, ' ')).toHaveLength(offers.length);
    expect(groupOffers(offers, 'purpose').map(({ title }) => title)).toContain('Change over');
    expect(groupOffers(offers, 'device').some(({ title }) => title.startsWith('SW1 '))).toBe(true);
  });

  it('tints stand for what was written, else for the devices that their controls drive', () => {
    const own = [
      control(0, 0, { tint: 'plum', ...startOf(switcher, 'dev-sw1', 'cut') }),
      control(1, 0, { tint: 'sand' }),
    ];
    const tagOf = (id: string) => (id === 'dev-sw1' ? 'SW1' : undefined);
    expect(legendOf(page('p', 'p').data, own, tagOf)).toEqual([
      { tint: 'sand', text: 'shows only' },
      { tint: 'plum', text: 'SW1' },
    ]);
    const written = { ...page('p', 'p').data, legend: { plum: 'Vision' } };
    expect(legendOf(written, own, tagOf)[1]).toEqual({ tint: 'plum', text: 'Vision' });
  });
});

it('a page grows by a row for a control below its last', () => {
  const edit = addControlEdit(page('p1', 'one'), { col: 0, row: 2 }, control(0, 0).data, 'new', 'Add');
  expect(edit.changes.map((change) => change.op)).toEqual(['update', 'add']);
});

it('a new page comes after the others, with a number when its name is taken', () => {
  const first = addPageEdit([], 'New page', 'p1').page;
  const second = addPageEdit([first], 'New page', 'p2');
  expect(second.page.data).toMatchObject({ name: 'New page 2', order: first.data.order + 1 });
  expect(second.edit.changes).toEqual([{ op: 'add', record: second.page }]);
});

describe('whole pages', () => {
  const records = demoShow(4400);
  const doc: Doc = new Map(records.map((record) => [record.id, record]));
  const pageOf = (name: string) => {
    const found = records.find((record): record is PageRecord => record.kind === 'page' && record.data.name === name);
    if (!found) throw new Error(`no ${name}`);
    return found;
  };
  const names = (of: Doc) =>
    [...of.values()]
      .filter((record): record is PageRecord => record.kind === 'page')
      .sort((a, b) => a.data.order - b.data.order)
      .map(({ data }) => data.name);
  const countOn = (of: Doc, id: string) =>
    [...of.values()].filter((record) => record.kind === 'control' && record.data.page === id).length;
  it('are duplicated with their controls, right after the first, and each is a page of its own', () => {
    const { edit, page: copy } = duplicatePageEdit(records, pageOf('Race'), counter());
    const after = applied(doc, edit);
    expect(after && names(after.doc).slice(0, 3)).toEqual(['Race', 'Race 2', 'Cameras']);
    expect(after && countOn(after.doc, copy.id)).toBe(countOn(doc, 'page-race'));
    expect(after && countOn(after.doc, 'page-race')).toBe(countOn(doc, 'page-race'));
    const zones = [...pageOf('Race').data.zones, ...copy.data.zones].map(({ id }) => id);
    expect(new Set(zones).size).toBe(zones.length);
  });

  it('are put at a place in their order', () => {
    const moved = (all: readonly ShowRecord[], name: string, place: number) => {
      const found = all.find((each) => each.kind === 'page' && each.data.name === name) as PageRecord;
      return names(
        applied(new Map(all.map((each) => [each.id, each])), placePageEdit(all, found, place))?.doc ?? new Map(),
      );
    };
    expect(moved(records, 'Cameras', 0).slice(0, 2)).toEqual(['Cameras', 'Race']);
    expect(moved(records, 'Race', 1).slice(0, 2)).toEqual(['Cameras', 'Race']);
    expect(moved(records, 'Race', 99).at(-1)).toBe('Race');
    // Only the one that moves changes its number, as long as there is one between its neighbours.
    expect(placePageEdit(records, pageOf('Cameras'), 0).changes).toHaveLength(1);
    expect(placePageEdit(records, pageOf('Race'), 0).changes).toEqual([]);
    const tied = [page('a', 'A'), page('b', 'B'), page('c', 'C')];
    expect(moved(tied, 'C', 1)).toEqual(['A', 'C', 'B']);
    expect(moved(tied, 'B', 0)).toEqual(['B', 'A', 'C']);
  });

  it('stands where it was put, whatever numbers the pages had', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 0, max: 3 }), { minLength: 1, maxLength: 6 }),
        fc.nat(),
        fc.nat(),
        (orders, which, to) => {
          const all = orders.map((order, n) => pageRecord(`p${n}`, `P${n}`, { order }));
          const now = pagesOf(all);
          const one = now[which % now.length] as PageRecord;
          const at = to % now.length;
          const after = applied(new Map(all.map((each) => [each.id, each])), placePageEdit(all, one, at))?.doc;
          const wanted = now.filter(({ id }) => id !== one.id).toSpliced(at, 0, one);
          expect(pagesOf([...(after?.values() ?? [])]).map(({ id }) => id)).toEqual(wanted.map(({ id }) => id));
        },
      ),
    );
  });

  it.each([
    ['duplicated', () => duplicatePageEdit(records, pageOf('Race'), counter()).edit],
    ['moved', () => placePageEdit(records, pageOf('Cameras'), 3)],
    ['removed', () => removePageEdit(records, pageOf('Titles'))],
  ])('are as before when what was %s is taken back', (_, make) => {
    const edit = make();
    const there = edit && applied(doc, edit);
    const back = there && applied(there.doc, invertEdit(there.edit));
    expect(back && contentOf(back.doc)).toBe(contentOf(doc));
    expect(there && contentOf(there.doc)).not.toBe(contentOf(doc));
  });
});
