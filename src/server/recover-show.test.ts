import { spawn, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { existsSync, mkdtempSync, readdirSync, rmSync, statSync, truncateSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { beforeEach, describe, expect, it, onTestFinished } from 'vitest';
import { openAsRun, openShow, recordsOfKind, writeBackup } from '../store';
import { lockFolder } from './folder-lock';
import { prepare } from './prepare';

let dir: string;
beforeEach(() => {
  dir = mkdtempSync(join(tmpdir(), 'sorrelfinch-'));
  onTestFinished(() => rmSync(dir, { recursive: true, force: true }));
});

const controls = () => {
  const { db, close } = openShow(dir);
  try {
    return recordsOfKind(db, 'control').length;
  } finally {
    close();
  }
};
/** The demo show with a backup of it. */
const withBackup = () => {
  prepare(dir, true, 4400);
  const { db, close } = openShow(dir);
  writeBackup(db, dir, 'daily', Date.now());
  close();
};
const damage = (how: 'text' | 'pages' | 'empty' | 'gone') => {
  const file = join(dir, 'show.db');
  for (const ending of ['-wal', '-shm']) rmSync(`${file}${ending}`, { force: true });
  if (how === 'gone') rmSync(file);
  else if (how === 'empty') truncateSync(file, 0);
  else if (how === 'text') writeFileSync(file, 'no database '.repeat(5000));
  else {
    const { size } = statSync(file);
    truncateSync(file, Math.floor(size / 2));
  }
};

describe.each(['text', 'pages', 'empty', 'gone'] as const)('a show.db that is damaged (%s)', (how) => {
  it('is never replaced in silence, and comes back from its backup', () => {
    withBackup();
    damage(how);
    expect(() => prepare(dir, true, 4400)).toThrowError(/RECOVER=backup.*lost.*RECOVER=new.*Nothing is deleted/);
    expect(() => prepare(dir, false, 4400)).toThrowError(/RECOVER=backup/);
    prepare(dir, true, 4400, 'backup');
    expect(controls()).toBe(388);
    if (how !== 'gone') expect(readdirSync(dir).some((name) => name.startsWith('show.db.damaged-'))).toBe(true);
  });
});

it('begins a new show where that is asked for, beside the damaged one', () => {
  withBackup();
  damage('text');
  prepare(dir, false, 4400, 'new');
  expect(controls()).toBe(0);
  expect(readdirSync(dir).some((name) => name.startsWith('show.db.damaged-'))).toBe(true);
});

it('says that there is no backup where there is none', () => {
  prepare(dir, true, 4400);
  damage('text');
  expect(() => prepare(dir, true, 4400)).toThrowError(/There is no backup.*RECOVER=new/);
});

it('lets nobody else on this computer read databases, backups and the key', () => {
  withBackup();
  openAsRun(dir).close();
  const files = readdirSync(dir, { recursive: true, withFileTypes: true }).filter((entry) => entry.isFile());
  expect(files.length).toBeGreaterThan(3);
  const open = files.filter((entry) => (statSync(join(entry.parentPath, entry.name)).mode & 0o077) !== 0);
  expect(open.map(({ name }) => name)).toEqual([]);
});

const holder = (folder: string): ChildProcess =>
  spawn(
    process.execPath,
    [
      '--import',
      'tsx',
      '-e',
      `import('./src/server/folder-lock.ts').then(({ lockFolder }) => {
        const lock = lockFolder(${JSON.stringify(folder)}, 4567);
        console.log(lock.ok ? 'locked' : lock.error);
        setInterval(() => lock, 1000);
      })`,
    ],
    { stdio: ['ignore', 'pipe', 'inherit'] },
  );

describe('a data folder', () => {
  it('is for one copy at a time: the second is told who has it, and gets it once that is killed', async () => {
    const first = holder(dir);
    onTestFinished(() => void first.kill('SIGKILL'));
    const [said] = (await once(first.stdout ?? first, 'data')) as [Buffer];
    expect(String(said).trim()).toBe('locked');
    const second = lockFolder(dir, 4300);
    expect(second).toMatchObject({ ok: false, error: expect.stringMatching(/in use.*port 4567.*DATA_DIR/) as string });
    expect(!second.ok && second.error).toContain(String(first.pid));
    first.kill('SIGKILL');
    await once(first, 'exit');
    const third = lockFolder(dir, 4300);
    expect(third.ok).toBe(true);
    if (third.ok) third.value.release();
  });

  it('that cannot be made or written is named in a sentence', () => {
    const file = join(dir, 'a-file');
    writeFileSync(file, '');
    const lock = lockFolder(join(file, 'inside'), 4300);
    expect(lock).toMatchObject({ ok: false, error: expect.stringMatching(/cannot be written.*DATA_DIR/) as string });
    expect(existsSync(join(file, 'inside'))).toBe(false);
  });
});
