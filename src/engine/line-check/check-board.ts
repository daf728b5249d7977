import {
  isCurrent,
  reportCsv,
  reportOf,
  standingOf,
  type CheckItem,
  type CheckReport,
  type CheckResult,
  type Standing,
} from '../../core/line-check';
import type { DrillResult } from '../../core/drill';
import type {
  CheckItemView,
  CheckRunView,
  DeviceStatus,
  LineCheckView,
  Publish,
  TopicName,
  WalkQuestion,
  WalkRoundView,
} from '../../core/live';
import type { Log } from '../../log';
import type { RunningShow } from '../show/running-show';
import type { StatusBoard } from '../topics/status-board';
import type { Checker } from './checker';
import type { ResultBook } from './result-book';

interface Sources {
  readonly show: RunningShow;
  readonly statuses: ReadonlyMap<string, DeviceStatus>;
  readonly results: ResultBook;
  readonly checker: Checker;
  readonly publish: Publish;
  readonly isFollowed: (topic: TopicName) => boolean;
  readonly status: Pick<StatusBoard, 'set'>;
  readonly run: () => CheckRunView | null;
  readonly drills: () => readonly DrillResult[];
  readonly log: Log;
}

/** Changes reach the screens in pieces, no more often than this. */
const tellEveryMs = 150;

/** What there is to prove and where each item stands, as the screens are told. */
export class CheckBoard {
  readonly items = new Map<string, CheckItem>();
  private readonly standing = new Map<string, Standing>();
  private plan: LineCheckView['plan'] = { state: 'none', isOld: false };
  private revision: number | null = null;
  private planned: Promise<void> | undefined;
  private readonly changed = new Set<string>();
  private readonly removed = new Set<string>();
  private telling: NodeJS.Timeout | undefined;
  private isStopped = false;

  constructor(private readonly sources: Sources) {}

  stop(): void {
    this.isStopped = true;
    clearTimeout(this.telling);
  }

  get view(): LineCheckView {
    const items = [...this.items.keys()].flatMap((id) => this.itemViews(id));
    return { plan: this.plan, run: this.sources.run(), items: Object.fromEntries(items) };
  }

  /** The show has changed: the plan is not of it any more. */
  setOld(): void {
    if (this.plan.state === 'none' || this.plan.isOld) return;
    this.plan = { ...this.plan, isOld: true };
    this.tellSoon();
  }

  /** Plans where that is needed. Returns why there is no plan, if so. */
  async ready(): Promise<string | undefined> {
    if (this.plan.state !== 'ready' || this.plan.isOld) await this.makePlan();
    return this.plan.state === 'ready' ? undefined : (this.plan.why ?? 'The plan could not be made.');
  }

  /** Plans anew, or joins the plan that is being made. */
  makePlan(): Promise<void> {
    this.planned ??= this.replan().finally(() => (this.planned = undefined));
    return this.planned;
  }

  standingNow(item: string): Standing {
    return this.standing.get(item) ?? 'open';
  }

  firmwareOf({ devices }: CheckItem): string | undefined {
    return this.sources.statuses.get(devices[0] ?? '')?.firmware;
  }

  enter(result: CheckResult): void {
    this.sources.results.enter(result);
    this.judge(result.item);
  }

  /** Where an item stands may have changed. */
  judge(id: string): void {
    const item = this.items.get(id);
    if (!item) return;
    this.standing.set(id, standingOf(item, this.sources.results.of(id), this.firmwareOf(item)));
    this.changed.add(id);
    this.tellSoon();
  }

  /** The results of a device's items may count no more, or again: it may say now that it runs something else. */
  judgeDevice(device: string): void {
    for (const { id, devices } of this.items.values()) if (devices[0] === device) this.judge(id);
  }

  /** The questions to people, as phones are told them. */
  get walkRound(): WalkRoundView {
    return { questions: Object.fromEntries([...this.items.keys()].flatMap((id) => this.questionOf(id))) };
  }

  tellSoon(): void {
    if (this.isStopped) return;
    this.telling ??= setTimeout(() => {
      this.telling = undefined;
      this.tell();
    }, tellEveryMs);
  }

  report(): CheckReport {
    return reportOf(this.reportSources());
  }

  reportTable(): string {
    return reportCsv(this.reportSources());
  }

  private questionOf(id: string): [string, WalkQuestion][] {
    const item = this.items.get(id);
    const proof = item?.proofs.find(({ by }) => by === 'person');
    if (!item || proof?.by !== 'person') return [];
    const result = this.sources.results.of(id).person;
    const isAnswered =
      result !== undefined && result.state !== 'unproved' && isCurrent(item, result, this.firmwareOf(item));
    const { show } = this.sources;
    const device = show.devices.get(item.devices[0] ?? '')?.data;
    const panel = show.panels.get(item.panels[0] ?? '')?.data.name;
    const place = item.kind === 'inlet' ? 'Inlets' : (panel ?? '');
    return [
      [
        id,
        {
          place: device ? `${device.tag} ${device.name}` : place,
          title: item.title,
          asks: proof.asks,
          isDone: isAnswered || this.standingNow(id) === 'passed',
        },
      ],
    ];
  }

  private itemViews(id: string): [string, CheckItemView][] {
    const item = this.items.get(id);
    if (!item) return [];
    const { fingerprint: _, ...rest } = item;
    const firmware = this.firmwareOf(item);
    const results = Object.values(this.sources.results.of(id)).map((result) => {
      const { item: _item, fingerprint: _print, ...shown } = result;
      return { ...shown, ...(isCurrent(item, result, firmware) ? {} : { isOld: true as const }) };
    });
    return [[id, { ...rest, standing: this.standingNow(id), results }]];
  }

  private async replan(): Promise<void> {
    this.plan = { ...this.plan, state: 'making', isOld: false };
    this.tellSoon();
    const seen = new Set<string>();
    try {
      const { revision } = await this.sources.checker.plan((items) => {
        for (const item of items) {
          seen.add(item.id);
          this.items.set(item.id, item);
          this.judge(item.id);
        }
      });
      for (const id of this.items.keys()) {
        if (seen.has(id)) continue;
        this.items.delete(id);
        this.standing.delete(id);
        this.removed.add(id);
      }
      this.revision = revision;
      this.plan = { state: 'ready', at: Date.now(), isOld: this.plan.isOld };
    } catch (cause) {
      this.sources.log.warn({ cause }, 'The line check could not be planned.');
      const why =
        'The plan could not be made: the part of the program that makes it is not there. Try again in a moment.';
      this.plan = { state: 'failed', why, isOld: this.plan.isOld };
    }
    this.tellSoon();
  }

  private tell(): void {
    const { publish, isFollowed, status, results, run } = this.sources;
    const count = { passed: 0, doubtful: 0, failed: 0, due: 0, open: 0, none: 0 };
    for (const each of this.standing.values()) count[each] += 1;
    const { passed, doubtful, failed, due, none } = count;
    const total = this.standing.size - none;
    if (this.plan.state !== 'none')
      status.set({ lineCheck: { at: results.newestAt, total, passed, doubtful, failed, due } });
    const asked = [...this.changed].flatMap((id) => this.questionOf(id));
    publish('walk-round', { questions: { put: Object.fromEntries(asked), drop: [...this.removed] } });
    const put = isFollowed('line-check') ? [...this.changed].flatMap((id) => this.itemViews(id)) : [];
    const drop = [...this.removed];
    this.changed.clear();
    this.removed.clear();
    publish('line-check', { plan: this.plan, run: run(), items: { put: Object.fromEntries(put), drop } });
  }

  private reportSources() {
    const { show, statuses, results } = this.sources;
    return {
      show: show.name,
      revision: this.revision,
      at: Date.now(),
      items: [...this.items.values()],
      drills: this.sources.drills(),
      resultsOf: (item: string) => results.of(item),
      firmwareOf: (device: string) => statuses.get(device)?.firmware,
      tagOf: (device: string) => show.deviceOf(device)?.data.tag ?? '?',
      pageOf: (page: string) => show.pages.get(page)?.data.name ?? '?',
      timeOf: (at: number) => new Date(at).toISOString(),
    };
  }
}
