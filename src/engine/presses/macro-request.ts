import type { Aim } from '../../core/live';
import type { Why, FinalOutcome } from '../../core/press';
import type { Scalar } from '../../core/result';

/** What a press asks of the macros: begin this one. */
export interface MacroRequest {
  readonly macro: string;
  readonly params: Readonly<Record<string, Scalar>>;
  readonly who: string;
  readonly aim: Aim;
}

/** Told to the caller that began the run when it ends. */
export type RunDone = (outcome: FinalOutcome, why: Why, ms: number, reason?: string) => void;
