import { fork, spawn, type ChildProcess } from 'node:child_process';
import { existsSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium } from '@playwright/test';
import { demoShow, deviceIds } from '../demo/show';
import type { ShowRecord } from '../src/core/show';
import { freePort } from '../src/server/free-port';
import { commitEdit, openShow } from '../src/store';
import { measureDecoding } from './decode';
import { BenchDevice } from './device';
import { measureEditor } from './editor';
import { measureNetwork } from './network';
import { barePath, ownPath, page, type Path } from './paths';
import { median, summarise, type Summary } from './stats';

/**
 * Press to device byte, and report to panel message, through Sorrelfinch and through the smallest program that does the
 * same, in one run: idle, and with four page loads in flight. The ratios count, not the milliseconds.
 *
 *   npm run bench                  5,000 events a run, five runs each, taken in turn
 *   npm run bench -- 1000 3        other numbers
 *   npm run bench -- 1000 3 crowd  one part of it: idle, load, crowd, decoding, network or editor
 */
const [events = 5000, runs = 5] = process.argv.slice(2, 4).map(Number);
const only = process.argv[4];
const wanted = (part: 'idle' | 'load' | 'crowd' | 'decoding' | 'network' | 'editor') =>
  only === undefined || only === part;
const loadedPage = `/pages/${page}`;
const loadsInFlight = 4;
const gapMs = 1;
const crowdSize = 200;
const crowdRate = 20;

const dataDir = mkdtempSync(join(tmpdir(), 'sorrelfinch-bench-'));
const children: ChildProcess[] = [];

try {
  console.log(`${events} events a run, ${runs} runs in turn, the median of the runs; milliseconds.`);
  if (wanted('idle') || wanted('load')) await measureOneDevice();
  if (wanted('crowd')) await measureCrowd();
  if (wanted('decoding')) measureDecoding();
  if (wanted('network')) await measureNetwork();
  if (wanted('editor')) await measureEditor();
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

async function measureOneDevice(): Promise<void> {
  const { bare, own, port, close } = await startBoth();
  if (wanted('idle')) {
    await measure('Press to device byte, idle', bare, own, 'press', { p50: 1.5, p99: 2 });
    await measure('Report to panel message, idle', bare, own, 'report', { p99: 2 });
  }
  if (wanted('load')) {
    const load = fork('bench/page-load.mjs', [`http://127.0.0.1:${port}${loadedPage}`, String(loadsInFlight)]);
    children.push(load);
    await pause(2000);
    const before = await loadsOf(load);
    const startedAt = performance.now();
    const meanwhile = `${loadsInFlight} loads of ${loadedPage} in flight`;
    await measure(`Press to device byte, ${meanwhile}`, bare, own, 'press', { p99: 3 });
    await measure(`Report to panel message, ${meanwhile}`, bare, own, 'report', { p99: 3 });
    const rate = ((await loadsOf(load)) - before) / ((performance.now() - startedAt) / 1000);
    console.log(`\nMeanwhile ${rate.toFixed(0)} pages a second were loaded.`);
    await end(load);
  }
  await close();
}

/** Press to device byte while engine and relay each hold a crowd of devices that report all the time. */
async function measureCrowd(): Promise<void> {
  const crowd = fork('bench/crowd.mjs', [String(crowdSize), String(crowdRate)]);
  children.push(crowd);
  const { ports } = await new Promise<{ ports: number[] }>((resolve) =>
    crowd.once('message', (m) => resolve(m as never)),
  );
  const { bare, own, port, close } = await startBoth(ports);
  const reportedOf = () =>
    new Promise<number>((resolve) => {
      crowd.once('message', (message) => resolve((message as { reported: number }).reported));
      crowd.send('how many');
    });
  const before = await reportedOf();
  const startedAt = performance.now();
  const meanwhile = `${crowdSize} devices reporting ${crowdRate} times a second each`;
  await measure(`Press to device byte, ${meanwhile}`, bare, own, 'press', { p50: 1.5, p99: 2 });
  const rate = ((await reportedOf()) - before) / ((performance.now() - startedAt) / 1000);
  const { links } = (await (await fetch(`http://127.0.0.1:${port}/api/health`)).json()) as {
    links: { link: { word: string }; faults: number }[];
  };
  const up = links.filter(({ link }) => link.word === 'up').length;
  const faults = links.reduce((all, each) => all + each.faults, 0);
  console.log(
    `\nMeanwhile each of the two got ${(rate / 2).toFixed(0)} reports a second; ${up} of ${links.length} devices are up, ${faults} frames could not be read.`,
  );
  await measureRigFrames(port);
  await close();
  await end(crowd);
}

/** How smoothly the rig screen draws while all those devices report: the time between two frames, in a real browser. */
async function measureRigFrames(port: number): Promise<void> {
  const executablePath = ['/usr/bin/chromium', '/usr/bin/chromium-browser'].find((path) => existsSync(path));
  if (!executablePath) return console.log('\nNo Chromium here: the rig screen was not measured.');
  const browser = await chromium.launch({ executablePath, args: ['--no-sandbox'] });
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    await page.goto(`http://127.0.0.1:${port}/rig`);
    await page.getByText(`${crowdSize + 1} devices`).waitFor();
    await page.waitForTimeout(3000);
    // As text: what is translated on the way would not be known in the browser.
    const frames = (await page.evaluate(`new Promise((resolve) => {
      const times = [];
      let last = performance.now();
      const until = last + 10000;
      requestAnimationFrame(function frame(now) {
        times.push(now - last);
        last = now;
        if (now < until) requestAnimationFrame(frame);
        else resolve(times);
      });
    })`)) as number[];
    const sorted = frames.slice(1).sort((a, b) => a - b);
    const at = (share: number) => (sorted[Math.floor(sorted.length * share)] ?? 0).toFixed(1);
    console.log(
      `\nRig screen with ${crowdSize + 1} devices, frames: p50 ${at(0.5)} ms, p95 ${at(0.95)} ms (aim 20 ms)`,
    );
  } finally {
    await browser.close();
  }
}

/** The program and the relay, each with a device of its own to be measured at, and the same crowd beside it. */
async function startBoth(crowd: readonly number[] = []) {
  const bareDevice = new BenchDevice(false);
  const ownDevice = new BenchDevice(true);
  const port = await freePort();
  const relayPort = await freePort();
  const program = await startProgram(port, await ownDevice.listen(), crowd);
  const relay = await startRelay(relayPort, await bareDevice.listen(), crowd);
  const bare = await barePath(relayPort, bareDevice);
  const own = await ownPath(port, ownDevice);
  await warmUp([bare, own]);
  const close = async () => {
    for (const path of [bare, own]) path.close();
    await Promise.all([end(program), end(relay)]);
    for (const device of [bareDevice, ownDevice]) device.close();
  };
  return { bare, own, port, close };
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

async function startProgram(port: number, devicePort: number, crowd: readonly number[]): Promise<ChildProcess> {
  const folder = mkdtempSync(join(dataDir, 'show-'));
  const { db, close } = openShow(folder);
  const records = demoShow(4400).flatMap((record): ShowRecord[] => {
    if (record.kind !== 'device') return [record];
    if (record.id !== deviceIds.SW1) return [];
    const at = (id: string, tag: string, port: number) => ({ ...record, id, data: { ...record.data, tag, port } });
    return [at(record.id, 'SW1', devicePort), ...crowd.map((each, n) => at(`dev-crowd-${n}`, `X${n}`, each))];
  });
  commitEdit(db, { title: 'Bench', changes: records.map((record) => ({ op: 'add', record })) }, 'bench', Date.now());
  close();
  const child = spawn(process.execPath, ['dist/supervisor.js'], {
    env: { ...process.env, PORT: String(port), DATA_DIR: folder },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  children.push(child);
  await new Promise<void>((resolve, reject) => {
    child.once('exit', () => reject(new Error('The program ended.')));
    child.stdout.on('data', (text) => String(text).includes('is ready') && resolve());
  });
  for (;;) {
    const health = (await (await fetch(`http://127.0.0.1:${port}/api/health`)).json()) as { ok: boolean };
    if (health.ok) return child;
    await pause(50);
  }
}

async function startRelay(port: number, devicePort: number, crowd: readonly number[]): Promise<ChildProcess> {
  const child = fork('bench/bare-relay.mjs', [port, devicePort, ...crowd].map(String));
  children.push(child);
  await new Promise((resolve) => child.once('message', resolve));
  return child;
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
