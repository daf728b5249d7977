import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Scalar } from '../result';
import { glideCurves, type GlideCurve } from '../show';
import { curveAt } from './curve';
import {
  advanceGlide,
  beginGlide,
  fadeSends,
  glideWakeAt,
  holdGlide,
  morphSends,
  reachedBy,
  resumeGlide,
  shareAt,
  stopGlide,
  keyOfTrack,
  turnGlide,
  withoutTracks,
  type Glide,
  type GlideSend,
} from './glide';
import type { PlannedTrack } from './plan';

/** A glide as a state: what it sends, when, and where it ends. */

const track = (n: number, from: number, to: number, more: Partial<PlannedTrack['track']> = {}): PlannedTrack => ({
  device: 'sw',
  from: { x: from },
  to: { x: to },
  isJump: false,
  track: {
    id: `place ${n}`,
    command: 'place',
    fixed: { box: n },
    values: [{ param: 'x', key: `box[${n}].x`, shape: { type: 'whole' }, within: 0 }],
    moves: true,
    jumps: 'start',
    fade: undefined,
    when: undefined,
    resets: undefined,
    perSecond: 50,
    ...more,
  },
});
const jump = (n: number, jumps: 'start' | 'middle' | 'end' | 'shown', from: Scalar, to: Scalar): PlannedTrack => ({
  ...track(n, 0, 0, { id: `jump ${n}`, command: 'jump', moves: false, jumps }),
  from: { x: from },
  to: { x: to },
  isJump: true,
});

/** Runs a glide to its end, looked at whenever it asks for it and up to `late` ms later. */
function play(glide: Glide, from: number, late: () => number = () => 0) {
  const sent: (GlideSend & { readonly at: number })[] = [];
  let now = from;
  let state = glide;
  for (let looks = 0; state.phase.is === 'running' && looks < 5000; looks += 1) {
    now = Math.max(now, glideWakeAt(state) ?? now) + late();
    const { glide: next, sends } = advanceGlide(state, now);
    sent.push(...sends.map((send) => ({ ...send, at: now })));
    state = next;
  }
  return { sent, state, now };
}
const xs = (sends: readonly GlideSend[], id: string) =>
  sends.flatMap(({ track: of, params }) => (of === `sw ${id}` ? [params.x as number] : []));

describe('a curve', () => {
  it.each(glideCurves)('%s begins at 0, ends at 1 and never turns back or passes its end', (curve) => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: 1, noNaN: true }), fc.double({ min: 0, max: 1, noNaN: true }), (a, b) => {
        const [low, high] = [Math.min(a, b), Math.max(a, b)];
        expect(curveAt(curve, low)).toBeLessThanOrEqual(curveAt(curve, high));
        expect(curveAt(curve, a)).toBeGreaterThanOrEqual(0);
        expect(curveAt(curve, a)).toBeLessThanOrEqual(1);
      }),
    );
    expect([curveAt(curve, 0), curveAt(curve, 1), curveAt(curve, 1.2)]).toEqual([0, 1, 1]);
  });

  it('tells the kinds apart in their first half', () => {
    const early = (curve: GlideCurve) => curveAt(curve, 0.25);
    expect([early('accelerating'), early('smooth'), early('linear'), early('decelerating')]).toEqual([
      0.0625, 0.15625, 0.25, 0.4375,
    ]);
  });
});

describe('a glide', () => {
  it('sends its frames on the grid of the device’s rate and its last value exactly', () => {
    const { sent, state, now } = play(beginGlide([track(1, 0, 1000)], { ms: 200, curve: 'linear' }, 1000), 1000);
    expect(sent.map(({ at, params }) => [at, params.x])).toEqual([
      ...Array.from({ length: 9 }, (_, n) => [1020 + n * 20, (n + 1) * 100]),
      [1200, 1000],
    ]);
    expect(sent.map(({ isLast }) => isLast)).toEqual([...Array<boolean>(9).fill(false), true]);
    expect(state.phase).toEqual({ is: 'over', how: 'there' });
    expect(now).toBe(1200);
  });

  it('does not drift and ends on time, however late anybody looks', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 1000 }),
        fc.integer({ min: 0, max: 1000 }),
        fc.integer({ min: 1, max: 3000 }),
        fc.constantFrom(...glideCurves),
        fc.infiniteStream(fc.integer({ min: 0, max: 60 })),
        (from, to, ms, curve, stream) => {
          const lates = stream[Symbol.iterator]();
          const { sent, state } = play(
            beginGlide([track(1, from, to)], { ms, curve }, 0),
            0,
            () => lates.next().value as number,
          );
          expect(state.phase).toEqual({ is: 'over', how: 'there' });
          expect(sent.at(-1)).toMatchObject({ isLast: true, params: { box: 1, x: to } });
          // Never beyond either end, and never back.
          const way = [from, ...xs(sent, 'place 1')];
          for (let n = 1; n < way.length; n += 1)
            expect(Math.sign((way[n] ?? 0) - (way[n - 1] ?? 0)) * Math.sign(to - from)).toBeGreaterThanOrEqual(0);
        },
      ),
    );
  });

  it('sends a frame only when its value is another one', () => {
    const { sent } = play(beginGlide([track(1, 0, 3)], { ms: 1000, curve: 'linear' }, 0), 0);
    expect(xs(sent, 'place 1')).toEqual([1, 2, 3, 3]);
  });

  it('sends jumps at the start, in the middle and at the end: on as early, off as late as can be', () => {
    const jumps = [jump(1, 'start', 1, 2), jump(2, 'middle', 1, 2), jump(3, 'end', 1, 2)];
    const shown = [jump(4, 'shown', false, true), jump(5, 'shown', true, false)];
    const { sent } = play(beginGlide([...jumps, ...shown, track(9, 0, 10)], { ms: 100, curve: 'smooth' }, 0), 0);
    const at = Object.fromEntries(
      sent.filter(({ command }) => command === 'jump').map((each) => [each.track, each.at]),
    );
    expect(at).toEqual({ 'sw jump 1': 0, 'sw jump 4': 0, 'sw jump 2': 50, 'sw jump 3': 100, 'sw jump 5': 100 });
    // What goes off does so after everything has arrived.
    expect(sent.at(-1)?.track).toBe('sw jump 5');
  });

  it('is a cut without a time: everything at once, in its order', () => {
    const all = [jump(1, 'end', 1, 2), track(2, 0, 10)];
    const { glide, sends } = advanceGlide(beginGlide(all, { ms: 0, curve: 'linear' }, 5), 5);
    expect(sends.map(({ track: of, isLast }) => [of, isLast])).toEqual([
      ['sw jump 1', true],
      ['sw place 2', true],
    ]);
    expect(glide.phase.is).toBe('over');
  });

  it('is held where it is, goes on from there, and takes the rest of its time', () => {
    let { glide } = advanceGlide(beginGlide([track(1, 0, 1000)], { ms: 1000, curve: 'linear' }, 0), 400);
    ({ glide } = holdGlide(glide, 400));
    expect(glideWakeAt(glide)).toBeUndefined();
    expect(advanceGlide(glide, 9000).sends).toEqual([]);
    glide = resumeGlide(glide, 10_000);
    expect(shareAt(glide, 10_000)).toBeCloseTo(0.4);
    const { sent, now } = play(glide, 10_000);
    expect(now).toBe(10_600);
    expect(xs(sent, 'place 1')[0]).toBeGreaterThanOrEqual(400);
  });

  it('runs back to exactly where it began, and takes its jumps back', () => {
    const tracks = [track(1, 37, 1000), jump(2, 'start', 4, 5), jump(3, 'end', true, false)];
    const { glide } = advanceGlide(beginGlide(tracks, { ms: 1000, curve: 'smooth' }, 0), 300);
    const { sent, state, now } = play(turnGlide(glide, 300), 300);
    expect(now).toBe(600);
    expect(state.phase).toEqual({ is: 'over', how: 'back' });
    expect(xs(sent, 'place 1').at(-1)).toBe(37);
    expect(sent.filter(({ command }) => command === 'jump').map(({ params }) => params.x)).toEqual([4]);
  });

  it('can be interrupted anywhere: the next one begins where it is', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 999 }), fc.constantFrom(...glideCurves), (at, curve) => {
        let glide = beginGlide([track(1, 0, 1000)], { ms: 1000, curve }, 0);
        let last = 0;
        for (let now = 0; now <= at; now += 20) {
          const { glide: next, sends } = advanceGlide(glide, now);
          glide = next;
          last = xs(sends, 'place 1').at(-1) ?? last;
        }
        expect(reachedBy(glide, 'sw', 'box[1].x')).toBe(last);
        // What another has taken over is not sent any more.
        const rest = withoutTracks(glide, (key) => key === keyOfTrack(track(1, 0, 0)));
        expect(play(rest, at).sent).toEqual([]);
      }),
    );
  });

  it('leaves the way to a device that moves by itself, and stops it where it is stopped', () => {
    const fade = { command: 'fade', param: 'ms', unit: 'ms' } as const;
    const glide = beginGlide([track(1, 0, 100, { fade })], { ms: 1000, curve: 'smooth' }, 0);
    expect(fadeSends(glide, 0).map(({ command, params }) => [command, params])).toEqual([
      ['fade', { box: 1, x: 100, ms: 1000 }],
    ]);
    expect(advanceGlide(glide, 500).sends).toEqual([]);
    const { sends } = stopGlide(advanceGlide(glide, 500).glide, 500);
    expect(sends.map(({ command, params }) => [command, params.x])).toEqual([['place', 50]]);
    expect(play(glide, 0).sent.map(({ params }) => params.x)).toEqual([100]);
  });

  it('goes by hand between two snapshots: numbers in between, the rest at the middle', () => {
    const tracks = [track(1, 0, 100), jump(2, 'start', 1, 2)];
    const at = (part: number) => morphSends(tracks, part).map(({ params }) => params.x);
    expect([at(0), at(0.25), at(0.5), at(1)]).toEqual([
      [0, 1],
      [25, 1],
      [50, 2],
      [100, 2],
    ]);
  });
});
