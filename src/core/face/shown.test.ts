import { describe, expect, it } from 'vitest';
import { compiled } from '../../../test/support/records';
import visionSwitcher from '../../drivers/vision-switcher.json';
import audioMixer from '../../drivers/audio-mixer.json';
import type { Freshness, Reading } from '../reading';
import type { Scalar } from '../result';
import type { ShownSpec } from '../show';
import { readingsOfShown, shownNow } from './shown';

const documents = new Map([
  ['sw', compiled(visionSwitcher).document],
  ['mix', compiled(audioMixer).document],
]);
const documentOf = (id: string) => documents.get(id);
const now = (
  shows: ShownSpec,
  values: Readonly<Record<string, Scalar>>,
  freshness: Freshness = 'fresh',
  params: Readonly<Record<string, Scalar>> = {},
) =>
  shownNow(
    { shows, values: params },
    ({ key }): Reading | undefined => (key in values ? { value: values[key], at: 1, freshness } : undefined),
    documentOf,
  );

describe('a bar', () => {
  const bar = (min: number, max: number): ShownSpec => ({
    kind: 'bar',
    reading: { device: 'mix', key: 'strip[$strip].meter' },
    min,
    max,
  });
  const strip = { strip: 2 };
  it.each<[number, number, number, number]>([
    [-60, 0, -60, 0],
    [-60, 0, -15, 0.75],
    [-60, 0, 6, 1],
    [-60, 0, -90, 0],
    [0, -60, -15, 0.25],
    [5, 5, 5, 0],
  ])('from %d to %d at %d has come %d', (min, max, value, part) => {
    expect(now(bar(min, max), { 'strip[2].meter': value }, 'fresh', strip)).toMatchObject({ kind: 'bar', part });
  });

  it('is empty and says so while its level is not known to be true', () => {
    expect(now(bar(-60, 0), { 'strip[2].meter': -6 }, 'stale', strip)).toEqual({
      kind: 'bar',
      text: '-6 dB',
      doubt: 'stale',
    });
    expect(now(bar(-60, 0), {}, 'fresh', strip)).toEqual({ kind: 'bar', text: '–', doubt: 'unknown' });
  });
});

describe('a picture', () => {
  it('is one that a reading holds, and nothing else that it may hold', () => {
    const spec: ShownSpec = { kind: 'picture', reading: { device: 'mix', key: 'thumb' } };
    expect(now(spec, { thumb: 'data:image/png;base64,AA==' })).toEqual({
      kind: 'picture',
      src: 'data:image/png;base64,AA==',
    });
    // Such as that of a snapshot, which the program serves itself.
    const kept = `/pictures/${'a'.repeat(64)}`;
    expect(now(spec, { thumb: kept })).toEqual({ kind: 'picture', src: kept });
    expect(now(spec, { thumb: '/pictures/../desk' })).toEqual({ kind: 'picture' });
    expect(now(spec, { thumb: `http://elsewhere${kept}` })).toEqual({ kind: 'picture' });
    expect(now(spec, { thumb: 'javascript:alert(1)' })).toEqual({ kind: 'picture' });
    expect(now(spec, { thumb: 'data:text/html,x' })).toEqual({ kind: 'picture' });
  });

  it('that comes from a device or an address is had by its key, which is another for each', () => {
    const names: string[] = [];
    const keyOf = (name: string) => `key ${names.push(name)}`;
    const live = (shows: ShownSpec) => shownNow({ shows, values: {} }, () => undefined, documentOf, keyOf);
    expect(live({ kind: 'still', device: 'cam', still: 'view' })).toEqual({ kind: 'picture', live: 'key 1' });
    live({ kind: 'still', device: 'cam', still: 'other' });
    live({ kind: 'address', url: 'http://10.0.5.20/' });
    live({ kind: 'address', url: 'http://10.0.5.20/', everyMs: 200 });
    expect(new Set(names).size).toBe(4);
    const spec: ShownSpec = { kind: 'still', device: 'cam', still: 'view' };
    // Where there is no relay there is no picture.
    expect(now(spec, {})).toEqual({ kind: 'picture', doubt: 'unknown' });
    expect(readingsOfShown({ shows: spec, values: {} }, documentOf)).toEqual([]);
  });
});

describe('a layout', () => {
  const spec: ShownSpec = { kind: 'layout', device: 'sw', layout: 'boxes' };
  const box = (n: number, values: Readonly<Record<string, Scalar>>) =>
    Object.fromEntries(Object.entries(values).map(([key, value]) => [`box[${n}].${key}`, value]));
  const plain = { on: false, source: 1, x: 500, y: 500, size: 100, left: 0, top: 0, right: 0, bottom: 0 };
  const all = Object.assign({}, ...[1, 2, 3, 4].map((n) => box(n, plain))) as Record<string, Scalar>;

  it('has its boxes where they lie, without what is cropped off and without those that are off', () => {
    const boxes = {
      ...all,
      ...box(1, { ...plain, on: true, source: 3, x: 250, y: 500, size: 40 }),
      ...box(4, { ...plain, on: true, source: 7, x: 750, y: 250, size: 40, left: 25, bottom: 50 }),
      'input[3].name': 'Finish',
    };
    expect(now(spec, boxes)).toEqual({
      kind: 'layout',
      boxes: [
        { x: 0.05, y: 0.3, width: 0.4, height: 0.4, text: 'Finish' },
        { x: 0.65, y: 0.05, width: 0.3, height: 0.2, text: '7' },
      ],
    });
  });

  it('is in doubt while one of its places is', () => {
    expect(now(spec, all, 'stale')).toMatchObject({ doubt: 'stale' });
    const { 'box[2].x': _, ...missing } = all;
    expect(now(spec, missing)).toMatchObject({ doubt: 'unknown' });
  });

  it('depends on every box and on the names of the inputs', () => {
    const keys = readingsOfShown({ shows: spec, values: {} }, documentOf).map(({ key }) => key);
    expect(keys).toEqual(expect.arrayContaining(['box[1].on', 'box[4].bottom', 'input[12].name']));
  });
});
