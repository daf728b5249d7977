import { z } from 'zod';
import type { ReadingRef } from './conditions';
import { idSchema, readingRefSchema } from './reading-ref';

/** What a control shows besides its label, drawn from what a device reports. */
export const shownSchema = z.discriminatedUnion('kind', [
  /** How far a reading has come between two values. */
  z.strictObject({
    kind: z.literal('bar'),
    reading: readingRefSchema,
    min: z.number(),
    max: z.number(),
    /** It is full where this reading says, such as the length of a clip; `max` while that is not known. */
    most: readingRefSchema.optional(),
  }),
  /** A reading whose value is a picture as a `data:` URL. */
  z.strictObject({ kind: z.literal('picture'), reading: readingRefSchema }),
  /** A picture that the device hands out over HTTP, by its name in the driver. */
  z.strictObject({ kind: z.literal('still'), device: idSchema, still: z.string().min(1).max(60) }),
  /** A picture, or a stream of pictures, from any address; one that is no stream is fetched so often. */
  z.strictObject({
    kind: z.literal('address'),
    /** Empty until somebody has typed it. */
    url: z.string().max(2000),
    everyMs: z.number().int().min(100).max(600_000).optional(),
  }),
  /** Boxes in a picture, drawn from their positions; by its name in the driver. */
  z.strictObject({ kind: z.literal('layout'), device: idSchema, layout: z.string().min(1).max(60) }),
]);

export type ShownSpec = z.infer<typeof shownSchema>;

/** The same with its readings replaced. */
export function mapShownReading(shown: ShownSpec, to: (ref: ReadingRef) => ReadingRef): ShownSpec {
  if (!('reading' in shown)) return shown;
  if (shown.kind === 'bar' && shown.most) return { ...shown, reading: to(shown.reading), most: to(shown.most) };
  return { ...shown, reading: to(shown.reading) };
}

/** Under which name a device’s picture is known. */
export const stillKey = (still: string): string => `still.${still}`;

/** Under which name a picture from an address is known: every control that shows it in the same way shares it. */
export const addressKey = ({ url, everyMs }: Extract<ShownSpec, { kind: 'address' }>): string =>
  `address ${everyMs ?? ''} ${url}`;
