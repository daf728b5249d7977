import { z } from 'zod';
import { idSchema } from '../show';

/** Topic `burn-in`, for desks: the rig while it is exercised, or how that ended last. */
export interface BurnInView {
  readonly run: { readonly who: string; readonly startedAt: number; readonly endsAt: number } | null;
  /** Of the run that goes on, or of the last one. In milliseconds since 1970. */
  readonly last: { readonly who: string; readonly startedAt: number; readonly endedAt: number } | null;
  readonly devices: Readonly<Record<string, BurnInDevice>>;
}

/** What came of a device. Times are in milliseconds. */
export interface BurnInDevice {
  readonly asked: number;
  readonly lost: number;
  /** How often its link dropped. */
  readonly drops: number;
  /** Commands that were tried and put back, and how many of them failed. */
  readonly trials: number;
  readonly failed: number;
  /** A twentieth, half and nineteen twentieths of the answers came within this; the longest of all. */
  readonly low?: number;
  readonly half?: number;
  readonly high?: number;
  readonly longest?: number;
  /** Why nothing is asked of it. */
  readonly why?: string;
}

export const burnInOrderSchema = z.strictObject({
  minutes: z.number().min(0.1).max(1440).describe('How long the rig is exercised.'),
  devices: z.array(idSchema).max(500).optional().describe('Devices by id; left out, all of them.'),
  putBack: z
    .array(idSchema)
    .max(500)
    .default([])
    .describe('Devices, by id, whose commands are also tried and put back, as in the line check.'),
});
export type BurnInOrder = z.output<typeof burnInOrderSchema>;
