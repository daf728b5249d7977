import { goesToMany, whatItSays, type CompiledDriver, type DriverDocument } from '../../core/driver';
import {
  ExchangeRecorder,
  heldHere,
  judgeAddress,
  judgeComputer,
  judgeHttpAnswer,
  routerTo,
  judgeIdentity,
  judgePort,
  judgeProtocol,
  judgeReports,
  judgeRoute,
  judgeSharedAddress,
  judgeLocalPort,
  judgeOpening,
  judgeSignIn,
  type ExchangeLine,
  type Network,
  type StageName,
  type Verdict,
} from '../../core/diagnosis';
import type { Link } from '../../core/session';
import { fromHex } from '../../core/wire';
import { signsIn } from '../../core/show';
import type { OnWire } from '../record/wire-log';
import type { Prober } from './prober-client';
import { identityOf } from './identity-finding';
import { OtherAnswers } from './other-answers';
import { timeRoundTrips } from './round-trips';
import type { Fresh, TestTarget } from './test-target';
import { longestTryMs, TestSession } from './test-session';

export interface StageReport {
  readonly stage: StageName;
  readonly ms: number;
  readonly verdict: Verdict;
}

/** What a test has learned besides its verdicts. */
interface Learned {
  /** What the device said of itself, once that is known. */
  readonly says: { readonly model?: string; readonly firmware?: string } | undefined;
  /** How the conversation with it began. */
  readonly exchange: readonly ExchangeLine[];
}

const portTimeoutMs = 1200;
const otherTimeoutMs = 400;
const listenMs = 1500;

/**
 * Tests a connection stage by stage, telling each as it ends; stops at the first that fails, after `last`, or when the signal
 * says so.
 */
export async function testConnection(
  target: TestTarget,
  prober: Prober,
  tell: (report: StageReport) => void,
  signal: AbortSignal,
  last: StageName = 'reports',
): Promise<Learned | undefined> {
  const test = new Test(target, prober, signal);
  try {
    for (const [stage, work] of test.stages()) {
      const startedAt = performance.now();
      const verdict = await work();
      if (signal.aborted) return undefined;
      tell({ stage, ms: performance.now() - startedAt, verdict });
      if (verdict.is === 'failed' || stage === last) break;
    }
    return { says: test.says, exchange: test.exchange };
  } finally {
    test.end();
  }
}

class Test {
  private network: Network = { interfaces: [], gateways: undefined };
  private address = '';
  private reached: { readonly port: 'open' | 'refused' | 'silent' | 'unreachable' | 'closed-at-once' } | undefined;
  private computerSeen = false;
  private session: TestSession | undefined;
  private link: Link | undefined;
  private resume: (() => void) | undefined;
  private unlisten: (() => void) | undefined;
  private readonly others: OtherAnswers;
  private readonly recorder = new ExchangeRecorder();

  constructor(
    private readonly target: TestTarget,
    private readonly prober: Prober,
    private readonly signal: AbortSignal,
  ) {
    this.others = new OtherAnswers(target, prober, signal);
  }

  *stages(): Generator<readonly [StageName, () => Promise<Verdict>]> {
    yield ['address', () => this.testAddress()];
    // Between this computer and a port of its own there is no network.
    if (this.isInternal) {
      // What is not in the rig yet has nothing that could be asked.
      if (!this.target.own) return;
    } else if (this.isLocal) {
      yield ['port', () => this.testLocalPort()];
    } else if (!this.goesToMany) {
      yield ['route', () => this.testRoute()];
      yield ['computer', () => this.testComputer()];
      yield ['port', () => this.testPort()];
    }
    yield ['protocol', () => this.testProtocol()];
    yield ['signIn', () => Promise.resolve(this.testSignIn())];
    yield ['identity', () => this.testIdentity()];
    yield ['roundTrip', () => this.testRoundTrip()];
    yield ['reports', () => this.testReports()];
  }

  end(): void {
    this.session?.end();
    this.resume?.();
    this.resume = undefined;
    this.unlisten?.();
    this.unlisten = undefined;
  }

  get exchange(): readonly ExchangeLine[] {
    return this.recorder.lines;
  }

  private readonly onWire: OnWire = (dir, bytes, _note, about) => {
    if (dir !== 'note') this.recorder.take(dir, bytes, performance.now(), about?.name);
  };

  get says(): Learned['says'] {
    const { driver } = this.target;
    return driver && this.link ? whatItSays(driver.document, this.fresh) : undefined;
  }

  private get kind(): 'tcp' | 'udp' {
    return this.target.driver?.document.link.kind === 'udp' ? 'udp' : 'tcp';
  }

  private async testAddress(): Promise<Verdict> {
    const { host, enabled, driver, sharedWith, through } = this.target;
    if (!enabled) {
      return {
        is: 'failed',
        trouble: 'switched-off',
        seen: 'It is switched off in the rig.',
        mends: [{ do: 'enable' }],
      };
    }
    if (!driver) return { is: 'failed', trouble: 'driver-missing', seen: 'Its driver cannot be used here.' };
    if (this.isInternal) return { is: 'passed', seen: 'It runs in this program.' };
    if (this.isLocal) return this.testLocalAddress();
    this.network = await this.prober.ask({ do: 'network' }, this.signal);
    if (host === '')
      return this.asGateway(judgeAddress({ host, addresses: [], error: undefined, network: this.network, sharedWith }));
    const { addresses, error } = await this.prober.ask({ do: 'address', host }, this.signal);
    this.address = addresses[0] ?? '';
    const verdict = this.goesToMany
      ? judgeSharedAddress({ address: this.address, delivery: driver.document.link.delivery, sharedWith })
      : judgeAddress({ host, addresses, error, network: this.network, sharedWith });
    return through === undefined ? verdict : this.asGateway(verdict);
  }

  private get goesToMany(): boolean {
    const { driver } = this.target;
    return driver !== undefined && goesToMany(driver.document);
  }

  /** It is a service of this program. */
  private get isInternal(): boolean {
    return this.linkKind === 'internal';
  }

  /** It is at a port of this computer. */
  private get isLocal(): boolean {
    return this.target.through === undefined && (this.linkKind === 'serial' || this.linkKind === 'midi');
  }

  private get linkKind(): DriverDocument['link']['kind'] | undefined {
    return this.target.driver?.document.link.kind;
  }

  private async testLocalAddress(): Promise<Verdict> {
    const { host, sharedWith } = this.target;
    this.address = host;
    const isMidi = this.linkKind === 'midi';
    const { ports } = await this.prober.ask({ do: isMidi ? 'midiPorts' : 'serialPorts' }, this.signal);
    return judgeLocalPort({ kind: isMidi ? 'MIDI' : 'serial', path: host, ports, sharedWith });
  }

  /** Opens the port for a moment, unless the rig has it open. */
  private async testLocalPort(): Promise<Verdict> {
    const { own, live, interrupt, driver, host } = this.target;
    if (own) return { is: 'passed', seen: `The rig has ${host} open.` };
    if (this.isHeld) return heldHere();
    this.resume = live !== 'no' && !interrupt ? undefined : this.target.suspend();
    const failed = driver && (await this.openLocal(driver));
    return failed ?? { is: 'passed', seen: `${host} opens.` };
  }

  /** Opens the port; the session is used by the next stages. Returns a verdict if it failed. */
  private async openLocal(driver: CompiledDriver): Promise<Verdict | undefined> {
    const { user, password, port, host } = this.target;
    this.session = new TestSession({ driver, host, port, user, password }, this.onWire);
    this.link = await this.session.call(longestTryMs(driver), this.signal);
    return judgeOpening(this.link.cause, host);
  }

  /** What keeps from reaching the gateway says nothing about the device behind it. */
  private asGateway(verdict: Verdict): Verdict {
    const { through } = this.target;
    if (through === undefined) return verdict;
    const seen = `${through}: ${verdict.seen}`;
    return verdict.is === 'failed' && verdict.trouble !== 'used-twice'
      ? { is: 'failed', trouble: 'gateway-fails', seen }
      : { ...verdict, seen };
  }

  private async testRoute(): Promise<Verdict> {
    const { address, network } = this;
    const { from } = await this.prober.ask({ do: 'route', address }, this.signal);
    const router = routerTo(address, network);
    const answers = router === undefined ? 'not-asked' : await this.askRouter(router);
    return this.asGateway(judgeRoute({ address, network, from, router: answers }));
  }

  private async askRouter(address: string): Promise<'answered' | 'silent' | 'not-asked'> {
    const order = { do: 'reach', address, kind: 'tcp', timeoutMs: portTimeoutMs } as const;
    const { ping, neighbour } = await this.prober.ask(order, this.signal);
    if (ping === 'answered' || neighbour === 'known') return 'answered';
    // Many routers ignore pings. Only a missing neighbour entry proves that nobody has the address.
    return neighbour === 'missing' ? 'silent' : 'not-asked';
  }

  private async testComputer(): Promise<Verdict> {
    const { address, kind, network } = this;
    // A port that is known to be open is left alone: some devices take only one connection.
    const { own, live, interrupt } = this.target;
    const port = own || this.isHeld ? undefined : this.target.port;
    // A live connection is never touched by a test of what is typed, unless a person asks for that.
    this.resume = own || (live !== 'no' && !interrupt) ? undefined : this.target.suspend();
    const reached = await this.prober.ask(
      { do: 'reach', address, kind, timeoutMs: portTimeoutMs, ...(port === undefined ? {} : { port }) },
      this.signal,
    );
    this.reached = reached;
    const verdict = this.asGateway(judgeComputer({ ...reached, kind, address, network }));
    this.computerSeen = verdict.is === 'passed';
    return verdict;
  }

  /** The place that is tested is held by the live connection of the rig. */
  private get isHeld(): boolean {
    return this.target.live === 'same place' && !this.target.interrupt;
  }

  private async testPort(): Promise<Verdict> {
    const { kind, address } = this;
    const { port, otherPorts, otherDrivers, liveAt } = this.target;
    const answer = this.reached?.port ?? 'silent';
    if (answer !== 'refused')
      return this.asGateway(judgePort({ kind, port, answer, answersAt: [], openPorts: [], otherDrivers: [] }));
    // Where the live connection is, the device answers; another connection could take its only place.
    const live = liveAt?.isAlike && liveAt.port !== port ? [liveAt.port] : [];
    const others = otherPorts.filter((each) => each !== port && each !== liveAt?.port);
    const { open } = await this.prober.ask(
      { do: 'ports', address, ports: others, timeoutMs: otherTimeoutMs },
      this.signal,
    );
    const tries = kind === 'udp' ? others : open;
    const answered = await Promise.all(
      tries.slice(0, 8).map((each) => this.others.answersAs(this.target.driver, address, each)),
    );
    const asOther = await Promise.all(
      otherDrivers
        .filter((each) => each.document.role === this.target.driver?.document.role)
        .map((each) => this.others.answersAs(each, address, port)),
    );
    return this.asGateway(
      judgePort({
        kind,
        port,
        answer,
        answersAt: [...live, ...tries.filter((_, n) => answered[n])],
        openPorts: kind === 'udp' ? [] : open,
        otherDrivers: otherDrivers
          .filter((each) => each.document.role === this.target.driver?.document.role)
          .filter((_, n) => asOther[n])
          .map(({ document: { id, title } }) => ({ id, title })),
      }),
    );
  }

  private async testProtocol(): Promise<Verdict> {
    const { driver, own, host, port, user, password, through, otherDrivers } = this.target;
    if (!driver) throw new Error('A test without a driver ends at its address.');
    if (this.isHeld) return heldHere();
    const base = {
      greeting: undefined,
      otherDrivers: [],
      cause: undefined,
      heard: new Uint8Array(),
      through: through !== undefined,
      computerSeen: this.computerSeen,
      serial: this.linkKind === 'serial' && this.isLocal ? { path: host, settings: lineText(driver) } : undefined,
      unfit: undefined,
    };
    if (own) {
      this.link = own.link;
      const answer = own.link.word === 'not checked' ? await this.testWebServer(driver) : undefined;
      if (answer) return answer;
      const upForMs = own.link.word === 'up' ? Date.now() - own.since : undefined;
      return judgeProtocol({ ...base, link: own.link, understood: true, upForMs });
    }
    const session =
      this.session ?? new TestSession({ driver, host: this.address, port, user, password, through }, this.onWire);
    const link = this.link ?? (await session.call(longestTryMs(driver), this.signal));
    this.session = session;
    this.link = link;
    const { heard, evidence } = session;
    const { unfit } = session.session.counts;
    const understood = evidence.understood || link.word === 'up';
    if (link.word === 'not checked') {
      const verdict = await this.testWebServer(driver);
      if (verdict) return verdict;
    }
    const finding = { ...base, unfit, link, cause: link.cause, understood, upForMs: undefined };
    if ((understood && link.cause !== 'wrong-greeting') || link.word !== 'down')
      return judgeProtocol({ ...finding, heard });
    // Other drivers cannot be tried on a serial port that is open.
    if (this.isLocal) return judgeProtocol({ ...finding, heard });
    const [own1, others] = await Promise.all([
      this.others.listen(heard, this.address, this.kind),
      this.others.answeredBy(otherDrivers, heard, this.address),
    ]);
    const greeting = plainBeginning(driver);
    return judgeProtocol({ ...finding, heard: own1, greeting, otherDrivers: others });
  }

  /** Sends a plain GET request to a device for which the driver has no question. */
  private async testWebServer({ document: { link } }: CompiledDriver): Promise<Verdict | undefined> {
    if (link.kind !== 'http' || link.secure) return undefined;
    const { port, password } = this.target;
    const order = { do: 'listen', address: this.address, port, timeoutMs: listenMs } as const;
    const { heard } = await this.prober.ask(order, this.signal);
    const bytes = fromHex(heard);
    return judgeHttpAnswer(bytes.ok ? bytes.value : new Uint8Array(), password !== '');
  }

  private testSignIn(): Verdict {
    const { driver, password } = this.target;
    const link = this.link ?? { word: 'down' as const };
    return judgeSignIn({
      link,
      signsIn: driver !== undefined && signsIn(driver.document),
      hasPassword: password !== '',
      unfit: this.session?.session.counts.unfit,
    });
  }

  private get fresh(): Fresh {
    return this.target.own?.fresh ?? ((key) => this.session?.fresh(key));
  }

  private async testIdentity(): Promise<Verdict> {
    const { driver, otherDrivers, through, options } = this.target;
    if (!driver) throw new Error('A test without a driver ends at its address.');
    const { document } = driver;
    const helpers = through === undefined && !this.isLocal ? [...document.helpers, ...this.target.helpers] : [];
    const ports = helpers.map(({ port }) => port);
    const { open } =
      ports.length === 0
        ? { open: [] }
        : await this.prober.ask({ do: 'ports', address: this.address, ports, timeoutMs: portTimeoutMs }, this.signal);
    return judgeIdentity({
      ...identityOf(driver, options, this.fresh),
      driversForModel: otherDrivers
        .filter((each) =>
          each.document.identity.models?.includes(String(this.fresh(document.identity.model ?? '') ?? '')),
        )
        .map(({ document: { id, title } }) => ({ id, title })),
      helpersMissing: helpers.filter(({ port }) => !open.includes(port)).map(({ title }) => title),
    });
  }

  private testRoundTrip(): Promise<Verdict> {
    const { own } = this.target;
    // Of a connection that was there before, what is said while the test asks.
    this.unlisten = own?.listen(this.onWire);
    const session = own?.session ?? this.session?.session;
    return timeRoundTrips(session, this.target.through !== undefined, this.signal);
  }

  private async testReports(): Promise<Verdict> {
    const { driver, own } = this.target;
    const session = own?.session ?? this.session?.session;
    const oneWay = this.link?.word === 'one-way';
    const startedAt = own?.since ?? Date.now();
    if (!own && !oneWay) await new Promise((resolve) => setTimeout(resolve, listenMs));
    const { unasked = 0, answers = 0, unfitting = 0, unfit, unmatched = 0 } = session?.counts ?? {};
    const polls = (driver?.document.polls.length ?? 0) > 0;
    const listenedMs = Date.now() - startedAt;
    return judgeReports({ unasked, answers, unfitting, unfit, unmatched, listenedMs, polls, oneWay });
  }
}

const lineText = ({ document: { link } }: CompiledDriver): string =>
  [link.serial?.baudRate ?? 9600, link.serial?.format ?? '8N1'].join(' ');

/** The plain text that a driver's greeting begins with; `undefined` where the device does not greet or not in plain text. */
function plainBeginning({ document }: CompiledDriver): string | undefined {
  const [first] = document.greeting;
  const pattern = first && 'expect' in first ? first.expect : undefined;
  return pattern && /^\^([A-Za-z0-9 ]+)/.exec(pattern)?.[1];
}
