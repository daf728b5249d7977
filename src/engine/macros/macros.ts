import { actsAfter } from '../../core/check';
import { ruleNow, type LampMemory } from '../../core/lamp';
import type { Publish, TopicName } from '../../core/live';
import { givenProblem, loopOf, planOf, valuesOf, type DueStep } from '../../core/macro';
import type { Scalar } from '../../core/result';
import { acceptsPresses } from '../../core/session';
import type { Condition, MacroRecord, WayOn } from '../../core/show';
import type { Aims } from '../aim/aims';
import type { AsRun } from '../record/as-run';
import { Clockwork } from '../devices/clockwork';
import type { DeadMan } from '../presses/dead-man';
import { MacroRun, type RunRequest, type StepEnded } from './macro-run';
import type { MacroRequests, RunDone } from '../presses/macro-request';
import { runOwner } from '../presses/press-run';
import { MacroSteps, type StepSources } from './macro-steps';
import { PastRunBook } from './past-run-book';
import { Pulses } from './pulses';
import { RunTopics } from './run-topics';
import type { PageContexts } from '../pages/page-contexts';
import type { Recorder } from './recorder';
import type { ReadingStore } from '../devices/readings';
import type { LinkChange } from '../parts';
import type { TopicBook } from '../topics/topic-book';

interface MacroSources extends StepSources {
  readonly recorder: Recorder;
  readonly pages: PageContexts;
  readonly asRun: AsRun;
  readonly aims: Aims;
  readonly publish: Publish;
  readonly isFollowed: (topic: TopicName) => boolean;
  readonly topics: TopicBook;
  readonly deadMan: DeadMan;
  /** Presses that begin a macro. */
  readonly requests: MacroRequests;
}

const queuedMost = 20;
/** Of all macros together: more is a mistake, and each costs time. */
const runsMost = 100;
/** A condition that has to last, and a clock that runs on, come true without a report. */
const lookEveryMs = 50;

/** The macros that run, each step on time; what became of them; and who may begin which while it runs already. */
export class Macros {
  private readonly runs = new Map<string, MacroRun>();
  private readonly queued = new Map<string, { readonly request: RunRequest; readonly done: RunDone }[]>();
  private readonly memories = new WeakMap<MacroRun, Map<string, LampMemory>>();
  private readonly clock = new Clockwork(() => this.onTime());
  private readonly pulses: Pulses;
  private readonly past: PastRunBook;
  private readonly topics: RunTopics;
  private readonly steps: MacroSteps;
  private onRunning: () => void = () => undefined;
  private looking = false;
  private lookAgain = false;

  constructor(private readonly sources: MacroSources) {
    this.pulses = new Pulses(sources.deadMan);
    this.past = new PastRunBook((entry) => sources.asRun.record(entry));
    this.topics = new RunTopics(this.runs, this.past, sources);
    this.steps = new MacroSteps({
      ...sources,
      pulses: this.pulses,
      begin: (request, done) => this.begin(request, done),
    });
    sources.aims.listen({
      goesOn: () => (this.runs.size > 0 ? 'a macro runs. Stop it, or wait for its end.' : undefined),
      onCurtain: () => this.end(undefined, 'stop', 'the end of the rehearsal'),
    });
    sources.requests.serve((request, done) => this.begin({ ...request, id: sources.newId() }, done));
  }

  /** Takes over what the record knows of earlier runs. */
  async start(): Promise<void> {
    await this.sources.asRun.opened;
    this.past.recall(this.sources.asRun.view.rows);
  }

  macroOf(run: string | undefined): string | undefined {
    return run === undefined ? undefined : this.runs.get(run)?.macro.id;
  }

  /** Begins a macro, or says why not. `done` hears how it ended. */
  begin(request: RunRequest, done: RunDone): void {
    const macro = this.sources.show.macros.get(request.macro);
    const problem = macro ? this.problemOf(macro, request) : 'This macro no longer exists.';
    if (!macro || problem) return done('lost', macro ? 'bad-value' : 'missing', 0, problem);
    const same = [...this.runs.values()].filter((run) => run.macro.id === macro.id && !run.ended);
    if (same.length > 0 && macro.data.again === 'ignore')
      return done('skipped', 'running-already', 0, 'The macro is already running.');
    if (same.length > 0 && macro.data.again === 'queue') {
      const waiting = this.queued.get(macro.id) ?? [];
      if (waiting.length >= queuedMost)
        return done('skipped', 'too-many', 0, `${queuedMost} wait for their turn already.`);
      this.queued.set(macro.id, [...waiting, { request, done }]);
      return;
    }
    for (const run of same) this.stopFor(run, `Restarted by ${request.who}.`);
    for (const run of [...this.runs.values()])
      if (isSameGroup(run.macro, macro) && !this.hasBegun(run, request))
        this.stopFor(run, `“${macro.data.name}” of the same group was started by ${request.who}.`);
    this.startRun(macro, request, done);
  }

  /** Another takes its place. */
  private stopFor(run: MacroRun, reason: string): void {
    // One that was begun by another which was just stopped has ended with it.
    if (run.ended) return;
    this.leaveWithBegun(run, 'stop', reason);
    this.settleWith(run);
    this.finish(run);
  }

  /** True when a request comes from a run, or from one that it has begun, at any depth. */
  private hasBegun(run: MacroRun, { by }: RunRequest): boolean {
    if (by === undefined) return false;
    const caller = this.runs.get(by);
    return by === run.request.id || (caller !== undefined && this.hasBegun(run, caller.request));
  }

  /** Ends one run, or all, with what they have begun themselves. */
  end(id: string | undefined, way: Exclude<WayOn, 'go on'>, who: string): void {
    const reason = `Stopped by ${who}.`;
    if (id === undefined) for (const macro of [...this.queued.keys()]) this.giveUp(macro, reason);
    const one = id === undefined ? undefined : this.runs.get(id);
    if (one) this.giveUp(one.macro.id, reason);
    for (const run of one ? [one] : id === undefined ? [...this.runs.values()] : [])
      this.leaveWithBegun(run, way, reason);
    this.onTime();
  }

  /** Ends every run of one macro, and those that wait for their turn. */
  endAllOf(macro: string, way: Exclude<WayOn, 'go on'>, who: string): void {
    this.giveUp(macro, `Stopped by ${who}.`);
    for (const run of this.runs.values())
      if (run.macro.id === macro && !run.ended) this.leaveWithBegun(run, way, `Stopped by ${who}.`);
    this.onTime();
  }

  /** The macros that run now. */
  get running(): ReadonlySet<string> {
    return new Set([...this.runs.values()].map(({ macro }) => macro.id));
  }

  /** The listener hears whenever a macro begins to run, or runs no more. */
  listen(listener: () => void): void {
    this.onRunning = listener;
  }

  /** A run leaves, and with it what it has begun, at any depth. */
  private leaveWithBegun(run: MacroRun, way: Exclude<WayOn, 'go on'>, reason: string): void {
    run.leave(way, reason);
    this.topics.touch(run);
    for (const other of this.runs.values())
      if (other.request.by === run.request.id && !other.ended) this.leaveWithBegun(other, way, reason);
  }

  onReadings(): void {
    if ([...this.runs.values()].some((run) => run.waiting)) this.onTime();
  }

  /** A device has come or gone. */
  onLink({ device, status, before }: LinkChange): void {
    if (acceptsPresses(status.link.word) || !acceptsPresses(before)) return;
    for (const run of this.runs.values()) {
      const { whenDown } = run.macro.data;
      if (whenDown === 'go on' || !run.needs.has(device)) continue;
      run.leave(whenDown, `${status.tag} went ${status.link.word}.`);
      this.topics.touch(run);
    }
    this.onTime();
  }

  stop(): void {
    for (const macro of [...this.queued.keys()]) this.giveUp(macro, 'The engine was stopped.');
    this.clock.stop();
    this.topics.stop();
    for (const run of this.runs.values()) {
      run.leave('stop', 'The engine was stopped.');
      this.settleWith(run);
      this.finish(run, true);
    }
  }

  /** Tells requests that wait for their turn that the macro will not begin. */
  private giveUp(macro: string, reason: string): void {
    const waiting = this.queued.get(macro) ?? [];
    this.queued.delete(macro);
    for (const { done } of waiting) done('skipped', 'stopped', 0, reason);
  }

  private problemOf(macro: MacroRecord, { params }: RunRequest): string | undefined {
    if (this.runs.size >= runsMost) return `${runsMost} macros run already.`;
    const loop = loopOf(macro, this.sources.show.macros);
    if (loop) return `It calls itself in a circle: ${loop.join(' → ')}.`;
    if (macro.data.segments.every(({ steps }) => steps.length === 0)) return 'It is empty: there is nothing to send.';
    return givenProblem(macro.data, params);
  }

  private startRun(macro: MacroRecord, request: RunRequest, done: RunDone): void {
    const { show } = this.sources;
    const plan = planOf(macro.data.segments, (send) =>
      actsAfter(send, { devices: show.devices, driverOf: (device) => show.driverOf(device) }),
    );
    const run = new MacroRun(
      request,
      macro,
      valuesOf(macro.data, request.params),
      plan,
      { holds: this.holds, carryOut: (of, due, left, ended) => this.carryOut(of, due, left, ended) },
      done,
    );
    this.runs.set(request.id, run);
    this.tellRunning();
    if (request.by === undefined) this.sources.recorder.onMacro(macro.id, request.params);
    const { id, who, aim } = request;
    this.sources.asRun.record({ kind: 'begin', run: id, macro: macro.data.name, macroId: macro.id, who, aim });
    this.topics.touch(run);
    this.onTime();
  }

  private readonly holds = (
    condition: Condition,
    values: Readonly<Record<string, Scalar>>,
    place: string,
    run: MacroRun,
  ): boolean => {
    const { show, readings } = this.sources;
    const memories = this.memories.get(run) ?? new Map<string, LampMemory>();
    this.memories.set(run, memories);
    const memory: LampMemory = memories.get(place) ?? new Map<string, number>();
    memories.set(place, memory);
    const sources = {
      readingNow: (ref: Parameters<ReadingStore['get']>[0]) => readings.get(ref),
      documentOf: show.documentOf,
      now: Date.now(),
    };
    return ruleNow({ when: condition }, values, sources, memory).is === true;
  };

  /** Everything whose time has come, and the next moment. What that begins itself is looked at as well before anybody sleeps. */
  private onTime(): void {
    if (this.looking) {
      this.lookAgain = true;
      return;
    }
    this.looking = true;
    try {
      do {
        this.lookAgain = false;
        for (const run of [...this.runs.values()]) this.look(run);
      } while (this.lookAgain);
    } finally {
      this.looking = false;
      this.sleep();
    }
  }

  private look(run: MacroRun): void {
    const now = performance.now();
    const wake = run.wakeAt;
    if (wake !== undefined && (run.waiting || wake <= now) && run.advance(now)) this.topics.touch(run);
    if (!run.ended) return;
    this.settleWith(run);
    this.finish(run);
  }

  private sleep(): void {
    let exact = Number.POSITIVE_INFINITY;
    let about = Number.POSITIVE_INFINITY;
    for (const run of this.runs.values()) {
      const next = run.wakeAt ?? Number.POSITIVE_INFINITY;
      if (run.waiting) about = Math.min(about, next, performance.now() + lookEveryMs);
      else exact = Math.min(exact, next);
    }
    this.clock.set(exact, about);
  }

  /** A run that has ended is taken from the list once all that it sent has ended too. */
  private finish(run: MacroRun, whatever = false): void {
    const { id } = run.request;
    if (!(run.settled || whatever) || !this.runs.delete(id)) return;
    const { past, macro } = run;
    this.tellRunning();
    this.past.keep(macro.id, past);
    this.sources.asRun.record({ kind: 'run', macro: macro.data.name, macroId: macro.id, past });
    run.done(
      run.outcome,
      run.why,
      past.lengthMs,
      past.reason ?? past.steps.find(({ outcome }) => outcome === run.outcome)?.reason,
    );
    this.topics.onOver(run);
    const [next, ...rest] = this.queued.get(macro.id) ?? [];
    this.queued.set(macro.id, rest);
    if (next) this.begin(next.request, next.done);
  }

  /** What a run has on is turned off when it is over; what its steps have moving stops, unless it was played to its end. */
  private settleWith(run: MacroRun): void {
    const { id } = run.request;
    this.pulses.leave(id);
    if (run.ended !== 'done') this.sources.deadMan.release(runOwner(id), 'macro stopped');
  }

  private carryOut(run: MacroRun, due: DueStep, left: () => void, ended: StepEnded): void {
    this.steps.carryOut(run, due, left, (outcome, why, reason) => {
      ended(outcome, why, reason);
      this.topics.touch(run);
      if (run.settled) this.finish(run);
    });
  }

  private tellRunning(): void {
    this.sources.pages.setRunning(this.running);
    this.onRunning();
  }
}

/** Two macros of which only one runs. Capitals do not matter. */
const isSameGroup = ({ id, data: { group } }: MacroRecord, other: MacroRecord): boolean =>
  id !== other.id && group !== undefined && group.toLowerCase() === other.data.group?.toLowerCase();
