import { randomBytes } from 'node:crypto';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, it, onTestFinished } from 'vitest';
import { demoShow, deviceIds } from '../../demo/show';
import {
  canonicalJson,
  loadEdit,
  nameOfRecord,
  readShowFile,
  summaryOf,
  type ControlRecord,
  type DeviceRecord,
  type RecordChange,
  type ShowRecord,
} from '../core/show';
import { showFileNow } from './backups';
import { installDriver, installedDrivers } from './drivers';
import { commitEdit, redoEdit, undoEdit, undoState } from './edits';
import { loadShow } from './load-show';
import { openShow, type ShowDb } from './open';
import { getPicture, putPicture } from './pictures';
import { allRecords, getRecord } from './records';
import { driversInService, putInService, serviceState, stepBack } from './revisions';
import { readPasswords, sealPassword, writePassword } from './secrets';

/** What is loaded is loaded whole, and what is said to be undoable is undone: records, pictures, drivers and passwords. */

function empty(): { readonly db: ShowDb; readonly dir: string } {
  const dir = mkdtempSync(join(tmpdir(), 'sorrelfinch-'));
  const { db, close } = openShow(dir);
  onTestFinished(() => {
    close();
    rmSync(dir, { recursive: true, force: true });
  });
  const show: ShowRecord = { kind: 'show', id: 'show', version: 1, data: { name: 'Empty', note: '' } };
  commitEdit(db, { title: 'Start', changes: [{ op: 'add', record: show }] }, 'preparation', 1);
  return { db, dir };
}

const contentOf = (records: readonly ShowRecord[]) =>
  canonicalJson(records.map(({ kind, id, data }) => ({ kind, id, data })).sort((a, b) => (a.id < b.id ? -1 : 1)));

const driver = (version: number) => ({ format: 1, id: 'lift', version, title: `Lift ${version}` });
const must = <T>(result: { ok: true; value: T } | { ok: false; error: { message: string } }): T => {
  if (!result.ok) throw new Error(result.error.message);
  return result.value;
};

/** A show of so many controls, with pictures of so many bytes together. */
function largeShow(controls: number, pictureBytes: number): { readonly db: ShowDb; readonly dir: string } {
  const { db, dir } = empty();
  const one = 400_000;
  const hashes = Array.from({ length: Math.ceil(pictureBytes / one) }, () => {
    // A PNG by how it begins; the rest is noise.
    const bytes = Buffer.concat([Buffer.from('89504e470d0a1a0a', 'hex'), randomBytes(one - 8)]);
    const put = putPicture(db, bytes);
    return put.ok ? put.value : '';
  });
  const records = demoShow(4400).filter(({ kind }) => kind !== 'show');
  const start = records.find((record): record is ControlRecord => record.kind === 'control');
  if (!start) throw new Error('The demo show has no control.');
  const more = Array.from({ length: controls }, (_, n): ShowRecord => ({
    ...start,
    id: `many-${n}`,
    data: { ...start.data, ...(hashes.length > 0 ? { picture: hashes[n % hashes.length] ?? '' } : {}) },
  }));
  must(
    commitEdit(
      db,
      { title: 'Large', changes: [...records, ...more].map((record) => ({ op: 'add', record })) },
      'mine',
      2,
    ),
  );
  return { db, dir };
}

describe('a large show', () => {
  it('of 50 MB with 3,000 controls is saved, loaded into an empty show record for record, undone and redone', () => {
    const large = largeShow(3000, 38_000_000);
    const text = JSON.stringify(showFileNow(large.db, 3));
    expect(text.length).toBeGreaterThan(50_000_000);
    const file = readShowFile(text);
    if (!file.ok) throw new Error(file.error[0]?.message);
    const { db, dir } = empty();
    const before = contentOf(allRecords(db));
    const passwords = new Map([[deviceIds.E1, 'tide-table']]);
    const loading = { file: file.value, drivers: [driver(1)], passwords, addresses: 'file', window: 'mine' } as const;
    must(loadShow(db, dir, loading, 4));
    const after = contentOf(allRecords(db));
    expect(after).toBe(contentOf(allRecords(large.db)));
    expect(installedDrivers(db).map(({ id }) => id)).toEqual(['lift']);
    expect(readPasswords(db, dir).get(deviceIds.E1)).toBe('tide-table');
    const shown = file.value.pictures?.[0]?.hash ?? '';
    expect(getPicture(db, shown)?.bytes.length).toBe(400_000);

    must(undoEdit(db, 'mine'));
    expect(contentOf(allRecords(db))).toBe(before);
    expect(installedDrivers(db)).toEqual([]);
    expect(readPasswords(db, dir).size).toBe(0);

    must(redoEdit(db, 'mine'));
    expect(contentOf(allRecords(db))).toBe(after);
    expect(installedDrivers(db).map(({ id }) => id)).toEqual(['lift']);
    expect(readPasswords(db, dir).get(deviceIds.E1)).toBe('tide-table');
  });

  it('does not keep what came before it from being undone', () => {
    const { db } = largeShow(2500, 0);
    const show = getRecord(db, 'show') as Extract<ShowRecord, { kind: 'show' }>;
    must(
      commitEdit(
        db,
        {
          title: 'Name',
          changes: [{ op: 'update', from: show, to: { ...show, data: { ...show.data, name: 'Named' } } }],
        },
        'mine',
        3,
      ),
    );
    for (const title of ['Name', 'Large']) {
      expect(undoState(db, 'mine').undo).toBe(title);
      must(undoEdit(db, 'mine'));
    }
    expect(allRecords(db)).toHaveLength(1);
    expect(undoState(db, 'mine').undo).toBeUndefined();
  });

  it('is loaded whole or not at all: a damaged picture leaves everything as it was', () => {
    const { db, dir } = empty();
    const before = contentOf(allRecords(db));
    const bytes = Buffer.concat([Buffer.from('89504e470d0a1a0a', 'hex'), randomBytes(20)]);
    const bad = { hash: '0'.repeat(64), type: 'image/png' as const, base64: bytes.toString('base64') };
    const file = { name: 'Bad', records: demoShow(4400), pictures: [bad] };
    const loading = { file, drivers: [driver(1)], passwords: new Map(), addresses: 'file', window: 'mine' } as const;
    expect(loadShow(db, dir, loading, 4)).toMatchObject({ ok: false, error: { code: 'bad-picture' } });
    expect(contentOf(allRecords(db))).toBe(before);
    expect(installedDrivers(db)).toEqual([]);
    expect(undoState(db, 'mine').undo).toBeUndefined();
  });
});

describe('a show that is loaded over a rig', () => {
  const there = (tag: string, id: string, host: string): DeviceRecord => ({
    ...(demoShow(4400).find((each) => each.kind === 'device' && each.data.tag === tag) as DeviceRecord),
    id,
    data: {
      ...(demoShow(4400).find((each) => each.kind === 'device' && each.data.tag === tag) as DeviceRecord).data,
      host,
    },
  });

  it('keeps the addresses and passwords of this rig unless told otherwise, also of a device with another id', () => {
    const { db, dir } = empty();
    const own = [there('SW1', deviceIds.SW1, '10.0.0.7'), there('E1', 'dev-elsewhere', '10.0.0.8')];
    must(commitEdit(db, { title: 'Rig', changes: own.map((record) => ({ op: 'add', record })) }, 'mine', 2));
    writePassword(db, dir, 'dev-elsewhere', 'of this room');
    const file = { name: 'Demo', records: demoShow(4400), pictures: [] };
    const edit = loadEdit(allRecords(db), file, 'rig');
    expect(summaryOf(edit).addresses).toEqual([]);
    expect(summaryOf(loadEdit(allRecords(db), file, 'file')).addresses).toContainEqual({
      tag: 'SW1',
      from: '10.0.0.7:4401',
      to: '127.0.0.1:4401',
    });
    const loading = { file, drivers: [], passwords: new Map(), addresses: 'rig', window: 'mine' } as const;
    must(loadShow(db, dir, loading, 3));
    const hostOf = (id: string) => (getRecord(db, id) as DeviceRecord).data.host;
    expect([hostOf(deviceIds.SW1), hostOf(deviceIds.E1), hostOf(deviceIds.R1)]).toEqual([
      '10.0.0.7',
      '10.0.0.8',
      '127.0.0.1',
    ]);
    expect(readPasswords(db, dir).get(deviceIds.E1)).toBe('of this room');
  });

  it('says beforehand what is added, changed and gone', () => {
    const { db } = empty();
    const [one] = demoShow(4400).filter(({ kind }) => kind === 'page');
    must(commitEdit(db, { title: 'Page', changes: [{ op: 'add', record: one as ShowRecord }] }, 'mine', 2));
    const records = demoShow(4400).filter(({ kind }) => kind === 'show' || kind === 'device');
    const { kinds } = summaryOf(loadEdit(allRecords(db), { name: 'Demo', records }, 'rig'));
    expect(kinds.find(({ kind }) => kind === 'page')).toMatchObject({ added: [], changed: [], gone: ['Race'] });
    expect(kinds.find(({ kind }) => kind === 'device')?.added).toContain('SW1');
    expect(kinds.find(({ kind }) => kind === 'show')?.changed).toEqual(['Tidewick Regatta']);
  });

  it('names each control by its label, its reading or its place', () => {
    const [control] = demoShow(4400).filter((each) => each.kind === 'control');
    const named = (label: ControlRecord['data']['label']) =>
      nameOfRecord({
        ...(control as ControlRecord),
        data: { ...(control as ControlRecord).data, label, values: { row: 2 } },
      });
    const reading = { device: deviceIds.T1, key: 'row[$row].crew' };
    expect(named([{ text: 'Crew: ' }, { reading }])).toBe('Crew: row[2].crew');
    expect(named([])).toMatch(/^button in column \d+, row \d+$/);
  });
});

describe('an edit', () => {
  it('that changes nothing is no error and leaves no trace', () => {
    const { db } = empty();
    expect(commitEdit(db, { title: 'Nothing', changes: [] }, 'mine', 2)).toMatchObject({
      ok: true,
      value: { changed: 0 },
    });
    expect(undoState(db, 'mine').undo).toBeUndefined();
  });

  it('that is refused keeps no password that was typed with it; one that is taken keeps it, and undo takes both back', () => {
    const { db, dir } = empty();
    const device = demoShow(4400).find((each) => each.kind === 'device') as DeviceRecord;
    const beside = {
      drivers: [],
      secrets: [{ device: device.id, sealed: sealPassword(dir, device.id, 'tide-table') }],
    };
    const commit = (change: RecordChange) => commitEdit(db, { title: 'Device', changes: [change] }, 'mine', 2, beside);
    const newer = { ...device, version: 9 };
    expect(commit({ op: 'update', from: newer, to: newer })).toMatchObject({ ok: false, error: { code: 'missing' } });
    expect(readPasswords(db, dir).size).toBe(0);

    must(commit({ op: 'add', record: device }));
    expect(readPasswords(db, dir).get(device.id)).toBe('tide-table');
    must(undoEdit(db, 'mine'));
    expect(readPasswords(db, dir).size).toBe(0);
    expect(getRecord(db, device.id)).toBeUndefined();
  });

  it('is not taken back when the driver that came with it was replaced meanwhile', () => {
    const { db, dir } = empty();
    const file = { name: 'Demo', records: demoShow(4400), pictures: [] };
    const loading = { file, drivers: [driver(1)], passwords: new Map(), addresses: 'file', window: 'mine' } as const;
    must(loadShow(db, dir, loading, 3));
    installDriver(db, 'lift', driver(2), 4);
    const loaded = contentOf(allRecords(db));
    expect(undoEdit(db, 'mine')).toMatchObject({ ok: false, error: { code: 'changed-meanwhile' } });
    expect(contentOf(allRecords(db))).toBe(loaded);
  });
});

it('a revision keeps the drivers that it was made with, and Step back brings the old ones back', () => {
  const { db } = empty();
  const inService = (revision: number | null) =>
    driversInService(db, revision).map(({ json }) => (JSON.parse(json) as { version: number }).version);
  installDriver(db, 'lift', driver(1), 1);
  const first = putInService(db, '', 2);
  installDriver(db, 'lift', driver(2), 3);
  expect(inService(first)).toEqual([1]);
  expect(serviceState(db)).toMatchObject({ running: first, drafted: 1 });
  const second = putInService(db, '', 4);
  expect([inService(second), serviceState(db).drafted]).toEqual([[2], 0]);
  const back = must(stepBack(db).ok ? { ok: true, value: first } : { ok: false, error: { message: 'no' } });
  expect(inService(back)).toEqual([1]);
  // Out of service, what is installed counts at once.
  expect(inService(null)).toEqual([2]);
});
