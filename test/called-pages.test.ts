import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { PageView, StatusView } from '../src/core/live';
import { calledAmong } from '../src/core/page';
import type { Condition, PageRecord, ShowRecord } from '../src/core/show';
import { startFleetRig, type FleetRig } from './support/fleet';
import { controlRecord } from './support/records';
import { runAsOne, until } from './support/rig';

/** Pages that the switcher calls by several readings, and a zone that follows several, proved by what the devices do. */

const read = (key: string) => ({ device: 'dev-SW1', key });
const page = (id: string, order: number, more: Partial<PageRecord['data']> = {}): PageRecord => ({
  kind: 'page',
  id,
  version: 1,
  data: { name: id, order, columns: 4, rows: 1, note: '', zones: [], ...more },
});
const titlesOn: Condition = { op: 'equals', reading: read('key[1].on'), to: true };
const cameraWanted: Condition = {
  any: [
    { op: 'oneOf', reading: read('preview'), to: [1, 4] },
    { op: 'equals', reading: read('aux[1].source'), to: 4 },
  ],
};
const zone = {
  id: 'zone',
  title: 'Camera',
  col: 0,
  row: 0,
  cols: 1,
  rows: 1,
  pick: {
    devices: ['dev-C1', 'dev-C4'],
    follow: [read('preview'), read('key[1].source'), read('aux[2].source')],
    whenNone: 'last' as const,
  },
};
const records: ShowRecord[] = [
  page('titles', 1, { calledBy: { when: titlesOn } }),
  page('cameras', 2, { calledBy: { when: cameraWanted }, zones: [zone] }),
  page('rest', 3, { calledBy: { otherwise: true } }),
  controlRecord('focus', {
    page: 'cameras',
    responses: { tap: [{ device: 'dev-C1', command: 'autoFocus', params: { on: false } }] },
  }),
  { kind: 'tie', id: 'tie-1', version: 1, data: { source: 'dev-C1', switcher: 'dev-SW1', input: 1 } },
  { kind: 'tie', id: 'tie-4', version: 1, data: { source: 'dev-C4', switcher: 'dev-SW1', input: 4 } },
];

let f: FleetRig;
let end: () => Promise<void>;
beforeAll(async () => {
  [f, end] = await runAsOne(() => startFleetRig(['SW1', 'C1', 'C4'], records));
  for (const tag of ['SW1', 'C1', 'C4']) await f.linkIs(tag, 'up');
});
afterAll(() => end());

const status = () => f.client.follow<StatusView>('status');
/** Where a screen with all pages goes, or stays when it is `undefined`. */
const goesTo = async () => {
  const { pages, called } = await status();
  return calledAmong(pages, called);
};
const becomes = <T>(now: () => Promise<T>, wanted: T) => until(now, (is) => is === wanted);
const picked = async () => (await f.client.follow<PageView>('page:cameras')).layout.zones[0]?.pick?.now;

describe('a page that is called', () => {
  it('comes with any of several values and readings, by its place among those called, and leaves for the page of the rest', async () => {
    await f.send('SW1', 'aux', { aux: 1, input: 6 });
    await f.send('SW1', 'key', { key: 1, on: false });
    await f.send('SW1', 'ready', { input: 5 });
    await becomes(goesTo, 'rest');
    for (const input of [4, 1]) {
      await f.send('SW1', 'ready', { input });
      await becomes(goesTo, 'cameras');
    }
    await f.send('SW1', 'ready', { input: 5 });
    await becomes(goesTo, 'rest');
    // By an output, too, and by a key at the device itself.
    await f.operate('SW1', 'operate', { verb: 'aux', aux: 1, input: 4 });
    await becomes(goesTo, 'cameras');
    await f.operate('SW1', 'operate', { verb: 'key', key: 1, on: true });
    await becomes(goesTo, 'titles');
    await f.operate('SW1', 'operate', { verb: 'key', key: 1, on: false });
    await becomes(goesTo, 'cameras');
  });

  it('is left for no other while nobody knows what the switcher does', async () => {
    await f.operate('SW1', 'operate', { verb: 'aux', aux: 1, input: 6 });
    await becomes(goesTo, 'rest');
    await f.operate('SW1', 'faults', { hang: true });
    await f.linkIs('SW1', 'silent', 20_000);
    await becomes(goesTo, undefined);
    await f.operate('SW1', 'faults', { hang: false });
    await f.linkIs('SW1', 'up', 20_000);
    await becomes(goesTo, 'rest');
  });
});

describe('a zone that follows several readings', () => {
  it('drives the camera that the first of them names, keeps the last one while none does, and the camera does as told', async () => {
    await f.send('SW1', 'aux', { aux: 2, input: 6 });
    await f.send('SW1', 'keySource', { key: 1, input: 6 });
    await f.send('SW1', 'ready', { input: 4 });
    await becomes(picked, 'dev-C4');
    await f.send('SW1', 'ready', { input: 5 });
    await f.send('SW1', 'aux', { aux: 2, input: 1 });
    await becomes(picked, 'dev-C1');
    // What stands before decides.
    await f.send('SW1', 'keySource', { key: 1, input: 4 });
    await becomes(picked, 'dev-C4');
    await f.send('SW1', 'aux', { aux: 2, input: 6 });
    await f.send('SW1', 'keySource', { key: 1, input: 6 });
    await until(
      () => f.reading('SW1', 'key[1].source'),
      (now) => now === 6,
    );
    expect(await picked()).toBe('dev-C4');

    f.client.say({
      t: 'press',
      id: 'press-called',
      page: 'cameras',
      control: 'focus',
      gesture: 'tap',
      context: 'cameras',
    });
    expect((await f.client.outcome('press-called')).outcome).toBe('confirmed');
    expect([(await f.state('C4'))['focusAuto'], (await f.state('C1'))['focusAuto']]).toEqual([false, true]);
  });
});
