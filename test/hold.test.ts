import { randomBytes } from 'node:crypto';
import { createSocket } from 'node:dgram';
import { once } from 'node:events';
import { existsSync, mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { createServer, type AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, it } from 'vitest';
import { shippedDrivers } from '../src/drivers';
import {
  clockPanel,
  tallyPanel,
  type AccessView,
  type AsRunRow,
  type PageView,
  type StatusView,
} from '../src/core/live';
import type { PanelRecord } from '../src/core/show';
import type { Engine } from '../src/engine';
import { DiskReserve } from '../src/engine/record/disk-reserve';
import { LedgerFile } from '../src/engine/presses/ledger-file';
import { openAsRun, newestAsRun } from '../src/store';
import { startFleetRig } from './support/fleet';
import { controlRecord, deviceRecord, pageRecord } from './support/records';
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

it('what a device reported before it was up is doubtful once its connection breaks', async () => {
  let calls = 0;
  const server = createServer((socket) => {
    calls += 1;
    socket.on('error', () => undefined);
    // It greets and reports once; the rest of its state never comes.
    if (calls > 1) return void socket.destroy();
    socket.write('HAIL switcher 1 12\r\nNOW program 3\r\n');
    setTimeout(() => socket.destroy(), 300);
  });
  server.listen(0, '127.0.0.1');
  await once(server, 'listening');
  onTestFinished(() => server.close());
  const { port } = server.address() as AddressInfo;
  const device = deviceRecord('SW1', { driver: 'vision-switcher', host: '127.0.0.1', port, role: 'switcher' });
  const { engine } = await startRig([show, device], shippedDrivers);
  const program = () => engine.api.readings('SW1')?.readings.find(({ key }) => key === 'program');
  const seen = new Set<string>();
  await until(
    () => {
      const freshness = program()?.freshness;
      if (freshness) seen.add(freshness);
      return freshness;
    },
    (freshness) => freshness === 'unknown',
  );
  expect([...seen]).toEqual(['fresh', 'unknown']);
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
  for (const unknown of ['page:race;shift=s2', 'page:race;z1=dev-C3', 'page:race;z2=dev-C1', 'page:x;shift=s1', 'wire'])
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

const panelRecord = (more: Partial<PanelRecord['data']> = {}): PanelRecord => ({
  kind: 'panel',
  id: 'pan-1',
  version: 1,
  data: { name: 'Crew', path: 'crew', order: 1, pages: [], hidden: [], brightness: 100, ...more },
});

/** Lets a screen join the panel; returns its credential. */
async function joined(engine: Engine, url: string): Promise<string> {
  const desk = await TestClient.open(url);
  await until(
    async () => (await desk.follow<StatusView>('status')).panels.length,
    (count) => count === 1,
  );
  desk.say({ t: 'invite', panel: 'pan-1' });
  const invited = await desk.next((each) => each.t === 'invited');
  const result = engine.panels.join((invited as { token: string }).token, 'a tablet');
  if (!result.ok) throw new Error('It did not join.');
  return result.credential;
}

it('a screen that was thrown out is out also before it has said who it is, and what it holds stops', async () => {
  const move = { device: 'dev-C1', command: 'move', params: { direction: 'left', panSpeed: 1 } };
  const control = controlRecord('left', { responses: { tap: [], held: [move] } });
  const f = await startFleetRig(['C1'], [pageRecord('page', 'Page'), control, panelRecord()]);
  await f.linkIs('C1', 'up');
  const moving = async () => ((await f.state('C1')) as unknown as { moving: boolean }).moving;
  const credential = await joined(f.rig.engine, f.rig.url);
  const screen = await TestClient.open(`${f.rig.url}?credential=${credential}`);
  await screen.follow('status');
  const { closed } = screen;
  screen.say({ t: 'press', id: 'held-there', page: 'page', control: 'left', gesture: 'hold' });
  const still = setInterval(() => screen.say({ t: 'still', id: 'held-there' }), 200);
  onTestFinished(() => clearInterval(still));
  await until(moving, (now) => now);
  const desk = await TestClient.open(f.rig.url);
  const access = await desk.follow<AccessView>('access');
  expect(access.joined).toMatchObject([{ panel: 'pan-1', device: 'a tablet' }]);
  desk.say({ t: 'throw out', joined: access.joined[0]?.id ?? '' });
  expect(await closed).toBe(1008);
  await until(moving, (now) => !now, 1500);
  expect(f.rig.engine.panels.whoIs(credential)).toBeUndefined();
});

it.each([
  { screen: 'a tally phone', id: tallyPanel, path: 'tally', topic: 'tally', whole: { devices: {} } },
  { screen: 'a clock screen', id: clockPanel, path: 'clock', topic: 'clocks', whole: {} },
])('$screen follows its topic and can neither open a page nor press, whatever panels the show has', async (own) => {
  const named = { ...panelRecord(), id: own.id };
  const { engine, url } = await startRig(
    [show, pageRecord('page', 'Page'), controlRecord('go', {}), named],
    shippedDrivers,
  );
  const desk = await TestClient.open(url);
  await desk.follow<StatusView>('status');
  desk.say({ t: 'invite', panel: own.id });
  const { token } = (await desk.next((each) => each.t === 'invited')) as { token: string };
  const result = engine.panels.join(token, 'a phone');
  expect(result).toMatchObject({ ok: true, path: own.path });
  const credential = result.ok ? result.credential : '';
  const phone = await TestClient.open(`${url}?credential=${credential}`);
  expect(await phone.follow(own.topic)).toMatchObject(own.whole);
  phone.say({ t: 'sub', topics: ['page:page'] });
  await phone.next((each) => each.t === 'none' && each.topic === 'page:page');
  phone.say({ t: 'press', id: 'not-here', page: 'page', control: 'go', gesture: 'tap' });
  const refused = await phone.next((each) => each.t === 'error' || (each.t === 'press' && each.id === 'not-here'));
  expect(JSON.stringify(refused)).toContain('Nothing was sent');
});

it('an invitation that nobody has used can be withdrawn, and is good no more', async () => {
  const { engine, url } = await startRig([show, panelRecord()], shippedDrivers);
  const desk = await TestClient.open(url);
  await until(
    async () => (await desk.follow<StatusView>('status')).panels.length,
    (count) => count === 1,
  );
  desk.say({ t: 'invite', panel: 'pan-1' });
  const { token } = (await desk.next((each) => each.t === 'invited')) as { token: string };
  const [invite] = (await desk.follow<AccessView>('access')).invites;
  desk.say({ t: 'withdraw', invite: invite?.id ?? '' });
  await until(
    () => (desk.topic('access') as AccessView).invites.length,
    (count) => count === 0,
  );
  expect(engine.panels.join(token, 'a tablet')).toMatchObject({ ok: false });
  // A panel can neither see nor do any of this.
  const panel = await TestClient.open(`${url}?as=panel`);
  panel.say({ t: 'sub', topics: ['access'] });
  await panel.next((each) => each.t === 'none' && each.topic === 'access');
});

it('a screen that has joined is sent no control that its panel hides, whole or changed', async () => {
  const records = [
    show,
    pageRecord('page', 'Page'),
    controlRecord('seen'),
    controlRecord('secret', { col: 1 }),
    panelRecord({ hidden: ['secret'] }),
  ];
  const { engine, url, edit } = await startRig(records, shippedDrivers);
  const screen = await TestClient.open(`${url}?credential=${await joined(engine, url)}`);
  const whole = await screen.follow<PageView>('page:page');
  expect(Object.keys(whole.controls)).toEqual(['seen']);
  const renamed = (id: string, col: number, text: string) =>
    ({ op: 'update', from: controlRecord(id, { col }), to: controlRecord(id, { col, label: [{ text }] }) }) as const;
  edit({ title: 'Other labels', changes: [renamed('secret', 1, 'Still hidden'), renamed('seen', 0, 'New')] });
  await until(
    () => JSON.stringify(screen.topic('page:page')),
    (text) => text.includes('New'),
  );
  expect(JSON.stringify(screen.got)).not.toMatch(/Still hidden|"secret":/);
  const panel = panelRecord({ hidden: ['secret'] });
  edit({ title: 'Hide nothing', changes: [{ op: 'update', from: panel, to: panelRecord({ hidden: [] }) }] });
  await until(
    () => JSON.stringify(screen.topic('page:page')),
    (text) => text.includes('Still hidden'),
  );
});

it('nobody lets go of what another screen holds, or keeps it going', async () => {
  const move = { device: 'dev-C1', command: 'move', params: { direction: 'left', panSpeed: 1 } };
  const f = await startFleetRig(
    ['C1'],
    [pageRecord('page', 'Page'), controlRecord('left', { responses: { tap: [], held: [move] } })],
  );
  await f.linkIs('C1', 'up');
  const moving = async () => ((await f.state('C1')) as unknown as { moving: boolean }).moving;
  const [holder, other] = [await TestClient.open(f.rig.url), await TestClient.open(f.rig.url)];
  const still = setInterval(() => holder.say({ t: 'still', id: 'held-by-one' }), 200);
  onTestFinished(() => clearInterval(still));
  holder.say({ t: 'press', id: 'held-by-one', page: 'page', control: 'left', gesture: 'hold' });
  await until(moving, (now) => now);
  other.say({ t: 'release', id: 'held-by-one' });
  other.say({ t: 'press', id: 'held-by-one', page: 'page', control: 'left', gesture: 'hold' });
  expect(await other.outcome('held-by-one')).toMatchObject({ outcome: 'lost' });
  await sleep(700);
  expect(await moving()).toBe(true);
  clearInterval(still);
  const keeps = setInterval(() => other.say({ t: 'still', id: 'held-by-one' }), 100);
  onTestFinished(() => clearInterval(keeps));
  await until(moving, (now) => !now, 2500);
});

it('a device that floods and a screen that floods are named in Health, with what to do', async () => {
  const server = createServer((socket) => {
    const chunk = 'x 1\r\n'.repeat(20_000);
    const flood = setInterval(() => socket.writable && socket.writableLength < 4_000_000 && socket.write(chunk), 1);
    socket.on('error', () => undefined).on('close', () => clearInterval(flood));
  });
  server.listen(0, '127.0.0.1');
  await once(server, 'listening');
  onTestFinished(() => server.close());
  const { port } = server.address() as AddressInfo;
  const device = deviceRecord('X1', { driver: 'generic-text-tcp', host: '127.0.0.1', port, role: 'relays' });
  const { engine, url } = await startRig([show, device], shippedDrivers);
  const screen = await TestClient.open(`${url}?as=panel`);
  for (let n = 0; n < 2500; n += 1) screen.say({ t: 'ping' });
  const codes = () => engine.api.health().alerts.map(({ code }) => code);
  await until(codes, (all) => all.includes('screen-floods') && all.includes('device-floods'));
  expect(engine.api.health().alerts.find(({ code }) => code === 'screen-floods')?.text).toMatch(/panel 1/);
  expect(engine.api.health().alerts.find(({ code }) => code === 'device-floods')?.text).toMatch(/^X1 /);
  await answersWithin(url, 1500);
});

it('a secret key of another folder is named on every screen, with what to do', async () => {
  const device = deviceRecord('E1', { driver: 'streaming-encoder', host: '127.0.0.1', port: 9, role: 'encoder' });
  const rig = await startRig([show, device], shippedDrivers, { 'dev-E1': 'a-password' });
  expect(rig.engine.api.health().alerts).toEqual([]);
  writeFileSync(join(rig.dataDir, 'secret.key'), `${randomBytes(32).toString('base64')}\n`);
  await rig.restart();
  const panel = await TestClient.open(`${rig.url}?as=panel`);
  const { alerts } = await until(
    () => panel.follow<StatusView>('status'),
    (status) => status.alerts.length > 0,
  );
  expect(alerts).toEqual([
    { code: 'passwords-unreadable', text: expect.stringMatching(/secret\.key.*again/) as string },
  ]);
});

it('a damaged record is set aside in a sentence, and recording goes on', async () => {
  const rig = await startRig([show], shippedDrivers);
  await rig.engine.stop();
  writeFileSync(join(rig.dataDir, 'as-run.db'), 'no database '.repeat(2000));
  for (const ending of ['-wal', '-shm']) rmSync(join(rig.dataDir, `as-run.db${ending}`), { force: true });
  await rig.revive();
  await until(
    () => rig.engine.api.health(),
    ({ recording, alerts }) => recording && alerts.some(({ code }) => code === 'record-set-aside'),
  );
  const aside = readdirSync(rig.dataDir).filter((name) => name.startsWith('as-run.db.damaged-'));
  expect(aside).toHaveLength(1);
});

it('a full disk gives its reserve to the ledger and the outcomes, and is said on every screen while that lasts', async () => {
  const dir = mkdtempSync(join(tmpdir(), 'sorrelfinch-'));
  onTestFinished(() => rmSync(dir, { recursive: true, force: true }));
  const reserve = new DiskReserve(dir);
  expect(await reserve.take()).toBe(true);
  let full = true;
  const write = () => {
    // As on a disk that has room again once the reserve is gone.
    if (full && existsSync(join(dir, 'reserved.space'))) throw Object.assign(new Error('full'), { code: 'ENOSPC' });
    return 5;
  };
  expect(reserve.write(write)).toBe(5);
  expect(existsSync(join(dir, 'reserved.space'))).toBe(false);
  const never = () => {
    throw Object.assign(new Error('full'), { code: 'ENOSPC' });
  };
  expect(() => reserve.write(never)).toThrow('full');
  full = false;
  const ledger = new LedgerFile(dir, { write: never } as unknown as DiskReserve);
  ledger.owe({ id: 'a', device: 'd', command: 'stop', params: {} });
  expect(ledger.isFailing).toBe(true);
  ledger.close();
});
