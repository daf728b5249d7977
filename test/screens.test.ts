import { afterAll, beforeAll, expect, it } from 'vitest';
import type { AsRunRow, ScreenAct, ScreensView } from '../src/core/live';
import type { PanelRecord, ShowRecord } from '../src/core/show';
import { startFleetRig, type FleetRig } from './support/fleet';
import { controlRecord, macroRecord, pageRecord } from './support/records';
import { runAsOne, TestClient, until } from './support/rig';

/** Screens: who they are in the record, and where they can be sent. */

const panel = (id: string, name: string, pages: string[]): PanelRecord => ({
  kind: 'panel',
  id,
  version: 1,
  data: { name, path: id, order: 1, pages, hidden: [], brightness: 100 },
});
const records: ShowRecord[] = [
  pageRecord('page', 'Race'),
  pageRecord('sound', 'Sound'),
  controlRecord('take', { responses: { tap: [{ device: 'dev-SW1', command: 'take', params: { input: 3 } }] } }),
  panel('director', 'Director', []),
  panel('audio', 'Audio', ['sound']),
  macroRecord('go', [{ steps: [{ id: 'g', at: 0, does: { is: 'page', page: 'page' } }] }]),
];

let f: FleetRig;
let end: () => Promise<void>;
beforeAll(async () => {
  [f, end] = await runAsOne(() => startFleetRig(['SW1'], records));
  await f.linkIs('SW1', 'up');
});
afterAll(() => end());

const screen = async (id: string, own: string, title = 'tablet') => {
  const client = await TestClient.open(`${f.rig.url}?panel`);
  client.say({ t: 'here', title, panel: own, screen: id, cuts: 0, missed: 0 });
  return client;
};
let count = 0;
const pressed = async (client: TestClient) => {
  const id = `screens-${(count += 1)}`;
  client.say({ t: 'press', id, page: 'page', control: 'take', gesture: 'tap' });
  await client.outcome(id);
  const who = async () => {
    const { rows } = await f.client.follow<{ rows: readonly AsRunRow[] }>('as-run');
    return rows.flatMap((row) => (row.kind === 'press' && row.press === id ? [row.who] : []))[0];
  };
  return until(who, (now) => now !== undefined);
};
const goes = (client: TestClient) =>
  client.got.flatMap((message): ScreenAct[] => (message.t === 'do' && message.act.do === 'go' ? [message.act] : []));

it('who pressed is the panel and the screen by their names, the same after a reload', async () => {
  const first = await screen('abcd1234', 'director', 'left tablet');
  const who = await pressed(first);
  expect(who).toBe('Director, left tablet ·abcd');
  first.close();
  expect(await pressed(await screen('abcd1234', 'director', 'left tablet'))).toBe(who);
  expect(await pressed(await screen('wxyz9876', 'director', 'left tablet'))).not.toBe(who);
});

it('a macro that moves every panel reaches the screens whose panel has the page, and no others', async () => {
  const [director, audio] = [await screen('aaaa1111', 'director'), await screen('bbbb2222', 'audio')];
  await until(
    async () => Object.values(await f.client.follow<ScreensView>('screens')).map(({ panel: own }) => own),
    (own) => own.includes('audio') && own.includes('director'),
  );
  f.client.say({ t: 'run', id: 'go-run-1', macro: 'go', params: {}, aim: 'live' });
  await director.next((message) => message.t === 'do');
  await new Promise((resolve) => setTimeout(resolve, 200));
  expect(goes(director)).toEqual([{ do: 'go', page: 'page' }]);
  expect(goes(audio)).toEqual([]);
});

it('the desk cannot send a screen to a page that its panel does not have, and hears why', async () => {
  const audio = await screen('cccc3333', 'audio');
  const screens = await until(
    () => f.client.follow<ScreensView>('screens'),
    (view) => Object.values(view).some(({ who }) => who.endsWith('·cccc')),
  );
  const [name = ''] = Object.entries(screens).find(([, { who }]) => who.endsWith('·cccc')) ?? [];
  const from = f.client.got.length;
  f.client.say({ t: 'tell', to: name, act: { do: 'go', page: 'page' } });
  const refused = await f.client.next((message) => message.t === 'error', from);
  expect(refused).toMatchObject({ message: 'The panel of Audio, tablet ·cccc does not have that page.' });
  f.client.say({ t: 'tell', to: name, act: { do: 'go', page: 'sound' } });
  await audio.next((message) => message.t === 'do');
  expect(goes(audio)).toEqual([{ do: 'go', page: 'sound' }]);
});
