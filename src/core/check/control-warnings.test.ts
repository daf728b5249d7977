import { describe, expect, it } from 'vitest';
import { compiled, controlRecord, deviceRecord } from '../../../test/support/records';
import streamingEncoder from '../../drivers/streaming-encoder.json';
import visionSwitcher from '../../drivers/vision-switcher.json';
import type { Reading } from '../reading';
import type { Scalar } from '../result';
import { startOf, type ControlRecord } from '../show';
import { devicesThatTell, warningsOfControl } from './control-warnings';

const documents = new Map(
  [visionSwitcher, streamingEncoder].map((source) => [source.id, compiled(source).document] as const),
);
const rig = new Map([
  ['sw', deviceRecord('SW1', { driver: visionSwitcher.id })],
  ['e', deviceRecord('E1', { driver: streamingEncoder.id })],
]);
const documentOf = (id: string) => documents.get(rig.get(id)?.data.driver ?? '');
const fresh = (value: Scalar): Reading => ({ value, freshness: 'fresh', at: 1 });

/** What is warned of when the devices report this; everything that is left out is unknown. */
function warnings(control: ControlRecord, readings: Readonly<Record<string, Reading>>): string[] {
  return warningsOfControl(control, {
    device: (id) => rig.get(id),
    document: ({ data }) => documents.get(data.driver),
    readingNow: ({ device: id, key }) => readings[`${id} ${key}`],
  });
}

function control(id: string, command: string, params: Readonly<Record<string, Scalar>> = {}): ControlRecord {
  const document = documentOf(id);
  if (!document) throw new Error(`no ${id}`);
  const start = startOf(document, id, command);
  const tap = [{ device: id, command, params }];
  return controlRecord('c', { ...start, responses: { tap } });
}

const boxes = (...on: readonly boolean[]) =>
  Object.fromEntries(on.map((value, n) => [`sw box[${n + 1}].on`, fresh(value)]));

describe('what would work but show nothing', () => {
  it('is a layout whose boxes are all off', () => {
    const layout = control('sw', 'take', { input: 10 });
    expect(warnings(layout, boxes(false, false, false, false))).toEqual([
      'SW1 Take to program would show nothing now. Input 10 is the layout, and all its boxes are off: it is black.',
    ]);
    expect(warnings(layout, boxes(false, false, true, false))).toEqual([]);
    expect(warnings(control('sw', 'take', { input: 3 }), boxes(false, false, false, false))).toEqual([]);
  });

  it('is not claimed while a box is not known, or was known once', () => {
    const layout = control('sw', 'take', { input: 10 });
    expect(warnings(layout, boxes(false, false, false))).toEqual([]);
    const old: Reading = { value: false, freshness: 'stale', at: 1 };
    expect(warnings(layout, { ...boxes(false, false, false, false), 'sw box[2].on': old })).toEqual([]);
    expect(warnings(layout, {})).toEqual([]);
  });

  it('follows a parameter through the value that the face shares', () => {
    const tied: ControlRecord = control('sw', 'take');
    const data = {
      ...tied.data,
      values: { input: 10 },
      responses: { tap: [{ device: 'sw', command: 'take', params: { input: { value: 'input' } } }] },
    };
    expect(warnings({ ...tied, data }, boxes(false, false, false, false))).toHaveLength(1);
    expect(warnings({ ...tied, data: { ...data, values: { input: 9 } } }, boxes(false, false, false, false))).toEqual(
      [],
    );
  });

  it('is not what the control itself puts right first', () => {
    const both = control('sw', 'take', { input: 10 });
    const on = { device: 'sw', command: 'box', params: { box: 1, on: true } };
    const data = { ...both.data, responses: { tap: [on, ...both.data.responses.tap] } };
    expect(warnings({ ...both, data }, boxes(false, false, false, false))).toEqual([]);
  });

  it('says the same once, however often it is sent', () => {
    const start = control('e', 'startStream');
    const data = { ...start.data, responses: { tap: [...start.data.responses.tap, ...start.data.responses.tap] } };
    expect(warnings({ ...start, data }, { 'e input': fresh(false) })).toEqual([
      'E1 Start the stream would show nothing now. There is no picture at the encoder’s input.',
    ]);
  });

  it('is looked for only at devices that can tell', () => {
    const told = [control('sw', 'take'), control('sw', 'cut'), control('e', 'startStream')];
    expect(told.map((each) => devicesThatTell(each, documentOf))).toEqual([['sw'], [], ['e']]);
  });
});
