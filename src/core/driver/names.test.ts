import { describe, expect, it } from 'vitest';
import { viscaOverIp } from '../../drivers/visca';
import { checkNewDriver } from './check-new';
import { compileDriver } from './compile';
import { commandText } from './sentence';
import { namedValues, valueText, valueWithUnit } from './values';

const camera = (options: Record<string, string>) => {
  const driver = compileDriver(viscaOverIp, { options });
  if (!driver.ok) throw new Error('The driver does not compile.');
  return driver.value.document;
};
const iris = (options: Record<string, string>) => camera(options).readings.iris?.value;

describe('what the steps of a protocol are called', () => {
  it('is as the option of the device lists it, in readings and in sentences', () => {
    const listed = { irisNames: 'closed, F22 ,F19,, F13' };
    expect([0, 1, 2, 3, 4, 5].map((step) => valueText(iris(listed), step))).toEqual([
      'closed',
      'F22',
      'F19',
      // One without a name, and one beyond the list.
      '3',
      'F13',
      '5',
    ]);
    expect(commandText(camera(listed), 'iris', { step: 2 })).toBe('Iris to F19');
  });

  it('is the number where nothing is listed', () => {
    expect(valueText(iris({}), 4)).toBe('4');
    expect(valueText(iris({ irisNames: '  ' }), 4)).toBe('4');
    expect(namedValues(iris({}) ?? { type: 'whole' })).toEqual([]);
  });

  it('counts from the least value, ends at the greatest, and takes the place of the unit', () => {
    const shape = { type: 'whole', min: 3, max: 5, unit: 'steps', names: ['a', 'b', 'c', 'd'] } as const;
    expect(namedValues({ ...shape, names: [...shape.names] })).toEqual([
      { value: 3, title: 'a' },
      { value: 4, title: 'b' },
      { value: 5, title: 'c' },
    ]);
    expect(valueWithUnit({ ...shape, names: ['a', ''] }, 3)).toBe('a');
    expect(valueWithUnit({ ...shape, names: ['a', ''] }, 4)).toBe('4 steps');
  });

  it('is found wrong where there is no such option', () => {
    const document = {
      format: 1,
      id: 'a-lens',
      version: 1,
      title: 'A lens',
      role: 'camera',
      link: { kind: 'tcp', port: 4000 },
      framing: { kind: 'lines', ending: 'cr' },
      commands: {},
      options: { count: { title: 'Count', value: { type: 'whole' }, default: 1 } },
      readings: { iris: { title: 'Iris', value: { type: 'whole', names: { option: 'list' } } } },
      replies: [{ match: '^I(?P<iris>.)$', set: { iris: '{iris}' } }],
    };
    const problems = (names: unknown) => {
      const value = { type: 'whole', min: 0, max: 9, names };
      const checked = checkNewDriver({ ...document, readings: { iris: { title: 'Iris', value } } });
      return checked.ok ? [] : checked.error.map(({ path, message }) => [path, message]);
    };
    expect(problems({ option: 'list' })).toEqual([
      ['readings.iris.value.names', 'There is no option “list” that is a text.'],
    ]);
    expect(problems({ option: 'count' })).toHaveLength(1);
    expect(problems(['closed', 'open'])).toEqual([]);
  });
});
