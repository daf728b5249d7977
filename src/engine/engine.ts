import { randomBytes } from 'node:crypto';
import { DriverShelf, readingText } from '../core/driver';
import { labelNow } from '../core/face';
import type { CheckAnswer, DeviceStatus, HealthResponse } from '../core/live';
import { fail, ok, type Result } from '../core/result';
import type { ControlRecord } from '../core/show';
import { noLog, type Log } from '../log';
import { Aims } from './aim/aims';
import type { Rehearsals } from './aim/rehearsal';
import { Connections } from './devices/connections';
import { OwnReadings } from './devices/own-readings';
import { ReadingRecord } from './devices/reading-record';
import { ReadingStore } from './devices/readings';
import { sendText } from './devices/send-text';
import { ApiSource } from './door/api-source';
import { Metrics } from './door/metrics';
import { makeReport } from './door/report';
import { WrongKeyBook } from './door/wrong-keys';
import { Drills } from './drills/drills';
import { Health } from './health/health';
import { Followers } from './inlets/followers';
import { DeviceRequests } from './inlets/device-requests';
import { InletHand } from './inlets/inlet-hand';
import { Inlets } from './inlets/inlets';
import { BurnIn } from './line-check/burn-in';
import type { Checker } from './line-check/checker';
import { LineCheck } from './line-check/line-check';
import { Macros } from './macros/macros';
import { OwnMacros } from './macros/own-macros';
import { Recorder } from './macros/recorder';
import { NetworkTools } from './network/network-tools';
import { HardwareBook } from './network/hardware-book';
import { MovedWatch } from './network/moved-watch';
import { HelperWatch } from './network/helper-watch';
import type { Prober } from './network/prober-client';
import { CalledPages } from './pages/called-pages';
import { clockBoard, outputBoard } from './pages/device-boards';
import { PageContexts } from './pages/page-contexts';
import type { PictureRelay } from './network/picture-relay';
import { LivePictures } from './pages/live-pictures';
import { StillPlaces } from './pages/still-places';
import { Stills } from './pages/stills';
import { Parts, type Part } from './parts';
import { PresetHand } from './presets/preset-hand';
import { PresetStates } from './presets/preset-states';
import { Adjustments } from './presses/adjustments';
import { DeadMan } from './presses/dead-man';
import { Dispatcher } from './presses/dispatcher';
import { HeldPresses } from './presses/held-presses';
import { LedgerFile } from './presses/ledger-file';
import { MacroRequests } from './presses/macro-request';
import { OwedStops } from './presses/owed-stops';
import { PressDebts } from './presses/press-debts';
import { OwnOrders } from './presses/own-orders';
import { PreRoll } from './presses/pre-roll';
import { Presses } from './presses/presses';
import { Questions } from './presses/questions';
import { TraceBook } from './presses/trace-book';
import { TurnMemory } from './presses/turn-memory';
import { AsRun } from './record/as-run';
import { DiskReserve } from './record/disk-reserve';
import { LinkRecord } from './record/link-record';
import { WireLog } from './record/wire-log';
import { Alerts } from './screens/alerts';
import type { HubClient } from './screens/client-connection';
import { ClientVerbs } from './screens/client-verbs';
import { GearBindingBook } from './screens/gear-bindings';
import { healthOf } from './screens/health';
import { Hub } from './screens/hub';
import { News } from './screens/news';
import { Panels } from './screens/panels';
import { PanelNotes } from './screens/panel-notes';
import { Pulse } from './screens/pulse';
import { ReadingTopics } from './screens/reading-topics';
import { ShowInStatus } from './screens/show-in-status';
import { CompileAhead } from './show/compile-ahead';
import { RunningShow } from './show/running-show';
import { ShowIntake } from './show/show-intake';
import type { WarmStart } from './show/warm-up';
import type { WriteLive } from './show/write-live';
import { SnapshotKeeper } from './snapshots/snapshot-keeper';
import { Snapshots } from './snapshots/snapshots';
import { Tallies } from './tally/tallies';
import { Timers } from './timers/timers';
import { StatusBoard } from './topics/status-board';
import { TopicBook } from './topics/topic-book';
import { Variables } from './variables/variables';
import { Watches } from './watches/watches';

interface EngineOptions {
  readonly dataDir: string;
  /** The driver documents that ship. */
  readonly drivers: readonly unknown[];
  readonly log?: Log;
  /** What the supervisor says of the processes, for the health report. */
  readonly processes?: () => HealthResponse['processes'];
  /** The last failures of all processes, as the supervisor knows them. */
  readonly failures?: () => HealthResponse['failures'];
  /** What looks at the network; without it nothing is tested and nothing found. */
  readonly prober?: Prober;
  /** What fetches pictures for screens; without it panels show none. */
  readonly pictures?: PictureRelay;
  /** The stand-ins for rehearsals; without them there are no rehearsals. */
  readonly rehearsals?: Rehearsals;
  /** What plans and rehearses the line check; without it there is none. */
  readonly checker?: Checker;
  /** What was made ready ahead of time from the same drivers. */
  readonly warm?: WarmStart;
  /** Writes what takes effect at once into the show; without it nothing of it is kept. */
  readonly writeLive?: WriteLive;
  /** Kills this process for a drill, where something starts it again. */
  readonly killEngine?: () => void;
  /** It reaches stand-ins only, never a device: for proofs beside the engine that runs the show. */
  readonly isPrivate?: boolean;
}

/**
 * The live process's heart: composes the parts. They are told of changes and started in the order in which they are added here, and stopped
 * in the reverse: what still has something to say to a device or to the record stops before those do.
 */
export class Engine {
  readonly hub: Hub;
  readonly api: ApiSource;
  readonly panels: Panels;
  /** Wrong access keys, by the address that gave them. */
  readonly wrongKeys: WrongKeyBook;
  /** What runs now: for proofs that are made with an engine of their own. */
  readonly running: {
    readonly show: RunningShow;
    readonly readings: ReadingStore;
    readonly statuses: ReadonlyMap<string, DeviceStatus>;
  };
  private readonly stills: Stills | undefined;
  private readonly parts: Parts;
  private readonly intake: ShowIntake;
  private readonly aims: Aims;
  private readonly deadMan: DeadMan;
  private readonly status: StatusBoard;
  /** What has to end for the process to look killed, and tells no device anything. */
  private readonly killed: readonly Part[];

  constructor({
    dataDir,
    drivers,
    log = noLog,
    processes,
    failures,
    prober,
    pictures,
    rehearsals,
    checker,
    warm,
    writeLive,
    killEngine,
    isPrivate = false,
  }: EngineOptions) {
    const parts = new Parts((message, cause) => log.error({ part: 'engine', cause }, message));
    const shelf = warm?.shelf ?? new DriverShelf();
    const show = new RunningShow(shelf, parts.onShow);
    const readings = new ReadingStore(parts.onReadings);
    const base = { dataDir, show, readings, newId };

    const topics = new TopicBook();
    const hub = parts.add(new Hub(newId(), topics));
    const { publish, isFollowed } = hub;
    const status = new StatusBoard(publish, topics);
    const told = { hub, publish, isFollowed, topics, status };

    const reserve = new DiskReserve(dataDir);
    const onRows: ConstructorParameters<typeof AsRun>[1] = (rows) => publish('as-run', { rows });
    const asRun = parts.add(
      new AsRun(
        dataDir,
        onRows,
        (recording) => status.set({ recording }),
        reserve,
        log.child({ part: 'record' }),
        (tag, key, value) => readingText(show.documentOfTag(tag), key, value),
      ),
    );
    topics.serve('as-run', { whole: () => asRun.view });
    const links = parts.add(new LinkRecord((entry) => asRun.record(entry)));
    const isWireFollowed = () => isFollowed('wire');
    const wire = parts.add(
      new WireLog(
        isWireFollowed,
        (rows) => publish('wire', { rows }),
        (device, { prepared }) => prepared && sendText(prepared, device, readings),
      ),
    );
    topics.serve('wire', { whole: () => wire.view });

    // Its thread gets ready while the rest is put together.
    const intake = new ShowIntake({ ...base, ...told, drivers, warm, shelf, log: log.child({ part: 'show' }), asRun });
    const { passwordOf } = intake;
    const aims = parts.add(new Aims({ show, asRun, status, rehearsals, log: log.child({ part: 'aim' }), isPrivate }));
    const timers = parts.add(new Timers({ dataDir, log: log.child({ part: 'timers' }) }));
    aims.listen({ onCurtain: () => timers.endRehearsal() });
    const isKnownDriver = (id: string) => shelf.ids.includes(id);
    const connections = parts.add(
      new Connections({
        show,
        readings,
        aims,
        wire,
        passwordOf,
        isKnownDriver,
        internalOf: (device, _service, isRehearsed) => timers.service(device, isRehearsed),
        onLink: parts.onLink,
        onAnswer: (device, ms) => watched.onAnswer(device, ms),
        onUnanswered: (device, count) => watched.onUnanswered(device, count),
      }),
    );
    const { sessions, statuses } = connections;
    intake.onReopen((device) => connections.reopen(device));
    const own = parts.add(new OwnReadings(readings, statuses, show));
    const traces = new TraceBook(show);
    const pages = parts.add(new PageContexts(show, readings, publish, topics, traces.onFace, pictures?.keyOf));
    const ledger = new LedgerFile(dataDir, reserve);
    const deadMan = parts.add(new DeadMan(ledger, newId));
    connections.listen({
      onStatus: (id, now) => {
        status.set({ devices: now ? { put: { [id]: now } } : { drop: [id] } });
        own.onStatuses();
      },
      onReady: (id) => deadMan.payOwed(id),
      onLeaving: (id) => deadMan.stopAllOf(id),
      onGone: (id) => deadMan.forgetDevice(id),
      onReached: (id) => pages.onDevice(id),
    });

    const news = parts.add(new News(show, readings, status));
    const recorder = parts.add(new Recorder({ ...base, status, asRun, connections }));
    const presetStates = parts.add(new PresetStates(base));
    const ownOrders = new OwnOrders();
    const preRoll = parts.add(new PreRoll(aims));
    const dispatcher = new Dispatcher({
      show,
      sessions,
      deadMan,
      own: ownOrders,
      preRoll,
      onSent: (device, who) => news.onSent(device, who),
      onCommand: (device, prepared, who, run) => {
        recorder.onCommand(device, prepared, who, run);
        presetStates.onCommand(device, prepared);
      },
    });
    const debts = parts.add(new PressDebts(deadMan, (control, target, at) => pages.setOff(control, target, at)));
    const questions = parts.add(new Questions({ ...base, log: log.child({ part: 'presses' }) }));
    const turns = new TurnMemory(show, readings);
    const macroRequests = new MacroRequests();
    const labelOf = ({ data }: ControlRecord) => textOf(labelNow(data, (ref) => readings.get(ref), show.documentOf));
    const pressing = {
      ...base,
      ...told,
      asRun,
      aims,
      dispatcher,
      deadMan,
      pages,
      debts,
      questions,
      turns,
      traces,
      labelOf,
    };
    const presses = parts.add(new Presses({ ...pressing, macros: macroRequests }));
    const adjustments = parts.add(new Adjustments(pressing));
    const snapshots = parts.add(new Snapshots({ ...pressing, own: ownOrders, isPrivate }));
    const places = new StillPlaces({ ...base, aims, passwordOf });
    const stills = prober && new Stills({ show, prober, places });
    this.stills = stills;
    const keeping = { stills, write: writeLive, isPrivate, log: log.child({ part: 'snapshots' }) };
    parts.add(new SnapshotKeeper({ ...pressing, own: ownOrders, ...keeping }));
    const variables = parts.add(new Variables({ ...pressing, own: ownOrders, log: log.child({ part: 'variables' }) }));
    const tallies = parts.add(new Tallies({ ...pressing, statuses, presses }));
    parts.add(new CalledPages(show, readings, status));
    parts.add(clockBoard(pressing));
    parts.add(outputBoard(pressing));

    const wrongKeys = new WrongKeyBook();
    wrongKeys.onWait((sentence) => log.warn({ part: 'door' }, sentence));
    const panels = parts.add(new Panels({ ...pressing, wrongKeys, log: log.child({ part: 'door' }) }));
    const { screens } = panels;
    const macros = parts.add(new Macros({ ...pressing, presses, screens, recorder, requests: macroRequests }));
    const ownMacros = parts.add(
      new OwnMacros({
        ...pressing,
        own: ownOrders,
        running: () => macros.running,
        end: (macro, way, who) => macros.endAllOf(macro, way, who),
      }),
    );
    macros.listen(() => ownMacros.soon());
    parts.add(new PanelNotes({ ...pressing, own: ownOrders, screens }));
    const watches = parts.add(
      new Watches({
        ...pressing,
        presses,
        own: ownOrders,
        preRoll,
        isInService: () => intake.isInService,
        isPuttingBack: () => variables.isPuttingBack,
        log: log.child({ part: 'watches' }),
        isPrivate,
      }),
    );
    intake.onSettled(() => watches.onSettled());
    const inletHand = new InletHand({ ...pressing, presses }, parts.add(new Followers()));
    const inletLog = log.child({ part: 'inlets' });
    const inlets = parts.add(
      new Inlets({ ...pressing, hand: inletHand, watches, wire, log: inletLog, passwordOf, isPrivate }),
    );
    const deviceRequests = new DeviceRequests({ ...pressing, hand: inletHand, watches, wire, isPrivate });
    connections.listen({ onRequest: deviceRequests.onRequest });
    intake.onInletPassword((inlet) => inlets.renew(inlet));
    parts.add(new OwedStops(show, sessions, dispatcher, asRun, deadMan, aims));
    parts.add(new ReadingTopics(show, readings, isFollowed, publish, topics));
    parts.add(new ReadingRecord(show, readings, asRun));
    parts.add(new ShowInStatus(show, status));
    parts.add(intake);
    parts.add(new CompileAhead(shelf));

    if (pictures) parts.add(new LivePictures({ show, relay: pictures, places, connections, aims }));
    presses.listen(presetStates.onSent);
    const presetHand = new PresetHand({
      ...pressing,
      presses,
      states: presetStates,
      stills,
      write: writeLive,
      log: log.child({ part: 'presets' }),
    });
    const held = new HeldPresses<HubClient>(deadMan);
    const onSaw = (answer: CheckAnswer) => (lineCheck ? lineCheck.answer(answer) : 'There is no line check here.');
    const gear = parts.add(
      new GearBindingBook({ ...pressing, panels, write: writeLive, log: log.child({ part: 'gear' }) }),
    );
    const verbs = new ClientVerbs({
      ...pressing,
      gear,
      sessions,
      panels,
      macros,
      snapshots,
      presets: presetHand,
      recorder,
      presses,
      adjustments,
      held,
      onSaw,
    });
    hub.listen({
      onMessage: (client, message) => verbs.onMessage(client, message),
      onLeft: (client, page) => held.leave(client, page),
    });

    const isStaged = (device: string) => aims.placeOf(device) !== undefined;
    const setHelpers = connections.setHelpers.bind(connections);
    if (prober) parts.add(new HelperWatch({ show, prober, isStaged, setHelpers }));
    const onFault = (message: string, cause: unknown) => log.warn({ part: 'network', cause }, message);
    const setAnswersAs = connections.setAnswersAs.bind(connections);
    const setMovedTo = connections.setMovedTo.bind(connections);
    const hardware = prober && parts.add(new HardwareBook({ dataDir, show, prober, setAnswersAs, onFault }));
    if (prober && hardware) parts.add(new MovedWatch({ show, prober, hardware, setMovedTo }));
    const macOf = (device: string) => hardware?.macOf(device);
    const aimNow = () => aims.aim;
    const note = (text: string) => asRun.record({ kind: 'note', text });
    const listenTo = wire.listenTo.bind(wire);
    const toolSources = { ...base, shelf, sessions, statuses, passwordOf, macOf, aimNow, note, listenTo };
    const tools = prober && new NetworkTools({ ...toolSources, prober });
    const lineCheck =
      checker &&
      parts.add(
        new LineCheck({
          ...pressing,
          statuses,
          presses,
          screens: () => screens.all,
          tallyOf: (device) => tallies.of(device),
          tools,
          drills: () => drills.results,
          checker,
          log: log.child({ part: 'line-check' }),
        }),
      );
    const watched = parts.add(
      new Health({
        ...pressing,
        statuses,
        sessions,
        screens: () => screens.all,
        aimNow,
        roundTripOf: (device) => lineCheck?.roundTripOf(device),
        log: log.child({ part: 'health' }),
      }),
    );
    presses.listen(watched.onSent);
    if (lineCheck) presses.listen(lineCheck.onSent);
    const drills = parts.add(
      new Drills({
        ...pressing,
        aimNow,
        pagesNow: () => aims.standinPages,
        cutOff: (panel) => screens.cutOff(panel),
        screensOf: (panel) => screens.all.filter((screen) => screen.panel === panel).length,
        killEngine,
        log: log.child({ part: 'drills' }),
      }),
    );
    presses.listen(drills.onSent);
    watched.listen(drills.onConcerns);
    aims.listen({ onAim: (aim) => [watched, drills].forEach((part) => part.onAim(aim)) });
    const burnIn = parts.add(new BurnIn({ ...pressing, statuses, sessions, aimNow, lineCheck }));
    const pulse = parts.add(new Pulse(sessions, isFollowed, publish, topics));
    const alerts = parts.add(new Alerts({ ...told, asRun, ledger, reserve, links, connections, show, intake, inlets }));
    const health = () =>
      healthOf({ aims, connections, asRun, alerts, processes: processes?.() ?? [], failures: failures?.() ?? [] });

    const metrics = new Metrics({ asRun, connections, hub, deadMan, processes: () => processes?.() ?? [] });
    const report = () => makeReport({ dataDir, show, health, metrics: () => metrics.text() });
    const pruneRecord = () => asRun.prune();
    const door = {
      show,
      readings,
      presses,
      traces,
      tools,
      lineCheck,
      watched,
      burnIn,
      drills,
      checker,
      health,
      newId,
      pruneRecord,
      metrics,
      report,
      wire,
    };
    this.api = new ApiSource({ ...door, log: log.child({ part: 'door' }) });
    this.running = { show, readings, statuses };
    this.status = status;
    this.hub = hub;
    this.panels = panels;
    this.wrongKeys = wrongKeys;
    this.parts = parts;
    this.intake = intake;
    this.aims = aims;
    this.deadMan = deadMan;
    this.killed = [
      ...(lineCheck ? [lineCheck] : []),
      watched,
      alerts,
      pulse,
      own,
      deadMan,
      connections,
      intake,
      wire,
      asRun,
      hub,
    ];
  }

  /** Opens the record and takes the show over; resolves when the show runs, or after a while without it. */
  start(): Promise<void> {
    return this.parts.start();
  }

  /** Stops every part, the last one first. May be called more than once. */
  stop(): Promise<void> {
    return this.parts.stop();
  }

  /** The show was edited, put in service or stepped back. Resolves when the engine runs with what was changed, or cannot read it now. */
  onShowChanged(): Promise<void> {
    return this.intake.look();
  }

  /** Fetches a picture that a device hands out now, by the name that its driver gives it. Fails with the reason, as a sentence. */
  async takePicture(device: string, still: string): Promise<Result<Buffer, string>> {
    const record = this.running.show.devices.get(device);
    if (!record) return fail('The device is not in the running show.');
    if (!this.stills) return fail('Pictures cannot be fetched here.');
    const taken = await this.stills.take(record, still);
    return taken.ok ? ok(taken.value.bytes) : taken;
  }

  /** Lets go of what a press holds that has no screen. */
  release(press: string): void {
    this.deadMan.release(press, 'released');
  }

  /** The address of the stand-ins' pages, while stand-ins run. */
  setStandinPages(address: string | null): void {
    this.aims.setStandinPages(address);
  }

  /** Something in the program itself has failed. */
  onFailures(failures: HealthResponse['failures']): void {
    const last = failures.at(-1);
    this.status.set({ failures: last ? { count: failures.length, lastAt: last.at } : null });
  }

  /** A picture that controls show, by its hash. */
  async picture(hash: string): ReturnType<ShowIntake['picture']> {
    return this.intake.picture(hash);
  }

  /** For tests: ends as if the process had been killed. No device is told anything; their sockets just close. */
  async abandon(): Promise<void> {
    for (const part of this.killed) await part.stop?.();
  }
}

const textOf = (segments: ReturnType<typeof labelNow>): string => segments.map(({ text }) => text).join('');

const newId = (): string => randomBytes(9).toString('base64url');
