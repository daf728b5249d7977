import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import audioMixer from '../../drivers/audio-mixer.json';
import replayDeck from '../../drivers/replay-deck.json';
import titleMachine from '../../drivers/title-machine.json';
import visionSwitcher from '../../drivers/vision-switcher.json';
import { compiled } from '../../../test/support/records';
import { encodeCommand, type CompiledDriver } from '../driver';
import type { Scalar } from '../result';
import {
  beginRecording,
  commandBehind,
  hearCommand,
  hearMacro,
  hearReading,
  isFull,
  mostHeard,
  quieten,
  recordedEdit,
  type Recording,
} from './recorded';

const drivers = {
  sw: compiled(visionSwitcher),
  deck: compiled(replayDeck),
  mixer: compiled(audioMixer),
  titles: compiled(titleMachine),
};
const unknown = () => undefined;
const commandOf = (driver: CompiledDriver, id: string) => {
  const command = driver.commands.get(id)?.command;
  if (!command) throw new Error(`No command ${id}.`);
  return command;
};
const sent = (from: Recording, now: number, device: keyof typeof drivers, id: string, params: Record<string, Scalar>) =>
  hearCommand(from, now, commandOf(drivers[device], id), { device, command: id, params });
const told = (from: Recording, now: number, device: keyof typeof drivers, key: string, value: Scalar) =>
  hearReading(from, now, device, drivers[device].document, key, value, unknown);
const steps = ({ heard }: Recording) =>
  heard.map((each) =>
    each.is === 'macro' ? [each.atMs, 'macro', each.macro] : [each.atMs, each.command, ...Object.values(each.params)],
  );

describe('the command behind a report', () => {
  const rows: [string, keyof typeof drivers, string, Scalar, Record<string, Scalar>, string | undefined, object][] = [
    ['an input on program', 'sw', 'program', 5, {}, 'take', { input: 5 }],
    ['a key of several', 'sw', 'key[2].on', true, {}, 'key', { key: 2, on: true }],
    ['a mute', 'mixer', 'strip[3].muted', false, {}, 'mute', { strip: 3, on: false }],
    ['a level', 'mixer', 'strip[3].level', -12.5, {}, 'level', { strip: 3, level: -12.5 }],
    ['a clip that was loaded', 'deck', 'loaded', 4, {}, 'load', { clip: 4 }],
    [
      'a deck that plays, at the speed that it has',
      'deck',
      'transport',
      'playing',
      { speed: 50 },
      'play',
      { speed: 50 },
    ],
    ['a deck that pauses', 'deck', 'transport', 'paused', {}, 'pause', {}],
    ['a title on air', 'titles', 'layer[1].state', 'on', {}, 'take', { layer: 1 }],
    [
      'a place for a box, with the height that it has',
      'sw',
      'box[1].x',
      250,
      { 'box[1].y': 500 },
      'boxPlace',
      { box: 1, x: 250, y: 500 },
    ],
    ['a place without the height', 'sw', 'box[1].x', 250, {}, undefined, {}],
    ['what no command brings about', 'sw', 'frame', 100, {}, undefined, {}],
    ['a value out of range', 'sw', 'program', 99, {}, undefined, {}],
  ];
  it.each(rows)('is found: %s', (_, driver, key, value, readings, id, params) => {
    const found = commandBehind(drivers[driver].document, key, value, (other) => readings[other]);
    expect(found?.id).toBe(id);
    if (id !== undefined) expect(found?.params).toEqual(params);
  });

  it('is never one that the driver would not take', () => {
    const { document } = drivers.sw;
    const likely = { onOff: fc.boolean(), whole: fc.integer({ min: 1, max: 12 }) } as Record<
      string,
      fc.Arbitrary<Scalar>
    >;
    const odd = fc.oneof(fc.integer(), fc.boolean(), fc.string());
    const report = fc.oneof(
      ...Object.entries(document.readings).map(([key, { value }]) =>
        fc.tuple(
          fc.constant(key.replace('[]', '[1]')),
          fc.oneof({ weight: 4, arbitrary: likely[value.type] ?? odd }, odd),
        ),
      ),
    );
    let [runs, found] = [0, 0];
    fc.assert(
      fc.property(report, ([key, reported]) => {
        const behind = commandBehind(document, key, reported, (other) => (other.includes('box') ? 100 : unknown()));
        runs += 1;
        if (!behind) return;
        found += 1;
        expect(encodeCommand(drivers.sw, behind.id, behind.params, { ref: 1, readingNow: unknown })).toMatchObject({
          ok: true,
        });
      }),
      { numRuns: 500 },
    );
    expect(found / runs).toBeGreaterThan(0.15);
  });
});

describe('what is done by hand', () => {
  it('is a row of commands at their times, and of macros that were begun', () => {
    let now = beginRecording(1000);
    now = sent(now, 1500, 'sw', 'take', { input: 3 });
    now = hearMacro(now, 1700, 'mac-wipe', {});
    now = sent(now, 2600, 'deck', 'play', { speed: 100 });
    expect(steps(now)).toEqual([
      [500, 'take', 3],
      [700, 'macro', 'mac-wipe'],
      [1600, 'play', 100],
    ]);
  });

  it('leaves out what a device reports because of a command, and keeps what was done at the device', () => {
    let now = sent(beginRecording(0), 100, 'sw', 'take', { input: 3 });
    now = told(now, 140, 'sw', 'program', 3);
    now = told(now, 4000, 'sw', 'program', 6);
    // Its consequence: no second step.
    now = told(now, 4001, 'sw', 'preview', 3);
    // Another device is not held back.
    now = told(now, 4002, 'mixer', 'strip[1].muted', true);
    expect(steps(now)).toEqual([
      [100, 'take', 3],
      [4000, 'take', 6],
      [4002, 'mute', 1, true],
    ]);
  });

  it('leaves out what a macro brings about', () => {
    const now = quieten(beginRecording(0), 100, commandOf(drivers.sw, 'take'), 'sw');
    expect(steps(told(now, 150, 'sw', 'program', 3))).toEqual([]);
  });

  it('has one step for a fader that is moved in one go, and one for each strip', () => {
    let now = beginRecording(0);
    for (let n = 0; n <= 20; n += 1) now = told(now, 100 + n * 40, 'mixer', 'strip[1].level', -n);
    now = told(now, 3000, 'mixer', 'strip[2].level', -3);
    expect(steps(now)).toEqual([
      [900, 'level', 1, -20],
      [3000, 'level', 2, -3],
    ]);
  });

  it('never has more steps than a segment holds, in the order of their times', () => {
    fc.assert(
      fc.property(
        fc.array(fc.record({ wait: fc.nat(900), input: fc.integer({ min: 1, max: 12 }) }), { maxLength: 700 }),
        (presses) => {
          let at = 0;
          let now = beginRecording(0);
          for (const { wait, input } of presses) now = sent(now, (at += wait), 'sw', 'take', { input });
          expect(now.heard.length).toBe(Math.min(mostHeard, presses.length));
          expect(isFull(now)).toBe(presses.length >= mostHeard);
          const times = now.heard.map(({ atMs }) => atMs);
          expect([...times].sort((a, b) => a - b)).toEqual(times);
        },
      ),
    );
  });

  it('becomes a macro whose zero point is the first thing that was done', () => {
    let now = sent(beginRecording(0), 900, 'sw', 'take', { input: 3 });
    now = sent(now, 2400, 'deck', 'play', { speed: 100 });
    let count = 0;
    const edit = recordedEdit([], now.heard, (kind) => `${kind}-${(count += 1)}`, 'Recorded');
    const [change] = edit.changes;
    if (change?.op !== 'add' || change.record.kind !== 'macro') throw new Error('No macro.');
    const [segment] = change.record.data.segments;
    expect(segment?.steps.map(({ at, does }) => [at, does.is === 'send' && does.send.command])).toEqual([
      [0, 'take'],
      [1500, 'play'],
    ]);
  });
});
