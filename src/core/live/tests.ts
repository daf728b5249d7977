import { z } from 'zod';
import { stageNames, type ExchangeLine, type StageName, type Verdict } from '../diagnosis';
import { scalarSchema } from '../driver';
import { idSchema } from '../show';

/** A device as it is being typed: what is not saved yet can be tested too. */
export const candidateSchema = z.strictObject({
  /** The device of the rig whose entry it is; its password is used where none is given. */
  id: idSchema.optional(),
  driver: z.string().max(64),
  host: z.string().max(253),
  port: z.number().int().min(1).max(65_535),
  user: z.string().max(80).default(''),
  password: z.string().max(200).optional(),
  options: z.record(z.string().max(40), scalarSchema).default({}),
  through: idSchema.optional(),
  enabled: z.boolean().default(true),
});

export const testRequestSchema = z.strictObject({
  /** Tags of devices of the rig; left out, all of them. */
  devices: z.array(z.string().min(1).max(40)).min(1).max(500).optional().describe('Tags; left out, the whole rig.'),
  candidate: candidateSchema.optional().describe('A device that is not in the rig, or not as it is typed.'),
  beside: z
    .boolean()
    .default(false)
    .describe('Tests an address beside the candidate that nobody has, to see what failure looks like here.'),
  last: z.enum(stageNames).default('reports').describe('The last stage to go through.'),
  interrupt: z
    .boolean()
    .default(false)
    .describe('A live connection of the rig to this device is interrupted for the test and made again after it.'),
});

export type TestCandidate = z.input<typeof candidateSchema>;
export type TestRequest = z.input<typeof testRequestSchema>;

/** One line of a test's answer. `stage` is left out in the last line of a device. */
export interface TestLine {
  /** The device's id; empty for a candidate that is not in the rig. */
  readonly device: string;
  readonly tag: string;
  readonly stage?: StageName;
  readonly ms?: number;
  readonly verdict?: Verdict;
  /** What the device says of itself, once that is known. */
  readonly says?: { readonly model?: string; readonly firmware?: string };
  /** With the last line: how the conversation with the device began. */
  readonly exchange?: readonly ExchangeLine[];
}
