import { z } from 'zod';

/** Muted colours of controls and snapshots. They cannot be mistaken for a state. */
export const tints = ['slate', 'sand', 'plum', 'lagoon', 'clay', 'lichen'] as const;
/** What tints are called on screens. */
export const tintTitles = {
  slate: 'Slate',
  sand: 'Sand',
  plum: 'Plum',
  lagoon: 'Lagoon',
  clay: 'Clay',
  lichen: 'Lichen',
} as const satisfies Record<(typeof tints)[number], string>;
export const tintSchema = z.enum(tints);
