import { mkdirSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { join } from 'node:path';
import { expect, it, onTestFinished } from 'vitest';
import visionSwitcher from '../src/drivers/vision-switcher.json';
import { apiOf, type Principal } from '../src/engine';
import { startRig, startSwitcher, until, type TestRig } from './support/rig';
import { deviceRecord } from './support/records';

const switcherRecord = (port: number) =>
  deviceRecord('SW1', { driver: 'vision-switcher', role: 'switcher', host: '127.0.0.1', port });

/** The engine's API as the front door serves it, for one kind of client. */
async function serve(rig: TestRig, kind: Principal['kind'] = 'desk'): Promise<(path: string) => Promise<Response>> {
  const api = apiOf(rig.engine.api);
  const server = createServer((req, res) => void api(req, res, { kind }));
  await new Promise<void>((resolve) => void server.listen(0, '127.0.0.1', resolve));
  onTestFinished(() => void server.close());
  return (path) => fetch(`http://127.0.0.1:${(server.address() as AddressInfo).port}${path}`);
}

it('tells monitoring systems of links and presses, by outcome and reason', async () => {
  const switcher = await startSwitcher();
  const rig = await startRig([switcherRecord(switcher.port)], [visionSwitcher]);
  await until(
    () => rig.engine.api.health().links[0]?.link.word,
    (word) => word === 'up',
  );
  const device = rig.engine.api.deviceByTag('SW1');
  if (!device) throw new Error('No switcher.');
  const request = { id: 'p-1', device, command: 'take', params: { input: 3 }, guard: true } as const;
  await new Promise<void>((resolve) =>
    rig.engine.api.presses.command(
      { ...request, gesture: 'tap', who: 'test' },
      (report) => 'sends' in report && resolve(),
    ),
  );
  const get = await serve(rig);
  const answer = await get('/metrics');
  expect(answer.headers.get('content-type')).toMatch(/^text\/plain/);
  const text = await answer.text();
  expect(text).toContain('sorrelfinch_links{link="up"} 1');
  expect(text).toContain('sorrelfinch_presses_total{outcome="confirmed",why="reported"} 1');
  expect(text).toMatch(/sorrelfinch_press_duration_seconds_count\{outcome="confirmed"\} 1/);
  expect(text).toContain('nodejs_eventloop_lag_seconds');
  const panels = await serve(rig, 'panel');
  expect((await panels('/metrics')).status).toBe(403);
});

it('makes a report without passwords, user names and addresses, and only for the desk', async () => {
  const record = switcherRecord(65_001);
  const secret = { ...record, data: { ...record.data, host: '127.9.8.7', user: 'operator-name' } };
  const rig = await startRig([secret], [visionSwitcher], { [record.id]: 'pass-word-of-the-device' });
  mkdirSync(join(rig.dataDir, 'logs'), { recursive: true });
  writeFileSync(
    join(rig.dataDir, 'logs', 'sorrelfinch.1.log'),
    '{"level":50,"msg":"it broke at 192.0.2.77 for operator-name"}\n',
  );
  rig.engine.onFailures([{ at: 5, process: 'next', message: 'it broke', cause: 'connect ECONNREFUSED 127.9.8.7:80' }]);
  const get = await serve(rig);
  const answer = await get('/api/report');
  expect(answer.headers.get('content-disposition')).toMatch(/^attachment; filename="sorrelfinch-report-/);
  const text = await answer.text();
  expect(text).not.toMatch(/127\.9\.8\.7|192\.0\.2\.77|operator-name|pass-word/);
  expect(JSON.parse(text)).toMatchObject({
    health: { links: [{ tag: 'SW1' }] },
    show: { devices: [{ data: { tag: 'SW1' } }] },
    log: ['{"level":50,"msg":"it broke at ••• for •••"}'],
  });
  expect((await (await serve(rig, 'automation'))('/api/report')).status).toBe(403);
});

it('answers a request that it cannot answer with a code, and logs why', async () => {
  const rig = await startRig([], []);
  const logged: unknown[] = [];
  const broken = Object.create(rig.engine.api, {
    health: {
      value: () => {
        throw new Error('of all things');
      },
    },
    log: { value: { error: (more: unknown) => logged.push(more) } },
  }) as typeof rig.engine.api;
  const api = apiOf(broken);
  const server = createServer((req, res) => void api(req, res, { kind: 'desk' }));
  await new Promise<void>((resolve) => void server.listen(0, '127.0.0.1', resolve));
  onTestFinished(() => void server.close());
  const answer = await fetch(`http://127.0.0.1:${(server.address() as AddressInfo).port}/api/health`);
  expect([answer.status, await answer.json()]).toMatchObject([500, { error: { code: 'failed' } }]);
  expect(logged).toMatchObject([{ path: '/api/health', cause: { message: 'of all things' } }]);
});
