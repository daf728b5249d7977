import { fork, spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { demoShow } from '../demo/show';
import { freePort } from '../src/server/free-port';
import { commitEdit, openShow } from '../src/store';
import { BenchDevice } from './device';
import { barePath, ownPath, page, type Path } from './paths';
import { median, summarise, type Summary } from './stats';

/**
 * Press to device byte, and report to panel message, through Sorrelfinch and through the smallest program that does the
 * same, in one run: idle, and with four page loads in flight. The ratios count, not the milliseconds.
 *
 *   npm run bench            5,000 events a run, five runs each, taken in turn
 *   npm run bench -- 1000 3  other numbers
 */
const [events = 5000, runs = 5] = process.argv.slice(2).map(Number);
const loadedPage = `/pages/${page}`;
const loadsInFlight = 4;
const gapMs = 1;

const dataDir = mkdtempSync(join(tmpdir(), 'sorrelfinch-bench-'));
const children: ChildProcess[] = [];

try {
  const bareDevice = new BenchDevice(false);
  const ownDevice = new BenchDevice(true);
  const port = await freePort();
  const relayPort = await freePort();
  await startProgram(port, await ownDevice.listen());
  await startRelay(relayPort, await bareDevice.listen());
  const bare = await barePath(relayPort, bareDevice);
  const own = await ownPath(port, ownDevice);

  console.log(`${events} events a run, ${runs} runs in turn, the median of the runs; milliseconds.`);
  await warmUp([bare, own]);
  await measure('Press to device byte, idle', bare, own, 'press', { p50: 1.5, p99: 2 });
  await measure('Report to panel message, idle', bare, own, 'report', { p99: 2 });
  const load = fork('bench/page-load.mjs', [`http://127.0.0.1:${port}${loadedPage}`, String(loadsInFlight)]);
  children.push(load);
  await pause(2000);
  const before = await loadsOf(load);
  const startedAt = performance.now();
  await measure(`Press to device byte, ${loadsInFlight} loads of ${loadedPage} in flight`, bare, own, 'press', {
    p99: 3,
  });
  await measure(`Report to panel message, ${loadsInFlight} loads of ${loadedPage} in flight`, bare, own, 'report', {
    p99: 3,
  });
  const rate = ((await loadsOf(load)) - before) / ((performance.now() - startedAt) / 1000);
  console.log(`\nMeanwhile ${rate.toFixed(0)} pages a second were loaded.`);
  bare.close();
  own.close();
  bareDevice.close();
  ownDevice.close();
} finally {
  await Promise.all(children.map(end));
  rmSync(dataDir, { recursive: true, force: true });
}
process.exit(0);

async function measure(
  title: string,
  bare: Path,
  own: Path,
  what: 'press' | 'report',
  budget: Partial<Summary>,
): Promise<void> {
  const results = { bare: [] as Summary[], own: [] as Summary[] };
  for (let run = 0; run < runs; run += 1) {
    results.bare.push(await oneRun(bare, what));
    results.own.push(await oneRun(own, what));
  }
  console.log(`\n${title}`);
  for (const key of ['p50', 'p99'] as const) {
    const base = median(results.bare.map((each) => each[key]));
    const ours = median(results.own.map((each) => each[key]));
    const ratio = ours / base;
    const limit = budget[key];
    const verdict = limit === undefined ? '' : ratio <= limit ? `  within ${limit}x` : `  OVER ${limit}x`;
    console.log(
      `  ${key}  ${bare.name} ${base.toFixed(3)}   ${own.name} ${ours.toFixed(3)}   ratio ${ratio.toFixed(2)}x${verdict}`,
    );
  }
}

async function oneRun(path: Path, what: 'press' | 'report'): Promise<Summary> {
  const samples: number[] = [];
  for (let n = 0; n < events; n += 1) {
    samples.push(await path[what](n));
    await pause(gapMs);
  }
  return summarise(samples);
}

async function warmUp(paths: readonly Path[]): Promise<void> {
  for (const path of paths) {
    for (let n = 0; n < 500; n += 1) {
      await path.press(n);
      await path.report(n + 1);
    }
  }
}

async function startProgram(port: number, devicePort: number): Promise<void> {
  const { db, close } = openShow(dataDir);
  const records = demoShow(4400).map((record) =>
    record.kind === 'device' ? { ...record, data: { ...record.data, port: devicePort } } : record,
  );
  commitEdit(db, { title: 'Bench', changes: records.map((record) => ({ op: 'add', record })) }, 'bench', Date.now());
  close();
  const child = spawn(process.execPath, ['dist/supervisor.js'], {
    env: { ...process.env, PORT: String(port), DATA_DIR: dataDir },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  children.push(child);
  await new Promise<void>((resolve, reject) => {
    child.once('exit', () => reject(new Error('The program ended.')));
    child.stdout.on('data', (text) => String(text).includes('is ready') && resolve());
  });
  for (;;) {
    const health = (await (await fetch(`http://127.0.0.1:${port}/api/health`)).json()) as { ok: boolean };
    if (health.ok) return;
    await pause(50);
  }
}

async function startRelay(port: number, devicePort: number): Promise<void> {
  const child = fork('bench/bare-relay.mjs', [String(port), String(devicePort)]);
  children.push(child);
  await new Promise((resolve) => child.once('message', resolve));
}

function loadsOf(child: ChildProcess): Promise<number> {
  return new Promise((resolve) => {
    child.once('message', (message) => resolve((message as { loads: number }).loads));
    child.send('how many');
  });
}

async function end(child: ChildProcess): Promise<void> {
  if (child.exitCode !== null || child.signalCode !== null) return;
  const gone = new Promise((resolve) => child.once('exit', resolve));
  child.kill('SIGTERM');
  await gone;
}

function pause(ms: number): Promise<void> {
  return new Promise((resolve) => setTimeout(resolve, ms));
}
