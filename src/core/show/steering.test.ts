import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { compiled, deviceRecord } from '../../../test/support/records';
import { viscaOverIp } from '../../drivers/visca';
import { steer } from '../driver';
import { applyEdit } from './edit';
import { steeringEdit } from './rig-edits';
import type { DeviceRecord } from './records';
import { stickSettings, usualSlow, zoomPart, type Steering } from './steering';

const { document } = compiled(viscaOverIp);
const usual = { slow: false };
const part = fc.double({ min: 0.05, max: 1, noNaN: true });
const flag = fc.constantFrom<true | undefined>(true, undefined);
const settings = fc.record({ topX: part, topY: part, slow: part, atFullZoom: part, flipX: flag, flipY: flag });
const zoom = fc.double({ min: 0, max: 1, noNaN: true });

describe('how a stick handles', () => {
  it('is as usual where nobody has set anything', () => {
    expect(stickSettings({}, undefined, usual)).toMatchObject({ topX: 1, topY: 1 });
    expect(stickSettings({}, {}, { slow: true })).toMatchObject({ topX: usualSlow, topY: usualSlow });
  });

  it('never goes faster than any of its settings, and never faster when zoomed in', () => {
    fc.assert(
      fc.property(settings, part, part, fc.boolean(), zoom, zoom, (of, top, panelTop, slow, a, b) => {
        const at = (by: number) => stickSettings({ top }, of, { slow, panelTop, zoom: by });
        const [wide, tele] = [at(Math.min(a, b)), at(Math.max(a, b))];
        for (const axis of ['topX', 'topY'] as const) {
          expect(wide[axis]).toBeLessThanOrEqual(Math.min(top, panelTop, of[axis], slow ? of.slow : 1));
          expect(tele[axis]).toBeLessThanOrEqual(wide[axis] ?? 0);
          expect(wide[axis]).toBeGreaterThan(0);
        }
      }),
    );
  });

  it('is slower by the same factor with each step of the zoom', () => {
    const at = (by: number) => stickSettings({}, { atFullZoom: 0.1 }, { slow: false, zoom: by }).topX ?? 0;
    expect([at(0), at(0.5), at(1)].map((top) => top.toFixed(3))).toEqual(['1.000', '0.316', '0.100']);
    // Where nobody knows how far it is zoomed in, nothing is taken off.
    expect(stickSettings({}, { atFullZoom: 0.1 }, usual).topX).toBe(1);
  });

  it('lets a control have its own centre, and turns round twice to the usual way', () => {
    fc.assert(
      fc.property(flag, flag, (control, device) => {
        const how = stickSettings({ flipX: control, dead: 0.3 }, { flipX: device, dead: 0.1, curve: 3 }, usual);
        expect(how).toMatchObject({ dead: 0.3, curve: 3 });
        const right = steer(document, 'head', 1, 0, how)?.params.direction;
        expect(right).toBe((control ?? false) === (device ?? false) ? 'right' : 'left');
      }),
    );
  });

  it('leaves the directions in a menu as they are on the screen, but for what a control swaps itself', () => {
    for (const control of [undefined, true] as const) {
      const how = stickSettings({ flipX: control }, { flipX: true, flipY: true }, { ...usual, inMenu: true });
      expect([how.flipX, how.flipY]).toEqual([control, undefined]);
    }
  });

  it('knows how far it is zoomed in by the reading that the driver names', () => {
    expect([0, 25, 100, 140].map((value) => zoomPart(document, 'head', value))).toEqual([0, 0.25, 1, 1]);
    expect(zoomPart(document, 'head', undefined)).toBeUndefined();
    expect(zoomPart(document, 'zoom', 50)).toBeUndefined();
  });
});

it('is kept as far as it differs from what is usual', () => {
  const camera = deviceRecord('C1', { role: 'camera' }) as DeviceRecord;
  const changed = (from: DeviceRecord, drive: string, change: Partial<Steering>) => {
    const done = applyEdit((id) => (id === from.id ? from : undefined), steeringEdit(from, drive, change));
    return (done.ok ? done.value.puts[0] : from) as DeviceRecord;
  };
  const once = changed(camera, 'head', { topX: 0.5, flipX: true });
  const twice = changed(once, 'zoom', { slow: 0.2 });
  expect(twice.data.steering).toEqual({ head: { topX: 0.5, flipX: true }, zoom: { slow: 0.2 } });
  expect(changed(twice, 'head', { topX: undefined }).data.steering?.head).toEqual({ flipX: true });
  const back = changed(changed(twice, 'head', { topX: undefined, flipX: undefined }), 'zoom', { slow: undefined });
  expect('steering' in back.data).toBe(false);
});
