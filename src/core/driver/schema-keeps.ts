import { z } from 'zod';
import { nameSchema, readingKeySchema, scalarSchema, titleSchema } from './schema-values';

/**
 * One of the commands that send kept readings back. Which reading each parameter takes is what confirms the command, or is said here for a
 * command that nothing confirms.
 */
const keepSendSchema = z.strictObject({
  command: nameSchema,
  /** By parameter, the reading it takes; a family where `index` says which member. */
  reads: z.record(nameSchema, readingKeySchema).optional(),
  /** The parameter that chooses the member of those families; two of them where the member is ten times the one and the other besides. */
  index: z.union([nameSchema, z.strictObject({ tens: nameSchema, ones: nameSchema })]).optional(),
  /**
   * Only where this reading, as it was kept, has one of these values: a camera takes no iris while it exposes by itself. `index` names the
   * parameter that chooses the member where it is a family.
   */
  when: z
    .strictObject({
      reading: readingKeySchema,
      index: nameSchema.optional(),
      oneOf: z.array(scalarSchema).min(1).max(20),
    })
    .optional(),
  /**
   * Later commands of the group whose readings it sets back, and to what: a template that is loaded has no texts yet. Meant are those with the
   * same values of the parameters that choose members.
   */
  resets: z.record(nameSchema, scalarSchema).optional(),
  /** Its numbers can be anything between two values, so a glide moves them. */
  moves: z.literal(true).optional(),
  /**
   * When it is sent where it does not move: at the start of a glide, in the middle, at its end, or so that it is seen as long as possible:
   * on at the start and off at the end.
   */
  jumps: z.enum(['start', 'middle', 'end', 'shown']).default('start'),
  /** The device moves there by itself: the command that takes the time, and its parameter for it. */
  fade: z
    .strictObject({ command: nameSchema, param: nameSchema, unit: z.enum(['ms', 'seconds']).default('ms') })
    .optional(),
});

/** Readings that can be kept in a snapshot and sent back together. */
export const keepSchema = z.strictObject({
  title: titleSchema,
  /** In the order in which they are sent. */
  sends: z.array(keepSendSchema).min(1).max(40),
  /** How many values a second the device takes for each thing that moves. */
  perSecond: z.number().min(1).max(100).default(25),
  /** The layout of this document that draws it. */
  layout: nameSchema.optional(),
  /** The picture of this document that a snapshot of the group keeps; fetched when the snapshot is taken. A layout is drawn instead. */
  still: nameSchema.optional(),
});

export type DriverKeep = z.infer<typeof keepSchema>;
export type DriverKeepSend = DriverKeep['sends'][number];
