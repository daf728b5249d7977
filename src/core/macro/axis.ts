import type { PlannedSegment } from './plan';

/** Where one segment lies on the common axis of its macro. Lengths in pixels unless they say otherwise. */
interface AxisSegment {
  readonly left: number;
  readonly width: number;
  /** Where its zero point lies. */
  readonly zeroX: number;
  /** Room at its beginning for a wait, whose length is known only when it runs. */
  readonly waitWidth: number;
  /** When its zero point comes, from the macro's start and without waits, in milliseconds. */
  readonly zeroMs: number;
  /** From its first moment to its last, in milliseconds. */
  readonly firstMs: number;
  readonly lastMs: number;
}

/**
 * All segments of a macro side by side on one axis. Within a segment the scale is the same everywhere; what a segment needs to show its name
 * and its steps is added behind its last moment.
 */
export interface Axis {
  readonly segments: readonly AxisSegment[];
  readonly width: number;
  /** The whole macro without its waits, in milliseconds. */
  readonly lengthMs: number;
  /** Where a time of a segment lies, in pixels. */
  readonly x: (segment: number, ms: number) => number;
  /** The segment that lies at this place, and the time from its zero point. */
  readonly at: (x: number) => { readonly segment: number; readonly ms: number };
}

/** Room before the first moment of a segment. */
const leadPx = 14;
/** Room behind its last moment. */
const tailPx = 20;
const waitPx = 22;
/** Room for its name. */
const leastPx = 132;

/**
 * Lays a macro out on one axis.
 *
 * @param scale pixels a millisecond
 * @param roomOf how much room a segment needs to the right of its zero point, in pixels
 */
export function axisOf(
  plan: readonly PlannedSegment[],
  scale: number,
  roomOf: (segment: number) => number = () => 0,
): Axis {
  const segments: AxisSegment[] = [];
  let left = 0;
  let startMs = 0;
  plan.forEach(({ preRollMs, lengthMs, times, waits, onlyIf }, n) => {
    const waitWidth = waits || onlyIf ? waitPx : 0;
    const zero = waitWidth + leadPx + preRollMs * scale;
    const width = Math.max(leastPx, zero + Math.max(lengthMs * scale, roomOf(n)) + tailPx);
    segments.push({
      left,
      width,
      zeroX: left + zero,
      waitWidth,
      zeroMs: startMs + preRollMs,
      firstMs: -preRollMs,
      lastMs: lengthMs,
    });
    left += width;
    startMs += (preRollMs + lengthMs) * times;
  });
  return {
    segments,
    width: left,
    lengthMs: startMs,
    x: (segment, ms) => (segments[segment]?.zeroX ?? 0) + ms * scale,
    at: (x) => {
      const found = segments.findIndex((each) => x < each.left + each.width);
      const segment = found === -1 ? Math.max(0, segments.length - 1) : found;
      return { segment, ms: (x - (segments[segment]?.zeroX ?? 0)) / scale };
    },
  };
}

/** Where names alone need more than the room, times still get this share of what is drawn. */
const leastStretch = 1.5;

/**
 * The largest scale at which a macro fits a room, within bounds. One whose names never fit is drawn wider than the room, so that its times can
 * still be told apart.
 *
 * @param widthAt how wide it is at a scale; it grows with the scale
 */
export function fittingScale(widthAt: (scale: number) => number, room: number, least: number, most: number): number {
  const wide = Math.max(room, widthAt(least) > room ? widthAt(least) * leastStretch : 0);
  if (widthAt(most) <= wide) return most;
  let [low, high] = [Math.log2(least), Math.log2(most)];
  // A hundredth of a doubling is less than a pixel in a hundred.
  while (high - low > 0.01) {
    const middle = (low + high) / 2;
    if (widthAt(2 ** middle) <= wide) low = middle;
    else high = middle;
  }
  return 2 ** low;
}
