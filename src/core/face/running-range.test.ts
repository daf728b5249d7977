import { describe, expect, it } from 'vitest';
import { shippedDrivers } from '../../drivers';
import { DriverShelf, type DriverDocument } from '../driver';
import { kindsOf } from '../page';
import type { Reading } from '../reading';
import type { Scalar } from '../result';
import type { ControlRecord, DeviceRecord } from '../show';
import { faceOf, readingsOfFace } from '.';

/** Bars and faders that end where a reading says, and run on between reports: the position in a clip. */

const shelf = new DriverShelf();
shelf.put(shippedDrivers);
const documentFor = (driver: string): DriverDocument => {
  const found = shelf.for({ driver });
  if (!found) throw new Error(driver);
  return found.document;
};
const deck = documentFor('replay-deck');
const device = { kind: 'device', id: 'r1', version: 1, data: { tag: 'R1', name: 'Deck' } } as DeviceRecord;
const offer = (driver: string, purpose: string, title: string, readings: Readonly<Record<string, Scalar>> = {}) => {
  const known = Object.fromEntries(Object.entries(readings).map(([key, value]) => [key, { value }]));
  const found = kindsOf(device, documentFor(driver), known).find(
    (each) => each.purpose === purpose && each.title === title,
  );
  return found?.start;
};

const face = (data: object, readings: Readonly<Record<string, Scalar>>, freshness: Reading['freshness'] = 'fresh') =>
  faceOf(
    {
      lamps: [],
      values: {},
      label: [{ text: 'Clip' }],
      responses: { tap: [] },
      ...data,
    } as unknown as ControlRecord['data'],
    {
      readingNow: ({ key }) =>
        key in readings ? ({ value: readings[key], at: 1000, freshness } as Reading) : undefined,
      documentOf: () => deck,
      now: 1000,
    },
  );

describe('a fader over the length of a clip', () => {
  const fader = offer('replay-deck', 'Faders', 'Jump to a time');

  it('is offered, ends at the length, and runs while the deck plays', () => {
    expect(fader?.range).toMatchObject({ param: 'to', min: 0, reading: { key: 'time' }, most: { key: 'length' } });
    const playing = face({ ...fader }, { time: 12, length: 42.5, transport: 'playing' });
    expect(playing.range).toMatchObject({ value: 12, max: 42.5, clock: { seconds: 12, at: 1000, rate: 1 } });
    const paused = face({ ...fader }, { time: 12, length: 42.5, transport: 'paused' });
    expect(paused.range?.clock).toBeUndefined();
    const unknown = face({ ...fader }, { time: 12 });
    expect(unknown.range).toMatchObject({ value: 12, max: 3600 });
  });

  it('is drawn again when its length or what makes it run changes', () => {
    const data = {
      lamps: [],
      values: {},
      label: [],
      responses: { tap: [] },
      ...fader,
    } as unknown as ControlRecord['data'];
    const keys = readingsOfFace(data, () => deck).map(({ key }) => key);
    expect(keys).toEqual(expect.arrayContaining(['time', 'length', 'transport']));
  });
});

describe('a bar over the length of a clip', () => {
  const bar = offer('replay-deck', 'Bars', 'Time');

  it('is offered, is full at the length, and is empty while in doubt', () => {
    expect(bar?.shows).toMatchObject({ kind: 'bar', reading: { key: 'time' }, most: { key: 'length' } });
    expect(face({ ...bar }, { time: 10, length: 40, transport: 'playing' }).shown).toMatchObject({
      part: 0.25,
      runs: { min: 0, max: 40, clock: { seconds: 10 } },
    });
    expect(face({ ...bar }, { time: 10, length: 0, transport: 'paused' }).shown).toMatchObject({ part: 0 });
    expect(face({ ...bar }, { time: 10, length: 40 }, 'stale').shown).toEqual({
      kind: 'bar',
      text: '0:00:10:00',
      doubt: 'stale',
    });
  });
});

describe('the faders of a device', () => {
  it('are there for every number that it reports, and for no number of a list, and nothing risky', () => {
    const titles = (driver: string, readings: Readonly<Record<string, Scalar>> = {}) =>
      kindsOf(
        device,
        documentFor(driver),
        Object.fromEntries(Object.entries(readings).map(([key, value]) => [key, { value }])),
      )
        .filter(({ purpose }) => purpose === 'Faders')
        .map(({ title, help }) => `${help}: ${title}`);
    expect(titles('ptz-camera')).toEqual(
      expect.arrayContaining(
        ['Zoom to', 'Focus to', 'Set iris', 'Set shutter', 'Set gain'].map((each) => `${each}: ${each}`),
      ),
    );
    expect(titles('streaming-encoder')).toEqual([expect.stringMatching(/bit ?rate/i)]);
    expect(titles('wall-viewer', { 'monitor[1].name': 'Left', 'monitor[2].name': 'Right' })).toEqual([
      'Volume: Left',
      'Volume: Right',
    ]);
    expect(titles('vision-switcher').some((each) => /input|macro/i.test(each))).toBe(false);
  });
});
