import type { DriverDocument } from '../driver';
import type { Scalar } from '../result';
import type { PresetData, PresetRecord, SendSpec } from '../show';
import { isSame, keysOf, planCall, tracksOf, type Track } from '../snapshot';

/** Where a camera is: the readings that its driver keeps with a preset, and the commands that send it there. */

type Fresh = (key: string) => Scalar | undefined;

const tracks = (document: DriverDocument): readonly Track[] => {
  const keep = document.keeps[document.presets?.keep ?? ''];
  return keep ? tracksOf(document, keep) : [];
};

/** The readings that say where a camera is. */
export const placeKeys = (document: DriverDocument): readonly string[] => keysOf(tracks(document));

/** Where a camera is now; `undefined` where not everything of it is known freshly. */
export function placeNow(document: DriverDocument, fresh: Fresh): PresetData['place'] {
  const entries = placeKeys(document).map((key) => [key, fresh(key)] as const);
  if (entries.length === 0 || entries.some(([, value]) => value === undefined)) return undefined;
  return Object.fromEntries(entries) as Record<string, Scalar>;
}

/**
 * True while a camera is where a preset was stored, as far as its protocol can tell. What was not in effect then does not count: the position of
 * the focus while the camera focuses by itself.
 */
export function isAtPlace(document: DriverDocument, place: NonNullable<PresetData['place']>, fresh: Fresh): boolean {
  const all = tracks(document);
  return (
    all.length > 0 &&
    all.every(({ when, values }) => {
      const state = when && (place[when.reading] ?? fresh(when.reading));
      if (when && (state === undefined || !when.oneOf.includes(state))) return true;
      return values.every((value) => value.key in place && isSame(value, fresh(value.key), place[value.key]));
    })
  );
}

/** The commands that recall a preset: by its number, or by its position where the camera does not have it. Empty where it has none. */
export function recallSends(document: DriverDocument, { data }: Pick<PresetRecord, 'data'>): SendSpec[] {
  const { device, number, place, byPlace } = data;
  const { presets } = document;
  if (!presets) return [];
  if (!byPlace) return [{ device, command: presets.recall, params: { [presets.param]: number } }];
  const { keep } = presets;
  if (keep === undefined || !place) return [];
  // Everything is sent, whatever the camera says of itself: a press has to do the same each time.
  const plan = planCall([{ device, keep, values: place }], {
    documentOf: () => document,
    now: () => undefined,
  });
  return plan.tracks.map(({ track, to }) => ({ device, command: track.command, params: { ...track.fixed, ...to } }));
}

/** True where a preset can be recalled by its position. */
export const hasPlace = (document: DriverDocument | undefined, { place }: PresetData): boolean =>
  place !== undefined && document?.presets?.keep !== undefined;
