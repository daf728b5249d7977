import { parentPort, workerData } from 'node:worker_threads';
import type { AsRunRow } from '../core/live';
import {
  newestAsRun,
  openAsRun,
  pruneAsRun,
  readEngineState,
  StoreError,
  type AsRunText,
  writeAsRun,
  writeEngineState,
} from '../store';
import { runInBackground } from './background';

/**
 * The only writer of as-run.db. It runs in a thread of its own, because a database write that waits for the disk would
 * hold the engine up.
 */

export type AsRunOrder =
  /** A row a line, as JSON. */
  | { readonly type: 'rows'; readonly lines: string }
  | { readonly type: 'aim'; readonly aim: string }
  | { readonly type: 'close' };

export type AsRunNews =
  | { readonly type: 'ready'; readonly newest: readonly AsRunRow[]; readonly aim: string | undefined }
  | { readonly type: 'written'; readonly upTo: number }
  | { readonly type: 'failed'; readonly message: string };

const retention = { maxRows: 1_000_000, maxAgeMs: 30 * 24 * 3600 * 1000 };
const { dataDir, keep } = workerData as { dataDir: string; keep: number };
const tell = (news: AsRunNews) => parentPort?.postMessage(news);

const { db, close } = openAsRun(dataDir);
pruneAsRun(db, retention, Date.now());
tell({ type: 'ready', newest: newestAsRun(db, keep), aim: readEngineState(db, 'aim') });
// Only now: the engine waits for the opening, and for nothing after it.
runInBackground();

let sincePruned = 0;

parentPort?.on('message', (order: AsRunOrder) => {
  try {
    switch (order.type) {
      case 'rows': {
        const rows = order.lines.split('\n').map(textOf);
        writeAsRun(db, rows);
        sincePruned += rows.length;
        if (sincePruned > 2000) {
          pruneAsRun(db, retention, Date.now());
          sincePruned = 0;
        }
        return tell({ type: 'written', upTo: rows.at(-1)?.n ?? 0 });
      }
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

function textOf(row: string): AsRunText {
  const { n, at, kind } = JSON.parse(row) as AsRunRow;
  return { n, at, kind, row };
}
