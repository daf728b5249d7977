import { alertSchema } from './alert';
import { z } from 'zod';
import { scalarSchema } from '../driver';
import { allWhys, whyList } from '../press';
import { idSchema } from '../show';
import { pressIdSchema } from './requests';

/** The bodies of the HTTP API for automation. The OpenAPI document is made from these. */

const outcomeSchema = z.enum(['sent', 'confirmed', 'late', 'refused', 'lost', 'skipped']);

const guardSchema = z
  .boolean()
  .default(false)
  .describe('Confirms a risky command. Without it, a risky command is not sent and its outcome is skipped.');

export const pressRequestSchema = z.strictObject({
  page: idSchema.describe('Id of the page.'),
  control: idSchema.describe('Id of the control on that page.'),
  gesture: z.enum(['tap']).default('tap').describe('What is done to the control.'),
  guard: guardSchema,
  given: z
    .record(z.string().max(40), scalarSchema)
    .optional()
    .describe(
      'Answers to what the control would ask on a panel, by name. Without them the question is put nowhere and the outcome is skipped.',
    ),
  id: pressIdSchema
    .optional()
    .describe('An id of your own: a press with an id that was used before acts no second time.'),
});

export const sendRequestSchema = z.strictObject({
  device: z.string().min(1).max(40).describe('Tag of the device.'),
  command: z.string().min(1).max(80).describe('Name of the command in the device’s driver.'),
  params: z.record(z.string(), scalarSchema).default({}).describe('The command’s parameters by name.'),
  guard: guardSchema,
  id: pressIdSchema.optional().describe('An id of your own: one that was used before acts no second time.'),
});

export const pressResponseSchema = z.object({
  id: z.string(),
  outcome: outcomeSchema,
  ms: z.number().describe('From the press to its outcome, in milliseconds.'),
  reason: z.string().optional(),
  why: z
    .enum(allWhys)
    .optional()
    .describe(`Why it ended so. Branch on this and not on the reason, which is a sentence for people.\n\n${whyList()}`),
  sends: z.array(
    z.object({
      device: z.string().describe('Tag of the device.'),
      command: z.string(),
      says: z.string().optional().describe('The command in words, with its values: “Take Finish to program”.'),
      text: z.string(),
      outcome: outcomeSchema,
      ms: z.number(),
      why: z.enum(allWhys).optional(),
      reason: z.string().optional(),
    }),
  ),
});

const linkSchema = z.object({ word: z.string(), cause: z.string().optional(), detail: z.string().optional() });

export const healthResponseSchema = z.object({
  ok: z.boolean().describe('True when every process runs and every enabled device is up.'),
  aim: z.enum(['live', 'rehearse', 'dry']),
  processes: z.array(
    z.object({
      name: z.string(),
      state: z.enum(['running', 'starting', 'waiting', 'stopped']),
      pid: z.number().optional(),
      restarts: z.number(),
    }),
  ),
  links: z.array(
    z.object({
      device: z.string(),
      tag: z.string(),
      name: z.string(),
      link: linkSchema,
      since: z.number(),
      grades: z.record(z.string(), z.enum(['yes', 'no', 'unknown'])).describe('How far the connection goes.'),
      faults: z.number().describe('Frames since the start that could not be read.'),
      remark: z.string().optional().describe('Why what the device says of itself does not go with its driver.'),
    }),
  ),
  recording: z.boolean().describe('False when the as-run cannot be written.'),
  failures: z
    .array(
      z.object({
        at: z.number().describe('In milliseconds since 1970.'),
        process: z.string(),
        part: z.string().optional(),
        message: z.string(),
        cause: z.string().optional(),
      }),
    )
    .describe('The last failures of the program itself, the newest last. The log has more.'),
  alerts: z.array(alertSchema).describe('Problems of the program itself, and what is overloading it.'),
});

export const readingsResponseSchema = z.object({
  readings: z.array(
    z.object({
      device: z.string().describe('Tag of the device.'),
      key: z.string(),
      value: scalarSchema.optional(),
      at: z.number().optional().describe('When it was last reported, in milliseconds since 1970.'),
      freshness: z.enum(['fresh', 'stale', 'unknown']),
    }),
  ),
});

export const errorResponseSchema = z.object({
  error: z.object({
    code: z.string(),
    message: z.string(),
    field: z.string().optional().describe('The field at fault, where there is one.'),
  }),
});

export type PressResponse = z.infer<typeof pressResponseSchema>;
export type HealthResponse = z.infer<typeof healthResponseSchema>;
export type ReadingsResponse = z.infer<typeof readingsResponseSchema>;
