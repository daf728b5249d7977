import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { viscaOverIp as ptzCamera } from '../../drivers/visca';
import { compiled } from '../../../test/support/records';
import { steer, type StickSettings } from './drive';

const { document } = compiled(ptzCamera);
const to = (x: number, y: number, settings?: StickSettings) => steer(document, 'head', x, y, settings)?.params;
const way = (params: ReturnType<typeof to>) => String(params?.direction ?? 'stop');
const speed = (params: ReturnType<typeof to>) => Number(params?.panSpeed ?? 0);

describe('a stick', () => {
  it.each<[string, number, number, StickSettings, string]>([
    ['goes right', 1, 0, {}, 'right'],
    ['goes up and left', -1, 1, {}, 'upLeft'],
    ['stands in the middle', 0.05, -0.05, {}, 'stop'],
    ['goes left where right is flipped', 1, 0, { flipX: true }, 'left'],
    ['goes down where up is flipped', 0, 1, { flipY: true }, 'down'],
    ['stays level where it only goes across', 0.6, 1, { axes: 'across' }, 'right'],
    ['stays upright where it only goes along', 1, -1, { axes: 'along' }, 'down'],
    ['moves nothing along where it only goes across', 0, 1, { axes: 'across' }, 'stop'],
    ['is still in a wide middle', 0.4, 0, { dead: 0.5 }, 'stop'],
    ['moves at once where there is no middle', 0.01, 0, { dead: 0 }, 'right'],
  ])('%s', (_, x, y, settings, wanted) => expect(way(to(x, y, settings))).toBe(wanted));

  const settings = fc.record({
    dead: fc.double({ min: 0, max: 0.6, noNaN: true }),
    curve: fc.double({ min: 1, max: 4, noNaN: true }),
    topX: fc.double({ min: 0.05, max: 1, noNaN: true }),
  });
  const half = fc.double({ min: 0, max: 1, noNaN: true });
  const fastest = speed(to(1, 0));

  it('is never slower farther out, and never faster than it may be', () => {
    fc.assert(
      fc.property(settings, half, half, (how, a, b) => {
        const [near, far] = [Math.min(a, b), Math.max(a, b)];
        expect(speed(to(near, 0, how))).toBeLessThanOrEqual(speed(to(far, 0, how)));
        expect(speed(to(far, 0, how))).toBeLessThanOrEqual(Math.max(1, Math.ceil(fastest * how.topX) + 1));
      }),
    );
  });

  it('goes as fast one way as the other, and flipped as the other way', () => {
    fc.assert(
      fc.property(settings, half, (how, x) => {
        expect(speed(to(-x, 0, how))).toBe(speed(to(x, 0, how)));
        expect(to(x, 0, { ...how, flipX: true })).toEqual(to(-x, 0, how));
      }),
    );
  });
});

describe('a rocker', () => {
  const rock = (x: number, y: number, settings?: StickSettings) => steer(document, 'zoom', x, y, settings);

  it.each<[string, number, number, StickSettings, unknown]>([
    ['zooms in upwards', 0, 1, {}, { command: 'zoomIn', params: { speed: 7 } }],
    ['zooms out downwards', 0, -1, {}, { command: 'zoomOut', params: { speed: 7 } }],
    ['goes with a twist to the right, too', 1, 0, {}, { command: 'zoomIn', params: { speed: 7 } }],
    ['goes with the farther of two ways', 0.3, -0.8, { curve: 1 }, { command: 'zoomOut', params: { speed: 5 } }],
    ['is slower where it may go no faster', 0, 1, { topX: 0.3 }, { command: 'zoomIn', params: { speed: 2 } }],
    ['goes the other way where up is flipped', 0, 1, { flipY: true }, { command: 'zoomOut', params: { speed: 7 } }],
    ['rests in the middle', 0.05, 0.05, {}, undefined],
  ])('%s', (_, x, y, how, wanted) => expect(rock(x, y, how)).toEqual(wanted));
});
