import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import type { PageView, PressReport, QuestionsView } from '../src/core/live';
import { startersOf } from '../src/core/driver';
import type { Scalar } from '../src/core/result';
import { ownDevice, ownDocument, ownId, startOfStarter, type SnapshotRecord } from '../src/core/show';
import { getPicture, recordsOfKind } from '../src/store';
import { controlRecord, pageRecord } from './support/records';
import { startFleetRig, type FleetRig } from './support/fleet';
import { inProcessProber } from './support/prober';
import { onTestFinished, runAsOne, until } from './support/rig';

/** Snapshots that are taken from a panel, with the pictures that devices hand out: asserted at the show and at the devices. */

const document = ownDocument;
const starter = startersOf(document, {}).find(({ command }) => command === 'takeGroups');
if (!starter) throw new Error('No starter takes a snapshot.');

let f: FleetRig;
let end: () => Promise<void>;
let count = 0;

beforeAll(async () => {
  const records = [
    pageRecord('page', 'Race'),
    controlRecord('take', startOfStarter(ownId, starter, document)),
    controlRecord('all', { type: 'list', list: { device: ownId, list: 'snapshots', form: 'large' } }),
    ...Array.from({ length: 9 }, (_, n) =>
      controlRecord(`shown${n + 1}`, {
        col: n,
        row: 1,
        shows: { kind: 'picture', reading: { device: ownId, key: `snapshot[${n + 1}].picture` } },
      }),
    ),
  ];
  [f, end] = await runAsOne(() => startFleetRig(['SW1', 'C1', 'A1'], records, inProcessProber));
  await withOptions({ stillPort: f.fleet.pagePort, stillPath: '/c1/still' });
  for (const tag of ['SW1', 'C1', 'A1']) await f.linkIs(tag, 'up');
  await until(
    () => own('group[1].name'),
    (name) => name !== undefined,
  );
});
afterAll(() => end());

async function withOptions(options: Readonly<Record<string, Scalar>>): Promise<void> {
  const from = recordsOfKind(f.rig.db, 'device').find(({ data }) => data.tag === 'C1');
  if (!from) throw new Error('There is no C1.');
  const data = { ...from.data, options: { ...from.data.options, ...options } };
  f.rig.edit({ title: 'Pictures', changes: [{ op: 'update', from, to: { ...from, data } }] });
  await f.rig.engine.onShowChanged();
}

const own = (key: string) => f.rig.engine.running.readings.fresh(ownId, key);
const snapshots = (): SnapshotRecord[] =>
  [...recordsOfKind(f.rig.db, 'snapshot')].sort((a, b) => a.data.number - b.data.number);
const newest = () => snapshots().at(-1)?.data;

const tell = (command: string, params: Readonly<Record<string, Scalar>>, aim?: 'dry'): Promise<PressReport> =>
  new Promise((resolve) => {
    const id = `own-${(count += 1)}`;
    f.rig.engine.api.presses.command(
      { id, gesture: 'tap', guard: true, who: 'test', device: ownDevice, command, params, ...(aim ? { aim } : {}) },
      (report) => {
        if ('sends' in report) resolve(report as unknown as PressReport);
      },
    );
  });

/** Presses the control on a panel, and answers what it asks. */
async function press(answers: (asks: QuestionsView) => Readonly<Record<string, Scalar>>): Promise<PressReport> {
  const id = `press-${(count += 1)}`;
  f.client.say({ t: 'press', id, page: 'page', control: 'take', gesture: 'tap', guard: true });
  const asked = (await f.client.next(
    (each) => each.t === 'press' && each.id === id && each.asks !== undefined,
  )) as PressReport;
  if (!asked.asks) throw new Error('Nothing was asked.');
  f.client.say({ t: 'answer', id, given: answers(asked.asks) });
  const ended = await f.client.next(
    (each) =>
      each.t === 'press' &&
      each.id === id &&
      (each.asks?.wrong !== undefined || !['taken', 'waiting'].includes(each.outcome)),
  );
  if ((ended as PressReport).asks) f.client.say({ t: 'answer', id });
  return ended as PressReport;
}

beforeEach(async () => {
  await f.send('C1', 'stop');
  await f.linkIs('C1', 'up');
});

describe('a snapshot that a panel takes', () => {
  it('asks which groups, what it is called, its folder, tint and note', async () => {
    const before = snapshots().length;
    let asks: QuestionsView | undefined;
    await f.send('A1', 'level', { strip: 1, level: -12 });
    const said = await press((asked) => {
      asks = asked;
      return {
        groups: 'A1 Levels and mutes of the strips',
        name: 'Sound check',
        folder: 'Morning',
        tint: 'clay',
        note: 'Before the gun',
      };
    });
    expect(asks?.items.map(({ value, takes, isOptional }) => [value, takes, isOptional])).toEqual([
      ['groups', 'several', undefined],
      ['name', undefined, true],
      ['folder', 'examples', true],
      ['tint', undefined, undefined],
      ['note', undefined, true],
    ]);
    const offered = asks?.items[0]?.options?.map(({ value }) => value) ?? [];
    expect(offered).toEqual(expect.arrayContaining(['SW1 Boxes of the layout', 'C1 Exposure']));
    expect(said).toMatchObject({ outcome: 'confirmed' });
    expect(snapshots()).toHaveLength(before + 1);
    expect(newest()).toMatchObject({ name: 'Sound check', folder: 'Morning', tint: 'clay', note: 'Before the gun' });
    expect(newest()?.parts).toMatchObject([{ device: f.id('A1'), values: { 'strip[1].level': -12 } }]);

    // It can be called up at once.
    await f.send('A1', 'level', { strip: 1, level: -40 });
    expect(await tell('cutTo', { snapshot: newest()?.number ?? 0 })).toMatchObject({ outcome: 'confirmed' });
    expect(((await f.state('A1')) as unknown as { strips: { level: number }[] }).strips[0]?.level).toBe(-12);
  });

  it('keeps groups of several devices, and gets a name where none is given', async () => {
    const groups = ['SW1 Boxes of the layout', 'SW1 Keys', 'A1 Levels and mutes of the strips'].join('; ');
    expect(await press(() => ({ groups, tint: 'none' }))).toMatchObject({ outcome: 'confirmed' });
    const number = newest()?.number ?? 0;
    expect(newest()).toMatchObject({ name: `Snapshot ${number}`, folder: '', note: '' });
    expect(newest()?.tint).toBeUndefined();
    expect(newest()?.parts.map(({ keep }) => keep)).toEqual(['boxes', 'keys', 'strips']);
  });

  it.each([
    ['no group', '', 'not answered yet'],
    [
      'a group that no device has',
      'A1 Levels and mutes of the strips; A9 Nothing',
      'none of what there is to choose from',
    ],
  ])('is asked again with %s', async (_, groups, wanted) => {
    const before = snapshots().length;
    const said = await press(() => ({ groups, tint: 'none' }));
    expect(said.asks?.wrong?.message).toContain(wanted);
    expect(snapshots()).toHaveLength(before);
  });
});

describe('a snapshot that another program takes', () => {
  it.each([
    ['no group', '', 'Choose at least one group to keep.'],
    [
      'a group that no device has',
      'A9 Levels',
      'No device of the rig has a group “A9 Levels”. Groups are named like “',
    ],
  ])('is refused with %s', async (_, groups, reason) => {
    const before = snapshots().length;
    expect(await tell('takeGroups', { groups, tint: 'none' })).toMatchObject({
      outcome: 'lost',
      why: 'not-kept',
      reason: expect.stringContaining(reason) as string,
    });
    expect(snapshots()).toHaveLength(before);
  });

  it('takes groups however they are written', async () => {
    await tell('takeGroups', { groups: ' a1 levels AND mutes of the strips ;', name: 'By letter', tint: 'none' });
    expect(newest()).toMatchObject({ name: 'By letter', parts: [{ keep: 'strips' }] });
  });

  it('is not taken dry', async () => {
    const before = snapshots().length;
    await tell('takeGroups', { groups: 'A1 Levels and mutes of the strips', tint: 'none' }, 'dry');
    expect(snapshots()).toHaveLength(before);
  });
});

describe('the picture of a snapshot', () => {
  const exposure = { groups: 'C1 Exposure', name: 'Noon', tint: 'none' };

  it('is fetched from the device, shown, and got back with the values', async () => {
    expect(await tell('takeGroups', exposure)).toMatchObject({ outcome: 'confirmed' });
    const first = newest();
    const kept = getPicture(f.rig.db, first?.picture ?? '');
    expect(kept?.type).toBe('image/jpeg');
    await until(
      () => own(`snapshot[${first?.number}].picture`),
      (shown) => shown === `/pictures/${first?.picture}`,
    );

    // On its button and in a list, too.
    await f.client.follow('page:page');
    await until(
      () => (f.client.topic('page:page') as PageView).faces,
      ({ all, ...faces }) =>
        JSON.stringify(all?.items).includes(`/pictures/${first?.picture}`) &&
        JSON.stringify(faces[`shown${first?.number}`]?.shown).includes(`/pictures/${first?.picture}`),
    );

    // Another view is another picture.
    await f.send('C1', 'moveTo', { pan: -60, tilt: 10, speed: 24, tiltSpeed: 20 });
    await until(
      () => f.reading('C1', 'pan'),
      (pan) => Math.abs(Number(pan) + 60) < 1,
    );
    expect(await tell('overwriteSnapshot', { snapshot: first?.number ?? 0 })).toMatchObject({ outcome: 'confirmed' });
    expect(newest()?.picture).not.toBe(first?.picture);
    expect(newest()?.before?.picture).toBe(first?.picture);
    expect(getPicture(f.rig.db, newest()?.picture ?? '')).toBeDefined();
    await tell('getBackSnapshot', { snapshot: first?.number ?? 0 });
    expect(newest()?.picture).toBe(first?.picture);
  });

  it('is drawn where the driver has a layout, and none is fetched', async () => {
    const groups = 'SW1 Boxes of the layout; C1 Exposure';
    await tell('takeGroups', { groups, name: 'Both', tint: 'none' });
    expect(newest()?.picture).toBeUndefined();
    await until(
      () => own(`snapshot[${newest()?.number}].picture`),
      (shown) => String(shown).startsWith('data:image/svg+xml'),
    );
  });

  it('that cannot be fetched is said, and the values are kept all the same', async () => {
    await withOptions({ stillPath: '/nothing' });
    onTestFinished(() => withOptions({ stillPath: '/c1/still' }));
    await f.linkIs('C1', 'up');
    const said = await until(
      () => tell('takeGroups', { ...exposure, name: 'Blind' }),
      ({ outcome }) => outcome === 'confirmed',
    );
    expect(said.reason).toContain('It has no picture.');
    expect(newest()).toMatchObject({ name: 'Blind', parts: [{ keep: 'exposure' }] });
    expect(newest()?.picture).toBeUndefined();
  });

  it('that takes long does not let a later change overtake it', async () => {
    await tell('takeGroups', { ...exposure, name: 'Order' });
    const number = newest()?.number ?? 0;
    const first = tell('overwriteSnapshot', { snapshot: number });
    const second = tell('getBackSnapshot', { snapshot: number });
    expect((await Promise.all([first, second])).map(({ outcome }) => outcome)).toEqual(['confirmed', 'confirmed']);
    // Overwritten, then got back: what was there before is there again.
    expect(newest()?.before?.takenAt).not.toBe('');
    expect(Date.parse(newest()?.before?.takenAt ?? '')).toBeGreaterThan(Date.parse(newest()?.takenAt ?? ''));
  });
});
