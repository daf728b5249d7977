import type { Tally } from './tally';

/** What a tally light says: one thing, and never more than is known. */
export type TallyWord = 'onAir' | 'next' | 'clear' | 'unknown';

/** On air goes before everything; where that is in doubt nothing else is said, for it might be. */
export function wordOf({ onAir, next }: Pick<Tally, 'onAir' | 'next'>): TallyWord {
  if (onAir === true) return 'onAir';
  if (onAir === 'unknown' || next === 'unknown') return 'unknown';
  return next ? 'next' : 'clear';
}
