import { and, asc, desc, gt, gte, lt, lte, sql, type SQL } from 'drizzle-orm';
import { fitsFilter, type AsRunFilter, type AsRunRow } from '../core/live';
import { asRun } from './as-run-schema';
import type { AsRunDb } from './open';

/** Part of the record, newest first, and where to look on. */
interface AsRunPart {
  readonly rows: readonly AsRunRow[];
  /** The number of the row before which nothing has been looked at; `undefined` when the beginning is reached. */
  readonly before: number | undefined;
  /** How many rows were looked through for it. */
  readonly looked: number;
}

/** How many rows one statement looks at. */
const stepRows = 10_000;

/**
 * Looks back through the record for rows that fit. It stops when it has enough or its time is up, and says where to go on: so that a
 * search through a million rows shows what it has found so far and can be ended at any time.
 */
export function searchAsRun(
  db: AsRunDb,
  filter: AsRunFilter,
  {
    before,
    limit,
    budgetMs,
  }: { readonly before: number | undefined; readonly limit: number; readonly budgetMs: number },
): AsRunPart {
  const endAt = performance.now() + budgetMs;
  const rows: AsRunRow[] = [];
  let at = before ?? newest(db) + 1;
  const oldest = oldestOf(db);
  let looked = 0;
  const hints = hintsOf(filter);
  while (at > oldest && rows.length < limit && (looked === 0 || performance.now() < endAt)) {
    const from = Math.max(oldest, at - stepRows);
    const found = db
      .select({ row: asRun.row, n: asRun.n })
      .from(asRun)
      .where(and(gte(asRun.n, from), lt(asRun.n, at), ...hints))
      .orderBy(desc(asRun.n))
      .all();
    looked += at - from;
    at = from;
    for (const { row, n } of found) {
      const parsed = JSON.parse(row) as AsRunRow;
      if (!fitsFilter(parsed, filter)) continue;
      rows.push(parsed);
      if (rows.length < limit) continue;
      // What lies between here and the end of the step is looked at next time.
      looked -= n - at;
      at = n;
      break;
    }
  }
  return { rows, before: at > oldest ? at : undefined, looked };
}

/** The record from its beginning, piece by piece, for an export. */
export function* readAsRun(
  db: AsRunDb,
  filter: AsRunFilter,
): Generator<readonly { readonly row: AsRunRow; readonly text: string }[]> {
  const hints = hintsOf(filter);
  for (let after = oldestOf(db) - 1; ;) {
    const found = db
      .select({ row: asRun.row, n: asRun.n })
      .from(asRun)
      .where(and(gt(asRun.n, after), ...hints))
      .orderBy(asc(asRun.n))
      .limit(1000)
      .all();
    if (found.length === 0) return;
    after = found.at(-1)?.n ?? after;
    yield found.flatMap(({ row: text }) => {
      const row = JSON.parse(text) as AsRunRow;
      return fitsFilter(row, filter) ? [{ row, text }] : [];
    });
  }
}

/** What the database can leave out by itself. It is coarser than the filter, never finer: `fitsFilter` decides. */
function hintsOf({ kind, device, who, outcome, control, text, from, to }: AsRunFilter): SQL[] {
  const contains = (part: string) => sql`instr(lower(${asRun.row}), ${part.toLowerCase()}) > 0`;
  // In the stored text quotes and backslashes are written with an escape.
  const quoted = (part: string) => JSON.stringify(part).slice(1, -1);
  return [
    ...(kind === 'link' || kind === 'reading' || kind === 'press' ? [sql`${asRun.kind} = ${kind}`] : []),
    ...(from === undefined ? [] : [gte(asRun.at, from)]),
    ...(to === undefined ? [] : [lte(asRun.at, to)]),
    ...(device ? [contains(`"device":"${quoted(device)}"`)] : []),
    ...[who, control].flatMap((part) => (part && isPlain(part) ? [contains(quoted(part))] : [])),
    ...(outcome && /^(confirmed|sent|late|refused|lost|skipped)$/.test(outcome) ? [contains(`"${outcome}"`)] : []),
    // What people read is put together from what is stored, with blanks and points between: only single words are looked for.
    ...(text ?? '')
      .split(/[\s·]+/)
      .filter((part) => part !== '' && isPlain(part))
      .map(contains),
  ];
}

/** Letters that the database compares as this program does. */
const isPlain = (text: string): boolean => /^[\x20\x21\x23-\x5b\x5d-\x7e]*$/.test(text);
const newest = (db: AsRunDb): number =>
  db
    .select({ n: sql<number | null>`max(${asRun.n})` })
    .from(asRun)
    .get()?.n ?? 0;
const oldestOf = (db: AsRunDb): number =>
  db
    .select({ n: sql<number | null>`min(${asRun.n})` })
    .from(asRun)
    .get()?.n ?? 1;
