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

type Begin = (request: MacroRequest, done: RunDone) => void;

/** Carries what presses ask of the macros to the part that runs them. */
export class MacroRequests {
  private begin: Begin | undefined;

  serve(begin: Begin): void {
    this.begin = begin;
  }

  ask(request: MacroRequest, done: RunDone): void {
    if (this.begin) this.begin(request, done);
    else done('lost', 'stopped', 0, 'No macros run here.');
  }
}
