import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { TallyView } from '../src/core/live';
import type { TieRecord } from '../src/core/show';
import { startFleetRig, type FleetRig } from './support/fleet';
import { runAsOne, TestClient, until } from './support/rig';

/** Tally over real sockets: from what the switcher reports, through the ties, to panels and to the lamps on the cameras. */

const tie = (n: number, source: string, input: number): TieRecord => ({
  kind: 'tie',
  id: `tie-${n}`,
  version: 1,
  data: { source, switcher: 'dev-SW1', input },
});

let f: FleetRig;
let end: () => Promise<void>;
beforeAll(async () => {
  [f, end] = await runAsOne(() =>
    startFleetRig(['SW1', 'C1', 'C2', 'C4'], [tie(1, 'dev-C1', 1), tie(2, 'dev-C2', 2), tie(4, 'dev-C4', 4)]),
  );
  for (const tag of ['SW1', 'C1', 'C2', 'C4']) await f.linkIs(tag, 'up');
}, 30_000);
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
  }, 30_000);
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
  }, 15_000);

  it('are dark and marked while the switcher cannot be heard', async () => {
    await g.operate('SW1', 'power', { on: false });
    await are(['? Input 1 off', '? Input 2 off', '? Input 3 off']);
    await g.operate('SW1', 'power', { on: true });
    await are(['Start tower red', 'Mid-course off', 'Finish green']);
  }, 15_000);
});
