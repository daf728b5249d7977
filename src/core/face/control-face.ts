import { memberKey, splitKey, valueText, valueWithUnit, type DriverDocument, type DriverList } from '../driver';
import { runningClock, whileRef, type RunningClock } from '../clock';
import { lookNow, readingsOfLamps, type Lamp, type LampMemory, type LampSources } from '../lamp';
import { readingsOfTiles, tilesNow, type PresetTile, type TileSources } from '../preset';
import type { Freshness, Reading } from '../reading';
import type { Scalar } from '../result';
import { resolveReading, type ControlRecord, type ReadingRef } from '../show';
import { readingsOfLabel, renderLabel, type FaceSegment } from './label';
import { isPictureValue } from './picture-value';
import { isBlank, readingsOfSentence, sentenceLabel } from './sentence-label';
import { mostNow, readingsOfShown, shownNow, type PictureKey, type Shown } from './shown';

/** What a control shows now. */
export interface FaceView {
  readonly segments: readonly FaceSegment[];
  readonly lamp: Lamp;
  /** An icon or a picture other than the control's own, by a rule. */
  readonly icon?: string;
  readonly picture?: string;
  /** It cannot be pressed now, by a rule. */
  readonly barred?: true;
  /** When what it has brought about undoes itself, in milliseconds since 1970. */
  readonly offAt?: number;
  /** The macro that it begins runs now. */
  readonly runs?: true;
  /** What it shows besides its label. */
  readonly shown?: Shown;
  /** Of a fader or dial: its position as the device reports it. */
  readonly range?: {
    readonly value?: number;
    readonly text: string;
    readonly doubt?: Exclude<Freshness, 'fresh'>;
    /** Where its range ends now, where a reading says that. */
    readonly max?: number;
    /** The position runs on by itself: the screen that shows it counts. */
    readonly clock?: RunningClock;
  };
  /** Of a list: what the device lists. */
  readonly items?: readonly ListItem[];
  /** Of presets. */
  readonly tiles?: readonly PresetTile[];
}

export interface ListItem {
  readonly index: number;
  readonly title: string;
  readonly texts: readonly string[];
  /** A picture: a `data:` URL, or an address at which the program serves it. */
  readonly picture?: string;
  readonly mark?: 'current' | 'next';
  readonly doubt?: Exclude<Freshness, 'fresh'>;
}

type Data = ControlRecord['data'];
type ReadingNow = (ref: ReadingRef) => Reading | undefined;
type DocumentOf = (device: string) => DriverDocument | undefined;

/** The most items of a list that are shown. */
const mostItems = 500;

/** What faces are made from. */
type FaceSources = LampSources & { readonly documentOf: DocumentOf; readonly pictureKey?: PictureKey } & PresetSources;

/** The presets of the show; without them a control for presets shows none. */
type PresetSources = Partial<Pick<TileSources, 'presets' | 'tagOf'>>;

/**
 * The face of a control as it is now, and the next time at which it may be another although nothing is reported. `memory` is kept
 * by the caller from one look to the next.
 */
export function faceNow(
  data: Data,
  sources: FaceSources,
  memory?: LampMemory,
): { readonly face: FaceView; readonly again: number | undefined } {
  const { readingNow, documentOf, pictureKey, presets, tagOf } = sources;
  const { label, again, ...look } = lookNow(data.lamps, data.values, sources, memory);
  const shown = shownNow(data, readingNow, documentOf, pictureKey);
  // Nearly every control has a label; faces are made with each report, and a copy of the control would cost as much as its face.
  const segments =
    label === undefined && isBlank(data.label)
      ? labelNow(
          { ...data, icon: look.icon ?? data.icon, picture: look.picture ?? data.picture },
          readingNow,
          documentOf,
        )
      : renderLabel(label ?? data.label, data.values, readingNow, documentOf);
  const base = { segments, ...look, ...(shown ? { shown } : {}) };
  if (data.range) return { face: { ...base, range: rangeNow(data, readingNow, documentOf) }, again };
  if (data.list) return { face: { ...base, items: itemsNow(data.list, readingNow, documentOf) }, again };
  if (data.presets && presets && tagOf) {
    const tiles = tilesNow(data.presets, { readingNow, documentOf, presets, tagOf });
    return { face: { ...base, tiles }, again };
  }
  return { face: base, again };
}

/** The label of a control as it is now; a button without one shows what it does. */
export function labelNow(data: Data, readingNow: ReadingNow, documentOf: DocumentOf): FaceSegment[] {
  const sentence = sentenceLabel(data, readingNow, documentOf);
  return sentence === undefined ? renderLabel(data.label, data.values, readingNow, documentOf) : [{ text: sentence }];
}

/** The face of a control at one look. */
export const faceOf = (data: Data, sources: FaceSources): FaceView => faceNow(data, sources).face;

/** Every reading that the face of a control depends on. */
export function readingsOfFace(data: Data, documentOf: DocumentOf, { presets }: PresetSources = {}): ReadingRef[] {
  const labels = [data.label, ...data.lamps.flatMap(({ label }) => (label ? [label] : []))];
  const tested = readingsOfLamps(data);
  const refs = [
    ...labels.flatMap((label) => readingsOfLabel(label, data.values, documentOf)),
    ...readingsOfSentence(data, documentOf),
    ...tested,
    ...tested.flatMap((ref) => whileRef(ref, documentOf) ?? []),
  ];
  refs.push(...readingsOfShown(data, documentOf));
  for (const each of [data.range?.reading, data.range?.most]) {
    if (!each) continue;
    const ref = resolveReading(each, data.values);
    refs.push(ref, ...[whileRef(ref, documentOf) ?? []].flat());
  }
  if (presets) refs.push(...readingsOfTiles(data, { presets }));
  const list = listOf(data.list, documentOf);
  if (!data.list || !list) return refs;
  const { device } = data.list;
  const { items, texts, picture } = list.definition;
  const { among } = data.list;
  const families = new Set([items, ...texts, ...(picture ? [picture] : []), ...(among ? [among.reading] : [])]);
  for (const index of list.indexes) for (const family of families) refs.push({ device, key: memberKey(family, index) });
  for (const mark of [list.definition.current, list.definition.next])
    if (mark) refs.push({ device, key: mark.reading });
  return refs;
}

function rangeNow({ range, values }: Data, readingNow: ReadingNow, documentOf: DocumentOf): FaceView['range'] {
  if (!range?.reading) return { text: '' };
  const ref = resolveReading(range.reading, values);
  const reading = readingNow(ref);
  const shape = documentOf(ref.device)?.readings[splitKey(ref.key).family]?.value;
  const ends = range.most ? { max: mostNow(range.most, range.max, values, readingNow) } : {};
  if (reading === undefined || typeof reading.value !== 'number') return { text: '–', doubt: 'unknown', ...ends };
  const clock = runningClock(ref, readingNow, documentOf);
  const text = valueWithUnit(shape, reading.value);
  return reading.freshness === 'fresh'
    ? { value: reading.value, text, ...ends, ...(clock ? { clock } : {}) }
    : { value: reading.value, text, ...ends, doubt: reading.freshness };
}

/** The definition of a control's list, with the indexes that its items can have. */
function listOf(
  list: Data['list'],
  documentOf: DocumentOf,
): { readonly definition: DriverList; readonly indexes: readonly number[] } | undefined {
  const document = list && documentOf(list.device);
  const definition = document?.lists[list?.list ?? ''];
  const range = definition && document?.readings[definition.items]?.index;
  if (!definition || !range) return undefined;
  const count = Math.max(0, Math.min(mostItems, Number(range.to) - range.from + 1));
  return { definition, indexes: Array.from({ length: count }, (_, n) => range.from + n) };
}

/** What an item of a control's list is called now. */
export function itemName(
  list: Data['list'],
  index: number,
  readingNow: ReadingNow,
  documentOf: DocumentOf,
): Scalar | undefined {
  const found = listOf(list, documentOf);
  return list && found && readingNow({ device: list.device, key: memberKey(found.definition.items, index) })?.value;
}

function itemsNow(list: NonNullable<Data['list']>, readingNow: ReadingNow, documentOf: DocumentOf): ListItem[] {
  const found = listOf(list, documentOf);
  if (!found) return [];
  const { device } = list;
  const { definition, indexes } = found;
  const value = (family: string, index: number) => readingNow({ device, key: memberKey(family, index) });
  const current = definition.current && readingNow({ device, key: definition.current.reading });
  const next = definition.next && readingNow({ device, key: definition.next.reading });
  const is = (mark: DriverList['current'], reading: Reading | undefined, index: number, name: Scalar) =>
    mark !== undefined && reading?.freshness === 'fresh' && reading.value === (mark.by === 'value' ? name : index);
  return indexes.flatMap((index): ListItem[] => {
    const named = value(definition.items, index);
    if (named?.value === undefined || named.value === '') return [];
    if (list.among && value(list.among.reading, index)?.value !== list.among.is) return [];
    const texts = definition.texts.flatMap((family) => {
      const text = value(family, index)?.value;
      if (text === undefined || text === '') return [];
      return [valueText(documentOf(device)?.readings[family]?.value, text)];
    });
    const picture = definition.picture && value(definition.picture, index)?.value;
    const mark = is(definition.current, current, index, named.value)
      ? 'current'
      : is(definition.next, next, index, named.value)
        ? 'next'
        : undefined;
    return [
      {
        index,
        title: String(named.value),
        texts,
        ...(isPictureValue(picture) ? { picture } : {}),
        ...(mark ? { mark } : {}),
        ...(named.freshness === 'fresh' ? {} : { doubt: named.freshness }),
      },
    ];
  });
}
