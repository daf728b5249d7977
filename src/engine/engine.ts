import { randomBytes } from 'node:crypto';
import { compileDriver, type CompiledDriver } from '../core/driver';
import { renderLabel } from '../core/face';
import type { Aim, DeviceStatus, HealthResponse, PressMessage, PressReport, StatusView } from '../core/live';
import type { Problem } from '../core/result';
import type { Link } from '../core/session';
import type { ControlRecord, DeviceRecord } from '../core/show';
import type { ApiSource } from './api';
import { AsRun } from './as-run';
import { DeviceSession } from './device-session';
import { Hub, type HubClient } from './hub';
import { PageContexts } from './page-contexts';
import { Presses } from './presses';
import { ReadingStore } from './readings';
import { RunningShow } from './running-show';
import { ShowFeed } from './show-feed';
import type { ShowNews } from './show-worker';
import { WireLog } from './wire-log';

export interface EngineOptions {
  readonly dataDir: string;
  /** Driver documents. One with a mistake is left out and reported. */
  readonly drivers: readonly unknown[];
  readonly log?: (message: string) => void;
  /** What the supervisor says of the processes, for the health report. */
  readonly processes?: () => HealthResponse['processes'];
  /** The address of the stand-ins' pages, where stand-ins run. */
  readonly standinPages?: string | null;
}

/** The live process's heart: sessions, readings, presses, pages and the hub, wired together. */
export class Engine {
  readonly hub: Hub;
  readonly api: ApiSource;
  private readonly show: RunningShow;
  private readonly readings: ReadingStore;
  private readonly pages: PageContexts;
  private readonly presses: Presses;
  private readonly asRun: AsRun;
  private readonly wire: WireLog;
  private readonly feed: ShowFeed;
  private readonly sessions = new Map<string, DeviceSession>();
  private readonly statuses = new Map<string, DeviceStatus>();
  private aim: Aim = 'live';
  private seq = 0;
  private revision: number | null = null;
  private problems = 0;
  private settled: () => void = () => undefined;
  private readonly firstSettled = new Promise<void>((resolve) => (this.settled = resolve));
  private stopping = false;

  constructor(private readonly options: EngineOptions) {
    this.hub = new Hub(newId(), {
      whole: (topic) => this.whole(topic),
      onUnused: (topic) => topic.startsWith('page:') && this.pages.close(topic.slice('page:'.length)),
      onMessage: (client, message) => {
        if (message.t === 'press') this.press(client, message);
        else if (message.t === 'ask') this.answerAsk(client, message.id);
        else this.setAim(client, message.aim);
      },
    });
    this.readings = new ReadingStore((device, keys) => this.onReadingsChanged(device, keys));
    this.show = new RunningShow(this.compileDrivers(), {
      onDevice: (id, now, before) => this.onDevice(id, now, before),
      onPage: (id, now, before) => {
        this.pages.onPage(id, now);
        // Who waits for a page that was not there gets it, and who looks at one that is gone is told.
        if (!now || !before) this.hub.refresh(`page:${id}`);
        this.hub.publish('status', { pages: this.pageList() });
      },
      onControl: (id, now, before) => this.pages.onControl(id, now, before),
      onShow: () => this.publishShow(),
    });
    this.pages = new PageContexts(this.show, this.readings, (page, diff) => this.hub.publish(`page:${page}`, diff));
    this.asRun = new AsRun(
      options.dataDir,
      (rows) => this.hub.publish('as-run', { rows }),
      (recording) => this.hub.publish('status', { recording }),
    );
    this.wire = new WireLog((rows) => this.hub.publish('wire', { rows }));
    this.presses = new Presses(
      this.show,
      this.sessions,
      this.asRun,
      () => this.aim,
      (control) => this.labelOf(control),
    );
    this.feed = new ShowFeed(options.dataDir, options.drivers, (news) => this.onShowNews(news));
    this.api = {
      health: () => this.health(),
      readings: (tag) => this.readingsOf(tag),
      presses: this.presses,
      hasPage: (id) => this.show.pages.has(id),
      newId,
    };
  }

  /** Opens the record and takes the show over; resolves when the show runs, or after a while without it. */
  async start(): Promise<void> {
    this.feed.look();
    const aim = await this.asRun.open();
    if (aim) this.aim = aim;
    await Promise.race([this.firstSettled, new Promise((resolve) => setTimeout(resolve, 2000).unref())]);
    if (this.stopping) return;
    this.hub.refresh('status');
  }

  /** The show was edited, put in service or stepped back. */
  onShowChanged(): void {
    this.feed.look();
  }

  async stop(): Promise<void> {
    if (this.stopping) return;
    this.stopping = true;
    await this.feed.close();
    for (const session of this.sessions.values()) session.stop();
    this.wire.stop();
    await this.asRun.close();
    this.hub.stop();
  }

  private compileDrivers(): Map<string, CompiledDriver> {
    const drivers = new Map<string, CompiledDriver>();
    for (const document of this.options.drivers) {
      const driver = compileDriver(document);
      if (driver.ok) drivers.set(driver.value.document.id, driver.value);
      else this.options.log?.(`A driver document was left out: ${describe(driver.error)}`);
    }
    return drivers;
  }

  private whole(topic: string): unknown {
    if (topic === 'status') return this.status();
    if (topic === 'head') return { seq: this.seq };
    if (topic === 'wire') return this.wire.view;
    if (topic === 'as-run') return this.asRun.view;
    const [kind, id = ''] = topic.split(':');
    if (kind === 'page') return this.pages.open(id);
    return this.show.devices.has(id) ? this.readings.view(id) : undefined;
  }

  private press(client: HubClient, message: PressMessage): void {
    this.presses.press({ ...message, who: client.name }, (report) => client.send(shortReport(report)));
  }

  private answerAsk(client: HubClient, id: string): void {
    if (this.presses.follow(id, (report) => client.send(shortReport(report)))) return;
    const reason = 'The press did not reach the engine, or the engine was restarted.';
    client.send({ t: 'press', id, outcome: 'lost', ms: 0, reason });
  }

  private setAim(client: HubClient, aim: Aim): void {
    if (client.principal.kind !== 'desk')
      return client.send({ t: 'error', message: 'Only the desk can change the aim.' });
    if (aim === this.aim) return;
    this.aim = aim;
    this.asRun.keepAim(aim);
    this.asRun.record({ kind: 'aim', aim, who: client.name });
    this.hub.publish('status', { aim });
  }

  private onShowNews(news: ShowNews): void {
    switch (news.type) {
      case 'piece':
        return this.show.apply(news);
      case 'settled':
        if (news.revision !== this.revision) this.asRun.record({ kind: 'service', revision: news.revision });
        this.seq = news.seq;
        this.revision = news.revision;
        this.problems = news.problems;
        this.publishShow();
        this.hub.publish('head', { seq: news.seq });
        return this.settled();
      case 'failed':
        return this.options.log?.(`The show could not be read: ${news.message}`);
    }
  }

  private onDevice(id: string, now: DeviceRecord | undefined, before: DeviceRecord | undefined): void {
    const same =
      now &&
      before &&
      (['driver', 'host', 'port', 'enabled'] as const).every((field) => now.data[field] === before.data[field]);
    if (!now) {
      this.sessions.get(id)?.stop();
      this.sessions.delete(id);
      this.statuses.delete(id);
      this.readings.drop(id);
      return this.hub.publish('status', { devices: { drop: [id] } });
    }
    if (!same) this.openSession(id, now);
    const status = this.statuses.get(id);
    if (status) this.setStatus(id, { ...status, tag: now.data.tag, name: now.data.name, role: now.data.role });
  }

  private openSession(id: string, { data }: DeviceRecord): void {
    this.sessions.get(id)?.stop();
    this.sessions.delete(id);
    // Another address may be another device: what was known of the one before says nothing about it.
    this.readings.drop(id);
    const base = { tag: data.tag, name: data.name, role: data.role, since: Date.now() };
    const driver = this.show.drivers.get(data.driver);
    if (!data.enabled) return this.setStatus(id, { ...base, link: { word: 'off' } });
    if (!driver) return this.setStatus(id, { ...base, link: { word: 'down', cause: 'no-driver' } });
    this.setStatus(id, { ...base, link: { word: 'calling' } });
    const session: DeviceSession = new DeviceSession(data.host, data.port, driver, {
      onLink: (link) => this.onLink(id, link),
      onReadings: (changes) => this.readings.report(id, changes, Date.now()),
      onWire: (dir, bytes, note) => this.wire.record(id, dir, bytes, note),
      freshReading: (key) => this.readings.fresh(id, key),
    });
    this.sessions.set(id, session);
    session.start();
  }

  private onLink(id: string, link: Link): void {
    const status = this.statuses.get(id);
    if (!status) return;
    const before = status.link;
    if (link.word === 'silent') this.readings.setFreshness(id, 'stale', 'fresh');
    else if (link.word === 'up') this.readings.setFreshness(id, 'fresh', 'stale');
    else if (before.word === 'up' || before.word === 'silent') this.readings.setFreshness(id, 'unknown');
    const retrying = before.word === 'down' && link.word === 'calling';
    // While a device stays down for the same reason the screens keep saying so, instead of flickering at each try.
    if (retrying || (link.word === 'down' && before.word === 'down' && link.cause === before.cause)) return;
    this.setStatus(id, { ...status, link, since: Date.now() });
    const passing = link.word === 'calling' || link.word === 'signing in' || link.word === 'syncing';
    if (!passing && link.word !== 'off') {
      this.asRun.record({ kind: 'link', device: status.tag, link });
      this.wire.record(id, 'note', new Uint8Array(), `link ${link.word}${link.cause ? `: ${link.cause}` : ''}`);
    }
  }

  private setStatus(id: string, status: DeviceStatus): void {
    this.statuses.set(id, status);
    this.hub.publish('status', { devices: { put: { [id]: status } } });
  }

  private onReadingsChanged(device: string, keys: readonly string[]): void {
    this.pages.onReadings(device, keys);
    const tag = this.show.devices.get(device)?.data.tag;
    const topic = `readings:${device}`;
    if (this.hub.isFollowed(topic)) {
      const view = this.readings.view(device);
      const put = Object.fromEntries(keys.flatMap((key) => (view[key] ? [[key, view[key]]] : [])));
      this.hub.publish(topic, { put, drop: keys.filter((key) => !view[key]) });
    }
    if (!tag) return;
    for (const key of keys) {
      const value = this.readings.fresh(device, key);
      if (value !== undefined) this.asRun.record({ kind: 'reading', device: tag, key, value });
    }
  }

  private status(): StatusView {
    return {
      aim: this.aim,
      show: { name: this.show.name, revision: this.revision, problems: this.problems },
      devices: Object.fromEntries(this.statuses),
      pages: this.pageList(),
      recording: this.asRun.recording,
      standinPages: this.options.standinPages ?? null,
    };
  }

  private publishShow(): void {
    this.hub.publish('status', { show: { name: this.show.name, revision: this.revision, problems: this.problems } });
  }

  private pageList(): StatusView['pages'] {
    return [...this.show.pages.values()]
      .sort((a, b) => a.data.order - b.data.order)
      .map(({ id, data }) => ({ id, name: data.name }));
  }

  private labelOf({ data }: ControlRecord): string {
    return renderLabel(data.label, data.values, (ref) => this.readings.get(ref))
      .map((segment) => segment.text)
      .join('');
  }

  private health(): HealthResponse {
    const processes = this.options.processes?.() ?? [];
    const links = [...this.statuses].map(([device, { tag, name, link, since }]) => ({
      device,
      tag,
      name,
      link,
      since,
    }));
    const ok =
      processes.every((each) => each.state === 'running') &&
      links.every(({ link }) => ['up', 'one-way', 'off'].includes(link.word));
    return { ok: ok && this.asRun.recording, aim: this.aim, processes, links, recording: this.asRun.recording };
  }

  private readingsOf(tag: string | undefined) {
    const devices = [...this.show.devices.values()].filter(({ data }) => tag === undefined || data.tag === tag);
    if (tag !== undefined && devices.length === 0) return undefined;
    return {
      readings: devices.flatMap(({ id, data }) =>
        Object.entries(this.readings.view(id)).map(([key, reading]) => ({ device: data.tag, key, ...reading })),
      ),
    };
  }
}

/** What the presser hears: the outcome, without the single sends. */
const shortReport = ({ t, id, outcome, ms, reason, note }: PressReport): PressReport => ({
  t,
  id,
  outcome,
  ms,
  reason,
  note,
});

const newId = (): string => randomBytes(9).toString('base64url');

const describe = (problems: readonly Problem[]): string =>
  problems.map(({ path, message }) => `${path || 'document'}: ${message}`).join('; ');
