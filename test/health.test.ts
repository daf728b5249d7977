import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { HealthView, LineCheckView, StatusView } from '../src/core/live';
import type { LineCheck } from '../src/engine/line-check/line-check';
import { startDemoRig, type DemoRig } from './support/demo-rig';
import { runAsOne, TestClient, until } from './support/rig';
import { paced } from './support/pace';

/**
 * Health over real sockets: the demo show with its stand-ins, checked once, then disturbed. Its looks and its patience are those of the
 * program, so this takes about a minute.
 */
let demo: DemoRig;
let desk: TestClient;
let end: () => Promise<void>;

const health = () => desk.topic('health') as HealthView;
const status = () => desk.topic('status') as StatusView;
const idOf = (tag: string) => demo.rig.engine.api.deviceByTag(tag)?.id ?? '';
const lasting = () => health().incidents.filter(({ to }) => to === null);
const incidentOf = (code: string, tag: string) =>
  health().incidents.find((each) => each.code === code && each.about.name === tag);
const watched = () => demo.rig.engine.api.watched;

function check(): LineCheck {
  const { lineCheck } = demo.rig.engine.api;
  if (!lineCheck) throw new Error('There is no line check.');
  return lineCheck;
}

async function openDesk(): Promise<void> {
  desk = await TestClient.open(demo.rig.url);
  for (const topic of ['health', 'status', 'line-check', 'as-run']) await desk.follow(topic);
}

beforeAll(async () => {
  [, end] = await runAsOne(async () => {
    demo = await startDemoRig();
    await openDesk();
  });
});
afterAll(() => end());

describe('health during the show', () => {
  it('sets what it sees against the line check, and sends nothing for it', async () => {
    const devices = ['C2', 'E2', 'A1', 'R1'].map(idOf);
    const order = { only: 'all', rehearse: false, devices, putBack: [] as string[] } as const;
    expect(await check().begin(order, 'test')).toBeUndefined();
    await until(
      () => health().devices[idOf('C2')]?.usual?.from,
      (from) => from === 'line check',
      30_000,
    );
    await until(
      () => health().devices[idOf('C2')]?.minute.answers ?? 0,
      (answers) => answers > 20,
      20_000,
    );
    expect(lasting()).toEqual([]);
    // A device that cannot answer has no answers, and nobody asks it for some.
    expect(health().devices[idOf('M1')]?.minute).toEqual({ answers: 0, missed: 0 });
  });

  it(
    'names what is slow, lost, unsteady and failing, once each, with the as-run of it',
    { timeout: paced(90_000) },
    async () => {
      const line = desk.topic('line-check') as LineCheckView;
      expect(line.plan.state).toBe('ready');
      await demo.operate('C2', 'faults', { delayMs: 200 });
      await demo.operate('E2', 'faults', { refuse: true });
      for (let n = 0; n < 3; n += 1) {
        await demo.operate('A1', 'drop', {});
        await desk.linkIs(idOf('A1'), 'down').catch(() => undefined);
        await desk.linkIs(idOf('A1'), 'up');
      }
      await until(
        () => lasting().map(({ code, about }) => `${code} ${about.name}`),
        (found) => ['slow C2', 'down E2', 'unsteady A1'].every((each) => found.includes(each)),
        60_000,
      );
      expect(incidentOf('slow', 'C2')?.text).toMatch(
        /^C2 answers .* times slower than at the line check: \d+ ms, was /,
      );
      expect(incidentOf('down', 'E2')?.text).toBe('E2 is down: port refused.');
      expect(status().health?.open.map(({ text }) => text)).toContain('E2 is down: port refused.');
      const notes = () =>
        (desk.topic('as-run') as { rows: { kind: string; text?: string }[] }).rows.flatMap(({ kind, text }) =>
          kind === 'note' && text?.startsWith('Health: E2') ? [text] : [],
        );
      // Rows are written in batches.
      await until(notes, (found) => found.length > 0);
      expect(notes()).toEqual(['Health: E2 is down: port refused.']);
    },
  );

  it(
    'is quiet about what somebody has acknowledged, and knows when it is over',
    { timeout: paced(90_000) },
    async () => {
      const { id } = incidentOf('down', 'E2') ?? { id: '' };
      expect(watched().see('nothing', 'Ada', '')).toMatch(/no such incident/);
      expect(watched().see(id, 'Ada', 'Power supply.')).toBeUndefined();
      await until(
        () => status().health?.open.some((each) => each.id === id),
        (isOpen) => isOpen === false,
      );
      expect(incidentOf('down', 'E2')).toMatchObject({ to: null, seen: { who: 'Ada', note: 'Power supply.' } });
      await demo.operate('E2', 'faults', { refuse: false });
      await until(
        () => incidentOf('down', 'E2')?.to,
        (to) => typeof to === 'number',
        60_000,
      );
      expect(incidentOf('down', 'E2')?.seen?.who).toBe('Ada');
    },
  );

  it('keeps incidents over a restart of the engine', async () => {
    const before = health().incidents.map(({ id }) => id);
    await demo.rig.crash();
    await demo.rig.revive();
    await openDesk();
    expect(health().incidents.map(({ id }) => id)).toEqual(before);
    expect(lasting()).toEqual([]);
  });
});

describe('what is used in the show', () => {
  it('is proved by what the device confirms, and by no press that went nowhere', async () => {
    await openDesk();
    await check().makePlan();
    const line = () => desk.topic('line-check') as LineCheckView;
    const command = () =>
      Object.values(line().items).find(
        ({ kind, controls }) => kind === 'command' && controls.includes('ctl-preview-3'),
      );
    await until(
      () => command()?.proofs.some(({ by }) => by === 'use'),
      (can) => can === true,
      10_000,
    );
    await desk.linkIs(idOf('SW1'), 'up');
    const page = command()?.pages[0] ?? '';
    desk.say({ t: 'aim', aim: 'dry' });
    await until(
      () => status().aim,
      (aim) => aim === 'dry',
    );
    expect(await desk.press(page, 'ctl-preview-3')).toMatchObject({ outcome: 'skipped' });
    desk.say({ t: 'aim', aim: 'live' });
    await until(
      () => status().aim,
      (aim) => aim === 'live',
    );
    expect(command()?.results.find(({ by }) => by === 'use')).toBeUndefined();
    expect(await desk.press(page, 'ctl-preview-3')).toMatchObject({ outcome: 'confirmed' });
    await until(
      () => command()?.results.find(({ by }) => by === 'use'),
      (result) => result?.state === 'passed',
    );
    expect(command()).toMatchObject({ standing: 'passed' });
  });
});
