import { z } from 'zod';
import { idSchema, text } from './reading-ref';

/**
 * What of which hand gear works which control. Bindings belong to a panel, so that they are the same on every computer; they are made while
 * the show runs and take effect at once.
 */

/** How endless encoders say which way they were turned (MIDI 1.0 leaves this to their makers; these are the usual ways). */
const encoderCodings = ['twos', 'offset', 'sign'] as const;
export type EncoderCoding = (typeof encoderCodings)[number];

export const bindingDataSchema = z.strictObject({
  /** The panel on whose screens it counts; those that show a page without a panel when absent. */
  panel: idSchema.optional(),
  /** The name of the gear; of several with one name, “name (2)”. */
  gear: text(120).min(1),
  /** As in `GearEvent`. For a stick the first of its two axes; the next one is the other. */
  input: text(40).min(1),
  page: idSchema,
  control: idSchema,
  as: z.enum(['press', 'turn', 'stick', 'rocker']),
  /** It is an endless encoder, and each message is a number of notches. */
  coding: z.enum(encoderCodings).optional(),
  /** A fader without a motor sets its value at once, instead of taking hold where it comes past the device’s value. */
  jumps: z.literal(true).optional(),
});
export type BindingData = z.infer<typeof bindingDataSchema>;
