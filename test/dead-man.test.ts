import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import type { ShowRecord } from '../src/core/show';
import { startFleetRig, type FleetRig } from './support/fleet';
import { controlRecord, pageRecord } from './support/records';
import { TestClient, until } from './support/rig';

/** Whatever a held press started has to stop: on release, with the panel, its page, its time, and across a cut or a crash. */

const page = pageRecord('page', 'Cameras', { rows: 1 });
const held = (id: string, col: number, device: string, command: string, params = {}): ShowRecord =>
  controlRecord(id, { col, responses: { tap: [], held: [{ device, command, params }] } });
const records = [
  page,
  held('left', 0, 'dev-C1', 'move', { direction: 'left', panSpeed: 2 }),
  held('bare-left', 1, 'dev-C4', 'move', { direction: 'left', panSpeed: 2 }),
  held('horn', 2, 'dev-G1', 'horn'),
  controlRecord('swap', {
    col: 3,
    responses: {
      tap: [{ device: 'dev-SW1', command: 'cut', params: {} }],
      release: [{ device: 'dev-SW1', command: 'cut', params: {} }],
    },
  }),
];

let presses = 0;
const hold = (client: TestClient, control: string) => {
  const id = `hold-${(presses += 1)}-press`;
  client.say({ t: 'press', id, page: 'page', control, gesture: 'hold' });
  return id;
};
/** Says that the press is still held, until the returned function is called. */
const keepHolding = (client: TestClient, id: string) => {
  const timer = setInterval(() => client.say({ t: 'still', id }), 200);
  return () => clearInterval(timer);
};
const moves = async (f: FleetRig, tag: string, moving: boolean, withinMs = 3000) =>
  until(
    async () => (await f.state(tag)) as unknown as { moving: boolean },
    (state) => state.moving === moving,
    withinMs,
  );
/** Why things were stopped, as the record has it, once it has so many of them. */
const stopsOf = (f: FleetRig, count = 1) =>
  until(
    async () => {
      const { rows } = await f.client.follow<{ rows: readonly { kind: string; why?: string }[] }>('as-run');
      return rows.filter((row) => row.kind === 'stop').map((row) => row.why);
    },
    (whys) => whys.length >= count,
  );
const ledger = (f: FleetRig) => readFileSync(join(f.rig.dataDir, 'owed.jsonl'), 'utf8').trim().split('\n');

describe('the dead man’s handle', () => {
  it.each(['C1', 'C4'] as const)('stops %s when the press is released', async (tag) => {
    const f = await startFleetRig([tag], records);
    await f.linkIs(tag, 'up');
    const id = hold(f.client, tag === 'C1' ? 'left' : 'bare-left');
    await f.client.outcome(id);
    await moves(f, tag, true);
    expect(ledger(f)).toHaveLength(1);
    f.client.say({ t: 'release', id });
    await moves(f, tag, false);
    await until(
      () => ledger(f).length,
      (lines) => lines === 2,
    );
    expect(await stopsOf(f)).toEqual(['released']);
  });

  it('goes on while the panel says that it holds', async () => {
    const f = await startFleetRig(['C1'], records);
    await f.linkIs('C1', 'up');
    const id = hold(f.client, 'left');
    const let_go = keepHolding(f.client, id);
    await moves(f, 'C1', true);
    await new Promise((resolve) => setTimeout(resolve, 1800));
    expect(((await f.state('C1')) as unknown as { moving: boolean }).moving).toBe(true);
    let_go();
    await moves(f, 'C1', false);
    expect(await stopsOf(f)).toEqual(['panel gone']);
  });

  it('stops when the panel is closed', async () => {
    const f = await startFleetRig(['C1'], records);
    await f.linkIs('C1', 'up');
    const panel = await TestClient.open(f.rig.url);
    const id = hold(panel, 'left');
    keepHolding(panel, id);
    await moves(f, 'C1', true);
    panel.close();
    await moves(f, 'C1', false, 900);
    expect(await stopsOf(f)).toEqual(['panel gone']);
  });

  it('stops when the page is left', async () => {
    const f = await startFleetRig(['C1'], records);
    await f.linkIs('C1', 'up');
    await f.client.follow('page:page');
    const id = hold(f.client, 'left');
    keepHolding(f.client, id);
    await moves(f, 'C1', true);
    f.client.say({ t: 'unsub', topics: ['page:page'] });
    await moves(f, 'C1', false, 900);
  });

  it('sends a release that swaps once, also when the report of it comes too late', async () => {
    const f = await startFleetRig(['SW1'], records);
    await f.linkIs('SW1', 'up');
    const program = async () => ((await f.state('SW1')) as unknown as { program: number }).program;
    const before = await program();
    const id = hold(f.client, 'swap');
    await f.client.outcome(id);
    await until(program, (now) => now !== before);
    await f.operate('SW1', 'faults', { delayMs: 1500 });
    f.client.say({ t: 'release', id });
    await until(program, (now) => now === before);
    // Longer than the release waits for its confirmation: sent again, it would be back on the other side.
    await new Promise((resolve) => setTimeout(resolve, 2500));
    expect(await program()).toBe(before);
    expect(ledger(f).at(-1)).toContain('paid');
  });

  it('stops the horn when it has sounded for its longest time and no hand is heard', async () => {
    const f = await startFleetRig(['G1'], records);
    await f.linkIs('G1', 'up');
    f.client.say({ t: 'try', id: 'horn-1', device: 'dev-G1', command: 'horn', params: {}, gesture: 'tap' });
    const horn = async () => ((await f.state('G1')) as unknown as { coils: boolean[] }).coils[0];
    await until(horn, (on) => on === true);
    await until(horn, (on) => on === false, 7000);
    expect(await stopsOf(f)).toEqual(['too long']);
  });

  it('sends the stop first of all when the network comes back', async () => {
    const f = await startFleetRig(['C1'], records);
    await f.linkIs('C1', 'up');
    const id = hold(f.client, 'left');
    keepHolding(f.client, id);
    await moves(f, 'C1', true);
    await f.operate('C1', 'faults', { lossPercent: 100 });
    f.client.say({ t: 'release', id });
    await until(
      () => f.link('C1').word,
      (word) => word === 'down',
      12_000,
    );
    expect(((await f.state('C1')) as unknown as { moving: boolean }).moving).toBe(true);
    const from = f.client.got.length;
    await f.client.follow('wire');
    await f.operate('C1', 'faults', { lossPercent: 0 });
    await moves(f, 'C1', false, 8000);
    await f.linkIs('C1', 'up');
    const sentFirst = () => {
      const rows = f.client.got
        .slice(from)
        .flatMap((message) =>
          'topic' in message && message.topic === 'wire' && 'data' in message
            ? (message.data as { rows: readonly { dir: string; hex: string; note?: string }[] }).rows
            : [],
        );
      // From the answer to the greeting after the last fall.
      const fallen = rows.findLastIndex((row) => row.note?.startsWith('link down'));
      const answered = rows.findIndex((row, n) => n > fallen && row.dir === 'in' && row.hex.startsWith('0201'));
      return answered === -1 ? undefined : rows.slice(answered + 1).find((row) => row.dir === 'out');
    };
    const next = await until(sentFirst, (row) => row !== undefined);
    // Behind the header of eight bytes: stop pan and tilt.
    expect(next?.hex.slice(16)).toBe('8101060101010303ff');
  });

  it('sends what an engine that was killed left owed, before the link is up', async () => {
    const f = await startFleetRig(['C4'], records);
    await f.linkIs('C4', 'up');
    const id = hold(f.client, 'bare-left');
    keepHolding(f.client, id);
    await moves(f, 'C4', true);
    await f.rig.crash();
    expect(((await f.state('C4')) as unknown as { moving: boolean }).moving).toBe(true);
    await f.rig.revive();
    await moves(f, 'C4', false, 5000);
    await until(
      () => ledger(f).length,
      (lines) => lines === 2,
    );
  });
});

it('does not send a risky command that was not meant', async () => {
  const f = await startFleetRig(
    ['E1'],
    [
      page,
      {
        ...held('start', 0, 'dev-E1', 'startRecord'),
        data: {
          ...(held('start', 0, 'dev-E1', 'startRecord') as Extract<ShowRecord, { kind: 'control' }>).data,
          responses: { tap: [{ device: 'dev-E1', command: 'startStream', params: {} }] },
        },
      } as ShowRecord,
    ],
  );
  await f.linkIs('E1', 'up');
  f.client.say({ t: 'press', id: 'brushed-1', page: 'page', control: 'start', gesture: 'tap' });
  expect(await f.client.outcome('brushed-1')).toMatchObject({
    outcome: 'skipped',
    reason: expect.stringMatching(/^Guarded/),
  });
  expect(((await f.state('E1')) as unknown as { stream: string }).stream).toBe('idle');
  f.client.say({ t: 'press', id: 'meant-it-1', page: 'page', control: 'start', gesture: 'tap', guard: true });
  expect(await f.client.outcome('meant-it-1')).toMatchObject({ outcome: 'confirmed' });
});
