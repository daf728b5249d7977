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
    // A computer that was busy for a moment hears a report late: the largest group that agrees counts, not the mean of all.
    let group: readonly number[] = [];
    for (const one of lately) {
      const near = lately.map((at) => this.between(one, at)).filter((ms) => Math.abs(ms) <= agreeMs);
      if (near.length > group.length) group = near.map((ms) => one + ms);
    }
    if (group.length < leastReports || group.length < lately.length * leastShare) return undefined;
    const begins = group.reduce((sum, at) => sum + at, 0) / group.length;
    return (((now - begins) % this.frameMs) + this.frameMs) % this.frameMs;
  }

  /** How much later in its frame a time is than another, from minus half a frame to half a frame. */
  private between(one: number, other: number): number {
    const { frameMs } = this;
    return ((((other - one) % frameMs) + 1.5 * frameMs) % frameMs) - frameMs / 2;
  }
}

const mostReports = 12;
const leastReports = 4;
/** The clocks of computer and device drift apart. */
const keptMs = 120_000;
/** Reports agree that lie so near to each other in their frames. */
const agreeMs = 3;
/** So many of them have to. */
const leastShare = 0.6;

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
