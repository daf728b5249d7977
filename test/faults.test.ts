import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest';
import type { DeviceRecord } from '../src/core/show';
import { startFleet, type GatewayStandin, type StandinTag } from '../src/standins';
import { startFleetRig, type FleetRig } from './support/fleet';
import { onTestFinished, runAsOne, until } from './support/rig';

/** Each fault of the stand-ins: which word the link shows, how soon, and that the other devices go on. */

const all: readonly StandinTag[] = ['SW1', 'C1', 'C4', 'E1', 'R1', 'A1', 'T1', 'G1', 'S1'];

interface Row {
  readonly tag: StandinTag;
  readonly fault: object;
  readonly word: string;
  readonly cause?: string;
  readonly withinMs: number;
}

const refused = (tag: StandinTag, cause = 'refused', withinMs = 4000): Row => ({
  tag,
  fault: { refuse: true },
  word: 'down',
  cause,
  withinMs,
});
const says = (tag: StandinTag, fault: string, word: string, cause: string | undefined, withinMs: number): Row => ({
  tag,
  fault: { [fault]: true },
  word,
  cause,
  withinMs,
});

const rows: readonly Row[] = [
  ...(['SW1', 'C1', 'C4', 'E1', 'R1', 'A1', 'T1'] as const).map((tag) => refused(tag)),
  refused('S1', 'behind-gateway', 16_000),
  ...(['SW1', 'C1', 'C4', 'E1', 'R1', 'A1', 'T1', 'G1', 'S1'] as const).map((tag) =>
    says(tag, 'hang', 'silent', undefined, 9000),
  ),
  ...(['SW1', 'C1', 'R1', 'A1', 'T1', 'G1', 'S1'] as const).map((tag) =>
    says(tag, 'garbage', 'silent', undefined, 9000),
  ),
  says('E1', 'otherPassword', 'locked out', undefined, 4000),
  ...(['SW1', 'C1', 'C4', 'E1', 'R1', 'A1', 'T1', 'S1'] as const).map((tag) =>
    says(tag, 'taken', 'occupied', undefined, 5000),
  ),
  says('G1', 'taken', 'down', 'closed', 4000),
  says('SW1', 'otherModel', 'down', 'wrong-greeting', 4000),
  says('R1', 'otherModel', 'down', 'wrong-greeting', 4000),
];

describe('a device that misbehaves', () => {
  let f: FleetRig;
  let end: () => Promise<void>;
  beforeAll(async () => {
    [f, end] = await runAsOne(() => startFleetRig(all));
    for (const tag of all) await f.linkIs(tag, 'up');
  });
  afterAll(() => end());

  const others = (tag: string) => all.filter((each) => each !== tag && !(tag === 'G1' && each === 'S1'));
  const restore = async (tag: StandinTag) => {
    const calm = { refuse: false, hang: false, garbage: false, otherPassword: false, otherModel: false, taken: false };
    await f.operate(tag, 'faults', { ...calm, delayMs: 0, lossPercent: 0 });
    if (f.link(tag).word === 'locked out') f.client.say({ t: 'call', device: f.id(tag) });
    await f.linkIs(tag, 'up', 12_000);
    if (tag === 'G1') await f.linkIs('S1', 'up', 12_000);
  };

  // A test that failed must not fail the next ones.
  afterEach(async () => {
    for (const tag of all) if (f.link(tag).word !== 'up') await restore(tag);
  });

  it.each(rows)(
    '$tag with $fault is $word $cause, and the others go on',
    async ({ tag, fault, word, cause, withinMs }) => {
      await f.operate(tag, 'faults', fault);
      await until(
        () => f.link(tag),
        (now) => now.word === word && (cause === undefined || now.cause === cause),
        withinMs,
      );
      for (const other of others(tag)) expect([other, f.link(other).word]).toEqual([other, 'up']);
      const pressed = await f.send(tag === 'SW1' ? 'R1' : 'SW1', tag === 'SW1' ? 'list' : 'alive');
      expect(pressed.outcome).toBe('confirmed');
      await restore(tag);
    },
  );

  // Of open protocols no driver knows all models.
  it.each(['E1', 'A1', 'T1', 'G1', 'S1'] as const)('%s that is another model says so and stays up', async (tag) => {
    await f.operate(tag, 'faults', { otherModel: true });
    const remark = await until(
      () => f.rig.engine.api.health().links.find((each) => each.tag === tag)?.remark,
      (now) => now !== undefined,
      8000,
    );
    expect(remark).toMatch(/^It says that it is “/);
    await f.linkIs(tag, 'up');
    await restore(tag);
  });

  it('without its gateway is down because of the gateway', async () => {
    await f.operate('G1', 'faults', { refuse: true });
    await until(
      () => f.link('S1'),
      (now) => now.cause === 'gateway',
      5000,
    );
    expect(f.link('S1').detail).toBe('G1: refused');
    expect(f.link('G1')).toMatchObject({ word: 'down', cause: 'refused' });
    await restore('G1');
  });

  it('that answers late makes the press late, and notes the report that still comes', async () => {
    await f.operate('SW1', 'faults', { delayMs: 1300 });
    const before = Number(f.reading('SW1', 'program'));
    const result = await f.send('SW1', 'take', { input: (before % 12) + 1 });
    expect(result.outcome).toBe('late');
    await until(
      () => f.reading('SW1', 'program'),
      (now) => now !== before,
    );
    await restore('SW1');
  });

  it.each(['C1', 'T1'] as const)('%s over a network that loses a fifth comes up again and obeys', async (tag) => {
    await f.operate(tag, 'faults', { lossPercent: 20 });
    await f.operate(tag, 'drop');
    // Another function each time: a report that was lost is not made again for a value that stays the same.
    let count = 0;
    const send = () =>
      tag === 'C1' ? f.send(tag, 'tally', { on: true }) : f.send(tag, 'run', { function: ((count += 1) % 5) + 1 });
    await until(
      async () => (await send()).outcome,
      (outcome) => outcome === 'confirmed',
      15_000,
    );
    await restore(tag);
  });

  it('that refuses datagrams stays down while it is called again and again, instead of seeming to sync each time', async () => {
    await f.operate('C1', 'faults', { refuse: true });
    await f.linkIs('C1', 'down');
    const seen = new Set<string>();
    const endAt = performance.now() + 2500;
    await until(
      () => seen.add(f.link('C1').word) && performance.now() > endAt,
      (over) => over,
      5000,
    );
    expect([...seen]).toEqual(['down']);
    await restore('C1');
  });

  it('whose connection breaks is called again at once', async () => {
    const from = performance.now();
    await f.operate('R1', 'drop');
    await until(
      () => f.link('R1').word,
      (word) => word !== 'up',
      2000,
    ).catch(() => undefined);
    await f.linkIs('R1', 'up', 3000);
    expect(performance.now() - from).toBeLessThan(3000);
  });

  it('that moves to another port is down, and up again when the rig follows', async () => {
    const device = f.rig.engine.api.deviceByTag('A1');
    if (!device) throw new Error('no A1');
    await f.operate('A1', 'move', { port: 0 });
    await f.linkIs('A1', 'down');
    const { port } = (await f.state('A1')) as unknown as { port: number };
    f.rig.edit({
      title: 'Follow A1',
      changes: [{ op: 'update', from: device, to: { ...device, data: { ...device.data, port } } }],
    });
    await f.linkIs('A1', 'up');
  });

  it('that babbles is counted, and neither stalls the others nor fills the memory', async () => {
    const noise = new Uint8Array(64 * 1024).fill(0x41);
    for (let n = 0; n < 32; n += 1) f.fleet.devices.get('SW1')?.sendRaw(noise);
    const pressed = await f.send('R1', 'list');
    expect(pressed.outcome).toBe('confirmed');
    await until(
      () => f.rig.engine.api.health().links.find(({ tag }) => tag === 'SW1')?.faults ?? 0,
      (faults) => faults > 0,
    );
    // The line that never ended swallows what comes behind it up to its ending; after that all is well.
    f.fleet.devices.get('SW1')?.sendRaw(new TextEncoder().encode('\r\n'));
    await until(
      async () => (await f.send('SW1', 'alive')).outcome,
      (outcome) => outcome === 'confirmed',
    );
  });
});

it('moves to another gateway without touching its commands', async () => {
  const f = await startFleetRig(['G1', 'S1']);
  await f.linkIs('S1', 'up');
  // The same cable, in the serial port of another gateway.
  const other = await startFleet({ host: '127.0.0.1', portBase: 0, only: ['S1'] });
  onTestFinished(() => other.stop());
  const gateway = other.devices.get('G1') as GatewayStandin;
  const [g1, s1] = ['G1', 'S1'].map((tag) => f.rig.engine.api.deviceByTag(tag));
  if (!g1 || !s1) throw new Error('no G1 or no S1');
  const g2: DeviceRecord = { ...g1, id: 'dev-G2', version: 1, data: { ...g1.data, tag: 'G2', port: gateway.port } };
  const moved = { ...s1.data, port: gateway.serialPort, through: { device: 'dev-G2', port: 'serial' } };
  f.rig.edit({
    title: 'Another gateway',
    changes: [
      { op: 'add', record: g2 },
      { op: 'update', from: s1, to: { ...s1, data: moved } },
    ],
  });
  await f.linkIs('G2', 'up');
  await f.linkIs('S1', 'up');
  expect(await f.send('S1', 'text', { row: 2, text: 'MOVED' })).toMatchObject({ outcome: 'confirmed' });
  expect((other.devices.get('S1')?.view.rows as string[])[1]).toBe('MOVED');
  expect(((await f.state('S1')) as unknown as { rows: string[] }).rows[1]).toBe('');
});
