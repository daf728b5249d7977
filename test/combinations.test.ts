import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { AsRunRow, PageView, PressReport } from '../src/core/live';
import { clashesOf, whyNotWith } from '../src/core/press';
import type { ControlRecord, ShowRecord } from '../src/core/show';
import { startFleetRig, type FleetRig } from './support/fleet';
import { controlRecord, macroRecord, pageRecord } from './support/records';
import type { TestClient } from './support/rig';
import { runAsOne, until } from './support/rig';

/** What a press does when its parts meet: each combination that can be set works, on real sockets, at the stand-in's state. */

type Responses = ControlRecord['data']['responses'];
const key = (n: number | object, on: boolean) => ({
  device: 'dev-SW1',
  command: 'key',
  params: { key: n as number, on },
});
const take = (input: number) => ({ device: 'dev-SW1', command: 'take', params: { input } });
const control = (id: string, responses: Partial<Responses>, more: Partial<ControlRecord['data']> = {}): ControlRecord =>
  controlRecord(id, { responses: { tap: [], ...responses }, ...more });
const begins = { runs: { macro: 'four', params: {} } };
const step = (frames: number) => ({ device: 'dev-R1', command: 'step', params: { frames } });
const mute = (on: boolean) => ({ device: 'dev-A1', command: 'mute', params: { strip: { value: 'strip' }, on } });

const records: ShowRecord[] = [
  pageRecord('page', 'Combinations', {
    columns: 9,
    rows: 4,
    shifts: [{ id: 'upper', name: 'upper' }],
  }),
  macroRecord('four', [
    {
      steps: [
        {
          id: 'a',
          at: 0,
          does: { is: 'send', send: { device: 'dev-SW1', command: 'key', params: { key: 4, on: true } } },
        },
        {
          id: 'b',
          at: 400,
          does: { is: 'send', send: { device: 'dev-SW1', command: 'key', params: { key: 4, on: false } } },
        },
      ],
    },
  ]),
  macroRecord(
    'clock',
    [
      {
        waits: {
          until: { op: 'above', reading: { device: 'own', key: 'timeOfDay' }, to: { value: 'at' } },
          mostMs: 20_000,
          otherwise: 'stop',
        },
        steps: [
          { id: 'a', at: 0, does: { is: 'send', send: { device: 'dev-SW1', command: 'take', params: { input: 12 } } } },
        ],
      },
    ],
    { params: [{ name: 'at', title: 'At', value: 0 }] },
  ),
  control('macro-release', { ...begins, release: [key(1, false)], tap: [key(1, true)] }),
  control('macro-long', { ...begins, long: { afterMs: 300, sends: [take(6)] } }),
  control('macro-repeat', { ...begins, tap: [step(1)], repeat: { firstMs: 100, everyMs: 60 } }),
  control('macro-held', { ...begins, held: [{ device: 'dev-C1', command: 'move', params: { direction: 'left' } }] }),
  control('long-release', { tap: [take(3)], long: { afterMs: 300, sends: [key(2, true)] }, release: [key(2, false)] }),
  control('turns-repeat', { tap: [light(true)], turns: [[light(false)]], repeat: { firstMs: 100, everyMs: 60 } }),
  control('release-only', { release: [key(3, false)] }),
  control('nothing', {}),
  control('tap-held', {
    tap: [take(9)],
    held: [{ device: 'dev-C1', command: 'move', params: { direction: 'right' } }],
  }),
  control('twice', { tap: [take(8)], guard: 'twice' }),
  control('waits', { tap: [key(1, true), { ...key(2, true), waitMs: 700 }], release: [key(1, false), key(2, false)] }),
  control('counted', { tap: [mute(true)], turns: [[mute(false)]], guard: 'twice' }, { values: { strip: 4 } }),
  // The multiviewer reports nothing: turns are counted.
  control('untold', { tap: [shown('first')], turns: [[shown('second')]], guard: 'twice' }),
  control(
    'target',
    {
      tap: [key({ value: 'key' }, true)],
      off: { afterMs: 1200, again: 'restart', sends: [key({ value: 'key' }, false)] },
      asks: { mostMs: 5000, items: [{ value: 'key', title: 'Which key' }] },
    },
    { values: { key: 1 } },
  ),
  control(
    'levels',
    {
      tap: [key({ value: 'key' }, true)],
      off: { afterMs: 1200, again: 'restart', sends: [key({ value: 'key' }, false)] },
    },
    { values: { key: 1 }, shifts: { upper: { values: { key: 2 } } } },
  ),
  control(
    'barred',
    { tap: [take(1)] },
    {
      lamps: [{ when: { op: 'differs', reading: { device: 'dev-SW1', key: 'rate' }, to: -1 }, bars: true }],
    },
  ),
];

function shown(name: string) {
  return { device: 'dev-M1', command: 'show', params: { display: 7, name } };
}

function light(on: boolean) {
  return { device: 'dev-SW1', command: 'name', params: { input: 12, text: on ? 'on' : 'off' } };
}

let f: FleetRig;
let end: () => Promise<void>;
beforeAll(async () => {
  [f, end] = await runAsOne(() => startFleetRig(['SW1', 'A1', 'R1', 'C1', 'M1'], records));
  for (const tag of ['SW1', 'A1', 'R1', 'C1']) await f.linkIs(tag, 'up');
  await f.operate('R1', 'operate', { verb: 'load', clip: 1 });
});
afterAll(() => end());

let count = 0;
const press = (client: TestClient, name: string, gesture: 'tap' | 'hold' = 'tap', more: object = {}) => {
  const id = `combined-${(count += 1)}`;
  client.say({ t: 'press', id, page: 'page', control: name, gesture, ...more });
  return id;
};
const soon = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));
const hold = (name: string, more: object = {}) => {
  const id = press(f.client, name, 'hold', more);
  const timer = setInterval(() => f.client.say({ t: 'still', id }), 200);
  return {
    id,
    release: () => {
      clearInterval(timer);
      f.client.say({ t: 'release', id });
    },
  };
};
const switcher = async () =>
  (await f.state('SW1')) as unknown as { program: number; keys: { on: boolean }[]; names: string[] };
const keyIs = (n: number, on: boolean, withinMs?: number) =>
  until(
    async () => (await switcher()).keys[n - 1]?.on,
    (now) => now === on,
    withinMs,
  );
const airIs = (input: number) =>
  until(
    async () => (await switcher()).program,
    (now) => now === input,
  );
const position = async () => Number((await f.state('R1')).position);
const macrosBegun = async () => {
  const { rows } = await f.client.follow<{ rows: readonly AsRunRow[] }>('as-run');
  return rows.filter((row) => row.kind === 'begin').length;
};

describe('a control with a macro', () => {
  it('and something on release begins the macro on touch, and sends the release on release', async () => {
    const held = hold('macro-release');
    await keyIs(1, true);
    await keyIs(4, true);
    held.release();
    await keyIs(1, false);
    await keyIs(4, false);
    expect((await f.client.outcome(held.id)).outcome).toMatch(/confirmed|sent/);
  });

  it('and a long press begins the macro on an early release, and sends only the other thing after its time', async () => {
    const before = await macrosBegun();
    const long = hold('macro-long');
    await airIs(6);
    long.release();
    await soon(500);
    expect(await macrosBegun()).toBe(before);
    const short = hold('macro-long');
    await soon(80);
    short.release();
    await keyIs(4, true);
    await keyIs(4, false);
    expect(await macrosBegun()).toBe(before + 1);
  });

  it('and a repetition begins the macro once', async () => {
    const before = await macrosBegun();
    const from = await position();
    const held = hold('macro-repeat');
    await until(position, (now) => now >= from + 4 / 25);
    held.release();
    await soon(600);
    expect(await macrosBegun()).toBe(before + 1);
  });

  it('and something while held begins the macro on touch', async () => {
    const before = await macrosBegun();
    const held = hold('macro-held');
    await until(macrosBegun, (now) => now === before + 1);
    held.release();
    await until(
      async () => (await f.state('C1')) as unknown as { moving: boolean },
      ({ moving }) => !moving,
    );
  });
});

describe('a long press with something on release', () => {
  it('sends the release after the long press ends', async () => {
    const held = hold('long-release');
    await keyIs(2, true);
    await soon(300);
    expect((await switcher()).keys[1]?.on).toBe(true);
    held.release();
    await keyIs(2, false);
  });

  it('let go before its time is a tap with its release behind it', async () => {
    await f
      .operate('SW1', 'operate', { verb: 'key', key: 2, on: true })
      .catch(() => f.send('SW1', 'key', { key: 2, on: true }));
    await keyIs(2, true);
    const held = hold('long-release');
    await soon(60);
    held.release();
    await airIs(3);
    await keyIs(2, false);
  });
});

it('an alternation that repeats repeats the turn that it began with', async () => {
  const sent = async (press: string) => {
    const { rows } = await f.client.follow<{ rows: readonly AsRunRow[] }>('as-run');
    return rows.flatMap((row) => (row.kind === 'press' && row.press.startsWith(press) ? row.sends[0]?.text : []));
  };
  await f.send('SW1', 'name', { input: 12, text: 'off' });
  const held = hold('turns-repeat');
  const texts = await until(
    () => sent(held.id),
    (all) => all.length >= 4,
  );
  held.release();
  expect(new Set(texts).size).toBe(1);
});

it('what is sent while held goes out behind what is sent on touch', async () => {
  const held = hold('tap-held');
  await airIs(9);
  await until(
    async () => (await f.state('C1')) as unknown as { moving: boolean },
    ({ moving }) => moving,
  );
  held.release();
  await until(
    async () => (await f.state('C1')) as unknown as { moving: boolean },
    ({ moving }) => !moving,
    1500,
  );
});

it('what still waits on release is not sent behind the release', async () => {
  const held = hold('waits');
  await keyIs(1, true);
  held.release();
  await keyIs(1, false);
  await soon(1000);
  expect((await switcher()).keys.slice(0, 2).map(({ on }) => on)).toEqual([false, false]);
});

it.each([
  ['held and long', { held: [take(1)], long: { afterMs: 300, sends: [] } }],
  ['held and repeat', { held: [take(1)], repeat: { firstMs: 400, everyMs: 200 } }],
  ['long and repeat', { long: { afterMs: 300, sends: [] }, repeat: { firstMs: 400, everyMs: 200 } }],
  ['asking and release', { asks: { mostMs: 5000, items: [] }, release: [take(1)] }],
] as const)('%s do not go together, and it is said why', (_name, parts) => {
  const responses = { tap: [], ...parts } as unknown as Responses;
  expect(clashesOf(responses)).toHaveLength(1);
  const [first, second] = Object.keys(parts) as ('held' | 'long' | 'repeat' | 'release' | 'asks')[];
  const { [second as 'long']: _, ...without } = responses;
  expect(whyNotWith(without as Responses, second ?? 'long')).toMatch(/\.$/);
  expect(whyNotWith({ tap: [take(1)] } as unknown as Responses, first ?? 'held')).toBeUndefined();
});

describe('an outcome tells the truth', () => {
  const outcomeOf = async (name: string, more: object = {}) => f.client.outcome(press(f.client, name, 'tap', more));

  it('of a press that sends nothing', async () => {
    expect(await outcomeOf('nothing')).toMatchObject({ outcome: 'skipped', why: 'nothing-to-send' });
  });

  it('of a press that only sends on release: it ends when that has', async () => {
    await f.send('SW1', 'key', { key: 3, on: true });
    await keyIs(3, true);
    const held = hold('release-only');
    await soon(300);
    held.release();
    expect(await f.client.outcome(held.id)).toMatchObject({ outcome: 'confirmed' });
    await keyIs(3, false);
  });

  it('of what has to be pressed twice, with what to do', async () => {
    expect(await outcomeOf('twice')).toMatchObject({
      outcome: 'skipped',
      why: 'guarded',
      reason: expect.stringContaining('press it twice') as string,
    });
  });

  it('of what a rule bars', async () => {
    expect(await outcomeOf('barred')).toMatchObject({ outcome: 'skipped', why: 'barred' });
  });

  it('of a macro that runs already, and of one that is stopped', async () => {
    const first = press(f.client, 'macro-long');
    const second = press(f.client, 'macro-long');
    expect(await f.client.outcome(second)).toMatchObject({ outcome: 'skipped', why: 'running-already' });
    f.client.say({ t: 'end run', way: 'stop' });
    expect(await f.client.outcome(first)).toMatchObject({ outcome: 'skipped', why: 'stopped' });
    await f.send('SW1', 'key', { key: 4, on: false });
  });

  it('of a question that is left unanswered', async () => {
    const id = press(f.client, 'target');
    await f.client.next((each) => each.t === 'press' && each.id === id && each.asks !== undefined);
    f.client.say({ t: 'answer', id });
    expect(await f.client.outcome(id)).toMatchObject({ outcome: 'skipped', why: 'unanswered' });
  });
});

describe('turning off after a time', () => {
  it('is owed to each target that was answered', async () => {
    for (const each of [1, 2, 3]) {
      expect(await f.client.outcome(press(f.client, 'target', 'tap', { given: { key: each } }))).toMatchObject({
        outcome: 'confirmed',
      });
    }
    expect((await switcher()).keys.slice(0, 3).map(({ on }) => on)).toEqual([true, true, true]);
    for (const each of [1, 2, 3]) await keyIs(each, false, 8000);
  });

  it('is owed to the target of each level, and each shows its own time', async () => {
    await f.client.follow<PageView>('page:page');
    await f.client.follow<PageView>('page:page;shift=upper');
    await f.client.outcome(press(f.client, 'levels'));
    const offAt = (topic: string) => (f.client.topic(topic) as PageView).faces.levels?.offAt;
    await until(
      () => offAt('page:page'),
      (at) => at !== undefined,
    );
    expect(offAt('page:page;shift=upper')).toBeUndefined();
    await f.client.outcome(press(f.client, 'levels', 'tap', { context: 'page;shift=upper' }));
    expect((await switcher()).keys.slice(0, 2).map(({ on }) => on)).toEqual([true, true]);
    for (const each of [1, 2]) await keyIs(each, false, 8000);
  });
});

describe('an alternation', () => {
  it('by counting does not count a press that was not sent', async () => {
    const name = async () => ((await f.state('M1')) as unknown as { displays: { text: string }[] }).displays[6]?.text;
    const guarded = { guard: true };
    await f.client.outcome(press(f.client, 'untold', 'tap', guarded));
    await until(name, (now) => now === 'first');
    for (let n = 0; n < 3; n += 1)
      expect(await f.client.outcome(press(f.client, 'untold'))).toMatchObject({ why: 'guarded' });
    await f.client.outcome(press(f.client, 'untold', 'tap', guarded));
    await until(name, (now) => now === 'second');
  });
});

describe('a trial in the editor', () => {
  const trial = (data: ControlRecord['data'], gesture: 'tap' | 'hold', aim: 'live' | 'dry') => {
    const id = `trial-${(count += 1)}`;
    f.client.say({ t: 'trial', id, control: data, gesture, guard: true, aim, of: 'some' });
    return id;
  };
  const dataOf = (id: string) => (records.find((each) => each.id === id) as ControlRecord).data;

  it('sends the release of a control at the end', async () => {
    const id = trial(dataOf('macro-release'), 'hold', 'live');
    const timer = setInterval(() => f.client.say({ t: 'still', id }), 200);
    await keyIs(1, true);
    await keyIs(4, true);
    clearInterval(timer);
    f.client.say({ t: 'release', id });
    await keyIs(1, false);
    await keyIs(4, false);
  });

  it('alternates, asks, and is long or short like a press', async () => {
    const id = trial(dataOf('target'), 'tap', 'live');
    await f.client.next((each) => each.t === 'press' && each.id === id && each.asks !== undefined);
    f.client.say({ t: 'answer', id, given: { key: 2 } });
    expect(await f.client.outcome(id)).toMatchObject({ outcome: 'confirmed' });
    await keyIs(2, true);
    await keyIs(2, false, 8000);
    const long = trial(dataOf('long-release'), 'hold', 'live');
    const timer = setInterval(() => f.client.say({ t: 'still', id: long }), 200);
    await keyIs(2, true);
    clearInterval(timer);
    f.client.say({ t: 'release', id: long });
    await keyIs(2, false);
  });

  it('dry sends nothing, and shows what it would, its release included', async () => {
    const before = JSON.stringify((await switcher()).keys);
    const report = (await f.client.outcome(trial(dataOf('waits'), 'hold', 'dry'))) as PressReport;
    expect(report).toMatchObject({ outcome: 'skipped', why: 'dry' });
    expect(report.tried?.map(({ text }) => text)).toHaveLength(4);
    expect(JSON.stringify((await switcher()).keys)).toBe(before);
  });
});

it('a macro that waits for the time of day goes on at that time', async () => {
  const now = new Date();
  const seconds = (Date.now() - new Date(now.getFullYear(), now.getMonth(), now.getDate()).getTime()) / 1000;
  const id = `clock-${(count += 1)}`;
  f.client.say({ t: 'run', id, macro: 'clock', params: { at: seconds + 1.5 }, aim: 'live' });
  await soon(1000);
  expect((await switcher()).program).not.toBe(12);
  const startedAt = performance.now();
  await airIs(12);
  // Looked at every 50 ms; a shared machine may stand still for a moment.
  expect(performance.now() - startedAt).toBeLessThan(1500);
});
