import { describe, expect, it } from 'vitest';
import { compiled, controlRecord, deviceRecord } from '../../../test/support/records';
import visionSwitcher from '../../drivers/vision-switcher.json';
import type { ReadingsView } from '../live';
import { firstTest, readingsToChoose, startValue, type ReadingChoices } from './reading-choice';

const document = compiled(visionSwitcher).document;
const device = deviceRecord('SW1');
const heard: ReadingsView = {
  'input[10].name': { value: 'Boxes', freshness: 'fresh' },
  'input[2].name': { value: 'Mid-course', freshness: 'fresh' },
};
const choices: ReadingChoices = {
  devices: [device],
  documentOf: (id) => (id === device.id ? document : undefined),
  readings: new Map([[device.id, heard]]),
};

describe('the readings to choose from', () => {
  it('are the single ones, then the members that were heard of, in the order of their numbers', () => {
    const keys = readingsToChoose(choices, device, '').map(({ key }) => key);
    expect(keys).toContain('program');
    expect(keys.slice(-2)).toEqual(['input[2].name', 'input[10].name']);
    expect(keys.some((key) => key.includes('[]'))).toBe(false);
  });

  it('keep the one that is chosen, heard of or not', () => {
    expect(readingsToChoose(choices, device, 'key[3].on').map(({ key }) => key)).toContain('key[3].on');
  });
});

it('a test begins with a value that its reading can have', () => {
  expect(startValue(document, 'mixing', 4)).toBe(true);
  expect(startValue(document, 'mixing', false)).toBe(false);
  expect(startValue(document, 'black', 'on')).toBe('on');
  expect(startValue(document, 'black', 9)).toBe('off');
  expect(startValue(document, 'program', 'x')).toBe(1);
  expect(startValue(document, 'input[2].name', 3)).toBe('');
  const test = firstTest(choices, device.id, controlRecord('c', { values: { input: 7 } }).data);
  expect(test).toMatchObject({ op: 'equals', reading: { device: device.id, key: 'program' }, to: 7 });
  expect(firstTest(choices, 'nobody', controlRecord('c').data)).toBeUndefined();
});
