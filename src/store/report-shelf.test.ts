import { mkdtempSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, it, onTestFinished } from 'vitest';
import type { CheckReport } from '../core/line-check';
import { ReportShelf } from './report-shelf';

const report = (at: number): CheckReport => ({
  format: 1,
  show: 'Tidewick Regatta',
  revision: 4,
  at,
  total: 0,
  count: { passed: 0, doubtful: 0, failed: 0, due: 0, open: 0, none: 0 },
  items: [],
  signed: { who: 'Ada', note: 'Ready.', at },
});

it('signed reports are kept once and for all, the newest first', async () => {
  const dataDir = mkdtempSync(join(tmpdir(), 'sorrelfinch-'));
  onTestFinished(() => rmSync(dataDir, { recursive: true, force: true }));
  const shelf = new ReportShelf(dataDir);
  expect(shelf.list()).toEqual([]);
  const first = await shelf.keep(report(1_796_000_000_000));
  const second = await shelf.keep(report(1_796_000_005_000));
  await expect(shelf.keep(report(1_796_000_000_000))).rejects.toThrow(/EEXIST/);
  writeFileSync(join(dataDir, 'line-check-reports', 'line-check-2026-01-01.json'), 'nonsense');
  expect(shelf.list().map(({ name, who }) => [name, who])).toEqual([
    [second, 'Ada'],
    [first, 'Ada'],
  ]);
  expect(JSON.parse((await shelf.read(first)) ?? '')).toEqual(report(1_796_000_000_000));
  expect(statSync(join(dataDir, 'line-check-reports', first)).mode & 0o222).toBe(0);
  expect(await shelf.read('../show.db')).toBeUndefined();
  expect(await shelf.read('line-check-2020-01-01.json')).toBeUndefined();
});

it('signed reports go with the file of their show, and come back once', async () => {
  const [from, to] = [1, 2].map(() => mkdtempSync(join(tmpdir(), 'sorrelfinch-'))) as [string, string];
  onTestFinished(() => [from, to].forEach((dir) => rmSync(dir, { recursive: true, force: true })));
  const shelf = new ReportShelf(from);
  await shelf.keep(report(1_796_000_000_000));
  await shelf.keep({ ...report(1_796_000_005_000), show: 'Another show' });
  const reports = shelf.of('Tidewick Regatta');
  expect(reports.map(({ at }) => at)).toEqual([1_796_000_000_000]);
  const other = new ReportShelf(to);
  const { signed: _, ...unsigned } = report(1_796_000_009_000);
  expect(await other.keepMissing([...reports, 'nonsense', unsigned])).toBe(1);
  expect(await other.keepMissing(reports)).toBe(0);
  expect(other.of('Tidewick Regatta')).toEqual(reports);
});
