import { readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { z } from 'zod';
import { isCurrent, itemOfSend, type CheckItem, type CheckReport, type CheckResult } from '../../core/line-check';
import type { DrillResult } from '../../core/drill';
import {
  checkOrderSchema,
  type CheckAnswer,
  type CheckOrder,
  type DeviceStatus,
  type LineCheckView,
  type Publish,
  type ScreenView,
  type SignedReport,
  type TopicName,
} from '../../core/live';
import { isWell } from '../../core/session';
import { panelHasPage, type PanelRecord } from '../../core/show';
import type { Tally } from '../../core/tally';
import type { Log } from '../../log';
import { ReportShelf } from '../../store';
import type { Aims } from '../aim/aims';
import type { ReadingStore } from '../devices/readings';
import type { NetworkTools } from '../network/network-tools';
import type { LinkChange, ShowChange } from '../parts';
import type { DeadMan } from '../presses/dead-man';
import type { Presses, SentCommand } from '../presses/presses';
import type { AsRun } from '../record/as-run';
import type { RunningShow } from '../show/running-show';
import type { StatusBoard } from '../topics/status-board';
import type { TopicBook } from '../topics/topic-book';
import { CheckBoard } from './check-board';
import { CheckRun, workOf, type CheckWork, type Seen } from './check-run';
import type { Checker } from './checker';
import { changedSince, provePutBack } from './put-back-proof';
import { proveQuickly } from './quick-proofs';
import { provedByItself, seenInUse } from './passive-proofs';
import { ResultBook } from './result-book';

interface Sources {
  readonly dataDir: string;
  readonly show: RunningShow;
  readonly readings: ReadingStore;
  readonly statuses: ReadonlyMap<string, DeviceStatus>;
  readonly presses: Presses;
  readonly deadMan: DeadMan;
  readonly aims: Aims;
  readonly asRun: Pick<AsRun, 'record'>;
  readonly newId: () => string;
  readonly publish: Publish;
  readonly isFollowed: (topic: TopicName) => boolean;
  readonly topics: TopicBook;
  readonly status: Pick<StatusBoard, 'set'>;
  readonly screens: () => readonly ScreenView[];
  readonly tallyOf: (device: string) => Tally | undefined;
  readonly tools: NetworkTools | undefined;
  /** Fault drills that were run, for the report. */
  readonly drills: () => readonly DrillResult[];
  readonly checker: Checker;
  readonly log: Log;
}

/** An order that was under way when the program ended. */
const keptRunSchema = z.strictObject({ order: checkOrderSchema, who: z.string(), startedAt: z.number() });
type KeptRun = z.output<typeof keptRunSchema>;

/** How long a device has, after it is connected again, to report what was put back. */
const putBackLookMs = 3000;
const planAfterStartMs = 5000;
/** Who the check is in the as-run. */
const byCheck = 'line check';
/** For this long after it was connected, a device may still be asked for things for the first time. */
const youngMs = 8000;
const lookAgainMs = 250;
const takeReportsEveryMs = 10_000;
/** A command that is used again and again is entered as proved no more often than this. */
const useAgainMs = 600_000;

/** The line check: what the show relies on, what has been proved of it, and the run that proves it. */
export class LineCheck {
  private readonly board: CheckBoard;
  private run: { readonly run: CheckRun; readonly kept: KeptRun; isOld: boolean } | undefined;
  /** An order of an earlier engine, until it is resumed or cancelled. */
  private kept: KeptRun | undefined;
  private readonly results: ResultBook;
  private readonly shelf: ReportShelf;
  private readonly runPath: string;
  private isStopped = false;
  /** The end of the last run that was begun. */
  private ended: Promise<void> = Promise.resolve();
  private planning: NodeJS.Timeout | undefined;
  private looking: NodeJS.Timeout | undefined;
  /** Which command of a device is tried next. */
  private readonly turns = new Map<string, number>();

  constructor(private readonly sources: Sources) {
    const { dataDir, topics, log } = sources;
    this.results = new ResultBook(dataDir, log);
    this.shelf = new ReportShelf(dataDir);
    this.runPath = join(dataDir, 'line-check-run.json');
    this.kept = readKept(this.runPath);
    this.board = new CheckBoard({ ...sources, results: this.results, run: () => this.runView });
    topics.serve('line-check', { whole: () => this.board.view });
    topics.serve('walk-round', { whole: () => this.board.walkRound });
  }

  start(): void {
    // How far the show is proved stands in the frame of the desk; what was proved before is looked at once the start is over.
    this.looking = setInterval(() => this.takeReports(), takeReportsEveryMs);
    if (this.results.newestAt !== null) this.planning = setTimeout(() => void this.board.makePlan(), planAfterStartMs);
  }

  stop(): void {
    this.isStopped = true;
    clearTimeout(this.planning);
    clearInterval(this.looking);
    this.board.stop();
    // What is under way goes on as a paused run at the next start.
    this.run?.run.pause();
  }

  onShow(_: ShowChange): void {
    this.board.setOld();
    if (this.run) this.run.isOld = true;
  }

  onLink({ device, status }: LinkChange): void {
    if (!isWell(status.link.word)) return;
    this.board.judgeDevice(device);
    if (this.sources.aims.aim !== 'live' || !this.results.isInterrupted(device)) return;
    setTimeout(() => {
      if (this.isStopped || this.sources.aims.aim !== 'live') return;
      for (const { item, fingerprint, before } of this.results.takeInterrupted(device)) {
        const fresh = (key: string) => this.sources.readings.fresh(device, key);
        const left = changedSince(device, new Map(before), fresh);
        const text =
          left.length === 0
            ? 'The trial was cut off. The device was put back.'
            : 'The trial was cut off, and the device is not as it was before.';
        this.board.enter({
          item,
          fingerprint,
          by: 'put-back',
          text,
          ...this.base(byCheck),
          ...(left.length > 0 ? { state: 'failed', left } : { state: 'unproved' }),
        });
      }
    }, putBackLookMs).unref();
  }

  /** Commands of presses that are over: what a device confirmed in the show is proved. */
  readonly onSent = (sent: readonly SentCommand[]): void => {
    // Later: the press comes first.
    setImmediate(() => {
      for (const each of this.isStopped ? [] : sent) this.takeUse(each);
    });
  };

  get isRunning(): boolean {
    return this.run?.run.state === 'running';
  }

  /** Tries the next command of a device that can be put back; `undefined` where it has none, or a check is running. */
  async tryNext(device: string): Promise<Seen | undefined> {
    if (this.isRunning || this.isStopped) return undefined;
    const all = [...this.board.items.values()].flatMap((item) => {
      const proof = item.devices[0] === device ? item.proofs.find(({ by }) => by === 'put-back') : undefined;
      return proof && this.results.of(item.id).rehearsal?.state === 'passed' ? [{ item, proof }] : [];
    });
    const turn = this.turns.get(device) ?? 0;
    this.turns.set(device, turn + 1);
    const work = all[turn % Math.max(1, all.length)];
    return work && this.prove(work);
  }

  /** How quickly half of a device's answers came when its connection was tested last, in milliseconds; `undefined` if it was not. */
  roundTripOf(device: string): number | undefined {
    return this.results.of(`connection:${device}`).test?.ms;
  }

  makePlan(): Promise<void> {
    return this.board.makePlan();
  }

  /** Begins a run. Returns why it cannot begin, if so. */
  async begin(order: CheckOrder, who: string): Promise<string | undefined> {
    if (this.run || this.kept) return 'A line check is under way. Finish or cancel it first.';
    const why = await this.board.ready();
    // What a cancelled run has left under way.
    await this.ended;
    if (this.run || this.kept) return 'A line check is under way. Finish or cancel it first.';
    return why ?? this.startRun({ order, who, startedAt: Date.now() });
  }

  pause(): void {
    this.run?.run.pause();
  }

  async resume(): Promise<string | undefined> {
    if (this.run) {
      this.run.run.begin();
      this.ended = this.run.run.ended;
      return undefined;
    }
    const { kept } = this;
    if (!kept) return 'There is no line check to resume.';
    const why = await this.board.ready();
    return why ?? this.startRun(kept);
  }

  cancel(): void {
    this.run?.run.pause();
    this.over();
  }

  /** Enters what a person saw. Returns why not, if so. */
  answer({ item: id, answer, who, note }: CheckAnswer): string | undefined {
    const item = this.board.items.get(id);
    if (!item?.proofs.some(({ by }) => by === 'person')) return 'This is not an item that a person answers.';
    const state = answer === 'yes' ? 'passed' : answer === 'no' ? 'failed' : 'unproved';
    const text = note === '' ? `Answered: ${answer}.` : `Answered: ${answer}. ${note}`;
    this.board.enter({ item: id, fingerprint: item.fingerprint, by: 'person', state, text, ...this.base(who) });
    return undefined;
  }

  /** Somebody has dealt with what an item has left changed. */
  dismiss(item: string): void {
    this.results.dismiss(item);
    this.board.judge(item);
  }

  report(): CheckReport {
    return this.board.report();
  }

  /** The reports that were signed, the newest first. */
  get signed(): readonly SignedReport[] {
    return this.shelf.list();
  }

  /** The text of a signed report; `undefined` when there is none of this name. */
  signedReport(name: string): Promise<string | undefined> {
    return this.shelf.read(name);
  }

  /** Keeps the report as it is now under a name and a note. Returns why not, if so. */
  async sign(who: string, note: string): Promise<string | undefined> {
    if (this.run) return 'A line check is running. Sign when it is over.';
    const report = this.board.report();
    if (report.items.length === 0) return 'There is nothing to sign yet: plan the line check first.';
    try {
      await this.shelf.keep({ ...report, signed: { who, note, at: report.at } });
    } catch (cause) {
      this.sources.log.warn({ cause }, 'A signed report could not be written.');
      return 'The report could not be written. Is the disk full, or the data folder not writable?';
    }
    this.sources.asRun.record({ kind: 'note', text: `Line check signed by ${who}.` });
    return undefined;
  }

  reportTable(): string {
    return this.board.reportTable();
  }

  private get runView(): LineCheckView['run'] {
    if (this.run) {
      const { run, kept, isOld } = this.run;
      const { leftMs } = run;
      const base = {
        state: run.state,
        who: kept.who,
        startedAt: kept.startedAt,
        done: run.done,
        total: run.total,
        isOld,
      };
      return { ...base, ...(leftMs === undefined ? {} : { leftMs: Math.round(leftMs) }) };
    }
    if (!this.kept) return null;
    const { who, startedAt } = this.kept;
    return { state: 'paused', who, startedAt, done: 0, total: 0, isOld: false };
  }

  private startRun(kept: KeptRun): string | undefined {
    const { order, startedAt } = kept;
    const wanted = order.items && new Set(order.items);
    const inPart = partOf(order, this.sources.show);
    const isDone = ({ id }: CheckItem, by: CheckResult['by']) => (this.results.of(id)[by]?.at ?? 0) >= startedAt;
    const isWanted = (item: CheckItem, { by }: CheckItem['proofs'][number]): boolean => {
      if (wanted && !wanted.has(item.id)) return false;
      if (!inPart(item)) return false;
      const standing = this.board.standingNow(item.id);
      if (order.only === 'failed') return standing === 'failed' || standing === 'doubtful';
      if (order.only === 'all' || isDone(item, by)) return true;
      const result = this.results.of(item.id)[by];
      return result?.state !== 'passed' || !isCurrent(item, result, this.board.firmwareOf(item));
    };
    const all = workOf(this.board.items.values(), order, isWanted);
    const work = all.filter(({ item, proof }) => !isDone(item, proof.by));
    if (all.length === 0) return 'There is nothing to prove in what was chosen.';
    const { checker, tools, show, log } = this.sources;
    const run = new CheckRun(
      work,
      {
        checker,
        tools,
        tagOf: (id) => show.deviceOf(id)?.data.tag,
        prove: (each) => this.prove(each),
        onResult: ({ item, proof }, seen) => {
          // What ends with the program was not proved by it.
          if (this.isStopped) return;
          const { id, fingerprint } = item;
          this.board.enter({ item: id, fingerprint, by: proof.by, ...seen, ...this.base(kept.who, item) });
        },
        onState: () => this.board.tellSoon(),
        onOver: () => this.over(),
        log,
      },
      all.length - work.length,
    );
    this.kept = undefined;
    this.run = { run, kept, isOld: false };
    this.keep(kept);
    this.sources.asRun.record({ kind: 'note', text: `Line check begun by ${kept.who}: ${run.total} proofs.` });
    run.begin();
    this.ended = run.ended;
    return undefined;
  }

  private over(): void {
    const run = this.run?.run;
    if (run) this.sources.asRun.record({ kind: 'note', text: `Line check ended: ${run.done} of ${run.total} proofs.` });
    this.run = undefined;
    this.kept = undefined;
    this.keep(undefined);
    this.board.tellSoon();
  }

  private keep(run: KeptRun | undefined): void {
    try {
      if (run) writeFileSync(this.runPath, JSON.stringify(run), { mode: 0o600 });
      else rmSync(this.runPath, { force: true });
    } catch (cause) {
      // It can still be finished; only a restart could not resume it.
      this.sources.log.warn({ cause }, 'The run of the line check could not be kept.');
    }
  }

  private async prove(work: CheckWork): Promise<Seen> {
    const { show, statuses, presses, newId } = this.sources;
    const { item, proof } = work;
    if (this.sources.aims.aim === 'rehearse' && !['screen', 'gear', 'inlet'].includes(proof.by))
      return { state: 'unproved', text: 'A rehearsal is on, so the devices are not connected.' };
    let quick = this.proveQuickly(proof);
    // What has just been connected may not have reported everything yet.
    const isYoung = () => item.devices.some((id) => Date.now() - (statuses.get(id)?.since ?? 0) < youngMs);
    while (quick?.state === 'doubtful' && isYoung() && !this.isStopped) {
      await new Promise((resolve) => setTimeout(resolve, lookAgainMs));
      quick = this.proveQuickly(proof);
    }
    if (quick) return quick;
    if (proof.by !== 'query' && proof.by !== 'put-back') return { state: 'unproved', text: 'It was not tried.' };
    const device = show.devices.get(proof.send.device);
    const document = device && show.documentOf(device.id);
    if (!device || !document) return { state: 'failed', text: 'The device or its driver is missing.' };
    if (proof.by === 'query') {
      if (this.sources.aims.aim !== 'live')
        return { state: 'unproved', text: 'The aim is not live, so nothing was sent to the device.' };
      const { command, params } = proof.send;
      const request = {
        id: newId(),
        device,
        command,
        params,
        guard: false,
        gesture: 'tap',
        who: byCheck,
      } as const;
      return new Promise((resolve) =>
        presses.command({ ...request, label: 'Line check' }, (report) => {
          if (!('sends' in report)) return;
          const { outcome, ms, reason = report.sends[0]?.reason } = report;
          const bytes = report.sends[0]?.bytes;
          const base = { ms, press: request.id, ...(bytes === undefined ? {} : { bytes }) };
          if (outcome === 'confirmed') return resolve({ ...base, state: 'passed', text: 'The device answered.' });
          const isFailed = outcome === 'refused' || outcome === 'late';
          resolve({ ...base, state: isFailed ? 'failed' : 'unproved', text: reason ?? `It ended as ${outcome}.` });
        }),
      );
    }
    const rehearsed = this.results.of(item.id).rehearsal;
    if (rehearsed?.state !== 'passed' || rehearsed.fingerprint !== item.fingerprint)
      return { state: 'unproved', text: 'Not tried: it has to pass in a rehearsal first.' };
    if (rehearsed.sideEffects && rehearsed.sideEffects.length > 0)
      return {
        state: 'unproved',
        text: 'Not tried: in the rehearsal it also changed other readings, which might not be put back.',
      };
    return provePutBack(proof.send, device, document, {
      ...this.sources,
      linkOf: this.linkOf,
      onBegin: (id, before) => this.results.begin(item.id, item.fingerprint, id, before),
      // After the result of the trial has been entered, which would strike it out.
      onCutOff: (id, before) => setImmediate(() => this.results.cutOff(item.id, item.fingerprint, id, before)),
    });
  }

  private readonly linkOf = (device: string) => this.sources.statuses.get(device)?.link.word;

  private proveQuickly(proof: CheckItem['proofs'][number]): Seen | undefined {
    return proveQuickly(proof, { ...this.sources, linkOf: this.linkOf });
  }

  private takeUse(sent: SentCommand): void {
    const item = this.board.items.get(itemOfSend(sent));
    const seen = sent.aim === 'live' && sent.who !== byCheck ? seenInUse(sent) : undefined;
    if (!seen || !item?.proofs.some(({ by }) => by === 'use')) return;
    const before = this.results.of(item.id).use;
    const isKnown = before?.state === seen.state && isCurrent(item, before, this.board.firmwareOf(item));
    if (isKnown && seen.state === 'passed' && Date.now() - before.at < useAgainMs) return;
    const { id, fingerprint } = item;
    this.board.enter({ item: id, fingerprint, by: 'use', ...seen, ...this.base(sent.who, item) });
  }

  /** What is proved by its report alone is proved when the report comes; hand gear and inlets when they are used. */
  private takeReports(): void {
    if (this.sources.aims.aim !== 'live' || this.run) return;
    for (const item of this.board.items.values()) {
      const proof = provedByItself(item);
      if (!proof || this.board.standingNow(item.id) === 'passed') continue;
      const seen = this.proveQuickly(proof);
      const { id, fingerprint } = item;
      if (seen?.state === 'passed')
        this.board.enter({ item: id, fingerprint, by: proof.by, ...seen, ...this.base('the show', item) });
    }
  }

  private base(who: string, item?: CheckItem): { at: number; who: string; firmware?: string } {
    const firmware = item && this.board.firmwareOf(item);
    return { at: Date.now(), who, ...(firmware === undefined ? {} : { firmware }) };
  }
}

/** True for what belongs to the part of the show that was ordered; each thing that was named narrows it. */
function partOf(
  { devices, pages, controls, panels, sites }: CheckOrder,
  show: Pick<RunningShow, 'devices' | 'panels'>,
): (item: CheckItem) => boolean {
  const has = (wanted: readonly string[] | undefined, own: readonly string[]) =>
    wanted === undefined || wanted.some((id) => own.includes(id));
  const atSites =
    sites &&
    [...show.devices.values()]
      .filter(({ data }) => data.site !== undefined && sites.includes(data.site))
      .map(({ id }) => id);
  const ofPanels = panels?.flatMap((id) => show.panels.get(id) ?? []);
  const onPanel = ({ id, data }: PanelRecord, item: CheckItem): boolean =>
    item.panels.includes(id) || item.pages.some((page) => panelHasPage({ data }, page));
  return (item) =>
    has(devices, item.devices) &&
    has(controls, item.controls) &&
    has(pages, item.pages) &&
    has(atSites, item.devices) &&
    (ofPanels === undefined || ofPanels.some((panel) => onPanel(panel, item)));
}

function readKept(path: string): KeptRun | undefined {
  try {
    return keptRunSchema.parse(JSON.parse(readFileSync(path, 'utf8')));
  } catch {
    // There is none, or one that cannot be read: the check is begun anew.
    return undefined;
  }
}
