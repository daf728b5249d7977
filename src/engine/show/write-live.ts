import type { LiveChange } from '../../core/live';

/** Writes what takes effect at once into the show. Resolves with what is missing, as a sentence; rejects when nobody writes. */
export type WriteLive = (change: LiveChange) => Promise<string | undefined>;
