import { createSocket } from 'node:dgram';
import { once } from 'node:events';
import { createServer, type AddressInfo } from 'node:net';
import { expect, it } from 'vitest';
import { shippedDrivers } from '../src/drivers';
import type { AsRunRow, StatusView } from '../src/core/live';
import { openAsRun, newestAsRun } from '../src/store';
import { startFleetRig } from './support/fleet';
import { deviceRecord, pageRecord } from './support/records';
import { onTestFinished, startRig, TestClient, until } from './support/rig';

/** What the engine keeps while devices, clients and disks misbehave: the short form of `npm run attack`. */

const sleep = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));
const show = { kind: 'show', id: 'show', version: 1, data: { name: 'Attacked', note: '' } } as const;

it('a device that hangs up as soon as it is called is called less and less often', async () => {
  let calls = 0;
  const server = createServer((socket) => {
    calls += 1;
    socket.destroy();
  });
  server.listen(0, '127.0.0.1');
  await once(server, 'listening');
  onTestFinished(() => server.close());
  const { port } = server.address() as AddressInfo;
  const device = deviceRecord('X1', { driver: 'generic-text-tcp', host: '127.0.0.1', port, role: 'relays' });
  await startRig([show, device], shippedDrivers);
  await until(
    () => calls,
    (count) => count > 2,
  );
  const before = calls;
  await sleep(3000);
  // At most one a second once the waits have grown: 100, 200, 400, 800 ms and so on from the second failure.
  expect(calls - before).toBeGreaterThan(0);
  expect(calls - before).toBeLessThanOrEqual(9);
});

it('a multiviewer whose port is closed fills neither the record nor a core', async () => {
  // A port that nobody listens at: it was free a moment ago.
  const socket = createSocket('udp4');
  socket.bind(0, '127.0.0.1');
  await once(socket, 'listening');
  const { port } = socket.address();
  await new Promise<void>((resolve) => socket.close(() => resolve()));
  const switcher = deviceRecord('SW1', { driver: 'vision-switcher', host: '127.0.0.1', port: 9, role: 'switcher' });
  const displays = [1, 2, 3, 4].map((input) => ({ number: input, switcher: switcher.id, input }));
  const viewer = deviceRecord('M1', { driver: 'multiviewer', host: '127.0.0.1', port, role: 'tally', displays });
  const { engine, dataDir } = await startRig([show, switcher, viewer], shippedDrivers);
  await sleep(4000);
  const cpu = process.cpuUsage();
  await sleep(4000);
  const { user, system } = process.cpuUsage(cpu);
  expect((user + system) / 4_000_000, 'of a core').toBeLessThan(0.3);
  await engine.stop();
  const { db, close } = openAsRun(dataDir);
  const rows = newestAsRun(db, 100_000);
  close();
  const about = (row: AsRunRow) => row.kind === 'link' && row.device === 'M1';
  expect(rows.filter(about).length).toBeLessThanOrEqual(8);
  expect(rows.length).toBeLessThan(400);
});

it('the link of a device that comes and goes still says what is wrong', async () => {
  const server = createServer((socket) => socket.destroy());
  server.listen(0, '127.0.0.1');
  await once(server, 'listening');
  onTestFinished(() => server.close());
  const { port } = server.address() as AddressInfo;
  const device = deviceRecord('X1', { driver: 'generic-text-tcp', host: '127.0.0.1', port, role: 'relays' });
  const { url } = await startRig([show, device], shippedDrivers);
  const client = await TestClient.open(url);
  await client.follow('status');
  await client.linkIs('dev-X1', 'down');
  expect((client.topic('status') as StatusView).devices['dev-X1']?.link).toMatchObject({ cause: 'closed' });
});

const answersWithin = async (url: string, mostMs: number) => {
  const other = await TestClient.open(url);
  const from = performance.now();
  await other.follow('status');
  expect(performance.now() - from).toBeLessThan(mostMs);
};

it('a client that follows twenty thousand made-up topics is refused them, and the engine goes on', async () => {
  const { url } = await startRig([show, pageRecord('race', 'Race')], shippedDrivers);
  const client = await TestClient.open(`${url}?as=panel`);
  const { closed } = client;
  const topics = Array.from({ length: 20_000 }, (_, n) => (n % 2 ? `page:race;shift=s${n}` : `page:made-up-${n}`));
  for (let n = 0; n < topics.length; n += 64) client.say({ t: 'sub', topics: topics.slice(n, n + 64) });
  await answersWithin(url, 1000);
  expect(await closed).toBe(1008);
  expect(client.got.filter((each) => each.t === 'whole')).toEqual([]);
  expect(client.got.some((each) => each.t === 'error' && each.message.startsWith('Too many pages'))).toBe(true);
  await answersWithin(url, 200);
});

it('pages are followed only on levels and with picks that they have, and no more than a screen shows', async () => {
  const shifts = [{ id: 's1', name: 'One' }];
  const zones = [{ id: 'z1', title: 'Z', col: 0, row: 0, cols: 1, rows: 1, pick: { devices: ['dev-C1', 'dev-C2'] } }];
  const { url } = await startRig([show, pageRecord('race', 'Race', { shifts, zones })], shippedDrivers);
  const client = await TestClient.open(`${url}?as=panel`);
  const answer = async (topic: string) => {
    const from = client.got.length;
    client.say({ t: 'sub', topics: [topic] });
    return (await client.next((each) => 'topic' in each && each.topic === topic, from)).t;
  };
  for (const known of ['page:race', 'page:race;shift=s1', 'page:race;shift=s1;z1=dev-C2', 'status'])
    expect(await answer(known), known).toBe('whole');
  for (const unknown of [
    'page:race;shift=s2',
    'page:race;z1=dev-C3',
    'page:race;z2=dev-C1',
    'page:race;z1',
    'page:x;shift=s1',
    'foo',
    'wire',
    'readings:',
  ])
    expect(await answer(unknown), unknown).toBe('none');
});

it('a client that asks for everything again and again is told, and let go', async () => {
  const { url } = await startRig([show], shippedDrivers);
  const client = await TestClient.open(url);
  const { closed } = client;
  client.say({ t: 'sub', topics: ['status', 'as-run', 'wire'] });
  const nonsense = 'x'.repeat(15_000);
  for (let n = 0; n < 6000; n += 1) client.sayRaw(JSON.stringify({ t: 'again', topic: 'status', nonsense }));
  expect(await closed).toBe(1008);
  await answersWithin(url, 200);
});

it('a screen that was thrown out is out also before it has said who it is, and what it holds stops', async () => {
  const f = await startFleetRig(['C1']);
  await f.linkIs('C1', 'up');
  const panel = {
    kind: 'panel',
    id: 'pan-1',
    version: 1,
    data: { name: 'P', path: 'p', order: 1, pages: [], hidden: [], brightness: 100 },
  };
  f.rig.edit({ title: 'A panel', changes: [{ op: 'add', record: panel as never }] });
  const desk = await TestClient.open(f.rig.url);
  await until(
    async () => (await desk.follow<StatusView>('status')).panels.length,
    (count) => count === 1,
  );
  desk.say({ t: 'invite', panel: 'pan-1' });
  const invited = await desk.next((each) => each.t === 'invited');
  const joined = f.rig.engine.panels.join((invited as { token: string }).token, 'a tablet');
  if (!joined.ok) throw new Error('It did not join.');
  const screen = await TestClient.open(`${f.rig.url}?credential=${joined.credential}`);
  await screen.follow('status');
  const { closed } = screen;
  const [id = ''] = joined.credential.split('.');
  desk.say({ t: 'throw out', joined: id });
  expect(await closed).toBe(1008);
  expect(f.rig.engine.panels.whoIs(joined.credential)).toBeUndefined();
});
