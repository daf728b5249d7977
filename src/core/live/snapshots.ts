import { z } from 'zod';
import { idSchema, snapshotPartSchema, tintSchema } from '../show';

const parts = z.array(snapshotPartSchema).min(1).max(60);
const takenAt = z.string().max(40);
/** The bytes of the picture that was fetched, in base64. */
const picture = z.string().max(2_000_000).optional();

/** A change of a snapshot that a command has made. The engine sends it to Next.js, which writes the show. */
export const snapshotChangeSchema = z.discriminatedUnion('do', [
  z.strictObject({ do: z.literal('overwrite'), id: idSchema, parts, takenAt, picture }),
  /** A new one in the folder of another. Named after that one and its own number when it has no name. */
  z.strictObject({ do: z.literal('take'), like: idSchema, name: z.string().max(60), parts, takenAt, picture }),
  /** A new one of its own. Named after its number when it has no name. */
  z.strictObject({
    do: z.literal('takeNew'),
    name: z.string().max(60),
    folder: z.string().max(40),
    tint: tintSchema.optional(),
    note: z.string().max(2000),
    parts,
    takenAt,
    picture,
  }),
  z.strictObject({ do: z.literal('getBack'), id: idSchema }),
]);
export type SnapshotChange = z.infer<typeof snapshotChangeSchema>;
