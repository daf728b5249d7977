import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, it, onTestFinished } from 'vitest';
import { deviceRecord } from '../../../test/support/records';
import { until } from '../../../test/support/rig';
import type { LinkChange } from '../parts';
import type { RunningShow } from '../show/running-show';
import { HardwareBook } from './hardware-book';
import type { Prober } from './prober-client';

const up = (device: string) => ({ device, status: { link: { word: 'up' } } }) as unknown as LinkChange;

const told: (readonly [string, string | undefined])[] = [];

function startBook(dataDir: string, macs: Readonly<Record<string, string>>): HardwareBook {
  const devices = new Map(
    [
      deviceRecord('C1', { host: '10.0.0.4' }),
      deviceRecord('C2', { host: '127.0.0.1' }),
      deviceRecord('C3', { host: 'tower.local' }),
      deviceRecord('C4', { host: '10.0.0.5' }),
    ].map((record) => [record.id, record]),
  );
  const ask = () => Promise.resolve({ known: Object.entries(macs).map(([address, mac]) => ({ address, mac })) });
  return new HardwareBook({
    dataDir,
    show: { devices } as unknown as RunningShow,
    prober: { ask } as unknown as Prober,
    setAnswersAs: (device, other) => void told.push([device, other]),
    onFault: (message) => expect.fail(message),
  });
}

it('remembers over a restart at which hardware a device was reached, where this computer can see it', async () => {
  const dataDir = mkdtempSync(join(tmpdir(), 'sorrelfinch-'));
  onTestFinished(() => rmSync(dataDir, { recursive: true, force: true }));
  const book = startBook(dataDir, { '10.0.0.4': '02:00:5e:10:00:01', '127.0.0.1': '02:00:5e:10:00:02' });
  for (const device of ['dev-C1', 'dev-C2', 'dev-C3']) book.onLink(up(device));
  await until(
    () => book.macOf('dev-C1'),
    (mac) => mac === '02:00:5e:10:00:01',
  );
  await book.stop();
  expect(book.macOf('dev-C2')).toBeUndefined();
  expect(startBook(dataDir, {}).macOf('dev-C1')).toBe('02:00:5e:10:00:01');
  writeFileSync(join(dataDir, 'hardware-addresses.json'), '{"dev-C1": "nonsen');
  expect(startBook(dataDir, {}).macOf('dev-C1')).toBeUndefined();
});

it('says which other device answers at an address, and keeps what each is known by', async () => {
  const dataDir = mkdtempSync(join(tmpdir(), 'sorrelfinch-'));
  onTestFinished(() => rmSync(dataDir, { recursive: true, force: true }));
  const macs = { '10.0.0.4': '02:00:5e:10:00:01', '10.0.0.5': '02:00:5e:10:00:02' };
  const book = startBook(dataDir, macs);
  const knows = (device: string, mac: string) =>
    until(
      () => book.macOf(device),
      (known) => known === mac,
    );
  for (const device of ['dev-C1', 'dev-C4']) book.onLink(up(device));
  await knows('dev-C1', '02:00:5e:10:00:01');
  await knows('dev-C4', '02:00:5e:10:00:02');
  // The two have changed their addresses.
  [macs['10.0.0.4'], macs['10.0.0.5']] = [macs['10.0.0.5'], macs['10.0.0.4']];
  told.length = 0;
  for (const device of ['dev-C1', 'dev-C4']) book.onLink(up(device));
  await until(
    () => told.length,
    (count) => count === 2,
  );
  expect(told).toEqual([
    ['dev-C1', 'dev-C4'],
    ['dev-C4', 'dev-C1'],
  ]);
  expect([book.macOf('dev-C1'), book.macOf('dev-C4')]).toEqual(['02:00:5e:10:00:01', '02:00:5e:10:00:02']);
  // Another one in its place is just new.
  macs['10.0.0.4'] = '02:00:5e:10:00:09';
  book.onLink(up('dev-C1'));
  await knows('dev-C1', '02:00:5e:10:00:09');
  expect(told.at(-1)).toEqual(['dev-C1', undefined]);
  await book.stop();
});
