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

/** The range and the usual value of each limit. Counts are of the last ten minutes. `down` has no number. */
export const limitRanges = {
  /** So many times slower than at the line check, and by at least `slowByMs`. */
  slow: { min: 1.5, max: 100, usual: 3 },
  slowByMs: { min: 0, max: 10_000, usual: 40 },
  /** Seconds without a word from a device after it was sent something. */
  quiet: { min: 2, max: 600, usual: 20 },
  /** Commands that ended late, refused or lost. */
  failing: { min: 1, max: 1000, usual: 3 },
  /** Per cent of the questions and commands that a device did not answer. */
  missing: { min: 1, max: 100, usual: 10 },
  /** Times that a link dropped. */
  unsteady: { min: 1, max: 1000, usual: 3 },
  /** Milliseconds from a screen to the engine and back. */
  'screen-slow': { min: 10, max: 10_000, usual: 250 },
  /** Times that a screen had to connect again. */
  'screen-unsteady': { min: 1, max: 1000, usual: 3 },
  /** Seconds between the clock of a device and that of this computer. */
  clock: { min: 0.5, max: 86_400, usual: 3 },
  /** Per cent of this computer's processors in use over half a minute. */
  load: { min: 10, max: 100, usual: 90 },
  /** Milliseconds by which the engine is late, at worst in one hundred turns. */
  'held-up': { min: 5, max: 10_000, usual: 60 },
  /** Per cent of this computer's memory that is free. */
  memory: { min: 1, max: 90, usual: 4 },
} as const;

const limit = ({ min, max, usual }: (typeof limitRanges)[keyof typeof limitRanges]) =>
  z.number().min(min).max(max).default(usual);

/** From where on health says something. */
export const healthLimitsSchema = z.strictObject({
  slow: limit(limitRanges.slow),
  slowByMs: limit(limitRanges.slowByMs),
  quiet: limit(limitRanges.quiet),
  failing: limit(limitRanges.failing),
  missing: limit(limitRanges.missing),
  unsteady: limit(limitRanges.unsteady),
  'screen-slow': limit(limitRanges['screen-slow']),
  'screen-unsteady': limit(limitRanges['screen-unsteady']),
  clock: limit(limitRanges.clock),
  load: limit(limitRanges.load),
  'held-up': limit(limitRanges['held-up']),
  memory: limit(limitRanges.memory),
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
