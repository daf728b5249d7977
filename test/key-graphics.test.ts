import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import type { AsRunRow, RowsView } from '../src/core/live';
import { ownId, type KeyWhen, type ShowRecord } from '../src/core/show';
import { startFleetRig, type FleetRig } from './support/fleet';
import { pageRecord } from './support/records';
import { runAsOne, until } from './support/rig';

/** Graphics that come with a key, over real sockets: what is promised is asserted at the switcher and at the title machine, in frames of their sync. */

const frames = 6;
const tie = (number: number, when: Partial<KeyWhen>, layer: number, more: object = {}): ShowRecord => ({
  kind: 'watch',
  id: `watch-${number}`,
  version: 1,
  data: {
    name: `Titles ${number}`,
    number,
    order: number,
    note: '',
    when: { is: 'key', switcher: 'dev-SW1', key: 1, preRoll: 0, ...when },
    delayMs: 0,
    quietMs: 0,
    mostPerMinute: 600,
    sends: [{ device: 'dev-T1', command: 'take', params: { layer } }],
    ...more,
  },
});
const out = (layer: number, more: object = {}): KeyWhen['out'] => ({
  sends: [{ device: 'dev-T1', command: 'out', params: { layer } }],
  withKey: true,
  ...more,
});

const records: ShowRecord[] = [
  pageRecord('page', 'Page'),
  tie(1, { preRoll: frames, out: out(1) }, 1),
  tie(2, { key: 2, input: 8, preRoll: frames, out: out(2, { withKey: false, afterMs: 400 }) }, 2),
];

let f: FleetRig;
let end: () => Promise<void>;
beforeAll(async () => {
  [f, end] = await runAsOne(() => startFleetRig(['SW1', 'T1'], records));
  for (const tag of ['SW1', 'T1']) await f.linkIs(tag, 'up');
  await f.send('T1', 'load', { layer: 1, template: 1 });
  await f.send('T1', 'load', { layer: 2, template: 1 });
});
afterAll(() => end());

interface Titles {
  readonly layers: readonly { readonly state: string }[];
  readonly begunAt: readonly number[];
}
interface Switcher {
  readonly keys: readonly { readonly on: boolean; readonly source: number }[];
  readonly keyedAt: readonly number[];
}
const titles = async () => (await f.state('T1')) as unknown as Titles;
const switcher = async () => (await f.state('SW1')) as unknown as Switcher;
const layerIs = (layer: number, ...states: readonly string[]) =>
  until(
    async () => (await titles()).layers[layer - 1]?.state,
    (state) => states.includes(state ?? ''),
  );
const keyIs = (n: number, on: boolean) =>
  until(
    async () => (await switcher()).keys[n - 1]?.on,
    (now) => now === on,
  );
const press = (on: boolean, n = 1) => f.send('SW1', 'key', { key: n, on });
const rows = async () => (await f.client.follow<RowsView<AsRunRow>>('as-run')).rows;
const lastLabel = async (words: string) =>
  until(
    async () => (await rows()).filter((row) => 'label' in row && String(row.label).includes(words)).at(-1),
    (row) => row !== undefined,
  );

beforeEach(async () => {
  for (const n of [1, 2]) {
    await press(false, n);
    await keyIs(n, false);
    await f.send('T1', 'out', { layer: n });
    await layerIs(n, 'ready');
  }
});

describe('graphics with a key', () => {
  it('begin so many frames before a key that the program switches', async () => {
    const off: number[] = [];
    for (let n = 0; n < 3; n += 1) {
      const result = await press(true);
      expect(result.outcome).toBe('confirmed');
      const [{ begunAt }, { keyedAt }] = [await titles(), await switcher()];
      off.push(Math.abs((keyedAt[0] ?? 0) - (begunAt[0] ?? 0) - frames));
      await press(false);
      await layerIs(1, 'ready');
    }
    // The engine and the stand-ins share one event loop here: a frame more or less is theirs, and one of three may meet a busy computer.
    expect(off.sort((a, b) => a - b)[1]).toBeLessThanOrEqual(1);
    await lastLabel(`SW1 key 1 by test, ${frames} frames before it`);
  });

  it('go out with the key', async () => {
    await press(true);
    await layerIs(1, 'on');
    await press(false);
    await layerIs(1, 'going', 'ready');
    await lastLabel('Titles 1 out (key 1 is off)');
  });

  it('fire at once, and say how late, when the key is switched at the device', async () => {
    await f.operate('SW1', 'operate', { verb: 'key', key: 1, on: true });
    await layerIs(1, 'coming', 'on');
    await lastLabel(`SW1 key 1 was switched on at the device: ${frames} frames late`);
    await f.operate('SW1', 'operate', { verb: 'key', key: 1, on: false });
    await layerIs(1, 'going', 'ready');
  });

  it('come only with their own source, and go out after their time while the key stays on', async () => {
    await f.send('SW1', 'keySource', { key: 2, input: 7 });
    await press(true, 2);
    await keyIs(2, true);
    expect((await titles()).layers[1]?.state).toBe('ready');
    await press(false, 2);
    await keyIs(2, false);
    await f.send('SW1', 'keySource', { key: 2, input: 8 });
    await press(true, 2);
    await layerIs(2, 'coming', 'on');
    await layerIs(2, 'going', 'ready');
    expect((await switcher()).keys[1]?.on).toBe(true);
    await lastLabel('Titles 2 out (0.4 s after its key)');
  });

  it('fire once for a key that is switched on twice, and not for one that is on', async () => {
    const before = f.reading('SW1', 'key[1].on');
    expect(before).toBe(false);
    const count = () => Number(f.rig.engine.running.readings.fresh(ownId, 'watch[1].count'));
    const from = count();
    const both = await Promise.all([press(true), press(true)]);
    expect(both.map(({ outcome }) => outcome)).toEqual(['confirmed', 'confirmed']);
    await press(true);
    await until(count, (now) => now === from + 1);
  });

  it('are taken out when the key is switched off before its pre-roll is over, and the key never comes on', async () => {
    const { keyedAt } = await switcher();
    const on = press(true);
    await layerIs(1, 'coming', 'on');
    await press(false);
    expect(await on).toMatchObject({ outcome: 'skipped', why: 'overtaken' });
    await layerIs(1, 'going', 'ready');
    // Longer than the pre-roll.
    await new Promise((resolve) => setTimeout(resolve, 400));
    expect((await switcher()).keyedAt).toEqual(keyedAt);
    expect((await switcher()).keys[0]?.on).toBe(false);
  });

  it('do nothing while their watch is off, and the key does not wait', async () => {
    const turn = (on: boolean) => f.send('SHOW', 'switchWatch', { watch: 1, on });
    await turn(false);
    const result = await press(true);
    expect(result.outcome).toBe('confirmed');
    expect(result.ms).toBeLessThan(150);
    expect((await titles()).layers[0]?.state).toBe('ready');
    await turn(true);
  });

  it('are told in the account of the press', async () => {
    const { id } = await press(true);
    const explained = f.rig.engine.api.explain(id);
    expect(JSON.stringify(explained)).toContain('Pre-roll of Titles 1');
  });

  it('leave the key off when the program is killed during the pre-roll', async () => {
    const { keyedAt } = await switcher();
    void press(true);
    await layerIs(1, 'coming', 'on');
    await f.rig.crash();
    await f.rig.revive();
    await f.linkIs('SW1', 'up');
    // Longer than the pre-roll.
    await new Promise((resolve) => setTimeout(resolve, 600));
    expect((await switcher()).keys[0]?.on).toBe(false);
    expect((await switcher()).keyedAt).toEqual(keyedAt);
  });

  it('of two watches on one key begin each in its own time before it', async () => {
    const from = f.rig.engine.running.show.watches.get('watch-2');
    if (from?.data.when.is !== 'key') throw new Error('There is no second watch.');
    const { input: _, ...when } = from.data.when;
    const to = { ...from, data: { ...from.data, when: { ...when, key: 1, preRoll: 3 } } };
    f.rig.edit({ title: 'Second watch', changes: [{ op: 'update', from, to }] });
    await until(
      () => f.rig.engine.running.show.watches.get('watch-2')?.data.when,
      (now) => now?.is === 'key' && now.key === 1,
    );
    await f.linkIs('T1', 'up');
    await press(true);
    const [{ begunAt }, { keyedAt }] = [await titles(), await switcher()];
    const ahead = (layer: number) => (keyedAt[0] ?? 0) - (begunAt[layer] ?? 0);
    expect(Math.abs(ahead(0) - frames)).toBeLessThanOrEqual(1);
    expect(Math.abs(ahead(1) - 3)).toBeLessThanOrEqual(1);
  });
});
