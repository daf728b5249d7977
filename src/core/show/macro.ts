import { z } from 'zod';
import { scalarSchema } from '../driver';
import { conditionSchema, sentArgumentSchema } from './conditions';
import { idSchema, text, valueName } from './reading-ref';

/** Commands on a timeline, across devices, as they are stored. What they mean is worked out in `core/macro`. */

export const macroSendSchema = z.strictObject({
  device: idSchema,
  command: z.string().min(1).max(60),
  params: z.record(z.string().max(60), sentArgumentSchema).default({}),
});

/** Milliseconds from the zero point of the segment; before it in the pre-roll. */
const atMs = z.number().min(-600_000, 'at most ten minutes before the zero point').max(3_600_000, 'an hour at most');
const longMs = z.number().int().min(1).max(3_600_000);

export const macroDoesSchema = z.discriminatedUnion('is', [
  z.strictObject({ is: z.literal('send'), send: macroSendSchema }),
  /** On, and off again after a time. */
  z.strictObject({ is: z.literal('pulse'), on: macroSendSchema, off: macroSendSchema, forMs: longMs }),
  /** Another macro begins; this one does not wait for it. */
  z.strictObject({
    is: z.literal('macro'),
    macro: idSchema,
    params: z.record(z.string().max(60), sentArgumentSchema).default({}),
  }),
  /** On all screens of a panel, or of every panel. */
  z.strictObject({ is: z.literal('note'), panel: idSchema.optional(), text: text(300).min(1) }),
  z.strictObject({ is: z.literal('page'), panel: idSchema.optional(), page: idSchema }),
  /** A page has this level, or the usual one. */
  z.strictObject({ is: z.literal('shift'), panel: idSchema.optional(), page: idSchema, shift: idSchema.optional() }),
  /** A zone of a page drives this device, or what it usually does. */
  z.strictObject({
    is: z.literal('pick'),
    panel: idSchema.optional(),
    page: idSchema,
    zone: idSchema,
    device: idSchema.optional(),
  }),
  z.strictObject({
    is: z.literal('brightness'),
    panel: idSchema.optional(),
    percent: z.number().int().min(20, '20 per cent at least').max(100),
  }),
]);

export const macroStepSchema = z.strictObject({
  id: idSchema,
  at: atMs,
  /** Its time is when it acts: it is sent as much earlier as its driver says that it takes. */
  acts: z.literal(true).optional(),
  does: macroDoesSchema,
});

export const wayOnSchema = z.enum(['go on', 'stop', 'way out']);

export const macroSegmentSchema = z.strictObject({
  id: idSchema,
  name: text(40).default(''),
  /** It waits until this holds; at the timeout it does this instead. */
  waits: z.strictObject({ until: conditionSchema, mostMs: longMs, otherwise: wayOnSchema }).optional(),
  /** It is passed over unless this holds when its turn comes. */
  onlyIf: conditionSchema.optional(),
  times: z.number().int().min(1, 'once at least').max(1000, 'a repeat has an end: 1,000 times at most').optional(),
  /** A reset begins it, a way out ends it: also when it is stopped before. */
  part: z.enum(['reset', 'way out']).optional(),
  /** Times worth seeing on the timeline: when the picture is covered, when the music turns. Nothing is done at them. */
  markers: z
    .array(z.strictObject({ id: idSchema, name: text(40).min(1), at: atMs, forMs: longMs.optional() }))
    .max(12)
    .optional(),
  steps: z.array(macroStepSchema).max(500).default([]),
});

export const macroDataSchema = z.strictObject({
  name: text(60).min(1),
  order: z.number(),
  note: text(2000).default(''),
  params: z
    .array(z.strictObject({ name: valueName, title: text(40).min(1), value: scalarSchema }))
    .max(12)
    .default([]),
  /** When it is begun while it runs. */
  again: z.enum(['restart', 'ignore', 'queue']).default('ignore'),
  /** Only one macro of a group runs: starting one stops the others. */
  group: text(40).min(1).optional(),
  /** When a device that it still needs goes away while it runs. */
  whenDown: wayOnSchema.default('go on'),
  segments: z.array(macroSegmentSchema).min(1).max(40),
});

export type MacroData = z.infer<typeof macroDataSchema>;
export type MacroSegment = z.infer<typeof macroSegmentSchema>;
export type MacroStep = z.infer<typeof macroStepSchema>;
export type MacroDoes = z.infer<typeof macroDoesSchema>;
export type MacroSend = z.infer<typeof macroSendSchema>;
export type WayOn = z.infer<typeof wayOnSchema>;

/** Names of frame rates, as the trade writes them. With `drop` two frame numbers are left out each minute but the tenth, four at 59.94. */
export const frameRateSchema = z.enum([
  '23.976',
  '24',
  '25',
  '29.97',
  '29.97 drop',
  '30',
  '50',
  '59.94',
  '59.94 drop',
  '60',
]);
export type FrameRate = z.infer<typeof frameRateSchema>;
