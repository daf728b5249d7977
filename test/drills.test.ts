import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import type { DrillsView, StatusView } from '../src/core/live';
import type { DrillStep } from '../src/core/show';
import { startDemoRig } from './support/demo-rig';
import { TestClient, until } from './support/rig';
import { paced } from './support/pace';

const step = (fault: DrillStep['fault'], subject: string, afterSeconds = 0): DrillStep => ({
  fault,
  subject,
  afterSeconds,
});

describe('fault drills', () => {
  it(
    'make faults happen at the stand-ins of a rehearsal, and keep when each was noticed, named, seen and mended',
    { timeout: paced(120_000) },
    async () => {
      const { rig } = await startDemoRig();
      const desk = await TestClient.open(rig.url);
      for (const topic of ['drills', 'status', 'as-run']) await desk.follow(topic);
      const { drills } = rig.engine.api;
      const view = () => desk.topic('drills') as DrillsView;
      const status = () => desk.topic('status') as StatusView;
      const idOf = (tag: string) => rig.engine.api.deviceByTag(tag)?.id ?? '';
      const wordOf = (tag: string) => status().devices[idOf(tag)]?.link.word;
      const panel = status().panels[0]?.id ?? '';
      const steps = [
        step('off', idOf('C1')),
        step('password', idOf('E1')),
        step('taken', idOf('C4')),
        step('silent', idOf('R1'), 0.2),
        step('panel', panel, 0.2),
      ];
      const drill = { id: 'drill-1', name: 'Start of the race', steps };

      expect(drills.begin(drill, 'Ada')).toMatch(/in a rehearsal/);
      desk.say({ t: 'aim', aim: 'rehearse' });
      await until(
        () => status().aim === 'rehearse' && ['C1', 'E1', 'C4', 'R1'].every((tag) => wordOf(tag) === 'up'),
        Boolean,
        30_000,
      );
      const screen = await TestClient.open(rig.url);
      screen.say({ t: 'here', title: 'tablet', panel, cuts: 0, missed: 0 });
      await until(
        () => drills.begin({ ...drill, steps: [step('engine', '')] }, 'Ada'),
        (why) => /cannot be killed/.test(why ?? ''),
      );
      expect(drills.begin(drill, 'Ada')).toBeUndefined();
      expect(drills.begin(drill, 'Ben')).toMatch(/is running/);
      await screen.closed;
      await until(
        () => view().run?.faults.map(({ namedAs }) => namedAs),
        (named) =>
          JSON.stringify(named) ===
          JSON.stringify(['down', 'locked out', 'occupied', 'silent', 'no screen is connected']),
        30_000,
      );
      expect(['C1', 'E1', 'C4', 'R1'].map(wordOf)).toEqual(['down', 'locked out', 'occupied', 'silent']);
      // Other devices go on.
      expect(wordOf('SW1')).toBe('up');

      expect(drills.act({ do: 'seen', fault: 0, who: 'Ada' })).toBeUndefined();
      for (const n of steps.keys()) expect(drills.act({ do: 'lift', fault: n })).toBeUndefined();
      // What waits for a person waits for one in a drill, too.
      await until(
        () =>
          view()
            .run?.faults.slice(0, 4)
            .every(({ liftedMs }) => liftedMs !== undefined),
        Boolean,
      );
      desk.say({ t: 'call', device: idOf('E1') });
      const again = await TestClient.open(rig.url);
      again.say({ t: 'here', title: 'tablet', panel, cuts: 1, missed: 0 });
      await until(
        () => view().run,
        (run) => run === null,
        40_000,
      );
      const [result] = view().past;
      expect(result).toMatchObject({ name: 'Start of the race', who: 'Ada', isCut: false });
      expect(result?.faults[0]).toMatchObject({ seenBy: 'Ada' });
      for (const { noticedMs = -1, namedMs = -1, mendedMs = -1 } of result?.faults ?? []) {
        expect(noticedMs).toBeGreaterThanOrEqual(0);
        expect(namedMs).toBeGreaterThanOrEqual(noticedMs);
        expect(mendedMs).toBeGreaterThanOrEqual(namedMs);
      }
      expect(['C1', 'E1', 'C4', 'R1'].map(wordOf)).toEqual(['up', 'up', 'up', 'up']);
    },
  );

  it(
    'put everything right when they are stopped, and when the rehearsal ends',
    { timeout: paced(120_000) },
    async () => {
      const { rig } = await startDemoRig();
      const desk = await TestClient.open(rig.url);
      for (const topic of ['drills', 'status']) await desk.follow(topic);
      const { drills } = rig.engine.api;
      const view = () => desk.topic('drills') as DrillsView;
      const status = () => desk.topic('status') as StatusView;
      const id = rig.engine.api.deviceByTag('C1')?.id ?? '';
      desk.say({ t: 'aim', aim: 'rehearse' });
      const isUp = () => status().devices[id]?.link.word === 'up';
      await until(() => status().aim === 'rehearse' && isUp(), Boolean, 30_000);
      for (const ends of ['stop', 'aim'] as const) {
        await until(isUp, Boolean, 30_000);
        expect(drills.begin({ id: 'drill-1', name: 'Power', steps: [step('off', id)] }, 'Ada')).toBeUndefined();
        await until(() => view().run?.faults[0]?.namedMs !== undefined, Boolean, 20_000);
        if (ends === 'stop') drills.act({ do: 'stop' });
        else desk.say({ t: 'aim', aim: 'dry' });
        await until(() => view().run === null, Boolean);
        expect(view().past[0]).toMatchObject({ isCut: true });
      }
    },
  );

  it('that kill the engine end with its return, and say how long that took', async () => {
    const { rig } = await startDemoRig();
    await rig.crash();
    const run = {
      id: 'drill-1',
      name: 'Engine',
      who: 'Ada',
      startedAt: Date.now() - 3000,
      faults: [{ fault: 'engine', subject: '', name: 'Engine', afterSeconds: 1, causedAt: Date.now() - 2000 }],
    };
    writeFileSync(join(rig.dataDir, 'drill-run.json'), JSON.stringify(run));
    await rig.revive();
    const [result] = rig.engine.api.drills.results;
    expect(result).toMatchObject({ name: 'Engine', isCut: false });
    expect(result?.faults[0]?.mendedMs).toBeGreaterThanOrEqual(2000);
    await rig.crash();
    await rig.revive();
    expect(rig.engine.api.drills.results).toHaveLength(1);
  });
});
