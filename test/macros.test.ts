import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type {
  AsRunRow,
  LinkedView,
  MacroRunsView,
  PastRun,
  RowsView,
  RunsView,
  ScreenAct,
  ServerMessage,
  StatusView,
} from '../src/core/live';
import type { Scalar } from '../src/core/result';
import type { MacroStep, ShowRecord } from '../src/core/show';
import { startFleetRig, type FleetRig } from './support/fleet';
import { controlRecord, macroRecord as macro } from './support/records';
import { runAsOne, TestClient, until } from './support/rig';

/** Macros in the engine: on time, waited for, cancelled, begun twice, and cut off; over real sockets to the stand-ins. */

const send = (device: string, command: string, params: Record<string, string | number | boolean | object> = {}) =>
  ({ device: `dev-${device}`, command, params }) as never;
const step = (id: string, at: number, does: MacroStep['does'], more: Partial<MacroStep> = {}): MacroStep => ({
  id,
  at,
  does,
  ...more,
});
const take = (input: number | object) => ({ is: 'send', send: send('SW1', 'take', { input }) }) as MacroStep['does'];
const program = { device: 'dev-SW1', key: 'program' };

const records: ShowRecord[] = [
  {
    kind: 'page',
    id: 'page',
    version: 1,
    data: { name: 'Macros', order: 1, columns: 4, rows: 1, note: '', zones: [] },
  },
  macro('steps', [{ steps: Array.from({ length: 20 }, (_, n) => step(`t${n}`, n * 40, take((n % 6) + 1))) }]),
  macro(
    'given',
    [
      {
        steps: [
          step('a', 0, take({ value: 'input' })),
          step('b', 60, { is: 'send', send: send('SW1', 'ready', { input: { reading: program } }) }),
        ],
      },
    ],
    {
      params: [{ name: 'input', title: 'Input', value: 5 }],
    },
  ),
  macro('waits', [
    { steps: [step('a', 0, take(1))] },
    {
      waits: { until: { op: 'equals', reading: program, to: 4 }, mostMs: 5000, otherwise: 'stop' },
      steps: [step('b', 100, { is: 'send', send: send('SW1', 'ready', { input: 9 }) })],
    },
  ]),
  macro('long', [
    { steps: [step('a', 0, take(2)), step('b', 4000, take(3))] },
    { part: 'way out', steps: [step('out', 0, take(12))] },
  ]),
  macro(
    'down',
    [
      { steps: [step('a', 0, take(2)), step('z', 5000, { is: 'send', send: send('R1', 'play', {}) })] },
      { part: 'way out', steps: [step('out', 0, take(11))] },
    ],
    {
      whenDown: 'way out',
    },
  ),
  macro('again', [{ steps: [step('a', 0, take(2)), step('b', 300, take(3))] }], { again: 'restart' }),
  macro('queued', [{ steps: [step('a', 0, take(2)), step('b', 200, take(3))] }], { again: 'queue' }),
  macro('red', [{ steps: [step('a', 0, take(2)), step('b', 3000, take(3))] }], { group: 'Openings' }),
  macro('blue', [{ steps: [step('a', 0, take(4)), step('b', 200, take(5))] }], { group: 'openings' }),
  macro('green', [{ steps: [step('a', 0, { is: 'macro', macro: 'blue', params: {} })] }], { group: 'Openings' }),
  macro('horn', [
    { steps: [step('a', 0, { is: 'pulse', on: send('G1', 'horn'), off: send('G1', 'hornOff'), forMs: 300 })] },
  ]),
  macro('outer', [
    {
      steps: [
        step('a', 0, { is: 'macro', macro: 'again', params: {} }),
        step('n', 10, { is: 'note', text: 'Stand by' }),
        step('p', 20, { is: 'page', page: 'page' }),
      ],
    },
  ]),
  macro('shown', [
    {
      steps: [
        step('s', 0, { is: 'shift', page: 'page', shift: 'rain' }),
        step('d', 0, { is: 'pick', page: 'page', zone: 'steer', device: 'dev-SW1' }),
        step('b', 0, { is: 'brightness', percent: 40 }),
        step('u', 50, { is: 'shift', panel: 'linked', page: 'page' }),
      ],
    },
  ]),
  {
    kind: 'panel',
    id: 'linked',
    version: 1,
    data: { name: 'Linked', path: 'linked', order: 1, pages: [], hidden: [], brightness: 100, linked: true },
  },
  {
    kind: 'watch',
    id: 'watch-timecode',
    version: 1,
    data: {
      name: 'At two seconds of the clip',
      number: 1,
      order: 1,
      note: '',
      when: {
        is: 'true',
        condition: { op: 'above', reading: { device: 'dev-R1', key: 'time' }, to: 2 },
        forMs: 0,
      },
      delayMs: 0,
      quietMs: 0,
      mostPerMinute: 60,
      sends: [],
      runs: { macro: 'blue', params: {} },
    },
  },
  macro('ring', [{ steps: [step('a', 0, { is: 'macro', macro: 'ring2', params: {} })] }]),
  macro('ring2', [{ steps: [step('a', 0, { is: 'macro', macro: 'ring', params: {} })] }]),
  macro('chain', [{ steps: [step('a', 0, { is: 'macro', macro: 'again', params: {} })] }]),
  macro('empty', [{}]),
  controlRecord('go', {
    responses: { tap: [], runs: { macro: 'given', params: { input: { value: 'input' } } } },
    values: { input: 6 },
  }),
];

let f: FleetRig;
let end: () => Promise<void>;
beforeAll(async () => {
  [f, end] = await runAsOne(() => startFleetRig(['SW1', 'R1', 'G1'], records));
  for (const tag of ['SW1', 'R1', 'G1']) await f.linkIs(tag, 'up');
  await f.client.follow('runs');
  await f.client.follow('as-run');
});
afterAll(() => end());

type Recorded = Extract<ServerMessage, { t: 'recorded' }>;
let count = 0;
const begin = (id: string, params: Record<string, Scalar> = {}, aim: 'live' | 'dry' = 'live') => {
  const run = `run-${(count += 1)}-macro`;
  f.client.say({ t: 'run', id: run, macro: id, params, aim });
  return run;
};
const reading = (tag: string, key: string, value: unknown) =>
  until(
    () => f.reading(tag, key),
    (now) => now === value,
  );
const pastOf = async (id: string, run: string): Promise<PastRun> => {
  await f.client.outcome(run);
  const { past } = await f.client.follow<MacroRunsView>(`macro:${id}`);
  const found = past.find((each) => each.id === run);
  if (!found) throw new Error(`No run ${run}.`);
  return found;
};
const running = () => Object.values((f.client.topic('runs') ?? {}) as RunsView);

describe('a macro', () => {
  it('sends each step on time and says when it was planned, sent and confirmed', async () => {
    const run = begin('steps');
    expect(await f.client.outcome(run)).toMatchObject({ outcome: 'confirmed' });
    const past = await pastOf('steps', run);
    expect(past.how).toBe('done');
    expect(past.steps.map(({ step: id, plannedMs }) => [id, plannedMs])).toEqual(
      Array.from({ length: 20 }, (_, n) => [`t${n}`, n * 40]),
    );
    for (const { plannedMs, sentMs = 0, endedMs = 0, outcome } of past.steps) {
      expect(outcome).toBe('confirmed');
      expect(sentMs).toBeGreaterThanOrEqual(plannedMs);
      expect(endedMs).toBeGreaterThan(sentMs);
    }
  });

  it('takes its parameters, and what a reading says when a step leaves', async () => {
    const run = begin('given', { input: 7 });
    await reading('SW1', 'program', 7);
    await reading('SW1', 'preview', 7);
    expect((await pastOf('given', run)).how).toBe('done');
    const wrong = begin('given', { input: 'seven' });
    expect((await f.client.outcome(wrong)).reason).toContain('takes a number');
  });

  it('is begun by a control with the control’s own values, and the press ends with it', async () => {
    f.client.say({ t: 'press', id: 'press-a-macro', page: 'page', control: 'go', gesture: 'tap' });
    const done = await f.client.outcome('press-a-macro');
    expect(done.outcome).toBe('confirmed');
    expect(f.reading('SW1', 'program')).toBe(6);
  });

  it('waits for a reading and goes on when it comes', async () => {
    const run = begin('waits');
    await reading('SW1', 'program', 1);
    await until(running, (all) => all.some(({ waiting }) => waiting));
    await f.operate('SW1', 'operate', { verb: 'take', input: 4 });
    await reading('SW1', 'preview', 9);
    const past = await pastOf('waits', run);
    expect(past.how).toBe('done');
    expect(past.steps.map(({ step: id }) => id)).toEqual(['a', 'b']);
  });

  it('is stopped at once, or by its way out', async () => {
    const first = begin('long');
    await reading('SW1', 'program', 2);
    f.client.say({ t: 'end run', run: first, way: 'way out' });
    await reading('SW1', 'program', 12);
    expect(await pastOf('long', first)).toMatchObject({ how: 'stopped' });
    const second = begin('long');
    await reading('SW1', 'program', 2);
    f.client.say({ t: 'end run', way: 'stop' });
    expect((await f.client.outcome(second)).reason).toContain('Stopped by');
    expect((await pastOf('long', second)).steps.map(({ step: id }) => id)).toEqual(['a']);
    await until(running, (all) => all.length === 0);
  });

  it('takes its way out when a device that it still needs goes away', async () => {
    const run = begin('down');
    await reading('SW1', 'program', 2);
    await f.operate('R1', 'faults', { refuse: true });
    await f.operate('R1', 'drop').catch(() => undefined);
    await reading('SW1', 'program', 11);
    expect((await pastOf('down', run)).reason).toContain('R1 went');
    await f.operate('R1', 'faults', { refuse: false });
    await f.linkIs('R1', 'up');
  });

  it('is begun anew, waits for its turn, or is ignored while it runs', async () => {
    const [one, two] = [begin('again'), begin('again')];
    expect((await f.client.outcome(one)).reason).toContain('Restarted');
    expect((await f.client.outcome(two)).outcome).toBe('confirmed');
    const [three, four] = [begin('queued'), begin('queued')];
    for (const run of [three, four]) expect((await f.client.outcome(run)).outcome).toBe('confirmed');
    const [a, b] = await Promise.all([pastOf('queued', three), pastOf('queued', four)]);
    expect(b.at).toBeGreaterThanOrEqual(a.at + a.lengthMs - 5);
    const [five, six] = [begin('steps'), begin('steps')];
    expect((await f.client.outcome(six)).why).toBe('running-already');
    await f.client.outcome(five);
  });

  it('of a group stops the others of it, but not the one that has begun it', async () => {
    const red = begin('red');
    await reading('SW1', 'program', 2);
    const blue = begin('blue');
    expect(await f.client.outcome(red)).toMatchObject({
      outcome: 'skipped',
      why: 'stopped',
      reason: expect.stringContaining('“blue” of the same group') as string,
    });
    expect((await f.client.outcome(blue)).outcome).toBe('confirmed');
    expect(f.reading('SW1', 'program')).toBe(5);
    expect((await f.client.outcome(begin('green'))).outcome).toBe('confirmed');
    // What was stopped sends nothing later.
    await new Promise((resolve) => setTimeout(resolve, 2600));
    expect(f.reading('SW1', 'program')).toBe(5);
  });

  it('begins at a timecode of a deck, also between two reports of it', async () => {
    await f.send('SW1', 'take', { input: 1 });
    await f.operate('R1', 'operate', { verb: 'load', clip: 1 });
    await reading('R1', 'transport', 'cued');
    await f.send('R1', 'play', {});
    const timeOfDeck = async () => ((await f.state('R1')) as unknown as { position: number }).position;
    await until(
      () => running(),
      (runs) => runs.some(({ macro: id }) => id === 'blue'),
    );
    const at = await timeOfDeck();
    await reading('SW1', 'program', 4);
    // The state of the deck is asked for after the start; a busy computer may take a while for that.
    expect(at).toBeGreaterThan(2);
    expect(at).toBeLessThan(2.3);
    await f.send('R1', 'stop', {});
    await reading('SW1', 'program', 5);
  });

  it('sets a level, a pick and a brightness on the panels; what linked screens show is set once for all', async () => {
    const panel = async (title: string, id?: string) => {
      const client = await TestClient.open(`${f.rig.url}?panel`);
      const acts: ScreenAct[] = [];
      client.onMessage((message) => message.t === 'do' && acts.push(message.act));
      client.say({ t: 'here', title, cuts: 0, missed: 0, ...(id ? { panel: id } : {}) });
      return { client, acts };
    };
    const alone = await panel('alone');
    const [one, two] = [await panel('one', 'linked'), await panel('two', 'linked')];
    await one.client.follow('linked:linked');
    one.client.say({ t: 'together', panel: 'linked', page: 'page' });
    await until(
      () => one.client.topic('linked:linked') as LinkedView,
      (now) => now.page === 'page',
    );
    const run = begin('shown');
    expect((await pastOf('shown', run)).steps.map(({ outcome }) => outcome)).toEqual(['sent', 'sent', 'sent', 'sent']);
    await until(
      () => two.acts,
      (acts) => acts.length > 0,
    );
    expect(alone.acts).toEqual([
      { do: 'shift', page: 'page', shift: 'rain' },
      { do: 'pick', page: 'page', zone: 'steer', device: 'dev-SW1' },
      { do: 'dim', brightness: 40 },
    ]);
    expect(two.acts).toEqual([{ do: 'dim', brightness: 40 }]);
    const now = await until(
      () => one.client.topic('linked:linked') as LinkedView,
      ({ contexts }) => contexts.page === 'page;steer=dev-SW1',
    );
    expect(now.page).toBe('page');
  });

  it('is recorded from what is pressed, done at the devices and begun, and nothing is in it twice', async () => {
    const recorder = () => (f.client.topic('status') as StatusView).recorder;
    await f.client.follow('status');
    f.client.say({ t: 'record', do: 'begin' });
    await until(recorder, (now) => now !== null);
    expect(await f.send('SW1', 'take', { input: 3 })).toMatchObject({ outcome: 'confirmed' });
    // Later than what the device reports of the press.
    await new Promise((resolve) => setTimeout(resolve, 1200));
    await f.operate('SW1', 'operate', { verb: 'take', input: 8 });
    await until(recorder, (now) => now?.steps === 2);
    await f.client.outcome(begin('given', { input: 7 }));
    await until(recorder, (now) => now?.steps === 3);
    f.client.say({ t: 'record', do: 'take' });
    const { heard } = await f.client.next((each): each is Recorded => each.t === 'recorded');
    expect(heard.map((each) => (each.is === 'send' ? [each.command, each.params] : [each.macro, each.params]))).toEqual(
      [
        ['take', { input: 3 }],
        ['take', { input: 8 }],
        ['given', { input: 7 }],
      ],
    );
    expect(heard[1]).toMatchObject({ atDevice: true });
    expect((heard[1]?.atMs ?? 0) - (heard[0]?.atMs ?? 0)).toBeGreaterThan(1100);
    // Stopped: nothing more goes in, and it stays until it is forgotten.
    await f.send('SW1', 'take', { input: 4 });
    await f.client.follow('runs');
    expect(recorder()).toMatchObject({ steps: 3, stopped: true });
    f.client.say({ t: 'record', do: 'forget' });
    await until(recorder, (now) => now === null);
  });

  it('whose turn has not come hears that it was stopped', async () => {
    const [first, second] = [begin('queued'), begin('queued')];
    await until(running, (all) => all.length > 0);
    f.client.say({ t: 'end run', run: first, way: 'stop' });
    for (const run of [first, second]) expect((await f.client.outcome(run)).reason).toContain('Stopped by');
    await until(running, (all) => all.length === 0);
  });

  it('that does nothing but begin another ends with it', async () => {
    const run = begin('chain');
    expect(await f.client.outcome(run)).toMatchObject({ outcome: 'confirmed' });
    expect(f.reading('SW1', 'program')).toBe(3);
  });

  it('waits for its turn also where nothing is sent', async () => {
    const runs = [begin('queued', {}, 'dry'), begin('queued', {}, 'dry'), begin('queued', {}, 'dry')];
    for (const run of runs) expect((await f.client.outcome(run)).reason).toContain('Dry');
    await until(running, (all) => all.length === 0);
  });

  it('pulses: on, and off again', async () => {
    const run = begin('horn');
    await reading('G1', 'horn', true);
    await reading('G1', 'horn', false);
    const [on, off] = (await pastOf('horn', run)).steps;
    expect([on?.half, off?.half]).toEqual(['on', 'off']);
    expect((off?.plannedMs ?? 0) - (on?.plannedMs ?? 0)).toBe(300);
    expect(off?.sentMs ?? 0).toBeGreaterThanOrEqual(off?.plannedMs ?? 0);
  });

  it('begins another, sends a note to the panels and moves them to a page', async () => {
    const panel = await TestClient.open(`${f.rig.url}?panel`);
    panel.say({ t: 'here', title: 'tablet', cuts: 0, missed: 0 });
    const run = begin('outer');
    await panel.next((message) => message.t === 'do' && message.act.do === 'note' && message.act.text === 'Stand by');
    await panel.next((message) => message.t === 'do' && message.act.do === 'go' && message.act.page === 'page');
    expect((await pastOf('outer', run)).steps.map(({ outcome }) => outcome)).toEqual(['confirmed', 'sent', 'sent']);
    panel.close();
  });

  it.each([
    ['ring', 'ring → ring2 → ring'],
    ['empty', 'It is empty'],
    ['gone', 'no longer exists'],
  ])('is refused: %s', async (id, why) => {
    const done = await f.client.outcome(begin(id));
    expect(done).toMatchObject({ outcome: 'lost' });
    expect(done.reason).toContain(why);
  });

  it('is only played where it aims dry: nothing is sent', async () => {
    await f.operate('SW1', 'operate', { verb: 'take', input: 10 });
    await reading('SW1', 'program', 10);
    const run = begin('again', {}, 'dry');
    const past = await pastOf('again', run);
    expect(past.steps.map(({ outcome, sentMs }) => [outcome, sentMs])).toEqual([
      ['skipped', undefined],
      ['skipped', undefined],
    ]);
    expect(f.reading('SW1', 'program')).toBe(10);
  });

  it('may be begun and stopped by who has the rights only', async () => {
    const panel = await TestClient.open(`${f.rig.url}?panel`);
    panel.say({ t: 'run', id: 'run-by-a-panel', macro: 'again', params: {}, aim: 'live' });
    expect((await panel.outcome('run-by-a-panel')).reason).toContain('Only the desk');
    panel.say({ t: 'end run', way: 'stop' });
    expect(await panel.next((message) => message.t === 'error')).toMatchObject({
      message: 'Only the desk can stop everything.',
    });
    panel.close();
  });

  it('does not go on by itself after the program was killed; the record says where it ended, and earlier runs are known', async () => {
    begin('long');
    await reading('SW1', 'program', 2);
    // The record is written in batches.
    await until(
      () =>
        ((f.client.topic('as-run') ?? { rows: [] }) as RowsView<AsRunRow>).rows.filter(
          (row) => row.kind === 'press' && row.label.startsWith('long: '),
        ).length,
      (n) => n > 0,
    );
    await new Promise((resolve) => setTimeout(resolve, 600));
    await f.rig.crash();
    await f.rig.revive();
    const again = await TestClient.open(f.rig.url);
    const isNote = (row: AsRunRow) => row.kind === 'note' && row.text.includes('cut off after “long: SW1 ');
    await again.follow('as-run');
    await until(
      () => (again.topic('as-run') as RowsView<AsRunRow>).rows.some(isNote),
      (yes) => yes,
    );
    expect(await again.follow<RunsView>('runs')).toEqual({});
    expect((await again.follow<MacroRunsView>('macro:steps')).past.length).toBeGreaterThan(0);
    expect((await again.follow<MacroRunsView>('macro:long')).past[0]).toMatchObject({ how: 'stopped' });
    again.close();
    // The next start says nothing of it again.
    await new Promise((resolve) => setTimeout(resolve, 600));
    await f.rig.restart();
    const third = await TestClient.open(f.rig.url);
    const { rows } = await third.follow<RowsView<AsRunRow>>('as-run');
    expect(rows.filter(isNote)).toHaveLength(1);
    third.close();
  });
});
