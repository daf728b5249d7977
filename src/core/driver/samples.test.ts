import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { shippedDrivers } from '../../drivers';
import visionSwitcher from '../../drivers/vision-switcher.json';
import { toHex } from '../wire';
import { checkNewDriver } from './check-new';
import { compileDriver, parseDriver } from './compile';
import { sampleFrom, sampleProblems } from './samples';

const utf8 = new TextEncoder();
const parsed = (input: unknown) => {
  const document = parseDriver(input);
  if (!document.ok) throw new Error(JSON.stringify(document.error));
  return document.value;
};
const shipped = shippedDrivers.map(parsed);
const problemsOf = (...samples: readonly object[]) =>
  sampleProblems(parsed({ ...visionSwitcher, samples })).map(({ path, message }) => `${path}: ${message}`);

describe('the samples', () => {
  it.each(shipped.map((document) => [document.id, document] as const))('of %s mean what they say', (_id, document) => {
    expect(sampleProblems(document)).toEqual([]);
  });

  it('are in every driver that ships and is not made for any device', () => {
    const without = shipped.filter(({ samples }) => samples.length === 0);
    expect(without.map(({ id }) => id)).toEqual([]);
  });

  it('fail when the document reads or sends something else, and say what', () => {
    expect(
      problemsOf(
        { heard: 'NOW program 3\\r\\n', gives: { program: 4 } },
        { heard: 'NOW program 3\\r\\n', gives: { preview: 3 } },
        { heard: 'NOW program 99\\r\\n', gives: { program: 99 } },
        { heard: 'DONE\\r\\n', is: 'refused' },
        { heard: 'FAIL 4 no\\r\\n', is: 'refused', code: '5' },
        { heard: 'NOW program 3\\r\\n' },
        { heard: 'a\\q', is: 'nothing' },
        { heard: { hex: '4E4' }, is: 'nothing' },
        { command: 'take', params: { input: 3 }, sends: 'TAKE 4\\r\\n' },
        { command: 'take', params: { input: 300 }, sends: 'TAKE 3\\r\\n' },
        { command: 'nothing', sends: 'X' },
        { command: 'take', params: { input: 3 }, options: { colour: 'red' }, sends: 'TAKE 3\\r\\n' },
      ),
    ).toEqual([
      'samples.0.gives.program: The document reads 3 here, not 4.',
      'samples.1.gives.preview: The document reads program 3 here, not 3.',
      'samples.2.gives.program: The document reads nothing here, not 99.',
      'samples.3.is: The document reads this as accepted, not as refused.',
      'samples.4.code: The document reads the code 4 here, not 5.',
      'samples.5: Say what it means: which readings it gives, or whether it is accepted or refused.',
      'samples.6.heard: Character 2: Unknown escape. Known are \\r \\n \\t \\0 \\\\ and \\xHH.',
      'samples.7.heard: Character 4: A byte has two digits: the second one is missing.',
      'samples.8.sends: The document sends TAKE 3\\r\\n here.',
      expect.stringMatching(/^samples\.9\.params\.input: Input /),
      expect.stringMatching(/^samples\.10\.command: /),
    ]);
  });

  it('keep a document from being installed until they pass', () => {
    const wrong = { ...visionSwitcher, samples: [{ heard: 'NOW program 3\\r\\n', gives: { program: 4 } }] };
    const checked = checkNewDriver(wrong);
    expect(!checked.ok && checked.error.map(({ path }) => path)).toContain('samples.0.gives.program');
    // What was installed before goes on working.
    expect(compileDriver(wrong).ok).toBe(true);
  });
});

describe('a sample that is made from a frame', () => {
  const compiled = compileDriver(visionSwitcher);
  if (!compiled.ok) throw new Error('The driver does not compile.');
  const from = (text: string, to?: string) => sampleFrom(compiled.value, toHex(utf8.encode(text)), to);

  it('is what the driver reads in it, and passes', () => {
    expect(from('NOW program 3\r\n')).toEqual({ heard: 'NOW program 3\\r\\n', gives: { program: 3 } });
    expect(from('DONE\r\n', 'take')).toEqual({ heard: 'DONE\\r\\n', to: 'take', gives: {}, is: 'accepted' });
    expect(from('')).toBeUndefined();
    let withReadings = 0;
    fc.assert(
      fc.property(
        fc.oneof(
          fc.integer({ min: 0, max: 20 }).map((n) => `NOW program ${n}\r\n`),
          fc.string({ maxLength: 30 }).map((text) => `NOW name 1 ${text}\r\n`),
          fc.string({ minLength: 1, maxLength: 30 }),
        ),
        (text) => {
          const sample = from(text);
          if (!sample) return true;
          if ('gives' in sample && Object.keys(sample.gives).length > 0) withReadings += 1;
          const problems = sampleProblems(parsed({ ...visionSwitcher, samples: [sample] }));
          // What is at fault in the bytes is said; nothing that the driver reads in them differs.
          return problems.every(({ path }) => path === 'samples.0.heard');
        },
      ),
    );
    expect(withReadings).toBeGreaterThan(20);
  });
});
