import { z } from 'zod';
import { freeSlug } from '../free-slug';

const line = (most: number) =>
  z
    .string()
    .max(most)
    .regex(/^[^\p{Cc}]*$/u, 'a text without line breaks');

/** Colours that a timer can have, as `#rrggbb`. They tell timers apart in a list and are never a state. */
const colour = z.string().regex(/^#[0-9a-f]{6}$/i, 'a colour such as #8a6f4d');

export const longestTimerS = 24 * 3600;

/** One timer of a list: whose time it is, and how long. All times are in whole seconds. */
export const timerEntrySchema = z
  .strictObject({
    /** By what others call it; unique in its list. */
    id: z.string().regex(/^[a-z0-9][a-z0-9-]{0,31}$/, 'small letters, digits and hyphens, 32 at most'),
    name: line(80).min(1, 'a name'),
    speaker: line(80).default(''),
    lengthS: z.number().int().min(1, 'one second at least').max(longestTimerS, 'a day at most'),
    /** The warning begins when so much is left. */
    warnS: z.number().int().min(0).max(longestTimerS).default(0),
    /** It counts as over when so much more than its length has gone. */
    graceS: z.number().int().min(0).max(longestTimerS).default(0),
    colour: colour.optional(),
  })
  .refine(({ lengthS, warnS }) => warnS <= lengthS, { path: ['warnS'], message: 'a warning within its length' });

export type TimerEntry = z.infer<typeof timerEntrySchema>;

export const mostTimers = 200;
export const timerListSchema = z
  .array(timerEntrySchema)
  .max(mostTimers)
  .refine((list) => new Set(list.map(({ id }) => id)).size === list.length, 'ids that are all different');

/** An id for a new timer, from its name. */
export const freeTimerId = (name: string, taken: Iterable<string>): string => freeSlug(name, taken, 28, 'timer');
