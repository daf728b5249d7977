import type { Worker } from 'node:worker_threads';
import type { LookOrder, PictureNews, PictureOrder, ShowData, ShowNews } from './show-worker';
import { noLog, type Log } from '../../log';
import { startWorker } from '../threads/worker-file';

/** How long to wait for a picture. */
const pictureTimeoutMs = 5000;

type Picture = NonNullable<PictureNews['picture']>;

/** Where the engine gets the running show from: a worker that reads show.db and hands over what has changed. */
export class ShowFeed {
  private worker: Worker;
  private again: NodeJS.Timeout | undefined;
  private stopped = false;
  private readonly asked = new Map<number, (picture: Picture | undefined) => void>();
  private asks = 0;
  /** Who waits for which look. */
  private readonly looks = new Map<number, () => void>();

  constructor(
    private readonly dataDir: string,
    private readonly drivers: readonly unknown[],
    /** What it returns settles when the news is taken over. */
    private readonly onNews: (news: ShowNews) => Promise<void>,
    private readonly log: Log = noLog,
  ) {
    this.worker = this.start();
  }

  /** Something was edited, put in service or taken back: look what. Resolves when the engine has it, or cannot get it now. */
  look(): Promise<void> {
    const look = (this.asks += 1);
    return new Promise((resolve) => {
      this.looks.set(look, resolve);
      this.worker.postMessage({ look } satisfies LookOrder);
    });
  }

  /** A picture of the show by its hash; `undefined` when there is none, or none came in time. */
  picture(hash: string): Promise<Picture | undefined> {
    const ask = (this.asks += 1);
    return new Promise((resolve) => {
      const timer = setTimeout(() => answer(undefined), pictureTimeoutMs);
      const answer = (picture: Picture | undefined) => {
        clearTimeout(timer);
        this.asked.delete(ask);
        resolve(picture);
      };
      this.asked.set(ask, answer);
      this.worker.postMessage({ picture: hash, ask } satisfies PictureOrder);
    });
  }

  async close(): Promise<void> {
    this.stopped = true;
    clearTimeout(this.again);
    for (const answer of [...this.asked.values()]) answer(undefined);
    this.release();
    await this.worker.terminate();
  }

  private start(): Worker {
    const worker = startWorker('show-worker', { dataDir: this.dataDir, drivers: this.drivers } satisfies ShowData);
    worker.on('message', (news: ShowNews | PictureNews) => {
      if (news.type === 'picture') return this.asked.get(news.ask)?.(news.picture);
      const taken = this.onNews(news);
      if (news.type === 'settled' || news.type === 'failed') void taken.then(() => this.endLook(news.ask));
      // The database may not be there yet, or be busy: the running show stays as it is meanwhile.
      if (news.type === 'failed' && !this.stopped) this.again = setTimeout(() => void this.look(), 1000);
    });
    worker.on('error', (cause) => {
      this.log.error({ cause }, 'The thread that reads the show has failed.');
      void this.onNews({ type: 'failed', ask: 0, message: String(cause) });
    });
    worker.on('exit', (code) => {
      if (!this.stopped) this.log.error({ code }, 'The thread that reads the show has ended; it is started again.');
      this.release();
      if (this.stopped) return;
      // A new worker starts from nothing and hands everything over; what has not changed changes nothing.
      this.again = setTimeout(() => {
        this.worker = this.start();
        // This worker answers the requests made while there was none.
        for (const look of this.looks.keys()) this.worker.postMessage({ look } satisfies LookOrder);
        void this.look();
      }, 1000);
    });
    return worker;
  }

  private endLook(look: number): void {
    this.looks.get(look)?.();
    this.looks.delete(look);
  }

  private release(): void {
    for (const look of [...this.looks.keys()]) this.endLook(look);
  }
}
