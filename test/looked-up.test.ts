import fc from 'fast-check';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import type { PageView } from '../src/core/live';
import { ownId, type ControlRecord, type SentArgument, type ShowRecord } from '../src/core/show';
import { startFleetRig, type FleetRig } from './support/fleet';
import { controlRecord, macroRecord, pageRecord } from './support/records';
import { runAsOne, TestClient, until } from './support/rig';

/** Values that commands look up when they leave: readings and expressions, asserted at the switcher and the mixer. */

const program = { device: 'dev-SW1', key: 'program' };
const lap = { device: ownId, key: 'variable.lap' };
const name = { device: 'dev-SW1', key: 'input[$input].name' };
const control = (id: string, tap: ControlRecord['data']['responses']['tap'], more: object = {}, data: object = {}) =>
  controlRecord(id, { responses: { tap, ...more }, ...data });
const aux = (number: number, input: SentArgument) => ({
  device: 'dev-SW1',
  command: 'aux',
  params: { aux: number, input },
});
const ready = (input: SentArgument) => ({ device: 'dev-SW1', command: 'ready', params: { input } });
const records: ShowRecord[] = [
  pageRecord('page', 'Race'),
  control('reading', [aux(1, { reading: program })]),
  control('reckoned', [ready({ cel: 'r0 == 1 ? 7 : 8', readings: [program] })]),
  control('rounded', [ready({ cel: 'double(r0) * 1.4', readings: [lap] })]),
  control('doubled', [{ device: ownId, command: 'setLap', params: { value: { cel: 'r0 * 2', readings: [lap] } } }]),
  control('far', [ready({ cel: 'r0 + 1000', readings: [program] })]),
  control('nobody', [aux(1, { reading: { device: 'dev-SW1', key: 'input[99].name' } }), aux(2, 4)]),
  control('both', [], {
    held: [aux(2, { reading: program })],
    release: [{ device: 'dev-SW1', command: 'ready', params: { input: { reading: program } } }],
  }),
  control(
    'named',
    [{ device: 'dev-SW1', command: 'name', params: { input: 9, text: { reading: name } } }],
    {},
    {
      values: { input: 2 },
    },
  ),
  control('number-as-text', [{ device: 'dev-SW1', command: 'name', params: { input: 8, text: { reading: lap } } }]),
  control(
    'asked',
    [{ device: ownId, command: 'setLap', params: { value: { value: 'answer' } } }],
    { asks: { mostMs: 5000, items: [{ value: 'answer', title: 'Which lap' }] } },
    { values: { answer: 1 } },
  ),
  control('repeats', [{ device: ownId, command: 'setLap', params: { value: { cel: 'r0 + 1', readings: [lap] } } }], {
    repeat: { firstMs: 100, everyMs: 60 },
  }),
  control('turned-off', [{ device: 'dev-SW1', command: 'key', params: { key: { reading: lap }, on: true } }], {
    off: {
      afterMs: 900,
      again: 'end',
      sends: [{ device: 'dev-SW1', command: 'key', params: { key: { reading: lap }, on: false } }],
    },
  }),
  control('sentence', [aux(2, { reading: program })], {}, { label: [] }),
  controlRecord('macro', {
    responses: { tap: [], runs: { macro: 'mac', params: { input: { cel: 'r0 + 2', readings: [program] } } } },
  }),
  macroRecord(
    'mac',
    [
      {
        steps: [{ id: 'a', at: 0, does: { is: 'send', send: aux(2, { cel: 'input + r0', readings: [program] }) } }],
      },
    ],
    { params: [{ name: 'input', title: 'Input', value: 1 }] },
  ),
  controlRecord('fader', {
    type: 'fader',
    range: {
      send: { device: 'dev-A1', command: 'level', params: { strip: { cel: 'r0 + 1', readings: [program] } } },
      param: 'level',
      min: -60,
      max: 10,
    },
  }),
  {
    kind: 'variable',
    id: 'var-lap',
    version: 1,
    data: {
      name: 'Lap',
      key: 'lap',
      order: 1,
      note: '',
      value: { type: 'number', min: 0, max: 1000, step: 1, decimals: 0, unit: '', initial: 0 },
    },
  },
  {
    kind: 'watch',
    id: 'watch-1',
    version: 1,
    data: {
      name: 'Aux follows next',
      number: 1,
      order: 1,
      note: '',
      when: { is: 'change', reading: { device: 'dev-SW1', key: 'preview' } },
      delayMs: 0,
      quietMs: 0,
      mostPerMinute: 600,
      sends: [aux(2, { reading: { device: 'dev-SW1', key: 'preview' } })],
    },
  },
];

let f: FleetRig;
let end: () => Promise<void>;
beforeAll(async () => {
  [f, end] = await runAsOne(() => startFleetRig(['SW1', 'A1'], records));
  await f.linkIs('SW1', 'up');
  await f.linkIs('A1', 'up');
});
afterAll(() => end());

interface Switcher {
  readonly program: number;
  readonly preview: number;
  readonly aux: readonly number[];
  readonly keys: readonly { readonly on: boolean }[];
  readonly names: readonly string[];
}
const switcher = async () => (await f.state('SW1')) as unknown as Switcher;
const press = (id: string) => f.client.press('page', id);
const lapIs = (value: number) => f.send('SHOW', 'setLap', { value });
const lapNow = () => f.rig.engine.running.readings.fresh(ownId, 'variable.lap');

beforeEach(async () => {
  await f.send('SW1', 'take', { input: 1 });
  await f.send('SW1', 'ready', { input: 2 });
});

describe('a value that a command looks up', () => {
  it('is what the reading says when it leaves', async () => {
    for (const input of [3, 5]) {
      await f.send('SW1', 'take', { input });
      expect(await press('reading')).toMatchObject({ outcome: 'confirmed' });
      expect((await switcher()).aux[0]).toBe(input);
    }
  });

  it('is worked out, in the type that the command takes', async () => {
    await press('reckoned');
    expect((await switcher()).preview).toBe(7);
    await f.send('SW1', 'take', { input: 4 });
    await press('reckoned');
    expect((await switcher()).preview).toBe(8);
    await lapIs(3);
    await press('rounded');
    expect((await switcher()).preview).toBe(4);
    await press('number-as-text');
    await until(switcher, ({ names }) => names[7] === '3');
  });

  it('may hang on a value of the control', async () => {
    await f.send('SW1', 'name', { input: 2, text: 'Finish' });
    await press('named');
    await until(switcher, ({ names }) => names[8] === 'Finish');
  });

  it('reckons with a variable', async () => {
    await lapIs(21);
    expect(await press('doubled')).toMatchObject({ outcome: 'confirmed' });
    expect(lapNow()).toBe(42);
  });

  it('that nobody knows is not sent, and says so; what else is sent, is sent', async () => {
    const report = await press('nobody');
    expect(report).toMatchObject({ outcome: 'lost', why: 'bad-value' });
    expect(report.reason).toContain('what it is taken from is not known now');
    expect((await switcher()).aux[1]).toBe(4);
    expect(await press('far')).toMatchObject({ outcome: 'lost', why: 'bad-value' });
  });

  it('is the same at the release as at the press', async () => {
    const id = 'looked-up-held';
    f.client.say({ t: 'press', id, page: 'page', control: 'both', gesture: 'hold' });
    await until(switcher, ({ aux: [, second] }) => second === 1);
    await f.send('SW1', 'take', { input: 6 });
    f.client.say({ t: 'release', id });
    await f.client.outcome(id);
    await until(switcher, ({ preview }) => preview === 1);
  });

  it('is looked up anew each time that a press repeats', async () => {
    await lapIs(0);
    const id = 'looked-up-repeats';
    f.client.say({ t: 'press', id, page: 'page', control: 'repeats', gesture: 'hold' });
    const timer = setInterval(() => f.client.say({ t: 'still', id }), 200);
    await until(lapNow, (value) => Number(value) >= 4);
    clearInterval(timer);
    f.client.say({ t: 'release', id });
    await f.client.outcome(id);
  });

  it('is turned off where it was turned on, also when the reading is another by then', async () => {
    await lapIs(2);
    await press('turned-off');
    await lapIs(3);
    await until(switcher, ({ keys }) => keys[1]?.on === true);
    expect((await switcher()).keys[2]?.on).toBe(false);
    await until(switcher, ({ keys }) => keys[1]?.on === false);
    // Pressed again before its time it ends at once.
    await press('turned-off');
    await until(switcher, ({ keys }) => keys[2]?.on === true);
    await lapIs(4);
    await press('turned-off');
    await until(switcher, ({ keys }) => keys[2]?.on === false);
    expect((await switcher()).keys[3]?.on).toBe(false);
  });

  it('fills what a question has set', async () => {
    const id = 'looked-up-asked';
    f.client.say({ t: 'press', id, page: 'page', control: 'asked', gesture: 'tap' });
    await f.client.next((each) => each.t === 'press' && each.id === id && each.asks !== undefined);
    f.client.say({ t: 'answer', id, given: { answer: 17 } });
    expect(await f.client.outcome(id)).toMatchObject({ outcome: 'confirmed' });
    expect(lapNow()).toBe(17);
  });

  it('goes into the parameters of a macro, and is reckoned with in its steps', async () => {
    await f.send('SW1', 'take', { input: 2 });
    expect(await press('macro')).toMatchObject({ outcome: 'confirmed' });
    expect((await switcher()).aux[1]).toBe(6);
  });

  it('is looked up by a watch when it fires', async () => {
    await f.send('SHOW', 'switchWatch', { watch: 1, on: true });
    for (const input of [5, 3]) {
      await f.send('SW1', 'ready', { input });
      await until(switcher, ({ aux: list }) => list[1] === input);
    }
  });

  it('chooses the strip that a fader moves', async () => {
    const turn = (id: string, x: number) =>
      f.client.say({ t: 'turn', id, page: 'page', control: 'fader', x, guard: true } as never);
    await f.send('SW1', 'take', { input: 2 });
    turn('looked-up-fader', -20);
    const levels = async () =>
      ((await f.state('A1')) as unknown as { strips: readonly { level: number }[] }).strips.map(({ level }) => level);
    await until(levels, (list) => list[2] === -20);
    f.client.say({ t: 'release', id: 'looked-up-fader' });
  });

  it('is shown by a button that is named by its command', async () => {
    const other = await TestClient.open(f.rig.url);
    await other.follow<PageView>('page:page');
    const label = () =>
      (other.topic('page:page') as PageView).faces.sentence?.segments
        .map((each) => ('text' in each ? each.text : ''))
        .join('');
    await f.send('SW1', 'name', { input: 4, text: 'Pontoon' });
    await f.send('SW1', 'take', { input: 4 });
    await until(label, (text) => text?.includes('Pontoon') === true);
  });

  it('is at the device what it was at the press, over random orders of taking and pressing', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.record({ take: fc.integer({ min: 1, max: 8 }), isPressed: fc.boolean() }), {
          minLength: 1,
          maxLength: 8,
        }),
        async (orders) => {
          let wanted = (await switcher()).aux[0];
          for (const { take, isPressed } of orders) {
            await f.send('SW1', 'take', { input: take });
            if (isPressed) {
              await press('reading');
              wanted = take;
            }
            expect((await switcher()).aux[0]).toBe(wanted);
          }
        },
      ),
      { numRuns: 8 },
    );
  });
});
