import { describe, expect, it } from 'vitest';
import type { AsRunRow, LeftStep, ReplayLine, ReplayStepLine, StatusView } from '../src/core/live';
import type { ControlRecord, ShowRecord } from '../src/core/show';
import { replay } from '../src/server/replay/service';
import { startDemoRig } from './support/demo-rig';
import { TestClient, until } from './support/rig';
import { paced } from './support/pace';

const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

/** Plays a time of a record again, one press after the other, and gathers what came of it. */
async function played(dataDir: string, from: number, to: number) {
  const steps: ReplayStepLine[] = [];
  const left: LeftStep[] = [];
  let ended = false;
  const onLine = (line: ReplayLine) => {
    if (line.t === 'begun') left.push(...line.left);
    if (line.t === 'step') steps.push(line);
    if (line.t === 'ended') ended = true;
  };
  await replay(dataDir, { from, to, speed: 0 }, onLine, new AbortController().signal);
  return { steps, left, ended };
}

describe('a replay of the as-run', () => {
  it(
    'makes the same presses again, comes to the same, and says what a changed show does otherwise',
    { timeout: paced(180_000) },
    async () => {
      const { rig, operate, records, states } = await startDemoRig();
      const desk = await TestClient.open(rig.url);
      const status = () => desk.topic('status') as StatusView;
      await desk.follow('status');
      desk.say({ t: 'here', title: 'desk', cuts: 0, missed: 0 });
      const press = (page: string, control: string) => desk.press(page, control);
      // What was done before the part that is played: the state to begin from.
      await press('page-race', 'ctl-program-4');
      await press('page-race', 'ctl-preview-1');
      await pause(1200);

      const from = Date.now();
      const done: string[] = [];
      for (const [page, control] of [
        ['page-race', 'ctl-preview-2'],
        ['page-race', 'ctl-cut'],
        ['page-race', 'ctl-program-3'],
        ['page-cameras', 'ctl-cameras-1-8'],
        ['page-cameras', 'ctl-cameras-1-9'],
        ['page-replays', 'ctl-replays-1-3'],
        ['page-replays', 'ctl-replays-2-1'],
        ['page-titles', 'ctl-titles-1-2'],
      ] as const)
        done.push(`${control} ${(await press(page, control)).outcome}`);
      // A macro ends when it has waited for what it waits for.
      await desk.follow('as-run');
      desk.say({ t: 'press', id: 'press-macro', page: 'page-replays', control: 'ctl-replays-3-4', gesture: 'tap' });
      const rows = () => (desk.topic('as-run') as { rows: readonly AsRunRow[] }).rows;
      const ended = await until(
        () => rows().find((row) => row.kind === 'press' && row.press === 'press-macro'),
        (row) => row !== undefined,
        60_000,
      );
      expect(ended?.kind === 'press' && ['confirmed', 'sent'].includes(ended.outcome)).toBe(true);
      expect(done.every((each) => each.endsWith(' confirmed'))).toBe(true);
      desk.say({ t: 'aim', aim: 'dry' });
      await until(
        () => status().aim,
        (aim) => aim === 'dry',
      );
      await press('page-race', 'ctl-program-1');
      desk.say({ t: 'aim', aim: 'live' });
      await pause(1500);
      const to = Date.now();

      const before = JSON.stringify((states().SW1 as { program: number }).program);
      const first = await played(rig.dataDir, from, to);
      expect(first.ended).toBe(true);
      expect(first.steps.flatMap(({ label, differences }) => differences.map((each) => `${label}: ${each}`))).toEqual(
        [],
      );
      expect(first.steps.map(({ label }) => label)).toHaveLength(9);
      expect(first.left.map(({ why }) => why)).toEqual(['It was pressed with the aim dry, so nothing was sent.']);
      // The devices were not touched by it.
      expect(JSON.stringify((states().SW1 as { program: number }).program)).toBe(before);
      await operate('SW1', 'faults', {});

      // Another show than then: a preset that is another one, a button that is gone, a command more.
      const controlOf = (id: string) => records.find((record): record is ControlRecord => record.id === id);
      const preset = controlOf('ctl-cameras-1-8');
      const gone = controlOf('ctl-replays-2-1');
      const cut = controlOf('ctl-cut');
      if (!preset || !gone || !cut) throw new Error('The demo has changed.');
      const tap = (from: ControlRecord, sends: ControlRecord['data']['responses']['tap']): ShowRecord => ({
        ...from,
        data: { ...from.data, responses: { ...from.data.responses, tap: sends } },
      });
      rig.edit({
        title: 'Another show',
        changes: [
          {
            op: 'update',
            from: preset,
            to: tap(preset, [{ device: 'dev-c1', command: 'recall', params: { preset: 0 } }]),
          },
          { op: 'remove', record: gone },
          {
            op: 'update',
            from: cut,
            to: tap(cut, [...cut.data.responses.tap, { device: 'dev-r1', command: 'pause', params: {} }]),
          },
        ],
      });
      const second = await played(rig.dataDir, from, to);
      const differing = second.steps.filter(({ differences }) => differences.length > 0);
      expect(differing.map(({ label }) => label)).toEqual(expect.arrayContaining(['Cut', 'Preset 1', 'Play']));
      const textOf = (label: string) => differing.find((step) => step.label === label)?.differences.join(' ') ?? '';
      expect(textOf('Preset 1')).toMatch(/Not sent now: C1: .*1.* Not sent then: C1: .*0/);
      expect(textOf('Play')).toMatch(/no longer on this page/);
      expect(textOf('Cut')).toMatch(/Not sent then: R1: /);
    },
  );
});

it(
  'a long run of presses at random comes to the same again, at its own speed',
  { timeout: paced(180_000) },
  async () => {
    const seed = Number(process.env.REPLAY_SEED ?? 20_261_130);
    const { rig, records } = await startDemoRig();
    const desk = await TestClient.open(rig.url);
    await desk.follow('status');
    desk.say({ t: 'here', title: 'desk', cuts: 0, missed: 0 });
    const controls = records.filter(
      (record): record is ControlRecord =>
        record.kind === 'control' &&
        record.data.type === 'button' &&
        record.data.responses.tap.length > 0 &&
        !record.data.responses.asks &&
        ['page-race', 'page-titles', 'page-sound', 'page-screens', 'page-cameras'].includes(record.data.page),
    );
    expect(controls.length).toBeGreaterThan(40);
    const from = Date.now();
    let state = seed;
    const random = (below: number) => (state = (state * 1_103_515_245 + 12_345) % 2_147_483_648) % below;
    const count = 60;
    for (let n = 0; n < count; n += 1) {
      const control = controls[random(controls.length)];
      if (!control) continue;
      const id = `press-${n}-random`;
      desk.say({ t: 'press', id, page: control.data.page, control: control.id, gesture: 'tap', guard: true });
      await desk.outcome(id);
      await pause(100 + random(150));
    }
    await pause(3500);
    const steps: ReplayStepLine[] = [];
    const onLine = (line: ReplayLine) => void (line.t === 'step' && steps.push(line));
    await replay(rig.dataDir, { from, to: Date.now(), speed: 1 }, onLine, new AbortController().signal);
    // What a watch has sent because of a press is a step of its own.
    expect(steps.filter(({ who }) => !who.startsWith('watch '))).toHaveLength(count);
    const differing = steps.flatMap(({ n, label, differences }) => differences.map((each) => `${n} ${label}: ${each}`));
    // What is sent never differs. On a computer that has much else to do, a report may come later than it is waited for.
    expect(
      differing.filter((each) => each.includes('Not sent')),
      `seed ${seed}`,
    ).toEqual([]);
    expect(differing.length, `seed ${seed}: ${differing.join(' ')}`).toBeLessThanOrEqual(2);
  },
);
