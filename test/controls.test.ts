import { describe, expect, it } from 'vitest';
import type { FaceView, PageView } from '../src/core/live';
import type { ControlRecord, ShowRecord } from '../src/core/show';
import { startFleetRig, type FleetRig } from './support/fleet';
import { controlRecord } from './support/records';
import { runAsOne, TestClient, until } from './support/rig';
import { afterAll, beforeAll } from 'vitest';

/** Controls that are not buttons, responses of several commands, shift levels, picks and trials: over real sockets to the stand-ins. */

type Data = ControlRecord['data'];

const control = (id: string, col: number, data: Partial<Data>): ControlRecord => controlRecord(id, { col, ...data });

const level = { device: 'dev-A1', key: 'strip[$strip].level' };
const fader: Data['range'] = {
  send: { device: 'dev-A1', command: 'level', params: { strip: { value: 'strip' } } },
  param: 'level',
  reading: level,
  min: -60,
  max: 10,
};
const records: ShowRecord[] = [
  {
    kind: 'page',
    id: 'page',
    version: 1,
    data: {
      name: 'Mixed',
      order: 1,
      columns: 8,
      rows: 1,
      note: '',
      shifts: [{ id: 's1', name: 'second' }],
      // As older shows have it.
      ...({ calledBy: { reading: { device: 'dev-SW1', key: 'preview' }, is: 5 } } as object),
      zones: [
        {
          id: 'zone',
          title: 'Camera',
          col: 4,
          row: 0,
          cols: 2,
          rows: 1,
          pick: { devices: ['dev-C1', 'dev-C4'], follow: [{ device: 'dev-SW1', key: 'preview' }] },
        },
      ],
    },
  },
  control('fader', 0, { type: 'fader', values: { strip: 3 }, range: fader }),
  control('stick', 1, { type: 'stick', drive: { device: 'dev-C1', drive: 'head' } }),
  control('clips', 2, { type: 'list', list: { device: 'dev-R1', list: 'clips', form: 'small' } }),
  control('two', 3, {
    responses: {
      tap: [
        { device: 'dev-SW1', command: 'take', params: { input: 2 } },
        { device: 'dev-SW1', command: 'take', params: { input: 3 }, waitMs: 300 },
      ],
    },
  }),
  control('focus', 4, {
    responses: { tap: [{ device: 'dev-C1', command: 'autoFocus', params: { on: false } }] },
    lamps: [{ when: { op: 'equals', reading: { device: 'dev-C1', key: 'autoFocus' }, to: true }, show: 'active' }],
  }),
  control('level', 6, {
    values: { input: 6 },
    responses: { tap: [{ device: 'dev-SW1', command: 'ready', params: { input: { value: 'input' } } }] },
    shifts: { s1: { label: [{ text: 'other' }], values: { input: 7 } } },
  }),
  control('barred', 7, {
    values: { input: 8 },
    responses: { tap: [{ device: 'dev-SW1', command: 'take', params: { input: { value: 'input' } } }] },
    lamps: [
      {
        when: { lasting: { op: 'equals', reading: { device: 'dev-SW1', key: 'program' }, to: 4 }, forMs: 300 },
        show: 'warning',
        blink: true,
        label: [{ text: 'Wait' }],
      },
      { when: { cel: 'r0 == 5 || r0 == 6', readings: [{ device: 'dev-SW1', key: 'program' }] }, bars: true },
      { when: { op: 'changed', reading: { device: 'dev-SW1', key: 'program' }, withinMs: 400 }, icon: 'sun' },
    ],
  }),
  { kind: 'tie', id: 'tie-1', version: 1, data: { source: 'dev-C1', switcher: 'dev-SW1', input: 1 } },
  { kind: 'tie', id: 'tie-4', version: 1, data: { source: 'dev-C4', switcher: 'dev-SW1', input: 4 } },
];

let f: FleetRig;
let end: () => Promise<void>;
beforeAll(async () => {
  [f, end] = await runAsOne(() => startFleetRig(['SW1', 'C1', 'C4', 'A1', 'R1'], records));
  for (const tag of ['SW1', 'C1', 'C4', 'A1', 'R1']) await f.linkIs(tag, 'up');
});
afterAll(() => end());

let count = 0;
const newId = () => `turn-${(count += 1)}-control`;
const reading = (tag: string, key: string, value: unknown) =>
  until(
    () => f.reading(tag, key),
    (now) => now === value,
  );
const faceOf = (view: PageView, id: string): FaceView => {
  const face = view.faces[id];
  if (!face) throw new Error(`no face of ${id}`);
  return face;
};
const textOf = (view: PageView, id: string) =>
  faceOf(view, id)
    .segments.map(({ text }) => text)
    .join('');

describe('a fader', () => {
  it('shows where the device stands, and sets it; the last value always arrives', async () => {
    const id = newId();
    for (let x = -50; x <= -10; x += 1) f.client.say({ t: 'turn', id, page: 'page', control: 'fader', x });
    f.client.say({ t: 'turn', id, page: 'page', control: 'fader', x: -7.5 });
    f.client.say({ t: 'release', id });
    await reading('A1', 'strip[3].level', -7.5);
    const { outcome } = await f.client.outcome(id);
    expect(['confirmed', 'sent']).toContain(outcome);
    const view = await f.client.follow<PageView>('page:page');
    expect(faceOf(view, 'fader').range).toMatchObject({ value: -7.5 });
    expect(view.controls.fader?.range).toEqual({ min: -60, max: 10, step: 0.1, unit: 'dB', tick: 0.7, quicken: 1 });
  });

  it('keeps within its own range', async () => {
    const id = newId();
    f.client.say({ t: 'turn', id, page: 'page', control: 'fader', x: 999 });
    f.client.say({ t: 'release', id });
    await reading('A1', 'strip[3].level', 10);
  });

  it('that is not there any more is refused', async () => {
    const id = newId();
    f.client.say({ t: 'turn', id, page: 'page', control: 'gone', x: 0 });
    expect(await f.client.outcome(id)).toMatchObject({ outcome: 'lost' });
  });
});

describe('a stick', () => {
  const moving = (is: boolean) =>
    until(
      async () => ((await f.state('C1')) as unknown as { moving: boolean }).moving,
      (now) => now === is,
    );
  const off = (x: number, y = 0) => {
    const id = newId();
    f.client.say({ t: 'turn', id, page: 'page', control: 'stick', x, y });
    const timer = setInterval(() => f.client.say({ t: 'still', id }), 200);
    return { id, done: () => clearInterval(timer) };
  };

  it('moves the camera until it is let go', async () => {
    const { id, done } = off(0.6);
    await moving(true);
    f.client.say({ t: 'release', id });
    await moving(false);
    done();
  });

  it('stops in the middle, and moves on when it is pushed again', async () => {
    const { id, done } = off(0, -0.9);
    await moving(true);
    f.client.say({ t: 'turn', id, page: 'page', control: 'stick', x: 0.02, y: 0 });
    await moving(false);
    f.client.say({ t: 'turn', id, page: 'page', control: 'stick', x: -0.9, y: 0 });
    await moving(true);
    f.client.say({ t: 'release', id });
    await moving(false);
    done();
  });

  it('stops when its panel is gone', async () => {
    const panel = await TestClient.open(f.rig.url);
    panel.say({ t: 'turn', id: newId(), page: 'page', control: 'stick', x: 1, y: 1 });
    await moving(true);
    panel.close();
    await moving(false);
  });

  it('stops when nobody says any more that it is held', async () => {
    f.client.say({ t: 'turn', id: newId(), page: 'page', control: 'stick', x: 1, y: 0 });
    await moving(true);
    await moving(false);
  });
});

describe('a list', () => {
  it('shows what the device lists, and acts on an item', async () => {
    const view = await f.client.follow<PageView>('page:page');
    const items = faceOf(view, 'clips').items ?? [];
    expect(items.length).toBeGreaterThan(5);
    expect(items[0]?.texts).toHaveLength(1);
    expect(view.controls.clips?.list?.acts.map(({ title, item, ask }) => [title, item, ask])).toEqual([
      ['Load', true, undefined],
      ['Play', false, undefined],
      ['Stop', false, undefined],
      ['Jump', false, 'Time'],
    ]);
    const id = newId();
    f.client.say({ t: 'choose', id, page: 'page', control: 'clips', act: 0, index: 4 });
    expect(await f.client.outcome(id)).toMatchObject({ outcome: 'confirmed' });
    await reading('R1', 'loaded', 4);
    await until(
      async () => faceOf(await f.client.follow<PageView>('page:page'), 'clips').items,
      (now) => now?.find(({ index }) => index === 4)?.mark === 'current',
    );
  });

  it('takes what was asked for, and says what does not fit', async () => {
    const jump = (given?: string | number) => {
      const id = newId();
      f.client.say({
        t: 'choose',
        id,
        page: 'page',
        control: 'clips',
        act: 3,
        ...(given === undefined ? {} : { given }),
      });
      return f.client.outcome(id);
    };
    expect(await jump(2)).toMatchObject({ outcome: 'confirmed' });
    expect(await jump('soon')).toMatchObject({ outcome: 'lost', reason: 'Time expects a time in seconds.' });
    expect(await jump()).toMatchObject({ outcome: 'lost' });
  });

  it('says so when an act needs an item and none is chosen', async () => {
    const id = newId();
    f.client.say({ t: 'choose', id, page: 'page', control: 'clips', act: 0 });
    expect((await f.client.outcome(id)).reason).toContain('Choose an item first');
  });
});

it('a response of two commands waits between them, and ends when both have', async () => {
  const startedAt = performance.now();
  const done = f.client.press('page', 'two');
  await reading('SW1', 'program', 2);
  const firstAt = performance.now() - startedAt;
  await reading('SW1', 'program', 3);
  expect(performance.now() - startedAt - firstAt).toBeGreaterThan(150);
  expect(await done).toMatchObject({ outcome: 'confirmed' });
});

describe('a trial', () => {
  const trial = (data: Partial<Data>, aim: 'dry' | 'live') => {
    const id = newId();
    f.client.say({ t: 'trial', id, control: control('x', 0, data).data, gesture: 'tap', aim });
    return f.client.outcome(id);
  };
  const cut: Partial<Data> = { responses: { tap: [{ device: 'dev-SW1', command: 'take', params: { input: 8 } }] } };

  it('of a control that is not stored says what would be sent, and sends nothing when dry', async () => {
    const before = f.reading('SW1', 'program');
    expect(await trial(cut, 'dry')).toMatchObject({
      outcome: 'skipped',
      tried: [{ device: 'SW1', command: 'Take to program', outcome: 'skipped' }],
    });
    expect(f.reading('SW1', 'program')).toBe(before);
  });

  it('goes to the device when it aims live', async () => {
    expect(await trial(cut, 'live')).toMatchObject({ outcome: 'confirmed', tried: [{ outcome: 'confirmed' }] });
    await reading('SW1', 'program', 8);
  });

  it('is the desk’s alone', async () => {
    const panel = await TestClient.open(f.rig.url.replace('/live', '/live?as=panel'));
    const id = newId();
    panel.say({ t: 'trial', id, control: control('x', 0, cut).data, gesture: 'tap', aim: 'live' });
    expect(await panel.outcome(id)).toMatchObject({ outcome: 'lost', reason: 'Only the desk can try controls.' });
  });
});

describe('a shift level', () => {
  it('has faces and responses of its own, beside the usual ones', async () => {
    const usual = await f.client.follow<PageView>('page:page');
    const second = await f.client.follow<PageView>('page:page;shift=s1');
    expect([textOf(usual, 'level'), textOf(second, 'level')]).toEqual(['level', 'other']);
    expect(textOf(second, 'two')).toBe('two');
    const id = newId();
    f.client.say({ t: 'press', id, page: 'page', control: 'level', gesture: 'tap', context: 'page;shift=s1' });
    await f.client.outcome(id);
    await reading('SW1', 'preview', 7);
    await f.client.press('page', 'level');
    await reading('SW1', 'preview', 6);
  });
});

describe('a zone with a pick', () => {
  const zoneNow = async (topic: string) => (await f.client.follow<PageView>(topic)).layout.zones[0]?.pick?.now;

  it('drives what was picked, and its controls show that device', async () => {
    const picked = 'page;zone=dev-C4';
    await f.client.follow<PageView>(`page:${picked}`);
    const id = newId();
    f.client.say({ t: 'press', id, page: 'page', control: 'focus', gesture: 'tap', context: picked });
    await f.client.outcome(id);
    await reading('C4', 'autoFocus', false);
    expect(f.reading('C1', 'autoFocus')).toBe(true);
    expect(faceOf(await f.client.follow<PageView>(`page:${picked}`), 'focus').lamp.show).toBe('off');
    expect(faceOf(await f.client.follow<PageView>('page:page;zone=dev-C1'), 'focus').lamp.show).toBe('active');
  });

  it('follows a reading through the ties, and tells open panels', async () => {
    await f.send('SW1', 'ready', { input: 4 });
    await until(
      () => zoneNow('page:page'),
      (now) => now === 'dev-C4',
    );
    const panel = await TestClient.open(f.rig.url);
    await panel.follow<PageView>('page:page');
    const from = panel.got.length;
    await f.send('SW1', 'ready', { input: 1 });
    const news = await panel.next((message) => {
      if (message.t !== 'diff' || message.topic !== 'page:page') return false;
      const { layout } = message.data as { layout?: PageView['layout'] };
      return layout?.zones[0]?.pick?.now === 'dev-C1';
    }, from);
    const { faces } = (news as { data: { faces: { put: Record<string, FaceView> } } }).data;
    expect(Object.keys(faces.put)).toEqual(['focus']);
  });

  it('keeps what was picked although the reading goes on', async () => {
    await f.send('SW1', 'ready', { input: 1 });
    expect(await zoneNow('page:page;zone=dev-C4')).toBe('dev-C4');
  });
});

it('a reading calls for a page, and lets it go', async () => {
  const panel = await TestClient.open(f.rig.url.replace('/live', '/live?as=panel'));
  await panel.follow('status');
  const called = (page: string | null, from: number) =>
    panel.next(
      (message) =>
        message.t === 'diff' &&
        message.topic === 'status' &&
        (message.data as { called?: { now: readonly string[] } }).called?.now.join() === (page ?? ''),
      from,
    );
  let from = panel.got.length;
  await f.send('SW1', 'ready', { input: 5 });
  await called('page', from);
  from = panel.got.length;
  await f.send('SW1', 'ready', { input: 2 });
  await called(null, from);
});

describe('rules', () => {
  const face = (is: (face: FaceView) => boolean) =>
    until(async () => faceOf(await f.client.follow<PageView>('page:page'), 'barred'), is);
  const take = (input: number) => f.operate('SW1', 'operate', { verb: 'take', input });

  it('come true when their time has come, without another report, and stop being so at the next', async () => {
    await take(4);
    const startedAt = performance.now();
    await face(({ icon }) => icon === 'sun');
    const lit = await face(({ lamp }) => lamp.show === 'warning');
    expect(performance.now() - startedAt).toBeGreaterThan(250);
    expect(lit).toMatchObject({ lamp: { blink: true, word: 'WARNING' }, segments: [{ text: 'Wait' }] });
    await face(({ icon }) => icon === undefined);
    await take(3);
    const off = await face(({ lamp }) => lamp.show === 'off');
    expect(off.segments).toEqual([{ text: 'barred' }]);
  });

  it('bar a control: a press sends nothing, says why, and is recorded', async () => {
    await take(5);
    await face(({ barred }) => barred === true);
    const id = newId();
    f.client.say({ t: 'press', id, page: 'page', control: 'barred', gesture: 'tap' });
    expect(await f.client.outcome(id)).toMatchObject({ outcome: 'skipped', reason: 'One of its rules bars it now.' });
    expect(f.reading('SW1', 'program')).toBe(5);
    await take(3);
    await face(({ barred }) => barred === undefined);
    const again = newId();
    f.client.say({ t: 'press', id: again, page: 'page', control: 'barred', gesture: 'tap' });
    expect(await f.client.outcome(again)).toMatchObject({ outcome: 'confirmed' });
    expect(f.reading('SW1', 'program')).toBe(8);
  });

  it('bar a control also for those who have not opened its page', async () => {
    await take(6);
    await reading('SW1', 'program', 6);
    f.client.say({ t: 'unsub', topics: ['page:page'] });
    const other = await TestClient.open(f.rig.url);
    const id = newId();
    other.say({ t: 'press', id, page: 'page', control: 'barred', gesture: 'tap' });
    expect(await other.outcome(id)).toMatchObject({ outcome: 'skipped' });
  });
});
