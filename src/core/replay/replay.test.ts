import { describe, expect, it } from 'vitest';
import type { AsRunRow, AsRunSend } from '../live';
import { comparePlayed, planReplay, type Played, type ReplayStep } from '.';

type PressRow = Extract<AsRunRow, { kind: 'press' }>;

const send = (device: string, command: string, params = {}, more: Partial<AsRunSend> = {}): AsRunSend => ({
  device,
  command,
  says: `${command} it`,
  call: { command, params },
  text: '',
  outcome: 'confirmed',
  ms: 5,
  ...more,
});
const press = (n: number, at: number, more: Partial<PressRow> = {}): PressRow => ({
  kind: 'press',
  n,
  at,
  press: `press-${n}`,
  who: 'tablet',
  page: 'Race',
  label: 'Cut',
  aim: 'live',
  outcome: 'confirmed',
  ms: 20,
  sends: [send('SW1', 'cut')],
  pressed: { page: 'page', control: 'ctl', gesture: 'tap' },
  ...more,
});
const reading = (n: number, at: number, key: string, value: string | number): AsRunRow => ({
  kind: 'reading',
  n,
  at,
  device: 'SW1',
  key,
  value,
});

describe('what of an as-run can be played again', () => {
  it('is every press with what it sent and what was reported after it', () => {
    const rows = [
      reading(1, 500, 'program', 4),
      press(2, 1020),
      reading(3, 1050, 'program', 2),
      press(4, 2020),
      reading(5, 2100, 'program', 3),
      reading(6, 6000, 'program', 9),
    ];
    const { steps, before, left } = planReplay(rows, 1000, 9000);
    expect(left).toEqual([]);
    expect(before).toMatchObject([{ key: 'program', value: 4 }]);
    // A press is entered at its end.
    expect(steps.map(({ at }) => at)).toEqual([1000, 2000]);
    expect(steps.map(({ reports }) => reports.map(({ value }) => value))).toEqual([[2], [3]]);
    expect(steps[0]?.calls).toMatchObject([{ device: 'SW1', command: 'cut', params: {} }]);
  });

  it('has no number that something passed on its way, also when the next press came meanwhile', () => {
    const rows = [
      press(1, 1000),
      reading(2, 1100, 'box[1].size', 30),
      reading(3, 1200, 'box[1].size', 40),
      reading(4, 1250, 'state', 'moving'),
      press(5, 1300),
      reading(6, 1400, 'box[1].size', 50),
      reading(7, 1450, 'state', 'still'),
      reading(8, 5000, 'box[1].size', 10),
    ];
    const { steps } = planReplay(rows, 0, 9000);
    expect(steps.map(({ reports }) => reports.map(({ value }) => value))).toEqual([['moving'], [50, 'still']]);
  });

  it('calls a snapshot up again instead of sending what it sent, and looks for what that brought about', () => {
    const size = send('SW1', 'boxSize', { box: 1, size: 64 });
    const call = press(2, 2228, { page: '', label: 'Snapshot Talk', sends: [size], ms: 1227.16, pressed: undefined });
    const own = press(3, 2229, { ms: 1228.58, sends: [send('SHOW', 'callUp', { snapshot: 3 }, { ms: 1227.16 })] });
    // The same by itself, as a fader or another program does it.
    const alone = press(4, 5000, { page: '', label: 'Snapshot Talk', sends: [size], ms: 900, pressed: undefined });
    const { steps } = planReplay([call, own, alone], 0, 9000);
    expect(steps.map(({ label, calls, brought }) => [label, calls[0]?.device, brought.length])).toEqual([
      ['Cut', 'SHOW', 1],
      ['Snapshot Talk', 'SW1', 0],
    ]);
  });

  it('does not confirm what nobody confirmed then', () => {
    const guarded = { outcome: 'skipped', why: 'guarded' } as const;
    const { steps } = planReplay([press(1, 1000, guarded), press(2, 2000)], 0, 9000);
    expect(steps.map(({ isUnconfirmed }) => isUnconfirmed)).toEqual([true, undefined]);
  });

  it('has the steps of a macro with the press that began it, and alone where nobody pressed', () => {
    const begun = (n: number, at: number, run: string): AsRunRow => ({
      kind: 'begin',
      n,
      at,
      run,
      macro: 'Wipe',
      macroId: 'mac',
      who: 'tablet',
      aim: 'live',
    });
    const step = (n: number, at: number, run: string) =>
      press(n, at, {
        run,
        label: 'Wipe',
        page: '',
        pressed: undefined,
        sends: [send('R1', 'play')],
      } as Partial<PressRow>);
    const rows = [
      begun(1, 1000, 'run-a'),
      step(2, 1100, 'run-a'),
      press(3, 3000, { ms: 2000, sends: [send('macro', 'Wipe', {}, { call: undefined } as Partial<AsRunSend>)] }),
      begun(4, 5000, 'run-b'),
      step(5, 5100, 'run-b'),
    ];
    const { steps } = planReplay(rows, 0, 9000);
    expect(steps.map(({ n, calls }) => [n, calls.map(({ device }) => device).join()])).toEqual([
      [3, 'R1'],
      [5, 'R1'],
    ]);
    expect(steps[1]?.pressed).toBeUndefined();
  });

  it('leaves out what was dry or recorded without its values, with the reason, and tally without a word', () => {
    const rows = [
      press(1, 1000, { aim: 'dry' }),
      press(2, 2000, { pressed: undefined, sends: [send('SW1', 'cut', {}, { call: undefined })] } as Partial<PressRow>),
      press(3, 3000, { who: 'tally' }),
    ];
    const { steps, left } = planReplay(rows, 0, 9000);
    expect(steps).toEqual([]);
    expect(left.map(({ n }) => n)).toEqual([1, 2]);
    expect(left[0]?.why).toMatch(/dry/);
    expect(left[1]?.why).toMatch(/earlier version/);
  });
});

describe('what was played, set against then', () => {
  const [step] = planReplay(
    [press(1, 1000, { sends: [send('SW1', 'cut'), send('C1', 'recall', { preset: 1 })] })],
    0,
    9000,
  ).steps as [ReplayStep];
  const call = (device: string, command: string, params = {}, outcome = 'confirmed') =>
    ({ device, command, params, says: `${command} it`, outcome }) as Played['calls'][number];
  const same: Played = {
    outcome: 'confirmed',
    calls: [call('C1', 'recall', { preset: 1 }), call('SW1', 'cut')],
    missing: [],
  };
  const differ = (played: Partial<Played>, canStandIn: (tag: string) => boolean = () => true) =>
    comparePlayed(step, { ...same, ...played }, canStandIn).differences;

  it('does not differ where the same was sent in any order', () => {
    expect(differ({})).toEqual([]);
  });

  it('names another outcome, what is missing, what is new and what was not reported', () => {
    expect(differ({ outcome: 'late' })).toEqual(['It ended as confirmed then, and as late now.']);
    expect(differ({ calls: [call('SW1', 'cut'), call('C1', 'recall', { preset: 2 })] })).toEqual([
      'Not sent now: C1: recall it.',
      'Not sent then: C1: recall it.',
    ]);
    expect(differ({ calls: [call('SW1', 'cut', {}, 'refused'), call('C1', 'recall', { preset: 1 })] })).toEqual([
      'SW1: cut it: confirmed then, refused now.',
    ]);
    const report = { device: 'SW1', key: 'program', value: 2, says: 'SW1 Program: 2', at: 1 };
    expect(differ({ missing: [{ report, now: '3' }] })).toEqual(['Reported then: SW1 Program: 2. Now: 3.']);
    expect(
      comparePlayed(step, { reason: 'The control is no longer on this page.', calls: [], missing: [] }, () => true)
        .differences[0],
    ).toMatch(/no longer/);
  });

  it('says nothing of devices for which nothing stands in, and names them', () => {
    const noCamera = (tag: string) => tag !== 'C1';
    const compared = comparePlayed(step, { ...same, outcome: 'lost', calls: [call('SW1', 'cut')] }, noCamera);
    expect(compared).toMatchObject({ differences: [], unmatched: ['C1'] });
  });
});
