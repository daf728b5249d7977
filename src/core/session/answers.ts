import { meets, type Expectation } from '../driver';
import type { Scalar } from '../result';

/** Something that was sent and may still be answered, by a device whose answers do not name it. */
export interface Awaiting {
  readonly ref: number;
  readonly sentAt: number;
  /** A report has shown its effect. */
  readonly isConfirmed: boolean;
  /** Its time is over. */
  readonly isLate: boolean;
  /** What looked like its answer reported another value. */
  readonly isDoubtful: boolean;
  readonly expectations: readonly Expectation[] | undefined;
}

/** What an answer says. */
interface Said {
  readonly accepts: boolean;
  readonly refuses: boolean;
  readonly readings: readonly { readonly key: string; readonly value: Scalar }[];
}

interface Answered {
  /** What it answers; `undefined` for a report that only looks like an answer. */
  readonly ref: number | undefined;
  /** What was sent before that: answers come in order, so these will not be answered any more. */
  readonly passed: readonly number[];
  /** What a report that looks like an answer may have been for: perhaps the device set another value than was asked. */
  readonly doubted: number | undefined;
}

const nobody: Answered = { ref: undefined, passed: [], doubted: undefined };

/**
 * Which of those that wait an answer is for, where answers come in the order sent. `awaiting` is oldest first.
 *
 * An answer that reports a reading is for the first command to whose effect the report fits; where it fits to none of those that it could be
 * for, it is a report of something else, or the device has set another value: then the next answer that does not concern it passes it. A refusal is never for a command whose effect was reported, unless nothing that came later can have
 * been answered yet: that takes a round trip.
 *
 * @param roundTripMs the shortest round trip seen; 0 where that is not known or too short to tell anything
 */
export function answeredBy(awaiting: readonly Awaiting[], said: Said, now: number, roundTripMs: number): Answered {
  const [oldest] = awaiting;
  if (!oldest) return nobody;
  const at = said.refuses ? refused(awaiting, now, roundTripMs) : accepted(awaiting, said);
  const found = at === undefined ? undefined : awaiting[at];
  if (!found) return { ...nobody, doubted: oldest.ref };
  return { ...nobody, ref: found.ref, passed: awaiting.slice(0, at).map(({ ref }) => ref) };
}

function accepted(awaiting: readonly Awaiting[], { readings }: Said): number | undefined {
  const values = new Map(readings.map(({ key, value }) => [key, value]));
  const isAbout = ({ expectations }: Awaiting) => expectations?.some(({ key }) => values.has(key)) ?? false;
  const fits = ({ expectations }: Awaiting) =>
    expectations?.every((each) => !values.has(each.key) || meets(each, values.get(each.key))) ?? true;
  const [oldest] = awaiting;
  if (oldest && isAbout(oldest)) {
    const at = awaiting.findIndex((each) => isAbout(each) && fits(each));
    return at < 0 ? undefined : at;
  }
  return Math.max(
    0,
    awaiting.findIndex(({ isDoubtful }) => !isDoubtful),
  );
}

function refused(awaiting: readonly Awaiting[], now: number, roundTripMs: number): number {
  const open = awaiting.findIndex(({ isConfirmed, isLate }) => !isConfirmed && !isLate);
  const at =
    open < 0
      ? Math.max(
          0,
          awaiting.findIndex(({ isConfirmed }) => !isConfirmed),
        )
      : open;
  const isTooSoon = now - (awaiting[at]?.sentAt ?? now) < roundTripMs;
  return isTooSoon && at > 0 ? at - 1 : at;
}

/** Round trips that were seen, the last few. */
export type RoundTrips = readonly number[];

const keptTrips = 20;
const fewestTrips = 3;
/** Shorter ones tell nothing: a device takes as long to act. */
const shortestToldMs = 50;
/** The next one may be that much shorter than the shortest so far. */
const slack = 0.8;

export const withTrip = (trips: RoundTrips, ms: number): RoundTrips => [...trips.slice(1 - keptTrips), ms];

/** Nothing is answered sooner than this after it was sent; 0 where that is not known. */
export function roundTripOf(trips: RoundTrips): number {
  if (trips.length < fewestTrips) return 0;
  const shortest = Math.min(...trips);
  return shortest < shortestToldMs ? 0 : shortest * slack;
}
