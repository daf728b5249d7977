import { expect, it } from 'vitest';
import { demoShow } from '../demo/show';
import { shippedDrivers } from '../src/drivers';
import { startRig } from './support/rig';

it('a show that is loaded is taken over in pieces, and what is asked meanwhile is answered', async () => {
  const rig = await startRig([], shippedDrivers);
  const devices = demoShow(4400).flatMap((record) =>
    record.kind === 'device' ? [{ ...record, data: { ...record.data, host: '' } }] : [],
  );
  const seen = new Set<number>();
  let isOver = false;
  const look = () => {
    seen.add(rig.engine.api.health().links.length);
    if (!isOver) setImmediate(look);
  };
  look();
  rig.edit({ title: 'A show', changes: devices.map((record) => ({ op: 'add' as const, record })) });
  await rig.engine.onShowChanged();
  isOver = true;
  expect(rig.engine.api.health().links.length).toBe(devices.length);
  // Between nothing and all of it, the engine had its hands free.
  expect([...seen].filter((count) => count > 0 && count < devices.length).length).toBeGreaterThan(3);
});
