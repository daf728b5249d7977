import { z } from 'zod';
import { scalarSchema } from '../driver';
import { highestPreset, idSchema } from '../show';

/** What a hand does with a preset of a camera, and what is then kept of it in the show. */

const number = z.number().int().min(0).max(highestPreset);
const name = z.string().max(40);
const note = z.string().max(500);

export const presetActSchema = z.discriminatedUnion('do', [
  z.strictObject({ do: z.literal('recall') }),
  /** Stores where the camera is now, with a picture. The name stays as it is when absent. */
  z.strictObject({ do: z.literal('store'), name: name.optional() }),
  z.strictObject({ do: z.literal('forget') }),
  /** A new picture; what is stored stays. */
  z.strictObject({ do: z.literal('picture') }),
  /** What is absent stays as it is. */
  z.strictObject({ do: z.literal('name'), name: name.optional(), note: note.optional() }),
  z.strictObject({ do: z.literal('favourite'), on: z.boolean() }),
  z.strictObject({ do: z.literal('byPlace'), on: z.boolean() }),
  z.strictObject({ do: z.literal('move'), by: z.union([z.literal(-1), z.literal(1)]) }),
  z.strictObject({ do: z.literal('getBack') }),
]);
export type PresetAct = z.infer<typeof presetActSchema>;

const of = { device: idSchema, number };

/** A change of the preset record in the show. The engine sends it to Next.js, which writes the show. */
export const presetChangeSchema = z.discriminatedUnion('do', [
  z.strictObject({
    do: z.literal('store'),
    ...of,
    name: name.optional(),
    place: z.record(z.string().max(80), scalarSchema).optional(),
    /** The bytes of its picture, in base64. */
    picture: z.string().max(2_000_000).optional(),
    storedAt: z.string().max(40),
  }),
  z.strictObject({ do: z.literal('forget'), ...of }),
  z.strictObject({ do: z.literal('picture'), ...of, picture: z.string().max(2_000_000) }),
  z.strictObject({ do: z.literal('name'), ...of, name: name.optional(), note: note.optional() }),
  z.strictObject({ do: z.literal('favourite'), ...of, on: z.boolean() }),
  z.strictObject({ do: z.literal('byPlace'), ...of, on: z.boolean() }),
  z.strictObject({ do: z.literal('order'), ...of, order: z.number() }),
  z.strictObject({ do: z.literal('getBack'), ...of }),
]);
export type PresetChange = z.infer<typeof presetChangeSchema>;
