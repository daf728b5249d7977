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

function startBook(dataDir: string, macs: Readonly<Record<string, string>>): HardwareBook {
  const devices = new Map(
    [
      deviceRecord('C1', { host: '10.0.0.4' }),
      deviceRecord('C2', { host: '127.0.0.1' }),
      deviceRecord('C3', { host: 'tower.local' }),
    ].map((record) => [record.id, record]),
  );
  const ask = ({ address }: { readonly address: string }) => Promise.resolve({ mac: macs[address] });
  return new HardwareBook({
    dataDir,
    show: { devices } as unknown as RunningShow,
    prober: { ask } as unknown as Prober,
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
