import { z } from 'zod';
import { scalarSchema } from '../driver';
import { idSchema, text } from './reading-ref';
import { tintSchema } from './tint';

/** Readings of devices that are kept in the show and can be sent back. What they mean is worked out in `core/snapshot`. */

export const glideCurves = ['linear', 'smooth', 'accelerating', 'decelerating'] as const;
export const glideCurveSchema = z.enum(glideCurves);
export type GlideCurve = z.infer<typeof glideCurveSchema>;

/** The longest glide, in milliseconds. */
export const longestGlideMs = 600_000;

/** How a snapshot is called up: 0 ms is a cut. */
export const glideSchema = z.strictObject({
  ms: z.number().int().min(0, 'not negative').max(longestGlideMs, 'ten minutes at most'),
  curve: glideCurveSchema.default('smooth'),
  /** Screens say the time in frames of the show instead of milliseconds. */
  in: z.literal('frames').optional(),
});
export type GlideTime = z.infer<typeof glideSchema>;

/** A group of readings of one device, with their values. */
export const snapshotPartSchema = z.strictObject({
  device: idSchema,
  /** The group, by its name in the driver. */
  keep: z.string().min(1).max(60),
  values: z.record(z.string().min(1).max(80), scalarSchema),
});
export type SnapshotPart = z.infer<typeof snapshotPartSchema>;

const parts = z.array(snapshotPartSchema).max(60);
const takenAt = z.string().max(40).default('');
/** A picture of the show, by the SHA-256 of its bytes: what the device showed when the snapshot was taken. */
const picture = z
  .string()
  .regex(/^[0-9a-f]{64}$/, 'the hash of a picture')
  .optional();

/** The highest number of a snapshot. */
export const mostSnapshots = 999;

export const snapshotDataSchema = z.strictObject({
  name: text(60).min(1),
  /** Unique in the show: buttons, macros and other programs call it by this. */
  number: z.number().int().min(1).max(mostSnapshots),
  order: z.number(),
  folder: text(40).default(''),
  note: text(2000).default(''),
  tint: tintSchema.optional(),
  parts: parts.default([]),
  takenAt,
  picture,
  /** How it is called up where the button says nothing else; the show's way when absent. */
  glide: glideSchema.optional(),
  /** Somebody who touches a value at the device keeps it: the glide lets go of it. */
  yields: z.literal(true).optional(),
  /** What it kept before it was last overwritten. */
  before: z.strictObject({ parts, takenAt, picture }).optional(),
});
export type SnapshotData = z.infer<typeof snapshotDataSchema>;
