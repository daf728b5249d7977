import { createServer, type AddressInfo } from 'node:net';
import { it, onTestFinished } from 'vitest';
import { directProber } from '../../../test/support/direct-prober';
import { until } from '../../../test/support/rig';
import type { HelperStatus } from '../../core/live';
import type { DeviceRecord } from '../../core/show';
import type { RunningShow } from '../show/running-show';
import { HelperWatch } from './helper-watch';

it('says which programs beside a device run, and notices when one starts', async () => {
  const server = createServer((socket) => socket.destroy());
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const { port } = server.address() as AddressInfo;
  await new Promise((resolve) => server.close(resolve));
  const data = { host: '127.0.0.1', enabled: true, helpers: [{ title: 'Bridge', port }] };
  const devices = new Map<string, DeviceRecord>([
    ['dev', { kind: 'device', id: 'dev', version: 1, data } as DeviceRecord],
  ]);
  const told: (readonly HelperStatus[] | undefined)[] = [];
  const watch = new HelperWatch({
    show: { devices, driverOf: () => undefined } as unknown as RunningShow,
    prober: directProber,
    isStaged: () => false,
    setHelpers: (_, helpers) => void told.push(helpers),
    lookEveryMs: 50,
  });
  watch.start();
  onTestFinished(() => watch.stop());
  const isRunning = (wanted: boolean) =>
    until(
      () => told.at(-1)?.[0]?.isRunning,
      (now) => now === wanted,
    );
  await isRunning(false);
  const again = createServer((socket) => socket.destroy());
  await new Promise<void>((resolve) => again.listen(port, '127.0.0.1', resolve));
  onTestFinished(() => void again.close());
  await isRunning(true);
  // What nobody needs any more is no longer shown.
  devices.set('dev', {
    kind: 'device',
    id: 'dev',
    version: 2,
    data: { ...data, helpers: [] },
  } as unknown as DeviceRecord);
  await until(
    () => told.at(-1),
    (now) => now === undefined,
  );
});
