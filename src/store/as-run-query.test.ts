import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import fc from 'fast-check';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { classOfRow, everything, fitsFilter, type AsRunFilter, type AsRunRow } from '../core/live';
import { readAsRun, searchAsRun } from './as-run-query';
import { writeAsRun } from './as-run';
import { openAsRun, type AsRunDb, type Opened } from './open';

const count = 25_000;
const tags = ['SW1', 'C1', 'R1'];
const labels = ['Cut', 'Über "quoted" \\ back', 'Start stream'];
const outcomes = ['confirmed', 'refused', 'lost', 'late'] as const;

function rowOf(n: number): AsRunRow {
  const at = 1_000_000 + n * 10;
  const device = tags[n % tags.length] ?? '';
  if (n % 5 === 0)
    return { n, at, kind: 'link', device, link: { word: n % 2 ? 'up' : 'down', cause: 'refused' } } as AsRunRow;
  if (n % 7 === 0) return { n, at, kind: 'reading', device, key: 'program', value: n % 12 };
  if (n % 1000 === 1) return { n, at, kind: 'note', text: `Refused: a needle ${n}.` };
  const outcome = outcomes[n % outcomes.length] ?? 'sent';
  return {
    n,
    at,
    kind: 'press',
    press: `press-${n}`,
    who: `panel ${n % 3}`,
    page: 'Race',
    label: labels[n % labels.length] ?? '',
    aim: 'live',
    outcome,
    ms: n % 100,
    sends: [{ device, command: 'Take', text: `TAKE ${n % 9}`, outcome, ms: n % 100, bytes: '54414b45' }],
  };
}

let opened: Opened<AsRunDb>;
let dir: string;
const rows = Array.from({ length: count }, (_, n) => rowOf(n + 1));
beforeAll(() => {
  dir = mkdtempSync(join(tmpdir(), 'sorrelfinch-as-run-'));
  opened = openAsRun(dir);
  writeAsRun(
    opened.db,
    rows.map((row) => ({ n: row.n, at: row.at, kind: row.kind, class: classOfRow(row), row: JSON.stringify(row) })),
  );
});
afterAll(() => {
  opened.close();
  rmSync(dir, { recursive: true, force: true });
});

/** Looks through everything, however many answers that takes. */
function searched(filter: AsRunFilter, limit = 200, budgetMs = 1000) {
  const found: AsRunRow[] = [];
  let looked = 0;
  for (let before: number | undefined; ;) {
    const part = searchAsRun(opened.db, filter, { before, limit, budgetMs });
    found.push(...part.rows);
    looked += part.looked;
    before = part.before;
    if (before === undefined) return { found, looked };
  }
}

describe('the whole record', () => {
  it.each<[string, Partial<AsRunFilter>]>([
    ['everything', {}],
    ['presses of a device', { kind: 'press', device: 'R1' }],
    ['a control with letters that are written otherwise in what is stored', { control: 'über "QUOTED" \\' }],
    ['who', { who: 'PANEL 2' }],
    ['an outcome', { outcome: 'refused' }],
    ['a word of a note', { text: 'needle' }],
    ['words as the list shows them', { text: 'Race · Cut' }],
    ['a time', { from: 1_050_000, to: 1_060_000 }],
    ['trouble on a link', { kind: 'link', trouble: true }],
    ['nothing', { text: 'no such thing anywhere' }],
  ])('is found again: %s', (_name, part) => {
    const filter = { ...everything, ...part };
    const { found, looked } = searched(filter);
    const wanted = rows.filter((row) => fitsFilter(row, filter)).reverse();
    expect(found.map(({ n }) => n)).toEqual(wanted.map(({ n }) => n));
    expect(looked).toBe(count);
  });

  it('is looked through in pieces of any size, and nothing is left out or told twice', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 700 }), fc.constantFrom(...outcomes), (limit, outcome) => {
        const filter = { ...everything, outcome, from: 1_200_000 };
        const { found } = searched(filter, limit, 0);
        expect(found.map(({ n }) => n)).toEqual(
          rows
            .filter((row) => fitsFilter(row, filter))
            .map(({ n }) => n)
            .reverse(),
        );
      }),
      { numRuns: 12 },
    );
  });

  it('is read from its beginning for an export', () => {
    const filter = { ...everything, device: 'C1' };
    const numbers = [...readAsRun(opened.db, filter)].flat().map(({ row }) => row.n);
    expect(numbers).toEqual(rows.filter((row) => fitsFilter(row, filter)).map(({ n }) => n));
  });
});
