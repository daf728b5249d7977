import { describe, expect, it } from 'vitest';
import type { Scalar } from '../result';
import { compileDriver } from './compile';
import { encodeCommand } from './encode';

const document = (value: object, step: object, more: object = {}) => ({
  format: 1,
  id: 'steps',
  version: 1,
  title: 'Steps',
  role: 'audio',
  link: { kind: 'tcp', port: 4000 },
  framing: { kind: 'lines', ending: 'lf' },
  commands: {
    go: {
      title: 'Go',
      says: 'Go',
      params: {
        strip: { title: 'Strip', value: { type: 'whole', min: 1, max: 8 }, default: 1 },
        by: { title: 'By', value: { type: 'whole' }, default: 2 },
        level: { title: 'Level', value, step: { from: 'level', ...step } },
      },
      send: 'GO {strip} {level}',
    },
  },
  readings: {
    level: { title: 'Level', value },
    'strip[].level': { title: 'Level', value, index: { title: 'Strip', from: 1, to: 8 } },
  },
  replies: [{ match: '^L (?P<level>.*)$', set: { level: '{level}' } }],
  ...more,
});

function go(
  source: object,
  now: Readonly<Record<string, Scalar>>,
  given: Readonly<Record<string, Scalar>> = {},
): string {
  const driver = compileDriver(source);
  if (!driver.ok) return driver.error.map(({ path, message }) => `${path}: ${message}`).join(' ');
  const encoded = encodeCommand(driver.value, 'go', given, { readingNow: (key) => now[key] });
  return encoded.ok ? encoded.value.text : encoded.error.message;
}

const level = { type: 'decimal', min: -60, max: 10 };
const speed = {
  type: 'choice',
  choices: ['slow', 'normal', 'fast'].map((value) => ({ value, title: value })),
};

describe('a step from a reading', () => {
  it.each([
    ['up', level, { by: 3 }, -20, 'GO 1 -17'],
    ['down, without the dust of decimals', level, { by: -0.1 }, 0.3, 'GO 1 0.2'],
    ['to the end of the range', level, { by: 30 }, -5, 'GO 1 10'],
    ['past the end to the other one', level, { by: 30, wrap: true }, -5, 'GO 1 -60'],
    ['by a parameter', level, { by: { param: 'by' } }, 1, 'GO 1 3'],
    ['to the next of a few', speed, {}, 'normal', 'GO 1 fast'],
    ['to the first again', speed, { wrap: true }, 'fast', 'GO 1 slow'],
    ['no further than the last', speed, {}, 'fast', 'GO 1 fast'],
    ['to the first from a value that is none of them', speed, {}, 'broken', 'GO 1 slow'],
    ['over', { type: 'onOff', on: '1', off: '0' }, {}, true, 'GO 1 0'],
  ])('goes %s', (_, value, step, now, sent) => {
    expect(go(document(value, step), { level: now })).toBe(sent);
  });

  it('begins at the member that another parameter names', () => {
    const source = document(level, { from: 'strip[].level', index: 'strip', by: 1 });
    expect(go(source, { 'strip[4].level': 5 }, { strip: 4 })).toBe('GO 4 6');
    expect(go(source, { 'strip[4].level': 5 }, { strip: 5 })).toBe(
      'Level cannot be stepped: what it is now is not known.',
    );
  });

  it('gives way to a value that is given', () => {
    expect(go(document(level, { by: 3 }), {}, { level: -1 })).toBe('GO 1 -1');
  });

  it.each([
    [document(level, { from: 'gain' }), 'commands.go.params.level.step.from: There is no reading “gain”.'],
    [document({ type: 'text' }, {}), 'commands.go.params.level.step: A value of the type “text” has no steps.'],
    [
      document(level, { from: 'strip[].level' }),
      'commands.go.params.level.step.index: A family needs the parameter that says which member, and only a family has one.',
    ],
    [
      document(level, { by: { param: 'far' } }),
      'commands.go.params.level.step: The step rests on “far”, which must be a parameter before it.',
    ],
  ])('is refused where it cannot work', (source, said) => {
    expect(go(source, {})).toBe(said);
  });
});
