import { z } from 'zod';

/** Muted colours of controls and snapshots. They cannot be mistaken for a state. */
export const tints = ['slate', 'sand', 'plum', 'lagoon', 'clay', 'lichen'] as const;
export const tintSchema = z.enum(tints);
