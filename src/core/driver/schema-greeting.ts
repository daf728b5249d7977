import { z } from 'zod';
import { messageSchema } from './schema-messages';
import { msSchema, nameSchema, patternSchema } from './schema-values';

/** What is said between connecting and asking for the state. */

/** Values made of others before a greeting line is sent: a digest over a challenge and the password. */
const derived = z.strictObject({
  /** Which hash, written in small hexadecimal digits. */
  hash: z.enum(['md5', 'sha1', 'sha256']),
  of: z.string().min(1).max(400),
});

/** The step is left out where this is empty: `user`, `password`, or a group of a step before it. */
const needed = nameSchema.optional();

export const greetingStep = z.union([
  z.strictObject({
    if: needed,
    /** Its groups can be used in what is sent afterwards. */
    expect: patternSchema,
    withinMs: msSchema,
    /** This instead means that the sign-in was not accepted. */
    lockedOut: patternSchema.optional(),
    /** This instead means that another controller holds the device. */
    occupied: patternSchema.optional(),
  }),
  z.strictObject({ if: needed, send: messageSchema, derive: z.record(nameSchema, derived).optional() }),
]);
