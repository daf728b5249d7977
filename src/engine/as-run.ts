import type { Worker } from 'node:worker_threads';
import { keptRows, type Aim, type AsRunRow, type RowsView } from '../core/live';
import type { AsRunNews, AsRunOrder } from './as-run-worker';
import type { Scalar } from '../core/result';
import { startWorker } from './worker-file';

type Unnumbered<Row> = Row extends unknown ? Omit<Row, 'n' | 'at'> : never;
export type AsRunEntry = Unnumbered<AsRunRow>;
type Timed = AsRunEntry & { readonly at: number };

/** A row and the same as text: made when it is entered, so that a batch has nothing left to do that takes time. */
interface Waiting {
  readonly entry: Timed;
  readonly text: string;
}
const waitingOf = (entry: Timed): Waiting => ({ entry, text: JSON.stringify(entry) });

const batchMs = 250;
/** So many rows at the most in one go: a batch must not be felt by a press that comes at the same moment. */
const batchRows = 100;
const retryMs = 2000;
const openWithinMs = 15_000;
const maxWaiting = 20_000;

/**
 * The record of what was pressed, sent, confirmed and changed. Rows are numbered here, kept for the screens, and handed
 * in batches to the worker that writes them. When that fails the engine goes on, and says so.
 */
export class AsRun {
  private rows: AsRunRow[] = [];
  /** Entered since the last batch, with their times; numbered when the batch is made up. */
  private waiting: Waiting[] = [];
  /** Handed to the worker and not yet said to be written: sent again when the worker has to be started anew. */
  private inFlight: { readonly n: number; readonly text: string }[] = [];
  private numbered = false;
  private nextN = 1;
  private worker: Worker | undefined;
  private batch: NodeJS.Timeout | undefined;
  private restart: NodeJS.Timeout | undefined;
  private readonly lastReadings = new Map<string, Timed & { kind: 'reading' }>();
  private readonly recordedValues = new Map<string, Scalar>();
  private stopped = false;
  private isRecording = false;

  /** @param onRows told of each batch of new rows, for the screens; @param onRecording when writing starts or fails */
  constructor(
    private readonly dataDir: string,
    private readonly onRows: (rows: readonly AsRunRow[]) => void,
    private readonly onRecording: (recording: boolean) => void,
  ) {}

  get recording(): boolean {
    return this.isRecording;
  }

  get view(): RowsView<AsRunRow> {
    return { rows: this.rows };
  }

  /**
   * Opens the record. Resolves with the aim of the last run, or without it when the record cannot be opened: at once when
   * that fails, after a long while when it hangs. A slow computer is waited for: an engine that comes back must not send
   * what was to be dry.
   */
  open(): Promise<Aim | undefined> {
    return new Promise((resolve) => {
      const answer = (aim?: string) => {
        clearTimeout(giveUp);
        resolve(aim === 'dry' || aim === 'live' || aim === 'rehearse' ? aim : undefined);
      };
      const giveUp = setTimeout(answer, openWithinMs);
      this.startWorker(answer);
      this.worker?.once('exit', () => answer());
    });
  }

  /** Enters a row. Readings are thinned: the last value of each within a batch, and only where it is another. */
  record(entry: AsRunEntry): void {
    const timed = { ...entry, at: Date.now() };
    if (timed.kind === 'reading') this.lastReadings.set(`${timed.device} ${timed.key}`, timed);
    else this.waiting.push(waitingOf(timed));
    this.batch ??= setTimeout(() => this.flush(), batchMs);
  }

  keepAim(aim: Aim): void {
    this.order({ type: 'aim', aim });
  }

  /** Writes what is left and ends the worker. */
  async close(): Promise<void> {
    this.stopped = true;
    clearTimeout(this.restart);
    do {
      clearTimeout(this.batch);
      this.flush();
    } while (this.waiting.length > 0 && this.numbered);
    clearTimeout(this.batch);
    const { worker } = this;
    if (!worker) return;
    const gone = new Promise<void>((resolve) => void worker.once('exit', () => resolve()));
    this.order({ type: 'close' });
    const deadline = setTimeout(() => void worker.terminate(), 2000);
    await gone;
    clearTimeout(deadline);
  }

  private flush(): void {
    this.batch = undefined;
    // Before the worker has opened the record nobody knows which number comes next.
    if (!this.numbered) return;
    for (const [id, entry] of this.lastReadings) {
      if (this.recordedValues.get(id) !== entry.value) this.waiting.push(waitingOf(entry));
      this.recordedValues.set(id, entry.value);
    }
    this.lastReadings.clear();
    const entries = this.waiting.sort((a, b) => a.entry.at - b.entry.at).splice(0, batchRows);
    if (this.waiting.length > maxWaiting) this.waiting.splice(0, this.waiting.length - maxWaiting);
    if (this.waiting.length > 0) this.batch = setTimeout(() => this.flush(), 5);
    if (entries.length === 0) return;
    const firstN = this.nextN;
    const rows = entries.map(({ entry }) => ({ ...entry, n: this.nextN++ }) as AsRunRow);
    this.rows = [...this.rows, ...rows].slice(-keptRows['as-run']);
    this.onRows(rows);
    // What is not yet said to be written stays here.
    const texts = entries.map(({ text }, i) => ({ n: firstN + i, text: `{"n":${firstN + i},${text.slice(1)}` }));
    this.inFlight.push(...texts);
    if (this.inFlight.length > maxWaiting) this.inFlight.splice(0, this.inFlight.length - maxWaiting);
    if (this.isRecording) this.orderRows(texts);
  }

  /** Hands everything over that is not yet written: a worker was started anew, or writing failed a while ago. */
  private sendAgain(): void {
    if (this.inFlight.length > 0) this.orderRows(this.inFlight);
  }

  /** One text costs less to hand to another thread than many objects would. */
  private orderRows(rows: readonly { readonly text: string }[]): void {
    this.order({ type: 'rows', lines: rows.map(({ text }) => text).join('\n') });
  }

  private order(order: AsRunOrder): void {
    this.worker?.postMessage(order);
  }

  private startWorker(onReady?: (aim: string | undefined) => void): void {
    const worker = startWorker('as-run-worker', { dataDir: this.dataDir, keep: keptRows['as-run'] });
    this.worker = worker;
    worker.on('message', (news: AsRunNews) => {
      switch (news.type) {
        case 'ready': {
          const known = news.newest.at(-1)?.n ?? 0;
          if (!this.numbered) {
            this.numbered = true;
            this.rows = [...news.newest];
            this.nextN = known + 1;
            this.batch ??= setTimeout(() => this.flush(), batchMs);
          }
          this.setRecording(true);
          this.inFlight = this.inFlight.filter((row) => row.n > known);
          this.sendAgain();
          return onReady?.(news.aim);
        }
        case 'written':
          this.inFlight = this.inFlight.filter((row) => row.n > news.upTo);
          return this.setRecording(true);
        case 'failed':
          this.setRecording(false);
          // A full disk may get room again.
          clearTimeout(this.restart);
          this.restart = setTimeout(() => this.sendAgain(), retryMs);
          return;
      }
    });
    worker.on('error', () => this.setRecording(false));
    worker.on('exit', () => {
      this.worker = undefined;
      this.setRecording(false);
      if (!this.stopped) this.restart = setTimeout(() => this.startWorker(onReady), retryMs);
    });
  }

  private setRecording(recording: boolean): void {
    if (recording === this.isRecording || (this.stopped && recording)) return;
    this.isRecording = recording;
    this.onRecording(recording);
  }
}
