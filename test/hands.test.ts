import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { PressReport } from '../src/core/live';
import type { MacroStep, ShowRecord } from '../src/core/show';
import { startFleetRig, type FleetRig } from './support/fleet';
import { controlRecord, macroRecord, pageRecord } from './support/records';
import type { TestClient } from './support/rig';
import { runAsOne, until } from './support/rig';
import { paced } from './support/pace';

/** A hand that is gone stops the device; a hand that is there keeps it going. Proved at the stand-ins. */

const move = (panSpeed: number) => ({ device: 'dev-C1', command: 'move', params: { direction: 'left', panSpeed } });
const light = (on: boolean, which = 'boat') => ({
  device: 'dev-G1',
  command: 'light',
  params: { light: which, on },
});
const pulse = (id: string, at: number, forMs: number): MacroStep => ({
  id,
  at,
  does: { is: 'pulse', on: light(true), off: light(false), forMs },
});
const steps = (...all: MacroStep[]) => [{ steps: all }];
const send = (id: string, at: number, device: string, command: string, params = {}): MacroStep => ({
  id,
  at,
  does: { is: 'send', send: { device, command, params } },
});

const records: ShowRecord[] = [
  pageRecord('page', 'Hands', { columns: 9, rows: 2 }),
  controlRecord('stick', { type: 'stick', drive: { device: 'dev-C1', drive: 'head' } }),
  controlRecord('slow', { col: 1, responses: { tap: [], held: [move(1)] } }),
  controlRecord('tapped', { col: 2, responses: { tap: [{ ...move(2), command: 'move' }] } }),
  controlRecord('horn', { col: 3, responses: { tap: [], held: [{ device: 'dev-G1', command: 'horn', params: {} }] } }),
  controlRecord('horn-tap', { col: 4, responses: { tap: [{ device: 'dev-G1', command: 'horn', params: {} }] } }),
  controlRecord('risky', { col: 5, responses: { tap: [], runs: { macro: 'outer', params: {} } } }),
  macroRecord('pulse', steps(pulse('p', 0, 3000), send('end', 6000, 'dev-SW1', 'take', { input: 1 }))),
  macroRecord('again', steps(pulse('p', 0, 1500), send('end', 4000, 'dev-SW1', 'take', { input: 1 })), {
    again: 'restart',
  }),
  macroRecord('down', steps(pulse('p', 0, 8000), send('end', 9000, 'dev-SW1', 'take', { input: 1 })), {
    whenDown: 'stop',
  }),
  macroRecord(
    'moves',
    steps(send('go', 0, 'dev-C1', 'move', { direction: 'left', panSpeed: 2 }), pulse('late', 9000, 10)),
  ),
  macroRecord('outer', steps({ id: 'inner', at: 0, does: { is: 'macro', macro: 'inner', params: {} } })),
  macroRecord('inner', steps(send('store', 0, 'dev-C1', 'store', { preset: 7 }))),
];

let f: FleetRig;
let end: () => Promise<void>;
beforeAll(async () => {
  [f, end] = await runAsOne(() => startFleetRig(['C1', 'C2', 'G1', 'SW1'], records));
  for (const tag of ['C1', 'C2', 'G1', 'SW1']) await f.linkIs(tag, 'up');
});
afterAll(() => end());

let count = 0;
const newId = () => `hands-${(count += 1)}`;
const soon = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));
const camera = async () => (await f.state('C1')) as unknown as { moving: boolean; pan: number; presets: unknown[] };
const moves = (moving: boolean, withinMs = 3000) => until(camera, (state) => state.moving === moving, withinMs);
const lit = async () => ((await f.state('G1')) as unknown as { coils: boolean[] }).coils[1];
const sounds = async () => ((await f.state('G1')) as unknown as { coils: boolean[] }).coils[0];
/** To the right end, so that there is way to go to the left. */
const toTheRight = () => f.send('C1', 'moveTo', { pan: 160, tilt: 0, speed: 24 });
const stick = (client: TestClient, id: string, x: number) =>
  client.say({ t: 'turn', id, page: 'page', control: 'stick', x, y: 0 });
const press = (client: TestClient, control: string, gesture: 'tap' | 'hold', more: object = {}) => {
  const id = newId();
  client.say({ t: 'press', id, page: 'page', control, gesture, ...more });
  return id;
};
const keep = (client: TestClient, id: string) => {
  const timer = setInterval(() => client.say({ t: 'still', id }), 250);
  return () => clearInterval(timer);
};
const run = (macro: string) => {
  const id = newId();
  f.client.say({ t: 'run', id, macro, params: {}, aim: 'live' });
  return id;
};

describe('a stick whose panel is not heard for a while', () => {
  it('stands still within 1.5 s of the last word, and moves again with the next movement, with a stop owed', async () => {
    await toTheRight();
    const id = newId();
    stick(f.client, id, -0.6);
    await moves(true);
    const silentFrom = performance.now();
    await moves(false, 1500);
    expect(performance.now() - silentFrom).toBeLessThan(1700);
    // The Wi-Fi is back: the hand has never left the stick.
    stick(f.client, id, -0.5);
    await moves(true);
    f.client.say({ t: 'release', id });
    await moves(false, 1500);
    await soon(600);
    expect((await camera()).moving).toBe(false);
  });

  it('moves on after a device that was away has come back, and still stops on release', async () => {
    await toTheRight();
    const id = newId();
    stick(f.client, id, -0.6);
    const stop = keep(f.client, id);
    await moves(true);
    await f.operate('C1', 'faults', { lossPercent: 100 });
    await soon(300);
    stick(f.client, id, -0.7);
    await f.operate('C1', 'faults', { lossPercent: 0 });
    stop();
    f.client.say({ t: 'release', id });
    await moves(false, 8000);
    await f.linkIs('C1', 'up', 10_000);
  });
});

// The longest time of a pan is 20 s: nothing shorter than that would show that a hand renews it. Real time, for the stand-in moves in it.
describe('a hand that stays', () => {
  it('keeps a stick and a button going for 60 s while they are held still', { timeout: paced(90_000) }, async () => {
    const other: FleetRig = f;
    await Promise.all([toTheRight(), other.send('C2', 'moveTo', { pan: 160, tilt: 0, speed: 24 })]);
    const id = newId();
    stick(f.client, id, -0.14);
    const held = newId();
    f.client.say({
      t: 'try',
      id: held,
      device: 'dev-C2',
      command: 'move',
      params: { direction: 'left', panSpeed: 1, tiltSpeed: 1 },
      gesture: 'hold',
    });
    const stops = [keep(f.client, id), keep(f.client, held)];
    const second = async () => (await f.state('C2')) as unknown as { moving: boolean };
    for (let seconds = 0; seconds < 60; seconds += 1) {
      await soon(1000);
      expect([seconds, (await camera()).moving, (await second()).moving]).toEqual([seconds, true, true]);
    }
    for (const stop of stops) stop();
    for (const each of [id, held]) f.client.say({ t: 'release', id: each });
    await moves(false, 1500);
    await until(second, ({ moving }) => !moving, 1500);
  });

  it('sounds the horn as long as it is held, and not after; without a hand its longest time counts', async () => {
    const id = press(f.client, 'horn', 'hold');
    const stop = keep(f.client, id);
    await until(sounds, (on) => on === true);
    await soon(6500);
    expect(await sounds()).toBe(true);
    stop();
    await until(sounds, (on) => on === false, 1700);
    press(f.client, 'horn-tap', 'tap');
    await until(sounds, (on) => on === true);
    await soon(4000);
    expect(await sounds()).toBe(true);
    await until(sounds, (on) => on === false, 2500);
  });

  it('is not needed for a short hold: it stops on release', async () => {
    await toTheRight();
    const id = press(f.client, 'slow', 'hold');
    await soon(120);
    f.client.say({ t: 'release', id });
    await moves(false, 1500);
    await soon(500);
    expect((await camera()).moving).toBe(false);
  });
});

describe('a pulse of a macro', () => {
  it('goes off when the run is stopped between on and off', async () => {
    const id = run('pulse');
    await until(lit, (on) => on === true);
    const runs = await f.client.follow<Record<string, unknown>>('runs');
    f.client.say({ t: 'end run', run: Object.keys(runs).find((each) => each === id) ?? '', way: 'stop' });
    await until(lit, (on) => on === false, 1500);
  });

  it('goes off once, at its time, when the macro is begun again in the middle', async () => {
    run('again');
    await until(lit, (on) => on === true);
    await soon(700);
    run('again');
    await soon(300);
    await until(lit, (on) => on === true);
    await until(lit, (on) => on === false, 3000);
    f.client.say({ t: 'end run', way: 'stop' });
    await soon(300);
    expect(await lit()).toBe(false);
  });

  it('goes off when its device was away at its time, as soon as that is back', async () => {
    run('pulse');
    await until(lit, (on) => on === true);
    await f.operate('G1', 'faults', { refuse: true });
    await f.operate('G1', 'drop');
    await f.linkIs('G1', 'down', 15_000);
    await soon(3500);
    expect(await lit()).toBe(true);
    await f.operate('G1', 'faults', { refuse: false });
    await until(lit, (on) => on === false, 8000);
    await f.linkIs('G1', 'up', 10_000);
    f.client.say({ t: 'end run', way: 'stop' });
  });

  it('goes off at its time, when it is played to its end', async () => {
    run('again');
    await until(lit, (on) => on === true);
    await until(lit, (on) => on === false, 2500);
    f.client.say({ t: 'end run', way: 'stop' });
  });

  it('stops what a step has moving when the run is stopped', async () => {
    await toTheRight();
    run('moves');
    await moves(true);
    f.client.say({ t: 'end run', way: 'stop' });
    await moves(false, 1500);
  });
});

it('an unguarded tap on a macro that begins a risky one sends nothing', async () => {
  const before = JSON.stringify((await camera()).presets);
  const brushed = await f.client.outcome(press(f.client, 'risky', 'tap'));
  expect(brushed).toMatchObject({ outcome: 'skipped', why: 'guarded' } satisfies Partial<PressReport>);
  await soon(300);
  expect(JSON.stringify((await camera()).presets)).toBe(before);
  const meant = await f.client.outcome(press(f.client, 'risky', 'tap', { guard: true }));
  expect(meant.outcome).not.toBe('skipped');
});

it('a pulse goes off in the next engine when this one was killed between on and off', async () => {
  run('pulse');
  await until(lit, (on) => on === true);
  await f.rig.crash();
  await soon(300);
  expect(await lit()).toBe(true);
  await f.rig.revive();
  await until(lit, (on) => on === false, 6000);
});
