import type { DriverShelf } from '../../core/driver';
import type { Publish } from '../../core/live';
import type { Problem } from '../../core/result';
import type { DeviceRecord } from '../../core/show';
import type { ShowChange } from '../parts';
import type { Log } from '../../log';
import type { AsRun } from '../record/as-run';
import type { StatusBoard } from '../topics/status-board';
import type { TopicBook } from '../topics/topic-book';
import type { RunningShow } from './running-show';
import { ShowFeed } from './show-feed';
import type { ShowNews } from './show-worker';
import type { WarmStart } from './warm-up';

interface Sources {
  readonly dataDir: string;
  /** Driver documents. One with a mistake is left out and reported. */
  readonly drivers: readonly unknown[];
  readonly warm: WarmStart | undefined;
  readonly show: RunningShow;
  readonly shelf: DriverShelf;
  readonly asRun: AsRun;
  readonly status: StatusBoard;
  readonly publish: Publish;
  readonly topics: TopicBook;
  readonly log: Log;
}

/** A large change is taken over in pieces of this length, so that presses and questions are answered meanwhile. */
const sliceMs = 10;
/** Within this time the engine waits for its show at a start. */
const firstShowMs = 10_000;

/** Takes over what the show worker hands on: records, drivers, passwords, the revision in service. */
export class ShowIntake {
  private readonly feed: ShowFeed;
  private passwords: Readonly<Record<string, string>> = {};
  /** The drivers besides those that ship, as they were handed over. */
  private readonly driverTexts = new Map<string, string>();
  /** The number of the last edit that the engine runs with. */
  private seq = 0;
  private readonly reopenListeners: ((device: DeviceRecord) => void)[] = [];
  private readonly passwordListeners: ((inlet: string) => void)[] = [];
  private readonly settledListeners: (() => void)[] = [];
  private revision: number | null = null;
  private problems = 0;
  private locked = 0;
  /** Settles when everything that has come is taken over. */
  private taken: Promise<void> = Promise.resolve();
  private isStopped = false;
  private settled: () => void = () => undefined;
  private readonly firstSettled = new Promise<void>((resolve) => (this.settled = resolve));

  constructor(private readonly sources: Sources) {
    const { dataDir, drivers, warm, shelf } = sources;
    this.feed = new ShowFeed(dataDir, drivers, (news) => this.onNews(news), sources.log);
    if (!warm) shelf.stock(drivers);
    sources.topics.serve('head', { whole: () => ({ seq: this.seq }) });
  }

  /** Told of a device whose password or driver has changed, so that it has to be connected again. */
  onReopen(listener: (device: DeviceRecord) => void): void {
    this.reopenListeners.push(listener);
  }

  /** Told of an inlet whose password has changed. */
  onInletPassword(listener: (inlet: string) => void): void {
    this.passwordListeners.push(listener);
  }

  /** Told whenever the engine has all of a change of the show. */
  onSettled(listener: () => void): void {
    this.settledListeners.push(listener);
  }

  /** A revision runs, and edits gather as a draft. */
  get isInService(): boolean {
    return this.revision !== null;
  }

  /** How many passwords of devices cannot be opened. */
  get unreadablePasswords(): number {
    return this.locked;
  }

  readonly passwordOf = (device: string): string => this.passwords[device] ?? '';

  /** Resolves when the show runs or cannot be read, or after a while without it. Until then the door stays closed: nobody is told that a device or a page does not exist. */
  async start(): Promise<void> {
    void this.feed.look();
    let giveUp: NodeJS.Timeout | undefined;
    const waited = new Promise<void>((resolve) => (giveUp = setTimeout(resolve, firstShowMs)));
    await Promise.race([this.firstSettled, waited]);
    clearTimeout(giveUp);
  }

  async stop(): Promise<void> {
    this.isStopped = true;
    this.settled();
    await this.feed.close();
  }

  /** The show was edited, put in service or stepped back. Resolves when the engine runs with what was changed, or cannot read it now. */
  look(): Promise<void> {
    return this.feed.look();
  }

  /** A picture of the show by its hash. */
  picture(hash: string): ReturnType<ShowFeed['picture']> {
    return this.feed.picture(hash);
  }

  onShow({ kind }: ShowChange): void {
    if (kind === 'show') this.tellAbout();
  }

  /** Takes over what has come after what came before it. */
  private onNews(news: ShowNews): Promise<void> {
    this.taken = this.taken
      .then(() => this.take(news))
      .catch((cause: unknown) => this.sources.log.error({ cause }, 'A part of the show could not be taken over.'));
    return this.taken;
  }

  /** Compiling a driver and calling a device take milliseconds each, and a show that is loaded has dozens of them. */
  private async takePiece({ puts, removes }: Extract<ShowNews, { type: 'piece' }>): Promise<void> {
    const { show, shelf } = this.sources;
    let began = performance.now();
    const rest = async () => {
      if (performance.now() - began < sliceMs) return;
      await new Promise((resolve) => setImmediate(resolve));
      began = performance.now();
    };
    show.apply({ puts: [], removes });
    for (const record of puts) {
      if (record.kind === 'device') {
        shelf.for(record.data);
        await rest();
      }
      if (this.isStopped) return;
      show.apply({ puts: [record], removes: [] });
      await rest();
    }
  }

  private take(news: ShowNews): void | Promise<void> {
    switch (news.type) {
      case 'drivers':
        return this.onDrivers(news);
      case 'passwords':
        return this.onPasswords(news);
      case 'piece':
        return this.takePiece(news);
      case 'settled':
        if (news.revision !== this.revision) this.sources.asRun.record({ kind: 'service', revision: news.revision });
        this.seq = news.seq;
        this.revision = news.revision;
        this.tellAbout();
        this.sources.publish('head', { seq: news.seq });
        for (const listener of this.settledListeners) listener();
        return this.settled();
      case 'problems':
        this.problems = news.problems;
        return this.tellAbout();
      case 'failed':
        this.sources.log.error(`The show could not be read: ${news.message}`);
        // The door opens without it: the desk is needed to bring it back.
        return this.settled();
    }
  }

  private tellAbout(): void {
    const { show, status } = this.sources;
    status.set({ show: { name: show.name, revision: this.revision, problems: this.problems } });
  }

  private onPasswords({ passwords, unreadable }: Extract<ShowNews, { type: 'passwords' }>): void {
    const before = this.passwords;
    this.passwords = passwords;
    this.locked = unreadable;
    for (const device of this.sources.show.devices.values())
      if (before[device.id] !== passwords[device.id]) this.reopen(device);
    for (const { id } of this.sources.show.inlets.values())
      if (before[id] !== passwords[id]) for (const listener of this.passwordListeners) listener(id);
  }

  /** Drivers besides those that ship. One that is handed over once more as it was changes nothing. */
  private onDrivers({ documents, all }: Extract<ShowNews, { type: 'drivers' }>): void {
    const { shelf, show } = this.sources;
    const removed = [...this.driverTexts.keys()].filter((id) => !all.includes(id));
    const changed = documents.filter((document) => this.driverTexts.get(idOf(document)) !== JSON.stringify(document));
    for (const id of removed) {
      shelf.remove(id);
      this.driverTexts.delete(id);
    }
    for (const document of changed) this.driverTexts.set(idOf(document), JSON.stringify(document));
    this.logLeftOut(shelf.put(changed));
    const ids = new Set([...removed, ...changed.map(idOf)]);
    for (const device of show.devices.values()) if (ids.has(device.data.driver)) this.reopen(device);
  }

  private reopen(device: DeviceRecord): void {
    for (const listener of this.reopenListeners) listener(device);
  }

  private logLeftOut(leftOut: ReturnType<DriverShelf['put']>): void {
    for (const { id, problems } of leftOut)
      this.sources.log.warn(`The driver document “${id}” was left out: ${describe(problems)}`);
  }
}

const idOf = (document: unknown): string => String((document as { id?: unknown } | null)?.id ?? '');

const describe = (problems: readonly Problem[]): string =>
  problems.map(({ path, message }) => `${path || 'document'}: ${message}`).join('; ');
