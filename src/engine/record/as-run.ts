import type { Worker } from 'node:worker_threads';
import { randomBytes } from 'node:crypto';
import { classOfRow, keptAsRun, mostOnScreen, type Aim, type AsRunRow, type RowsView } from '../../core/live';
import type { AsRunData, AsRunNews, AsRunOrder } from './as-run-worker';
import type { Scalar } from '../../core/result';
import { DiskReserve } from './disk-reserve';
import { Journal } from './journal';
import { noLog, type Log } from '../../log';
import { startWorker } from '../threads/worker-file';

type Unnumbered<Row> = Row extends unknown ? Omit<Row, 'n' | 'at'> : never;
export type AsRunEntry = Unnumbered<AsRunRow>;
type Timed = AsRunEntry & { readonly at: number };

/** A row and the same as text: made when it is entered, so that a batch has nothing left to do that takes time. */
interface Waiting {
  readonly entry: Timed;
  readonly text: string;
  /** Its key in the journal, where it is in there. */
  readonly key: string | undefined;
}

const batchMs = 250;
/** The most rows in one batch: a batch must not delay a press that comes at the same moment. */
const batchRows = 25;
const retryMs = 2000;
const openWithinMs = 15_000;
const maxWaiting = 20_000;

/**
 * The record of what was pressed, sent, confirmed and changed. Rows are numbered here, kept for the screens, and handed
 * in batches to the worker that writes them. When that fails the engine goes on, and says so.
 */
export class AsRun {
  private rows: readonly AsRunRow[] = [];
  /** Entered since the last batch, with their times; numbered when the batch is made up. */
  private waiting: Waiting[] = [];
  /** Handed to the worker and not yet said to be written: sent again when the worker has to be started anew. */
  private inFlight: { readonly n: number; readonly text: string; readonly pressed: boolean }[] = [];
  private numbered = false;
  private nextN = 1;
  private worker: Worker | undefined;
  private batch: NodeJS.Timeout | undefined;
  private restart: NodeJS.Timeout | undefined;
  private readonly lastReadings = new Map<string, Timed & { kind: 'reading' }>();
  private readonly recordedValues = new Map<string, Scalar>();
  private readonly listeners: ((entry: AsRunEntry) => void)[] = [];
  private stopped = false;
  private isRecording = false;
  private beyond = 0;
  private why: string | undefined;
  private aside: string | undefined;
  private openedWith: (aim: Aim | undefined) => void = () => undefined;
  /** Resolves when the record is open or cannot be opened, with the aim of the last run where that is known. */
  readonly opened = new Promise<Aim | undefined>((resolve) => (this.openedWith = resolve));
  private readonly journal: Journal;
  private readonly journalId = `${Date.now().toString(36)}-${randomBytes(3).toString('hex')}`;

  /** @param onRows told of each batch of new rows, for the screens; @param onRecording when writing starts or fails */
  constructor(
    private readonly dataDir: string,
    private readonly onRows: (rows: readonly AsRunRow[]) => void,
    private readonly onRecording: (recording: boolean) => void,
    reserve = new DiskReserve(dataDir),
    private readonly log: Log = noLog,
    /** The name of a reading and its value as people read it, by the device's tag. */
    private readonly inWords: (
      device: string,
      key: string,
      value: Scalar,
    ) => { readonly name?: string; readonly shown?: string } = () => ({}),
  ) {
    this.journal = new Journal(dataDir, this.journalId, reserve);
  }

  /** The listener hears of every row that is entered. It must be quick, and not throw. */
  listen(listener: (entry: AsRunEntry) => void): void {
    this.listeners.push(listener);
  }

  /** Rows that are not said to be written yet. */
  get rowsWaiting(): number {
    return this.waiting.length + this.inFlight.length;
  }

  /** Why nothing is written, as a sentence. */
  get failure(): string | undefined {
    return this.isRecording ? undefined : this.why;
  }

  /** Outcomes of presses cannot be kept over a crash. */
  get isJournalFailing(): boolean {
    return this.journal.isFailing;
  }

  /** What a damaged record was renamed to at this start, if it was. */
  get setAside(): string | undefined {
    return this.aside;
  }

  /** How many rows are beyond what the record keeps and wait for somebody to let them go. */
  get rowsBeyond(): number {
    return this.beyond;
  }

  /** Lets the rows go that are beyond what the record keeps. */
  prune(): void {
    this.order({ type: 'prune' });
  }

  get recording(): boolean {
    return this.isRecording;
  }

  get view(): RowsView<AsRunRow> {
    return { rows: this.rows };
  }

  start(): void {
    void this.open().then(this.openedWith);
  }

  /**
   * Opens the record. Resolves with the aim of the last run, or without it when the record cannot be opened: at once when
   * that fails, after a long while when it hangs. A slow computer is waited for: an engine that comes back must not send
   * what was to be dry.
   */
  private open(): Promise<Aim | undefined> {
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

  /**
   * Enters a row. What was pressed is in the journal when this returns, so that it can be shown. Readings are thinned: the last value of each
   * within a batch, and only where it has changed.
   *
   * @param at when it happened, in milliseconds since 1970
   */
  record(entry: AsRunEntry, at = Date.now()): void {
    for (const listener of this.listeners) listener(entry);
    const timed = { ...entry, at };
    if (timed.kind === 'reading') this.lastReadings.set(`${timed.device} ${timed.key}`, timed);
    else this.wait(timed);
    this.batch ??= setTimeout(() => this.flush(), batchMs);
  }

  keepAim(aim: Aim): void {
    this.order({ type: 'aim', aim });
  }

  /** Writes what is left and ends the worker. */
  async stop(): Promise<void> {
    this.stopped = true;
    this.openedWith(undefined);
    clearTimeout(this.restart);
    do {
      clearTimeout(this.batch);
      this.flush();
    } while (this.waiting.length > 0 && this.numbered);
    clearTimeout(this.batch);
    const { worker } = this;
    if (!worker) return this.journal.close();
    const gone = new Promise<void>((resolve) => void worker.once('exit', () => resolve()));
    this.order({ type: 'close' });
    const deadline = setTimeout(() => void worker.terminate(), 2000);
    await gone;
    clearTimeout(deadline);
    this.journal.close();
  }

  private wait(entry: Timed): void {
    const text = JSON.stringify(entry);
    this.waiting.push({ entry, text, key: isPressRow(entry) ? this.journal.append(text) : undefined });
  }

  private flush(): void {
    this.batch = undefined;
    // Before the worker has opened the record nobody knows which number comes next.
    if (!this.numbered) return;
    for (const [id, entry] of this.lastReadings) {
      if (this.recordedValues.get(id) !== entry.value)
        this.wait({ ...entry, ...this.inWords(entry.device, entry.key, entry.value) });
      this.recordedValues.set(id, entry.value);
    }
    this.lastReadings.clear();
    const entries = this.waiting.sort((a, b) => a.entry.at - b.entry.at).splice(0, batchRows);
    this.waiting = withinLimit(this.waiting, ({ entry }) => isPressRow(entry));
    if (this.waiting.length > 0) this.batch = setTimeout(() => this.flush(), 5);
    if (entries.length === 0) return;
    const firstN = this.nextN;
    const rows = entries.map(({ entry }) => ({ ...entry, n: this.nextN++ }) as AsRunRow);
    this.rows = keptAsRun([...this.rows, ...rows]);
    this.onRows(rows);
    // What is not yet said to be written stays here.
    const texts = entries.map(({ entry, text, key }, i) => {
      const n = firstN + i;
      const numbered = `${key === undefined ? '{' : `{"entry":"${key}",`}"n":${n},${text.slice(1)}`;
      return { n, text: numbered, pressed: isPressRow(entry) };
    });
    this.inFlight = withinLimit([...this.inFlight, ...texts], ({ pressed }) => pressed);
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
    const worker = startWorker('as-run-worker', {
      dataDir: this.dataDir,
      keep: mostOnScreen,
      journalId: this.journalId,
    } satisfies AsRunData);
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
          this.journal.isWritten(news.upTo, this.nextN - 1 + this.waiting.length);
          return this.setRecording(true);
        case 'beyond':
          this.beyond = news.rows;
          return;
        case 'aside':
          this.aside = news.file;
          return this.record({
            kind: 'note',
            text: `The record was damaged: it was renamed to ${news.file}, and a new one begins here.`,
          });
        case 'failed':
          this.why = news.message;
          if (this.isRecording) this.log.error(`The as-run cannot be written: ${news.message}`);
          this.setRecording(false);
          // A full disk may get room again.
          clearTimeout(this.restart);
          this.restart = setTimeout(() => this.sendAgain(), retryMs);
          return;
      }
    });
    worker.on('error', (cause) => {
      this.log.error({ cause }, 'The thread that writes the as-run has failed.');
      this.setRecording(false);
    });
    worker.on('exit', (code) => {
      if (!this.stopped) this.log.error({ code }, 'The thread that writes the as-run has ended; it is started again.');
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

const isPressRow = (entry: AsRunEntry): boolean => classOfRow(entry) === 'press';

/** The newest of what waits, where it is too much: what was pressed goes last. */
function withinLimit<T>(waiting: T[], isPress: (each: T) => boolean): T[] {
  let over = waiting.length - maxWaiting;
  if (over <= 0) return waiting;
  const left = waiting.filter((each) => isPress(each) || over-- <= 0);
  return left.slice(-maxWaiting);
}
