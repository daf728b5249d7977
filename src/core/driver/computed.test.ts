import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Scalar } from '../result';
import { compileDriver, type CompiledDriver } from './compile';
import { computedBy, computedFrom } from './computed';
import { encodeCommand } from './encode';

const number = { type: 'whole' };
const text = { type: 'text' };

const plainLevel = { level: { title: 'Level', value: { type: 'decimal' } } };

const source = (computed: object = {}, params: object = plainLevel) => ({
  format: 1,
  id: 'sums',
  version: 1,
  title: 'Sums',
  role: 'switcher',
  link: { kind: 'tcp', port: 4000 },
  framing: { kind: 'lines', ending: 'lf' },
  commands: { go: { title: 'Go', says: 'Go', params, send: 'GO {level}' } },
  readings: {
    program: { title: 'On program', value: number },
    gain: { title: 'Gain', value: { type: 'decimal' } },
    on: { title: 'On', value: { type: 'onOff' } },
    'input[].name': { title: 'Name', value: text, index: { title: 'Input', from: 1, to: 4 } },
    'box[].source': { title: 'Source', value: number, index: { title: 'Box', from: 1, to: 2 } },
    ...computed,
  },
  replies: [
    { match: '^P (?P<n>.*)$', set: { program: '{n}' } },
    { match: '^G (?P<n>.*)$', set: { gain: '{n}' } },
    { match: '^O (?P<n>.*)$', set: { on: '{n}' } },
    { match: '^I (?P<i>.) (?P<n>.*)$', set: { 'input[{i}].name': '{n}' } },
    { match: '^B (?P<i>.) (?P<n>.*)$', set: { 'box[{i}].source': '{n}' } },
  ],
});

const problems = (document: unknown): string[] => {
  const driver = compileDriver(document);
  return driver.ok ? [] : driver.error.map(({ path, message }) => `${path}: ${message}`);
};

function compiled(document: unknown): CompiledDriver {
  const driver = compileDriver(document);
  if (!driver.ok) throw new Error(JSON.stringify(driver.error));
  return driver.value;
}

const computed = {
  programName: { title: 'Name on program', value: text, computed: 'input[program].name' },
  'box[].name': {
    title: 'Name of the source',
    value: text,
    index: { title: 'Box', from: 1, to: 2 },
    computed: 'string(index) + ": " + input[box[index].source].name',
  },
  summary: { title: 'Summary', value: text, computed: 'programName + (on ? " on" : " off")' },
  doubled: { title: 'Doubled', value: { type: 'decimal', decimals: 1 }, computed: 'gain * 2' },
  rounded: { title: 'Rounded', value: { type: 'whole', max: 20 }, computed: 'gain * 1.5' },
};
const all: Readonly<Record<string, Scalar>> = {
  program: 2,
  gain: 3.3,
  on: true,
  'input[1].name': 'Start',
  'input[2].name': 'Finish',
  'box[1].source': 2,
  'box[2].source': 1,
};

function valuesAfter(
  known: Readonly<Record<string, Scalar>>,
  driver = compiled(source(computed)),
): Record<string, Scalar> {
  const changes = Object.entries(known).map(([key, value]) => ({ key, value }));
  const made = computedBy(driver.computed, changes, () => undefined);
  return Object.fromEntries(made.changes.map(({ key, value }) => [key, value]));
}

describe('computed readings', () => {
  it('look up by another reading, put texts together, and reckon with whole and decimal numbers', () => {
    expect(valuesAfter(all)).toEqual({
      programName: 'Finish',
      'box[1].name': '1: Finish',
      'box[2].name': '2: Start',
      summary: 'Finish on',
      doubled: 6.6,
      rounded: 5,
    });
  });

  it('are unknown while a reading that they need is', () => {
    expect(valuesAfter({ program: 3, 'input[1].name': 'Start', on: false })).toEqual({});
  });

  it('become unknown when the member that they look up is not known', () => {
    const now: Readonly<Record<string, Scalar>> = { ...all, programName: 'Finish', summary: 'Finish on' };
    const made = computedBy(compiled(source(computed)).computed, [{ key: 'program', value: 4 }], (key) => now[key]);
    expect(made).toEqual({ changes: [], unknown: ['programName', 'summary'], faults: [] });
  });

  it('that do not fit their range say so and are unknown', () => {
    const made = computedBy(compiled(source(computed)).computed, [{ key: 'gain', value: 90 }], (key) => all[key]);
    expect(made.faults).toEqual(['Rounded: the computed value 135 is above the largest, 20']);
    expect(made.changes).toEqual([{ key: 'doubled', value: 180 }]);
  });

  it('begin anew with the families that they rest on', () => {
    expect(computedFrom(compiled(source(computed)).computed, ['input[].name'])).toEqual([
      'programName',
      'box[].name',
      'summary',
    ]);
  });

  it.each([
    ['an unknown reading', 'input[program].nam', 'There is no reading “input[].nam”.'],
    ['a family without a member', 'input.name', 'There is no reading “input.name”.'],
    ['an unfinished expression', 'programName +', 'The expression is not finished.'],
    [
      'a number for a text',
      'program',
      'The result is of the type “int”, but a text is needed. Write string(…) around a number.',
    ],
    ['types that do not go together', 'programName + program', 'These types cannot be combined: string + int.'],
    ['itself', 'wrong + "x"', 'There is no reading “wrong”.'],
    ['one behind it', 'later', 'There is no reading “later”.'],
  ])('are refused: %s', (_name, expression, message) => {
    const readings = {
      programName: computed.programName,
      wrong: { title: 'Wrong', value: text, computed: expression },
      later: { title: 'Later', value: text, computed: '"x"' },
    };
    expect(problems(source(readings)).join(' ')).toContain(message);
  });

  it('are refused where a reply sets them', () => {
    const both = { gain: { title: 'Gain', value: { type: 'decimal' }, computed: 'program * 2' } };
    expect(problems(source(both))).toEqual([
      'readings.gain.computed: A reply sets this reading, so it cannot be computed.',
    ]);
  });

  it('are the same after any order of reports as computed from the end state', () => {
    const driver = compiled(source(computed));
    const report = fc.oneof(
      fc.record({ key: fc.constant('program'), value: fc.integer({ min: 1, max: 4 }) }),
      fc.record({ key: fc.constant('on'), value: fc.boolean() }),
      fc.record({ key: fc.constant('gain'), value: fc.integer({ min: -30, max: 30 }) }),
      fc.record({
        key: fc.constantFrom('input[1].name', 'input[2].name', 'input[3].name'),
        value: fc.constantFrom('Start', 'Finish', 'Launch'),
      }),
      fc.record({ key: fc.constantFrom('box[1].source', 'box[2].source'), value: fc.integer({ min: 1, max: 4 }) }),
    );
    let computedRuns = 0;
    let unknownRuns = 0;
    fc.assert(
      fc.property(fc.array(fc.array(report, { maxLength: 3 }), { maxLength: 25 }), (batches) => {
        const now: Record<string, Scalar> = {};
        const plain: Record<string, Scalar> = {};
        for (const changes of batches) {
          const made = computedBy(driver.computed, changes, (key) => now[key]);
          for (const { key, value } of changes) now[key] = plain[key] = value;
          for (const { key, value } of made.changes) now[key] = value;
          for (const key of made.unknown) delete now[key];
          if (made.unknown.length > 0) unknownRuns += 1;
        }
        const expected = { ...plain, ...valuesAfter(plain, driver) };
        if (Object.keys(expected).length > Object.keys(plain).length) computedRuns += 1;
        expect(now).toEqual(expected);
      }),
      { numRuns: 300 },
    );
    expect(computedRuns).toBeGreaterThan(100);
    expect(unknownRuns).toBeGreaterThan(50);
  });
});

describe('a computed parameter', () => {
  const params = {
    strip: { title: 'Strip', value: { type: 'whole', min: 1, max: 8 }, default: 2 },
    level: { title: 'Level', value: { type: 'decimal', min: -60, max: 60 }, computed: 'gain * 2 + strip' },
  };
  const sent = (now: Readonly<Record<string, Scalar>>, given: Readonly<Record<string, Scalar>> = {}) => {
    const encoded = encodeCommand(compiled(source({}, params)), 'go', given, { readingNow: (key) => now[key] });
    return encoded.ok ? encoded.value.text : encoded.error.message;
  };

  it('reckons with readings and the parameters before it', () => {
    expect(sent({ gain: 3.5 })).toBe('GO 9');
    expect(sent({ gain: 3.5 }, { strip: 4 })).toBe('GO 11');
  });

  it('gives way to a value that is given', () => expect(sent({ gain: 3.5 }, { level: 1 })).toBe('GO 1'));

  it('says why it cannot be sent', () => {
    expect(sent({})).toBe('Level cannot be computed: a reading that it rests on is not known.');
    expect(sent({ gain: 50 })).toBe('Level: the computed value 102 is above the largest, 60.');
  });

  it('has one origin only', () => {
    const both = { level: { ...params.level, fromReading: 'gain' } };
    expect(problems(source({}, { ...params, ...both })).join()).toContain('Only one of');
  });
});
