import { isLost, Spread } from '../../core/health';
import type { Aim, BurnInDevice, BurnInOrder, BurnInView, DeviceStatus, Publish, TopicName } from '../../core/live';
import type { DeviceSession } from '../devices/device-session';
import type { LinkChange } from '../parts';
import type { AsRun } from '../record/as-run';
import type { RunningShow } from '../show/running-show';
import type { TopicBook } from '../topics/topic-book';
import type { LineCheck } from './line-check';

interface Sources {
  readonly show: RunningShow;
  readonly statuses: ReadonlyMap<string, DeviceStatus>;
  readonly sessions: ReadonlyMap<string, DeviceSession>;
  readonly lineCheck: Pick<LineCheck, 'tryNext' | 'isRunning' | 'makePlan'> | undefined;
  readonly aimNow: () => Aim;
  readonly asRun: Pick<AsRun, 'record'>;
  readonly publish: Publish;
  readonly isFollowed: (topic: TopicName) => boolean;
  readonly topics: TopicBook;
}

/** A device is asked again this long after it has answered. */
const askAgainMs = 200;
/** Every so many questions a command is tried and put back. */
const questionsPerTrial = 10;
const lookAgainMs = 500;
const tellEveryMs = 1000;

interface Exercised {
  readonly spread: Spread;
  asked: number;
  lost: number;
  drops: number;
  trials: number;
  failed: number;
  why: string | undefined;
}

/** Exercises the rig for a while: harmless questions, and commands that are put back, one thing at a time at each device. */
export class BurnIn {
  private readonly devices = new Map<string, Exercised>();
  private run: BurnInView['run'] = null;
  private last: BurnInView['last'] = null;
  private working: AbortController | undefined;
  private timers: NodeJS.Timeout[] = [];

  constructor(private readonly sources: Sources) {
    sources.topics.serve('burn-in', { whole: () => this.view });
  }

  stop(): void {
    this.end();
  }

  onLink({ device, status, before }: LinkChange): void {
    const exercised = this.run && this.devices.get(device);
    if (exercised && (before === 'up' || before === 'silent') && isLost(status.link)) exercised.drops += 1;
  }

  get view(): BurnInView {
    const devices = [...this.devices].map(([id, each]) => [id, viewOf(each)] as const);
    return { run: this.run, last: this.last, devices: Object.fromEntries(devices) };
  }

  /** Begins. Returns why it cannot, if so. */
  begin({ minutes, devices, putBack }: BurnInOrder, who: string): string | undefined {
    const { show, lineCheck, aimNow, asRun } = this.sources;
    if (this.run) return 'A burn-in is running. Stop it first.';
    if (lineCheck?.isRunning) return 'A line check is running. Wait for it, or cancel it.';
    if (aimNow() !== 'live') return 'The aim is not live, so the devices cannot be exercised.';
    const all = [...show.devices.values()].filter(
      ({ id, data }) => data.enabled && (devices === undefined || devices.includes(id)),
    );
    if (all.length === 0) return 'There is no device to exercise.';
    // Commands are tried once it is there.
    if (putBack.length > 0) void lineCheck?.makePlan();
    const working = new AbortController();
    const startedAt = Date.now();
    this.working = working;
    this.run = { who, startedAt, endsAt: startedAt + minutes * 60_000 };
    this.last = null;
    this.devices.clear();
    for (const { id } of all) {
      const exercised = { spread: new Spread(), asked: 0, lost: 0, drops: 0, trials: 0, failed: 0, why: undefined };
      this.devices.set(id, exercised);
      void this.exercise(id, exercised, putBack.includes(id), working.signal);
    }
    this.timers = [setTimeout(() => this.end(), minutes * 60_000), setInterval(() => this.tell(), tellEveryMs)];
    asRun.record({ kind: 'note', text: `Burn-in of ${all.length} devices begun by ${who}, for ${minutes} min.` });
    this.tell();
    return undefined;
  }

  /** Ends it before its time. What is being tried is still put back. */
  end(): void {
    if (!this.run) return;
    const { who, startedAt } = this.run;
    this.working?.abort();
    for (const timer of this.timers) clearTimeout(timer);
    this.run = null;
    this.last = { who, startedAt, endedAt: Date.now() };
    const lost = [...this.devices.values()].reduce((sum, each) => sum + each.lost, 0);
    const asked = [...this.devices.values()].reduce((sum, each) => sum + each.asked, 0);
    this.sources.asRun.record({ kind: 'note', text: `Burn-in ended: ${asked} questions, ${lost} unanswered.` });
    this.tell();
  }

  private async exercise(id: string, exercised: Exercised, changes: boolean, signal: AbortSignal): Promise<void> {
    const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));
    while (!signal.aborted) {
      const session = this.sources.sessions.get(id);
      exercised.why = this.whyNot(id, session);
      if (!session || exercised.why !== undefined || this.sources.aimNow() !== 'live') {
        await pause(lookAgainMs);
        continue;
      }
      const ms = await new Promise<number | 'lost' | 'not now'>((resolve) => {
        if (!session.timeQuestion((took) => resolve(took ?? 'lost'))) resolve('not now');
      });
      if (signal.aborted) return;
      // A link that drops under a question is counted as that.
      const isCut = ms === 'lost' && this.sources.statuses.get(id)?.link.word !== 'up';
      if (ms !== 'not now' && !isCut) {
        exercised.asked += 1;
        if (ms === 'lost') exercised.lost += 1;
        else exercised.spread.add(ms);
      }
      if (changes && exercised.asked % questionsPerTrial === 0) await this.try(id, exercised);
      await pause(ms === 'not now' ? lookAgainMs : askAgainMs);
    }
  }

  private async try(id: string, exercised: Exercised): Promise<void> {
    const seen = await this.sources.lineCheck?.tryNext(id);
    if (!seen || seen.state === 'unproved') return;
    exercised.trials += 1;
    if (seen.state === 'failed') exercised.failed += 1;
  }

  private whyNot(id: string, session: DeviceSession | undefined): string | undefined {
    const word = this.sources.statuses.get(id)?.link.word;
    if (session && !session.hasQuestion) return 'This device has no read-only query.';
    return word === 'up' ? undefined : 'It is not connected now.';
  }

  private tell(): void {
    if (this.sources.isFollowed('burn-in')) this.sources.publish('burn-in', this.view);
  }
}

function viewOf({ spread, why, ...counts }: Exercised): BurnInDevice {
  const times =
    spread.count === 0
      ? {}
      : { low: spread.within(0.05), half: spread.within(0.5), high: spread.within(0.95), longest: spread.longest };
  return { ...counts, ...times, ...(why === undefined ? {} : { why }) };
}
