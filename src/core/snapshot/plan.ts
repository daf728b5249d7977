import type { DriverDocument } from '../driver';
import type { Scalar } from '../result';
import type { SnapshotPart } from '../show';
import { canMove } from './between';
import { isSame, tracksOf, type Track } from './tracks';

/** One command of a call-up that has something to change. */
export interface PlannedTrack {
  readonly device: string;
  readonly track: Track;
  /** What each of its parameters is now; absent where it is not known. */
  readonly from: Readonly<Record<string, Scalar>>;
  readonly to: Readonly<Record<string, Scalar>>;
  /** Sent once and in one step: it cannot move, or what it is now is not known. */
  readonly isJump: boolean;
  /** Another command of the call-up sets this one back. */
  readonly reset?: Reset;
}

interface Reset {
  /** The track of that command, which has to be carried out first. */
  readonly after: string;
  /** What the readings are then. */
  readonly to: Scalar;
}

interface CallPlan {
  readonly tracks: readonly PlannedTrack[];
  /** Everything that the snapshot says something about, also what is there already: nothing else may move it on. */
  readonly covers: ReadonlySet<string>;
  /** Parts that cannot be sent back: their device or group is gone. */
  readonly gone: readonly SnapshotPart[];
  /** Kept readings that nothing sends back any more. */
  readonly unused: readonly { readonly device: string; readonly key: string }[];
}

interface PlanSources {
  readonly documentOf: (device: string) => DriverDocument | undefined;
  /** What a reading is now: where a glide under way has brought it, else what the device reports freshly. */
  readonly now: (device: string, key: string) => Scalar | undefined;
}

/** Works out what has to be sent to call up a snapshot: only what differs from how it is now. */
export function planCall(parts: readonly SnapshotPart[], { documentOf, now }: PlanSources): CallPlan {
  const tracks: PlannedTrack[] = [];
  const covers = new Set<string>();
  const gone: SnapshotPart[] = [];
  const unused: { device: string; key: string }[] = [];
  for (const part of parts) {
    const { device, keep, values } = part;
    const document = documentOf(device);
    const definition = document?.keeps[keep];
    if (!document || !definition) {
      gone.push(part);
      continue;
    }
    const all = tracksOf(document, definition);
    const known = new Set(all.flatMap((track) => track.values.map(({ key }) => key)));
    for (const key of Object.keys(values)) if (!known.has(key)) unused.push({ device, key });
    for (const track of all) {
      if (track.values.some(({ key }) => key in values)) covers.add(trackKey(device, track));
      const planned = plannedOf(device, track, values, (key) => now(device, key), resetBy(tracks, device, track));
      if (planned) tracks.push(planned);
    }
  }
  return { tracks, covers, gone, unused };
}

/** What sets a command back, of those that are sent before it to the same members. */
function resetBy(before: readonly PlannedTrack[], device: string, { command, fixed }: Track): Reset | undefined {
  for (const { device: of, track } of before) {
    const to = track.resets?.[command];
    if (of !== device || to === undefined) continue;
    const isSameMember = Object.entries(track.fixed).every(([name, value]) => (fixed[name] ?? value) === value);
    if (isSameMember) return { after: trackKey(device, track), to };
  }
  return undefined;
}

/** Unique over all devices. */
export const trackKey = (device: string, { id }: Pick<Track, 'id'>): string => `${device} ${id}`;

function plannedOf(
  device: string,
  track: Track,
  values: SnapshotPart['values'],
  now: (key: string) => Scalar | undefined,
  reset: Reset | undefined,
): PlannedTrack | undefined {
  if (!track.values.some(({ key }) => key in values)) return undefined;
  const { when } = track;
  if (when) {
    const state = values[when.reading] ?? now(when.reading);
    if (state === undefined || !when.oneOf.includes(state)) return undefined;
  }
  const from: Record<string, Scalar> = {};
  const to: Record<string, Scalar> = {};
  let differs = false;
  for (const value of track.values) {
    const current = now(value.key);
    const before = reset?.to ?? current;
    // A value that was not taken stays as it is.
    const wanted = values[value.key] ?? before;
    if (wanted === undefined) return undefined;
    // A device that moves by itself knows where it begins.
    const begins = current ?? (track.fade ? wanted : undefined);
    if (begins !== undefined) from[value.param] = begins;
    to[value.param] = wanted;
    if (!isSame(value, before, wanted)) differs = true;
  }
  if (!differs) return undefined;
  const isJump = !track.moves || track.values.some(({ param }) => !canMove(from[param], to[param] ?? ''));
  return { device, track, from, to, isJump, ...(reset ? { reset } : {}) };
}
