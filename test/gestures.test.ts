import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { FaceView, PageView, PressReport } from '../src/core/live';
import type { ControlRecord, ShowRecord } from '../src/core/show';
import { startFleetRig, type FleetRig } from './support/fleet';
import { controlRecord } from './support/records';
import { runAsOne, TestClient, until } from './support/rig';

/** What a press does besides being sent once: turns, letting go, long presses, repetitions and undoing itself, on real sockets. */

type Responses = ControlRecord['data']['responses'];
const key = (n: number, on: boolean) => ({ device: 'dev-SW1', command: 'key', params: { key: n, on } });
const take = (input: number) => ({ device: 'dev-SW1', command: 'take', params: { input } });
const control = (id: string, responses: Partial<Responses>, values = {}): ControlRecord =>
  controlRecord(id, { responses: { tap: [], ...responses }, values });

const mute = (on: boolean) => ({ device: 'dev-A1', command: 'mute', params: { strip: { value: 'strip' }, on } });
const records: ShowRecord[] = [
  {
    kind: 'page',
    id: 'page',
    version: 1,
    data: { name: 'Gestures', order: 1, columns: 9, rows: 1, note: '', zones: [] },
  },
  control('mute', { tap: [mute(true)], turns: [[mute(false)]] }, { strip: 3 }),
  control('three', { tap: [take(1)], turns: [[take(2)], [take(3)]] }),
  control('momentary', { tap: [key(1, true)], release: [key(1, false)] }),
  control('steps', {
    tap: [{ device: 'dev-R1', command: 'step', params: { frames: 1 } }],
    repeat: { firstMs: 150, everyMs: 100, fastestMs: 50 },
  }),
  control('either', { tap: [take(5)], long: { afterMs: 400, sends: [take(6)] } }),
  control('title', { tap: [key(2, true)], off: { afterMs: 900, again: 'restart', sends: [key(2, false)] } }),
  control('ended', { tap: [key(3, true)], off: { afterMs: 30_000, again: 'end', sends: [key(3, false)] } }),
  control('owed', { tap: [key(4, true)], off: { afterMs: 6000, again: 'restart', sends: [key(4, false)] } }),
  control('meant', { tap: [take(9)], guard: 'twice' }),
  control(
    'asks',
    {
      tap: [{ device: 'dev-SW1', command: 'take', params: { input: { value: 'input' } } }],
      asks: { mostMs: 3000, items: [{ value: 'input', title: 'Which input' }] },
    },
    { input: 1 },
  ),
];

let f: FleetRig;
let end: () => Promise<void>;
beforeAll(async () => {
  [f, end] = await runAsOne(() => startFleetRig(['SW1', 'A1', 'R1'], records));
  for (const tag of ['SW1', 'A1', 'R1']) await f.linkIs(tag, 'up');
});
afterAll(() => end());

let count = 0;
const press = (client: TestClient, name: string, gesture: 'tap' | 'hold' = 'tap', more: object = {}) => {
  const id = `gesture-${(count += 1)}`;
  client.say({ t: 'press', id, page: 'page', control: name, gesture, ...more });
  return id;
};
const tap = (name: string) => f.client.outcome(press(f.client, name));
const reading = (tag: string, name: string, value: unknown) =>
  until(
    () => f.reading(tag, name),
    (now) => now === value,
  );
const soon = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));
/** Holds as a panel does: it says so all the time. */
function hold(client: TestClient, name: string) {
  const id = press(client, name, 'hold');
  const still = setInterval(() => client.say({ t: 'still', id }), 200);
  const stop = () => clearInterval(still);
  return {
    id,
    stop,
    release: () => {
      stop();
      client.say({ t: 'release', id });
    },
  };
}

describe('turns', () => {
  it('follow what the device reports, also when somebody else has changed it', async () => {
    expect(await tap('mute')).toMatchObject({ outcome: 'confirmed' });
    await reading('A1', 'strip[3].muted', true);
    await tap('mute');
    await reading('A1', 'strip[3].muted', false);
    await f.operate('A1', 'operate', { verb: 'mute', strip: 3, on: true });
    await reading('A1', 'strip[3].muted', true);
    await tap('mute');
    await reading('A1', 'strip[3].muted', false);
  });

  it('are right also when it is tapped again before the device has reported', async () => {
    const was = f.reading('A1', 'strip[3].muted');
    press(f.client, 'mute');
    await f.client.outcome(press(f.client, 'mute'));
    await soon(300);
    expect(f.reading('A1', 'strip[3].muted')).toBe(was);
  });

  it('go round, of three as of two', async () => {
    await f.operate('SW1', 'operate', { verb: 'take', input: 2 });
    await reading('SW1', 'program', 2);
    for (const input of [3, 1, 2]) {
      await tap('three');
      await reading('SW1', 'program', input);
    }
  });
});

describe('what is sent when it is let go', () => {
  it('is sent on release', async () => {
    const held = hold(f.client, 'momentary');
    await reading('SW1', 'key[1].on', true);
    await soon(300);
    expect(f.reading('SW1', 'key[1].on')).toBe(true);
    held.release();
    await reading('SW1', 'key[1].on', false);
  });

  it('is sent when the panel goes', async () => {
    const panel = await TestClient.open(`${f.rig.url}?panel`);
    const held = hold(panel, 'momentary');
    await reading('SW1', 'key[1].on', true);
    held.stop();
    panel.close();
    await reading('SW1', 'key[1].on', false);
  });

  it('is sent when the panel falls silent', async () => {
    const held = hold(f.client, 'momentary');
    await reading('SW1', 'key[1].on', true);
    held.stop();
    await reading('SW1', 'key[1].on', false);
  });
});

describe('a repetition', () => {
  it('goes on while it is held, and ends when it is let go', async () => {
    await f.operate('R1', 'operate', { verb: 'load', clip: 1 });
    await reading('R1', 'transport', 'cued');
    const position = async () => Number((await f.state('R1')).position);
    const held = hold(f.client, 'steps');
    await until(position, (now) => now >= 6 / 25);
    held.release();
    await soon(200);
    const at = await position();
    await soon(400);
    expect(await position()).toBe(at);
  });

  it('ends when the panel goes', async () => {
    const panel = await TestClient.open(`${f.rig.url}?panel`);
    const held = hold(panel, 'steps');
    const position = async () => Number((await f.state('R1')).position);
    const from = await position();
    await until(position, (now) => now > from);
    held.stop();
    panel.close();
    await soon(300);
    const at = await position();
    await soon(400);
    expect(await position()).toBe(at);
  });
});

describe('a long press', () => {
  it('sends one thing when it is let go before its time, and another after it', async () => {
    const short = hold(f.client, 'either');
    await soon(100);
    expect(f.reading('SW1', 'program')).not.toBe(5);
    short.release();
    await reading('SW1', 'program', 5);
    expect(await f.client.outcome(short.id)).toMatchObject({ outcome: 'confirmed' });
    const long = hold(f.client, 'either');
    await reading('SW1', 'program', 6);
    long.release();
    await soon(300);
    expect(f.reading('SW1', 'program')).toBe(6);
  });

  it('sends nothing when whoever held it is gone before it was decided', async () => {
    const panel = await TestClient.open(`${f.rig.url}?panel`);
    const held = hold(panel, 'either');
    held.stop();
    await soon(100);
    panel.close();
    await soon(700);
    expect(f.reading('SW1', 'program')).toBe(6);
  });
});

describe('a question at the press', () => {
  const asked = async (id: string, isWrong = false) => {
    const report = await f.client.next(
      (each) =>
        each.t === 'press' && each.id === id && each.asks !== undefined && (each.asks.wrong !== undefined) === isWrong,
    );
    return (report as PressReport).asks;
  };

  it('is asked as the command takes it, sends nothing before its answer, and keeps the answer at hand', async () => {
    await tap('three');
    const before = f.reading('SW1', 'program');
    const id = press(f.client, 'asks');
    const question = await asked(id);
    expect(question?.items[0]).toMatchObject({ value: 'input', title: 'Which input', now: 1, last: [] });
    expect(question?.items[0]?.options).toContainEqual({ value: 8, title: expect.stringMatching(/^8 ./) as string });
    expect(f.reading('SW1', 'program')).toBe(before);
    f.client.say({ t: 'answer', id, given: { input: 8 } });
    expect(await f.client.outcome(id)).toMatchObject({ outcome: 'confirmed' });
    await reading('SW1', 'program', 8);
    const again = press(f.client, 'asks');
    expect((await asked(again))?.items[0]?.last).toEqual([8]);
    f.client.say({ t: 'answer', id: again });
    expect(await f.client.outcome(again)).toMatchObject({
      outcome: 'skipped',
      reason: 'The question was left unanswered.',
    });
  });

  it('says which answer will not do, and asks on', async () => {
    const id = press(f.client, 'asks');
    await asked(id);
    f.client.say({ t: 'answer', id, given: { input: 99 } });
    expect((await asked(id, true))?.wrong).toMatchObject({
      path: 'input',
      message: expect.stringContaining('none of what') as string,
    });
    f.client.say({ t: 'answer', id, given: { input: 9 } });
    expect(await f.client.outcome(id)).toMatchObject({ outcome: 'confirmed' });
  });

  it('ends as skipped after its time, and is not asked what was answered beforehand', async () => {
    const id = press(f.client, 'asks');
    expect(await f.client.outcome(id)).toMatchObject({ outcome: 'skipped', reason: 'Not answered within 3 s.' });
    const given = (answers: object) => f.client.outcome(press(f.client, 'asks', 'tap', { given: answers }));
    expect(await given({})).toMatchObject({ outcome: 'skipped', reason: 'Which input: not answered yet.' });
    expect(await given({ input: 10 })).toMatchObject({ outcome: 'confirmed' });
    await reading('SW1', 'program', 10);
  });

  it('can still be answered after the panel has come back', async () => {
    const panel = await TestClient.open(f.rig.url);
    const id = press(panel, 'asks');
    await panel.next((each) => each.t === 'press' && each.asks !== undefined);
    panel.close();
    f.client.say({ t: 'ask', id });
    await asked(id);
    f.client.say({ t: 'answer', id, given: { input: 11 } });
    expect(await f.client.outcome(id)).toMatchObject({ outcome: 'confirmed' });
  });
});

describe('what undoes itself', () => {
  it('does so after its time, which begins anew with each tap, and says when', async () => {
    const view = await f.client.follow<PageView>('page:page');
    expect(view.faces.title?.offAt).toBeUndefined();
    await tap('title');
    await reading('SW1', 'key[2].on', true);
    const face = () => (f.client.topic('page:page') as PageView).faces.title as FaceView;
    const { offAt = 0 } = await until(face, (now) => now.offAt !== undefined);
    expect(offAt - Date.now()).toBeGreaterThan(0);
    await soon(600);
    await tap('title');
    await soon(500);
    expect(f.reading('SW1', 'key[2].on')).toBe(true);
    await reading('SW1', 'key[2].on', false);
  });

  it('is ended by a second tap where that was chosen', async () => {
    await tap('ended');
    await reading('SW1', 'key[3].on', true);
    expect((await tap('ended')).reason).toBe('Turned off early by hand.');
    await reading('SW1', 'key[3].on', false);
    await tap('ended');
    await reading('SW1', 'key[3].on', true);
    await tap('ended');
    await reading('SW1', 'key[3].on', false);
  });
});

it('what has to be meant is not sent without', async () => {
  expect(await tap('meant')).toMatchObject({ outcome: 'skipped' });
  const meant = press(f.client, 'meant', 'tap', { guard: true });
  expect(await f.client.outcome(meant)).toMatchObject({ outcome: 'confirmed' });
});

it('what is owed goes out at the next start when the engine was killed: what was held at once, what undoes itself at its time', async () => {
  await tap('owed');
  await reading('SW1', 'key[4].on', true);
  const held = hold(f.client, 'momentary');
  await reading('SW1', 'key[1].on', true);
  await f.rig.crash();
  held.stop();
  const keys = async () => ((await f.state('SW1')) as unknown as { keys: { on: boolean }[] }).keys.map(({ on }) => on);
  // A killed engine tells nobody anything: both are still on.
  expect(await keys()).toMatchObject({ 0: true, 3: true });
  await f.rig.revive();
  await until(keys, (now) => now[0] === false);
  // What undoes itself does so at its time, also under the next engine.
  expect((await keys())[3]).toBe(true);
  await until(keys, (now) => now.every((on) => !on));
});
