/** Where a device is within its frame, learned from when its reports come: a switcher acts, and reports, at the beginning of a frame. */
export class FramePhase {
  /** Times of reports, by any clock in milliseconds. */
  private readonly reports: number[] = [];

  /** @param frameMs how long a frame is, in milliseconds */
  constructor(private readonly frameMs: number) {}

  report(at: number): void {
    this.reports.push(at);
    if (this.reports.length > mostReports) this.reports.shift();
  }

  /**
   * How long ago the present frame began, from 0 to a frame, in milliseconds. `undefined` while too few reports came lately, or while they
   * do not agree: a device that does not report by its frames has no phase that could be learned.
   */
  since(now: number): number | undefined {
    const lately = this.reports.filter((at) => now - at < keptMs);
    if (lately.length < leastReports) return undefined;
    // The mean of directions: times just before and just after the beginning of a frame are near to each other.
    let [x, y] = [0, 0];
    for (const at of lately) {
      const angle = (2 * Math.PI * (at % this.frameMs)) / this.frameMs;
      x += Math.cos(angle);
      y += Math.sin(angle);
    }
    if (Math.hypot(x, y) / lately.length < leastAgreement) return undefined;
    const begins = (Math.atan2(y, x) * this.frameMs) / (2 * Math.PI);
    return (((now - begins) % this.frameMs) + this.frameMs) % this.frameMs;
  }
}

const mostReports = 12;
const leastReports = 4;
/** The clocks of computer and device drift apart. */
const keptMs = 120_000;
/** Of 1: about a twentieth of a frame of spread. */
const leastAgreement = 0.95;

/** So near to the beginning of a frame nobody knows whether a command still falls into the one before. */
const unsureMs = 2;

/**
 * When to send two commands so that they fall into frames which are a number of frames apart: after how many milliseconds the first, and the second.
 * The second is aimed at the middle of its frame.
 *
 * @param since how long ago the present frame began; unknown: the second is sent the plain time after the first
 */
export function framesApart(
  frames: number,
  frameMs: number,
  since: number | undefined,
): { readonly first: number; readonly second: number } {
  if (since === undefined || frames === 0) return { first: 0, second: frames * frameMs };
  const untilNext = frameMs - since;
  const first = untilNext < unsureMs ? untilNext + unsureMs : since < unsureMs ? unsureMs - since : 0;
  const phase = (since + first) % frameMs;
  return { first, second: first - phase + frames * frameMs + frameMs / 2 };
}
