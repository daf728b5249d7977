import { mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import type { Worker } from 'node:worker_threads';
import { join } from 'node:path';
import { expect, it, onTestFinished } from 'vitest';
import { newestAsRun, openAsRun } from '../../store';
import { until } from '../../../test/support/rig';
import { AsRun } from './as-run';

function tempDir(): string {
  const dir = mkdtempSync(join(tmpdir(), 'sorrelfinch-'));
  onTestFinished(() => rmSync(dir, { recursive: true, force: true }));
  return dir;
}

it('writes every row, in the order of time, with readings thinned to their last value', async () => {
  const dir = tempDir();
  const asRun = new AsRun(
    dir,
    () => undefined,
    () => undefined,
  );
  asRun.record({ kind: 'note', text: 'before the record is open' });
  asRun.start();
  await asRun.opened;
  for (let n = 0; n < 200; n += 1) asRun.record({ kind: 'note', text: `note ${n}` });
  for (let value = 0; value < 50; value += 1) asRun.record({ kind: 'reading', device: 'SW1', key: 'program', value });
  asRun.record({ kind: 'reading', device: 'SW1', key: 'rate', value: 25 });
  asRun.keepAim('dry');
  await asRun.stop();
  const { db, close } = openAsRun(dir);
  const rows = newestAsRun(db, 1000);
  close();
  expect(rows.map(({ n }) => n)).toEqual(rows.map((_, n) => n + 1));
  expect(rows.filter(({ kind }) => kind === 'note')).toHaveLength(201);
  expect(rows.flatMap((row) => (row.kind === 'reading' ? [[row.key, row.value]] : []))).toEqual(
    expect.arrayContaining([
      ['program', 49],
      ['rate', 25],
    ]),
  );
  const again = new AsRun(
    dir,
    () => undefined,
    () => undefined,
  );
  again.start();
  expect(await again.opened).toBe('dry');
  expect(again.view.rows).toHaveLength(203);
  await again.stop();
});

it('says that it is not writing when it cannot, and goes on', async () => {
  const file = join(tempDir(), 'a-file');
  writeFileSync(file, 'not a folder');
  const told: boolean[] = [];
  const asRun = new AsRun(
    file,
    () => undefined,
    (now) => told.push(now),
  );
  asRun.record({ kind: 'note', text: 'still accepted' });
  // It gives the engine its start back after a while, without an aim.
  asRun.start();
  expect(await asRun.opened).toBeUndefined();
  expect([asRun.recording, told]).toEqual([false, []]);
  await asRun.stop();
});

it('starts its thread again when that dies, and has what came before and meanwhile, once', async () => {
  const dir = tempDir();
  const told: boolean[] = [];
  const asRun = new AsRun(
    dir,
    () => undefined,
    (now) => told.push(now),
  );
  asRun.start();
  await asRun.opened;
  asRun.record({ kind: 'note', text: 'before' });
  // As a fault of its own would end it.
  await (asRun as unknown as { worker: Worker }).worker.terminate();
  expect(asRun.recording).toBe(false);
  asRun.record({ kind: 'note', text: 'meanwhile' });
  // It waits two seconds of its own time before it tries again.
  await until(() => asRun.recording, Boolean);
  await asRun.stop();
  const { db, close } = openAsRun(dir);
  const texts = newestAsRun(db, 1000).map((row) => row.kind === 'note' && row.text);
  close();
  expect(texts).toEqual(['before', 'meanwhile']);
  expect(told.slice(0, 3)).toEqual([true, false, true]);
});

it('has what was pressed after the engine was killed at once, and once', async () => {
  const dir = tempDir();
  const press = (n: number) =>
    ({
      kind: 'press',
      press: `p${n}`,
      who: 'panel 1',
      page: '',
      label: '',
      aim: 'live',
      outcome: 'sent',
      ms: 1,
      sends: [],
    }) as const;
  const killed = new AsRun(
    dir,
    () => undefined,
    () => undefined,
  );
  killed.start();
  await killed.opened;
  for (let n = 0; n < 40; n += 1) killed.record(press(n));
  // Handed over and not yet said to be written, and not even handed over.
  await new Promise((resolve) => setTimeout(resolve, 300));
  for (let n = 40; n < 80; n += 1) killed.record(press(n));
  const next = new AsRun(
    dir,
    () => undefined,
    () => undefined,
  );
  next.start();
  await next.opened;
  next.record(press(80));
  await next.stop();
  const { db, close } = openAsRun(dir);
  const rows = newestAsRun(db, 1000);
  close();
  expect(rows.map((row) => row.kind === 'press' && row.press)).toEqual(Array.from({ length: 81 }, (_, n) => `p${n}`));
  expect(new Set(rows.map(({ n }) => n)).size).toBe(81);
  await killed.stop();
  expect(readdirSync(dir).filter((name) => name.endsWith('.journal'))).toEqual([]);
});
