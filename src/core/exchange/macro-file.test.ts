import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { deviceRecord, done, macroRecord, pageRecord } from '../../../test/support/records';
import { macrosOf } from '../macro';
import type { MacroDoes, ShowRecord } from '../show';
import { guessMacroPatch, importMacrosEdit, macroFileOf, macroFileText, readMacroFile } from '.';

const step = (id: string, does: MacroDoes) => ({ id, at: 0, does });
const take: MacroDoes = {
  is: 'send',
  send: {
    device: 'dev-SW1',
    command: 'take',
    params: { input: { cel: 'r0 + 1', readings: [{ device: 'dev-R1', key: 'clip' }] } },
  },
};
const records: ShowRecord[] = [
  deviceRecord('SW1'),
  deviceRecord('R1'),
  deviceRecord('C1'),
  pageRecord('page-race', 'Race'),
  macroRecord('outer', [
    {
      steps: [
        step('a', take),
        step('b', { is: 'macro', macro: 'inner', params: {} }),
        step('c', { is: 'page', page: 'page-race' }),
      ],
    },
  ]),
  macroRecord('inner', [
    { steps: [step('a', { is: 'send', send: { device: 'dev-C1', command: 'home', params: {} } })] },
  ]),
  macroRecord('other', [{ steps: [step('a', take)] }]),
];
const outer = macrosOf(records).filter(({ id }) => id === 'outer');
const file = macroFileOf(records, outer);
const there: ShowRecord[] = [
  deviceRecord('SW1', { host: '10.0.0.9' }),
  deviceRecord('C7'),
  pageRecord('page-x', 'Race'),
];
let count = 0;
const newId = (kind: string) => `${kind}-${(count += 1)}`;

describe('macros as a file', () => {
  it('have with them what they begin and what they name, and no address', () => {
    expect(file.macros.map(({ id, data }) => [id, data.name])).toEqual([
      ['m1', 'outer'],
      ['m2', 'inner'],
    ]);
    expect(file.devices.map(({ id, tag }) => [id, tag])).toEqual([
      ['d1', 'C1'],
      ['d2', 'R1'],
      ['d3', 'SW1'],
    ]);
    expect(file.pages).toEqual([{ id: 'p1', name: 'Race' }]);
    expect(macroFileText(file)).not.toMatch(/127\.0\.0\.1|10\.0/);
    expect(readMacroFile(macroFileText(file))).toEqual({ ok: true, value: file });
  });

  it('come into another show with its devices, pages and macros', () => {
    const patch = guessMacroPatch(file.devices, there);
    expect(patch.get('d3')).toBe('dev-SW1');
    const made = importMacrosEdit(there, file, new Map([...patch, ['d1', 'dev-C7']]), newId);
    if (!made.ok) throw new Error(made.error);
    const after = macrosOf(done(there, made.value.edit));
    const [first, second] = after;
    expect(after.map(({ data }) => data.name)).toEqual(['outer', 'inner']);
    const [a, b, c] = first?.data.segments[0]?.steps ?? [];
    expect(a?.does).toMatchObject({ send: { device: 'dev-SW1', params: { input: { readings: [{ device: 'd2' }] } } } });
    expect(b?.does).toMatchObject({ macro: second?.id });
    expect(c?.does).toMatchObject({ page: 'page-x' });
    expect(second?.data.segments[0]?.steps[0]?.does).toMatchObject({ send: { device: 'dev-C7' } });
    expect(made.value.macros).toEqual(after.map(({ id }) => id));
  });

  it('that are there already do not come twice; a taken name gets a number', () => {
    const same = importMacrosEdit(records, file, guessMacroPatch(file.devices, records), newId);
    expect(same).toEqual({ ok: false, error: 'All macros of this file are in the show already.' });
    const changed = records.map((each) =>
      each.id === 'inner' && each.kind === 'macro' ? { ...each, data: { ...each.data, note: 'changed' } } : each,
    );
    const made = importMacrosEdit(changed, file, guessMacroPatch(file.devices, changed), newId);
    expect(made.ok && macrosOf(done(changed, made.value.edit)).map(({ data }) => data.name)).toEqual(
      expect.arrayContaining(['outer 2', 'inner 2']),
    );
  });

  it.each([
    ['no JSON', '{', 'This is not JSON'],
    ['pages', '{"format":"sorrelfinch-pages","version":2}', 'not macros'],
    ['a newer version', '{"format":"sorrelfinch-macros","version":9}', 'newer version'],
    ['no macros', '{"format":"sorrelfinch-macros","version":1,"devices":[],"pages":[],"macros":[]}', '>=1'],
  ])('a file with %s is refused', (_, text, message) => {
    const read = readMacroFile(text);
    expect(read.ok ? '' : read.error[0]?.message).toContain(message);
  });

  it('whatever is in a file, reading it never throws', () => {
    fc.assert(fc.property(fc.jsonValue(), (value) => void readMacroFile(JSON.stringify(value))));
  });
});
