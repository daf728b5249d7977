import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import fc from 'fast-check';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import type { AsRunRow, PageView, RowsView, StatusView } from '../src/core/live';
import type { FinalOutcome, Why } from '../src/core/press';
import type { Scalar } from '../src/core/result';
import {
  ownDevice,
  ownId,
  type Condition,
  type ShowRecord,
  type VariableValue,
  type WatchData,
  type WatchWhen,
} from '../src/core/show';
import { leaveService, putInService } from '../src/store';
import { startFleetRig, type FleetRig } from './support/fleet';
import { controlRecord, macroRecord, pageRecord } from './support/records';
import { onTestFinished, runAsOne, TestClient, until } from './support/rig';

/** Variables and watches in the engine, over real sockets to the stand-ins: what they promise is asserted at the device. */

const variable = (key: string, value: VariableValue, more: object = {}): ShowRecord => ({
  kind: 'variable',
  id: `var-${key}`,
  version: 1,
  data: { name: key.toUpperCase(), key, order: 1, note: '', value, ...more },
});
const watch = (number: number, when: WatchWhen, more: Partial<WatchData> = {}): ShowRecord => ({
  kind: 'watch',
  id: `watch-${number}`,
  version: 1,
  data: {
    name: `Watch ${number}`,
    number,
    order: number,
    note: '',
    when,
    delayMs: 0,
    quietMs: 0,
    mostPerMinute: 60,
    sends: [],
    ...more,
  },
});
const becomesTrue = (condition: Condition, forMs = 0): WatchWhen => ({ is: 'true', condition, forMs });
const is = (device: string, key: string, to: Scalar): Condition => ({ op: 'equals', reading: { device, key }, to });
const tells = (device: string, command: string, params: Record<string, Scalar> = {}) => ({ device, command, params });
const onOff: VariableValue = { type: 'onOff', initial: false };
const number: VariableValue = {
  type: 'number',
  min: 0,
  max: 1000,
  step: 1,
  decimals: 0,
  unit: '',
  wraps: true,
  initial: 0,
};

const records: ShowRecord[] = [
  pageRecord('page', 'Page'),
  controlRecord('cut', { responses: { tap: [tells('dev-SW1', 'cut')] } }),
  controlRecord('lap', { label: [{ text: 'Lap ' }, { reading: { device: ownId, key: 'variable.lap' } }] }),
  macroRecord('aux', [
    { steps: [{ id: 'a', at: 0, does: { is: 'send', send: tells('dev-SW1', 'aux', { aux: 1, input: 7 }) } }] },
  ]),
  macroRecord('long', [
    {
      steps: [
        { id: 'a', at: 0, does: { is: 'send', send: tells('dev-SW1', 'aux', { aux: 2, input: 5 }) } },
        { id: 'b', at: 20_000, does: { is: 'send', send: tells('dev-SW1', 'aux', { aux: 2, input: 6 }) } },
      ],
    },
    {
      part: 'way out',
      steps: [{ id: 'c', at: 0, does: { is: 'send', send: tells('dev-SW1', 'aux', { aux: 2, input: 8 }) } }],
    },
  ]),
  controlRecord('begin', { responses: { tap: [], runs: { macro: 'long', params: {} } } }),
  variable('lap', number),
  variable('door', onOff),
  variable('round', { type: 'choice', choices: ['heat', 'final'], initial: 'heat' }, { resets: true }),
  variable('ping', onOff),
  variable('pong', onOff),
  // The preview follows the program.
  watch(1, becomesTrue(is('dev-SW1', 'program', 3)), { sends: [tells('dev-SW1', 'ready', { input: 5 })] }),
  watch(
    2,
    { is: 'change', reading: { device: 'dev-SW1', key: 'preview' } },
    {
      sends: [tells(ownId, 'stepLap', { by: 1 })],
    },
  ),
  watch(3, becomesTrue(is(ownId, 'variable.door', true)), {
    runs: { macro: 'aux', params: {} },
    presses: 'cut',
    off: true,
  }),
  watch(4, becomesTrue(is(ownId, 'variable.door', true), 300), {
    sends: [tells('dev-SW1', 'ready', { input: 8 })],
    off: true,
  }),
  watch(5, becomesTrue(is(ownId, 'variable.door', true)), {
    unless: is('dev-SW1', 'program', 3),
    once: true,
    sends: [tells('dev-SW1', 'ready', { input: 9 })],
    off: true,
  }),
  // Each sets off the other.
  watch(6, { is: 'change', reading: { device: ownId, key: 'variable.ping' } }, { sends: [tells(ownId, 'switchPong')] }),
  watch(7, { is: 'change', reading: { device: ownId, key: 'variable.pong' } }, { sends: [tells(ownId, 'switchPing')] }),
  watch(8, becomesTrue(is(ownId, 'variable.door', true)), {
    inService: true,
    sends: [tells('dev-SW1', 'ready', { input: 11 })],
  }),
  watch(11, becomesTrue(is('dev-SW1', 'program', 6)), { sends: [tells(ownId, 'stopMacro', { macro: 'long' })] }),
  watch(12, becomesTrue(is('dev-SW1', 'program', 7)), { sends: [tells(ownId, 'leaveMacro', { macro: 'LONG' })] }),
  watch(10, becomesTrue(is(ownId, 'variable.door', true)), {
    mostPerMinute: 600,
    sends: [tells(ownId, 'stepLap', { by: 1 })],
    off: true,
  }),
  watch(9, becomesTrue(is(ownId, 'variable.door', true)), {
    delayMs: 250,
    sends: [tells('dev-SW1', 'ready', { input: 10 })],
    off: true,
  }),
];

let f: FleetRig;
let end: () => Promise<void>;
beforeAll(async () => {
  [f, end] = await runAsOne(() => startFleetRig(['SW1'], records));
  await f.linkIs('SW1', 'up');
});
afterAll(() => end());

let count = 0;
interface Ending {
  readonly outcome: FinalOutcome;
  readonly why: Why;
  readonly reason?: string | undefined;
}
const tell = (command: string, params: Record<string, Scalar> = {}): Promise<Ending> =>
  new Promise((resolve) => {
    f.rig.engine.api.presses.command(
      {
        id: `own-${(count += 1)}-command`,
        gesture: 'tap',
        guard: true,
        who: 'test',
        device: ownDevice,
        command,
        params,
      },
      (report) => {
        if ('sends' in report) resolve(report as Ending);
      },
    );
  });
const own = (key: string) => f.rig.engine.running.readings.fresh(ownId, key);
const becomes = (key: string, value: unknown) =>
  until(
    () => own(key),
    (now) => now === value,
  );
const turn = (watch: number, on: boolean) => tell('switchWatch', { watch, on });
interface SwitcherState {
  readonly program: number;
  readonly preview: number;
  readonly aux: readonly number[];
}
const switcher = async () => (await f.state('SW1')) as unknown as SwitcherState;
const switcherIs = (state: Partial<SwitcherState>) =>
  until(switcher, (now) => Object.entries(state).every(([key, value]) => now[key as keyof SwitcherState] === value));
const aimAt = async (aim: 'live' | 'rehearse') => {
  const desk = await TestClient.open(f.rig.url);
  await desk.follow('status');
  desk.say({ t: 'aim', aim });
  await until(
    () => (desk.topic('status') as StatusView).aim,
    (now) => now === aim,
  );
  desk.close();
  await f.linkIs('SW1', 'up');
};
/** What a watch would have done has had its time. */
const pass = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

beforeEach(async () => {
  for (const each of [3, 4, 5, 9, 10]) await turn(each, false);
  await tell('setDoor', { value: false });
  await f.send('SW1', 'take', { input: 1 });
  await f.send('SW1', 'ready', { input: 2 });
  await switcherIs({ program: 1, preview: 2 });
});

describe('a variable', () => {
  it('is set, counted and switched, and says at once what it is', async () => {
    expect(await tell('setLap', { value: 12 })).toMatchObject({ outcome: 'confirmed' });
    expect(own('variable.lap')).toBe(12);
    await tell('stepLap', { by: -2 });
    expect(own('variable.lap')).toBe(10);
    await tell('switchDoor');
    expect(own('variable.door')).toBe(true);
    await tell('resetLap');
    expect(own('variable.lap')).toBe(0);
  });

  it('refuses what it cannot hold, keeps what it has, and says what it takes', async () => {
    await tell('setLap', { value: 3 });
    expect(await tell('setLap', { value: 1001 })).toMatchObject({ outcome: 'lost' });
    expect(await tell('setRound', { value: 'repechage' })).toMatchObject({ outcome: 'lost' });
    expect(own('variable.lap')).toBe(3);
    expect(own('variable.round')).toBe('heat');
  });

  it('is part of a label on a panel', async () => {
    const panel = await TestClient.open(f.rig.url.replace('/live', '/live?as=panel'));
    onTestFinished(() => panel.close());
    await panel.follow('page:page');
    const label = () => JSON.stringify((panel.topic('page:page') as PageView).faces.lap?.segments ?? []);
    await tell('setLap', { value: 42 });
    await until(label, (text) => text.includes('42'));
  });

  it('outlives the program, unless it begins anew each time', async () => {
    await tell('setLap', { value: 77 });
    await tell('setRound', { value: 'final' });
    await f.rig.restart();
    await f.linkIs('SW1', 'up');
    expect(own('variable.lap')).toBe(77);
    expect(own('variable.round')).toBe('heat');
  });

  it('is as it was before, after a rehearsal', async () => {
    await tell('setLap', { value: 5 });
    await aimAt('rehearse');
    await tell('setLap', { value: 6 });
    expect(own('variable.lap')).toBe(6);
    await aimAt('live');
    await f.linkIs('SW1', 'up');
    expect(own('variable.lap')).toBe(5);
  });
});

describe('a watch', () => {
  it('fires when its condition becomes true at the device, and not while it stays so', async () => {
    const before = Number(own('watch[1].count'));
    await f.send('SW1', 'take', { input: 3 });
    await switcherIs({ preview: 5 });
    await becomes('watch[1].count', before + 1);
    expect(own('watch[1].why')).toContain('SW1 Program');
    await f.send('SW1', 'ready', { input: 6 });
    await f.send('SW1', 'take', { input: 3 });
    await pass(100);
    expect(await switcher()).toMatchObject({ preview: 6 });
  });

  it('sees every report, also of those that come together', async () => {
    const before = Number(own('watch[1].count'));
    const { readings } = f.rig.engine.running;
    // Without a turn of events in between, as when both are in one packet.
    for (const input of [3, 1, 3, 1]) readings.report('dev-SW1', [{ key: 'program', value: input }], Date.now());
    await becomes('watch[1].count', before + 2);
    await switcherIs({ preview: 5 });
  });

  it('fires with each change of a reading', async () => {
    await tell('setLap', { value: 0 });
    for (const input of [4, 5, 5, 6]) await f.send('SW1', 'ready', { input });
    await becomes('variable.lap', 3);
  });

  it('begins a macro and presses a control, each in the as-run with the watch as its hand', async () => {
    await turn(3, true);
    await tell('setDoor', { value: true });
    await until(switcher, ({ aux, program }) => aux[0] === 7 && program === 2);
    const desk = await TestClient.open(f.rig.url);
    onTestFinished(() => desk.close());
    await desk.follow('as-run');
    const rows = () => (desk.topic('as-run') as RowsView<AsRunRow>).rows;
    await until(rows, (all) => all.filter((row) => row.kind === 'press' && row.who === 'watch Watch 3').length >= 2);
    expect(
      rows().find((row) => row.kind === 'press' && row.page === 'Watch' && row.who === 'watch Watch 3'),
    ).toMatchObject({
      label: expect.stringContaining('SHOW DOOR: on') as string,
      outcome: 'confirmed',
    });
  });

  it('stops a macro, or has it leave by its way out, whose running is a reading', async () => {
    const runs = () => {
      const { readings } = f.rig.engine.api.readings('SHOW') ?? { readings: [] };
      const n = readings.find(({ key, value }) => key.startsWith('macro[') && value === 'long')?.key.slice(6, -6);
      return own(`macro[${n}].running`);
    };
    const is = (wanted: boolean) => until(runs, (now) => now === wanted);
    const begin = () =>
      f.rig.engine.api.presses.press(
        {
          id: `begin-${(count += 1)}`,
          page: 'page',
          control: 'begin',
          gesture: 'tap',
          guard: true,
          alone: true,
          who: 'test',
        },
        () => undefined,
      );
    const aux2 = (input: number) => until(switcher, ({ aux }) => aux[1] === input);
    for (const [program, after] of [
      [6, 5],
      [7, 8],
    ] as const) {
      begin();
      await is(true);
      await aux2(5);
      await f.send('SW1', 'take', { input: program });
      await is(false);
      await aux2(after);
    }
    expect(await tell('stopMacro', { macro: 'long' })).toMatchObject({ outcome: 'confirmed', why: 'already-so' });
    expect(await tell('stopMacro', { macro: 'gone' })).toMatchObject({ outcome: 'lost', why: 'missing' });
  });

  it('waits until what it waits for has lasted, and begins anew when it has not', async () => {
    await turn(4, true);
    await tell('setDoor', { value: true });
    await pass(150);
    await tell('setDoor', { value: false });
    await pass(300);
    expect(await switcher()).toMatchObject({ preview: 2 });
    const from = performance.now();
    await tell('setDoor', { value: true });
    await switcherIs({ preview: 8 });
    expect(performance.now() - from).toBeGreaterThanOrEqual(299);
  });

  it('is kept from firing by its exception, and fires once', async () => {
    await turn(5, true);
    await f.send('SW1', 'take', { input: 3 });
    await switcherIs({ preview: 5 });
    await tell('setDoor', { value: true });
    await becomes('watch[5].why', 'SHOW DOOR: on. Its exception is true.');
    await f.send('SW1', 'take', { input: 1 });
    await tell('setDoor', { value: false });
    await tell('setDoor', { value: true });
    await switcherIs({ preview: 9 });
    await becomes('watch[5].state', 'spent');
    await f.send('SW1', 'ready', { input: 2 });
    await tell('setDoor', { value: false });
    await tell('setDoor', { value: true });
    await pass(100);
    expect(await switcher()).toMatchObject({ preview: 2 });
    await turn(5, true);
    await becomes('watch[5].state', 'on');
  });

  it('acts after its delay, and not when it is switched off meanwhile', async () => {
    await turn(9, true);
    const from = performance.now();
    await tell('setDoor', { value: true });
    await switcherIs({ preview: 10 });
    expect(performance.now() - from).toBeGreaterThanOrEqual(249);
    await f.send('SW1', 'ready', { input: 2 });
    await tell('setDoor', { value: false });
    await tell('setDoor', { value: true });
    await turn(9, false);
    await pass(350);
    expect(await switcher()).toMatchObject({ preview: 2 });
  });

  it('that sets itself off through another is stopped, told once, and the program goes on', async () => {
    await tell('switchPing');
    await until(
      () => [own('watch[6].state'), own('watch[7].state')],
      (states) => states.includes('stopped'),
    );
    expect(Number(own('watch[6].count'))).toBeLessThanOrEqual(11);
    expect(await f.send('SW1', 'ready', { input: 4 })).toMatchObject({ outcome: 'confirmed' });
    expect([own('watch[6].why'), own('watch[7].why')].join()).toContain('It may set itself off');
  });

  it('that acts only in service does nothing before', async () => {
    await tell('setDoor', { value: true });
    await pass(100);
    expect(await switcher()).toMatchObject({ preview: 2 });
    expect(own('watch[8].state')).toBe('waiting');
  });

  it('that acts only in service fires once the show is', async () => {
    putInService(f.rig.db, '', Date.now());
    await f.rig.engine.onShowChanged();
    await becomes('watch[8].state', 'on');
    await tell('setDoor', { value: true });
    await switcherIs({ preview: 11 });
    leaveService(f.rig.db);
    await f.rig.engine.onShowChanged();
    await becomes('watch[8].state', 'waiting');
  });

  it('is fired by hand, also while it is off', async () => {
    expect(await tell('fireWatch', { watch: 5 })).toMatchObject({ outcome: 'confirmed' });
    await switcherIs({ preview: 9 });
    expect(await tell('fireWatch', { watch: 99 })).toMatchObject({ outcome: 'lost', why: 'missing' });
  });

  it('sets nothing off by what is true when the program starts, a device comes back, or a rehearsal ends', async () => {
    await f.send('SW1', 'take', { input: 3 });
    await switcherIs({ preview: 5 });
    await f.send('SW1', 'ready', { input: 2 });
    await f.operate('SW1', 'drop');
    await f.linkIs('SW1', 'up');
    await f.rig.restart();
    await f.linkIs('SW1', 'up');
    await aimAt('rehearse');
    await aimAt('live');
    await f.linkIs('SW1', 'up');
    await pass(200);
    expect(await switcher()).toMatchObject({ program: 3, preview: 2 });
  });

  it('is not set off by a variable that is put back after a rehearsal', async () => {
    await turn(10, true);
    await tell('setDoor', { value: true });
    await tell('setLap', { value: 5 });
    await aimAt('rehearse');
    await tell('setDoor', { value: false });
    await aimAt('live');
    await pass(50);
    expect([own('variable.door'), own('variable.lap')]).toEqual([true, 5]);
  });

  it('stays as a panel has switched it, also when the edit of the desk that switched it otherwise before comes late', async () => {
    const record = (off: boolean) => watch(77, becomesTrue(is('dev-SW1', 'program', 12)), off ? { off } : {});
    const edit = async (from: boolean, to: boolean) => {
      f.rig.edit({ title: 'Switch', changes: [{ op: 'update', from: record(from), to: record(to) }] } as never);
      await f.rig.engine.onShowChanged();
    };
    f.rig.edit({ title: 'Add', changes: [{ op: 'add', record: record(false) }] });
    await becomes('watch[77].state', 'on');
    // The desk switches it off, which is a command and an edit; a panel is between them.
    await turn(77, false);
    await turn(77, true);
    await edit(false, true);
    expect(own('watch[77].state')).toBe('on');
    f.rig.edit({ title: 'Remove', changes: [{ op: 'remove', record: { ...record(true), version: 2 } }] });
  });

  it('is switched by an edit alone, as by an undo', async () => {
    const [on, off] = [{}, { off: true as const }].map((more) =>
      watch(78, becomesTrue(is('dev-SW1', 'program', 12)), more),
    ) as [ShowRecord, ShowRecord];
    f.rig.edit({ title: 'Add', changes: [{ op: 'add', record: on }] });
    await becomes('watch[78].state', 'on');
    f.rig.edit({ title: 'Off', changes: [{ op: 'update', from: on, to: off }] } as never);
    await becomes('watch[78].state', 'off');
    f.rig.edit({ title: 'On', changes: [{ op: 'update', from: { ...off, version: 2 }, to: on }] } as never);
    await becomes('watch[78].state', 'on');
    f.rig.edit({ title: 'Remove', changes: [{ op: 'remove', record: { ...on, version: 3 } }] });
  });

  it('stays switched as it was over a restart of the program', async () => {
    await turn(9, true);
    await turn(1, false);
    await f.rig.restart();
    await f.linkIs('SW1', 'up');
    expect(own('watch[9].state')).toBe('on');
    expect(own('watch[1].state')).toBe('off');
    await turn(1, true);
  });
});

describe('a show at random', () => {
  /** What is promised of a watch that counts how often a door opens, in a few lines. */
  interface Model {
    door: boolean;
    lap: number;
    isOn: boolean;
    usual: { readonly door: boolean; readonly lap: number } | undefined;
  }
  type Op = 'open' | 'shut' | 'on' | 'off' | 'restart' | 'rehearse' | 'live' | 'reset';

  const inModel = (model: Model, op: Op): void => {
    switch (op) {
      case 'open':
      case 'shut': {
        const isOpen = op === 'open';
        if (isOpen && !model.door && model.isOn) model.lap += 1;
        model.door = isOpen;
        return;
      }
      case 'on':
      case 'off':
        model.isOn = op === 'on';
        return;
      case 'reset':
        model.lap = 0;
        return;
      case 'rehearse':
        model.usual ??= { door: model.door, lap: model.lap };
        return;
      case 'live':
      case 'restart':
        if (model.usual) Object.assign(model, model.usual);
        model.usual = undefined;
    }
  };
  const atEngine = async (op: Op, model: Model): Promise<void> => {
    switch (op) {
      case 'open':
      case 'shut':
        return void (await tell('setDoor', { value: op === 'open' }));
      case 'on':
      case 'off':
        return void (await turn(10, op === 'on'));
      case 'reset':
        return void (await tell('resetLap'));
      case 'rehearse':
      case 'live':
        return aimAt(op);
      case 'restart':
        // A rehearsal that is cut off leaves the aim dry: it is ended first.
        if (model.usual) await aimAt('live');
        await f.rig.restart();
        return f.linkIs('SW1', 'up');
    }
  };

  it.each([12, 13, 14])(
    'counts exactly what a model of it counts, whatever happens in between (seed %i)',
    async (seed) => {
      await aimAt('live');
      await tell('setDoor', { value: false });
      await tell('resetLap');
      await turn(1, false);
      await turn(2, false);
      await turn(10, true);
      const model: Model = { door: false, lap: 0, isOn: true, usual: undefined };
      const op = fc.oneof(
        { weight: 6, arbitrary: fc.constantFrom<Op>('open', 'shut') },
        { weight: 2, arbitrary: fc.constantFrom<Op>('on', 'off') },
        { weight: 2, arbitrary: fc.constantFrom<Op>('restart', 'rehearse', 'live', 'reset') },
      );
      const [ops = []] = fc.sample(fc.noBias(fc.array(op, { minLength: 80, maxLength: 80 })), { seed, numRuns: 1 });
      let firings = 0;
      const done: Op[] = [];
      for (const each of ops) {
        done.push(each);
        const { lap } = model;
        await atEngine(each, model);
        inModel(model, each);
        if (model.lap > lap) firings += 1;
        // What it set off has had its turn; and ten firings within two seconds would stop the watch.
        await pass(model.lap > lap ? 210 : 5);
        expect({ lap: own('variable.lap'), door: own('variable.door') }, done.slice(-6).join(', ')).toEqual({
          lap: model.lap,
          door: model.door,
        });
      }
      expect(new Set(ops).size).toBe(8);
      expect(firings).toBeGreaterThan(4);
      await aimAt('live');
      for (const each of [1, 2]) await turn(each, true);
    },
  );
});

describe('a watch with a time', () => {
  const inZone = (ms: number) => {
    const text = new Date(ms).toLocaleString('sv-SE', { timeZone: 'Asia/Tokyo' });
    return { date: text.slice(0, 10), time: text.slice(11, 19) };
  };

  it('fires at its time in the zone of the show, says the next one, and makes up for what it missed', async () => {
    const show: ShowRecord = {
      kind: 'show',
      id: 'show',
      version: 1,
      data: { name: 'Times', note: '', zone: 'Asia/Tokyo' },
    };
    const soon = Math.ceil(Date.now() / 1000) * 1000 + 2000;
    const past = inZone(Date.now() - 60_000);
    const fleet = await startFleetRig(
      ['SW1'],
      [
        show,
        watch(
          1,
          { is: 'time', schedule: { is: 'once', ...inZone(soon) } },
          { sends: [tells('dev-SW1', 'ready', { input: 6 })] },
        ),
        watch(
          2,
          { is: 'time', schedule: { is: 'daily', time: past.time }, lateS: 300 },
          { sends: [tells('dev-SW1', 'aux', { aux: 1, input: 8 })] },
        ),
        watch(
          3,
          { is: 'time', schedule: { is: 'daily', time: past.time } },
          { sends: [tells('dev-SW1', 'aux', { aux: 2, input: 8 })] },
        ),
      ],
    );
    await fleet.linkIs('SW1', 'up');
    const state = async () => (await fleet.state('SW1')) as unknown as SwitcherState;
    const at = await until(
      async () => ((await state()).preview === 6 ? Date.now() : 0),
      (found) => found > 0,
    );
    expect(at).toBeGreaterThanOrEqual(soon);
    const read = (key: string) => fleet.rig.engine.running.readings.fresh(ownId, key);
    expect(read('watch[1].next')).toBe('');
    expect(String(read('watch[2].next'))).toMatch(/^\d{4}-\d\d-\d\d \d\d:\d\d:\d\d$/);
    expect(Number(read('watch[2].left'))).toBeGreaterThan(80_000);
    expect((await state()).aux.slice(0, 2)).not.toContain(8);
    await fleet.rig.crash();
    // The program was away for two minutes.
    writeFileSync(
      join(fleet.rig.dataDir, 'watches.json'),
      JSON.stringify({ seenAt: Date.now() - 120_000, watches: {} }),
    );
    await fleet.rig.revive();
    await until(state, ({ aux }) => aux[0] === 8, 12_000);
    await pass(200);
    expect((await state()).aux[1]).not.toBe(8);
  });
});
