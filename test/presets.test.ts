import fc from 'fast-check';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { PageView, PresetAct, PressReport } from '../src/core/live';
import type { PresetTile } from '../src/core/preset';
import { invertEdit, type PresetRecord, type ShowRecord } from '../src/core/show';
import { getPicture, putInService, recordsOfKind, serviceState, stepBack } from '../src/store';
import { startFleetRig, type FleetRig } from './support/fleet';
import { inProcessProber } from './support/prober';
import { controlRecord, pageRecord } from './support/records';
import { runAsOne, until, type TestClient } from './support/rig';
import { paced } from './support/pace';

/** Presets of cameras: stored in the camera and kept in the show, asserted at the camera. */

const board = (id: string, presets: object): ShowRecord =>
  controlRecord(id, { type: 'presets', label: [{ text: id }], presets: { places: 6, ...presets } as never });
const tie: ShowRecord = {
  kind: 'tie',
  id: 'tie',
  version: 1,
  data: { source: 'dev-C1', switcher: 'dev-SW1', input: 1 },
};
const records: ShowRecord[] = [
  pageRecord('page', 'Race'),
  board('c1', { device: 'dev-C1', guardsOnAir: true }),
  board('c4', { device: 'dev-C4' }),
  board('favourites', {}),
  board('only', { device: 'dev-C1', recallsOnly: true }),
  controlRecord('plain', { responses: { tap: [{ device: 'dev-C1', command: 'recall', params: { preset: 3 } }] } }),
  tie,
];

let fleet: FleetRig;
let end: () => Promise<void>;
let client: TestClient;
let count = 0;

beforeAll(async () => {
  [fleet, end] = await runAsOne(() => startFleetRig(['SW1', 'C1', 'C4'], records, inProcessProber, [], special()));
  // The port of the pictures is known once the stand-ins run.
  const port = fleet.fleet.pagePort;
  for (const tag of ['C1', 'C4']) {
    const from = recordsOfKind(fleet.rig.db, 'device').find(({ data }) => data.tag === tag);
    if (!from) throw new Error(`There is no ${tag}.`);
    const options = { stillPort: port, stillPath: `/${tag.toLowerCase()}/still` };
    fleet.rig.edit({
      title: 'Pictures',
      changes: [{ op: 'update', from, to: { ...from, data: { ...from.data, options } } }],
    });
  }
  // Their links begin anew with it.
  await fleet.rig.engine.onShowChanged();
  ({ client } = fleet);
  await client.follow('page:page');
  for (const tag of ['SW1', 'C1', 'C4']) await fleet.linkIs(tag, 'up');
  await fleet.send('SW1', 'take', { input: 2 });
  for (const tag of ['C1', 'C4']) for (const preset of [4, 5]) await fleet.send(tag, 'forget', { preset });
});
afterAll(() => end());

function special() {
  return { SW1: { role: 'switcher' }, C1: { role: 'camera' }, C4: { role: 'camera' } } as const;
}

const tiles = (control = 'c1'): readonly PresetTile[] =>
  (client.topic('page:page') as PageView).faces[control]?.tiles ?? [];
const tile = (number: number, control = 'c1') => tiles(control).find((each) => each.number === number);
const tileIs = (number: number, fits: (tile: PresetTile | undefined) => boolean, control = 'c1', withinMs = 8000) =>
  until(
    () => tile(number, control),
    (now) => fits(now),
    withinMs,
  );
const stored = (): PresetRecord[] => recordsOfKind(fleet.rig.db, 'preset');
const preset = (number: number, device = 'dev-C1') =>
  stored().find(({ data }) => data.number === number && data.device === device);

function say(number: number, act: PresetAct, more: object = {}): string {
  const id = `preset-${(count += 1)}`;
  client.say({ t: 'preset', id, page: 'page', control: 'c1', device: 'dev-C1', number, act, ...more });
  return id;
}
const act = (number: number, what: PresetAct, more: object = {}): Promise<PressReport> =>
  client.outcome(say(number, what, more));

/** Steers the stand-in by hand, as nobody's panel does. */
const put = async (tag: string, pan: number, tilt: number) => {
  const done = await fleet.send(tag, 'moveTo', { pan, tilt, speed: 24, tiltSpeed: 20 });
  expect(done.outcome).toBe('confirmed');
};
const pose = (tag: string) =>
  fleet.state(tag) as Promise<unknown> as Promise<{
    pan: number;
    tilt: number;
    presets: ({ pan: number; tilt: number } | null)[];
  }>;
const message = async (from: number) =>
  ((await client.next((each) => each.t === 'error', from)) as { message: string }).message;

describe('a preset that is stored at a panel', () => {
  it('is in the camera, and in the show with a picture, its position and a name', async () => {
    await put('C1', 20, 5);
    const done = await act(5, { do: 'store', name: 'Bridge' }, { guard: true });
    expect(done).toMatchObject({ outcome: 'confirmed' });
    expect((await pose('C1')).presets[5]).toMatchObject({ pan: 20, tilt: 5 });
    const shown = await tileIs(5, (now) => now?.picture !== undefined);
    expect(shown).toMatchObject({ title: 'Bridge', mark: 'reached', hasPlace: true });
    expect(preset(5)?.data).toMatchObject({ name: 'Bridge', place: { pan: 20, tilt: 5 } });
    const picture = getPicture(fleet.rig.db, shown?.picture ?? '');
    expect(picture?.type).toBe('image/jpeg');
    expect(picture?.bytes.length).toBeLessThan(60_000);
  });

  it('has to be confirmed, for it overwrites what the camera has', async () => {
    expect(await act(4, { do: 'store' })).toMatchObject({ outcome: 'skipped', why: 'guarded' });
    expect((await pose('C1')).presets[4]).toBeNull();
    expect(preset(4)).toBeUndefined();
  });

  it('is kept as it was when it is overwritten, and can be got back by its position', async () => {
    await put('C1', 30, 0);
    const first = preset(5)?.data;
    await act(5, { do: 'store' }, { guard: true });
    await tileIs(5, (now) => now?.hasBefore === true);
    expect(preset(5)?.data).toMatchObject({
      name: 'Bridge',
      place: { pan: 30, tilt: 0 },
      before: { place: { pan: 20 } },
    });
    expect(preset(5)?.data.before?.picture).toBe(first?.picture);
    say(5, { do: 'getBack' });
    await tileIs(5, (now) => now?.byPlace === true);
    await put('C1', 0, 0);
    expect(await act(5, { do: 'recall' })).toMatchObject({ outcome: 'confirmed' });
    expect(await pose('C1')).toMatchObject({
      pan: expect.closeTo(20, 0) as number,
      tilt: expect.closeTo(5, 0) as number,
    });
    // The camera still holds the newer one; got back once more, it is recalled by its number again.
    say(5, { do: 'getBack' });
    await tileIs(5, (now) => now?.byPlace === undefined && now?.hasBefore === true);
    expect(await act(5, { do: 'recall' })).toMatchObject({ outcome: 'confirmed' });
    expect(await pose('C1')).toMatchObject({ pan: expect.closeTo(30, 0) as number });
  });
});

describe('a recall', () => {
  it('is on the way, then there, at the tile and as a reading', async () => {
    await put('C1', -60, 0);
    await tileIs(5, (now) => now?.mark === undefined);
    const id = say(5, { do: 'recall' });
    await tileIs(5, (now) => now?.mark === 'called');
    await tileIs(5, (now) => now?.mark === 'reached');
    expect(await client.outcome(id)).toMatchObject({ outcome: 'confirmed' });
    expect(fleet.reading('C1', 'preset.reached')).toBe(5);
    expect(fleet.reading('C1', 'preset.called')).toBe(-1);
    // By whatever way it leaves again, it is there no more.
    await put('C1', -50, 0);
    await until(
      () => fleet.reading('C1', 'preset.reached'),
      (now) => now === -1,
    );
  });

  it('is seen also when a plain button or a command by hand makes it', async () => {
    client.say({ t: 'press', id: 'plain-press', page: 'page', control: 'plain', gesture: 'tap' });
    await until(
      () => fleet.reading('C1', 'preset.called'),
      (now) => now === 3,
    );
    expect(await client.outcome('plain-press')).toMatchObject({ outcome: 'confirmed' });
  });

  it('of an empty place presses nothing, and one that the camera has lost is not reached', async () => {
    expect(await act(2, { do: 'recall' })).toMatchObject({ outcome: 'lost', why: 'missing' });
    await put('C1', 10, 0);
    await act(4, { do: 'store' }, { guard: true });
    await tileIs(4, (now) => now?.picture !== undefined);
    await put('C1', -10, 0);
    expect((await fleet.send('C1', 'forget', { preset: 4 })).outcome).toBe('confirmed');
    const before = await pose('C1');
    expect(await act(4, { do: 'recall' })).toMatchObject({ outcome: 'refused' });
    await tileIs(4, (now) => now?.mark === 'missed');
    expect((await pose('C1')).pan).toBe(before.pan);
    // By its position it can be recalled all the same, and stored again.
    say(4, { do: 'byPlace', on: true });
    await tileIs(4, (now) => now?.byPlace === true);
    expect(await act(4, { do: 'recall' })).toMatchObject({ outcome: 'confirmed' });
    await tileIs(4, (now) => now?.mark === 'reached');
    expect(await act(4, { do: 'store' }, { guard: true })).toMatchObject({ outcome: 'confirmed' });
    await tileIs(4, (now) => now?.byPlace === undefined);
    expect((await pose('C1')).presets[4]).toMatchObject({ pan: expect.closeTo(10, 0) as number });
  });

  it('has to be confirmed while the camera is on air, where the control says so', async () => {
    await put('C1', -30, 0);
    await fleet.send('SW1', 'take', { input: 1 });
    await tileIs(5, (now) => now?.guarded === true);
    expect(await act(5, { do: 'recall' })).toMatchObject({ outcome: 'skipped', why: 'guarded' });
    expect((await pose('C1')).pan).toBeCloseTo(-30, 0);
    await until(
      () => fleet.reading('C1', 'preset.called'),
      (now) => now === -1,
    );
    expect(await act(5, { do: 'recall' }, { guard: true })).toMatchObject({ outcome: 'confirmed' });
    expect((await pose('C1')).pan).toBeCloseTo(30, 0);
    await fleet.send('SW1', 'take', { input: 2 });
    await tileIs(5, (now) => now?.onAir === undefined);
  });

  it('goes to the private stand-in while rehearsing, and a store there changes neither camera nor show', async () => {
    const before = JSON.stringify(stored());
    client.say({ t: 'aim', aim: 'rehearse' });
    await client.follow('status');
    await until(
      () => (client.topic('status') as { aim: string }).aim,
      (now) => now === 'rehearse',
    );
    await fleet.linkIs('C1', 'up');
    const from = client.got.length;
    expect(await act(5, { do: 'store' }, { guard: true })).toMatchObject({ outcome: 'confirmed' });
    expect(await message(from)).toContain('Rehearsing');
    client.say({ t: 'aim', aim: 'live' });
    await until(
      () => (client.topic('status') as { aim: string }).aim,
      (now) => now === 'live',
    );
    await fleet.linkIs('C1', 'up');
    expect(JSON.stringify(stored())).toBe(before);
    expect((await pose('C1')).presets[5]?.pan).toBeCloseTo(30, 0);
  });
});

describe('what is kept of presets', () => {
  it('is named, marked as a favourite, and shown with the favourites of the other cameras', async () => {
    await act(1, { do: 'store', name: 'Wide' }, { control: 'c4', device: 'dev-C4', guard: true });
    await tileIs(1, (now) => now?.picture !== undefined, 'c4');
    say(1, { do: 'favourite', on: true }, { control: 'c4', device: 'dev-C4' });
    say(5, { do: 'favourite', on: true });
    await until(
      () => tiles('favourites').map(({ tag, number }) => `${tag} ${number}`),
      (now) => now.length === 2,
    );
    expect(tiles('favourites').map(({ tag, title }) => `${tag} ${title}`)).toEqual(['C4 Wide', 'C1 Bridge']);
    say(1, { do: 'name', name: 'Whole pontoon', note: 'for the start' }, { control: 'c4', device: 'dev-C4' });
    await tileIs(1, (now) => now?.title === 'Whole pontoon' && now.note === 'for the start', 'favourites');
    expect(await act(1, { do: 'recall' }, { control: 'favourites', device: 'dev-C4' })).toMatchObject({
      outcome: 'confirmed',
    });
  });

  it('is put in another order, past empty places, too', async () => {
    const order = () => tiles().map(({ number }) => number);
    expect(order()).toEqual([0, 1, 2, 3, 4, 5]);
    say(5, { do: 'move', by: -1 });
    await until(order, (now) => now.join() === '0,1,2,3,5,4');
    say(5, { do: 'move', by: -1 });
    await until(order, (now) => now.join() === '0,1,2,5,3,4');
    say(5, { do: 'move', by: 1 });
    await until(order, (now) => now.join() === '0,1,2,3,5,4');
    say(5, { do: 'move', by: 1 });
    await until(order, (now) => now.join() === '0,1,2,3,4,5');
  });

  it('gets a new picture of the same preset', async () => {
    const before = tile(5)?.picture;
    await put('C1', 80, 0);
    say(5, { do: 'picture' });
    await tileIs(5, (now) => now?.picture !== undefined && now.picture !== before);
    expect(preset(5)?.data.place).toMatchObject({ pan: 30 });
  });

  it('changes at once while a revision is in service, in no draft, and Step back leaves it', async () => {
    putInService(fleet.rig.db, 'first', Date.now());
    putInService(fleet.rig.db, 'second', Date.now());
    await fleet.rig.engine.onShowChanged();
    say(5, { do: 'name', name: 'In service' });
    await tileIs(5, (now) => now?.title === 'In service');
    expect(serviceState(fleet.rig.db).drafted).toBe(0);
    await act(3, { do: 'store', name: 'New' }, { guard: true });
    await tileIs(3, (now) => now?.title === 'New');
    stepBack(fleet.rig.db);
    await fleet.rig.engine.onShowChanged();
    expect(tile(3)?.title).toBe('New');
    await act(3, { do: 'forget' }, { guard: true });
    await tileIs(3, (now) => now?.empty === true);
    expect((await pose('C1')).presets[3]).toBeNull();
  });

  it('is not changed where the control only recalls, nor by way of a control that does not show it', async () => {
    expect(await act(5, { do: 'store' }, { control: 'only', guard: true })).toMatchObject({ outcome: 'lost' });
    expect(await act(4, { do: 'recall' }, { control: 'favourites' })).toMatchObject({ outcome: 'lost' });
    expect(await act(5, { do: 'recall' }, { control: 'c4' })).toMatchObject({ outcome: 'lost' });
    expect(await act(5, { do: 'recall' }, { control: 'only' })).toMatchObject({ outcome: 'confirmed' });
  });

  it('is where the camera stored it, although somebody sends the camera on at once', async () => {
    await put('C1', 15, 0);
    const heard = client.got.length;
    const kept = say(7, { do: 'store', name: 'Short stop' }, { guard: true });
    const gone = say(5, { do: 'recall' });
    expect(await client.outcome(kept)).toMatchObject({ outcome: 'confirmed' });
    await tileIs(7, (now) => now?.empty === undefined && now !== undefined);
    expect(await message(heard)).toContain('moved on');
    expect(preset(7)?.data.place?.pan).toBeCloseTo((await pose('C1')).presets[7]?.pan ?? Number.NaN, 0);
    expect(preset(7)?.data.place?.pan).toBeCloseTo(15, 0);
    expect(preset(7)?.data.picture).toBeUndefined();
    expect(await client.outcome(gone)).toMatchObject({ outcome: 'confirmed' });
    await act(7, { do: 'forget' }, { guard: true });
  });

  it('is stored without a picture where the camera hands out none, and says so', async () => {
    const from = recordsOfKind(fleet.rig.db, 'device').find(({ data }) => data.tag === 'C4');
    if (!from) throw new Error('There is no C4.');
    const options = { ...from.data.options, stillPath: '/nothing' };
    const edit = {
      title: 'No pictures',
      changes: [{ op: 'update' as const, from, to: { ...from, data: { ...from.data, options } } }],
    };
    fleet.rig.edit(edit);
    putInService(fleet.rig.db, 'no pictures', Date.now());
    await fleet.rig.engine.onShowChanged();
    await fleet.linkIs('C4', 'up');
    const heard = client.got.length;
    await act(2, { do: 'store' }, { control: 'c4', device: 'dev-C4', guard: true });
    expect(await message(heard)).toContain('without a picture');
    await tileIs(2, (now) => now?.empty === undefined, 'c4');
    expect(tile(2, 'c4')?.picture).toBeUndefined();
    fleet.rig.edit({ ...invertEdit(edit), changes: [] });
  });
});

it('says what the camera’s state is after any order of acts', { timeout: paced(120_000) }, async () => {
  const acts = fc.array(
    fc.record({
      number: fc.integer({ min: 0, max: 2 }),
      do: fc.constantFrom('store', 'store', 'recall', 'recall', 'forget', 'favourite', 'byPlace', 'getBack', 'steer'),
    }),
    { minLength: 7, maxLength: 10 },
  );
  const reached = { stored: 0, recalled: 0, refused: 0, got: 0 };
  await fc.assert(
    fc.asyncProperty(acts, async (list) => {
      for (const { number, do: what } of list) {
        const here = await pose('C1');
        if (what === 'steer') {
          await put('C1', (here.pan > 0 ? -1 : 1) * (10 + number), 0);
        } else if (what === 'store' || what === 'forget') {
          const done = await act(number, { do: what }, { guard: true });
          if (what === 'store') {
            expect(done.outcome).toBe('confirmed');
            await tileIs(number, (now) => now?.mark === 'reached' && now.byPlace === undefined);
            expect((await pose('C1')).presets[number]?.pan).toBeCloseTo(here.pan, 1);
            reached.stored += 1;
          } else if (done.outcome === 'confirmed') await tileIs(number, (now) => now?.empty === true);
        } else if (what === 'recall') {
          const { data } = preset(number) ?? {};
          const done = await act(number, { do: 'recall' }, { guard: true });
          if (!data) expect(done.outcome).toBe('lost');
          else if (done.outcome === 'confirmed') {
            // Where the tile says it is, it is.
            await tileIs(number, (now) => now?.mark === 'reached' || data.place === undefined);
            if (data.place) expect((await pose('C1')).pan).toBeCloseTo(Number(data.place.pan), 0);
            reached.recalled += 1;
          } else reached.refused += 1;
        } else if (what === 'favourite') await act(number, { do: 'favourite', on: true });
        else if (what === 'byPlace') await act(number, { do: 'byPlace', on: true });
        else {
          const could = tile(number)?.hasBefore === true;
          const was = preset(number)?.data.place?.pan;
          const before = preset(number)?.data.before?.place?.pan;
          say(number, { do: 'getBack' });
          if (!could) continue;
          await until(
            () => preset(number)?.data,
            (now) => now?.place?.pan === before && now?.before?.place?.pan === was,
          );
          reached.got += 1;
        }
      }
      // Everything that the show says is in the camera is there, where it says.
      const { presets } = await pose('C1');
      for (const { data } of stored().filter(({ data }) => data.device === 'dev-C1' && !data.byPlace && data.place))
        expect(presets[data.number]?.pan ?? Number.NaN).toBeCloseTo(Number(data.place?.pan), 0);
    }),
    { numRuns: 5, seed: 20_261_201 },
  );
  expect(Math.min(reached.stored, reached.recalled)).toBeGreaterThan(3);
});
