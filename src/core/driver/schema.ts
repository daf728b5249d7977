import { z } from 'zod';

/**
 * The driver document, format 1: how one kind of device is spoken to. It is data only; whatever needs memory between
 * frames lives in a codec of `core/wire`.
 */

const name = z.string().regex(/^[a-z][A-Za-z0-9]*$/, 'a name: a small letter, then letters and digits');
const readingKey = z
  .string()
  .regex(/^[a-z][A-Za-z0-9]*(\[\])?(\.[a-z][A-Za-z0-9]*)*$/, 'a reading key such as "program" or "input[].name"');
const title = z.string().min(1).max(80);
const pattern = z.string().min(1).max(400);
const ms = z.number().int().min(1).max(600_000);

export const scalarSchema = z.union([z.string().max(2000), z.number(), z.boolean()]);

const numeric = { min: z.number().optional(), max: z.number().optional(), unit: z.string().max(12).optional() };

const choice = z.strictObject({ value: z.string().min(1), title, wire: z.string().optional() });

/** What a value can be, for parameters and readings alike. */
const valueShape = z.discriminatedUnion('type', [
  z.strictObject({ type: z.literal('whole'), ...numeric }),
  z.strictObject({ type: z.literal('decimal'), ...numeric }),
  z.strictObject({ type: z.literal('text'), maxLength: z.number().int().min(1).max(2000).optional() }),
  z.strictObject({ type: z.literal('choice'), choices: z.array(choice).min(1) }),
  z.strictObject({ type: z.literal('onOff'), on: z.string().default('1'), off: z.string().default('0') }),
]);

const parameterSchema = z.strictObject({
  title,
  value: valueShape,
  /** A reading family whose members name the choices: `input[].name` offers one choice for each input. */
  listFrom: readingKey.optional(),
  default: scalarSchema.optional(),
});

/** A value to compare with: literal, a parameter of the command, or a reading as it was before the command was sent. */
const operand = z.union([scalarSchema, z.strictObject({ param: name }), z.strictObject({ before: readingKey })]);

const confirmSchema = z.discriminatedUnion('by', [
  z.strictObject({ by: z.literal('answer'), withinMs: ms }),
  z.strictObject({
    by: z.literal('readings'),
    /** All of them must hold. `[]` in a key is filled from the parameter named by `index`. */
    all: z.array(z.strictObject({ reading: readingKey, index: name.optional(), equals: operand })).min(1),
    withinMs: ms,
  }),
]);

const commandSchema = z.strictObject({
  title,
  help: z.string().max(400).optional(),
  params: z.record(name, parameterSchema).default({}),
  /** The text of the line, without its ending. `{param}` and `{param:dec2}` are filled in; `\xHH` and `\{` are escapes. */
  send: z.string().min(1).max(1000),
  risky: z.boolean().default(false),
  harmless: z.boolean().default(false),
  confirm: confirmSchema.optional(),
});

const readingSchema = z.strictObject({
  title,
  value: valueShape,
  /** What it means, on a lamp, that this reading has the value a control is about. */
  means: z.enum(['onAir', 'next', 'warning', 'recording', 'fault', 'active']).optional(),
  /** For a family (`[]` in the key): its members. */
  index: z.strictObject({ title, from: z.number().int().min(0), to: z.number().int().max(10_000) }).optional(),
});

const replySchema = z
  .strictObject({
    match: pattern,
    /** Reading key to value, both templates over the named groups of the pattern. */
    set: z.record(z.string(), z.string()).optional(),
    /** The device accepted the oldest command that it has not yet answered. */
    accepts: z.literal(true).optional(),
    /** The device refused the oldest command that it has not yet answered. */
    refuses: z.strictObject({ code: z.string().optional(), reason: z.string() }).optional(),
  })
  .refine((reply) => reply.set ?? reply.accepts ?? reply.refuses, 'needs one of "set", "accepts" or "refuses"');

const greetingStep = z.union([
  z.strictObject({ expect: pattern, withinMs: ms }),
  z.strictObject({ send: z.string().min(1) }),
]);

export const driverDocumentSchema = z.strictObject({
  format: z.literal(1),
  id: z.string().regex(/^[a-z0-9][a-z0-9-]{1,60}$/, 'small letters, digits and hyphens'),
  version: z.number().int().min(1),
  title,
  role: z.enum([
    'switcher',
    'camera',
    'encoder',
    'playout',
    'titles',
    'composer',
    'audio',
    'clock',
    'slides',
    'screen',
    'gateway',
    'tally',
  ]),
  help: z.strictObject({ address: z.string().optional(), switchOn: z.string().optional() }).default({}),
  link: z.strictObject({
    kind: z.literal('tcp'),
    port: z.number().int().min(1).max(65_535),
    controllers: z.enum(['many', 'one']).default('many'),
    connectTimeoutMs: ms.default(3000),
    keepAlive: z
      .strictObject({
        send: z.string().min(1),
        everyMs: ms,
        /** Nothing heard for so long: the link is `silent`. */
        silentAfterMs: ms,
        /** Nothing heard for so long: the connection is given up and called anew. */
        giveUpAfterMs: ms,
      })
      .optional(),
  }),
  framing: z.strictObject({
    kind: z.literal('lines'),
    ending: z.enum(['lf', 'crlf', 'cr', 'nul']),
    encoding: z.enum(['utf-8', 'latin-1']).default('utf-8'),
    maxFrameBytes: z.number().int().min(16).max(65_536).default(4096),
  }),
  /** `in-order`: the device answers each command, in the order sent, with a reply that `accepts` or `refuses`. */
  answers: z.enum(['in-order', 'none']).default('none'),
  greeting: z.array(greetingStep).max(20).default([]),
  /** Asked once after connecting; the link is `up` when a line matches `until`, or at once where there is none. */
  sync: z
    .strictObject({ send: z.array(z.string().min(1)), until: pattern.optional(), withinMs: ms.default(3000) })
    .default({ send: [], withinMs: 3000 }),
  polls: z
    .array(z.strictObject({ send: z.string().min(1), everyMs: ms }))
    .max(50)
    .default([]),
  commands: z.record(name, commandSchema),
  readings: z.record(readingKey, readingSchema),
  replies: z.array(replySchema).max(500).default([]),
  /** What an error code means, in a sentence for people. Wins over the device's own text. */
  errors: z.record(z.string(), z.string()).default({}),
});

export type DriverDocument = z.infer<typeof driverDocumentSchema>;
export type DriverCommand = DriverDocument['commands'][string];
export type DriverReading = DriverDocument['readings'][string];
export type ValueShape = z.infer<typeof valueShape>;
export type Operand = z.infer<typeof operand>;
