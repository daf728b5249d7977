import type { GlideCurve } from '../show';

/**
 * How far a glide has come, 0 to 1, after a share of its time, 0 to 1. Every curve begins at 0, ends exactly at 1 and never passes it: no
 * value goes beyond the one that it moves to.
 */
export function curveAt(curve: GlideCurve, share: number): number {
  if (share <= 0) return 0;
  if (share >= 1) return 1;
  switch (curve) {
    case 'linear':
      return share;
    case 'smooth':
      return share * share * (3 - 2 * share);
    case 'accelerating':
      return share * share;
    case 'decelerating':
      return 1 - (1 - share) * (1 - share);
  }
}
