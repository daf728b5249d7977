import { actsAfter } from '../../core/check';
import { ruleNow, type LampMemory } from '../../core/lamp';
import type {
  AsRunRow,
  MacroRunsView,
  PastRun,
  Publish,
  RunsView,
  RunView,
  ScreenAct,
  TopicName,
} from '../../core/live';
import { argumentNow, givenProblem, loopOf, planOf, valuesOf, type DueStep } from '../../core/macro';
import { dryReason } from '../../core/press';
import type { Scalar } from '../../core/result';
import { acceptsPresses } from '../../core/session';
import type { Condition, MacroRecord, MacroSend, WayOn } from '../../core/show';
import type { Aims } from '../aim/aims';
import type { AsRun } from '../record/as-run';
import { Clockwork } from './clockwork';
import type { DeadMan } from '../presses/dead-man';
import { MacroRun, type RunRequest, type StepEnded } from './macro-run';
import type { MacroRequests, RunDone } from '../presses/macro-request';
import { runOwner } from '../presses/press-run';
import { Pulses } from './pulses';
import type { PageContexts } from '../pages/page-contexts';
import type { Presses } from '../presses/presses';
import type { Recorder } from './recorder';
import type { ReadingStore } from '../devices/readings';
import type { LinkChange } from '../parts';
import type { TopicBook } from '../topics/topic-book';
import type { RunningShow } from '../show/running-show';

/** Has all screens of a panel, or of every panel, do something. */
interface ScreenActs {
  onPanels(panel: string | undefined, act: ScreenAct): void;
}

interface MacroSources {
  readonly show: RunningShow;
  readonly readings: ReadingStore;
  readonly presses: Presses;
  readonly screens: ScreenActs;
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
  readonly newId: () => string;
}

const keptRuns = 50;
const queuedMost = 20;
/** Of all macros together: more is a mistake, and each costs time. */
const runsMost = 100;
/** A condition that has to last, and a clock that runs on, come true without a report. */
const lookEveryMs = 50;
const publishEveryMs = 100;

/** The macros that run, each step on time; what became of them; and who may begin which while it runs already. */
export class Macros {
  private readonly runs = new Map<string, MacroRun>();
  private readonly queued = new Map<string, { readonly request: RunRequest; readonly done: RunDone }[]>();
  private readonly pastOf = new Map<string, PastRun[]>();
  private readonly memories = new WeakMap<MacroRun, Map<string, LampMemory>>();
  private readonly clock = new Clockwork(() => this.onTime());
  private readonly pulses: Pulses;
  private looking = false;
  private lookAgain = false;
  private publishing: NodeJS.Timeout | undefined;
  private readonly dirty = new Set<string>();

  constructor(private readonly sources: MacroSources) {
    this.pulses = new Pulses(sources.deadMan);
    sources.topics.serve('runs', { whole: () => this.view });
    sources.topics.serve('macro', { whole: (id) => this.runsOf(id) });
    sources.aims.listen({
      goesOn: () => (this.runs.size > 0 ? 'a macro runs. Stop it, or wait for its end.' : undefined),
      onCurtain: () => this.end(undefined, 'stop', 'the end of the rehearsal'),
    });
    sources.requests.serve((request, done) => this.begin({ ...request, id: sources.newId() }, done));
  }

  /** Takes over what the record knows of earlier runs. */
  async start(): Promise<void> {
    await this.sources.asRun.opened;
    this.recall(this.sources.asRun.view.rows);
  }

  private get view(): RunsView {
    return Object.fromEntries([...this.runs].map(([id, run]) => [id, run.view]));
  }

  private runsOf(macro: string): MacroRunsView | undefined {
    if (!this.sources.show.macros.has(macro)) return undefined;
    const now = [...this.runs.values()].findLast((run) => run.macro.id === macro);
    return { now: now?.past ?? null, past: this.pastOf.get(macro) ?? [] };
  }

  macroOf(run: string | undefined): string | undefined {
    return run === undefined ? undefined : this.runs.get(run)?.macro.id;
  }

  /** What the record still knows of earlier runs; what was under way when the program ended is said to have been cut off. */
  private recall(rows: readonly AsRunRow[]): void {
    const begun = new Map<string, Extract<AsRunRow, { kind: 'begin' }>>();
    for (const row of rows) {
      if (row.kind === 'begin') begun.set(row.run, row);
      else if (row.kind === 'run') {
        begun.delete(row.past.id);
        this.keep(row.macroId, row.past);
      }
    }
    for (const { run: id, macro, macroId, who, aim, at } of begun.values()) {
      const last = rows.findLast((row) => row.kind === 'press' && row.run === id);
      const where = last?.kind === 'press' ? `after “${last.label}”` : 'before its first step';
      const text = `The macro ${macro} was cut off ${where} by the end of the program. It does not go on by itself.`;
      this.sources.asRun.record({ kind: 'note', text });
      // Ended with that: the next start says nothing of it again.
      const past: PastRun = {
        id,
        at,
        who,
        aim,
        how: 'stopped',
        reason: text,
        lengthMs: (last?.at ?? at) - at,
        steps: [],
      };
      this.keep(macroId, past);
      this.sources.asRun.record({ kind: 'run', macro, macroId, past });
    }
  }

  /** Begins a macro, or says why not. `done` hears how it ended. */
  begin(request: RunRequest, done: RunDone): void {
    const macro = this.sources.show.macros.get(request.macro);
    const problem = macro ? this.problemOf(macro, request) : 'This macro is not there any more.';
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
    for (const run of same) {
      this.leaveWithBegun(run, 'stop', `Restarted by ${request.who}.`);
      this.settleWith(run);
      this.finish(run);
    }
    this.startRun(macro, request, done);
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

  /** A run leaves, and with it what it has begun, at any depth. */
  private leaveWithBegun(run: MacroRun, way: Exclude<WayOn, 'go on'>, reason: string): void {
    run.leave(way, reason);
    this.touch(run);
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
      this.touch(run);
    }
    this.onTime();
  }

  stop(): void {
    for (const macro of [...this.queued.keys()]) this.giveUp(macro, 'The engine was stopped.');
    this.clock.stop();
    clearTimeout(this.publishing);
    for (const run of this.runs.values()) {
      run.leave('stop', 'The engine was stopped.');
      this.settleWith(run);
      this.finish(run, true);
    }
  }

  /** Whoever waits for the turn of a macro hears that it does not come. */
  private giveUp(macro: string, reason: string): void {
    const waiting = this.queued.get(macro) ?? [];
    this.queued.delete(macro);
    for (const { done } of waiting) done('skipped', 'stopped', 0, reason);
  }

  private problemOf(macro: MacroRecord, { params }: RunRequest): string | undefined {
    if (this.runs.size >= runsMost) return `${runsMost} macros run already.`;
    const loop = loopOf(macro, this.sources.show.macros);
    if (loop) return `It calls itself in a round: ${loop.join(' → ')}.`;
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
    this.touch(run);
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
    if (wake !== undefined && (run.waiting || wake <= now) && run.advance(now)) this.touch(run);
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
    this.keep(macro.id, past);
    this.sources.asRun.record({ kind: 'run', macro: macro.data.name, macroId: macro.id, past });
    run.done(
      run.outcome,
      run.why,
      past.lengthMs,
      past.reason ?? past.steps.find(({ outcome }) => outcome === run.outcome)?.reason,
    );
    this.sources.publish('runs', { drop: [id] });
    this.sources.publish(`macro:${macro.id}`, { now: null, past: this.pastOf.get(macro.id) ?? [] });
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
    const { does } = due.step;
    const end: StepEnded = (outcome, why, reason) => {
      ended(outcome, why, reason);
      this.touch(run);
      if (run.settled) this.finish(run);
    };
    switch (does.is) {
      case 'send':
        return due.step.half ? this.pulse(run, due, does.send, left, end) : this.send(run, does.send, left, end);
      case 'macro': {
        const { id: by, who, aim } = run.request;
        const params = this.argumentsNow(does.params, run.values);
        if (!params.ok) return end('lost', 'bad-value', params.reason);
        left();
        return this.begin(
          { id: this.sources.newId(), macro: does.macro, params: params.given, who, aim, by },
          (outcome, why, _ms, reason) => end(outcome, why, reason),
        );
      }
      default: {
        if (run.request.aim === 'dry') return end('skipped', 'dry', dryReason);
        left();
        this.sources.screens.onPanels(does.panel, this.screenActOf(does));
        return end('sent', 'one-way');
      }
    }
  }

  private screenActOf(does: Exclude<DueStep['step']['does'], { is: 'send' | 'macro' }>): ScreenAct {
    switch (does.is) {
      case 'page':
        return { do: 'go', page: does.page };
      case 'note':
        return { do: 'note', id: this.sources.newId(), text: does.text };
      case 'shift':
        return { do: 'shift', page: does.page, shift: does.shift };
      case 'pick':
        return { do: 'pick', page: does.page, zone: does.zone, device: does.device };
      case 'brightness':
        return { do: 'dim', brightness: does.percent };
    }
  }

  /** One half of a pulse: its turning off is owed from before it is turned on until it has been turned off. */
  private pulse(run: MacroRun, due: DueStep, send: MacroSend, left: () => void, end: StepEnded): void {
    const { id, aim } = run.request;
    const key = `${due.segment}.${due.round}.${due.step.step}`;
    if (due.step.half === 'off') {
      return this.send(run, send, left, (outcome, why, reason) => {
        if (outcome === 'lost' || outcome === 'late' || outcome === 'refused') this.pulses.missed(id, key);
        else this.pulses.off(id, key);
        end(outcome, why, reason);
      });
    }
    const pulse = pulseOf(run.macro, due.step.step);
    const off = pulse && this.argumentsNow(pulse.off.params, run.values);
    if (!pulse || !off?.ok)
      return off?.ok === false
        ? end('lost', 'bad-value', off.reason)
        : end('lost', 'missing', 'This step is no longer in the macro.');
    const { device, command } = pulse.off;
    const owner =
      aim === 'dry' ? undefined : this.pulses.on(id, key, { device, command, params: off.given }, pulse.forMs);
    const ended: StepEnded = (outcome, why, reason) => {
      if (outcome === 'skipped') this.pulses.off(id, key);
      end(outcome, why, reason);
    };
    this.send(run, send, left, ended, owner);
  }

  private send(
    run: MacroRun,
    { device, command, params }: MacroSend,
    left: () => void,
    end: StepEnded,
    /** Who owes its turning off, beside the run. */
    owner?: string,
  ): void {
    const record = this.sources.show.devices.get(device);
    const given = this.argumentsNow(params, run.values);
    if (!record) return end('lost', 'missing', 'Its device is not in the rig.');
    if (!given.ok) return end('lost', 'bad-value', given.reason);
    const { who, aim, id } = run.request;
    const title = this.sources.show.driverOf(record)?.commands.get(command)?.command.title ?? command;
    this.sources.presses.command(
      {
        id: this.sources.newId(),
        gesture: 'tap',
        guard: true,
        who,
        device: record,
        command,
        params: given.given,
        label: `${run.macro.data.name}: ${record.data.tag} ${title}`,
        aim,
        run: id,
        owners: [runOwner(id), ...(owner === undefined ? [] : [owner])],
        onLeft: left,
      },
      ({ outcome, reason, why, note }) => {
        // A report that came after the end is no second end.
        if (outcome !== 'taken' && outcome !== 'waiting' && note === undefined) end(outcome, why ?? 'missing', reason);
      },
    );
  }

  private argumentsNow(params: MacroSend['params'], values: Readonly<Record<string, Scalar>>) {
    const given: Record<string, Scalar> = {};
    for (const [name, argument] of Object.entries(params)) {
      const value = argumentNow(argument, values, ({ device, key }) => this.sources.readings.fresh(device, key));
      if (value === undefined)
        return { ok: false, reason: `“${name}” has no value: what it is taken from is not known now.` } as const;
      given[name] = value;
    }
    return { ok: true, given } as const;
  }

  private tellRunning(): void {
    this.sources.pages.setRunning(new Set([...this.runs.values()].map(({ macro }) => macro.id)));
  }

  private keep(macro: string, past: PastRun): void {
    this.pastOf.set(macro, [past, ...(this.pastOf.get(macro) ?? [])].slice(0, keptRuns));
  }

  /** Told to the screens soon: many steps of many runs in one go. */
  private touch(run: MacroRun): void {
    this.dirty.add(run.request.id);
    this.publishing ??= setTimeout(() => {
      this.publishing = undefined;
      const put: Record<string, RunView> = {};
      for (const id of this.dirty) {
        const run = this.runs.get(id);
        if (run) put[id] = run.view;
      }
      this.dirty.clear();
      if (Object.keys(put).length === 0) return;
      this.sources.publish('runs', { put });
      for (const id of Object.keys(put)) {
        const now = this.runs.get(id);
        if (now && this.sources.isFollowed(`macro:${now.macro.id}`))
          this.sources.publish(`macro:${now.macro.id}`, { now: now.past });
      }
    }, publishEveryMs);
  }
}

function pulseOf({ data }: MacroRecord, step: string) {
  for (const { steps } of data.segments) {
    const does = steps.find(({ id }) => id === step)?.does;
    if (does?.is === 'pulse') return does;
  }
  return undefined;
}
