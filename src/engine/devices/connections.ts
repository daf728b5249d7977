import { identityRemark, signInOf, whatItSays, type CompiledDriver, type DeviceRequest } from '../../core/driver';
import type { DeviceStatus } from '../../core/live';
import { gradesOf, noEvidence, type Evidence, type Link } from '../../core/session';
import type { DeviceRecord } from '../../core/show';
import { DeviceSession } from './device-session';
import type { InternalEnd } from './links';
import type { LinkChange, ShowChange } from '../parts';
import { ReadSlices } from './read-slices';
import type { ReadingStore } from './readings';
import type { Aims } from '../aim/aims';
import type { RunningShow } from '../show/running-show';
import type { WireLog } from '../record/wire-log';

interface Sources {
  readonly show: RunningShow;
  readonly readings: ReadingStore;
  readonly passwordOf: (device: string) => string;
  /** A driver that is here, with or without mistakes. */
  readonly isKnownDriver: (driver: string) => boolean;
  readonly aims: Aims;
  readonly wire: WireLog;
  /** The service of this program that a device is, if it is one; of a rehearsal its own. */
  readonly internalOf: (device: string, service: string, isRehearsed: boolean) => InternalEnd;
  readonly onLink: (change: LinkChange) => void;
  /** A device has answered after so many milliseconds, or has not answered so many times. Must be quick. */
  readonly onAnswer: (device: string, ms: number) => void;
  readonly onUnanswered: (device: string, count: number) => void;
}

/** Who hears of the connections. */
interface ConnectionListener {
  /** The device can be spoken to again; its state has not been asked for yet. */
  readonly onReady?: (device: string) => void;
  /** The connection is about to be closed; the device can still be told something. */
  readonly onLeaving?: (device: string) => void;
  /** The device is no longer in the rig. */
  readonly onGone?: (device: string) => void;
  /** A device that is gone has no status. */
  readonly onStatus?: (device: string, status: DeviceStatus | undefined) => void;
  /** The device asks for something itself. */
  readonly onRequest?: (device: string, request: DeviceRequest) => void;
  /** It is reached in a different way now. */
  readonly onReached?: (device: string) => void;
}

/** The connections to the devices of the show: who is called where, how far that has come, and what is to be said of it. */
export class Connections {
  readonly sessions = new Map<string, DeviceSession>();
  readonly statuses = new Map<string, DeviceStatus>();
  private readonly evidence = new Map<string, Evidence>();
  private readonly readSlices = new ReadSlices();

  private readonly listeners: ConnectionListener[] = [];

  constructor(private readonly sources: Sources) {
    sources.aims.listen({ onReopen: (devices) => devices.forEach((device) => this.open(device.id, device)) });
  }

  listen(listener: ConnectionListener): void {
    this.listeners.push(listener);
  }

  onShow(change: ShowChange): void {
    if (change.kind === 'device') this.onDevice(change.id, change.now, change.before);
  }

  /** What a device says of itself may have changed. */
  onReadings(device: string, keys: readonly string[]): void {
    const record = this.sources.show.devices.get(device);
    const driver = record && this.sources.show.driverOf(record);
    if (record && driver && keys.some((key) => driver.identityKeys.has(key))) this.checkIdentity(record, driver);
  }

  isUp(device: string): boolean {
    return this.statuses.get(device)?.link.word === 'up';
  }

  /** True for one that is spoken to, whether or not it answers. */
  isReached(device: string): boolean {
    return ['up', 'one-way'].includes(this.statuses.get(device)?.link.word ?? '');
  }

  /** Connects a device again: its password or its driver has changed. */
  reopen(device: DeviceRecord): void {
    this.open(device.id, device);
    this.tell('onReached', device.id);
  }

  stop(): void {
    for (const session of this.sessions.values()) session.stop();
  }

  /** A device is new, another, or gone. */
  private onDevice(id: string, now: DeviceRecord | undefined, before: DeviceRecord | undefined): void {
    if (!now) {
      this.tell('onLeaving', id);
      this.sessions.get(id)?.stop();
      this.sessions.delete(id);
      this.tell('onGone', id);
      this.statuses.delete(id);
      this.evidence.delete(id);
      this.sources.readings.drop(id);
      for (const each of this.listeners) each.onStatus?.(id, undefined);
    } else if (!before || !isReachedAlike(now, before)) {
      this.open(id, now);
      this.tell('onReached', id);
    } else {
      const status = this.statuses.get(id);
      if (status) this.setStatus(id, { ...status, tag: now.data.tag, name: now.data.name, role: now.data.role });
    }
    // Devices behind this one are reached at its address.
    if (now?.data.host === before?.data.host) return;
    for (const [other, device] of this.sources.show.devices) {
      if (device.data.through?.device === id) this.open(other, device);
    }
  }

  /** Reaches a device anew, at the place that it has now. */
  private open(id: string, device: DeviceRecord): void {
    const { data } = device;
    // At the start there is nobody to be let go; what is due later stays so.
    if (this.sessions.has(id)) this.tell('onLeaving', id);
    this.sessions.get(id)?.stop();
    this.sessions.delete(id);
    // Another address may be another device: what was known of the one before says nothing about it.
    this.sources.readings.drop(id);
    this.evidence.set(id, noEvidence);
    const gateway = data.through && this.sources.show.devices.get(data.through.device);
    const host = data.through ? gateway?.data.host : data.host;
    const base = {
      tag: data.tag,
      name: data.name,
      role: data.role,
      since: Date.now(),
      through: data.through && (gateway?.data.tag ?? '?'),
    };
    const idle = (link: Link) => this.setStatus(id, { ...base, link, grades: gradesOf(link, noEvidence) });
    const driver = this.sources.show.driverOf(device);
    if (!data.enabled) return idle({ word: 'off' });
    if (!driver) {
      return idle({ word: 'down', cause: this.sources.isKnownDriver(data.driver) ? 'bad-driver' : 'no-driver' });
    }
    const staged = this.sources.aims.placeOf(id);
    const place = staged?.place;
    const { service } = driver.document.link;
    const internal = service === undefined ? undefined : this.sources.internalOf(id, service, staged !== undefined);
    if (staged && !place && !internal)
      return idle({ word: 'off', detail: 'Nothing stands in for a device with this driver: it is not rehearsed.' });
    if (!host && !place && !internal)
      return idle({ word: 'off', detail: data.through ? 'Its gateway is missing.' : 'It has no address yet.' });
    idle({ word: 'calling' });
    const own = { user: data.user, password: this.sources.passwordOf(id) };
    const { user, password } = place ?? signInOf(driver.document, own);
    const session: DeviceSession = new DeviceSession(
      {
        host: place?.host ?? host ?? '',
        port: place?.port ?? data.port,
        user,
        password,
        driver,
        through: base.through,
        internal,
      },
      {
        onLink: (link) => this.onSessionLink(id, link),
        onReadings: (changes, clears) => this.sources.readings.report(id, changes, Date.now(), clears),
        onWire: (dir, bytes, note, about) => this.sources.wire.record(id, dir, bytes, note, about),
        onEvidence: (evidence) => this.onEvidence(id, evidence),
        freshReading: (key) => this.sources.readings.fresh(id, key),
        onAnswer: (ms) => this.sources.onAnswer(id, ms),
        onUnanswered: (count) => this.sources.onUnanswered(id, count),
        onRequest: (request) => this.listeners.forEach((each) => each.onRequest?.(id, request)),
        payOwed: () => this.tell('onReady', id),
      },
      this.readSlices,
    );
    this.sessions.set(id, session);
    session.start();
  }

  private onEvidence(id: string, evidence: Evidence): void {
    this.evidence.set(id, evidence);
    const status = this.statuses.get(id);
    if (!status) return;
    const grades = gradesOf(status.link, evidence);
    if (JSON.stringify(grades) !== JSON.stringify(status.grades)) this.setStatus(id, { ...status, grades });
  }

  private onSessionLink(id: string, link: Link): void {
    const status = this.statuses.get(id);
    if (!status) return;
    const before = status.link;
    if (link.word === 'silent') this.sources.readings.setFreshness(id, 'stale', 'fresh');
    else if (link.word === 'up') this.sources.readings.setFreshness(id, 'fresh', 'stale');
    // Also what was reported while its state was being fetched: the connection may have broken before it was up.
    else if (withoutConnection.has(link.word)) this.sources.readings.setFreshness(id, 'unknown');
    const isPassing = link.word === 'calling' || link.word === 'signing in' || link.word === 'syncing';
    const evidence = this.evidence.get(id) ?? noEvidence;
    // A datagram leaves without anybody being there: that alone is no step forward.
    const retrying = before.word === 'down' && isPassing && !evidence.connected && !evidence.heard;
    // While a device stays down for the same reason the screens keep saying so, instead of flickering at each try.
    if (retrying || (link.word === 'down' && before.word === 'down' && link.cause === before.cause)) return;
    const grades = gradesOf(link, evidence);
    this.setStatus(id, { ...status, link, grades, since: Date.now() });
    this.sources.onLink({ device: id, status: { ...status, link }, before: before.word, isPassing });
  }

  /** Sets the state of a device's helper programs; `undefined` if unknown. */
  setHelpers(id: string, helpers: DeviceStatus['helpers']): void {
    const status = this.statuses.get(id);
    if (!status || JSON.stringify(status.helpers) === JSON.stringify(helpers)) return;
    this.setStatus(id, { ...status, helpers });
  }

  /** Sets the address at which a device's hardware was seen while it is down. */
  setMovedTo(id: string, movedTo: DeviceStatus['movedTo']): void {
    const status = this.statuses.get(id);
    if (status && status.movedTo !== movedTo) this.setStatus(id, { ...status, movedTo });
  }

  /** Sets which other device's hardware answers at this one's address. */
  setAnswersAs(id: string, answersAs: DeviceStatus['answersAs']): void {
    const status = this.statuses.get(id);
    if (status && status.answersAs !== answersAs) this.setStatus(id, { ...status, answersAs });
  }

  private setStatus(id: string, status: DeviceStatus): void {
    this.statuses.set(id, status);
    for (const each of this.listeners) each.onStatus?.(id, status);
  }

  private tell(what: 'onReady' | 'onLeaving' | 'onGone' | 'onReached', device: string): void {
    for (const each of this.listeners) each[what]?.(device);
  }

  /** What the device says of itself may not go with its driver. */
  private checkIdentity(device: DeviceRecord, { document }: CompiledDriver): void {
    const status = this.statuses.get(device.id);
    const fresh = (key: string) => this.sources.readings.fresh(device.id, key);
    const remark = identityRemark(document, fresh);
    const { model, firmware, serial } = whatItSays(document, fresh);
    const before = JSON.stringify([status?.remark, status?.model, status?.firmware, status?.serial]);
    if (!status || before === JSON.stringify([remark, model, firmware, serial])) return;
    this.setStatus(device.id, { ...status, remark, model, firmware, serial });
  }
}

const withoutConnection: ReadonlySet<Link['word']> = new Set(['calling', 'down', 'off', 'locked out', 'occupied']);

/** True when two versions of a device are spoken to in the same way, so that its connection can stay. */
function isReachedAlike({ data: a }: DeviceRecord, { data: b }: DeviceRecord): boolean {
  const same = (['driver', 'host', 'port', 'enabled', 'user'] as const).every((field) => a[field] === b[field]);
  return (
    same && (['options', 'through', 'additions'] as const).every((f) => JSON.stringify(a[f]) === JSON.stringify(b[f]))
  );
}
