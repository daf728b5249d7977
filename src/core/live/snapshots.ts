import { z } from 'zod';
import { idSchema, snapshotPartSchema } from '../show';

const parts = z.array(snapshotPartSchema).min(1).max(60);
const takenAt = z.string().max(40);

/** A change of a snapshot that a command has made. The engine sends it to Next.js, which writes the show. */
export const snapshotChangeSchema = z.discriminatedUnion('do', [
  z.strictObject({ do: z.literal('overwrite'), id: idSchema, parts, takenAt }),
  /** A new one in the folder of another. Named after that one and its own number when it has no name. */
  z.strictObject({ do: z.literal('take'), like: idSchema, name: z.string().max(60), parts, takenAt }),
  z.strictObject({ do: z.literal('getBack'), id: idSchema }),
]);
export type SnapshotChange = z.infer<typeof snapshotChangeSchema>;
