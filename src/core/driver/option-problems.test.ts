import { describe, expect, it } from 'vitest';
import { compiled } from '../../../test/support/records';
import { shippedDrivers } from '../../drivers';
import { optionProblems } from './option-problems';

const problems = (id: string, options = {}) => {
  const source = shippedDrivers.find((each) => (each as { id: string }).id === id);
  return optionProblems(compiled(source).whole, options);
};

describe('options of a device', () => {
  it('are in order as they ship, whatever the driver', () => {
    for (const source of shippedDrivers) {
      const { whole } = compiled(source);
      // Nobody can know a hardware address beforehand.
      const told = whole.id === 'wake-on-lan' ? { hardware: 'Hardware address expects 6 bytes; this has 0.' } : {};
      expect([whole.id, optionProblems(whole, {})]).toEqual([whole.id, told]);
    }
  });

  it.each<[string, object, string, RegExp]>([
    ['generic-text-tcp', { answersEnd: 'bytes', endBytes: '3G' }, 'endBytes', /hexadecimal digits/],
    ['generic-text-tcp', { asked: 'yes', everyMs: 5000, silentAfterMs: 4000 }, 'silentAfterMs', /longer/],
    ['generic-modbus', { unit: 300 }, 'unit', /above the largest, 255/],
    ['generic-mqtt', { topics: 'stage/#/lamp' }, 'topics', /# only at the end/],
    ['generic-mqtt', { topics: 'stage/# | desk/a+/state' }, 'topics', /\+ stands for a whole level/],
    ['generic-websocket', { path: 'no slash' }, 'path', /begins with a slash/],
  ])('of %s as %o are told at the one that is wrong', (id, options, name, message) => {
    const found = problems(id, options);
    expect(Object.keys(found)).toEqual([name]);
    expect(found[name]).toMatch(message);
  });

  it('that are not asked for are not told', () => {
    expect(problems('generic-text-tcp', { answersEnd: 'any', endBytes: '3G' })).toEqual({});
  });
});
