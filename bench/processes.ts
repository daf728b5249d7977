import { fork, spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { demoPasswords, demoShow, deviceIds } from '../demo/show';
import type { ShowRecord } from '../src/core/show';
import { freePort } from '../src/server/free-port';
import { commitEdit, openShow, writePassword } from '../src/store';
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
  for (const [device, password] of demoPasswords) writePassword(db, folder, device, password);
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

/** The demo show with its switcher alone, at a port. */
export function showOfOneDevice(devicePort: number): ShowRecord[] {
  return demoShow(4400).flatMap((record): ShowRecord[] => {
    if (record.kind !== 'device') return [record];
    return record.id === deviceIds.SW1 ? [{ ...record, data: { ...record.data, port: devicePort } }] : [];
  });
}

/** How many displays of the multiviewer show an input of one of the crowd. */
const shownOfCrowd = 16;

/**
 * The whole demo show on stand-ins, with its switcher at a port, and a crowd of further switchers that are tied to it and to one another, some
 * of them on the multiviewer.
 */
export function showOfCrowd(devicePort: number, crowd: readonly number[], standinBase: number): ShowRecord[] {
  const idOf = (n: number) => `dev-crowd-${n}`;
  const inputOf = (n: number) => (n % 12) + 1;
  const ties = crowd.map((_, n): ShowRecord => {
    // Every second one feeds the demo's switcher, the others feed those.
    const switcher = n % 2 === 0 ? deviceIds.SW1 : idOf(n - 1);
    const data = { source: idOf(n), switcher, input: inputOf(Math.floor(n / 2)) };
    return { kind: 'tie', id: `tie-crowd-${n}`, version: 1, data };
  });
  const more = crowd.slice(0, shownOfCrowd).map((_, n) => ({ number: 60 + n, switcher: idOf(n), input: inputOf(n) }));
  const rig = demoShow(standinBase).flatMap((record): ShowRecord[] => {
    if (record.kind !== 'device') return [record];
    if (record.id === deviceIds.M1)
      return [{ ...record, data: { ...record.data, displays: [...(record.data.displays ?? []), ...more] } }];
    if (record.id !== deviceIds.SW1) return [record];
    const at = (id: string, tag: string, port: number) => ({ ...record, id, data: { ...record.data, tag, port } });
    return [at(record.id, 'SW1', devicePort), ...crowd.map((each, n) => at(idOf(n), `X${n}`, each))];
  });
  return [...rig, ...ties];
}

/** The stand-ins of the demo on ports of their own. */
export async function startStandins(base: number): Promise<ChildProcess> {
  const env = { ...process.env, STANDIN_PORT_BASE: String(base) };
  const child = started(fork('dist/standins-main.js', { env }));
  const said = await new Promise<{ type: string }>((resolve) => child.once('message', (m) => resolve(m as never)));
  if (said.type !== 'ready') throw new Error('The stand-ins did not start.');
  return child;
}

async function startRelay(port: number, devicePort: number, crowd: readonly number[]): Promise<ChildProcess> {
  const child = started(fork('bench/bare-relay.mjs', [port, devicePort, ...crowd].map(String)));
  await new Promise((resolve) => child.once('message', resolve));
  return child;
}

/** The program and the relay, each with a device of its own to be measured at, and the same crowd beside it. */
export async function startBoth(crowd: readonly number[] = [], hasWholeRig = crowd.length > 0) {
  const bareDevice = new BenchDevice(false);
  const ownDevice = new BenchDevice(true);
  const port = await freePort();
  const relayPort = await freePort();
  const devicePort = await ownDevice.listen();
  // Below the ports that the system gives to others.
  const standinBase = 15_000 + (process.pid % 500) * 20;
  const standins = hasWholeRig ? await startStandins(standinBase) : undefined;
  const records = standins ? showOfCrowd(devicePort, crowd, standinBase) : showOfOneDevice(devicePort);
  const program = await startProgram(port, records);
  const relay = await startRelay(relayPort, await bareDevice.listen(), crowd);
  const bare = await barePath(relayPort, bareDevice);
  const own = await ownPath(`ws://127.0.0.1:${port}`, ownDevice);
  await warmUp([bare, own]);
  const close = async () => {
    for (const path of [bare, own]) path.close();
    await Promise.all([program, relay, ...(standins ? [standins] : [])].map(end));
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
