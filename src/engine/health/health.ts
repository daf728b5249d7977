import {
  computerConcerns,
  deviceConcerns,
  isLost,
  noIncidents,
  screenConcerns,
  seeIncident,
  shortSpanMs,
  stepIncidents,
  type Concern,
  type Incident,
  type IncidentState,
} from '../../core/health';
import type {
  Aim,
  ConcernView,
  DeviceHealth,
  DeviceHistory,
  DeviceStatus,
  HealthView,
  Publish,
  ScreenHealth,
  ScreenView,
  TopicName,
} from '../../core/live';
import type { Log } from '../../log';
import type { DeviceSession } from '../devices/device-session';
import type { ReadingStore } from '../devices/readings';
import type { LinkChange, ShowChange } from '../parts';
import type { SentCommand } from '../presses/presses';
import type { AsRun } from '../record/as-run';
import type { RunningShow } from '../show/running-show';
import type { StatusBoard } from '../topics/status-board';
import type { TopicBook } from '../topics/topic-book';
import { ComputerWatch } from './computer-watch';
import { DeviceWatch } from './device-watch';
import { IncidentBook } from './incident-book';
import { ScreenWatch } from './screen-watch';

interface Sources {
  readonly dataDir: string;
  readonly show: RunningShow;
  readonly readings: ReadingStore;
  readonly statuses: ReadonlyMap<string, DeviceStatus>;
  readonly sessions: ReadonlyMap<string, DeviceSession>;
  readonly screens: () => readonly ScreenView[];
  readonly aimNow: () => Aim;
  /** How quickly half of a device's answers came at the line check, in milliseconds. */
  readonly roundTripOf: (device: string) => number | undefined;
  readonly asRun: Pick<AsRun, 'record'>;
  readonly publish: Publish;
  readonly isFollowed: (topic: TopicName) => boolean;
  readonly topics: TopicBook;
  readonly status: Pick<StatusBoard, 'set'>;
  readonly newId: () => string;
  readonly log: Log;
}

/** What one look found beyond its limit, or near it. */
export type Concerns = readonly Concern[];

const lookEveryMs = 2000;
/** For this long after a start, late and missing answers say more about this computer, which starts everything at once, than about the devices. */
const startsForMs = 8000;
const minuteMs = 60_000;

/**
 * Watches during the broadcast how devices, screens and this computer fare, by what is seen of them anyway: nothing is sent for it. What goes
 * beyond its limit becomes an incident, in the as-run and on the desk, until it is well again.
 */
export class Health {
  /** What is seen of the devices, and in a rehearsal of their stand-ins. */
  private readonly live = new Map<string, DeviceWatch>();
  private staged = new Map<string, DeviceWatch>();
  private readonly listeners: ((found: Concerns) => void)[] = [];
  private readonly screens = new ScreenWatch();
  private readonly computer = new ComputerWatch();
  private readonly book: IncidentBook;
  private state: IncidentState = noIncidents;
  private view: Omit<HealthView, 'charts' | 'incidents'> = { devices: {}, screens: {}, computer: null };
  private timer: NodeJS.Timeout | undefined;
  private chartsAt = 0;
  private told = '';
  /** From when on answers, and requests without one, count. */
  private countsFrom = 0;

  constructor(private readonly sources: Sources) {
    const { dataDir, topics, log } = sources;
    this.book = new IncidentBook(dataDir, Date.now(), log);
    topics.serve('health', {
      whole: () => ({ ...this.view, charts: this.charts(Date.now()), incidents: this.book.all }),
    });
  }

  start(): void {
    this.computer.start();
    this.countsFrom = Date.now() + startsForMs;
    this.timer = setInterval(() => this.look(Date.now()), lookEveryMs);
  }

  stop(): void {
    clearInterval(this.timer);
    this.computer.stop();
  }

  /** The listener hears after each look what was found. It must be quick, and not throw. */
  listen(listener: (found: Concerns) => void): void {
    this.listeners.push(listener);
  }

  /** What was seen of devices says nothing about stand-ins, nor the reverse. */
  onAim(aim: Aim): void {
    if (aim !== 'rehearse') return;
    this.staged = new Map();
    this.countsFrom = Date.now() + startsForMs;
  }

  onLink({ device, status, before }: LinkChange): void {
    this.watchOf(device).onLink(status.link, before, Date.now());
  }

  onShow(change: ShowChange): void {
    if (change.kind !== 'device') return;
    const { now, before } = change;
    // At another address it is another device, as far as anybody knows.
    const isMoved = now?.data.host !== before?.data.host || now?.data.driver !== before?.data.driver;
    if (!now || isMoved) this.live.delete(change.id);
  }

  readonly onAnswer = (device: string, ms: number): void => {
    const now = Date.now();
    if (now >= this.countsFrom) this.watchOf(device).answers.answered(ms, now);
  };

  readonly onUnanswered = (device: string, count: number): void => {
    const now = Date.now();
    if (now >= this.countsFrom) this.watchOf(device).answers.wasMissed(count, now);
  };

  readonly onSent = (sent: readonly SentCommand[]): void => {
    for (const { device, outcome, aim } of sent) {
      if (aim === 'dry' || outcome === 'skipped') continue;
      this.watchOf(device).onSent(outcome !== 'sent' && outcome !== 'confirmed', Date.now());
    }
  };

  /** How a device has answered over time; `undefined` for one that is not in the show. */
  historyOf(device: string): DeviceHistory | undefined {
    if (!this.sources.show.devices.has(device)) return undefined;
    const now = Date.now();
    const { answers } = this.watchOf(device);
    return { minutes: answers.minutes(now), hours: answers.hours(now) };
  }

  get incidents(): readonly Incident[] {
    return this.book.all;
  }

  /** Enters that somebody has seen an incident. Returns why not, if so. */
  see(id: string, who: string, note: string): string | undefined {
    const incident = this.book.of(id);
    if (!incident) return 'There is no such incident any more.';
    const seen = { ...incident, seen: { who, note, at: Date.now() } };
    this.state = seeIncident(this.state, seen);
    this.enter([seen]);
    const said = note === '' ? '' : ` ${note}`;
    this.sources.asRun.record({ kind: 'note', text: `Health: seen by ${who}: ${incident.text}${said}` });
    this.tellStatus();
    return undefined;
  }

  private get watches(): Map<string, DeviceWatch> {
    return this.sources.aimNow() === 'rehearse' ? this.staged : this.live;
  }

  private watchOf(device: string): DeviceWatch {
    const known = this.watches.get(device);
    if (known) return known;
    const watch = new DeviceWatch(Date.now());
    this.watches.set(device, watch);
    return watch;
  }

  /** Looks at everything once: what is found is judged, told and recorded. */
  private look(now: number): void {
    const { show, screens, publish, isFollowed, newId } = this.sources;
    const limits = show.healthLimits;
    const found: Concern[] = [];
    const keep = (concerns: readonly Concern[]): readonly ConcernView[] => {
      found.push(...concerns);
      return concerns.map(({ code, level, text }) => ({ code, level, text }));
    };
    const devices: Record<string, DeviceHealth> = {};
    for (const id of show.devices.keys()) {
      const health = this.lookAt(id, now, keep);
      if (health) devices[id] = health;
    }
    const seen = Object.fromEntries(
      this.screens
        .look(screens(), now)
        .map(({ id, ...facts }): [string, ScreenHealth] => [
          id,
          { ...facts, concerns: keep(screenConcerns({ id, ...facts }, limits)) },
        ]),
    );
    const facts = this.computer.look();
    const computer = { ...facts, concerns: keep(computerConcerns(facts, limits)) };

    const { state, begun, worse, ended } = stepIncidents(this.state, found, now, newId);
    this.state = state;
    this.enter([...begun, ...worse, ...ended]);
    for (const { text } of begun) this.sources.asRun.record({ kind: 'note', text: `Health: ${text}` });
    for (const { text } of ended) this.sources.asRun.record({ kind: 'note', text: `Health: over: ${text}` });

    for (const listener of this.listeners) listener(found);
    const before = this.view;
    this.view = { devices, screens: seen, computer };
    this.tellStatus(found);
    if (!isFollowed('health')) return;
    publish('health', {
      devices: changes(before.devices, devices),
      screens: changes(before.screens, seen),
      computer,
      ...this.newCharts(now),
    });
  }

  private lookAt(
    id: string,
    now: number,
    keep: (concerns: readonly Concern[]) => readonly ConcernView[],
  ): DeviceHealth | undefined {
    const { show, statuses, sessions, readings, roundTripOf } = this.sources;
    const status = statuses.get(id);
    if (!status || status.link.word === 'off') return undefined;
    const watch = this.watchOf(id);
    const { answers, wasUp, sentAt } = watch;
    const minute = answers.lately(now, minuteMs);
    const tenMinutes = answers.lately(now, 10 * minuteMs);
    // A stand-in answers as quickly as it likes.
    const checked = this.sources.aimNow() === 'rehearse' ? undefined : roundTripOf(id);
    const ms = checked ?? answers.usual;
    const usual =
      ms === undefined ? {} : { usual: { ms, from: checked === undefined ? 'start' : 'line check' } as const };
    const heardAt = sessions.get(id)?.pulse.heardAt ?? 0;
    const clock = show.documentOf(id)?.identity.clock;
    const ahead = clock === undefined ? undefined : readings.fresh(id, clock);
    const clockAhead = typeof ahead === 'number' ? { clockAhead: ahead } : {};
    const base = { ...watch.counts(now), ...usual, ...clockAhead, heardAt, minute };
    const { tag, link, since } = status;
    const through = show.devices.get(id)?.data.through?.device;
    const before = through === undefined ? undefined : statuses.get(through);
    const gateway =
      through === undefined || !before
        ? {}
        : { gateway: { isLost: isLost(before.link), drops: this.watchOf(through).counts(now).drops } };
    const facts = { ...base, ...gateway, id, tag, link, since, wasUp, tenMinutes, sentAt };
    return { ...base, missed: tenMinutes.missed, concerns: keep(deviceConcerns(facts, show.healthLimits, now)) };
  }

  private enter(incidents: readonly Incident[]): void {
    if (incidents.length === 0) return;
    for (const incident of incidents) this.book.enter(incident);
    this.sources.publish('health', { incidents: this.book.all });
  }

  private tellStatus(found: readonly Concern[] = []): void {
    const lasting = this.book.all.filter(({ to }) => to === null);
    const open = lasting.filter(({ seen }) => !seen).map(({ id, text, from }) => ({ id, text, from }));
    const rising = found.filter(({ level }) => level === 'rising').length;
    const health = { open, seen: lasting.length - open.length, rising };
    const text = JSON.stringify(health);
    if (text === this.told) return;
    this.told = text;
    this.sources.status.set({ health });
  }

  /** Once for each span that has ended. */
  private newCharts(now: number): { readonly charts?: { readonly put: HealthView['charts'] } } {
    const at = Math.floor(now / shortSpanMs);
    if (at === this.chartsAt) return {};
    this.chartsAt = at;
    return { charts: { put: this.charts(now) } };
  }

  private charts(now: number): HealthView['charts'] {
    const halves = (watch: DeviceWatch) =>
      watch.answers.minutes(now).map(({ half }) => (half === undefined ? null : Math.round(half * 100) / 100));
    return Object.fromEntries([...this.watches].map(([id, watch]) => [id, halves(watch)]));
  }
}

/** What is new, changed or gone. */
function changes<T>(before: Readonly<Record<string, T>>, now: Readonly<Record<string, T>>) {
  const put = Object.entries(now).filter(([id, each]) => JSON.stringify(each) !== JSON.stringify(before[id]));
  return { put: Object.fromEntries(put), drop: Object.keys(before).filter((id) => !(id in now)) };
}
