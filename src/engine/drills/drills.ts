import { readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { z } from 'zod';
import {
  accountOf,
  drillResultSchema,
  faultAccountSchema,
  lifted,
  seen,
  type DrillEvent,
  type DrillResult,
  type FaultAccount,
} from '../../core/drill';
import type { Aim, DrillAct, DrillsView, Publish } from '../../core/live';
import { drillFaultWords, drillSubject, type Drill } from '../../core/show';
import type { Log } from '../../log';
import type { Concerns } from '../health/health';
import type { LinkChange } from '../parts';
import type { SentCommand } from '../presses/presses';
import type { AsRun } from '../record/as-run';
import { LineFile } from '../record/line-file';
import type { RunningShow } from '../show/running-show';
import type { TopicBook } from '../topics/topic-book';
import { setFault } from './fault-hand';

interface Sources {
  readonly dataDir: string;
  readonly show: RunningShow;
  readonly aimNow: () => Aim;
  /** The address of the stand-ins' pages in a rehearsal. */
  readonly pagesNow: () => string | null;
  /** Ends the connections of a panel's screens. */
  readonly cutOff: (panel: string) => void;
  readonly screensOf: (panel: string) => number;
  /** Kills this process, where something starts it again. */
  readonly killEngine: (() => void) | undefined;
  readonly asRun: Pick<AsRun, 'record'>;
  readonly publish: Publish;
  readonly topics: TopicBook;
  readonly newId: () => string;
  readonly log: Log;
}

interface Run {
  readonly id: string;
  readonly name: string;
  readonly who: string;
  readonly startedAt: number;
  /** Where its stand-ins are operated. When the rehearsal is over, others may be there. */
  readonly pages: string | null;
  faults: readonly FaultAccount[];
}

const keptSchema = drillResultSchema.omit({ endedAt: true, isCut: true }).extend({
  faults: z.array(faultAccountSchema),
});
const lookEveryMs = 250;
const mostPast = 50;

/** Fault drills: in a rehearsal, faults are made to happen, and the program keeps how long it took until they were noticed, named and mended. */
export class Drills {
  private run: Run | undefined;
  private timers: NodeJS.Timeout[] = [];
  private past: readonly DrillResult[];
  private readonly file: LineFile<DrillResult>;
  private readonly runPath: string;

  constructor(private readonly sources: Sources) {
    const { dataDir, topics, log } = sources;
    this.file = new LineFile(join(dataDir, 'drills.jsonl'), drillResultSchema, log, 'Results of drills');
    const { lines, isLong } = this.file.read();
    this.past = lines.toReversed().slice(0, mostPast);
    if (isLong) this.file.rewrite(this.past.toReversed());
    this.runPath = join(dataDir, 'drill-run.json');
    topics.serve('drills', { whole: () => this.view });
  }

  /** A drill that killed the engine ends with its return. */
  start(): void {
    let kept: z.output<typeof keptSchema>;
    try {
      kept = keptSchema.parse(JSON.parse(readFileSync(this.runPath, 'utf8')));
    } catch {
      // Usually there is none.
      return;
    }
    this.run = { ...kept, pages: null };
    this.on({ is: 'engine back' });
    this.finish();
  }

  stop(): void {
    for (const timer of this.timers) clearTimeout(timer);
    this.timers = [];
  }

  /** The results, the newest first. */
  get results(): readonly DrillResult[] {
    return this.past;
  }

  onLink({ device, status }: LinkChange): void {
    if (this.run) this.on({ is: 'link', device, word: status.link.word });
  }

  readonly onConcerns = (concerns: Concerns): void => {
    for (const { about, code, text } of this.run ? concerns : [])
      if (about.kind === 'device') this.on({ is: 'concern', device: about.id, code, text });
  };

  readonly onSent = (sent: readonly SentCommand[]): void => {
    for (const { device, outcome } of this.run ? sent : [])
      if (outcome === 'late' || outcome === 'lost' || outcome === 'refused')
        this.on({ is: 'failed press', device, outcome });
  };

  /** Without a rehearsal there is nothing to drill at. */
  onAim(aim: Aim): void {
    if (aim !== 'rehearse' && this.run) this.finish();
  }

  /** Begins a drill. Returns why it cannot, if so. */
  begin({ id, name, steps }: Drill, who: string): string | undefined {
    const { aimNow, asRun, killEngine } = this.sources;
    if (this.run) return 'A drill is running. Stop it first.';
    if (aimNow() !== 'rehearse') return 'Drills run in a rehearsal. Set the aim to Rehearse first.';
    if (steps.length === 0) return 'This drill has no faults yet.';
    if (steps.some(({ fault }) => fault === 'engine') && !killEngine)
      return 'The engine cannot be killed here: nothing would start it again.';
    const faults = steps.map(({ fault, subject, afterSeconds }): FaultAccount => ({
      fault,
      subject,
      name: this.nameOf(drillSubject(fault), subject),
      afterSeconds,
    }));
    this.run = { id, name, who, startedAt: Date.now(), pages: this.sources.pagesNow(), faults };
    this.timers = [
      setInterval(() => this.look(), lookEveryMs),
      ...faults.map((each, n) => setTimeout(() => void this.cause(n), each.afterSeconds * 1000)),
    ];
    asRun.record({ kind: 'note', text: `Drill “${name}” begun by ${who}.` });
    this.tell();
    return undefined;
  }

  /** Returns why not, if so. */
  act(act: DrillAct): string | undefined {
    const { run } = this;
    if (!run) return 'No drill is running.';
    if (act.do === 'stop') {
      this.finish();
      return undefined;
    }
    const fault = run.faults[act.fault];
    if (fault?.causedAt === undefined) return 'This fault has not begun yet.';
    if (act.do === 'seen') this.put(act.fault, seen(fault, act.who, Date.now()));
    else void this.lift(act.fault);
    return undefined;
  }

  private get view(): DrillsView {
    if (!this.run) return { run: null, past: this.past };
    const { name, who, startedAt, faults } = this.run;
    return { run: { name, who, startedAt, faults }, past: this.past };
  }

  private nameOf(kind: ReturnType<typeof drillSubject>, id: string): string {
    const { devices, panels } = this.sources.show;
    if (kind === undefined) return 'Engine';
    const device = devices.get(id)?.data;
    return (kind === 'device' ? device && `${device.tag} ${device.name}` : panels.get(id)?.data.name) ?? '?';
  }

  private async cause(n: number): Promise<void> {
    const { run } = this;
    const fault = run?.faults[n];
    if (!run || !fault || fault.causedAt !== undefined) return;
    const { show, asRun, killEngine } = this.sources;
    const caused = { ...fault, causedAt: Date.now() };
    this.put(n, caused);
    asRun.record({ kind: 'note', text: `Drill: ${drillFaultWords[fault.fault]}: ${fault.name}.` });
    if (fault.fault === 'engine') {
      this.keep();
      // The row above is on its way to the disk.
      this.timers.push(setTimeout(() => killEngine?.(), 400));
      return;
    }
    if (fault.fault === 'panel') return this.look();
    const tag = show.devices.get(fault.subject)?.data.tag;
    const failed =
      tag === undefined ? 'The device is no longer in the rig.' : await setFault(run.pages, tag, fault.fault, true);
    if (failed !== undefined && this.run === run) this.put(n, { ...caused, failed, mendedMs: 0 });
  }

  private async lift(n: number): Promise<void> {
    const { run } = this;
    const fault = run?.faults[n];
    if (!run || fault?.causedAt === undefined || fault.liftedMs !== undefined) return;
    if (drillSubject(fault.fault) === 'device') await this.switchOff(run, fault);
    const now = run.faults[n];
    if (this.run !== run || !now) return;
    this.put(n, lifted(now, Date.now()));
    // A slow device was up all the time.
    if (fault.fault === 'slow') this.on({ is: 'link', device: fault.subject, word: 'up' });
  }

  private async switchOff({ pages }: Run, { subject, fault }: FaultAccount): Promise<void> {
    const tag = this.sources.show.devices.get(subject)?.data.tag;
    if (tag !== undefined) await setFault(pages, tag, fault, false);
  }

  /** What no event tells: screens that are kept out or are back. */
  private look(): void {
    const { run } = this;
    if (!run) return;
    for (const { fault, subject, causedAt, liftedMs, mendedMs } of run.faults) {
      if (fault !== 'panel' || causedAt === undefined || mendedMs !== undefined) continue;
      if (liftedMs === undefined) this.sources.cutOff(subject);
      this.on({ is: 'screens', panel: subject, count: this.sources.screensOf(subject) });
    }
    if (run.faults.every(({ mendedMs }) => mendedMs !== undefined)) this.finish();
  }

  private on(event: DrillEvent): void {
    const { run } = this;
    if (!run) return;
    const now = Date.now();
    const faults = run.faults.map((fault) => accountOf(fault, event, now));
    if (faults.every((fault, n) => fault === run.faults[n])) return;
    run.faults = faults;
    this.tell();
  }

  private put(n: number, fault: FaultAccount): void {
    const { run } = this;
    if (!run) return;
    run.faults = run.faults.map((each, at) => (at === n ? fault : each));
    this.tell();
  }

  /** Ends the drill: what is still wrong is put right, and the figures are kept. */
  private finish(): void {
    const { run } = this;
    if (!run) return;
    this.stop();
    this.run = undefined;
    rmSync(this.runPath, { force: true });
    for (const fault of run.faults)
      if (fault.causedAt !== undefined && fault.liftedMs === undefined && drillSubject(fault.fault) === 'device')
        void this.switchOff(run, fault);
    const isCut = run.faults.some(({ mendedMs }) => mendedMs === undefined);
    const { id, name, who, startedAt } = run;
    const result: DrillResult = { id, name, who, startedAt, faults: [...run.faults], endedAt: Date.now(), isCut };
    this.past = [result, ...this.past].slice(0, mostPast);
    this.file.append(result);
    this.sources.asRun.record({ kind: 'note', text: `Drill “${run.name}” ${isCut ? 'was stopped' : 'ended'}.` });
    this.tell();
  }

  private keep(): void {
    try {
      const { pages: _, ...kept } = this.run ?? { pages: null };
      writeFileSync(this.runPath, JSON.stringify(kept), { mode: 0o600 });
    } catch (cause) {
      this.sources.log.warn({ cause }, 'The drill could not be kept: its result will be missing.');
    }
  }

  private tell(): void {
    this.sources.publish('drills', this.view);
  }
}
