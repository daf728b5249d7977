import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Scalar } from '../result';
import { ownDocumentOf, recordSchema, variableOrders, type ShowRecord, type VariableValue } from '../show';
import { compileParsed } from '../driver';
import { changed, firstValue, fitting, newVariableEdit, usualValue, variablesOf } from '.';

const number = (more: Partial<Extract<VariableValue, { type: 'number' }>> = {}): VariableValue => ({
  type: 'number',
  min: 1,
  max: 6,
  step: 1,
  decimals: 0,
  unit: '',
  initial: 1,
  ...more,
});
const choice: VariableValue = { type: 'choice', choices: ['heat', 'semi-final', 'final'], initial: 'heat' };

const anyVariable: fc.Arbitrary<VariableValue> = fc.oneof(
  fc.record({
    type: fc.constant('number' as const),
    min: fc.integer({ min: -20, max: 0 }),
    max: fc.integer({ min: 1, max: 20 }),
    step: fc.constantFrom(0.5, 1, 3, 7),
    decimals: fc.constantFrom(0, 1, 2),
    unit: fc.constant(''),
    wraps: fc.constantFrom(true as const, undefined),
    initial: fc.constant(0),
  }) as fc.Arbitrary<VariableValue>,
  fc.constant(choice),
  fc.constant<VariableValue>({ type: 'onOff', initial: true }),
  fc.constant<VariableValue>({ type: 'text', initial: 'none' }),
);

describe('a variable', () => {
  it.each<[string, VariableValue, Scalar, Parameters<typeof changed>[2], Scalar | undefined, Scalar | string]>([
    ['is set', number(), 1, 'set', 4, 4],
    ['counts up', number(), 1, 'step', 1, 2],
    ['stops at its end', number(), 6, 'step', 1, 6],
    ['stops at its beginning', number(), 2, 'step', -5, 1],
    ['goes on at the other end', number({ wraps: true }), 6, 'step', 1, 1],
    ['goes back to the other end', number({ wraps: true }), 1, 'step', -1, 6],
    ['counts by its own step', number({ step: 0.5, decimals: 1 }), 1, 'step', 3, 2.5],
    ['steps through its choices, round', choice, 'final', 'step', 1, 'heat'],
    ['is switched', { type: 'onOff', initial: false }, false, 'switch', undefined, true],
    ['is reset', number({ initial: 3 }), 5, 'reset', undefined, 3],
  ])('%s', (_name, variable, now, verb, given, wanted) => {
    expect(changed(variable, now, verb, given)).toEqual({ ok: true, value: wanted });
  });

  it.each([
    ['a number beyond its range', number(), 7, 'must be from 1 to 6'],
    ['a text for a number', number(), '2', 'must be a number'],
    ['a choice that is not one', choice, 'repechage', 'must be one of heat, semi-final, final'],
    ['a text that is too long', { type: 'text', initial: '' } as const, 'x'.repeat(201), '200 characters'],
  ])('refuses %s', (_name, variable, given, said) => {
    const result = fitting(variable, given);
    expect(result.ok).toBe(false);
    expect(!result.ok && result.error).toContain(said);
  });

  it('always holds a value that it can hold, whatever is done to it', () => {
    const verb = fc.constantFrom('set', 'step', 'switch', 'reset') as fc.Arbitrary<Parameters<typeof changed>[2]>;
    const given = fc.oneof(fc.integer({ min: -30, max: 30 }), fc.string(), fc.boolean(), fc.double());
    let refused = 0;
    let moved = 0;
    fc.assert(
      fc.property(anyVariable, fc.array(fc.tuple(verb, given), { maxLength: 20 }), (variable, orders) => {
        let now = firstValue(variable, undefined);
        for (const [what, value] of orders) {
          const next = changed(variable, now, what, value);
          if (!next.ok) refused += 1;
          // What makes no sense for its type is not offered for it.
          else if (what !== 'switch' || variable.type === 'onOff') {
            if (next.value !== now) moved += 1;
            now = next.value;
          }
          expect(fitting(variable, now)).toEqual({ ok: true, value: now });
        }
      }),
    );
    expect(refused).toBeGreaterThan(50);
    expect(moved).toBeGreaterThan(50);
  });

  it('has its initial value again where what was kept no longer fits', () => {
    expect(firstValue(number({ initial: 2 }), 9)).toBe(2);
    expect(firstValue(choice, 'repechage')).toBe('heat');
    expect(firstValue(choice, 'final')).toBe('final');
  });
});

describe('the variables of a show', () => {
  const added = (names: readonly string[]): ShowRecord[] => {
    let n = 0;
    return names.reduce<ShowRecord[]>((records, name) => {
      const edit = newVariableEdit(records, () => `var-${(n += 1)}`, { name, value: usualValue('number') });
      return [...records, ...edit.changes.flatMap((change) => (change.op === 'add' ? [change.record] : []))];
    }, []);
  };

  it('have a key made of their name, each another', () => {
    const records = added(['Lap number', 'Länge', 'lap Number', '12', 'Über 3 Bahnen']);
    expect(variablesOf(records).map(({ data }) => data.key)).toEqual([
      'lapNumber',
      'lange',
      'lapNumber2',
      'value',
      'uber3Bahnen',
    ]);
    for (const record of records) expect(recordSchema.safeParse(record).success).toBe(true);
  });

  it('are readings and commands of the program itself', () => {
    const records = added(['Lap']);
    const document = ownDocumentOf(records);
    expect(document.readings['variable.lap']?.title).toBe('Lap');
    expect(Object.keys(document.commands)).toEqual(expect.arrayContaining(['setLap', 'stepLap', 'resetLap']));
    expect(compileParsed(document).ok).toBe(true);
    expect(variableOrders(variablesOf(records)).get('stepLap')).toEqual({ verb: 'step', variable: 'var-1' });
    expect(ownDocumentOf(records)).toBe(document);
    expect(ownDocumentOf(added(['Round']))).not.toBe(document);
  });
});
