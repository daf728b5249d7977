import { describe, expect, it } from 'vitest';
import { demoShow, deviceIds } from '../../../demo/show';
import { compiled } from '../../../test/support/records';
import { viscaOverIp } from '../../drivers/visca';
import type { DriverDocument } from '../driver';
import type { ControlRecord } from '../show';
import { drivingOther, madeFor } from './context';

/** The same camera with every name of its contract changed, and its speeds and steps counted ten times as finely. */
function renamed(document: DriverDocument): DriverDocument {
  const text = (name: string) => `x${name.charAt(0).toUpperCase()}${name.slice(1)}`;
  const finer = <T extends { value: DriverDocument['readings'][string]['value'] }>(part: T): T => {
    const { value } = part;
    const isStep = value.type === 'whole' && typeof value.min === 'number' && typeof value.max === 'number';
    if (!isStep) return part;
    return { ...part, value: { ...value, min: Number(value.min) * 10, max: Number(value.max) * 10 } };
  };
  const commands = Object.entries(document.commands).map(([id, command]) => [
    text(id),
    {
      ...command,
      params: Object.fromEntries(Object.entries(command.params).map(([name, each]) => [text(name), finer(each)])),
    },
  ]);
  const readings = Object.entries(document.readings).map(([key, reading]) => [text(key), finer(reading)]);
  const known = document.contract?.commands ?? {};
  return {
    ...document,
    id: 'renamed',
    commands: Object.fromEntries(commands) as DriverDocument['commands'],
    readings: Object.fromEntries(readings) as DriverDocument['readings'],
    drives: Object.fromEntries(Object.entries(document.drives).map(([name, drive]) => [text(name), drive])),
    stills: Object.fromEntries(Object.entries(document.stills).map(([name, still]) => [text(name), still])),
    contract: {
      commands: Object.fromEntries(
        Object.entries(document.commands).map(([id, { params }]) => [
          id,
          {
            command: text(id),
            params: Object.fromEntries(
              Object.keys(params).map((name) => {
                // What this document itself calls otherwise than the contract.
                const standard = Object.entries(known[id]?.params ?? {}).find(([, own]) => own === name)?.[0];
                return [standard ?? name, text(name)];
              }),
            ),
          },
        ]),
      ),
      readings: Object.fromEntries(Object.keys(document.readings).map((key) => [key, text(key)])),
      drives: Object.fromEntries(Object.keys(document.drives).map((name) => [name, text(name)])),
      stills: Object.fromEntries(Object.keys(document.stills).map((name) => [name, text(name)])),
    },
  };
}

const camera = compiled(viscaOverIp).document;
const other = renamed(camera);
const own = deviceIds.C1;
const devices = {
  documentOf: (device: string) => (device === own ? camera : device === 'dev-X' ? other : undefined),
  roleOf: () => 'camera',
};
const controls = demoShow(4400).filter(
  (record): record is ControlRecord =>
    record.kind === 'control' &&
    JSON.stringify(record.data).includes(`"${own}"`) &&
    // What picks a camera stays about that one.
    record.data.sets === undefined,
);

describe('every control of the demo that is about a camera', () => {
  it('is made for the other camera on all its levels, and back again as it was', () => {
    const [first] = controls;
    if (!first) throw new Error('There is none.');
    // A level of its own with another command and another lamp.
    const level: ControlRecord['data'] = {
      ...first.data,
      values: { preset: 3 },
      shifts: {
        s1: {
          responses: { tap: [{ device: own, command: 'recall', params: { preset: { value: 'preset' } } }] },
          lamps: [{ when: { op: 'equals', reading: { device: own, key: 'iris' }, to: 17 }, show: 'active' }],
        },
      },
    };
    const there = madeFor(level, own, 'dev-X', devices);
    expect(there.shifts?.s1).toEqual({
      responses: { tap: [{ device: 'dev-X', command: 'xRecall', params: { xPreset: { value: 'preset' } } }] },
      lamps: [{ when: { op: 'equals', reading: { device: 'dev-X', key: 'xIris' }, to: 170 }, show: 'active' }],
    });
    for (const data of [level, ...controls.map((control) => control.data)])
      expect(madeFor(madeFor(data, own, 'dev-X', devices), 'dev-X', own, devices)).toEqual(data);
  });

  it('is about the other camera under its names, and back again as it was', () => {
    const sent = new Set<string>();
    let shown = 0;
    for (const { id, data } of controls) {
      const { shifts: _, ...plain } = data;
      const there = drivingOther(plain, own, 'dev-X', devices);
      const text = JSON.stringify(there);
      expect([id, text.includes(`"${own}"`)]).toEqual([id, false]);
      for (const [, command] of text.matchAll(/"command":"(x[A-Za-z]+)"/g)) if (command) sent.add(command);
      if (/"key":"x[A-Z]/.test(text)) shown += 1;
      // Nothing is barred: it has everything.
      expect([id, there.lamps.length]).toEqual([id, plain.lamps.length]);
      expect(drivingOther(there, 'dev-X', own, devices)).toEqual(plain);
    }
    expect([sent.size > 4, shown > 3, controls.length > 8]).toEqual([true, true, true]);
  });
});
