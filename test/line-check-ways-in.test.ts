import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { CheckItemView, GearView, LineCheckView } from '../src/core/live';
import type { LineCheck } from '../src/engine/line-check/line-check';
import type { PanelRecord, ShowRecord } from '../src/core/show';
import { checkerHere } from './support/checker';
import { freePort } from '../src/server/free-port';
import { inletRecord, python } from './support/inlet-end';
import { controlRecord, pageRecord } from './support/records';
import { runAsOne, startRig, TestClient, until, type TestRig } from './support/rig';

/** Hand gear and inlets in the line check: what others plug in or send proves them, and nothing else does. */
let rig: TestRig;
let desk: TestClient;
let tablet: TestClient;
let port: number;
let end: () => Promise<void>;

const panel: PanelRecord = {
  kind: 'panel',
  id: 'panel',
  version: 1,
  data: { name: 'Director', path: 'director', order: 1, pages: [], hidden: [], brightness: 100 },
};
const binding = (id: string, control: string, input: string): ShowRecord => ({
  kind: 'binding',
  id,
  version: 1,
  data: { panel: 'panel', gear: 'Pads', input, page: 'page', control, as: 'press' },
});

beforeAll(async () => {
  port = await freePort();
  const records: ShowRecord[] = [
    pageRecord('page', 'Race'),
    controlRecord('cut', { label: [{ text: 'Cut' }], responses: { tap: [] } }),
    controlRecord('horn', { label: [{ text: 'Horn' }], responses: { tap: [] } }),
    panel,
    binding('b1', 'cut', 'note 1 36'),
    binding('b2', 'horn', 'note 1 37'),
    inletRecord('club', port),
    inletRecord('spare', port, { on: false, order: 2 }),
  ];
  [, end] = await runAsOne(async () => {
    rig = await startRig(records, [], {}, undefined, checkerHere);
    [desk, tablet] = await Promise.all([TestClient.open(rig.url), TestClient.open(`${rig.url}?panel`)]);
  });
  await desk.follow('line-check');
  await check().makePlan();
  await until(
    () => item('inlet:spare'),
    (known) => known !== undefined,
  );
});
afterAll(() => end());

function check(): LineCheck {
  const { lineCheck } = rig.engine.api;
  if (!lineCheck) throw new Error('There is no line check.');
  return lineCheck;
}
const item = (id: string): CheckItemView | undefined => (desk.topic('line-check') as LineCheckView).items[id];
const gearId = 'gear:panel:Pads';
const inletId = 'inlet:club';

/** Checks one item again until that is seen: what was sent may still be on its way. */
async function checkedAs(id: string, state: string, text: RegExp): Promise<void> {
  let seen = await checked(id);
  for (let n = 0; n < 20 && !(seen.state === state && text.test(seen.text)); n += 1) {
    await new Promise((resolve) => setTimeout(resolve, 100));
    seen = await checked(id);
  }
  expect(seen).toEqual({ state, text: expect.stringMatching(text) as string });
}

/** Checks one item; resolves with what was seen. */
async function checked(id: string): Promise<{ state: string; text: string }> {
  const at = Date.now();
  expect(await check().begin({ only: 'all', rehearse: false, putBack: [], items: [id] }, 'Ines')).toBeUndefined();
  const seen = await until(
    () => item(id)?.results.find((result) => result.at >= at && result.by !== 'person'),
    (result) => result !== undefined && (desk.topic('line-check') as LineCheckView).run === null,
  );
  return { state: seen?.state ?? '', text: seen?.text ?? '' };
}
const send = (line: string) =>
  python(
    `import socket, sys
s = socket.create_connection(('127.0.0.1', int(sys.argv[1])), 8); s.settimeout(8)
s.sendall(sys.argv[2].encode() + b'\\r\\n')
print(s.recv(2000).decode().strip())`,
    port,
    line,
  );
const plugged = (gear: Partial<GearView>) =>
  tablet.say({
    t: 'here',
    title: 'tablet',
    panel: 'panel',
    cuts: 0,
    missed: 0,
    gear: [{ id: 'pads', name: 'Pads', kind: 'midi', state: 'ready', ...gear }],
  });

describe('an inlet', () => {
  it('is not proved by listening alone, and cannot be proved while it is switched off', async () => {
    expect(item('inlet:spare')).toMatchObject({ standing: 'none', why: 'It is switched off.' });
    expect(await checked(inletId)).toEqual({
      state: 'unproved',
      text: 'It is listening, but nothing has come in yet. Send something to it, then check again.',
    });
    expect(item(inletId)?.standing).toBe('open');
  });

  it('is proved by itself when somebody sends what it understands', async () => {
    expect(await send('list pages')).toContain('Race');
    await until(
      () => item(inletId),
      (now) => now?.standing === 'passed',
      15_000,
    );
    const [result] = item(inletId)?.results.filter(({ state }) => state === 'passed') ?? [];
    expect(result).toMatchObject({ by: 'inlet', who: 'the show' });
    expect(result?.text).toMatch(/^One message has come in: “list pages”\.$/);
  });

  it('needs a look while what comes in is not understood', async () => {
    expect(await send('press Race/Nothing')).toContain('error');
    await checkedAs(inletId, 'doubtful', /“press Race\/Nothing”/);
    expect(await send('list pages')).toContain('Race');
    await checkedAs(inletId, 'passed', /^3 messages have come in/);
  });

  it('is due again when its port is another, and fails while that is taken', async () => {
    const before = inletRecord('club', port);
    const now = inletRecord('club', port, { port: new URL(rig.url).port === '' ? 80 : Number(new URL(rig.url).port) });
    rig.edit({ title: 'Another port', changes: [{ op: 'update', from: before, to: now }] });
    await rig.engine.onShowChanged();
    await check().makePlan();
    await until(
      () => item(inletId)?.standing,
      (standing) => standing === 'due',
    );
    await checkedAs(inletId, 'failed', /^It cannot listen\. .*in use/);
  });
});

describe('hand gear', () => {
  it('is one item for each panel, with every control that it works', () => {
    expect(item(gearId)).toMatchObject({
      kind: 'gear',
      title: 'Pads at Director',
      panels: ['panel'],
      controls: ['cut', 'horn'],
    });
  });

  it('is not proved before it is plugged in and used', async () => {
    expect((await checked(gearId)).text).toBe('No screen of this panel is connected.');
    plugged({ name: 'Other pads', usedAt: Date.now() });
    await checkedAs(gearId, 'unproved', /^It is not plugged in at tablet/);
    plugged({});
    await checkedAs(gearId, 'unproved', /^It is plugged in at tablet\. Use something/);
    expect(item(gearId)?.standing).toBe('open');
  });

  it('is proved by itself when somebody uses it, and fails when it is unplugged or held elsewhere', async () => {
    plugged({ usedAt: Date.now() });
    await until(
      () => item(gearId)?.standing,
      (standing) => standing === 'passed',
      15_000,
    );
    plugged({ state: 'gone' });
    await checkedAs(gearId, 'failed', /^It was unplugged at tablet\.$/);
    plugged({ state: 'held elsewhere' });
    await checkedAs(gearId, 'failed', /^Another program is using it at tablet\.$/);
  });

  it('is answered by a person, and is due again when it is bound otherwise', async () => {
    plugged({ usedAt: Date.now() });
    await checkedAs(gearId, 'passed', /used there/);
    expect(check().answer({ item: gearId, answer: 'yes', who: 'Ines', note: '' })).toBeUndefined();
    const from = binding('b2', 'horn', 'note 1 37');
    const to = binding('b2', 'horn', 'note 1 38');
    rig.edit({ title: 'Another pad', changes: [{ op: 'update', from, to }] });
    await rig.engine.onShowChanged();
    await check().makePlan();
    await until(
      () => item(gearId)?.standing,
      (standing) => standing === 'due',
    );
  });
});
