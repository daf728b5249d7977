import { z } from 'zod';
import { scalarSchema } from '../driver';
import { idSchema, text } from './reading-ref';

/**
 * Presets of cameras. Each is stored in the camera under its number; beside it the show keeps what it looks like, what people call it and
 * where the camera was. A preset says what a device holds, not what the show does: it changes while the show runs, and is never part of a draft.
 */

/** The highest number of a preset (VISCA has one byte for it). */
export const highestPreset = 255;

const picture = z.string().regex(/^[0-9a-f]{64}$/, 'the hash of a picture');

const kept = {
  /** What the camera saw as it was stored. */
  picture: picture.optional(),
  /** Readings of the camera as it was stored: what its driver keeps of its framing. */
  place: z.record(z.string().min(1).max(80), scalarSchema).optional(),
  storedAt: z.string().max(40).default(''),
};

export const presetDataSchema = z.strictObject({
  device: idSchema,
  number: z.number().int().min(0).max(highestPreset),
  name: text(40).default(''),
  note: text(500).default(''),
  /** Among the presets of its camera, and among the favourites. */
  order: z.number(),
  favourite: z.literal(true).optional(),
  ...kept,
  /** It is recalled by its position instead of its number: the camera does not have it. */
  byPlace: z.literal(true).optional(),
  /** What it was before it was last overwritten. */
  before: z.strictObject({ name: text(40).default(''), ...kept }).optional(),
});
export type PresetData = z.infer<typeof presetDataSchema>;

/** Which presets a control shows, and what hands may do with them. */
export const presetBoardSchema = z.strictObject({
  /** Those of this camera; the favourites of all cameras when absent. */
  device: idSchema.optional(),
  /** How many numbers it shows at least, stored or not. */
  places: z.number().int().min(1).max(64).default(6),
  /** Tiles side by side; as many as fit when absent. */
  columns: z.number().int().min(1).max(12).optional(),
  /** A recall has to be confirmed while the camera is on air. */
  guardsOnAir: z.literal(true).optional(),
  /** Panels recall presets and change nothing. */
  recallsOnly: z.literal(true).optional(),
});
export type PresetBoard = z.infer<typeof presetBoardSchema>;
