import { expect, it, onTestFinished } from 'vitest';
import { until } from '../../test/support/rig';
import { Child } from './child';
import type { ProcessOutput } from './spare';

/** Keeps what is said of the processes. */
const said: string[] = [];
const output: ProcessOutput = {
  follow: (_process, out, err) => void [out, err].forEach((stream) => stream?.resume()),
  enter: (process, _level, message) => said.push(`${process}: ${message}`),
};

function start(
  code: string,
  readyWithinMs = 30_000,
  answersWithinMs?: number,
): { child: Child; fatal: string[]; pids: Set<number> } {
  const fatal: string[] = [];
  const pids = new Set<number>();
  const spec = {
    name: 'trial',
    command: process.execPath,
    args: ['-e', code],
    env: {},
    readyWithinMs,
    answersWithinMs,
    output,
  };
  const child: Child = new Child(
    spec,
    () => {
      const { pid } = child.status;
      if (pid !== undefined) pids.add(pid);
    },
    (message) => fatal.push(message),
  );
  onTestFinished(() => child.stop());
  child.start();
  return { child, fatal, pids };
}

const obeys =
  "process.on('disconnect', () => process.exit(0)); process.on('message', (m) => m.type === 'stop' && process.exit(0));";
const staysUp = `process.send({ type: 'ready' }); ${obeys}`;

it('is running once it says so, and starts again when it is killed', async () => {
  const { child, pids } = start(staysUp);
  await until(
    () => child.status.state,
    (state) => state === 'running',
  );
  process.kill(child.status.pid ?? 0, 'SIGKILL');
  await until(
    () => child.status,
    ({ state, restarts }) => state === 'running' && restarts === 1,
  );
  expect(pids.size).toBe(2);
});

it('starts again with growing waits when it dies each time', async () => {
  const { child } = start('process.exit(1)');
  const startedAt = performance.now();
  await until(
    () => child.status.restarts,
    (restarts) => restarts >= 4,
  );
  // At once, then after 250 ms and 500 ms.
  expect(performance.now() - startedAt).toBeGreaterThan(740);
  expect(child.status.state).toBe('waiting');
});

it('stops for good when it is told to, even when it does not want to', async () => {
  const { child } = start(
    "process.send({ type: 'ready' }); process.on('SIGTERM', () => {}); process.on('disconnect', () => {}); setInterval(() => {}, 1000);",
  );
  await until(
    () => child.status.state,
    (state) => state === 'running',
  );
  const { pid = 0 } = child.status;
  await child.stop();
  expect(child.status.state).toBe('stopped');
  expect(() => process.kill(pid, 0)).toThrow();
});

it('hands on what a child cannot get over', async () => {
  const { fatal } = start(`process.send({ type: 'fatal', message: 'Port 1 is in use.' }); ${obeys}`);
  await until(
    () => fatal.length,
    (count) => count === 1,
  );
  expect(fatal).toEqual(['Port 1 is in use.']);
});

it('is ended and started again when a start hangs, and left alone once it is ready', async () => {
  const { child } = start(obeys, 150);
  await until(
    () => child.status.restarts,
    (restarts) => restarts >= 2,
  );
  const { child: well } = start(staysUp, 2500);
  await until(
    () => well.status.state,
    (state) => state === 'running',
  );
  await new Promise((resolve) => setTimeout(resolve, 2700));
  expect(well.status).toMatchObject({ state: 'running', restarts: 0 });
});

it('is ended and started again when it hangs, and only then', async () => {
  const answers = "process.on('message', (m) => m.type === 'ping' && process.send({ type: 'pong' }));";
  const { child } = start(`${staysUp} ${answers}`, 30_000, 1000);
  const isRunning = (restarts: number) =>
    until(
      () => child.status,
      (status) => status.state === 'running' && status.restarts === restarts,
    );
  await isRunning(0);
  await new Promise((resolve) => setTimeout(resolve, 2500));
  expect(child.status.restarts).toBe(0);
  const stoppedAt = performance.now();
  process.kill(child.status.pid ?? 0, 'SIGSTOP');
  await isRunning(1);
  expect(performance.now() - stoppedAt).toBeLessThan(4000);
});

const spareCode = `
  const spare = process.env.SORRELFINCH_SPARE === '1';
  const ready = () => process.send({ type: 'ready' });
  ${obeys}
  process.on('message', (message) => message.type === 'begin' && ready());
  if (spare) process.send({ type: 'standing by' });
  else ready();
`;

function startWithSpare() {
  const spec = {
    name: 'trial',
    command: process.execPath,
    args: ['-e', spareCode],
    env: {},
    readyWithinMs: 30_000,
    output,
  };
  const child = new Child(
    { ...spec, hasSpare: true, spareAfterMs: 20 },
    () => undefined,
    () => undefined,
  );
  onTestFinished(() => child.stop());
  child.start();
  return { child, spare: () => until(() => child.spareStatus[0]?.pid, Boolean) };
}

it('hands over to its spare when it is killed, and gets a new spare', async () => {
  const { child, spare } = startWithSpare();
  const first = await spare();
  process.kill(child.status.pid ?? 0, 'SIGKILL');
  await until(
    () => child.status,
    ({ state, restarts }) => state === 'running' && restarts === 1,
  );
  expect(child.status.pid).toBe(first);
  expect(await spare()).not.toBe(first);
});

it('starts anew when its spare has gone as well', async () => {
  const { child, spare } = startWithSpare();
  const first = (await spare()) ?? 0;
  process.kill(first, 'SIGKILL');
  await until(
    () => child.spareStatus.length,
    (count) => count === 0,
  );
  process.kill(child.status.pid ?? 0, 'SIGKILL');
  await until(
    () => child.status,
    ({ state, restarts }) => state === 'running' && restarts === 1,
  );
  expect(child.status.pid).not.toBe(first);
});

it('leaves no spare behind when it is stopped', async () => {
  const { child, spare } = startWithSpare();
  const first = (await spare()) ?? 0;
  await child.stop();
  expect(() => process.kill(first, 0)).toThrow();
});
