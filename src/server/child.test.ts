import { expect, it, onTestFinished } from 'vitest';
import { until } from '../../test/support/rig';
import { Child } from './child';

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

const staysUp =
  "process.send({ type: 'ready' }); process.on('disconnect', () => process.exit(0)); setInterval(() => {}, 1000);";

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
  const { fatal } = start(
    "process.send({ type: 'fatal', message: 'Port 1 is in use.' }); setInterval(() => {}, 1000);",
  );
  await until(
    () => fatal.length,
    (count) => count === 1,
  );
  expect(fatal).toEqual(['Port 1 is in use.']);
});

it('is ended and started again when a start hangs, and left alone once it is ready', async () => {
  const { child } = start('setInterval(() => {}, 1000)', 150);
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
