import { z } from 'zod';
import { scalarSchema } from '../driver';
import { sentArgumentSchema, conditionSchema } from './conditions';
import { longestInletText } from './inlet';
import { idSchema, readingRefSchema, text, valueName } from './reading-ref';

/** Standing rules: when this becomes true, or at this time, do that. As they are stored; what they mean is worked out in `core/watch`. */

const clockTime = z.string().regex(/^([01]\d|2[0-3]):[0-5]\d(:[0-5]\d)?$/, 'a time such as 14:05 or 14:05:30');
/** 1 is Monday, 7 is Sunday. */
const days = z
  .array(z.number().int().min(1).max(7))
  .min(1, 'at least one day')
  .max(7)
  .refine((list) => new Set(list).size === list.length, 'Each day can be listed once.')
  .optional();

export const scheduleSchema = z.discriminatedUnion('is', [
  /** Each day, or on some days of the week. */
  z.strictObject({ is: z.literal('daily'), time: clockTime, days }),
  z.strictObject({
    is: z.literal('once'),
    date: z.string().regex(/^\d{4}-\d{2}-\d{2}$/, 'a date such as 2026-06-14'),
    time: clockTime,
  }),
  /** Seconds after the beginning of the show; before it when negative. */
  z.strictObject({
    is: z.literal('show'),
    offset: z.number().int().min(-86_400, 'at most a day before').max(86_400, 'at most a day after'),
  }),
  z.strictObject({
    is: z.literal('every'),
    minutes: z.number().int().min(1, 'at least a minute').max(720, 'at most twelve hours'),
    from: clockTime,
    to: clockTime,
    days,
  }),
  /** A cron expression with five fields, or six with seconds first. */
  z.strictObject({ is: z.literal('cron'), cron: text(120).min(1) }),
]);
export type Schedule = z.infer<typeof scheduleSchema>;

const forMs = z.number().int().min(0, 'not negative').max(3_600_000, 'at most an hour');

const watchSendSchema = z.strictObject({
  device: idSchema,
  command: z.string().min(1).max(60),
  params: z.record(z.string(), sentArgumentSchema).default({}),
  /** Delay after the one before it, or after the firing, in milliseconds. */
  waitMs: z.number().int().min(0).max(60_000).optional(),
});

/** The longest pre-roll, in frames of the show. */
export const mostPreRoll = 250;

/** A key of a switcher is switched on, by the program or at the device. */
const keyWhenSchema = z.strictObject({
  is: z.literal('key'),
  switcher: idSchema,
  key: z.number().int().min(1).max(99),
  /** Only while the key shows this input; any when absent. */
  input: z.number().int().min(0).max(9999).optional(),
  /** So many frames before the key is on: a key that the program switches waits for that long. */
  preRoll: z.number().int().min(0, 'not negative').max(mostPreRoll, `at most ${mostPreRoll} frames`).default(0),
  /** What takes out again what was begun. */
  out: z
    .strictObject({
      sends: z.array(watchSendSchema).max(20),
      /** When the key is switched off. */
      withKey: z.boolean().default(true),
      /** So long after the key is on, in milliseconds; only with the key when absent. */
      afterMs: z.number().int().min(100, 'at least 100 ms').max(3_600_000, 'at most an hour').optional(),
    })
    .optional(),
});

export const watchWhenSchema = z.discriminatedUnion('is', [
  /** It becomes true, and stays so for a time where one is given. */
  z.strictObject({ is: z.literal('true'), condition: conditionSchema, forMs: forMs.default(0) }),
  /** A reading takes another value, or this one. */
  z.strictObject({ is: z.literal('change'), reading: readingRefSchema, to: scalarSchema.optional() }),
  keyWhenSchema,
  /** This text comes in, over one inlet or any of them. */
  z.strictObject({
    is: z.literal('message'),
    text: text(longestInletText).min(1),
    /** The text is a pattern (RE2). Its named groups fill the variables and the parameters of the macro that have these names. */
    pattern: z.literal(true).optional(),
    inlet: idSchema.optional(),
  }),
  z.strictObject({
    is: z.literal('time'),
    schedule: scheduleSchema,
    /** At the start of the program it catches up on what was missed no longer ago than this, in seconds; on nothing when absent. */
    lateS: z.number().int().min(1).max(86_400).optional(),
  }),
]);
export type WatchWhen = z.infer<typeof watchWhenSchema>;
export type KeyWhen = Extract<WatchWhen, { is: 'key' }>;

/** The highest number of a watch, and so of watches in a show. */
export const mostWatches = 999;

export const watchDataSchema = z.strictObject({
  name: text(60).min(1),
  /** Unique in the show: buttons and macros switch it by this. */
  number: z.number().int().min(1).max(mostWatches),
  order: z.number(),
  note: text(2000).default(''),
  /** Off until somebody switches it on. */
  off: z.literal(true).optional(),
  /** It acts only while the show is in service. */
  inService: z.literal(true).optional(),
  when: watchWhenSchema,
  /** It does not fire while this holds. */
  unless: conditionSchema.optional(),
  /** The time from when it is true until it acts, in milliseconds. */
  delayMs: forMs.default(0),
  /** After one firing it is spent, until it is switched on again. */
  once: z.literal(true).optional(),
  /** It does not fire again within this time, in milliseconds. */
  quietMs: z.number().int().min(0, 'not negative').max(86_400_000, 'at most a day').default(0),
  mostPerMinute: z.number().int().min(1, 'at least once').max(600, 'at most 600 times a minute').default(60),
  sends: z.array(watchSendSchema).max(40).default([]),
  runs: z.strictObject({ macro: idSchema, params: z.record(valueName, sentArgumentSchema).default({}) }).optional(),
  /** The control that is pressed. */
  presses: idSchema.optional(),
});
export type WatchData = z.infer<typeof watchDataSchema>;
