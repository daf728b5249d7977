import { parentPort } from 'node:worker_threads';
import { classOfRow, keptInRecord, type AsRunRow } from '../../core/live';
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
} from '../../store';
import { runInBackground } from '../threads/background';
import { leftJournals } from './journal';
import { serveWorker } from '../threads/serve-worker';

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

export interface AsRunData {
  readonly dataDir: string;
  /** How many of the newest rows the engine gets at the start. */
  readonly keep: number;
  /** Of this start's journal, which is not replayed. */
  readonly journalId: string;
}

const pruneEveryRows = 2000;
const tell = (news: AsRunNews) => parentPort?.postMessage(news);

class AsRunWriter {
  private opened: ReturnType<typeof openAsRun>;
  private sincePruned = 0;
  private beyond = 0;

  constructor(private readonly data: AsRunData) {
    this.opened = this.openOrSetAside();
    for (const { text, remove } of leftJournals(data.dataDir, data.journalId)) {
      replayJournal(this.opened.db, text);
      remove();
    }
    const { db } = this.opened;
    tell({ type: 'ready', newest: newestAsRun(db, data.keep), aim: readEngineState(db, 'aim') });
    // Only now: the engine waits for the opening, and for nothing after it.
    runInBackground();
    this.prune(false);
  }

  handle(order: AsRunOrder): void {
    try {
      switch (order.type) {
        case 'rows': {
          const rows = order.lines.split('\n').map(textOf);
          writeAsRun(this.opened.db, rows);
          this.sincePruned += rows.length;
          if (this.sincePruned > pruneEveryRows) this.prune(false);
          return tell({ type: 'written', upTo: rows.at(-1)?.n ?? 0 });
        }
        case 'prune':
          return this.prune(true);
        case 'aim':
          return writeEngineState(this.opened.db, 'aim', order.aim);
        case 'close':
          this.opened.close();
          return process.exit(0);
      }
    } catch (error) {
      if (error instanceof StoreError && error.code === 'damaged') this.beginAnew();
      tell({
        type: 'failed',
        message: error instanceof StoreError ? error.message : 'The as-run could not be written.',
      });
    }
  }

  /** Opens the record. One that is damaged is kept under another name, and a new one begun: what is pressed now must not be lost for it. */
  private openOrSetAside(): ReturnType<typeof openAsRun> {
    const { dataDir } = this.data;
    try {
      return openAsRun(dataDir);
    } catch (error) {
      if (!(error instanceof StoreError) || error.code !== 'damaged') throw error;
      tell({ type: 'aside', file: setAside(dataDir, 'as-run.db', Date.now()) });
      return openAsRun(dataDir);
    }
  }

  /** Starts a new record after the present one turned out to be damaged. The engine hands the unwritten rows over again. */
  private beginAnew(): void {
    const { dataDir } = this.data;
    try {
      this.opened.close();
    } catch {
      // It is damaged: nothing more can be done with it.
    }
    tell({ type: 'aside', file: setAside(dataDir, 'as-run.db', Date.now()) });
    this.opened = openAsRun(dataDir);
  }

  private prune(confirmed: boolean): void {
    this.sincePruned = 0;
    const { waiting } = pruneAsRun(this.opened.db, keptInRecord, confirmed);
    if (waiting !== this.beyond) tell({ type: 'beyond', rows: waiting });
    this.beyond = waiting;
  }
}

serveWorker<AsRunData, AsRunOrder>((data) => {
  const writer = new AsRunWriter(data);
  return (order) => writer.handle(order);
});

/** Reads a row as the engine hands it over. The key of a journaled row comes first in the line and is stored in a column of its own. */
function textOf(line: string): AsRunText {
  const entry = /^\{"entry":"([^"]+)",/.exec(line)?.[1];
  const row = entry === undefined ? line : `{${line.slice(`{"entry":"${entry}",`.length)}`;
  const parsed = JSON.parse(row) as AsRunRow;
  const { n, at, kind } = parsed;
  return { n, at, kind, class: classOfRow(parsed), row, ...(entry === undefined ? {} : { entry }) };
}
