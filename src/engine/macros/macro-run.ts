import {
  advanceRun,
  beginRun,
  leaveRun,
  wakeAt,
  type DueStep,
  type PastRun,
  type PlannedSegment,
  type RanStep,
  type Run,
  type RunEnd,
} from '../../core/macro';
import type { RunView } from '../../core/live';
import type { MacroRequest, RunDone } from '../presses/macro-request';
import { type Why, worstOutcome, type FinalOutcome } from '../../core/press';
import type { Scalar } from '../../core/result';
import type { Condition, MacroRecord, WayOn } from '../../core/show';

export interface RunRequest extends MacroRequest {
  readonly id: string;
  /** The run that began it. */
  readonly by?: string;
}

/** How a step ended. */
export type StepEnded = (outcome: FinalOutcome, why: Why, reason?: string) => void;

interface Ways {
  readonly holds: (
    condition: Condition,
    values: Readonly<Record<string, Scalar>>,
    place: string,
    run: MacroRun,
  ) => boolean;
  /** Carries a step out; `left` when its bytes have left, `ended` when it is known how it ended. */
  readonly carryOut: (run: MacroRun, due: DueStep, left: () => void, ended: StepEnded) => void;
}

/** The most steps of a run that are kept with their times. */
const keptSteps = 2000;

/** One macro that runs: its state, and what has become of its steps. Times of its own are by `performance.now()`. */
export class MacroRun {
  private readonly steps: RanStep[] = [];
  private run: Run;
  private readonly startedAt: number;
  private open = 0;
  private sent = 0;
  private readonly outcomes = new Set<FinalOutcome>();
  /** By outcome, why the first step that ended so did. */
  private readonly whys = new Map<FinalOutcome, Why>();
  private readonly epoch: number;
  reason: string | undefined;

  constructor(
    readonly request: RunRequest,
    readonly macro: MacroRecord,
    readonly values: Readonly<Record<string, Scalar>>,
    plan: readonly PlannedSegment[],
    private readonly ways: Ways,
    readonly done: RunDone,
  ) {
    this.startedAt = performance.now();
    this.epoch = Date.now();
    this.run = beginRun(plan, this.startedAt);
  }

  get ended(): RunEnd | undefined {
    return this.run.phase.is === 'ended' ? this.run.phase.how : undefined;
  }

  /** All that it has sent has ended too. */
  get settled(): boolean {
    return this.ended !== undefined && this.open === 0;
  }

  get waiting(): boolean {
    return this.run.phase.is === 'waiting';
  }

  get wakeAt(): number | undefined {
    return wakeAt(this.run);
  }

  /** The devices that its segments still need. */
  get needs(): ReadonlySet<string> {
    const { phase, plan } = this.run;
    const from = phase.is === 'ended' ? plan.length : phase.segment;
    const sends = plan
      .slice(from)
      .flatMap(({ steps }) => steps.flatMap(({ does }) => (does.is === 'send' ? [does.send.device] : [])));
    return new Set(sends);
  }

  /** Runs due steps. @returns true if something was due or the run entered another segment */
  advance(now: number): boolean {
    const holds = (condition: Condition, place: string) => this.ways.holds(condition, this.values, place, this);
    const { run, due } = advanceRun(this.run, now, holds);
    const before = this.run.phase;
    this.run = run;
    for (const each of due) this.carryOut(each);
    return due.length > 0 || run.phase.is !== before.is || zeroOf(run.phase) !== zeroOf(before);
  }

  leave(way: Exclude<WayOn, 'go on'>, reason: string, why?: Exclude<RunEnd, 'done'>): void {
    if (this.ended) return;
    this.reason ??= reason;
    this.run = leaveRun(this.run, performance.now(), way, why);
  }

  private carryOut(due: DueStep): void {
    const { step, segment, round, plannedAt } = due;
    const at = this.steps.length;
    const base: RanStep = {
      step: step.step,
      ...(step.half ? { half: step.half } : {}),
      segment,
      round,
      plannedMs: rounded(plannedAt - this.startedAt),
    };
    this.open += 1;
    this.sent += 1;
    // Of a macro that repeats for hours the beginning is kept, not everything.
    const isKept = at < keptSteps;
    if (isKept) this.steps.push(base);
    const change = (more: Partial<RanStep>) => {
      if (isKept) this.steps[at] = { ...(this.steps[at] ?? base), ...more };
    };
    this.ways.carryOut(
      this,
      due,
      () => change({ sentMs: rounded(performance.now() - this.startedAt) }),
      (outcome, why, reason) => {
        this.open -= 1;
        this.outcomes.add(outcome);
        if (!this.whys.has(outcome)) this.whys.set(outcome, why);
        change({ outcome, endedMs: rounded(performance.now() - this.startedAt), ...(reason ? { reason } : {}) });
      },
    );
  }

  /** How it went, as far as it is known. */
  get past(): PastRun {
    const { id, who, aim } = this.request;
    const { phase } = this.run;
    const endAt = phase.is === 'ended' ? phase.at : performance.now();
    return {
      id,
      at: this.epoch,
      who,
      aim,
      how: this.ended ?? 'done',
      ...(this.reason === undefined ? {} : { reason: this.reason }),
      lengthMs: rounded(endAt - this.startedAt),
      steps: [...this.steps],
    };
  }

  /** The worst outcome of its steps, for the press that began it. */
  get outcome(): FinalOutcome {
    if (this.ended === 'gave up') return 'late';
    if (this.ended === 'stopped') return 'skipped';
    return this.outcomes.size === 0 ? 'skipped' : worstOutcome([...this.outcomes]);
  }

  /** Why it ended with this outcome. */
  get why(): Why {
    if (this.ended === 'gave up') return 'timed-out';
    if (this.ended === 'stopped') return 'stopped';
    return this.whys.get(this.outcome) ?? 'nothing-to-send';
  }

  get view(): RunView {
    const { phase, plan, leaving } = this.run;
    const segment = phase.is === 'ended' ? undefined : plan[phase.segment];
    const from = phase.is === 'ended' ? plan.length : phase.segment;
    const toCome = plan
      .slice(from)
      .reduce((sum, { preRollMs, lengthMs, times }) => sum + (preRollMs + lengthMs) * times, 0);
    const at =
      phase.is === 'waiting'
        ? phase.since
        : phase.is === 'playing'
          ? phase.zeroAt - (segment?.preRollMs ?? 0)
          : phase.at;
    const round = phase.is === 'playing' ? phase.round * ((segment?.preRollMs ?? 0) + (segment?.lengthMs ?? 0)) : 0;
    return {
      macro: this.macro.id,
      name: this.macro.data.name,
      who: this.request.who,
      aim: this.request.aim,
      at: segment?.name ?? '',
      waiting: phase.is === 'waiting',
      leaving: leaving !== undefined,
      hasWayOut: plan.some(({ part }) => part === 'way out'),
      startedAt: this.epoch,
      ...(phase.is === 'playing'
        ? { playing: { segment: phase.segment, zeroAt: Math.round(this.epoch + (phase.zeroAt - this.startedAt)) } }
        : {}),
      endsAt: Math.round(this.epoch + (at - this.startedAt) + toCome - round),
      sent: this.sent,
      steps: plan.reduce((sum, { steps, times }) => sum + steps.length * times, 0),
    };
  }
}

const zeroOf = (phase: Run['phase']): number | undefined => (phase.is === 'playing' ? phase.zeroAt : undefined);

const rounded = (ms: number): number => Math.round(ms * 100) / 100;
