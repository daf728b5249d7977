import { placeOf, signInOf, type CompiledDriver, type DriverDocument, type DriverShelf } from '../../core/driver';
import type { Network, LocalPortInfo } from '../../core/diagnosis';
import type { Aim, DeviceStatus, DriverTrialLine, FindLine, TestLine } from '../../core/live';
import { isWell } from '../../core/session';
import type { candidateSchema, driverTrialSchema, findRequestSchema, testRequestSchema } from '../../core/live';
import type { DeviceRecord } from '../../core/show';
import type { z } from 'zod';
import { testConnection } from './connection-test';
import { tryDocument } from './driver-trial';
import type { TestTarget } from './test-target';
import type { DeviceSession } from '../devices/device-session';
import { unusedBeside } from './unused-address';
import { findDevices, genericIds } from './find-devices';
import type { Prober } from './prober-client';
import type { ReadingStore } from '../devices/readings';
import type { OnWire } from '../record/wire-log';
import type { RunningShow } from '../show/running-show';

interface ToolSources {
  readonly show: RunningShow;
  readonly shelf: DriverShelf;
  readonly sessions: ReadonlyMap<string, DeviceSession>;
  readonly statuses: ReadonlyMap<string, DeviceStatus>;
  readonly prober: Prober;
  readonly passwordOf: (device: string) => string;
  readonly aimNow: () => Aim;
  /** Puts a sentence into the as-run. */
  readonly note: (text: string) => void;
  readonly readings: ReadingStore;
  /** Hears a device's bytes until what is returned is called. */
  readonly listenTo: (device: string, onWire: OnWire) => () => void;
  /** A device's remembered hardware address. */
  readonly macOf: (device: string) => string | undefined;
}

/** How many devices are tested at a time. */
export const testsAtOnce = 25;

/** What looks at the network for the desk: connection tests and searches. Nothing of it is remembered. */
export class NetworkTools {
  constructor(private readonly sources: ToolSources) {}

  network(): Promise<Network> {
    return this.sources.prober.ask({ do: 'network' });
  }

  async serialPorts(): Promise<readonly LocalPortInfo[]> {
    return (await this.sources.prober.ask({ do: 'serialPorts' })).ports;
  }

  async midiPorts(): Promise<readonly LocalPortInfo[]> {
    return (await this.sources.prober.ask({ do: 'midiPorts' })).ports;
  }

  /** Tests devices of the rig, or one that is being typed. A device that is not there is left out. */
  async test(
    { devices: tags, candidate, last, interrupt, beside }: z.output<typeof testRequestSchema>,
    tell: (line: TestLine) => void,
    signal: AbortSignal,
  ): Promise<void> {
    if (candidate) {
      const typed = { ...this.targetOf(candidate), interrupt };
      const { id = '' } = candidate;
      const target = beside ? await this.unusedTarget(typed, signal) : typed;
      if (!target) {
        const seen = 'No unused address was found beside this one.';
        tell({ device: id, tag: '', stage: 'address', ms: 0, verdict: { is: 'not-possible', seen } });
        return tell({ device: id, tag: '' });
      }
      return this.run({ id, tag: '', target }, tell, signal, last);
    }
    const { show } = this.sources;
    const chosen = [...show.devices.values()].filter(({ data }) => tags === undefined || tags.includes(data.tag));
    const waiting = chosen.map(({ id, data }) => ({ id, tag: data.tag, record: { id, data } }));
    const worker = async () => {
      for (let next = waiting.shift(); next && !signal.aborted; next = waiting.shift()) {
        const { id, tag, record } = next;
        await this.run({ id, tag, target: this.targetOfDevice(record) }, tell, signal, last);
      }
    };
    await Promise.all(Array.from({ length: testsAtOnce }, worker));
  }

  /** Tries a driver document that is not installed, at a device of the rig or at an address. */
  async tryDocument(
    request: z.output<typeof driverTrialSchema>,
    tell: (line: DriverTrialLine) => void,
    signal: AbortSignal,
  ): Promise<void> {
    const record = request.device === undefined ? undefined : this.sources.show.devices.get(request.device);
    const refuse = (code: 'no-device' | 'not-live', message: string) => tell({ t: 'refused', code, message });
    if (this.sources.aimNow() !== 'live')
      return refuse(
        'not-live',
        'The aim is not live, so nothing is sent. Set the aim to live to try a driver at a device.',
      );
    const base = { driver: '', enabled: true, options: {}, user: '', host: '', port: 1 };
    const target = record
      ? this.targetOfDevice(record)
      : request.at && this.targetOf({ ...base, ...request.at, options: request.at.options });
    if (!target || target.host === '') return refuse('no-device', 'Choose a device or type an address.');
    const { host, port, user, password, options, through, suspend, live, own } = target;
    const isHeld = own !== undefined || live === 'same place' || target.sharedWith.length > 0;
    const tag = record?.data.tag ?? target.sharedWith[0] ?? '';
    const place = { host, port, user, password, options, suspend, ...(isHeld ? { heldBy: tag } : {}) };
    const noted = (line: DriverTrialLine) => {
      // Everything that is sent to a device is recorded.
      if (line.t === 'ended') this.sources.note(trialNote(request, tag || `${host}:${port}`, line.outcome));
      tell(line);
    };
    return tryDocument(request, { ...place, ...(through === undefined ? {} : { through }) }, noted, signal);
  }

  /** The same device at an address that nobody has; `undefined` if none was found. */
  private async unusedTarget(target: TestTarget, signal: AbortSignal): Promise<TestTarget | undefined> {
    const { prober, show } = this.sources;
    const { interfaces, gateways } = await prober.ask({ do: 'network' }, signal);
    const rig = [...show.devices.values()].map(({ data }) => data.host);
    const used = new Set([...rig, ...[...interfaces, ...(gateways ?? [])].map(({ address }) => address)]);
    const place = await unusedBeside(target, used, prober, signal);
    const alone = {
      sharedWith: [],
      own: undefined,
      live: 'no',
      liveAt: undefined,
      otherPorts: [],
      enabled: true,
    } as const;
    return place && { ...target, ...place, ...alone, suspend: () => () => undefined };
  }

  find(
    request: z.output<typeof findRequestSchema>,
    tell: (line: FindLine) => void,
    signal: AbortSignal,
  ): Promise<void> {
    const { show, shelf, prober, statuses, readings, macOf } = this.sources;
    const wanted = request.drivers;
    const drivers = this.drivers().filter(({ document }) => !wanted || wanted.includes(document.id));
    const rig = [...show.devices.values()].map((record) => ({
      record,
      document: show.driverOf(record)?.document,
      link: statuses.get(record.id)?.link.word ?? 'off',
      mac: macOf(record.id),
      // However long ago it was reported.
      last: (key: string) => readings.get({ device: record.id, key })?.value,
    }));
    const generic = genericIds.flatMap((id) => shelf.for({ driver: id }) ?? []);
    return findDevices({ range: request.range, ports: request.ports, drivers, generic, rig }, prober, tell, signal);
  }

  private async run(
    { id, tag, target }: { readonly id: string; readonly tag: string; readonly target: TestTarget },
    tell: (line: TestLine) => void,
    signal: AbortSignal,
    last: z.output<typeof testRequestSchema>['last'],
  ): Promise<void> {
    const learned = await testConnection(
      target,
      this.sources.prober,
      ({ stage, ms, verdict }) => tell({ device: id, tag, stage, ms, verdict }),
      signal,
      last,
    );
    const { says, exchange } = learned ?? {};
    tell({ device: id, tag, ...(says ? { says } : {}), ...(exchange ? { exchange } : {}) });
  }

  private targetOfDevice({ id, data }: Pick<DeviceRecord, 'id' | 'data'>): TestTarget {
    const { driver, host, port, user, options, through, enabled } = data;
    const base = { id, driver, host, port, user, options, enabled, password: undefined };
    return this.targetOf(through ? { ...base, through: through.device } : base, data.additions);
  }

  private targetOf(
    candidate: z.output<typeof candidateSchema>,
    additions?: DeviceRecord['data']['additions'],
  ): TestTarget {
    const { show, shelf, sessions, statuses, passwordOf, readings } = this.sources;
    const { id, driver: driverId, port, user, options, enabled } = candidate;
    const driver = shelf.for({ driver: driverId, options, ...(additions ? { additions } : {}) });
    const gateway = candidate.through === undefined ? undefined : show.devices.get(candidate.through);
    const host = candidate.through === undefined ? candidate.host : (gateway?.data.host ?? '');
    const saved = id === undefined ? undefined : show.devices.get(id);
    const session = id === undefined ? undefined : sessions.get(id);
    const status = id === undefined ? undefined : statuses.get(id);
    const typed = candidate.password ?? (id === undefined ? '' : passwordOf(id));
    const signIn = signInOf(driver?.document, { user, password: typed });
    // What is typed may be another device than the one that is connected.
    const asSaved =
      saved?.data.host === candidate.host &&
      saved.data.port === port &&
      saved.data.driver === driverId &&
      saved.data.user === user &&
      candidate.password === undefined;
    const up = status !== undefined && isWell(status.link.word);
    const isLive = up || status?.link.word === 'silent';
    const own =
      asSaved && up && session
        ? {
            session,
            link: status.link,
            since: status.since,
            fresh: (key: string) => readings.fresh(saved.id, key),
            listen: (onWire: OnWire) => this.sources.listenTo(saved.id, onWire),
          }
        : undefined;
    const kind = driver?.document.link.kind;
    const others = this.drivers().filter(({ document }) => document.id !== driverId);
    return {
      driver,
      host,
      port,
      ...signIn,
      through: candidate.through === undefined ? undefined : (gateway?.data.tag ?? '?'),
      enabled,
      options,
      helpers: saved?.data.helpers ?? [],
      sharedWith: this.sharedWith(id, host, port, driver?.document),
      otherPorts: this.portsOf(kind, driver, port).filter(
        (each) => this.sharedWith(id, host, each, driver?.document).length === 0,
      ),
      otherDrivers: others,
      own,
      live:
        !isLive || asSaved
          ? 'no'
          : saved?.data.host === candidate.host && saved.data.port === port
            ? 'same place'
            : 'elsewhere',
      liveAt:
        isLive && saved?.data.host === host
          ? { port: saved.data.port, isAlike: saved.data.driver === driverId }
          : undefined,
      interrupt: false,
      suspend: () => {
        session?.stop();
        // The device may have been changed or taken out of the rig meanwhile.
        return () => id !== undefined && session && sessions.get(id) === session && session.start();
      },
    };
  }

  /** Every driver at hand that is for one kind of device. */
  private drivers(): CompiledDriver[] {
    const { shelf } = this.sources;
    return shelf.ids.filter((id) => !id.startsWith('generic-')).flatMap((id) => shelf.for({ driver: id }) ?? []);
  }

  /** Others of the rig that stand at the same address and port and do not go through a gateway. */
  private sharedWith(
    self: string | undefined,
    host: string,
    port: number,
    document: DriverDocument | undefined,
  ): string[] {
    const { show } = this.sources;
    const place = placeOf(document, host, port);
    return [...show.devices.values()]
      .filter((other) => {
        const { id, data } = other;
        if (id === self || data.through || host === '' || place === undefined) return false;
        return placeOf(show.driverOf(other)?.document, data.host, data.port) === place;
      })
      .map(({ data }) => data.tag);
  }

  /** The ports where a device may be instead: the driver's own, those close to a mistyped one, those of other drivers and of the rig. */
  private portsOf(kind: string | undefined, driver: CompiledDriver | undefined, typed: number): number[] {
    const alike = (other: string) => (other === 'udp') === (kind === 'udp');
    const known = this.drivers().filter(({ document }) => alike(document.link.kind));
    const used = [...this.sources.show.devices.values()].map(({ data }) => data.port);
    const close = Array.from({ length: 21 }, (_, n) => typed - 10 + n).filter((port) => port > 0 && port <= 65_535);
    const ports = [driver?.document.link.port, ...close, ...known.map(({ document }) => document.link.port), ...used];
    return [...new Set(ports.filter((port): port is number => port !== undefined && port > 0))].slice(0, 80);
  }
}

const trialNote = ({ command }: z.output<typeof driverTrialSchema>, at: string, outcome: string): string =>
  `The workbench sent ${command ? `“${command.id}”` : 'bytes'} to ${at}: ${outcome}.`;
