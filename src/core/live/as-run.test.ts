import { describe, expect, it } from 'vitest';
import { asRunFilterSchema, delaysOf, filterQuery, flatRow, summaryOf, type AsRunRow } from '.';

const press = (n: number, ms: number, outcome: 'confirmed' | 'late' | 'lost' | 'skipped' = 'confirmed'): AsRunRow => ({
  n,
  at: n,
  kind: 'press',
  press: `p${n}`,
  who: 'panel 1',
  page: 'Race',
  label: 'Cut',
  aim: 'live',
  outcome,
  ms,
  sends: [{ device: 'SW1', command: 'Cut', text: 'CUT', outcome, ms, bytes: '435554' }],
});

describe('delays', () => {
  it('are those of sends whose end a device has told, summed up by nearest rank', () => {
    const rows = [
      ...Array.from({ length: 100 }, (_, n) => press(n, n + 1)),
      press(200, 900, 'late'),
      press(201, 5, 'lost'),
    ];
    const delays = delaysOf(rows);
    expect(delays).toHaveLength(101);
    expect(summaryOf(delays)).toEqual([{ device: 'SW1', count: 101, p50: 51, p95: 96, most: 900, late: 1 }]);
    expect(summaryOf([])).toEqual([]);
  });
});

describe('a row as fields', () => {
  it('has who, what, the outcome and the bytes', () => {
    expect(flatRow(press(7, 1.26), (at) => `t${at}`)).toEqual({
      n: 7,
      time: 't7',
      kind: 'press',
      who: 'panel 1',
      page: 'Race',
      what: 'Cut',
      devices: 'SW1',
      outcome: 'confirmed',
      ms: 1.3,
      sent: 'SW1 CUT',
      bytes: '435554',
      reason: '',
    });
  });
});

describe('a filter', () => {
  it('goes through an address and back', () => {
    const filter = { kind: 'press', device: 'SW1', who: 'panel & 1', trouble: true, from: 12 } as const;
    const back = asRunFilterSchema.parse(Object.fromEntries(new URLSearchParams(filterQuery(filter))));
    expect(back).toEqual(filter);
    expect(filterQuery({ kind: 'all', text: '' })).toBe('kind=all');
    expect(asRunFilterSchema.safeParse({ kind: 'other thing' }).success).toBe(false);
    expect(asRunFilterSchema.safeParse({ from: 'yesterday' }).success).toBe(false);
  });
});
