import { parentPort, workerData } from 'node:worker_threads';
import { classOfRow, keptInRecord, type AsRunRow } from '../core/live';
import {
  newestAsRun,
  openAsRun,
  pruneAsRun,
  readEngineState,
  replayJournal,
  setAside,
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
  /** Somebody has confirmed that all rows beyond the limits may be deleted. */
  | { readonly type: 'prune' }
  | { readonly type: 'close' };

export type AsRunNews =
  | { readonly type: 'ready'; readonly newest: readonly AsRunRow[]; readonly aim: string | undefined }
  | { readonly type: 'written'; readonly upTo: number }
  /** This many rows are beyond the limits: too many to delete without a confirmation. */
  | { readonly type: 'beyond'; readonly rows: number }
  /** The record was damaged: it has this name now, and a new one was begun. */
  | { readonly type: 'aside'; readonly file: string }
  | { readonly type: 'failed'; readonly message: string };

const pruneEveryRows = 2000;
const { dataDir, keep, journalId } = workerData as { dataDir: string; keep: number; journalId: string };
const tell = (news: AsRunNews) => parentPort?.postMessage(news);

let { db, close } = openOrSetAside();
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
    if (error instanceof StoreError && error.code === 'damaged') beginAnew();
    tell({ type: 'failed', message: error instanceof StoreError ? error.message : 'The as-run could not be written.' });
  }
});

/** Opens the record. One that is damaged is kept under another name, and a new one begun: what is pressed now must not be lost for it. */
function openOrSetAside(): ReturnType<typeof openAsRun> {
  try {
    return openAsRun(dataDir);
  } catch (error) {
    if (!(error instanceof StoreError) || error.code !== 'damaged') throw error;
    tell({ type: 'aside', file: setAside(dataDir, 'as-run.db', Date.now()) });
    return openAsRun(dataDir);
  }
}

/** Starts a new record after the present one turned out to be damaged. The engine hands the unwritten rows over again. */
function beginAnew(): void {
  try {
    close();
  } catch {
    // It is damaged: nothing more can be done with it.
  }
  tell({ type: 'aside', file: setAside(dataDir, 'as-run.db', Date.now()) });
  ({ db, close } = openAsRun(dataDir));
}

function prune(confirmed: boolean): void {
  sincePruned = 0;
  const { waiting } = pruneAsRun(db, keptInRecord, confirmed);
  if (waiting !== beyond) tell({ type: 'beyond', rows: waiting });
  beyond = waiting;
}

/** Reads a row as the engine hands it over. The key of a journaled row comes first in the line and is stored in a column of its own. */
function textOf(line: string): AsRunText {
  const entry = /^\{"entry":"([^"]+)",/.exec(line)?.[1];
  const row = entry === undefined ? line : `{${line.slice(`{"entry":"${entry}",`.length)}`;
  const parsed = JSON.parse(row) as AsRunRow;
  const { n, at, kind } = parsed;
  return { n, at, kind, class: classOfRow(parsed), row, ...(entry === undefined ? {} : { entry }) };
}
