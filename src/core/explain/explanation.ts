import { z } from 'zod';
import { scalarSchema } from '../driver';
import { allWhys } from '../press';

/** In milliseconds since the press came, with fractions. */
const momentAt = z.number().describe('Milliseconds since the engine received the press.');
const sendIndex = z.number().int().describe('Which of the sends it is about: an index into `sends`.');
const hex = z.string().describe('Two digits a byte; secrets are masked, long ones cut off.');
const why = z.enum(allWhys);
const outcome = z.enum(['sent', 'confirmed', 'late', 'refused', 'lost', 'skipped']);

/** One thing that happened on the way of a press. */
const momentSchema = z.discriminatedUnion('is', [
  z.object({ is: z.literal('asked'), ms: momentAt }).describe('A question was put at the panel.'),
  z.object({ is: z.literal('answered'), ms: momentAt }).describe('The question was answered.'),
  z
    .object({
      is: z.literal('cleared'),
      ms: momentAt,
      isConfirmed: z.boolean().describe('The person confirmed the press: held it, pressed twice or said yes.'),
      bars: z.number().int().describe('The number of rules that could have barred it.'),
    })
    .describe('Nothing prevented it: no rule, no guard, no dry aim.'),
  z
    .object({
      is: z.literal('queued'),
      ms: momentAt,
      send: sendIndex,
      ahead: z.array(z.string()).describe('What waited in front of it, up to five.'),
      waiting: z.number().int().describe('How many waited in front of it.'),
      inFlight: z.number().int().describe('How many earlier messages the device had not answered yet.'),
    })
    .describe('It could not leave at once.'),
  z
    .object({
      is: z.literal('held'),
      ms: momentAt,
      send: sendIndex,
      forMs: z.number().describe('How long it waits, in milliseconds.'),
      says: z.string().describe('What it waits for.'),
    })
    .describe('It waits until something else has begun.'),
  z.object({ is: z.literal('left'), ms: momentAt, send: sendIndex, bytes: hex }).describe('Its bytes were sent.'),
  z
    .object({ is: z.literal('device answered'), ms: momentAt, send: sendIndex, bytes: hex })
    .describe('The device answered this command.'),
  z
    .object({
      is: z.literal('reported'),
      ms: momentAt,
      send: sendIndex,
      readings: z.array(
        z.object({
          key: z.string(),
          value: scalarSchema.optional(),
          says: z.string().optional().describe('The reading with its value in words.'),
        }),
      ),
    })
    .describe('The readings that confirm it have the expected values.'),
  z.object({ is: z.literal('macro began'), ms: momentAt, macro: z.string() }).describe('It started a macro.'),
  z
    .object({ is: z.literal('send ended'), ms: momentAt, send: sendIndex, outcome, why, reason: z.string().optional() })
    .describe('One of its commands ended.'),
  z
    .object({ is: z.literal('lamp'), ms: momentAt, show: z.string(), word: z.string() })
    .describe('The lamp of the control changed, and the panels were sent the change.'),
  z
    .object({ is: z.literal('ended'), ms: momentAt, outcome, why, reason: z.string().optional() })
    .describe('The press ended.'),
]);

export const explanationSchema = z.object({
  press: z.string(),
  at: z.number().describe('When the engine received it, in milliseconds since 1970.'),
  who: z.string(),
  page: z.string(),
  label: z.string(),
  gesture: z.string(),
  aim: z.enum(['live', 'rehearse', 'dry']),
  run: z.string().optional().describe('The run of a macro that it is a step of.'),
  sends: z.array(
    z.object({
      device: z.string().describe('Tag of the device.'),
      command: z.string(),
      says: z.string().optional().describe('The command in words, with its values.'),
      text: z.string(),
    }),
  ),
  moments: z.array(momentSchema).describe('In the order in which they happened.'),
});

export type Moment = z.infer<typeof momentSchema>;

/** The account of one press, from the finger to the lamp. */
export type Explanation = z.infer<typeof explanationSchema>;
