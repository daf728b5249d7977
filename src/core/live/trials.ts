import { z } from 'zod';
import { scalarSchema, type ReadingChange } from '../driver';
import type { FinalOutcome, Why } from '../press';
import type { Link } from '../session';
import { idSchema } from '../show';
import { candidateSchema } from './tests';

/** The most bytes of a document that is tried. */
const mostText = 2_000_000;

/** A driver document that is tried at a device before it is installed: called, listened to, and told something. */
export const driverTrialSchema = z.strictObject({
  /** JSON. */
  document: z.string().max(mostText).describe('The driver document, as JSON.'),
  device: idSchema.optional().describe('The device of the rig whose address, sign-in and options are used.'),
  at: candidateSchema
    .pick({ host: true, port: true, user: true, password: true, options: true })
    .optional()
    .describe('An address that is not in the rig.'),
  /** At most one of the two: a command of the document, or bytes in hexadecimal digits. */
  command: z
    .strictObject({ id: z.string().max(60), params: z.record(z.string().max(60), scalarSchema).default({}) })
    .optional(),
  bytes: z.string().max(8000).optional().describe('Bytes to send, in hexadecimal digits.'),
  listenMs: z.number().int().min(200).max(60_000).default(2000).describe('How long to listen afterwards.'),
  interrupt: z
    .boolean()
    .default(false)
    .describe('A live connection of the rig to this device is interrupted for the trial and made again after it.'),
});

export type DriverTrialRequest = z.input<typeof driverTrialSchema>;

/** One line of the answer to a trial. */
export type DriverTrialLine =
  | { readonly t: 'link'; readonly link: Link }
  | {
      readonly t: 'wire';
      readonly dir: 'out' | 'in' | 'note';
      /** Secrets are masked. */
      readonly hex: string;
      /** Milliseconds since 1970. */
      readonly at: number;
      readonly note?: string;
    }
  | { readonly t: 'readings'; readonly readings: readonly ReadingChange[] }
  | {
      readonly t: 'ended';
      readonly outcome: FinalOutcome;
      readonly why: Why;
      readonly ms: number;
      readonly reason?: string;
    }
  /** It was not begun. */
  | {
      readonly t: 'refused';
      readonly code: 'bad-document' | 'no-device' | 'not-live' | 'held' | 'bad-command';
      readonly message: string;
    };
