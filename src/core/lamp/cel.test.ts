import { describe, expect, it } from 'vitest';
import { compiled } from '../../../test/support/records';
import visionSwitcher from '../../drivers/vision-switcher.json';
import { checkCel, formatCel, readCel } from '.';

const byTag = (tag: string) => ({ SW1: 'dev-1', E1: 'dev-2' })[tag];
const values = { input: 3 };
const read = (typed: string) => readCel(typed, byTag, values);

describe('a typed condition', () => {
  it('names devices by tag, and is stored by id', () => {
    expect(read('SW1.program == 3 && !E1.stream')).toEqual({
      ok: true,
      value: {
        cel: 'r0 == 3 && !r1',
        readings: [
          { device: 'dev-1', key: 'program' },
          { device: 'dev-2', key: 'stream' },
        ],
      },
    });
  });

  it.each([
    'SW1.program == 3',
    'SW1.input[3].name == "SW1.program" || SW1.input[3].name.contains("r0")',
    'SW1.input[input].name != "x" && input > 2.0',
    'SW1.program in [1, 2, 3] ? E1.stream : !E1.stream',
    'size(SW1.input[3].name) > 4',
  ])('comes back as it was typed: %s', (typed) => {
    const stored = read(typed);
    if (!stored.ok) throw new Error(stored.error.message);
    const tagOf = (id: string) => ({ 'dev-1': 'SW1', 'dev-2': 'E1' })[id];
    expect(formatCel(stored.value, tagOf)).toBe(typed);
    // Under another tag it is still about the same.
    const renamed = formatCel(stored.value, (id) => (id === 'dev-1' ? 'MIX' : tagOf(id)));
    expect(renamed).toContain('MIX.');
    const again = readCel(renamed, (tag) => (tag === 'MIX' ? 'dev-1' : byTag(tag)), values);
    expect(again.ok && again.value).toEqual(stored.value);
  });

  it('with a member that goes with a value of the control keeps going with it', () => {
    const stored = read('SW1.input[input].name == "x"');
    expect(stored.ok && stored.value.readings).toEqual([{ device: 'dev-1', key: 'input[$input].name' }]);
  });

  it.each([
    ['SW1.program ==', 14, 'The expression is not finished.'],
    ['SW1.program == 3 && C9.zoom > 2', 20, 'There is no device with the tag “C9”.'],
    ['true && SW1', 8, 'Which reading of SW1?'],
    ['other > 2', 0, 'There is no device with the tag “other”.'],
  ])('that is wrong is refused at the place: %s', (typed, offset, message) => {
    expect(read(typed)).toEqual({ ok: false, error: { offset, message } });
  });

  it('that nobody could have typed does not throw', () => {
    for (const typed of ['', '((((', '"', '1 +', 'SW1.', 'SW1..x', '['.repeat(500), '!'.repeat(500)])
      expect(read(typed).ok).toBe(false);
  });
});

describe('its types', () => {
  const document = compiled(visionSwitcher).document;
  const check = (typed: string) => {
    const stored = read(typed);
    return stored.ok ? checkCel(stored.value, values, () => document) : stored.error.message;
  };
  it.each([
    ['SW1.program == 3', undefined],
    ['SW1.input[3].name.startsWith("Fin")', undefined],
    ['SW1.program > input', undefined],
    ['SW1.program + 1 > input', undefined],
    ['SW1.program == input', undefined],
    ['SW1.program == "three"', 'These types cannot be combined: int == string.'],
    ['SW1.input[3].name > 3', 'These types cannot be combined: string > int.'],
    ['SW1.program', 'The result must be true or false.'],
  ])('%s: %s', (typed, message) => {
    expect(check(typed)).toBe(message);
  });
});
