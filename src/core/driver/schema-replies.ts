import { z } from 'zod';
import {
  headerNameSchema,
  msSchema,
  nameSchema,
  orOption,
  patternSchema,
  pointerSchema,
  readingKeySchema,
  scalarSchema,
} from './schema-values';
import { textWritings } from './written-text';

/** What a device says, and what of it confirms a command. */

/** A value to compare with: literal, a parameter of the command, or a reading as it was before the command was sent. */
export const operand = z.union([
  scalarSchema,
  z.strictObject({ param: nameSchema }),
  z.strictObject({ before: readingKeySchema }),
]);

const condition = z.strictObject({
  reading: readingKeySchema,
  /** The parameter that fills `[]`. */
  index: nameSchema.optional(),
  equals: operand.optional(),
  /** Instead of `equals`: any of these. */
  oneOf: z.array(scalarSchema).min(2).max(20).optional(),
  /** For numbers: how far off is still equal. */
  within: z.number().min(0).optional(),
  /** Instead of `equals`: the reading changes. */
  changes: z.literal(true).optional(),
});

export const confirmSchema = z.discriminatedUnion('by', [
  z.strictObject({ by: z.literal('answer'), withinMs: orOption(msSchema) }),
  z.strictObject({
    by: z.literal('readings'),
    /** All of them must hold. */
    all: z.array(condition).min(1).max(20),
    withinMs: msSchema,
    /** For a device that does not report by itself: asked after the command, again and again until it is confirmed. */
    ask: z.array(nameSchema).max(8).default([]),
    askEveryMs: msSchema.default(200),
  }),
]);

/** A pattern, or one that fits what contains the text of an option: `OK|DONE` is either. Without a text the reply is left out. */
const matchSchema = z.union([
  patternSchema,
  z.strictObject({ contains: z.strictObject({ option: nameSchema }) }),
]) as unknown as typeof patternSchema;

export const replySchema = z
  .strictObject({
    /** Only as the answer to one of these questions or commands. */
    to: z.array(nameSchema).min(1).optional(),
    /** A pattern over the line, the hexadecimal digits, the OSC address, or what was published over MQTT. */
    match: matchSchema.optional(),
    /** MQTT: a pattern over the topic. Its groups may be used as well. */
    topic: patternSchema.optional(),
    /** HTTP: a header of the answer. `match` is then a pattern over its value; without it the group `value` is all of it. */
    header: headerNameSchema.optional(),
    /** JSON and XML: pointers and the patterns that the values there must fit. Their groups may be used as well. */
    when: z.record(pointerSchema, patternSchema).optional(),
    /** JSON and XML: read once for each element of this list or object. Adds the groups `index` (from 0), `number` (from 1) and `key`. */
    each: pointerSchema.optional(),
    /** Only for those elements in which the values at these pointers fit. Their groups may be used as well. */
    where: z.record(pointerSchema, patternSchema).optional(),
    /** Only for this one of them, from 1. */
    nth: orOption(z.number().int().min(1).max(1000)).optional(),
    /** JSON: groups by pointer, from the element where there is `each`. */
    take: z.record(nameSchema, pointerSchema).optional(),
    /** Reading key to value, both templates over the groups. */
    set: z.record(z.string(), z.string()).optional(),
    /** Families of which every member is forgotten first: the list begins anew. */
    clears: z.array(readingKeySchema).optional(),
    /** The device accepted what it answers: the oldest command that it has not yet answered, or the one named by the group `ref`. */
    accepts: z.literal(true).optional(),
    /** Questions that are asked when it comes: a list has changed. Of one that is asked for each member, that of the group `member`, else all. */
    asks: z.array(nameSchema).min(1).max(8).optional(),
    /**
     * The device asks for something itself, as an inlet takes it: `press Race/Cut`, or a text that watches wait for. It is done where the show
     * allows it to the device.
     */
    requests: z
      .strictObject({
        /** A template over the groups. */
        line: z.string().min(1).max(300),
        /**
         * The commands that tell the device that it was done, and that it was not. Their parameters `said`, `code` and `reason` say what came of it;
         * others have the groups of their names.
         */
        done: nameSchema.optional(),
        refused: nameSchema.optional(),
      })
      .optional(),
    /** It comes by itself all the time (meters, running time): the wire can hide it. */
    quiet: z.literal(true).optional(),
    /** A template for the number of the request that it answers, where that is not a group named `ref`. */
    ref: z.string().max(80).optional(),
    refuses: z
      .strictObject({
        code: z.string().optional(),
        reason: z.string(),
        /** How the device writes the reason, where it is not plain text. */
        reads: z.enum(textWritings).optional(),
      })
      .optional(),
  })
  .refine((reply) => reply.set ?? reply.accepts ?? reply.refuses ?? reply.clears ?? reply.asks ?? reply.requests, {
    message: 'needs one of "set", "clears", "asks", "accepts", "refuses" or "requests"',
  });
