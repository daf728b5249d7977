import type { Trouble } from './troubles';

/** Something that the desk can do at once about what was found. */
export type Mend =
  | { readonly do: 'port'; readonly port: number }
  | { readonly do: 'driver'; readonly driver: string; readonly title: string }
  | { readonly do: 'option'; readonly name: string; readonly title: string; readonly value: string | number }
  | { readonly do: 'enable' }
  /** Interrupts the live connection for the test. */
  | { readonly do: 'interrupt' }
  | { readonly do: 'find' };

/** What a stage found. `failed` ends the test; `doubtful` is worth a look, and the test goes on. */
export interface Verdict {
  readonly is: 'passed' | 'doubtful' | 'failed' | 'not-possible';
  /** What was seen, in a sentence. */
  readonly seen: string;
  /** Of a round trip: half of the answers came within this many milliseconds. */
  readonly halfMs?: number;
  readonly trouble?: Trouble;
  readonly mends?: readonly Mend[];
}

export const passed = (seen: string): Verdict => ({ is: 'passed', seen });
export const failed = (trouble: Trouble, seen: string, mends: readonly Mend[] = []): Verdict => ({
  is: 'failed',
  trouble,
  seen,
  mends,
});
export const doubtful = (trouble: Trouble, seen: string, mends: readonly Mend[] = []): Verdict => ({
  is: 'doubtful',
  trouble,
  seen,
  mends,
});
export const notPossible = (seen: string): Verdict => ({ is: 'not-possible', seen });
