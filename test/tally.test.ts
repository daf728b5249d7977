import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { PageView, TallyView } from '../src/core/live';
import { tallyRecorded, tallyState, type Condition, type ShowRecord, type TieRecord } from '../src/core/show';
import { startFleetRig, type FleetRig } from './support/fleet';
import { controlRecord, pageRecord } from './support/records';
import { runAsOne, TestClient, until } from './support/rig';

/** Tally over real sockets: from what the switcher reports, through the ties, to panels and to the lamps on the cameras. */

const tie = (n: number, source: string, input: number): TieRecord => ({
  kind: 'tie',
  id: `tie-${n}`,
  version: 1,
  data: { source, switcher: 'dev-SW1', input },
});

const onAirC4: Condition = { op: 'equals', reading: { device: 'dev-C4', key: tallyState }, to: 'onAir' };
/** Whenever the fourth camera comes on air, by whatever way, its picture is sent to the second aux. */
const whenOnAir: ShowRecord = {
  kind: 'watch',
  id: 'when-on-air',
  version: 1,
  data: {
    name: 'Camera 4 on air',
    number: 1,
    order: 1,
    note: '',
    when: { is: 'true', condition: onAirC4, forMs: 0 },
    delayMs: 0,
    quietMs: 0,
    mostPerMinute: 60,
    sends: [{ device: 'dev-SW1', command: 'aux', params: { aux: 2, input: 4 } }],
  },
};
const lit = controlRecord('lit', { lamps: [{ when: onAirC4, show: 'onAir', word: 'AIR' }] });

let f: FleetRig;
let end: () => Promise<void>;
beforeAll(async () => {
  [f, end] = await runAsOne(() =>
    startFleetRig(
      ['SW1', 'C1', 'C2', 'C4', 'E1'],
      [tie(1, 'dev-C1', 1), tie(2, 'dev-C2', 2), tie(4, 'dev-C4', 4), whenOnAir, pageRecord('page', 'Page'), lit],
    ),
  );
  for (const tag of ['SW1', 'C1', 'C2', 'C4']) await f.linkIs(tag, 'up');
});
afterAll(() => end());

const by = (order: object) => f.operate('SW1', 'operate', order);
const lamps = async () =>
  Promise.all(['C1', 'C2', 'C4'].map(async (tag) => ((await f.state(tag)) as unknown as { tally: boolean }).tally));
const lampsAre = (...wanted: readonly boolean[]) =>
  until(lamps, (now) => JSON.stringify(now) === JSON.stringify(wanted));

describe('the lamps on the cameras', () => {
  it('follow the program, over UDP and TCP alike', async () => {
    await by({ verb: 'take', input: 4 });
    await lampsAre(false, false, true);
    await by({ verb: 'take', input: 1 });
    await lampsAre(true, false, false);
  });

  it('are lit together while a mix runs, and one goes out at its end', async () => {
    await by({ verb: 'rate', frames: 40 });
    await by({ verb: 'ready', input: 2 });
    await by({ verb: 'mix' });
    await lampsAre(true, true, false);
    await lampsAre(false, true, false);
  });

  it('are lit by a key and by a box of the layout on program', async () => {
    await by({ verb: 'take', input: 10 });
    await by({ verb: 'box', box: 1, on: true });
    await by({ verb: 'box', box: 2, on: false });
    await lampsAre(true, false, false);
    await by({ verb: 'take', input: 9 });
    await lampsAre(false, false, false);
  });

  it('are left alone while the aim is dry, and put right afterwards', async () => {
    f.client.say({ t: 'aim', aim: 'dry' });
    await by({ verb: 'take', input: 4 });
    const panel = await TestClient.open(f.rig.url.replace('/live', '/live?as=panel'));
    await until(
      async () => (await panel.follow<TallyView>('tally')).devices['dev-C4']?.onAir,
      (now) => now === true,
    );
    expect(await lamps()).toEqual([false, false, false]);
    f.client.say({ t: 'aim', aim: 'live' });
    await lampsAre(false, false, true);
  });

  it('are set again when a camera comes back', async () => {
    await f.operate('C4', 'faults', { refuse: true });
    await f.linkIs('C4', 'down');
    await by({ verb: 'take', input: 1 });
    await lampsAre(true, false, true);
    await f.operate('C4', 'faults', { refuse: false });
    await f.linkIs('C4', 'up');
    await lampsAre(true, false, false);
  });

  it('go out when nobody knows any more what is on air', async () => {
    await lampsAre(true, false, false);
    await f.operate('SW1', 'power', { on: false });
    await lampsAre(false, false, false);
    const view = await f.client.follow<TallyView>('tally');
    expect(view.devices['dev-C1']).toMatchObject({ tag: 'C1', onAir: 'unknown', next: 'unknown' });
    await f.operate('SW1', 'power', { on: true });
    await f.linkIs('SW1', 'up');
    await until(
      async () => (await f.client.follow<TallyView>('tally')).devices['dev-C1']?.onAir,
      (now) => now !== 'unknown',
    );
  });
});

describe('tally as a reading', () => {
  const states = () => ['C1', 'C2', 'C4'].map((tag) => f.reading(tag, tallyState) ?? 'unknown');
  const are = (...wanted: readonly string[]) =>
    until(
      () => states(),
      (now) => JSON.stringify(now) === JSON.stringify(wanted),
    );
  const aux2 = async () => ((await f.state('SW1')) as unknown as { readonly aux: readonly number[] }).aux[1];
  const input = (n: number, what = 'tally') => f.reading('SW1', `input[${n}].${what}`);

  it('of a device and of each input goes with program and preview', async () => {
    await by({ verb: 'take', input: 1 });
    await by({ verb: 'ready', input: 2 });
    await are('onAir', 'next', 'clear');
    expect([input(1), input(2), input(4), input(7)]).toEqual(['onAir', 'next', 'clear', 'clear']);
    // An input that nothing is tied to has one, too.
    await by({ verb: 'ready', input: 7 });
    await are('onAir', 'clear', 'clear');
    expect(input(7)).toBe('next');
  });

  it('fires a watch and lights a lamp by whatever way the picture comes on air', async () => {
    await by({ verb: 'take', input: 1 });
    await by({ verb: 'box', box: 1, on: false });
    await by({ verb: 'aux', aux: 2, input: 1 });
    await until(aux2, (now) => now === 1);
    // Through a box of the layout, which is taken.
    await f.send('SW1', 'boxSource', { box: 1, input: 4 });
    await by({ verb: 'box', box: 1, on: true });
    await by({ verb: 'take', input: 10 });
    await are('clear', 'clear', 'onAir');
    await until(aux2, (now) => now === 4);
    const panel = await TestClient.open(f.rig.url.replace('/live', '/live?as=panel'));
    await until(
      async () => (await panel.follow<PageView>('page:page')).faces['lit']?.lamp.show,
      (now) => now === 'onAir',
    );
    panel.close();
  });

  it('is recorded while something that is on air is being recorded', async () => {
    await by({ verb: 'take', input: 4 });
    await are('clear', 'clear', 'onAir');
    await f.send('E1', 'startRecord');
    await until(
      () => [f.reading('C4', tallyRecorded), f.reading('C1', tallyRecorded), input(4, 'recorded')],
      (now) => JSON.stringify(now) === '[true,false,true]',
    );
    await f.send('E1', 'stopRecord');
    await until(
      () => [f.reading('C4', tallyRecorded), input(4, 'recorded')],
      (now) => JSON.stringify(now) === '[false,false]',
    );
  });

  it('stays true while the device itself is gone, and is unknown while the switcher is', async () => {
    await by({ verb: 'take', input: 4 });
    await are('clear', 'clear', 'onAir');
    await f.operate('C4', 'faults', { refuse: true });
    await f.linkIs('C4', 'down');
    expect(f.reading('C4', tallyState)).toBe('onAir');
    await by({ verb: 'take', input: 1 });
    await are('onAir', 'clear', 'clear');
    await f.operate('C4', 'faults', { refuse: false });
    await f.linkIs('C4', 'up');
    await f.operate('SW1', 'power', { on: false });
    await are('unknown', 'unknown', 'unknown');
    expect(input(1)).toBeUndefined();
    await f.operate('SW1', 'power', { on: true });
    await are('onAir', 'clear', 'clear');
  });

  it('is told of the stand-ins during a rehearsal, and of the devices afterwards', async () => {
    await by({ verb: 'take', input: 4 });
    await are('clear', 'clear', 'onAir');
    f.client.say({ t: 'aim', aim: 'rehearse' });
    await until(
      () => states(),
      (now) => now[2] !== 'onAir' && !now.includes('unknown'),
    );
    f.client.say({ t: 'aim', aim: 'live' });
    await are('clear', 'clear', 'onAir');
  });
});

describe('the displays of the multiviewer', () => {
  interface Tile {
    readonly number: number;
    readonly text: string;
    readonly left: string;
  }
  const tiles = async () => ((await g.state('M1')) as unknown as { displays: Tile[] }).displays;
  const are = (wanted: readonly string[]) =>
    until(
      async () => (await tiles()).slice(0, wanted.length).map(({ text, left }) => `${text} ${left}`),
      (now) => JSON.stringify(now) === JSON.stringify(wanted),
      6000,
    );
  let g: FleetRig;
  let finish: () => Promise<void>;
  beforeAll(async () => {
    const displays = [1, 2, 3].map((input) => ({ number: input, switcher: 'dev-SW1', input }));
    [g, finish] = await runAsOne(() => startFleetRig(['SW1', 'M1'], [], undefined, [], { M1: { displays } }));
    await g.linkIs('SW1', 'up');
    await g.linkIs('M1', 'one-way');
  });
  afterAll(() => finish());

  it('bear the names of the inputs and follow program and preview', async () => {
    await g.operate('SW1', 'operate', { verb: 'take', input: 2 });
    await g.operate('SW1', 'operate', { verb: 'ready', input: 3 });
    await are(['Start tower off', 'Mid-course red', 'Finish green']);
    await g.operate('SW1', 'operate', { verb: 'take', input: 1 });
    await are(['Start tower red', 'Mid-course off', 'Finish green']);
  });

  it('are told again when a datagram was lost or the multiviewer was switched off', async () => {
    await g.operate('M1', 'operate', { verb: 'blank' });
    await are(['Start tower red', 'Mid-course off', 'Finish green']);
  });

  it('are dark and marked while the switcher cannot be heard', async () => {
    await g.operate('SW1', 'power', { on: false });
    await are(['? Input 1 off', '? Input 2 off', '? Input 3 off']);
    await g.operate('SW1', 'power', { on: true });
    await are(['Start tower red', 'Mid-course off', 'Finish green']);
  });
});
