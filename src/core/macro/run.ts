import type { Condition, WayOn } from '../show';
import type { PlannedSegment, PlannedStep } from './plan';

/**
 * One run of a macro as a state: told the time and what holds, it says what is due and when to ask again. Times are milliseconds of a
 * clock that only goes forward. What follows a segment begins at that segment's planned end, however late anything was: nothing drifts.
 */
export type RunPhase =
  | {
      readonly is: 'playing';
      readonly segment: number;
      /** Which time it is played, from 0. */
      readonly round: number;
      readonly zeroAt: number;
      /** The next of its steps. */
      readonly next: number;
    }
  | { readonly is: 'waiting'; readonly segment: number; readonly since: number; readonly until: number }
  | { readonly is: 'ended'; readonly how: RunEnd; readonly at: number };

/** Played to its end · stopped by somebody or something · given up because what it waited for did not come. */
export type RunEnd = 'done' | 'stopped' | 'gave up';

export interface Run {
  readonly plan: readonly PlannedSegment[];
  readonly phase: RunPhase;
  /** Why it is on its way out, once it was sent there. */
  readonly leaving?: Exclude<RunEnd, 'done'>;
}

/** A step whose time has come. */
export interface DueStep {
  readonly segment: number;
  readonly round: number;
  readonly step: PlannedStep;
  /** When it was to be sent, by the clock of the run. */
  readonly plannedAt: number;
}

type Holds = (condition: Condition, place: string) => boolean;

/** At the beginning of its first segment; `advanceRun` says what is due at once. */
export const beginRun = (plan: readonly PlannedSegment[], now: number): Run => ({
  plan,
  phase: { is: 'waiting', segment: 0, since: now, until: Number.POSITIVE_INFINITY },
});

/** When it has to be asked again at the latest. `undefined` once it has ended. */
export function wakeAt({ plan, phase }: Run): number | undefined {
  if (phase.is === 'ended') return undefined;
  if (phase.is === 'waiting') return phase.until;
  const segment = plan[phase.segment];
  const next = segment?.steps[phase.next];
  return phase.zeroAt + (next ? next.sendAt : (segment?.lengthMs ?? 0));
}

/** Everything that is due by now, in order, and the run afterwards. */
export function advanceRun(
  run: Run,
  now: number,
  holds: Holds,
): { readonly run: Run; readonly due: readonly DueStep[] } {
  const due: DueStep[] = [];
  let at = run;
  for (;;) {
    const next = oneOn(at, now, holds, due);
    if (!next) return { run: at, due };
    at = next;
  }
}

/** Ends it: at once, or by way of the segments that are its way out, where it has some and is not on them already. */
export function leaveRun(
  run: Run,
  now: number,
  way: Exclude<WayOn, 'go on'>,
  why: Exclude<RunEnd, 'done'> = 'stopped',
): Run {
  if (run.phase.is === 'ended') return run;
  const first = run.plan.findIndex(({ part }) => part === 'way out');
  if (way === 'stop' || first === -1 || run.leaving) return { ...run, phase: { is: 'ended', how: why, at: now } };
  return {
    ...run,
    leaving: why,
    phase: { is: 'waiting', segment: first, since: now, until: Number.POSITIVE_INFINITY },
  };
}

/** One step on; `undefined` when it has to wait. */
function oneOn(run: Run, now: number, holds: Holds, due: DueStep[]): Run | undefined {
  const { plan, phase, leaving } = run;
  if (phase.is === 'ended') return undefined;
  const segment = plan[phase.segment];
  if (!segment) return { ...run, phase: { is: 'ended', how: leaving ?? 'done', at: endOf(phase) } };
  if (phase.is === 'waiting') return entered(run, phase, segment, now, holds);
  const { zeroAt, next, round } = phase;
  const step = segment.steps[next];
  if (step) {
    const plannedAt = zeroAt + step.sendAt;
    if (plannedAt > now) return undefined;
    due.push({ segment: phase.segment, round, step, plannedAt });
    return { ...run, phase: { ...phase, next: next + 1 } };
  }
  const endAt = zeroAt + segment.lengthMs;
  if (endAt > now) return undefined;
  if (round + 1 < segment.times) {
    return { ...run, phase: { ...phase, round: round + 1, zeroAt: endAt + segment.preRollMs, next: 0 } };
  }
  return { ...run, phase: turnOf(run, phase.segment + 1, endAt) };
}

const endOf = (phase: Exclude<RunPhase, { is: 'ended' }>): number =>
  phase.is === 'waiting' ? phase.since : phase.zeroAt;

/** The turn of a segment. On the way out, what is not part of it is passed over. */
function turnOf({ plan, leaving }: Run, from: number, since: number): RunPhase {
  let segment = from;
  while (leaving && segment < plan.length && plan[segment]?.part !== 'way out') segment += 1;
  return { is: 'waiting', segment, since, until: Number.POSITIVE_INFINITY };
}

/** A segment whose turn has come: played, passed over, or waited for. */
function entered(
  run: Run,
  phase: Extract<RunPhase, { is: 'waiting' }>,
  { onlyIf, waits, preRollMs }: PlannedSegment,
  now: number,
  holds: Holds,
): Run | undefined {
  const { segment, since } = phase;
  const isNew = phase.until === Number.POSITIVE_INFINITY;
  if (isNew && onlyIf && !holds(onlyIf, `${segment} only if`))
    return { ...run, phase: turnOf(run, segment + 1, since) };
  const play = (from: number): Run => ({
    ...run,
    phase: { is: 'playing', segment, round: 0, zeroAt: from + preRollMs, next: 0 },
  });
  if (!waits) return play(since);
  // What held already when its turn came costs no time.
  if (holds(waits.until, `${segment} waits`)) return play(isNew ? since : now);
  const until = since + waits.mostMs;
  if (now < until) return isNew ? { ...run, phase: { ...phase, until } } : undefined;
  if (waits.otherwise === 'go on') return play(until);
  return leaveRun(run, now, waits.otherwise, 'gave up');
}
