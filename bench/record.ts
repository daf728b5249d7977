import { classOfRow, type AsRunRow } from '../src/core/live';
import { openAsRun, searchAsRun, writeAsRun } from '../src/store';
import { newFolder } from './processes';

const rows = 1_000_000;
const inOneWrite = 2000;

/** A million rows of the as-run: how long they take to be written, and how long it takes to read and to search them. */
export function measureRecord(): void {
  const { db, close } = openAsRun(newFolder());
  const from = Date.UTC(2026, 4, 1);
  let startedAt = performance.now();
  for (let n = 0; n < rows; n += inOneWrite)
    writeAsRun(
      db,
      Array.from({ length: inOneWrite }, (_, k) => rowAt(n + k + 1, from)),
    );
  const written = performance.now() - startedAt;
  const timed = (what: string, filter: Parameters<typeof searchAsRun>[1]) => {
    startedAt = performance.now();
    let before: number | undefined;
    let looked = 0;
    let found = 0;
    let firstAt = 0;
    do {
      const part = searchAsRun(db, filter, { before, limit: 200 - found, budgetMs: 300 });
      firstAt ||= performance.now() - startedAt;
      looked += part.looked;
      found += part.rows.length;
      before = part.before;
    } while (before !== undefined && found < 200);
    const whole = performance.now() - startedAt;
    console.log(
      `  ${what.padEnd(46)} ${whole.toFixed(0).padStart(6)} ms, the first part after ${firstAt.toFixed(0)} ms: ${found} rows of ${looked.toLocaleString('en')} looked at`,
    );
  };
  console.log(
    `\nAs-run of ${rows.toLocaleString('en')} rows (written at ${(rows / written).toFixed(0)} rows a millisecond)`,
  );
  timed('the newest 200', { kind: 'all' });
  timed('presses that were refused', { kind: 'press', outcome: 'refused' });
  timed('one minute in the middle', { kind: 'all', from: from + 250_000_000, to: from + 250_060_000 });
  timed('one word that occurs once, near the beginning', { kind: 'all', text: 'needle' });
  close();
}

function rowAt(n: number, from: number) {
  const at = from + n * 500;
  const row: AsRunRow =
    n % 10 !== 0
      ? { n, at, kind: 'reading', device: `T${n % 18}`, key: 'bitrate', value: n % 9000 }
      : {
          n,
          at,
          kind: 'press',
          press: `p${n}`,
          who: 'panel Race',
          page: 'Race',
          label: n === 1000 ? 'Take needle' : `Take ${n % 12}`,
          aim: 'live',
          outcome: n % 5000 === 0 ? 'refused' : 'confirmed',
          ms: n % 40,
          sends: [],
        };
  return { n, at, kind: row.kind, class: classOfRow(row), row: JSON.stringify(row) };
}
