import { spawn, spawnSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, rmSync, truncateSync, writeFileSync, existsSync, readdirSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Program } from '../e2e/program';
import { openShow, recordsOfKind, writeBackup } from '../src/store';
import { Panel } from './panel';
import { becomes, note, sleep } from './report';

const newFolder = () => mkdtempSync(join(tmpdir(), 'sorrelfinch-attack-'));

/** Starts the program on a folder; returns what it says when it ends by itself. */
function endsWith(dataDir: string, env: Readonly<Record<string, string>> = {}): Promise<string> {
  const child = spawn(process.execPath, ['dist/supervisor.js', '--demo'], {
    env: { ...process.env, PORT: '22951', STANDIN_PORT_BASE: '22952', DATA_DIR: dataDir, ...env },
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  let said = '';
  for (const stream of [child.stdout, child.stderr]) stream.on('data', (chunk) => (said += String(chunk)));
  const giveUp = setTimeout(() => child.kill('SIGTERM'), 20_000);
  return new Promise((resolve) =>
    child.once('exit', () => {
      clearTimeout(giveUp);
      resolve(said.trim());
    }),
  );
}

/** Damaged, empty, missing and unreadable files, each named in a sentence; nothing becomes a new show in silence. */
export async function damage(): Promise<void> {
  const forms: Record<string, (file: string) => void> = {
    'show.db is text': (file) => writeFileSync(file, 'no database '.repeat(4000)),
    'show.db is cut in half': (file) => truncateSync(file, 100_000),
    'show.db is empty': (file) => truncateSync(file, 0),
    'show.db is gone': (file) => rmSync(file),
  };
  for (const [name, damageIt] of Object.entries(forms)) {
    const dir = newFolder();
    const first = await Program.start(dir);
    await first.stop();
    const { db, close } = openShow(dir);
    writeBackup(db, dir, 'daily', Date.now());
    const controls = recordsOfKind(db, 'control').length;
    close();
    damageIt(join(dir, 'show.db'));
    for (const ending of ['-wal', '-shm']) rmSync(join(dir, `show.db${ending}`), { force: true });
    const said = await endsWith(dir);
    const named = /RECOVER=backup/.test(said) && !/is ready/.test(said);
    const again = await Program.start(dir, undefined, { RECOVER: 'backup' });
    await again.stop();
    const opened = openShow(dir);
    const back = recordsOfKind(opened.db, 'control').length;
    opened.close();
    note(
      name,
      `${named ? 'named' : `not named: ${said.slice(0, 80)}`}; ${back} of ${controls} controls back`,
      named && back === controls,
    );
    rmSync(dir, { recursive: true, force: true });
  }
  const dir = newFolder();
  const first = await Program.start(dir);
  await first.stop();
  writeFileSync(join(dir, 'as-run.db'), 'no database '.repeat(4000));
  for (const ending of ['-wal', '-shm']) rmSync(join(dir, `as-run.db${ending}`), { force: true });
  writeFileSync(join(dir, 'secret.key'), 'damaged\n');
  const second = await Program.start(dir);
  const codes = (await second.health()).alerts.map(({ code }) => code);
  const { recording } = await second.health();
  await second.stop();
  const all = recording && codes.includes('record-set-aside') && codes.includes('passwords-unreadable');
  note('as-run.db and secret.key damaged', `${codes.join(', ')}; ${recording ? 'recording' : 'not recording'}`, all);
  rmSync(dir, { recursive: true, force: true });
  const file = join(newFolder(), 'a-file');
  writeFileSync(file, '');
  const said = await endsWith(join(file, 'data'));
  note('a folder that cannot be written', said.slice(0, 60), /cannot be written/.test(said));
}

/** A second copy on the same folder, and the folder after the first was killed. */
export async function twoCopies(): Promise<void> {
  const first = await Program.start();
  const said = await endsWith(first.dataDir);
  note(
    'a second copy on the same folder',
    said.split('\n').pop()?.slice(-90) ?? '',
    /in use by another copy/.test(said),
  );
  await first.stop('SIGKILL');
  const second = await Program.start(first.dataDir);
  note('the same folder after the first was killed', 'starts', true);
  await second.stop();
}

/** Ten years ahead: nothing is deleted for that. */
export async function clock(): Promise<void> {
  const dir = newFolder();
  const first = await Program.start(dir);
  const rowsOf = async (program: Program) =>
    ((await (await fetch(`${program.url}/desk/as-run?kind=press`)).json()) as { rows: { n: number }[] }).rows;
  const panel = new Panel(first.url, 'clock', ['page-race']);
  await becomes(() => panel.lamp('page-race', 'ctl-program-1') !== undefined, 10_000);
  for (let n = 0; n < 30; n += 1) panel.press('page-race', `ctl-program-${(n % 6) + 1}`);
  await sleep(1500);
  const before = (await rowsOf(first)).map(({ n }) => n);
  panel.close();
  await first.stop();
  const ahead = join(dir, 'ahead.cjs');
  writeFileSync(ahead, 'const now = Date.now; Date.now = () => now() + 10 * 365 * 86400000;');
  const second = await Program.start(dir, undefined, { NODE_OPTIONS: `--require ${ahead}` });
  const after = new Set((await rowsOf(second)).map(({ n }) => n));
  const lost = before.filter((n) => !after.has(n)).length;
  note(
    'a clock that jumps ten years ahead',
    `${before.length} presses before, ${lost} of them gone`,
    lost === 0 && before.length >= 30,
  );
  await second.stop();
  rmSync(dir, { recursive: true, force: true });
}

/** A disk that fills up while a show runs, where this user may make one. */
export async function fullDisk(): Promise<void> {
  const dir = newFolder();
  const mounted = spawnSync('mount', ['-t', 'tmpfs', '-o', 'size=24m', 'tmpfs', dir]).status === 0;
  if (!mounted) return note('a full disk', 'not tried: no small disk can be made here (needs root)', true);
  const data = join(dir, 'data');
  mkdirSync(data);
  const program = await Program.start(data);
  const panel = new Panel(program.url, 'full', ['page-race']);
  try {
    await becomes(() => panel.lamp('page-race', 'ctl-program-1') !== undefined, 10_000);
    await becomes(() => existsSync(join(data, 'reserved.space')), 10_000);
    spawnSync('dd', ['if=/dev/zero', `of=${join(dir, 'filler')}`, 'bs=64k']);
    const ids = Array.from({ length: 40 }, (_, n) => panel.press('page-race', `ctl-program-${(n % 6) + 1}`));
    await becomes(() => ids.every((id) => panel.outcomes.has(id)), 5000);
    const confirmed = ids.filter((id) => ['confirmed', 'late'].includes(panel.outcomes.get(id) ?? '')).length;
    const reserve = existsSync(join(data, 'reserved.space'));
    await program.stop('SIGKILL');
    rmSync(join(dir, 'filler'), { force: true });
    const again = await Program.start(data);
    await sleep(1000);
    const { rows } = (await (await fetch(`${again.url}/desk/as-run?kind=press`)).json()) as {
      rows: { press: string }[];
    };
    const kept = ids.filter((id) => rows.some(({ press }) => press === id)).length;
    const half = readdirSync(data, { recursive: true }).filter((name) => String(name).endsWith('.part')).length;
    note(
      'a full disk, then killed',
      `${confirmed} of 40 presses confirmed, ${kept} on record, reserve ${reserve ? 'kept' : 'used'}, ${half} half files`,
      confirmed === 40 && kept === 40 && half === 0,
    );
    await again.stop();
  } finally {
    panel.close();
    await program.stop('SIGKILL');
    spawnSync('umount', [dir]);
    rmSync(dir, { recursive: true, force: true });
  }
}
