import { createSocket } from 'node:dgram';
import { once } from 'node:events';
import { createServer, type AddressInfo } from 'node:net';
import { expect, it } from 'vitest';
import { shippedDrivers } from '../src/drivers';
import type { AsRunRow, StatusView } from '../src/core/live';
import { openAsRun, newestAsRun } from '../src/store';
import { deviceRecord } from './support/records';
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
