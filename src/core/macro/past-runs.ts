import type { FinalOutcome } from '../press';
import type { RunEnd } from './run';

/** What a step of a run was, was to be, and became. Times are milliseconds from the beginning of the run. */
export interface RanStep {
  readonly step: string;
  readonly half?: 'on' | 'off';
  readonly segment: number;
  readonly round: number;
  readonly plannedMs: number;
  /** When its bytes left; absent when they did not. */
  readonly sentMs?: number;
  /** When it was known how it ended. */
  readonly endedMs?: number;
  readonly outcome?: FinalOutcome;
  readonly reason?: string;
}

/** A run that has ended. */
export interface PastRun {
  readonly id: string;
  /** In milliseconds since 1970. */
  readonly at: number;
  readonly who: string;
  readonly aim: string;
  readonly how: RunEnd;
  readonly reason?: string;
  readonly lengthMs: number;
  readonly steps: readonly RanStep[];
}

/** One step over many runs, in milliseconds: how much later than planned it was sent, and how long until it was confirmed. */
interface StepSummary {
  readonly step: string;
  readonly half?: 'on' | 'off';
  readonly runs: number;
  readonly confirmed: number;
  readonly late: { readonly p50: number; readonly p95: number };
  readonly confirm?: { readonly p50: number; readonly p95: number };
}

export function summaryOf(runs: readonly PastRun[]): StepSummary[] {
  const byStep = new Map<string, RanStep[]>();
  for (const step of runs.flatMap(({ steps }) => steps)) {
    const key = `${step.step} ${step.half ?? ''}`;
    byStep.set(key, [...(byStep.get(key) ?? []), step]);
  }
  return [...byStep.values()].flatMap((all): StepSummary[] => {
    const [first] = all;
    if (!first) return [];
    const late = all.flatMap(({ sentMs, plannedMs }) => (sentMs === undefined ? [] : [sentMs - plannedMs]));
    const sure = all.filter(({ outcome }) => outcome === 'confirmed');
    const confirm = sure.flatMap(({ sentMs, endedMs }) =>
      sentMs === undefined || endedMs === undefined ? [] : [endedMs - sentMs],
    );
    return [
      {
        step: first.step,
        ...(first.half ? { half: first.half } : {}),
        runs: all.length,
        confirmed: sure.length,
        late: shares(late),
        ...(confirm.length > 0 ? { confirm: shares(confirm) } : {}),
      },
    ];
  });
}

function shares(values: readonly number[]): { readonly p50: number; readonly p95: number } {
  const sorted = [...values].sort((a, b) => a - b);
  const at = (share: number) => sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * share))] ?? 0;
  return { p50: at(0.5), p95: at(0.95) };
}
