import { connect } from 'node:net';
import fc from 'fast-check';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import type { AsRunRow, RowsView } from '../src/core/live';
import type { FinalOutcome, Why } from '../src/core/press';
import type { Scalar } from '../src/core/result';
import { ownDevice, ownId, type ShowRecord, type SnapshotData, type SnapshotPart } from '../src/core/show';
import { controlRecord, macroRecord } from './support/records';
import { startFleetRig, type FleetRig } from './support/fleet';
import { onTestFinished, runAsOne, until } from './support/rig';

/** Snapshots in the engine, over real sockets to the stand-ins: what was promised is asserted at their state. */

type BoxValues = Partial<Record<'x' | 'y' | 'size' | 'left' | 'top' | 'right' | 'bottom' | 'source', number>> & {
  on?: boolean;
};
const boxes = (all: readonly BoxValues[]): SnapshotPart => ({
  device: 'dev-SW1',
  keep: 'boxes',
  values: Object.fromEntries(
    all.flatMap((box, n) =>
      Object.entries({
        x: 500,
        y: 500,
        size: 50,
        left: 0,
        top: 0,
        right: 0,
        bottom: 0,
        source: 1,
        on: false,
        ...box,
      }).map(([key, value]): [string, Scalar] => [`box[${n + 1}].${key}`, value]),
    ),
  ),
});
const off = {};
const left = boxes([{ on: true, x: 250, size: 50, source: 1 }, { on: true, x: 750, size: 50, source: 2 }, off, off]);
const right = boxes([{ on: true, x: 350, size: 70, source: 1 }, { on: true, x: 850, size: 30, source: 2 }, off, off]);
const black = boxes([off, off, off, off]);
const strips = (level: number): SnapshotPart => ({
  device: 'dev-A1',
  keep: 'strips',
  values: { 'strip[1].level': level, 'strip[2].level': -40, 'strip[2].muted': false },
});

const snapshot = (number: number, parts: SnapshotPart[], more: Partial<SnapshotData> = {}): ShowRecord => ({
  kind: 'snapshot',
  id: `snap-${number}`,
  version: 1,
  data: { name: `Snapshot ${number}`, number, order: number, folder: 'Talk', note: '', parts, takenAt: '', ...more },
});

const records: ShowRecord[] = [
  snapshot(1, [left]),
  snapshot(2, [right], { glide: { ms: 400, curve: 'linear' } }),
  snapshot(3, [black]),
  snapshot(4, [strips(-10)]),
  snapshot(5, [{ device: 'dev-gone', keep: 'boxes', values: { 'box[1].on': true } }, left]),
  snapshot(6, [{ ...left, values: { ...left.values, 'box[1].source': 99 } }]),
  snapshot(8, [
    boxes([{ on: true, x: 250, size: 50, source: 1 }, { on: true, x: 750, size: 50, source: 2 }, { on: true }, off]),
  ]),
  snapshot(9, [right], { folder: 'Kept' }),
  snapshot(
    30,
    [
      {
        device: 'dev-T1',
        keep: 'texts',
        values: {
          'layer[1].template': 2,
          'field[11].text': 'Osprey',
          'field[12].text': 'Harbour',
          'field[13].text': '3',
          'layer[2].template': 0,
          'field[21].text': '',
        },
      },
    ],
    { folder: 'Titles' },
  ),
  snapshot(7, [right], { yields: true, glide: { ms: 1500, curve: 'linear' } }),
  {
    kind: 'page',
    id: 'page',
    version: 1,
    data: { name: 'Talk', order: 1, columns: 4, rows: 1, note: '', zones: [] },
  },
  controlRecord('call', {
    values: { snapshot: 1 },
    responses: { tap: [{ device: ownId, command: 'callUp', params: { snapshot: { value: 'snapshot' } } }] },
    lamps: [
      {
        when: { op: 'equals', reading: { device: ownId, key: 'snapshot[$snapshot].state' }, to: 'there' },
        show: 'active',
      },
    ],
    shows: { kind: 'picture', reading: { device: ownId, key: 'snapshot[$snapshot].picture' } },
  }),
  controlRecord('all', { type: 'list', list: { device: ownId, list: 'snapshots', form: 'large' } }),
  controlRecord('morph', {
    type: 'fader',
    range: {
      send: { device: ownId, command: 'morph', params: { from: 1, to: 2 } },
      param: 'at',
      min: 0,
      max: 100,
      reading: { device: ownId, key: 'snapshot[2].toward' },
    },
  }),
  macroRecord('opens', [
    {
      steps: [
        { id: 'a', at: 0, does: { is: 'send', send: { device: ownId, command: 'cutTo', params: { snapshot: 1 } } } },
        {
          id: 'b',
          at: 100,
          does: { is: 'send', send: { device: ownId, command: 'glideTo', params: { snapshot: 2, ms: 200 } } },
        },
      ],
    },
  ]),
];

let f: FleetRig;
let end: () => Promise<void>;
beforeAll(async () => {
  [f, end] = await runAsOne(() => startFleetRig(['SW1', 'A1', 'T1'], records));
  for (const tag of ['SW1', 'A1', 'T1']) await f.linkIs(tag, 'up');
});
afterAll(() => end());

let count = 0;
interface Ending {
  readonly outcome: FinalOutcome;
  readonly why: Why;
  readonly reason?: string | undefined;
  readonly ms: number;
}
const tell = (command: string, params: Record<string, Scalar> = {}, aim?: 'dry'): Promise<Ending> =>
  new Promise((resolve) => {
    const id = `own-${(count += 1)}-command`;
    f.rig.engine.api.presses.command(
      { id, gesture: 'tap', guard: true, who: 'test', device: ownDevice, command, params, ...(aim ? { aim } : {}) },
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
interface SwitcherState {
  readonly boxes: readonly { on: boolean; source: number; x: number; y: number; size: number }[];
}
const box = async (n: number) => ((await f.state('SW1')) as unknown as SwitcherState).boxes[n - 1];

beforeEach(async () => {
  await tell('stopGlides');
  await tell('cutTo', { snapshot: 3 });
});

describe('a snapshot', () => {
  it('is called up as a cut: everything is at the device when the press ends', async () => {
    expect(await tell('cutTo', { snapshot: 1 })).toMatchObject({ outcome: 'confirmed' });
    expect(await box(1)).toMatchObject({ on: true, x: 250, size: 50, source: 1 });
    expect(await box(2)).toMatchObject({ on: true, x: 750, source: 2 });
    await becomes('snapshot[1].state', 'there');
    await becomes('snapshot[2].state', 'away');
  });

  it('sends only what differs, and nothing when it is there', async () => {
    await tell('cutTo', { snapshot: 1 });
    expect(await tell('cutTo', { snapshot: 1 })).toMatchObject({ outcome: 'confirmed', why: 'already-so' });
    await f.send('SW1', 'boxSize', { box: 2, size: 20 });
    const sentBoxes = () => {
      const { rows } = f.rig.engine.api.wire.page(0, 100_000);
      return rows.flatMap(({ dir, name }) => (dir === 'out' && name?.startsWith('box') ? [name] : []));
    };
    const before = sentBoxes().length;
    await tell('cutTo', { snapshot: 1 });
    expect(sentBoxes().slice(before)).toEqual(['boxSize']);
  });

  it('says that it was changed by hand, and is there again when it is put right', async () => {
    await tell('cutTo', { snapshot: 1 });
    await becomes('snapshot[1].state', 'there');
    await f.send('SW1', 'boxSize', { box: 1, size: 33 });
    await becomes('snapshot[1].state', 'changed');
    await f.send('SW1', 'boxSize', { box: 1, size: 50 });
    await becomes('snapshot[1].state', 'there');
  });

  it('ends exactly, also where frames wait because the device answers slowly', async () => {
    const standin = f.fleet.devices.get('SW1');
    onTestFinished(() => void standin?.operate('faults', { delayMs: 0 }));
    for (const [from, to, x] of [
      [1, 2, 350],
      [2, 1, 250],
    ] as const) {
      await tell('cutTo', { snapshot: from });
      await standin?.operate('faults', { delayMs: 90 });
      await tell('glideTo', { snapshot: to, ms: 400, curve: 'linear' });
      await standin?.operate('faults', { delayMs: 0 });
      await becomes(`snapshot[${to}].state`, 'there');
      expect(await box(1)).toMatchObject({ x });
    }
  });

  it('glides for so many frames of the show', async () => {
    await tell('cutTo', { snapshot: 1 });
    const { ms } = await tell('glideInFrames', { snapshot: 2, frames: 10 });
    // Ten frames at 25 a second, and the last answer.
    expect(ms).toBeGreaterThan(380);
    expect(ms).toBeLessThan(3000);
  });

  it('is overwritten by a command with what is set now, got back, and taken like another', async () => {
    await tell('cutTo', { snapshot: 9 });
    await f.send('SW1', 'boxSize', { box: 1, size: 33 });
    await becomes('snapshot[9].state', 'changed');
    expect(await tell('overwriteSnapshot', { snapshot: 9 })).toMatchObject({ outcome: 'confirmed' });
    await becomes('snapshot[9].state', 'there');
    await tell('cutTo', { snapshot: 3 });
    await tell('cutTo', { snapshot: 9 });
    expect(await box(1)).toMatchObject({ on: true, size: 33 });

    expect(await tell('takeSnapshot', { like: 9, name: 'As rehearsed' })).toMatchObject({ outcome: 'confirmed' });
    await becomes('snapshot[10].name', 'As rehearsed');
    expect(own('snapshot[10].folder')).toBe('Kept');
    expect(await tell('takeSnapshot', { like: 9 })).toMatchObject({ outcome: 'confirmed' });
    await becomes('snapshot[11].name', 'Snapshot 9 11');

    expect(await tell('getBackSnapshot', { snapshot: 9 })).toMatchObject({ outcome: 'confirmed' });
    await becomes('snapshot[9].state', 'changed');
    expect(await tell('cutTo', { snapshot: 9 })).toMatchObject({ outcome: 'confirmed' });
    expect(await box(1)).toMatchObject({ size: 70 });
    await becomes('snapshot[10].state', 'away');
    await tell('cutTo', { snapshot: 10 });
    expect(await box(1)).toMatchObject({ size: 33 });
  });

  it('is kept as it is by a command that would lose something, or has nothing to do', async () => {
    expect(await tell('overwriteSnapshot', { snapshot: 5 })).toMatchObject({ outcome: 'lost', why: 'not-kept' });
    expect(await tell('getBackSnapshot', { snapshot: 1 })).toMatchObject({
      why: 'not-kept',
      reason: '“Snapshot 1” was not overwritten yet: there is nothing to get back.',
    });
    expect(await tell('overwriteSnapshot', { snapshot: 77 })).toMatchObject({ outcome: 'lost', why: 'missing' });
    expect(await tell('overwriteSnapshot', { snapshot: 1 }, 'dry')).toMatchObject({ outcome: 'skipped', why: 'dry' });
  });

  it('glides in its own time, moves on the way and ends exactly', async () => {
    await tell('cutTo', { snapshot: 1 });
    const done = tell('callUp', { snapshot: 2 });
    await becomes('snapshot[2].state', 'moving');
    await until(
      () => box(1),
      (now) => now !== undefined && now.x > 250 && now.x < 350,
    );
    const { outcome, ms } = await done;
    expect(outcome).toBe('confirmed');
    expect(ms).toBeGreaterThanOrEqual(399);
    expect(await box(1)).toMatchObject({ x: 350, size: 70 });
    expect(await box(2)).toMatchObject({ x: 850, size: 30 });
    await becomes('snapshot[2].state', 'there');
    await becomes('gliding', false);
  });

  it('is interrupted by another, which goes on from where it is', async () => {
    await tell('cutTo', { snapshot: 1 });
    const first = tell('glideTo', { snapshot: 2, ms: 2000, curve: 'linear' });
    await until(
      () => box(1),
      (now) => now !== undefined && now.x >= 270,
    );
    const second = tell('glideTo', { snapshot: 1, ms: 200, curve: 'linear' });
    expect(await first).toMatchObject({ outcome: 'skipped', why: 'overtaken' });
    expect(await second).toMatchObject({ outcome: 'confirmed' });
    expect(await box(1)).toMatchObject({ x: 250, size: 50 });
  });

  it('leaves nothing to the one it interrupts, not even what is there already', async () => {
    await tell('cutTo', { snapshot: 8 });
    // Box 3 would go off at the end of this one, and boxes 1 and 2 are where both want them.
    const first = tell('glideTo', { snapshot: 1, ms: 400 });
    expect(await tell('cutTo', { snapshot: 8 })).toMatchObject({ outcome: 'confirmed', why: 'already-so' });
    expect(await first).toMatchObject({ outcome: 'skipped', why: 'overtaken' });
    await new Promise((resolve) => setTimeout(resolve, 500));
    expect(await box(3)).toMatchObject({ on: true });
    await becomes('snapshot[8].state', 'there');
  });

  it('is in the as-run with what was sent last for each value', async () => {
    await tell('cutTo', { snapshot: 1 });
    await tell('glideTo', { snapshot: 2, ms: 100 });
    await f.client.follow('as-run');
    const row = await until(
      () =>
        (f.client.topic('as-run') as RowsView<AsRunRow>).rows.findLast(
          (each) => each.kind === 'press' && each.label === 'Snapshot Snapshot 2',
        ),
      (found) => found?.kind === 'press' && found.outcome === 'confirmed',
    );
    expect(row).toMatchObject({ who: 'test' });
    expect(row?.kind === 'press' && row.sends.map(({ device, says }) => `${device} ${says}`)).toEqual([
      'SW1 Move box 1 to 350, 500',
      'SW1 Move box 2 to 850, 500',
      'SW1 Size box 1 to 70 %',
      'SW1 Size box 2 to 30 %',
    ]);
  });

  it('is held, run back and stopped', async () => {
    await tell('cutTo', { snapshot: 1 });
    const first = tell('glideTo', { snapshot: 2, ms: 1000, curve: 'linear' });
    await until(
      () => box(1),
      (now) => now !== undefined && now.x >= 270,
    );
    await tell('holdGlides', { on: true });
    await becomes('glidesHeld', true);
    const held = await until(
      () => box(1),
      () => true,
    );
    await new Promise((resolve) => setTimeout(resolve, 150));
    expect((await box(1))?.x).toBe(held?.x);
    await tell('turnGlides');
    expect(await first).toMatchObject({ outcome: 'skipped', why: 'stopped' });
    expect(await box(1)).toMatchObject({ x: 250, size: 50 });
    const second = tell('glideTo', { snapshot: 2, ms: 1000 });
    await until(
      () => box(1),
      (now) => now !== undefined && now.x >= 270,
    );
    await tell('stopGlides');
    expect(await second).toMatchObject({ outcome: 'skipped', why: 'stopped', reason: 'Stopped by test.' });
    expect((await box(1))?.x).toBeLessThan(350);
  });

  it('lets go of what somebody moves at the device, where it is to', async () => {
    await tell('cutTo', { snapshot: 1 });
    const hand = connect(f.fleet.devices.get('SW1')?.port ?? 0, '127.0.0.1');
    onTestFinished(() => hand.destroy());
    await new Promise((resolve) => hand.once('connect', resolve));
    // Long enough for a busy computer to come in between.
    const done = tell('glideTo', { snapshot: 7, ms: 3000, curve: 'linear' });
    await until(
      () => box(1),
      (now) => now !== undefined && now.x >= 260,
    );
    // A hand that turns something sends more than one value: one alone can be passed by a frame before it is reported.
    const turning = setInterval(() => hand.write('BOXSIZE 1 12\r\n'), 30);
    const ending = await done;
    clearInterval(turning);
    expect(ending).toMatchObject({ outcome: 'skipped', why: 'overtaken' });
    await until(
      () => box(1),
      (now) => now?.size === 12 && now.x === 350,
    );
    expect(await box(2)).toMatchObject({ x: 850, size: 30 });
  });

  it('leaves the way to a device that moves by itself', async () => {
    await f.send('A1', 'level', { strip: 1, level: -30 });
    const done = tell('glideTo', { snapshot: 4, ms: 500 });
    await until(
      () => f.reading('A1', 'strip[1].level'),
      (now) => Number(now) > -30 && Number(now) < -10,
    );
    expect(await done).toMatchObject({ outcome: 'confirmed' });
    expect(f.reading('A1', 'strip[1].level')).toBe(-10);
  });

  it('sends the rest where one value is refused, and names that one', async () => {
    await tell('cutTo', { snapshot: 2 });
    const { outcome, reason } = await tell('cutTo', { snapshot: 6 });
    expect(outcome).toBe('lost');
    expect(reason).toContain('SW1 Set box source');
    expect(await box(2)).toMatchObject({ x: 750, size: 50 });
  });

  it('brings the texts of a title, on a template that is loaded first, and says when the title is on air', async () => {
    interface Titles {
      readonly layers: readonly { readonly state: string; readonly template: number; readonly texts: string[] }[];
    }
    const first = async () => ((await f.state('T1')) as unknown as Titles).layers[0];
    const says = (command: string, params: Record<string, Scalar>) => f.send('T1', command, params);
    await tell('callUp', { snapshot: 30 });
    expect(await first()).toMatchObject({ template: 2, texts: ['Osprey', 'Harbour', '3'] });
    await says('load', { layer: 1, template: 1 });
    expect(await first()).toMatchObject({ template: 1, texts: ['', ''] });
    await becomes('snapshot[30].state', 'changed');
    expect(await tell('callUp', { snapshot: 30 })).toMatchObject({ outcome: 'confirmed' });
    expect(await first()).toMatchObject({ template: 2, texts: ['Osprey', 'Harbour', '3'] });
    await becomes('snapshot[30].state', 'there');
    await says('load', { layer: 1, template: 1 });
    await says('field', { layer: 1, field: 1, text: 'Ada' });
    await says('take', { layer: 1 });
    expect(await tell('callUp', { snapshot: 30 })).toMatchObject({ outcome: 'refused' });
    // Nothing of the other template is written into what is on air.
    expect(await first()).toMatchObject({ template: 1, state: 'on', texts: ['Ada', ''] });
    await says('out', { layer: 1 });
    await until(first, (now) => now?.state === 'ready');

    // Run back, the old template is loaded with the texts that it had.
    const gliding = tell('glideTo', { snapshot: 30, ms: 3000 });
    await until(first, (now) => now?.texts[2] === '3');
    await tell('turnGlides');
    expect(await gliding).toMatchObject({ outcome: 'skipped', why: 'stopped' });
    expect(await first()).toMatchObject({ template: 1, texts: ['Ada', ''] });
  });

  it('says when a device of it is gone, and sends the rest', async () => {
    const { outcome, why, reason } = await tell('cutTo', { snapshot: 5 });
    expect([outcome, why]).toEqual(['lost', 'missing']);
    expect(reason).toContain('no longer in the rig');
    expect(await box(1)).toMatchObject({ on: true, x: 250 });
    expect(await tell('callUp', { snapshot: 44 })).toMatchObject({
      outcome: 'lost',
      reason: 'There is no snapshot 44.',
    });
  });

  it('leaves nothing moving when a link breaks on the way, and says so', async () => {
    await tell('cutTo', { snapshot: 1 });
    const done = tell('glideTo', { snapshot: 2, ms: 5000 });
    await until(
      () => box(1),
      (now) => now !== undefined && now.x >= 252,
    );
    await f.operate('SW1', 'faults', { refuse: true });
    await f.operate('SW1', 'drop').catch(() => undefined);
    const { outcome, reason } = await done;
    expect(outcome).toBe('lost');
    expect(reason).toMatch(/SW1/);
    await f.operate('SW1', 'faults', { refuse: false });
    await f.linkIs('SW1', 'up');
    await becomes('gliding', false);
  });

  it('warns of a layout that would show only black', async () => {
    await becomes('snapshot[3].black', true);
    await becomes('snapshot[1].black', false);
  });

  it('that is deleted is gone from the readings, and cannot be called up any more', async () => {
    const record = snapshot(20, [left]);
    f.rig.edit({ title: 'Add', changes: [{ op: 'add', record }] });
    await becomes('snapshot[20].name', 'Snapshot 20');
    f.rig.edit({ title: 'Remove', changes: [{ op: 'remove', record }] });
    await becomes('snapshot[20].name', undefined);
    expect(await tell('cutTo', { snapshot: 20 })).toMatchObject({ outcome: 'lost' });
  });

  it('goes on to the next of its folder, round at the ends', async () => {
    await tell('cutTo', { snapshot: 1 });
    await tell('stepFolder', { folder: 'Talk', by: 1 });
    await becomes('lastSnapshot', 2);
    await tell('stepFolder', { folder: 'Talk', by: -2 });
    await becomes('lastSnapshot', 8);
    expect(await tell('stepFolder', { folder: 'Nothing' })).toMatchObject({ outcome: 'lost' });
  });
});

describe('a control', () => {
  it('calls a snapshot up, shows its picture, and is lit when it is there', async () => {
    f.client.say({ t: 'press', id: 'press-a-snapshot', page: 'page', control: 'call', gesture: 'tap' });
    expect(await f.client.outcome('press-a-snapshot')).toMatchObject({ outcome: 'confirmed' });
    expect(await box(1)).toMatchObject({ on: true, x: 250 });
    const view = await f.client.follow<unknown>('page:page');
    const face = () => JSON.stringify(f.client.topic('page:page') ?? view);
    await until(face, (text) => text.includes('data:image/svg+xml') && text.includes('"active"'));
  });

  it('lists them with their pictures, and calls up the one that is chosen', async () => {
    const view = await f.client.follow<unknown>('page:page');
    const face = () => JSON.stringify((f.client.topic('page:page') ?? view) as object);
    await until(face, (text) => text.includes('"Snapshot 8"'));
    f.client.say({ t: 'choose', id: 'choose-a-snapshot', page: 'page', control: 'all', act: 1, index: 2 } as never);
    expect(await f.client.outcome('choose-a-snapshot')).toMatchObject({ outcome: 'confirmed' });
    expect(await box(1)).toMatchObject({ on: true, x: 350, size: 70 });
  });

  it('goes by hand between two snapshots', async () => {
    await tell('cutTo', { snapshot: 1 });
    const turn = (x: number) => f.client.say({ t: 'turn', id: 'turn-a-morph', page: 'page', control: 'morph', x });
    turn(50);
    await until(
      () => box(1),
      (now) => now?.x === 300 && now.size === 60,
    );
    turn(100);
    await until(
      () => box(2),
      (now) => now?.x === 850 && now.size === 30,
    );
    await becomes('snapshot[2].toward', 100);
    await becomes('snapshot[2].state', 'there');
  });
});

it('is a step of a macro, with its own time', async () => {
  f.client.say({ t: 'run', id: 'run-with-snapshots', macro: 'opens', params: {}, aim: 'live' });
  expect(await f.client.outcome('run-with-snapshots')).toMatchObject({ outcome: 'confirmed' });
  expect(await box(1)).toMatchObject({ x: 350, size: 70 });
});

it.each([3, 14, 159])(
  'whatever is called up, held, turned, stopped and done by hand: the last one is there (seed %i)',
  async (seed) => {
    const orders = fc.sample(
      fc.oneof(
        fc.record({
          command: fc.constantFrom('cutTo', 'callUp'),
          params: fc.record({ snapshot: fc.constantFrom(1, 2, 3, 7, 8) }),
        }),
        fc.record({
          command: fc.constant('glideTo'),
          params: fc.record({ snapshot: fc.constantFrom(1, 2, 8), ms: fc.integer({ min: 20, max: 400 }) }),
        }),
        fc.record({ command: fc.constantFrom('turnGlides', 'stopGlides'), params: fc.constant({}) }),
        fc.record({ command: fc.constant('holdGlides'), params: fc.record({ on: fc.boolean() }) }),
        fc.record({
          command: fc.constant('morph'),
          params: fc.record({ from: fc.constant(1), to: fc.constant(2), at: fc.integer({ min: 0, max: 100 }) }),
        }),
      ),
      { numRuns: 25, seed },
    );
    const endings: Promise<Ending>[] = [];
    for (const [n, { command, params }] of orders.entries()) {
      endings.push(tell(command, params as Record<string, Scalar>));
      if (n % 6 === 0) void f.send('SW1', 'boxSize', { box: 1, size: 10 + n });
      await new Promise((resolve) => setTimeout(resolve, 10 + ((n * 37) % 90)));
    }
    const last = tell('glideTo', { snapshot: 8, ms: 150 });
    // A hold that was told before holds what has begun, not what is called up later.
    expect(await last).toMatchObject({ outcome: 'confirmed' });
    await tell('stopGlides');
    // Every press has come to an end.
    for (const { outcome } of await Promise.all(endings)) expect(['confirmed', 'skipped', 'lost']).toContain(outcome);
    expect(await box(1)).toMatchObject({ on: true, x: 250, size: 50 });
    expect(await box(3)).toMatchObject({ on: true });
    await becomes('snapshot[8].state', 'there');
    await becomes('gliding', false);
  },
);

it('is dry when the aim is dry', async () => {
  await tell('cutTo', { snapshot: 1 });
  expect(await tell('cutTo', { snapshot: 2 }, 'dry')).toMatchObject({ outcome: 'skipped', why: 'dry' });
  expect(await box(1)).toMatchObject({ x: 250 });
});
