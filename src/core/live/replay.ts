import { z } from 'zod';

export const replayOrderSchema = z
  .strictObject({
    from: z.number().int().min(0).describe('Of the as-run: from then, in milliseconds since 1970.'),
    to: z.number().int().min(0).describe('Until then.'),
    speed: z
      .number()
      .min(0)
      .max(100)
      .default(1)
      .describe(
        '1 plays at the speed of the record, 10 ten times as fast, 0 one press after the other without waiting.',
      ),
  })
  .refine(({ from, to }) => from < to, { message: 'is not before the end', path: ['from'] });
export type ReplayOrder = z.output<typeof replayOrderSchema>;

/** A line of the answer of a replay. */
export type ReplayLine =
  | { readonly t: 'begun'; readonly steps: number; readonly set: number; readonly left: readonly LeftStep[] }
  | ReplayStepLine
  | { readonly t: 'ended'; readonly tookMs: number }
  | { readonly t: 'failed'; readonly message: string };

export interface ReplayStepLine {
  readonly t: 'step';
  readonly n: number;
  /** When it was pressed, in milliseconds since 1970. */
  readonly at: number;
  readonly page: string;
  readonly label: string;
  readonly who: string;
  readonly then: string;
  readonly now: string;
  readonly differences: readonly string[];
  /** Devices for which nothing stands in. */
  readonly unmatched: readonly string[];
}

/** A press that could not be played again. */
export interface LeftStep {
  readonly n: number;
  readonly label: string;
  readonly why: string;
}
