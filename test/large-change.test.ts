import { describe, expect, it } from 'vitest';
import { demoShow } from '../demo/show';
import { shippedDrivers } from '../src/drivers';
import type { ShowRecord } from '../src/core/show';
import { startFleetRig } from './support/fleet';
import { controlRecord, pageRecord } from './support/records';
import { startRig, until } from './support/rig';

/** Devices of every kind of the demo show, with identifiers and tags of their own, that are called nowhere. */
const devices = demoShow(4400).flatMap((record) =>
  record.kind === 'device'
    ? [{ ...record, id: `more-${record.id}`, data: { ...record.data, tag: `Z${record.data.tag}`, host: '' } }]
    : [],
);
const loaded = {
  title: 'A show',
  changes: devices.map((record) => ({ op: 'add' as const, record: withoutGateway(record) })),
};
const unloaded = {
  title: 'Without it',
  changes: loaded.changes.map(({ record }) => ({ op: 'remove' as const, record })),
};

function withoutGateway(record: (typeof devices)[number]): ShowRecord {
  const { through, ...data } = record.data;
  return { ...record, data: through ? { ...data, port: 9100 } : data };
}

describe('a large change of the show', () => {
  it('is taken over in pieces, and what is asked meanwhile is answered', async () => {
    const rig = await startRig([], shippedDrivers);
    const seen = new Set<number>();
    let isOver = false;
    const look = () => {
      seen.add(rig.engine.api.health().links.length);
      if (!isOver) setImmediate(look);
    };
    look();
    rig.edit(loaded);
    await rig.engine.onShowChanged();
    isOver = true;
    expect(rig.engine.api.health().links.length).toBe(devices.length);
    // Between nothing and all of it, the engine had its hands free.
    expect([...seen].filter((count) => count > 0 && count < devices.length).length).toBeGreaterThan(3);
  });

  it('can be taken back while it is still being taken over', async () => {
    const rig = await startRig([], shippedDrivers);
    for (let n = 0; n < 3; n += 1) {
      rig.edit(loaded);
      if (n === 1) await new Promise((resolve) => setTimeout(resolve, 30));
      rig.edit(unloaded);
    }
    await rig.engine.onShowChanged();
    expect(rig.engine.api.health().links).toEqual([]);
    rig.edit(loaded);
    await rig.engine.onShowChanged();
    expect(rig.engine.api.health().links.length).toBe(devices.length);
  });

  it('leaves a held move alone, and a release in the middle of it stops the camera', async () => {
    const f = await startFleetRig(
      ['C1'],
      [
        pageRecord('page', 'Cameras', { rows: 1 }),
        controlRecord('left', {
          responses: {
            tap: [],
            held: [{ device: 'dev-C1', command: 'move', params: { direction: 'left', panSpeed: 2 } }],
          },
        }),
      ],
    );
    await f.linkIs('C1', 'up');
    const isMoving = async () => ((await f.state('C1')) as unknown as { moving: boolean }).moving;
    f.client.say({ t: 'press', id: 'held-press', page: 'page', control: 'left', gesture: 'hold' });
    await f.client.outcome('held-press');
    const holding = setInterval(() => f.client.say({ t: 'still', id: 'held-press' }), 200);
    await until(isMoving, Boolean);

    f.rig.edit(loaded);
    await f.rig.engine.onShowChanged();
    expect(await isMoving()).toBe(true);

    f.rig.edit(unloaded);
    clearInterval(holding);
    f.client.say({ t: 'release', id: 'held-press' });
    await until(isMoving, (moving) => !moving, 3000);
    await f.rig.engine.onShowChanged();
    expect(f.rig.engine.api.health().links.map(({ tag }) => tag)).toEqual(['C1']);
  });
});
