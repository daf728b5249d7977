import { describe, expect, it } from 'vitest';
import { compiled } from '../../../test/support/records';
import visionSwitcher from '../../drivers/vision-switcher.json';
import { conditionSchema, startOf, type Condition, type ControlRecord, type ReadingTest } from '../show';
import {
  addRule,
  asKind,
  changeRule,
  conditionKinds,
  kindOf,
  moveRule,
  opsFor,
  removeRule,
  setWhen,
  shownCondition,
  tiedCondition,
  withOp,
} from './rule-edits';
import { conditionText, ruleText } from './rule-text';

const switcher = compiled(visionSwitcher).document;
type Data = ControlRecord['data'];
const place = { page: 'p', type: 'button', col: 0, row: 0, cols: 1, rows: 1 } as const;
const take: Data = { ...place, ...startOf(switcher, 'sw', 'take') };
const test = (key: string, to: number | boolean): ReadingTest => ({ op: 'equals', reading: { device: 'sw', key }, to });
const start = test('program', 1);

describe('rules', () => {
  it('are added, worded, moved and taken away one by one', () => {
    const more = addRule(take, { when: test('preview', 1), show: 'next' });
    expect(more.lamps[1]).toEqual({
      when: { op: 'equals', reading: { device: 'sw', key: 'preview' }, to: { value: 'input' } },
      show: 'next',
    });
    const worded = changeRule(more, 1, { word: 'READY' });
    expect(worded.lamps[1]?.word).toBe('READY');
    expect(changeRule(worded, 1, { show: 'warning' }).lamps[1]).not.toHaveProperty('word');
    expect(changeRule(worded, 1, { word: '' }).lamps[1]).not.toHaveProperty('word');
    expect(moveRule(more, 1, -1).lamps).toEqual([more.lamps[1], more.lamps[0]]);
    expect(moveRule(more, 1, 1)).toBe(more);
    expect(removeRule(more, 0).lamps).toEqual([more.lamps[1]]);
  });

  it('that would do nothing stay as they were', () => {
    const barred = changeRule(take, 0, { bars: true });
    expect(changeRule(barred, 0, { show: undefined }).lamps[0]).toEqual({ when: take.lamps[0]?.when, bars: true });
    expect(changeRule(take, 0, { show: undefined })).toBe(take);
  });

  it('about the member that the control is about follow it', () => {
    const key: Data = { ...place, ...startOf(switcher, 'sw', 'key', { key: 2 }) };
    const about = addRule(key, { when: test('key[2].on', true), show: 'active' });
    const when = about.lamps.at(-1)?.when;
    expect(when).toMatchObject({ reading: { key: 'key[$key].on' }, to: true });
    expect(when && shownCondition(when, about)).toEqual(test('key[2].on', true));
  });

  it('of several parts are tied in every part', () => {
    const all: Condition = { all: [test('preview', 1), { not: test('program', 1) }] };
    expect(setWhen(take, 0, all).lamps[0]?.when).toEqual(tiedCondition(all, take));
    expect(shownCondition(tiedCondition(all, take), take)).toEqual(all);
  });
});

describe('a condition of another kind', () => {
  it('can be made from every kind, is one that can be stored, and comes back to its first test', () => {
    for (const one of conditionKinds) {
      const made = asKind(test('preview', 2), one, start);
      expect([kindOf(made), conditionSchema.safeParse(made).success]).toEqual([one, true]);
      for (const other of conditionKinds) {
        const next = asKind(made, other, start);
        expect([kindOf(next), conditionSchema.safeParse(next).success]).toEqual([other, true]);
      }
      expect(asKind(made, 'reading', start)).toEqual(one === 'typed' ? start : test('preview', 2));
    }
  });

  it('keeps its parts where it has some', () => {
    const all: Condition = { all: [test('preview', 2), test('program', 3)] };
    expect(asKind(all, 'any', start)).toEqual({ any: all.all });
    expect(asKind({ lasting: all, forMs: 500 }, 'not', start)).toEqual({ not: all });
  });

  it('can be put to every test that its reading offers', () => {
    const shape = switcher.readings.program?.value;
    for (const op of opsFor(shape)) expect(conditionSchema.safeParse(withOp(start, op, 1)).success).toBe(true);
    const range = withOp(start, 'within', 1);
    expect(withOp(range, 'oneOf', 1)).toMatchObject({ op: 'oneOf', to: [1, 1] });
    expect(withOp(withOp(start, 'changed', 7), 'equals', 7)).toMatchObject({ to: 7 });
    expect(opsFor(switcher.readings['input[].name']?.value)).toContain('contains');
  });
});

describe('in words', () => {
  const sources = { documentOf: () => switcher, tagOf: () => 'SW1' };
  it.each<[Condition, string]>([
    [test('program', 3), 'SW1 Program input is 3'],
    [{ op: 'within', reading: start.reading, from: 2, to: 4 }, 'SW1 Program input is in the range 2 to 4'],
    [{ op: 'oneOf', reading: start.reading, to: [2, 4] }, 'SW1 Program input is one of 2, 4'],
    [{ op: 'changed', reading: start.reading, withinMs: 1500 }, 'SW1 Program input has changed within 1.5 s'],
    [
      { any: [{ all: [test('program', 1), test('preview', 2)] }, { not: test('program', 3) }] },
      '(SW1 Program input is 1 and SW1 Preview input is 2) or not (SW1 Program input is 3)',
    ],
    [{ lasting: test('program', 3), forMs: 2000 }, 'SW1 Program input is 3 for at least 2 s'],
    [{ cel: 'r0 > 3', readings: [start.reading] }, 'SW1.program > 3'],
  ])('%j is “%s”', (when, text) => {
    expect(conditionText(when, {}, sources)).toBe(text);
  });

  it('a rule says what it does', () => {
    const rule = {
      when: start,
      show: 'warning',
      blink: true,
      word: 'LATE',
      label: [{ text: 'Stop' }],
      bars: true,
    } as const;
    expect(ruleText({ ...rule, label: [...rule.label] }, {}, sources)).toBe(
      'LATE, blinking, reads “Stop”, barred when SW1 Program input is 1',
    );
  });
});
