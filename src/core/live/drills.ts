import { z } from 'zod';
import type { DrillResult, FaultAccount } from '../drill';
import { drillSchema } from '../show';

/** Topic `drills`, for desks: the drill that runs, and those that were run, the newest first. */
export interface DrillsView {
  readonly run: DrillRunView | null;
  readonly past: readonly DrillResult[];
}

export interface DrillRunView {
  readonly name: string;
  readonly who: string;
  /** In milliseconds since 1970. */
  readonly startedAt: number;
  readonly faults: readonly FaultAccount[];
}

export const drillOrderSchema = z.strictObject({
  drill: drillSchema.describe('The drill as it is in the show, or one that is made up by hand.'),
  who: z.string().trim().min(1, 'a name').max(60),
});

/** What is done to a fault of the drill that runs, by its place. */
export const drillActSchema = z.discriminatedUnion('do', [
  z.strictObject({
    do: z.literal('seen'),
    fault: z.number().int().min(0).max(100),
    who: z.string().trim().min(1).max(60),
  }),
  z.strictObject({ do: z.literal('lift'), fault: z.number().int().min(0).max(100) }),
  z.strictObject({ do: z.literal('stop') }),
]);
export type DrillAct = z.output<typeof drillActSchema>;
