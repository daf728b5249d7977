import { z } from 'zod';
import { exchangeSchema, mendSchema } from '../diagnosis';
import { scalarSchema } from '../driver';
import { idSchema } from '../show';

/** One command with its values, addressed to a device by id. */
export const checkSendSchema = z.strictObject({
  device: idSchema,
  command: z.string(),
  params: z.record(z.string(), scalarSchema),
});
export type CheckSend = z.infer<typeof checkSendSchema>;

const readingSchema = z.strictObject({ device: idSchema, key: z.string() });

/**
 * A way to prove an item.
 *
 * - `test`: the connection test
 * - `query`: a harmless command is sent to the device
 * - `put-back`: the command is sent to the device, its effect is reported, and the state before is restored
 * - `use`: somebody used it during the show, and the device confirmed it
 * - `reported`: the device reports every reading that is shown
 * - `names`: the switcher and the rig call the input by the same name
 * - `screen`: a screen of the panel is connected
 * - `gear`: hand gear is plugged in at a screen of its panel, and has been used there
 * - `inlet`: the inlet listens, and a message that it understood has come in
 * - `rehearsal`: the command is sent to a private stand-in
 * - `lamp`: on private stand-ins, what lights the lamp is brought about, and the lamp lights
 * - `person`: somebody looks and answers
 */
export const proofSchema = z.discriminatedUnion('by', [
  z.strictObject({ by: z.literal('test') }),
  z.strictObject({ by: z.literal('query'), send: checkSendSchema }),
  z.strictObject({ by: z.literal('put-back'), send: checkSendSchema }),
  z.strictObject({ by: z.literal('use') }),
  z.strictObject({ by: z.literal('reported'), readings: z.array(readingSchema) }),
  z.strictObject({ by: z.literal('names'), switcher: idSchema, input: z.number(), source: idSchema }),
  z.strictObject({ by: z.literal('screen'), panel: idSchema }),
  z.strictObject({ by: z.literal('gear'), panel: idSchema.optional(), gear: z.string() }),
  z.strictObject({ by: z.literal('inlet'), inlet: idSchema }),
  z.strictObject({ by: z.literal('rehearsal'), send: checkSendSchema }),
  z.strictObject({ by: z.literal('lamp'), control: idSchema, context: z.string() }),
  z.strictObject({ by: z.literal('person'), asks: z.string() }),
]);
export type Proof = z.infer<typeof proofSchema>;
export type ProofBy = Proof['by'];

export const itemKindSchema = z.enum([
  'connection',
  'command',
  'indication',
  'tie',
  'tally',
  'display',
  'panel',
  'gear',
  'inlet',
]);
export type ItemKind = z.infer<typeof itemKindSchema>;

/** One thing that the show relies on, and how it can be proved. */
export const checkItemSchema = z.strictObject({
  /** The same for as long as the item is about the same thing, whatever is changed about it. */
  id: z.string(),
  kind: itemKindSchema,
  title: z.string(),
  /** What it is about and where it is used, by id. */
  devices: z.array(idSchema),
  pages: z.array(idSchema),
  controls: z.array(idSchema),
  macros: z.array(idSchema),
  panels: z.array(idSchema),
  /** The strongest first. */
  proofs: z.array(proofSchema),
  /** Why it cannot be proved, or not in full. */
  why: z.string().optional(),
  /** Set when it cannot work as it is in the show. */
  fault: z.string().optional(),
  /** Changes with everything that the result depends on. */
  fingerprint: z.string(),
});
export type CheckItem = z.infer<typeof checkItemSchema>;

/** An item that nothing of the show uses. */
export const nowhere: Pick<CheckItem, 'pages' | 'controls' | 'macros' | 'panels'> = {
  pages: [],
  controls: [],
  macros: [],
  panels: [],
};

const resultStateSchema = z.enum(['passed', 'failed', 'doubtful', 'unproved']);

/** What one proof of an item came to. */
export const checkResultSchema = z.strictObject({
  item: z.string(),
  fingerprint: z.string(),
  by: z.enum([
    'test',
    'query',
    'put-back',
    'use',
    'reported',
    'names',
    'screen',
    'gear',
    'inlet',
    'rehearsal',
    'lamp',
    'person',
  ]),
  /** `unproved`: it could not be carried out, which says nothing about the item. */
  state: resultStateSchema,
  /** In milliseconds since 1970. */
  at: z.number(),
  ms: z.number().optional(),
  /** What was seen, in a sentence. */
  text: z.string(),
  /** The named trouble, where a connection test found one. */
  trouble: z.string().optional(),
  /** What can be done about it at once. */
  mends: z.array(mendSchema).max(20).optional(),
  /** Who ran the check, or who answered. */
  who: z.string(),
  /** The press that it was, for its explanation and its bytes. */
  press: z.string().optional(),
  /** What was sent, two digits a byte; secrets are masked and long ones cut off. */
  bytes: z.string().max(4000).optional(),
  /** Of a connection test: how the conversation began. */
  exchange: exchangeSchema.optional(),
  /** What the device said that it runs. */
  firmware: z.string().optional(),
  /** What was changed and could not be put back: `now` instead of `before`. */
  left: z
    .array(z.strictObject({ device: idSchema, key: z.string(), before: scalarSchema, now: scalarSchema.optional() }))
    .optional(),
  /** In a rehearsal: other readings that changed besides those that the command is about. */
  sideEffects: z.array(z.string()).optional(),
});
export type CheckResult = z.infer<typeof checkResultSchema>;
