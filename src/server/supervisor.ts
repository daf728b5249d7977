import { spawn, spawnSync } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import { watch } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { Child, type ChildSpec } from './child';
import { existsSync } from 'node:fs';
import { childVariables, type FromChild } from './child-messages';
import { lockFolder } from './folder-lock';
import { freePort } from './free-port';
import { LogCollector } from './log-collector';
import { readSettings, standinsFile, type Settings } from './settings';

/**
 * Starts everything and keeps it running: the engine with the front door, the prober, the stand-ins of rehearsals, Next.js at
 * lower priority, and in the demo its own stand-ins.
 *
 *   node dist/supervisor.js [--demo] [--dev]
 */
const demo = process.argv.includes('--demo');
const dev = process.argv.includes('--dev');

/**
 * The young generation of the engine's memory is large: with 200 devices reporting 20 times a second it is collected every two seconds
 * instead of three times a second, and each collection holds up a press for 4 to 10 ms. One thread does it: helpers would have to be
 * waited for while other processes have the cores (measured on two of them: 6 ms with helpers, 3 ms without).
 */
const liveFlags = ['--min-semi-space-size=64', '--max-semi-space-size=64', '--no-parallel-scavenge'];

/** A start takes a second or two; while developing everything is compiled first. */
const readyWithinMs = dev ? 180_000 : 30_000;

/** The engine is restarted after this long without an answer: what a hand holds moves on meanwhile. */
const engineAnswersWithinMs = 2500;

const settings = readSettings(process.env);
if (settings.ok) await run(settings.value);
else {
  for (const { path, message } of settings.error) console.error(`${path}: ${message}`);
  process.exitCode = 1;
}

async function run({ port, host, dataDir, standinPortBase, hasSpareEngine }: Settings): Promise<void> {
  const lock = lockFolder(dataDir, port);
  if (!lock.ok) {
    console.error(lock.error);
    process.exitCode = 1;
    return;
  }
  if (!(await prepared())) return lock.value.release();
  const logs = new LogCollector(process.stdout, () => onFailure());
  let onFailure = () => undefined as void;
  await logs.openFiles(dataDir);
  const env = {
    [childVariables.token]: randomBytes(32).toString('base64url'),
    [childVariables.nextPort]: String(await freePort()),
    [childVariables.controlPort]: String(await freePort()),
    [childVariables.proberPort]: String(await freePort()),
    [childVariables.rehearsalPort]: String(await freePort()),
    [childVariables.picturesPort]: String(await freePort()),
    [childVariables.mode]: dev ? 'dev' : 'production',
    [childVariables.standinPages]: `http://127.0.0.1:${standinPortBase}`,
    NODE_ENV: dev ? 'development' : 'production',
    NEXT_TELEMETRY_DISABLED: '1',
  };
  const children: Child[] = [];
  let announced = false;
  const onChange = () => {
    const processes = children.flatMap((child) => [child.status, ...child.spareStatus]);
    for (const child of children) child.tell({ type: 'processes', processes, failures: logs.failures.slice() });
    // Also for an engine that was started anew.
    if (standins?.ready && engine.ready) tellStandins(true);
    if (announced || !children.every((child) => child.ready)) return;
    announced = true;
    const name = host === '0.0.0.0' || host === '::' ? 'localhost' : host.includes(':') ? `[${host}]` : host;
    // Others come in over TLS; this computer itself may do without.
    const scheme = ['127.0.0.1', '::1', '0.0.0.0', '::'].includes(host) ? 'http' : 'https';
    console.log(`\nSorrelfinch is ready:  ${scheme}://${name}:${port}`);
  };
  const stop = async (code: number) => {
    if (stopping) return;
    stopping = true;
    // Next.js first, the engine last: presses on open panels count until the end.
    for (const child of [...children].reverse()) await child.stop();
    process.exit(code);
  };
  let stopping = false;
  /** The stand-ins, in the demo and wherever somebody has loaded the demo show. */
  let standins: Child | undefined;
  const tellStandins = (on: boolean, why?: string) =>
    engine.tell({ type: 'standins', on, ...(why === undefined ? {} : { why }) });
  const startStandins = () => {
    if (standins) return standins.ready && tellStandins(true);
    const args = nodeArgs('standins-main');
    const spec = { name: 'stand-ins', command: process.execPath, args, env, readyWithinMs, output: logs };
    const child = new Child(
      spec,
      onChange,
      // The program runs without them; the person who asked is told why they did not start.
      (message) => {
        logs.enter('stand-ins', 'warn', message);
        if (demo && !announced) return onFatal(message);
        void endStandins(message);
      },
    );
    standins = child;
    children.push(child);
    child.start();
  };
  const endStandins = async (why?: string) => {
    const child = standins;
    standins = undefined;
    await child?.stop();
    if (child) children.splice(children.indexOf(child), 1);
    onChange();
    tellStandins(false, why);
  };
  const onSaid = (message: Extract<FromChild, { type: 'want standins' }>) => {
    if (message.on) startStandins();
    else void endStandins();
  };
  const onFatal = (message: string) => {
    // For the person who started it, whatever the log looks like.
    console.error(message);
    void stop(1);
  };
  const add = (
    name: string,
    command: string,
    args: readonly string[],
    said?: typeof onSaid,
    live: Pick<ChildSpec, 'answersWithinMs' | 'hasSpare'> = {},
  ) => {
    const child = new Child(
      { name, command, args, env, readyWithinMs, output: logs, ...live },
      onChange,
      onFatal,
      said,
    );
    children.push(child);
    return child;
  };

  const lowered = hasNice();
  const engine = add(
    'engine',
    process.execPath,
    [...liveFlags, ...nodeArgs('engine-main')],
    onSaid,
    // While developing, a breakpoint may stop it, and a spare would run yesterday's code.
    dev ? {} : { answersWithinMs: engineAnswersWithinMs, hasSpare: hasSpareEngine },
  );
  add('prober', process.execPath, nodeArgs('prober-main'));
  add('rehearsal', process.execPath, nodeArgs('rehearsal-main'));
  // A press goes before a picture, and before a page of the desk.
  for (const name of ['pictures', 'next']) {
    const args = [process.execPath, ...nodeArgs(`${name}-main`)] as const;
    if (lowered) add(name, 'nice', ['-n', name === 'pictures' ? '5' : '10', ...args]);
    else add(name, args[0], args.slice(1));
  }
  process.on('SIGINT', () => void stop(0));
  process.on('SIGTERM', () => void stop(0));
  process.on('SIGHUP', () => void stop(0));
  onFailure = onChange;
  for (const child of children) child.start();
  if (demo || existsSync(standinsFile(dataDir))) startStandins();
  if (dev) watchSources(children);
}

/** While developing, the engine and the stand-ins are started anew when their sources change; Next.js reloads its own. */
function watchSources(children: readonly Child[]): void {
  const areas: Readonly<Record<string, readonly string[]>> = {
    engine: ['core', 'engine', 'server', 'store', 'drivers'],
    prober: ['core/net', 'core/diagnosis', 'prober'],
    pictures: ['core/picture', 'pictures'],
    'stand-ins': ['core/wire', 'standins'],
    rehearsal: ['core/wire', 'standins'],
  };
  for (const child of children) {
    let soon: NodeJS.Timeout | undefined;
    for (const area of areas[child.status.name] ?? []) {
      watch(`src/${area}`, { recursive: true }, (_event, file) => {
        if (file?.endsWith('.test.ts')) return;
        clearTimeout(soon);
        // An editor writes a file in several steps; one new start is enough for all of them.
        soon = setTimeout(() => void child.restart(), 300);
      });
    }
  }
}

/** Arguments for one of our programs: the built file, or its source through tsx. */
function nodeArgs(name: string): string[] {
  const source = import.meta.url.endsWith('.ts');
  const file = fileURLToPath(new URL(`./${name}.${source ? 'ts' : 'js'}`, import.meta.url));
  return source ? ['--import', 'tsx', file] : [file];
}

function prepared(): Promise<boolean> {
  const child = spawn(process.execPath, [...nodeArgs('prepare-main'), ...(demo ? ['--demo'] : [])], {
    stdio: 'inherit',
  });
  return new Promise((resolve) => {
    child.on('error', () => resolve(false));
    child.on('exit', (code) => {
      if (code !== 0) process.exitCode = 1;
      resolve(code === 0);
    });
  });
}

/** A priority set later reaches only one of Next.js's threads, so it is started through `nice` where there is one. */
function hasNice(): boolean {
  return process.platform !== 'win32' && spawnSync('nice', ['true'], { stdio: 'ignore' }).status === 0;
}
