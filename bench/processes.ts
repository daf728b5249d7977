import { fork, spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { demoShow, deviceIds } from '../demo/show';
import type { ShowRecord } from '../src/core/show';
import { freePort } from '../src/server/free-port';
import { commitEdit, openShow } from '../src/store';
import { BenchDevice } from './device';
import { barePath, ownPath, page, type Path } from './paths';

const dataDir = mkdtempSync(join(tmpdir(), 'sorrelfinch-bench-'));
const children: ChildProcess[] = [];

export function started<T extends ChildProcess>(child: T): T {
  children.push(child);
  return child;
}

/** Ends everything that was started and takes its data away. */
export async function endAll(): Promise<void> {
  await Promise.all(children.map(end));
  rmSync(dataDir, { recursive: true, force: true });
}

export async function end(child: ChildProcess): Promise<void> {
  if (child.exitCode !== null || child.signalCode !== null) return;
  const gone = new Promise((resolve) => child.once('exit', resolve));
  child.kill('SIGTERM');
  await gone;
}

export function pause(ms: number): Promise<void> {
  return new Promise((resolve) => setTimeout(resolve, ms));
}

/** A folder for the data of one program. */
export const newFolder = (): string => mkdtempSync(join(dataDir, 'show-'));

/** The built program with a show of these records, once it is ready. */
export async function startProgram(
  port: number,
  records: readonly ShowRecord[],
  env: Readonly<Record<string, string>> = {},
): Promise<ChildProcess> {
  const folder = newFolder();
  const { db, close } = openShow(folder);
  // One edit may have 2,000 changes.
  for (let n = 0; n < records.length; n += 2000) {
    const changes = records.slice(n, n + 2000).map((record) => ({ op: 'add' as const, record }));
    commitEdit(db, { title: 'Bench', changes }, 'bench', Date.now());
  }
  close();
  const child = started(
    spawn(process.execPath, ['dist/supervisor.js'], {
      env: { ...process.env, PORT: String(port), DATA_DIR: folder, ...env },
      stdio: ['ignore', 'pipe', 'inherit'],
    }),
  );
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

/** The demo show with its switcher alone, at a port, and a crowd of further switchers beside it. */
export function showOfOneDevice(devicePort: number, crowd: readonly number[] = []): ShowRecord[] {
  return demoShow(4400).flatMap((record): ShowRecord[] => {
    if (record.kind !== 'device') return [record];
    if (record.id !== deviceIds.SW1) return [];
    const at = (id: string, tag: string, port: number) => ({ ...record, id, data: { ...record.data, tag, port } });
    return [at(record.id, 'SW1', devicePort), ...crowd.map((each, n) => at(`dev-crowd-${n}`, `X${n}`, each))];
  });
}

export async function startRelay(port: number, devicePort: number, crowd: readonly number[]): Promise<ChildProcess> {
  const child = started(fork('bench/bare-relay.mjs', [port, devicePort, ...crowd].map(String)));
  await new Promise((resolve) => child.once('message', resolve));
  return child;
}

/** The program and the relay, each with a device of its own to be measured at, and the same crowd beside it. */
export async function startBoth(crowd: readonly number[] = []) {
  const bareDevice = new BenchDevice(false);
  const ownDevice = new BenchDevice(true);
  const port = await freePort();
  const relayPort = await freePort();
  const program = await startProgram(port, showOfOneDevice(await ownDevice.listen(), crowd));
  const relay = await startRelay(relayPort, await bareDevice.listen(), crowd);
  const bare = await barePath(relayPort, bareDevice);
  const own = await ownPath(`ws://127.0.0.1:${port}`, ownDevice);
  await warmUp([bare, own]);
  const close = async () => {
    for (const path of [bare, own]) path.close();
    await Promise.all([end(program), end(relay)]);
    for (const device of [bareDevice, ownDevice]) device.close();
  };
  return { bare, own, port, relayPort, bareDevice, ownDevice, close };
}

export async function warmUp(paths: readonly Path[]): Promise<void> {
  for (const path of paths) {
    for (let n = 0; n < 500; n += 1) {
      await path.press(n);
      await path.report(n + 1);
    }
  }
}

/** The page that is loaded meanwhile. */
export const loadedPage = `/pages/${page}`;
