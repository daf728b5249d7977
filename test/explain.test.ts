import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { explanationSchema, explainLines, tryNextOf, type Explanation, type Moment } from '../src/core/explain';
import { compileDriver, frameMeaning } from '../src/core/driver';
import type { WireRow } from '../src/core/live';
import type { ShowRecord } from '../src/core/show';
import visionSwitcher from '../src/drivers/vision-switcher.json';
import { startFleetRig, type FleetRig } from './support/fleet';
import { controlRecord, pageRecord } from './support/records';
import { runAsOne, TestClient, until } from './support/rig';

/** The account of a press, on real sockets: every moment from the engine to the lamp, and where it stopped when it did. */

const take = { device: 'dev-SW1', command: 'take', params: { input: 5 } };
const records: ShowRecord[] = [
  pageRecord('page', 'Race', { columns: 8, rows: 1 }),
  controlRecord('drone', {
    col: 0,
    label: [{ text: 'Drone' }],
    responses: { tap: [take] },
    lamps: [{ when: { op: 'equals', reading: { device: 'dev-SW1', key: 'program' }, to: 5 }, show: 'onAir' }],
  }),
  controlRecord('guarded', { col: 1, responses: { tap: [take], guard: 'twice' } }),
  controlRecord('many', {
    col: 2,
    responses: {
      tap: [1, 2, 3, 4, 5, 6, 7, 8, 9].map((preset) => ({ device: 'dev-C1', command: 'recall', params: { preset } })),
    },
  }),
  controlRecord('gone', { col: 3, responses: { tap: [{ device: 'dev-R1', command: 'play', params: {} }] } }),
];

let f: FleetRig;
let end: () => Promise<void>;
beforeAll(async () => {
  [f, end] = await runAsOne(() => startFleetRig(['SW1', 'C1', 'R1'], records));
  for (const tag of ['SW1', 'C1', 'R1']) await f.linkIs(tag, 'up');
  await f.client.follow('page:page');
});
afterAll(() => end());

let count = 0;
async function explained(control: string, more: object = {}): Promise<Explanation> {
  const id = `explained-${(count += 1)}`;
  f.client.say({ t: 'press', id, page: 'page', control, gesture: 'tap', ...more });
  await f.client.outcome(id);
  const explanation = f.rig.engine.api.explain(id);
  if (!explanation) throw new Error('There is no account of the press.');
  return explanationSchema.parse(explanation);
}
const kinds = (moments: readonly Moment[]) => moments.map(({ is }) => is);
const latest = (press: string) => f.rig.engine.api.explain(press)?.moments ?? [];

describe('the account of a press', () => {
  it('tells a press that had its effect from the engine to the lamp', async () => {
    const first = await explained('drone');
    const { press, moments, sends, label } = first;
    expect([label, sends]).toEqual([
      'Drone',
      [expect.objectContaining({ device: 'SW1', command: 'Take to program', says: 'Take Drone to program' })],
    ]);
    const all = await until(
      () => latest(press),
      (now) => kinds(now).includes('lamp'),
    );
    expect(kinds(all)).toEqual(expect.arrayContaining(['cleared', 'left', 'reported', 'send ended', 'lamp', 'ended']));
    expect(all).toContainEqual(
      expect.objectContaining({ is: 'reported', readings: [{ key: 'program', value: 5, says: 'Program input 5' }] }),
    );
    expect(all).toContainEqual(expect.objectContaining({ is: 'lamp', show: 'onAir' }));
    const times = moments.map(({ ms }) => ms);
    expect(times).toEqual([...times].sort((a, b) => a - b));
    // The bytes are those that the driver makes of it.
    const left = all.find((each) => each.is === 'left');
    expect(Buffer.from(left?.is === 'left' ? left.bytes : '', 'hex').toString()).toBe('TAKE 5\r\n');
    expect(tryNextOf({ ...first, moments: [...all] })).toBeUndefined();
  });

  it('is one step away from its bytes on the wire, which say what they mean', async () => {
    await f.send('SW1', 'take', { input: 2 });
    const { press } = await explained('drone');
    const { rows } = await f.client.follow<{ rows: readonly WireRow[] }>('wire');
    const own = rows.filter((row) => row.press === press);
    expect(own.map(({ dir, says }) => [dir, says])).toEqual([
      ['out', 'Take Drone to program'],
      ['in', undefined],
    ]);
    const compiled = compileDriver(visionSwitcher);
    if (!compiled.ok) throw new Error('The driver does not compile.');
    const meanings = rows
      .filter(({ dir }) => dir === 'in')
      .map(({ hex, name }) => frameMeaning(compiled.value, hex, name));
    expect(meanings).toEqual(expect.arrayContaining(['Accepted', 'Program input 5']));
  });

  it('says where a press stopped that was not confirmed, or goes to a device that is away', async () => {
    const guarded = await explained('guarded');
    expect(kinds(guarded.moments)).toEqual(['ended']);
    expect(tryNextOf(guarded)).toMatch(/press it twice/);
    await f.operate('R1', 'faults', { refuse: true });
    await until(
      () => f.link('R1').word,
      (word) => word !== 'up' && word !== 'silent',
    );
    const gone = await explained('gone');
    expect(kinds(gone.moments)).toEqual(['cleared', 'send ended', 'ended']);
    expect(explainLines(gone).at(-1)).toMatchObject({ title: 'Lost', tone: 'stop' });
    expect(tryNextOf(gone)).toMatch(/Test the connection/);
  });

  it('says what a command waited behind', async () => {
    const { moments, press } = await explained('many');
    const queued = moments.filter((each) => each.is === 'queued');
    expect(queued.length).toBeGreaterThan(0);
    expect(queued.at(-1)?.ahead.length).toBeGreaterThan(0);
    for (const { send, ms } of queued) {
      const left = latest(press).find((each) => each.is === 'left' && each.send === send);
      expect(left?.ms).toBeGreaterThan(ms);
    }
    expect(kinds(moments)).toContain('device answered');
  });

  it('is read by the panel that pressed and by the desk, and by no other panel', async () => {
    const [own, other] = await Promise.all(
      [0, 1].map(() => TestClient.open(f.rig.url.replace('/live', '/live?as=panel'))),
    );
    if (!own || !other) throw new Error('No panel is connected.');
    for (const panel of [own, other]) await panel.follow('page:page');
    own.say({ t: 'press', id: 'on-a-panel', page: 'page', control: 'drone', gesture: 'tap' });
    await own.outcome('on-a-panel');
    const read = async (client: TestClient, id: string) => {
      client.say({ t: 'explain', id });
      const message = await client.next((each) => each.t === 'explained' && each.id === id);
      return 'explanation' in message ? explanationSchema.parse(message.explanation).label : undefined;
    };
    expect(await read(own, 'on-a-panel')).toBe('Drone');
    expect(await read(f.client, 'on-a-panel')).toBe('Drone');
    expect(await read(other, 'on-a-panel')).toBeUndefined();
    expect(await read(own, 'never-made')).toBeUndefined();
  });
});
