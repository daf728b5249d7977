import { describe, expect, it } from 'vitest';
import type { Aim, StatusView } from '../src/core/live';
import type { ShowRecord } from '../src/core/show';
import visionSwitcher from '../src/drivers/vision-switcher.json';
import { startFleetRig, type FleetRig } from './support/fleet';
import { controlRecord, macroRecord } from './support/records';
import { TestClient, until } from './support/rig';

/** A rehearsal: private stand-ins in the place of the devices, on real sockets, and nothing of it reaches the devices. */

const key = (on: boolean) => ({ device: 'dev-SW1', command: 'key', params: { key: 1, on } });
const records: ShowRecord[] = [
  {
    kind: 'page',
    id: 'page',
    version: 1,
    data: { name: 'Rehearsal', order: 1, columns: 4, rows: 1, note: '', zones: [] },
  },
  controlRecord('take', { responses: { tap: [{ device: 'dev-SW1', command: 'take', params: { input: 7 } }] } }),
  controlRecord('held', { responses: { tap: [key(true)], release: [key(false)] } }),
  { kind: 'tie', id: 'tie-c1', version: 1, data: { source: 'dev-C1', switcher: 'dev-SW1', input: 1 } },
  macroRecord('long', [
    { steps: [{ id: 'a', at: 5000, does: { is: 'send', send: { device: 'dev-SW1', command: 'cut', params: {} } } }] },
  ]),
];

const aim = (f: FleetRig) => (f.client.topic('status') as StatusView).aim;
async function setAim(f: FleetRig, to: Aim): Promise<void> {
  f.client.say({ t: 'aim', aim: to });
  await until(
    () => aim(f),
    (now) => now === to,
  );
}
async function started(tags: Parameters<typeof startFleetRig>[0] = ['SW1', 'R1']): Promise<FleetRig> {
  const f = await startFleetRig(tags, records);
  for (const tag of tags) await f.linkIs(tag, 'up');
  await f.client.follow('status');
  return f;
}
/** What the device has on program, whatever is rehearsed. */
const program = async (f: FleetRig) => (await f.state('SW1')).program;

describe('a rehearsal', () => {
  it('takes the place of the devices, which stay as they are, and gives it back', async () => {
    const f = await started();
    await f.send('SW1', 'take', { input: 3 });
    await setAim(f, 'rehearse');
    await f.linkIs('SW1', 'up');
    expect((await f.state('SW1')).controllers).toBe(0);
    expect(await f.client.press('page', 'take')).toMatchObject({ outcome: 'confirmed' });
    await until(
      () => f.reading('SW1', 'program'),
      (now) => now === 7,
    );
    expect(await program(f)).toBe(3);
    // The stand-ins of the rehearsal have pages of their own.
    const { standinPages } = f.client.topic('status') as StatusView;
    const state = (await (await fetch(`${standinPages}/sw1/state`)).json()) as { program: number };
    expect(state.program).toBe(7);
    await setAim(f, 'live');
    await until(
      () => f.reading('SW1', 'program'),
      (now) => now === 3,
    );
    await expect(fetch(`${standinPages}/sw1/state`)).rejects.toThrow();
    expect(await f.client.press('page', 'take')).toMatchObject({ outcome: 'confirmed' });
    expect(await program(f)).toBe(7);
  });

  it('puts the tally lamps out before it lets the devices go', async () => {
    const f = await started(['SW1', 'C1']);
    await f.send('SW1', 'take', { input: 1 });
    const lamp = async () => (await f.state('C1')).tally as unknown;
    await until(lamp, (lit) => lit === true);
    await setAim(f, 'rehearse');
    expect(await lamp()).toBe(false);
    await setAim(f, 'live');
    await until(lamp, (lit) => lit === true);
  });

  it('reaches what hangs on a gateway, and signs in where that is wanted', async () => {
    const f = await started(['G1', 'S1', 'E1']);
    await setAim(f, 'rehearse');
    for (const tag of ['G1', 'S1', 'E1']) await f.linkIs(tag, 'up');
    expect(await f.send('S1', 'brightness', { level: 3 })).toMatchObject({ outcome: 'confirmed' });
    expect((await f.state('S1')).brightness).not.toBe(3);
  });

  it('does not begin while something is held or a macro runs, and says so', async () => {
    const f = await started();
    f.client.say({ t: 'press', id: 'held-press', page: 'page', control: 'held', gesture: 'hold' });
    const still = setInterval(() => f.client.say({ t: 'still', id: 'held-press' }), 200);
    await until(
      () => f.reading('SW1', 'key[1].on'),
      (now) => now === true,
    );
    f.client.say({ t: 'aim', aim: 'rehearse' });
    const refused = await f.client.next((each) => each.t === 'error');
    expect(refused).toMatchObject({ message: expect.stringContaining('held') as string });
    clearInterval(still);
    f.client.say({ t: 'release', id: 'held-press' });
    await until(
      () => f.reading('SW1', 'key[1].on'),
      (now) => now === false,
    );
    f.client.say({ t: 'run', id: 'run-long', macro: 'long', params: {}, aim: 'live' });
    await f.client.follow('runs');
    f.client.say({ t: 'aim', aim: 'rehearse' });
    await f.client.next((each) => each.t === 'error' && each.message.includes('macro runs'));
    expect(aim(f)).toBe('live');
  });

  it('leaves nothing open behind: what is held in it is not let go at the device', async () => {
    const f = await started();
    await f.operate('SW1', 'operate', { verb: 'key', key: 1, on: true });
    await setAim(f, 'rehearse');
    await f.linkIs('SW1', 'up');
    f.client.say({ t: 'press', id: 'held-press', page: 'page', control: 'held', gesture: 'hold' });
    await until(
      () => f.reading('SW1', 'key[1].on'),
      (now) => now === true,
    );
    await setAim(f, 'live');
    await f.linkIs('SW1', 'up');
    f.client.say({ t: 'release', id: 'held-press' });
    await f.send('SW1', 'take', { input: 2 });
    const { keys } = (await f.state('SW1')) as unknown as { keys: { on: boolean }[] };
    expect(keys[0]?.on).toBe(true);
  });

  it('owes the devices what it owed them before, and they get it when they are back', async () => {
    const f = await started();
    f.client.say({ t: 'press', id: 'held-press', page: 'page', control: 'held', gesture: 'hold' });
    await until(
      () => f.reading('SW1', 'key[1].on'),
      (now) => now === true,
    );
    // Gone while it is held: the device cannot be told.
    await f.operate('SW1', 'faults', { refuse: true });
    await f.operate('SW1', 'drop').catch(() => undefined);
    f.client.say({ t: 'release', id: 'held-press' });
    await f.linkIs('SW1', 'down');
    await setAim(f, 'rehearse');
    await f.linkIs('SW1', 'up');
    const keys = async () => ((await f.state('SW1')) as unknown as { keys: { on: boolean }[] }).keys;
    expect((await keys())[0]?.on).toBe(true);
    await setAim(f, 'live');
    await f.operate('SW1', 'faults', { refuse: false });
    await until(keys, (now) => now[0]?.on === false);
  });

  it('leaves nothing for the next engine to send when the program is killed in it', async () => {
    const f = await started();
    await f.operate('SW1', 'operate', { verb: 'key', key: 1, on: true });
    await setAim(f, 'rehearse');
    await f.linkIs('SW1', 'up');
    f.client.say({ t: 'press', id: 'held-press', page: 'page', control: 'held', gesture: 'hold' });
    await until(
      () => f.reading('SW1', 'key[1].on'),
      (now) => now === true,
    );
    await f.rig.crash();
    await f.rig.revive();
    const client = await TestClient.open(f.rig.url);
    await client.linkIs('dev-SW1', 'up');
    client.say({ t: 'aim', aim: 'live' });
    expect(await client.press('page', 'take')).toMatchObject({ outcome: 'confirmed' });
    const { keys } = (await f.state('SW1')) as unknown as { keys: { on: boolean }[] };
    expect(keys[0]?.on).toBe(true);
  });

  it('leaves out what nothing stands in for, and says so', async () => {
    const own = { ...visionSwitcher, id: 'own-switcher' };
    const f = await startFleetRig(['SW1', 'R1'], records, undefined, [own] as never, { SW1: { driver: own.id } });
    await f.linkIs('SW1', 'up');
    await f.client.follow('status');
    await setAim(f, 'rehearse');
    await f.linkIs('R1', 'up');
    expect(f.link('SW1')).toMatchObject({ word: 'off', detail: expect.stringContaining('not rehearsed') as string });
    expect(await f.client.press('page', 'take')).toMatchObject({ outcome: 'lost' });
  });

  it('is over when the program was: it comes back dry, with the devices, and nothing is sent', async () => {
    const f = await started();
    await setAim(f, 'rehearse');
    await f.linkIs('SW1', 'up');
    await f.rig.crash();
    await f.rig.revive();
    const client = await TestClient.open(f.rig.url);
    await client.linkIs('dev-SW1', 'up');
    expect((await client.follow<StatusView>('status')).aim).toBe('dry');
    const before = await program(f);
    expect(await client.press('page', 'take')).toMatchObject({ outcome: 'skipped' });
    expect(await program(f)).toBe(before);
  });
});
