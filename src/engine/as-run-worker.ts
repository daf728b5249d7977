import { parentPort, workerData } from 'node:worker_threads';
import { classOfRow, keptInRecord, type AsRunRow } from '../core/live';
import {
  newestAsRun,
  openAsRun,
  pruneAsRun,
  readEngineState,
  replayJournal,
  StoreError,
  type AsRunText,
  writeAsRun,
  writeEngineState,
} from '../store';
import { runInBackground } from './background';
import { leftJournals } from './journal';

/**
 * The only writer of as-run.db. It runs in a thread of its own, because a database write that waits for the disk would
 * hold the engine up.
 */

export type AsRunOrder =
  /** A row a line, as JSON. */
  | { readonly type: 'rows'; readonly lines: string }
  | { readonly type: 'aim'; readonly aim: string }
  /** A person has allowed that rows beyond the limits go, however many. */
  | { readonly type: 'prune' }
  | { readonly type: 'close' };

export type AsRunNews =
  | { readonly type: 'ready'; readonly newest: readonly AsRunRow[]; readonly aim: string | undefined }
  | { readonly type: 'written'; readonly upTo: number }
  /** So many rows are beyond the limits, more than go without somebody being asked. */
  | { readonly type: 'beyond'; readonly rows: number }
  | { readonly type: 'failed'; readonly message: string };

const pruneEveryRows = 2000;
const { dataDir, keep, journalId } = workerData as { dataDir: string; keep: number; journalId: string };
const tell = (news: AsRunNews) => parentPort?.postMessage(news);

const { db, close } = openAsRun(dataDir);
for (const { text, remove } of leftJournals(dataDir, journalId)) {
  replayJournal(db, text);
  remove();
}
tell({ type: 'ready', newest: newestAsRun(db, keep), aim: readEngineState(db, 'aim') });
// Only now: the engine waits for the opening, and for nothing after it.
runInBackground();

let sincePruned = 0;
let beyond = 0;
prune(false);

parentPort?.on('message', (order: AsRunOrder) => {
  try {
    switch (order.type) {
      case 'rows': {
        const rows = order.lines.split('\n').map(textOf);
        writeAsRun(db, rows);
        sincePruned += rows.length;
        if (sincePruned > pruneEveryRows) prune(false);
        return tell({ type: 'written', upTo: rows.at(-1)?.n ?? 0 });
      }
      case 'prune':
        return prune(true);
      case 'aim':
        return writeEngineState(db, 'aim', order.aim);
      case 'close':
        close();
        return process.exit(0);
    }
  } catch (error) {
    tell({ type: 'failed', message: error instanceof StoreError ? error.message : 'The as-run could not be written.' });
  }
});

function prune(confirmed: boolean): void {
  sincePruned = 0;
  const { waiting } = pruneAsRun(db, keptInRecord, confirmed);
  if (waiting !== beyond) tell({ type: 'beyond', rows: waiting });
  beyond = waiting;
}

/** A line that was handed over: the key of a journaled row stands before everything else and is kept beside it. */
function textOf(line: string): AsRunText {
  const entry = /^\{"entry":"([^"]+)",/.exec(line)?.[1];
  const row = entry === undefined ? line : `{${line.slice(`{"entry":"${entry}",`.length)}`;
  const parsed = JSON.parse(row) as AsRunRow;
  const { n, at, kind } = parsed;
  return { n, at, kind, class: classOfRow(parsed), row, ...(entry === undefined ? {} : { entry }) };
}
