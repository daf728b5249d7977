import { z } from 'zod';

/** What health looks at, by code, each with what its limit counts. */
export const concernCodes = [
  'down',
  'slow',
  'quiet',
  'failing',
  'missing',
  'unsteady',
  'screen-slow',
  'screen-unsteady',
  'clock',
  'load',
  'held-up',
  'memory',
] as const;
export type ConcernCode = (typeof concernCodes)[number];

const limit = (min: number, max: number, usual: number) => z.number().min(min).max(max).default(usual);

/** From where on health says something. Counts are of the last ten minutes. */
export const healthLimitsSchema = z.strictObject({
  /** So many times slower than at the line check, and by at least `slowByMs`. */
  slow: limit(1.5, 100, 3),
  slowByMs: limit(0, 10_000, 20),
  /** Seconds without a word from a device after it was sent something. */
  quiet: limit(2, 600, 20),
  /** Commands that ended late, refused or lost. */
  failing: limit(1, 1000, 3),
  /** Per cent of its questions and commands that a device did not answer. */
  missing: limit(1, 100, 10),
  /** Times that a link dropped. */
  unsteady: limit(1, 1000, 3),
  /** Milliseconds from a screen to the engine and back. */
  'screen-slow': limit(10, 10_000, 250),
  /** Times that a screen had to connect again. */
  'screen-unsteady': limit(1, 1000, 3),
  /** Seconds between the clock of a device and that of this computer. */
  clock: limit(0.5, 86_400, 3),
  /** Per cent of this computer's processors in use over half a minute. */
  load: limit(10, 100, 90),
  /** Milliseconds by which the engine is late, at worst in one hundred turns. */
  'held-up': limit(5, 10_000, 60),
  /** Per cent of this computer's memory that is free. */
  memory: limit(1, 90, 4),
  /** What is not looked at. */
  off: z.array(z.enum(concernCodes)).max(concernCodes.length).default([]),
});
export type HealthLimits = z.output<typeof healthLimitsSchema>;

export const usualLimits: HealthLimits = healthLimitsSchema.parse({});

/** How the limits are shown: what each counts, in words. `down` has no number. */
export const limitWords: Readonly<Record<ConcernCode, { readonly title: string; readonly unit: string }>> = {
  down: { title: 'Device lost', unit: '' },
  slow: { title: 'Answers slower than at the line check', unit: 'times' },
  quiet: { title: 'No report after a command', unit: 's' },
  failing: { title: 'Failed commands in 10 minutes', unit: '' },
  missing: { title: 'Unanswered in 10 minutes', unit: '%' },
  unsteady: { title: 'Dropped links in 10 minutes', unit: '' },
  'screen-slow': { title: 'Screen round trip', unit: 'ms' },
  'screen-unsteady': { title: 'Screen reconnections in 10 minutes', unit: '' },
  clock: { title: 'Clock difference', unit: 's' },
  load: { title: 'Load of this computer', unit: '%' },
  'held-up': { title: 'Engine delay', unit: 'ms' },
  memory: { title: 'Free memory below', unit: '%' },
};
