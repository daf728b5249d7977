import { copyFileSync, mkdirSync, mkdtempSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import Database from 'better-sqlite3';
import { drizzle } from 'drizzle-orm/better-sqlite3';
import { migrate } from 'drizzle-orm/better-sqlite3/migrator';
import { describe, expect, it, onTestFinished } from 'vitest';
import { demoShow } from '../../demo/show';
import { readShowFile, type ControlRecord, type ShowRecord } from '../core/show';
import { newestAsRun, pruneAsRun, replayJournal, writeAsRun, type AsRunText } from './as-run';
import { asRun } from './as-run-schema';
import { backups, dailyBackup, readBackup, writeBackup } from './backups';
import { commitEdit, redoEdit, undoEdit, undoState } from './edits';
import { driversKey, installDriver, installedDrivers, removeDriver } from './drivers';
import { historyFigures, trimHistory } from './history';
import { headSeq, runningRevision } from './meta';
import { inTransaction, openAsRun, openShow } from './open';
import { allRecords, changesSince, draftManifest, getRecord } from './records';
import { openSecrets, sealSecrets } from './sealed';
import { devicesWithPassword, readPasswords, writePassword } from './secrets';
import { leaveService, putInService, recordsByContent, revisionManifest, serviceState, stepBack } from './revisions';

function tempDir(): string {
  const dir = mkdtempSync(join(tmpdir(), 'sorrelfinch-'));
  onTestFinished(() => rmSync(dir, { recursive: true, force: true }));
  return dir;
}

function openDemo(dir = tempDir()) {
  const { db, close } = openShow(dir);
  onTestFinished(close);
  if (allRecords(db).length === 0) {
    commitEdit(
      db,
      { title: 'Start', changes: demoShow(4400).map((record) => ({ op: 'add', record })) },
      'preparation',
      1,
    );
  }
  const cut = () => getRecord(db, 'ctl-cut') as ControlRecord;
  const label = (text: string, window = 'mine') => {
    const from = cut();
    return commitEdit(
      db,
      {
        title: `Label ${text}`,
        changes: [{ op: 'update', from, to: { ...from, data: { ...from.data, label: [{ text }] } } }],
      },
      window,
      2,
    );
  };
  return { db, dir, cut, label, close };
}

const text = (control: ControlRecord) =>
  control.data.label.map((segment) => ('text' in segment ? segment.text : '{}')).join('');

describe('edits in the store', () => {
  it('are saved, and survive closing and opening', () => {
    const { label, dir, close } = openDemo();
    label('Hard cut');
    close();
    const again = openShow(dir);
    expect(text(getRecord(again.db, 'ctl-cut') as ControlRecord)).toBe('Hard cut');
    expect(undoState(again.db, 'mine')).toEqual({ undo: 'Label Hard cut', redo: undefined });
    again.close();
  });

  it('are taken back and done again, one by one, by their own window', () => {
    const { db, cut, label } = openDemo();
    label('One');
    label('Two');
    expect(undoEdit(db, 'other')).toMatchObject({ ok: false, error: { code: 'nothing-left' } });
    undoEdit(db, 'mine');
    expect(text(cut())).toBe('One');
    undoEdit(db, 'mine');
    expect(text(cut())).toBe('Cut');
    redoEdit(db, 'mine');
    redoEdit(db, 'mine');
    expect(text(cut())).toBe('Two');
    expect(redoEdit(db, 'mine').ok).toBe(false);
  });

  it('bring a removed record back, and a new edit forgets what was taken back', () => {
    const { db, cut, label } = openDemo();
    commitEdit(db, { title: 'Remove', changes: [{ op: 'remove', record: cut() }] }, 'mine', 2);
    expect(getRecord(db, 'ctl-cut')).toBeUndefined();
    undoEdit(db, 'mine');
    expect(text(cut())).toBe('Cut');
    label('New');
    expect(undoState(db, 'mine')).toEqual({ undo: 'Label New', redo: undefined });
  });

  it('are refused whole when another window was faster, and undo does not run over it', () => {
    const { db, cut, label } = openDemo();
    const stale = cut();
    label('Mine');
    const late = commitEdit(
      db,
      {
        title: 'Late',
        changes: [
          { op: 'remove', record: getRecord(db, 'ctl-auto') as ControlRecord },
          { op: 'update', from: stale, to: stale },
        ],
      },
      'other',
      3,
    );
    expect(late).toMatchObject({ ok: false, error: { code: 'changed-meanwhile' } });
    expect(getRecord(db, 'ctl-auto')).toBeDefined();
    label('Theirs', 'other');
    expect(undoEdit(db, 'mine')).toMatchObject({ ok: false, error: { code: 'changed-meanwhile' } });
    expect(text(cut())).toBe('Theirs');
  });

  it('can be followed from any edit number by what has changed since', () => {
    const { db, cut, label } = openDemo();
    const seq = headSeq(db);
    label('One');
    commitEdit(
      db,
      { title: 'Remove', changes: [{ op: 'remove', record: getRecord(db, 'ctl-auto') as ControlRecord }] },
      'mine',
      2,
    );
    const { puts, removes } = changesSince(db, seq);
    expect([puts.map(({ id }) => id), removes.map(({ id }) => id)]).toEqual([[cut().id], ['ctl-auto']]);
    undoEdit(db, 'mine');
    expect(changesSince(db, seq).removes).toEqual([]);
  });
});

describe('revisions', () => {
  it('keep what was put in service, each content once', () => {
    const { db, label } = openDemo();
    expect(serviceState(db)).toEqual({ running: null, drafted: 0, canStepBack: false });
    const first = putInService(db, '', 1);
    label('Draft');
    expect(serviceState(db)).toEqual({ running: first, drafted: 1, canStepBack: false });
    const second = putInService(db, '', 2);
    expect(serviceState(db)).toEqual({ running: second, drafted: 0, canStepBack: true });
    const before = revisionManifest(db, first);
    const changed = [...draftManifest(db)].filter(([id, hash]) => before.get(id) !== hash);
    expect(changed.map(([id]) => id)).toEqual(['ctl-cut']);
    const [old] = recordsByContent(db, [{ id: 'ctl-cut', hash: before.get('ctl-cut') ?? '' }]);
    expect(old && text(old as ControlRecord)).toBe('Cut');
  });

  it('are stepped back one at a time, to the first', () => {
    const { db } = openDemo();
    expect(stepBack(db).ok).toBe(false);
    putInService(db, '', 1);
    putInService(db, '', 2);
    expect(stepBack(db)).toEqual({ ok: true, value: 1 });
    expect(stepBack(db).ok).toBe(false);
    leaveService(db);
    expect(runningRevision(db)).toBeNull();
  });
});

describe('the as-run', () => {
  const row = (n: number): AsRunText => ({
    n,
    at: n,
    kind: 'note',
    class: 'other',
    row: JSON.stringify({ n, at: n, kind: 'note', text: `row ${n}` }),
  });

  it('gives the newest rows, oldest first, and keeps no more than it should', () => {
    const { db, close } = openAsRun(tempDir());
    onTestFinished(close);
    writeAsRun(
      db,
      Array.from({ length: 30 }, (_, n) => row(n + 1)),
    );
    expect(newestAsRun(db, 3).map(({ n }) => n)).toEqual([28, 29, 30]);
    const keep = { press: 10, tally: 10, link: 10, reading: 10, other: 10 };
    // More than a day adds: nothing goes until somebody says so.
    expect(pruneAsRun(db, keep)).toEqual({ removed: 0, waiting: 20 });
    expect(pruneAsRun(db, keep, true)).toEqual({ removed: 20, waiting: 0 });
    expect(newestAsRun(db, 100).map(({ n }) => n)).toEqual(Array.from({ length: 10 }, (_, n) => n + 21));
    writeAsRun(db, [row(31)]);
    expect(pruneAsRun(db, keep)).toEqual({ removed: 1, waiting: 0 });
  });

  it('keeps presses however many rows of links there are', () => {
    const { db, close } = openAsRun(tempDir());
    onTestFinished(close);
    const press = { ...row(1), kind: 'press', class: 'press' } as const;
    const links = Array.from({ length: 500 }, (_, n) => ({ ...row(n + 2), kind: 'link', class: 'link' }) as const);
    writeAsRun(db, [press, ...links]);
    pruneAsRun(db, { press: 5, tally: 5, link: 5, reading: 5, other: 5 }, true);
    expect(newestAsRun(db, 1000).map(({ n }) => n)).toEqual([1, 497, 498, 499, 500, 501]);
  });

  it('enters what a journal holds once, and passes over a line that was cut off', () => {
    const { db, close } = openAsRun(tempDir());
    onTestFinished(close);
    const note = (entry: string) => JSON.stringify({ entry, kind: 'note', text: entry, at: 5 });
    writeAsRun(db, [{ ...row(1), entry: 'a' }]);
    expect(replayJournal(db, `${note('a')}\n${note('b')}\n{"entry":"c","ki`)).toBe(2);
    expect(replayJournal(db, note('b'))).toBe(1);
    expect(newestAsRun(db, 10)).toMatchObject([{ text: 'row 1' }, { text: 'b' }]);
  });

  it('sorts the rows of an older record into their classes', () => {
    const dir = tempDir();
    const folder = join(dir, 'older');
    const from = join(process.cwd(), 'src/store/migrations/as-run');
    mkdirSync(join(folder, 'meta'), { recursive: true });
    copyFileSync(join(from, '0000_start.sql'), join(folder, '0000_start.sql'));
    const journal = JSON.parse(readFileSync(join(from, 'meta/_journal.json'), 'utf8')) as { entries: unknown[] };
    writeFileSync(
      join(folder, 'meta/_journal.json'),
      JSON.stringify({ ...journal, entries: journal.entries.slice(0, 1) }),
    );
    const older = new Database(join(dir, 'as-run.db'));
    migrate(drizzle(older), { migrationsFolder: folder });
    const insert = older.prepare('insert into as_run (n, at, kind, row) values (?, 1, ?, ?)');
    const rows = [
      ['press', { who: 'panel 1' }],
      ['press', { who: 'tally' }],
      ['stop', {}],
      ['link', {}],
      ['reading', {}],
      ['note', {}],
    ] as const;
    rows.forEach(([kind, row], n) => insert.run(n + 1, kind, JSON.stringify({ n: n + 1, at: 1, kind, ...row })));
    older.close();
    const { db, close } = openAsRun(dir);
    onTestFinished(close);
    const classes = db.select({ class: asRun.class }).from(asRun).orderBy(asRun.n).all();
    expect(classes.map((each) => each.class)).toEqual(['press', 'tally', 'press', 'link', 'reading', 'other']);
  });
});

describe('a database that does not do', () => {
  it('is named by a code, without parameters', () => {
    const dir = tempDir();
    writeFileSync(join(dir, 'show.db'), 'this is no database, and long enough to be looked at as one '.repeat(40));
    expect(() => openShow(dir)).toThrowError(expect.objectContaining({ code: 'damaged' }) as Error);
  });

  it('does not swallow a mistake of the program inside a transaction, and leaves nothing half', () => {
    const { db } = openDemo();
    const seq = headSeq(db);
    expect(() =>
      inTransaction(db, () => {
        putInService(db, '', 1);
        throw new TypeError('a mistake');
      }),
    ).toThrow(TypeError);
    expect([headSeq(db), runningRevision(db)]).toEqual([seq, null]);
  });
});

describe('passwords', () => {
  it('are sealed in the database, opened with the key file, and gone without it', () => {
    const dataDir = tempDir();
    const { db, close } = openShow(dataDir);
    writePassword(db, dataDir, 'dev-e1', 'tide-table-7');
    writePassword(db, dataDir, 'dev-e2', 'ebb');
    writePassword(db, dataDir, 'dev-e2', '');
    expect([...readPasswords(db, dataDir)]).toEqual([['dev-e1', 'tide-table-7']]);
    expect(devicesWithPassword(db)).toEqual(['dev-e1']);
    close();
    const file = readFileSync(join(dataDir, 'show.db'), 'latin1');
    expect(file.includes('tide-table-7')).toBe(false);
    if (process.platform !== 'win32') expect(statSync(join(dataDir, 'secret.key')).mode & 0o777).toBe(0o600);
    rmSync(join(dataDir, 'secret.key'));
    const again = openShow(dataDir);
    expect([...readPasswords(again.db, dataDir)]).toEqual([]);
    again.close();
  });
});

describe('installed drivers', () => {
  it('are kept as they were read, replaced by id, and taken out', () => {
    const { db } = openDemo();
    installDriver(db, 'sluice', { id: 'sluice', version: 1 }, 1);
    const key = driversKey(db);
    installDriver(db, 'sluice', { id: 'sluice', version: 2 }, 2);
    expect(installedDrivers(db)).toEqual([{ id: 'sluice', json: '{"id":"sluice","version":2}' }]);
    expect(driversKey(db)).not.toBe(key);
    removeDriver(db, 'sluice');
    expect(installedDrivers(db)).toEqual([]);
  });
});

describe('backups', () => {
  it('are written whole, listed newest first, and no more than twenty', () => {
    const { db, dir: dataDir } = openDemo();
    const day = 24 * 3600 * 1000;
    for (let n = 0; n < 22; n += 1) writeBackup(db, dataDir, 'before loading', n * day);
    const all = backups(dataDir);
    expect(all).toHaveLength(20);
    expect([all[0]?.at, all.at(-1)?.at]).toEqual([21 * day, 2 * day]);
    const read = readShowFile(readBackup(dataDir, all[0]?.name ?? '') ?? '');
    expect(read.ok && read.value.records.length).toBe(allRecords(db).length);
    expect(readBackup(dataDir, '../show.db')).toBeUndefined();
  });

  it('are made once a day', () => {
    const { db, dir: dataDir } = openDemo();
    const now = 1_000 * 24 * 3600 * 1000;
    expect([dailyBackup(db, dataDir, now), dailyBackup(db, dataDir, now + 1000)]).toEqual([true, false]);
    expect(dailyBackup(db, dataDir, now + 25 * 3600 * 1000)).toBe(true);
  });
});

describe('passwords in a file', () => {
  it('are opened by the passphrase that sealed them and by no other', () => {
    const sealed = sealSecrets(new Map([['dev-1', 'geheim']]), 'a long passphrase');
    expect(JSON.stringify(sealed)).not.toContain('geheim');
    expect(openSecrets(sealed, 'a long passphrase')?.get('dev-1')).toBe('geheim');
    expect(openSecrets(sealed, 'another passphrase')).toBeUndefined();
  });
});

describe('the undo history and the revisions', () => {
  const limits = { edits: 60, bytes: 1e9, ageMs: 1e12, revisions: 10 };
  const note = (n: number): ControlRecord['id'] => `ctl-n${n}`;
  it('are trimmed at their oldest end; what is newest and what is in service always stays', () => {
    const { db } = openDemo();
    for (let n = 0; n < 80; n += 1) {
      const record: ShowRecord = {
        kind: 'page',
        id: note(n),
        version: 1,
        data: { name: `P${n}`, order: n, columns: 2, rows: 2, note: '', zones: [] },
      };
      commitEdit(db, { title: `Edit ${n}`, changes: [{ op: 'add', record }] }, 'testwindow', n);
    }
    trimHistory(db, 1000, limits);
    expect(historyFigures(db).edits).toBe(60);
    expect(undoState(db, 'testwindow').undo).toBe('Edit 79');
    trimHistory(db, 1e15, limits);
    expect(historyFigures(db).edits).toBe(50);
    for (let n = 0; n < 14; n += 1) putInService(db, `Revision ${n}`, n);
    for (let n = 0; n < 12; n += 1) stepBack(db);
    const running = runningRevision(db) ?? 0;
    trimHistory(db, 1000, limits);
    expect(running).toBe(2);
    expect(historyFigures(db).revisions).toBe(12);
    expect(revisionManifest(db, running).size).toBeGreaterThan(100);
    expect(stepBack(db).ok).toBe(true);
    const manifest = [...revisionManifest(db, 14)].map(([id, hash]) => ({ id, hash }));
    expect(recordsByContent(db, manifest)).toHaveLength(manifest.length);
  });
});
