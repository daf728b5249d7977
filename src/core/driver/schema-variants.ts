import { z } from 'zod';
import { messageSchema } from './schema-messages';
import { greetingStep } from './schema-greeting';
import { againSchema, framingSchema, keepAliveSchema, lineSchema } from './schema-link';
import { confirmSchema, replySchema } from './schema-replies';
import { headerNameSchema, msSchema, nameSchema, orOption, readingKeySchema, scalarSchema } from './schema-values';

/** What of a document rests on the options of a device. */

export const onlySchema = z.record(nameSchema, z.array(scalarSchema).min(1));

export const pollSchema = z.strictObject({
  send: messageSchema,
  everyMs: orOption(msSchema),
  atOnce: z.boolean().default(false),
  while: z.strictObject({ reading: readingKeySchema, equals: scalarSchema }).optional(),
});

/** What holds instead where an option of the device has one of these values. Later ones win. */
export const variantSchema = z.strictObject({
  when: onlySchema,
  link: z
    .strictObject({
      secure: z.boolean(),
      auth: z.enum(['none', 'basic', 'digest']),
      securityToken: z.boolean(),
      direction: z.enum(['both', 'out']),
      localPort: orOption(z.number().int().min(1).max(65_535)),
      again: againSchema,
      window: z.number().int().min(1).max(64),
      checkCertificate: orOption(z.boolean()),
      answerWithinMs: orOption(msSchema),
      keepAlive: keepAliveSchema,
      comPort: lineSchema,
      headers: z.record(headerNameSchema, z.string().max(1000)),
    })
    .partial()
    .optional(),
  framing: framingSchema.optional(),
  /** Put behind that of the document. */
  greeting: z.array(greetingStep).max(20).optional(),
  answers: z.enum(['in-order', 'matched', 'none']).optional(),
  /** Put before those of the document. */
  replies: z.array(replySchema).max(20).optional(),
  /** Put behind those of the document. */
  polls: z.array(pollSchema).max(20).optional(),
  /** How commands of the document are confirmed. */
  confirms: z.record(nameSchema, confirmSchema).optional(),
  /** How commands that a show adds are confirmed. */
  confirmsAdded: confirmSchema.optional(),
});
