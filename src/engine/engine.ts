import { randomBytes } from 'node:crypto';
import { DriverShelf, encodeCommand, splitKey } from '../core/driver';
import { itemName, renderLabel } from '../core/face';
import type { DeviceStatus, HealthResponse, StatusView, PulseView } from '../core/live';
import type { Problem } from '../core/result';
import { type Link, type OwedStop } from '../core/session';
import { ownId, type ControlRecord } from '../core/show';
import type { ApiSource } from './door/api';
import { AsRun } from './record/as-run';
import { Connections } from './devices/connections';
import { DeadMan, type SendStop, type StopReason, type StopResult } from './presses/dead-man';
import { Dispatcher } from './presses/dispatcher';
import { PressDebts } from './presses/press-debts';
import { DiskReserve } from './record/disk-reserve';
import { Questions } from './presses/questions';
import { Aims } from './aim/aims';
import { Recorder } from './macros/recorder';
import type { Rehearsals } from './aim/rehearsal';
import { healthOf } from './screens/health';
import { HeldPresses } from './presses/held-presses';
import { ClientVerbs } from './screens/client-verbs';
import { CalledPage } from './pages/called-page';
import { Hub, type HubClient } from './screens/hub';
import { OwnReadings } from './devices/own-readings';
import { Panels } from './screens/panels';
import { PageContexts } from './pages/page-contexts';
import { LedgerFile } from './presses/ledger-file';
import { LinkRecord } from './record/link-record';
import { NetworkTools } from './network/network-tools';
import { News } from './screens/news';
import type { MacroRequest, RunDone } from './presses/macro-request';
import { Macros } from './macros/macros';
import { Presses } from './presses/presses';
import { prepare } from './devices/prepare';
import { Adjustments } from './presses/adjustments';
import type { Prober } from './network/prober-client';
import { ReadingStore } from './devices/readings';
import { RunningShow } from './show/running-show';
import { ShowFeed } from './show/show-feed';
import { Stills } from './pages/stills';
import { TurnMemory } from './presses/turn-memory';
import { Tallies } from './tally/tallies';
import type { ShowNews } from './show/show-worker';
import { Thinning } from './devices/thinning';
import { Alerts } from './screens/alerts';
import type { WarmStart } from './show/warm-up';
import { WireLog } from './record/wire-log';
import { WrongKeyBook } from './door/wrong-keys';

interface EngineOptions {
  readonly dataDir: string;
  /** Driver documents. One with a mistake is left out and reported. */
  readonly drivers: readonly unknown[];
  readonly log?: (message: string) => void;
  /** What the supervisor says of the processes, for the health report. */
  readonly processes?: () => HealthResponse['processes'];
  /** What looks at the network; without it nothing is tested and nothing found. */
  readonly prober?: Prober;
  /** What stands in for the devices while something is rehearsed; without it nothing is. */
  readonly rehearsals?: Rehearsals;
  /** What was made ready ahead of time from the same drivers. */
  readonly warm?: WarmStart;
}

/** The live process's heart: sessions, readings, presses, pages and the hub, wired together. */
export class Engine {
  readonly hub: Hub;
  readonly api: ApiSource;
  private readonly show: RunningShow;
  private readonly readings: ReadingStore;
  private readonly pages: PageContexts;
  private readonly presses: Presses;
  private readonly adjustments: Adjustments;
  private readonly macros: Macros;
  private readonly verbs: ClientVerbs;
  readonly panels: Panels;
  private readonly called: CalledPage;
  private readonly tallies: Tallies;
  private readonly news = new News((news) => this.hub.publish('status', { news }));
  private readonly own: OwnReadings;
  private readonly stills: Stills | undefined;
  private readonly reserve: DiskReserve;
  private readonly ledger: LedgerFile;
  private readonly alerts: Alerts;
  private locked = 0;
  private readonly asRun: AsRun;
  private readonly opening: ReturnType<AsRun['open']>;
  private readonly links = new LinkRecord((entry) => this.asRun.record(entry));
  private readonly wire: WireLog;
  private readonly feed: ShowFeed;
  private readonly connections: Connections;
  private readonly shelf: DriverShelf;
  private readonly deadMan: DeadMan;
  private readonly dispatcher: Dispatcher;
  private readonly held: HeldPresses<HubClient>;
  private readonly debts: PressDebts;
  private readonly questions: Questions;
  private readonly recorder: Recorder;
  private readonly thinning = new Thinning();
  private passwords: Readonly<Record<string, string>> = {};
  /** The drivers besides those that ship, as they were handed over. */
  private readonly driverTexts = new Map<string, string>();
  private readonly aims: Aims;
  private seq = 0;
  private revision: number | null = null;
  private problems = 0;
  private settled: () => void = () => undefined;
  private readonly firstSettled = new Promise<void>((resolve) => (this.settled = resolve));
  private readonly pulseTimer = setInterval(() => {
    if (this.hub.isFollowed('pulse')) this.hub.publish('pulse', this.pulse());
  }, 1000);
  private stopping = false;
  /** Wrong access keys, by the address that gave them. */
  readonly wrongKeys = new WrongKeyBook((refusal) => {
    this.options.log?.(refusal);
    this.panels.refused(refusal);
    this.panels.onAccess();
  });
  private standinPages: string | null = null;

  constructor(private readonly options: EngineOptions) {
    this.reserve = new DiskReserve(options.dataDir);
    // First of all the threads: they get ready while the rest is put together.
    this.feed = new ShowFeed(options.dataDir, options.drivers, (news) => this.onShowNews(news));
    this.asRun = new AsRun(
      options.dataDir,
      (rows) => this.hub.publish('as-run', { rows }),
      (recording) => this.hub.publish('status', { recording }),
      this.reserve,
    );
    this.opening = this.asRun.open();
    this.hub = new Hub(newId(), {
      whole: (topic) => this.whole(topic),
      mayFollow: (principal, topic) => this.canBe(topic) && this.panels.mayFollow(principal, topic),
      ofPanel: (panel, topic, data) => this.panels.ofPanel(panel, topic, data),
      onGone: (client) => this.panels.screens.onLeft(client),
      onUnused: (topic) => topic.startsWith('page:') && this.pages.close(topic.slice('page:'.length)),
      onLeft: (client, page) => this.held.leave(client, page),
      onMessage: (client, message) => this.verbs.onMessage(client, message),
    });
    this.readings = new ReadingStore((device, keys) => this.onReadingsChanged(device, keys));
    this.shelf = options.warm?.shelf ?? new DriverShelf();
    this.logLeftOut(options.warm?.leftOut ?? this.shelf.put(options.drivers));
    this.show = new RunningShow(this.shelf, {
      onDevice: (id, now, before) => {
        this.aims.lookAfter();
        this.tallies.lookSoon();
        this.connections.onDevice(id, now, before);
      },
      onPage: (id, now, before) => {
        this.pages.onPage(id, now);
        // Who waits for a page that was not there gets it, and who looks at one that is gone is told.
        if (!now || !before) this.hub.refreshPage(id);
        this.hub.publish('status', { pages: this.pageList() });
        this.called.look();
      },
      onControl: (id, now, before) => this.pages.onControl(id, now, before),
      onShow: () => {
        this.own.onShow(this.show.beginsAt);
        this.publishShow();
      },
      onMacro: () => {
        this.pages.onMacro();
        this.hub.publish('status', { macros: this.show.macros.size });
      },
      onPanels: () => {
        this.hub.publish('status', { panels: this.panels.list });
        this.hub.refreshPanels();
      },
      onTies: () => {
        this.pages.onTies();
        this.tallies.lookSoon();
      },
    });
    this.connections = new Connections({
      show: this.show,
      readings: this.readings,
      onReady: (id) => this.deadMan.payOwed(id),
      onLeaving: (id) => this.deadMan.stopAllOf(id),
      onGone: (id) => this.deadMan.forgetDevice(id),
      passwordOf: (id) => this.passwords[id] ?? '',
      isKnownDriver: (id) => this.shelf.ids.includes(id),
      placeOf: (id) => this.aims.placeOf(id),
      onWire: (...entry) => this.wire.record(...entry),
      onStatus: (id, status) => {
        this.hub.publish('status', { devices: status ? { put: { [id]: status } } : { drop: [id] } });
        this.own.onLinks();
      },
      onLink: (id, status, before, passing) => this.onLink(id, status, before, passing),
      onReached: (id) => this.pages.onDevice(id),
    });
    this.own = new OwnReadings(this.readings, this.connections.statuses);
    this.pages = new PageContexts(this.show, this.readings, (page, diff) => this.hub.publish(`page:${page}`, diff));
    this.ledger = new LedgerFile(options.dataDir, this.reserve);
    this.wire = new WireLog(
      () => this.hub.isFollowed('wire'),
      (rows) => this.hub.publish('wire', { rows }),
    );
    this.deadMan = new DeadMan(
      this.ledger,
      (stop, owner, done) => this.sendStop(stop, owner, done),
      (stop, why, result) => this.onStopped(stop, why, result),
      newId,
      (press, why) => {
        this.presses.onReleased(press, why);
        this.adjustments.onReleased(press, why);
      },
    );
    this.debts = new PressDebts(this.deadMan, (control, target, at) => this.pages.setOff(control, target, at));
    this.held = new HeldPresses(this.deadMan);
    this.aims = new Aims({
      rehearsals: options.rehearsals,
      devices: () => [...this.show.devices.values()],
      goesOn: () => this.goesOn(),
      onLeave: () => this.tallies.onLeave(),
      onRaise: () => this.deadMan.turnTo('rehearsal'),
      onCurtain: () => {
        this.macros.end(undefined, 'stop', 'the end of the rehearsal');
        this.deadMan.turnTo('devices');
      },
      reopen: (devices) => devices.forEach((device) => this.connections.open(device.id, device)),
      onAim: (aim) => {
        this.tallies.onAim();
        this.asRun.keepAim(aim);
      },
      record: (entry) => this.asRun.record(entry),
      publish: (diff) => this.hub.publish('status', diff),
      standinPages: () => this.standinPages,
    });
    this.recorder = new Recorder({
      show: this.show,
      readings: this.readings,
      isUp: (device) => this.connections.statuses.get(device)?.link.word === 'up',
      onView: (recorder) => this.hub.publish('status', { recorder }),
      record: (entry) => this.asRun.record(entry),
    });
    this.questions = new Questions({ show: this.show, readings: this.readings, dataDir: options.dataDir });
    this.dispatcher = new Dispatcher({
      show: this.show,
      sessions: this.connections.sessions,
      deadMan: this.deadMan,
      onSent: (device, who) => this.news.onSent(device, who),
      onCommand: (device, prepared, who, run) => this.recorder.onCommand(device, prepared, who, run),
    });
    const sources = {
      show: this.show,
      dispatcher: this.dispatcher,
      asRun: this.asRun,
      deadMan: this.deadMan,
      debts: this.debts,
      turns: new TurnMemory(this.show, this.readings),
      questions: this.questions,
      aim: () => this.aims.aim,
      labelOf: (control: ControlRecord) => this.labelOf(control),
      inContext: (context: string, control: ControlRecord) => this.pages.controlIn(context, control),
      isBarred: (context: string | undefined, control: ControlRecord) => this.pages.isBarred(context, control),
      beginMacro: (request: MacroRequest, done: RunDone) => this.macros.begin({ ...request, id: newId() }, done),
    };
    this.presses = new Presses(sources);
    this.adjustments = new Adjustments(sources);
    this.panels = new Panels({
      dataDir: options.dataDir,
      show: this.show,
      publish: (topic, diff) => this.hub.publish(topic, diff),
      record: (entry) => this.asRun.record(entry),
      wrongKeys: () => this.wrongKeys.list,
      endAll: (reason, of) => this.hub.endAll(reason, of),
      canOpen: (key) => this.pages.canOpen(key),
      newId,
    });
    this.macros = new Macros({
      show: this.show,
      readings: this.readings,
      command: (request, listener) => this.presses.command(request, listener),
      onScreens: (panel, act) => this.panels.screens.onPanels(panel, act),
      record: (entry) => this.asRun.record(entry),
      publish: (topic, diff) => this.hub.publish(topic, diff),
      isFollowed: (topic) => this.hub.isFollowed(topic),
      deadMan: this.deadMan,
      onRunning: (macros) => this.pages.setRunning(macros),
      onBegun: (macro, params) => this.recorder.onMacro(macro, params),
      newId,
    });
    this.verbs = new ClientVerbs({
      ...sources,
      sessions: this.connections.sessions,
      screens: this.panels.screens,
      macros: this.macros,
      recorder: this.recorder,
      mayEnd: (client, macro) => this.panels.mayEnd(client, macro),
      mayPress: (client, page, control) => this.panels.mayPress(client, page, control),
      presses: this.presses,
      adjustments: this.adjustments,
      held: this.held,
      nameOfItem: (control, index) =>
        itemName(control.data.list, index, (ref) => this.readings.get(ref), this.show.documentOf),
      onAim: (aim, who) => this.aims.set(aim, who),
    });
    this.tallies = new Tallies({
      ...sources,
      readings: this.readings,
      statuses: this.connections.statuses,
      presses: this.presses,
      newId,
      onChange: (diff) => this.hub.publish('tally', diff),
      onCount: (tallies) => this.hub.publish('status', { tallies }),
    });
    this.called = new CalledPage(this.show, this.readings, (called) => this.hub.publish('status', { called }));
    this.alerts = new Alerts({
      asRun: this.asRun,
      ledger: this.ledger,
      reserve: this.reserve,
      links: this.links,
      connections: this.connections,
      show: this.show,
      hub: this.hub,
      unreadablePasswords: () => this.locked,
      onChange: (alerts) => this.hub.publish('status', { alerts }),
    });
    const { prober } = options;
    this.stills =
      prober &&
      new Stills({
        show: this.show,
        readings: this.readings,
        prober,
        isUp: (id) => this.connections.statuses.get(id)?.link.word === 'up',
        isShown: this.pages.isShown,
        passwordOf: (id) => this.passwords[id] ?? '',
        placeOf: (id) => this.aims.placeOf(id)?.place,
      });
    const tools =
      prober &&
      new NetworkTools({
        show: this.show,
        shelf: this.shelf,
        sessions: this.connections.sessions,
        statuses: this.connections.statuses,
        prober,
        passwordOf: (id) => this.passwords[id] ?? '',
        fresh: (device, key) => this.readings.fresh(device, key),
        last: (device, key) => this.readings.get({ device, key })?.value,
      });
    this.api = {
      tools,
      health: () => this.health(),
      readings: (tag) => this.readingsOf(tag),
      presses: this.presses,
      hasPage: (id) => this.show.pages.has(id),
      deviceByTag: (tag) => [...this.show.devices.values()].find(({ data }) => data.tag === tag),
      checkCommand: (device, command, params) => {
        const driver = this.show.driverOf(device);
        if (!driver) return { path: 'device', message: 'The driver of this device is not installed here.' };
        const readingNow = (key: string) => this.readings.fresh(device.id, key);
        const encoded = encodeCommand(driver, command, params, { ref: 1, readingNow });
        return encoded.ok ? undefined : encoded.error;
      },
      newId,
      pruneRecord: () => this.asRun.prune(),
    };
  }

  /** Opens the record and takes the show over; resolves when the show runs, or after a while without it. */
  async start(): Promise<void> {
    this.own.start();
    this.debts.recall();
    void this.feed.look();
    const aim = await this.opening;
    if (aim) this.aims.recall(aim);
    this.macros.recall(this.asRun.view.rows);
    await Promise.race([this.firstSettled, new Promise((resolve) => setTimeout(resolve, 2000).unref())]);
    if (this.stopping) return;
    this.hub.refresh('status');
  }

  /** The show was edited, put in service or stepped back. Resolves when the engine runs with what was changed, or cannot read it now. */
  onShowChanged(): Promise<void> {
    return this.feed.look();
  }

  /** The address of the stand-ins' pages, while stand-ins run. */
  setStandinPages(address: string | null): void {
    this.standinPages = address;
    this.hub.publish('status', { standinPages: this.aims.standinPages });
  }

  /** A picture that controls show, by its hash. */
  async picture(hash: string): ReturnType<ShowFeed['picture']> {
    return this.stills?.picture(hash) ?? this.feed.picture(hash);
  }

  async stop(): Promise<void> {
    if (this.stopping) return;
    this.stopping = true;
    this.alerts.stop();
    clearInterval(this.pulseTimer);
    this.own.stop();
    this.stills?.stop();
    await this.feed.close();
    for (const id of this.connections.sessions.keys()) this.deadMan.stopAllOf(id);
    this.macros.stop();
    this.questions.stop();
    this.recorder.stop();
    this.aims.stop();
    this.presses.stop();
    this.adjustments.stop();
    this.pages.stop();
    this.tallies.stop();
    this.deadMan.close();
    this.connections.stop();
    this.wire.stop();
    this.links.stop();
    await this.asRun.close();
    this.hub.stop();
  }

  /** For tests: ends as if the process had been killed. No device is told anything; their sockets just close. */
  async abandon(): Promise<void> {
    this.stopping = true;
    this.alerts.stop();
    clearInterval(this.pulseTimer);
    this.own.stop();
    this.stills?.stop();
    this.deadMan.close();
    this.connections.stop();
    await this.feed.close();
    this.wire.stop();
    await this.asRun.close();
    this.hub.stop();
  }

  private logLeftOut(leftOut: WarmStart['leftOut']): void {
    for (const { id, problems } of leftOut) {
      this.options.log?.(`The driver document “${id}” was left out: ${describe(problems)}`);
    }
  }

  /** False for a page on a level, or with picks, that it does not have. */
  private canBe(topic: string): boolean {
    return !topic.startsWith('page:') || this.pages.canOpen(topic.slice('page:'.length));
  }

  private whole(topic: string): unknown {
    if (topic === 'status') return this.status();
    if (topic === 'head') return { seq: this.seq };
    if (topic === 'wire') return this.wire.view;
    if (topic === 'pulse') return this.pulse();
    if (topic === 'as-run') return this.asRun.view;
    if (topic === 'screens') return this.panels.screens.view;
    if (topic === 'access') return this.panels.access;
    if (topic === 'tally') return this.tallies.view;
    if (topic === 'runs') return this.macros.view;
    const [kind, id = ''] = topic.split(':');
    if (kind === 'page') return this.pages.open(id);
    if (kind === 'macro') return this.macros.runsOf(id);
    if (kind === 'linked') return this.panels.screens.linkedView(id);
    return this.show.devices.has(id) || id === ownId ? this.readings.view(id) : undefined;
  }

  private pulse(): PulseView {
    const devices = [...this.connections.sessions].flatMap(([id, { pulse }]) =>
      pulse.heardAt > 0 ? [[id, pulse] as const] : [],
    );
    return { devices: Object.fromEntries(devices) };
  }

  private sendStop(stop: OwedStop, owner: string, done: Parameters<SendStop>[2]): void {
    const device = this.show.devices.get(stop.device);
    const driver = device && this.show.driverOf(device);
    const prepared = driver && prepare(driver, stop.command, stop.params);
    if (!device || !prepared?.ok)
      return done({ outcome: 'lost', why: 'missing', ms: 0, reason: 'The device is not in the rig.' });
    const order = { device, prepared: prepared.value, owners: [owner] };
    this.dispatcher.stop(order, (result) => result.note || done(result));
  }

  /** What goes on at the devices now, as a sentence. */
  private goesOn(): string | undefined {
    if (Object.keys(this.macros.view).length > 0) return 'a macro runs. Stop it, or wait for its end.';
    if (this.deadMan.goingOn > 0) return 'something is held, moves, or undoes itself in a while. It has to end first.';
    return undefined;
  }

  private onStopped(stop: OwedStop, why: StopReason, result: StopResult): void {
    const device = this.show.devices.get(stop.device);
    const driver = device && this.show.driverOf(device);
    const command = driver?.commands.get(stop.command)?.command.title ?? stop.command;
    const { why: ending, ...end } = result;
    this.asRun.record({ kind: 'stop', device: device?.data.tag ?? '?', command, why, ending, ...end });
  }

  private onShowNews(news: ShowNews): void {
    switch (news.type) {
      case 'drivers':
        return this.onDrivers(news);
      case 'passwords': {
        const before = this.passwords;
        this.passwords = news.passwords;
        this.locked = news.unreadable;
        for (const [id, device] of this.show.devices) {
          if (before[id] !== news.passwords[id]) this.connections.open(id, device);
        }
        return;
      }
      case 'piece':
        return this.show.apply(news);
      case 'settled':
        if (news.revision !== this.revision) this.asRun.record({ kind: 'service', revision: news.revision });
        this.seq = news.seq;
        this.revision = news.revision;
        this.publishShow();
        this.hub.publish('head', { seq: news.seq });
        return this.settled();
      case 'problems':
        this.problems = news.problems;
        return this.publishShow();
      case 'failed':
        return this.options.log?.(`The show could not be read: ${news.message}`);
    }
  }

  /** Drivers besides those that ship. One that is handed over once more as it was changes nothing. */
  private onDrivers({ documents, all }: Extract<ShowNews, { type: 'drivers' }>): void {
    const removed = [...this.driverTexts.keys()].filter((id) => !all.includes(id));
    const changed = documents.filter((document) => this.driverTexts.get(idOf(document)) !== JSON.stringify(document));
    for (const id of removed) {
      this.shelf.remove(id);
      this.driverTexts.delete(id);
    }
    for (const document of changed) this.driverTexts.set(idOf(document), JSON.stringify(document));
    this.logLeftOut(this.shelf.put(changed));
    this.onDriversChanged(new Set([...removed, ...changed.map(idOf)]));
  }

  private onDriversChanged(ids: ReadonlySet<string>): void {
    for (const [id, device] of this.show.devices) {
      if (!ids.has(device.data.driver)) continue;
      this.connections.open(id, device);
      this.pages.onDevice(id);
    }
  }

  private onLink(id: string, status: DeviceStatus, before: Link['word'], passing: boolean): void {
    const { tag, link } = status;
    this.tallies.onLink(id, link.word);
    this.macros.onLink(id, status, before);
    if (link.word === 'down') this.aims.lookAfter();
    if (passing || link.word === 'off') return;
    this.links.onLink(id, tag, link);
    this.wire.record(id, 'note', new Uint8Array(), `link ${link.word}${link.cause ? `: ${link.cause}` : ''}`);
  }

  private onReadingsChanged(device: string, keys: readonly string[]): void {
    this.pages.onReadings(device, keys);
    this.called.onReadings(device, keys);
    this.tallies.onReadings(device, keys);
    this.macros.onReadings();
    this.recorder.onReadings(device, keys);
    const record = this.show.devices.get(device);
    const tag = record?.data.tag;
    const driver = record && this.show.driverOf(record);
    if (record && driver && keys.some((key) => driver.identityKeys.has(key)))
      this.connections.checkIdentity(record, driver);
    const topic = `readings:${device}`;
    if (this.hub.isFollowed(topic)) {
      const view = this.readings.view(device);
      const put = Object.fromEntries(keys.flatMap((key) => (view[key] ? [[key, view[key]]] : [])));
      this.hub.publish(topic, { put, drop: keys.filter((key) => !view[key]) });
    }
    if (!record || !tag) return;
    for (const key of keys) {
      const reading = this.readings.get({ device, key });
      if (driver && reading) this.news.onReading(record, driver, key, reading);
    }
    const quiet = driver?.quietReadings;
    const now = performance.now();
    for (const key of keys) {
      if (quiet?.has(splitKey(key).family) || !this.thinning.allows(`${device} ${key}`, now)) continue;
      const value = this.readings.fresh(device, key);
      if (value !== undefined) this.asRun.record({ kind: 'reading', device: tag, key, value });
    }
  }

  private status(): StatusView {
    return {
      aim: this.aims.aim,
      show: { name: this.show.name, revision: this.revision, problems: this.problems },
      devices: Object.fromEntries(this.connections.statuses),
      pages: this.pageList(),
      called: this.called.page,
      tallies: this.tallies.count,
      recorder: this.recorder.view,
      recording: this.asRun.recording,
      alerts: this.alerts.forScreens,
      panels: this.panels.list,
      macros: this.show.macros.size,
      news: this.news.view,
      standinPages: this.aims.standinPages,
    };
  }

  private publishShow(): void {
    this.hub.publish('status', { show: { name: this.show.name, revision: this.revision, problems: this.problems } });
  }

  private pageList(): StatusView['pages'] {
    return [...this.show.pages.values()]
      .sort((a, b) => a.data.order - b.data.order)
      .map(({ id, data }) => ({ id, name: data.name, ...(data.calledBy ? { called: true as const } : {}) }));
  }

  private labelOf({ data }: ControlRecord): string {
    return renderLabel(data.label, data.values, (ref) => this.readings.get(ref), this.show.documentOf)
      .map((segment) => segment.text)
      .join('');
  }

  private health(): HealthResponse {
    const { statuses, sessions } = this.connections;
    return healthOf({
      aim: this.aims.aim,
      statuses,
      sessions,
      recording: this.asRun.recording,
      alerts: this.alerts.all,
      processes: this.options.processes?.() ?? [],
    });
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

const idOf = (document: unknown): string => String((document as { id?: unknown } | null)?.id ?? '');

const newId = (): string => randomBytes(9).toString('base64url');

const describe = (problems: readonly Problem[]): string =>
  problems.map(({ path, message }) => `${path || 'document'}: ${message}`).join('; ');
