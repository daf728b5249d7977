import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import audioMixer from '../../drivers/audio-mixer.json';
import titleMachine from '../../drivers/title-machine.json';
import visionSwitcher from '../../drivers/vision-switcher.json';
import { viscaOverIp } from '../../drivers/visca';
import { compileDriver, type DriverDocument } from '../driver';
import type { Scalar } from '../result';
import { applyEdit, invertEdit, type ShowRecord, type SnapshotPart, type SnapshotRecord } from '../show';
import { collectionOf, laidOver, readCollection, sourcesUsed } from '../exchange';
import {
  addSnapshotsEdit,
  advanceGlide,
  beginGlide,
  blackReason,
  boxesOf,
  differencesBetween,
  freeNumber,
  keysOf,
  newSnapshotEdit,
  numberProblem,
  overwriteEdit,
  partOfBoxes,
  pictureOf,
  stillOf,
  placeSnapshotEdit,
  planCall,
  shelfLayouts,
  snapshotsOf,
  stateNow,
  stepInFolder,
  swapBackEdit,
  take,
  tracksOf,
  withBox,
} from '.';

/** What is taken, what is sent back of it, and what is the same, over the drivers that ship. */

const documentOf = (source: unknown): DriverDocument => {
  const driver = compileDriver(source);
  if (!driver.ok) throw new Error('The driver does not compile.');
  return driver.value.document;
};
const documents: Readonly<Record<string, DriverDocument>> = {
  sw: documentOf(visionSwitcher),
  mix: documentOf(audioMixer),
  cam: documentOf(viscaOverIp),
  titles: documentOf(titleMachine),
};
const lookUp = (device: string) => documents[device];
const keep = (device: string, name: string) => {
  const definition = documents[device]?.keeps[name];
  const document = documents[device];
  if (!definition || !document) throw new Error(`There is no ${name}.`);
  return tracksOf(document, definition);
};
const sourcesOf = (readings: Readonly<Record<string, Scalar>>) => ({
  documentOf: lookUp,
  fresh: (_device: string, key: string) => readings[key],
});
const layout = (boxes: (typeof shelfLayouts)[number]['boxes'], sources = [1, 2, 3, 4]): SnapshotPart =>
  partOfBoxes('sw', 'boxes', documents.sw as DriverDocument, boxes, sources);
const first = shelfLayouts[0]?.boxes ?? [];
const record = (
  number: number,
  parts: readonly SnapshotPart[],
  more: Partial<SnapshotRecord['data']> = {},
): SnapshotRecord => ({
  kind: 'snapshot',
  id: `snap-${number}`,
  version: 1,
  data: { name: `S${number}`, number, order: number, folder: '', note: '', parts: [...parts], takenAt: '', ...more },
});

describe('the tracks of a group', () => {
  it('come from what confirms its commands, each for every member', () => {
    const tracks = keep('sw', 'boxes');
    expect(tracks).toHaveLength(20);
    expect(tracks.find(({ id }) => id === 'boxPlace 3')).toMatchObject({
      command: 'boxPlace',
      fixed: { box: 3 },
      moves: true,
      values: [
        { param: 'x', key: 'box[3].x' },
        { param: 'y', key: 'box[3].y' },
      ],
    });
    expect(keysOf(tracks)).toHaveLength(36);
  });
});

describe('taking', () => {
  it('keeps what is fresh, and says what is not known and what is not there', () => {
    const readings = Object.fromEntries(keysOf(keep('sw', 'boxes')).map((key) => [key, 1]));
    delete readings['box[2].x'];
    const taken = take(
      [
        { device: 'sw', keep: 'boxes' },
        { device: 'sw', keep: 'nothing' },
        { device: 'gone', keep: 'boxes' },
      ],
      sourcesOf(readings),
    );
    expect(taken.parts.map(({ keep: name, values }) => [name, Object.keys(values).length])).toEqual([['boxes', 35]]);
    expect(taken.unknown).toEqual([{ device: 'sw', key: 'box[2].x' }]);
    expect(taken.missing).toHaveLength(2);
  });

  it('after calling up gives the same snapshot, whatever was set before', () => {
    const value = (key: string, n: number): Scalar => (key.endsWith('.on') ? n % 2 === 0 : 5 + (n % 40));
    const any = fc.array(fc.nat(1000), { minLength: 36, maxLength: 36 });
    const keys = keysOf(keep('sw', 'boxes'));
    fc.assert(
      fc.property(any, any, fc.integer({ min: 0, max: 400 }), (wanted, before, ms) => {
        const part: SnapshotPart = {
          device: 'sw',
          keep: 'boxes',
          values: Object.fromEntries(keys.map((key, n) => [key, value(key, wanted[n] ?? 0)])),
        };
        const device: Record<string, Scalar> = Object.fromEntries(
          keys.map((key, n) => [key, value(key, before[n] ?? 0)]),
        );
        const { tracks } = planCall([part], { documentOf: lookUp, now: (_of, key) => device[key] });
        // Only what differs is sent.
        for (const { from, to } of tracks) expect(from).not.toEqual(to);
        const all = keep('sw', 'boxes');
        let glide = beginGlide(tracks, { ms, curve: 'smooth' }, 0);
        for (let now = 0; now <= ms + 20; now += 20) {
          const step = advanceGlide(glide, now);
          glide = step.glide;
          for (const { track, params } of step.sends)
            for (const { param, key } of all.find(({ id }) => `sw ${id}` === track)?.values ?? [])
              device[key] = params[param] as Scalar;
        }
        expect(take([{ device: 'sw', keep: 'boxes' }], sourcesOf(device)).parts).toEqual([part]);
        expect(stateNow({ parts: [part] }, sourcesOf(device), false)).toBe('there');
      }),
      { numRuns: 60 },
    );
  });
});

describe('a call-up', () => {
  it('leaves out what the camera would not take in the mode that is kept', () => {
    const part = (exposure: string): SnapshotPart => ({
      device: 'cam',
      keep: 'exposure',
      values: { exposure, iris: 9, gain: 3, backlight: false },
    });
    const sent = (exposure: string) =>
      planCall([part(exposure)], { documentOf: lookUp, now: () => undefined }).tracks.map(({ track }) => track.command);
    expect(sent('manual')).toEqual(['exposure', 'iris', 'gain', 'backlight']);
    expect(sent('auto')).toEqual(['exposure', 'backlight']);
  });

  it('brings the texts of titles whatever was loaded and written before, and sends only what differs', () => {
    /** How many fields each template has. */
    const fields = [2, 3, 2, 3, 1, 2];
    const layer = fc.record({
      template: fc.integer({ min: 0, max: 6 }),
      texts: fc.tuple(...[1, 2, 3].map(() => fc.constantFrom('', 'Osprey', 'Tern'))),
    });
    const layers = fc.tuple(layer, layer, layer);
    const readingsOf = (all: readonly { readonly template: number; readonly texts: readonly string[] }[]) =>
      Object.fromEntries(
        all.flatMap(({ template, texts }, n): [string, Scalar][] => [
          [`layer[${n + 1}].template`, template],
          // A field that the template does not have is empty.
          ...texts.map((text, at): [string, Scalar] => [
            `field[${n + 1}${at + 1}].text`,
            at < (fields[template - 1] ?? 0) ? text : '',
          ]),
        ]),
      );
    fc.assert(
      fc.property(layers, layers, (wanted, before) => {
        const values = readingsOf(wanted);
        const device = readingsOf(before);
        expect(take([{ device: 'titles', keep: 'texts' }], sourcesOf(values)).parts[0]?.values).toEqual(values);
        const part: SnapshotPart = { device: 'titles', keep: 'texts', values };
        const { tracks } = planCall([part], { documentOf: lookUp, now: (_of, key) => device[key] });
        const were = { ...device };
        for (const { track, from, to, reset } of tracks) {
          const at = Number(track.fixed.layer);
          // What it was is known for the way back, and a text waits for its template.
          if (track.command === 'field') expect(from.text).toBe(were[`field[${at}${Number(track.fixed.field)}].text`]);
          const isLoaded = were[`layer[${at}].template`] !== device[`layer[${at}].template`];
          expect(reset).toEqual(
            track.command === 'field' && isLoaded ? { after: `titles load ${at}`, to: '' } : undefined,
          );
          if (track.command === 'load') {
            expect(device[`layer[${at}].template`]).not.toBe(to.template);
            device[`layer[${at}].template`] = to.template as Scalar;
            for (const field of [1, 2, 3]) device[`field[${at}${field}].text`] = '';
            continue;
          }
          // The machine refuses a field that the template does not have.
          expect(Number(track.fixed.field)).toBeLessThanOrEqual(
            fields[Number(device[`layer[${at}].template`]) - 1] ?? 0,
          );
          device[`field[${at}${Number(track.fixed.field)}].text`] = to.text as Scalar;
        }
        // A layer that was empty when it was taken stays as it is: nothing unloads one.
        for (const [key, value] of Object.entries(values)) {
          const at = /\[(\d)/.exec(key)?.[1] ?? '';
          if (values[`layer[${at}].template`] !== 0) expect([key, device[key]]).toEqual([key, value]);
        }
      }),
      { numRuns: 200 },
    );
  });

  it('jumps where nobody knows how it is now, and moves where the device knows it itself', () => {
    const strips: SnapshotPart = { device: 'mix', keep: 'strips', values: { 'strip[1].level': -10 } };
    const [unknown] = planCall([layout(first)], { documentOf: lookUp, now: () => undefined }).tracks;
    expect(unknown?.isJump).toBe(true);
    const [fade] = planCall([strips], { documentOf: lookUp, now: () => undefined }).tracks;
    expect(fade?.isJump).toBe(false);
  });

  it('says which parts are gone and which values nothing sends back any more', () => {
    const odd = { device: 'sw', keep: 'boxes', values: { 'box[9].x': 3 } };
    const plan = planCall([{ ...odd, device: 'gone' }, odd], { documentOf: lookUp, now: () => undefined });
    expect(plan.gone).toHaveLength(1);
    expect(plan.unused).toEqual([{ device: 'sw', key: 'box[9].x' }]);
    expect(plan.tracks).toEqual([]);
  });
});

describe('the state', () => {
  it('allows for what the device cannot tell, and is not known while something is not reported', () => {
    const parts: SnapshotPart[] = [{ device: 'mix', keep: 'strips', values: { 'strip[1].level': -10 } }];
    const at = (level: number | undefined, was = false) =>
      stateNow({ parts }, sourcesOf(level === undefined ? {} : { 'strip[1].level': level }), was);
    expect([at(-10), at(-10.1), at(-10.2), at(-10.2, true), at(undefined)]).toEqual([
      'there',
      'there',
      'away',
      'changed',
      'unknown',
    ]);
  });
});

describe('layouts', () => {
  it('ship as twenty-four, each within the picture and none like another', () => {
    expect(shelfLayouts).toHaveLength(24);
    expect(new Set(shelfLayouts.map(({ name }) => name)).size).toBe(24);
    expect(new Set(shelfLayouts.map(({ boxes }) => JSON.stringify(boxes))).size).toBe(24);
    for (const { boxes } of shelfLayouts)
      for (const { x, y, size, left, right } of boxes) {
        expect(x - size / 2 + (left / 100) * size).toBeGreaterThanOrEqual(-0.001);
        expect(x + size / 2 - (right / 100) * size).toBeLessThanOrEqual(1.001);
        expect(y - size / 2).toBeGreaterThanOrEqual(-0.001);
        expect(y + size / 2).toBeLessThanOrEqual(1.001);
      }
  });

  it('go to a device in its own units and come back as they were', () => {
    for (const { boxes } of shelfLayouts) {
      const part = layout(boxes);
      const back = boxesOf(part, documents.sw as DriverDocument);
      expect(back.filter(({ on }) => on)).toHaveLength(boxes.length);
      boxes.forEach((box, n) => {
        expect(back[n]?.x).toBeCloseTo(box.x, 2);
        expect(back[n]?.size).toBeCloseTo(box.size, 2);
      });
    }
  });

  it('go no further than the device takes them', () => {
    const part = withBox(layout(first), documents.sw as DriverDocument, 1, { x: 3, size: 9, left: 80 });
    expect(part.values).toMatchObject({ 'box[1].x': 1000, 'box[1].size': 100, 'box[1].left': 45 });
  });

  it('are drawn with the names of their sources', () => {
    const readingNow = (_device: string, key: string) =>
      key === 'input[2].name' ? ({ value: 'Quay & <pier>', freshness: 'fresh' } as const) : undefined;
    const picture = decodeURIComponent(pictureOf({ parts: [layout(first)] }, { documentOf: lookUp, readingNow }) ?? '');
    expect(picture).toContain('Quay &#38; &#60;pier&#62;');
    expect(picture.match(/<rect/g)).toHaveLength(3);
  });

  it('are drawn also where a picture was fetched; without a layout that is shown, and without one the levels', () => {
    const picture = 'c'.repeat(64);
    const strips = { device: 'mix', keep: 'strips', values: { 'strip[1].level': -10 } };
    const shown = (parts: SnapshotPart[], hash?: string) =>
      pictureOf(
        { parts, ...(hash === undefined ? {} : { picture: hash }) },
        { documentOf: lookUp, readingNow: () => undefined },
      );
    expect(shown([layout(first), strips], picture)).toContain('data:image/svg');
    expect(shown([strips], picture)).toBe(`/pictures/${picture}`);
    expect(shown([strips])).toContain('data:image/svg');
    expect(shown([])).toBeUndefined();
  });

  it('are not fetched from a device, but what has no layout is', () => {
    const keys = { device: 'sw', keep: 'keys' };
    expect(stillOf([keys], lookUp)).toEqual({ device: 'sw', still: 'program' });
    expect(stillOf([keys, { device: 'sw', keep: 'boxes' }], lookUp)).toBeUndefined();
    expect(
      stillOf(
        [
          { device: 'mix', keep: 'strips' },
          { device: 'gone', keep: 'keys' },
        ],
        lookUp,
      ),
    ).toBeUndefined();
  });

  it('are called black when every box is off, or shows what does not exist or the layout itself', () => {
    const reason = (sources: number[], boxes = first) => blackReason([layout(boxes, sources)], lookUp);
    expect(reason([1, 2])).toBeUndefined();
    expect(reason([], [])).toContain('off');
    expect(reason([10, 10])).toContain('itself');
    expect(
      blackReason(
        [{ ...layout(first), values: { ...layout(first).values, 'box[1].source': 99, 'box[2].source': 10 } }],
        lookUp,
      ),
    ).toContain('do not exist');
    expect(blackReason([{ device: 'mix', keep: 'strips', values: {} }], lookUp)).toBeUndefined();
    // What was not taken may show something.
    expect(blackReason([{ device: 'sw', keep: 'boxes', values: { 'box[1].x': 3 } }], lookUp)).toBeUndefined();
  });
});

describe('edits', () => {
  const records = [record(1, [layout(first)], { folder: 'A' }), record(3, [layout([])], { folder: 'A' })];
  const newId = () => 'snap-new';
  const after = (all: readonly ShowRecord[], edit: Parameters<typeof applyEdit>[1]) => {
    const done = applyEdit((id) => all.find((each) => each.id === id), edit);
    if (!done.ok) throw new Error(done.error.message);
    const put = new Map(done.value.puts.map((each) => [each.id, each]));
    return [
      ...all.map((each) => put.get(each.id) ?? each),
      ...[...put.values()].filter(({ id }) => !all.some((each) => each.id === id)),
    ];
  };

  it('give a new snapshot the lowest free number, and a run of them one in a row', () => {
    const edit = newSnapshotEdit(records, newId, { name: 'New', folder: 'A', parts: [layout([])], takenAt: '' });
    expect(snapshotsOf(after(records, edit)).map(({ data }) => data.number)).toEqual([1, 3, 2]);
    expect(freeNumber(records, 1, 2)).toBe(4);
    let n = 0;
    const many = addSnapshotsEdit(
      records,
      records.map(({ data }) => data),
      () => `snap-x${(n += 1)}`,
      { title: 'Add', replaces: false },
    );
    expect(snapshotsOf(after(records, many)).map(({ data }) => data.number)).toEqual([1, 3, 4, 5]);
    // What is overwritten keeps its number, whatever number it has in the file.
    const [one] = records as [SnapshotRecord];
    const again = addSnapshotsEdit(records, [{ ...one.data, ...{ number: 3 }, parts: [] }], newId, {
      title: 'Again',
      replaces: true,
    });
    expect((after(records, again)[0] as SnapshotRecord).data).toMatchObject({ number: 1, parts: [] });
    expect(numberProblem(records, records[0] as SnapshotRecord, 3)).toContain('S3');
  });

  it('overwrite and get back, and put in order, each with its inverse', () => {
    const [one] = records as [SnapshotRecord];
    const edit = overwriteEdit(one, { parts: [layout([])], takenAt: 'later' });
    const [now] = after(records, edit) as [SnapshotRecord];
    expect(now.data.before?.parts).toEqual(one.data.parts);
    const pictured = after(
      [{ ...one, data: { ...one.data, picture: 'd'.repeat(64) } }],
      overwriteEdit({ ...one, data: { ...one.data, picture: 'd'.repeat(64) } }, { parts: [], takenAt: 'later' }),
    )[0] as SnapshotRecord;
    expect([pictured.data.picture, pictured.data.before?.picture]).toEqual([undefined, 'd'.repeat(64)]);
    const gotBack = swapBackEdit(pictured);
    expect(gotBack && (after([pictured], gotBack)[0] as SnapshotRecord).data.picture).toBe('d'.repeat(64));
    const back = swapBackEdit(now);
    expect(back && (after([now], back)[0] as SnapshotRecord).data.parts).toEqual(one.data.parts);
    expect(
      (after([now], invertEdit({ ...edit, changes: [{ op: 'update', from: one, to: now }] }))[0] as SnapshotRecord)
        .data,
    ).toEqual(one.data);
    const placed = after(records, placeSnapshotEdit(records, records[1] as SnapshotRecord, 0));
    expect(snapshotsOf(placed).map(({ data }) => data.number)).toEqual([3, 1]);
  });

  it('step through a folder and go round at its ends', () => {
    const at = (last: number | undefined, by: number) => stepInFolder(records, 'A', last, by)?.data.number;
    expect([at(undefined, 1), at(1, 1), at(3, 1), at(1, -1), at(undefined, -1)]).toEqual([1, 3, 1, 3, 3]);
    expect(stepInFolder(records, 'B', 1, 1)).toBeUndefined();
  });

  it('compare two snapshots by every value that either keeps', () => {
    expect(differencesBetween(records[0]?.data.parts ?? [], records[0]?.data.parts ?? [])).toEqual([]);
    expect(differencesBetween(records[0]?.data.parts ?? [], []).length).toBe(36);
  });
});

describe('a collection', () => {
  const all = shelfLayouts.map(({ name, boxes }, n) => record(n + 1, [layout(boxes)], { name, folder: 'Shelf' }));
  const device = {
    kind: 'device',
    id: 'sw',
    version: 1,
    data: { tag: 'SW9', name: 'Far', role: 'switcher', driver: 'vision-switcher' },
  } as never;
  const file = collectionOf('Shelf', [device, ...all], all);

  it('comes back from its file, and says what another file is', () => {
    const read = readCollection(JSON.stringify(file));
    expect(read.ok && read.value).toEqual(file);
    for (const [text, says] of [
      ['nonsense', 'not JSON'],
      ['{"format":"sorrelfinch-show"}', 'not snapshots'],
      [JSON.stringify({ ...file, snapshots: [{ name: 'x' }] }), 'snapshots.0'],
    ] as const) {
      const wrong = readCollection(text);
      expect(!wrong.ok && wrong.error).toContain(says);
    }
  });

  it('is laid over another device and other inputs, and over nothing where a device is left out', () => {
    const plain = { devices: new Map([['d1', 'sw']]), sources: new Map<number, number>(), replaces: false };
    expect(sourcesUsed(file, plain, { documentOf: lookUp })).toEqual([1, 2, 3, 4]);
    const patch = { ...plain, sources: new Map([1, 2, 3, 4].map((n) => [n, n + 4])) };
    const [made] = laidOver(file, patch, { documentOf: lookUp });
    expect(made?.parts[0]?.values).toMatchObject({ 'box[1].source': 5, 'box[4].source': 8, 'box[1].size': 48 });
    expect(laidOver(file, { ...plain, devices: new Map() }, { documentOf: lookUp })).toEqual([]);
  });
});
