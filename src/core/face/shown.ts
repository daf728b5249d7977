import { runningClock, whileRef, type RunningClock } from '../clock';
import { indexesOf, memberKey, splitKey, valueWithUnit, type DriverDocument } from '../driver';
import type { Freshness, Reading } from '../reading';
import { isPictureValue } from './picture-value';
import { addressKey, readingId, resolveReading, stillKey, type ControlRecord, type ReadingRef } from '../show';

/** What a face shows besides its label. */
export type Shown = { readonly doubt?: Exclude<Freshness, 'fresh'> } & (
  | {
      readonly kind: 'bar';
      /** How far it has come, 0 to 1. */
      readonly part?: number;
      readonly text: string;
      /** It runs on by itself: the screen that shows it counts, from empty to full. */
      readonly runs?: { readonly clock: RunningClock; readonly min: number; readonly max: number };
    }
  | {
      readonly kind: 'picture';
      /** A `data:` URL; nothing while there is none. */
      readonly src?: string;
      /** The key by which the screen has the picture from the relay, as it is now. */
      readonly live?: string;
    }
  | { readonly kind: 'layout'; readonly boxes: readonly LayoutBox[] }
);

/** A box of a layout, in parts of the whole picture, 0 to 1; what is cropped off it is taken away. */
export interface LayoutBox {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
  readonly text: string;
}

type Data = Pick<ControlRecord['data'], 'shows' | 'values'>;
type ReadingNow = (ref: ReadingRef) => Reading | undefined;
type DocumentOf = (device: string) => DriverDocument | undefined;
/** The key by which screens have a picture from the relay, by its name; `undefined` where there is no relay. */
export type PictureKey = (name: string) => string | undefined;

/** Every reading that what is shown depends on. */
export function readingsOfShown({ shows, values }: Data, documentOf: DocumentOf): ReadingRef[] {
  if (!shows) return [];
  if ('reading' in shows) {
    const refs = [shows.reading, ...(shows.kind === 'bar' && shows.most ? [shows.most] : [])];
    const read = refs.map((ref) => resolveReading(ref, values));
    return [...read, ...read.flatMap((ref) => whileRef(ref, documentOf) ?? [])];
  }
  if (shows.kind === 'still' || shows.kind === 'address') return [];
  const { device } = shows;
  const layout = layoutOf(shows, documentOf);
  if (!layout) return [];
  const { families, indexes } = layout;
  const { names = '' } = layout.definition;
  const keys = indexes.flatMap((index) => families.map((family) => memberKey(family, index)));
  // Any input may come into a box.
  const named = documentOf(device)?.readings[names]?.index;
  const nameKeys = named ? indexesOf(named).map((index) => memberKey(names, index)) : [];
  return [...keys, ...nameKeys].map((key) => ({ device, key }));
}

/** What is shown now; `undefined` for a control that shows nothing besides its label. */
export function shownNow(
  data: Data,
  readingNow: ReadingNow,
  documentOf: DocumentOf,
  pictureKey: PictureKey = () => undefined,
): Shown | undefined {
  const { shows, values } = data;
  if (!shows) return undefined;
  switch (shows.kind) {
    case 'bar': {
      const ref = resolveReading(shows.reading, values);
      const reading = readingNow(ref);
      if (typeof reading?.value !== 'number') return { kind: 'bar', text: '–', doubt: 'unknown' };
      const shape = documentOf(ref.device)?.readings[splitKey(ref.key).family]?.value;
      const { min } = shows;
      const max = mostNow(shows.most, shows.max, values, readingNow);
      const text = valueWithUnit(shape, reading.value);
      // What a level was is no level: a bar in doubt is empty.
      if (reading.freshness !== 'fresh') return { kind: 'bar', text, doubt: reading.freshness };
      const clock = runningClock(ref, readingNow, documentOf);
      const part = Math.round(partOf(reading.value, min, max) * 1000) / 1000;
      return { kind: 'bar', part, text, ...(clock ? { runs: { clock, min, max } } : {}) };
    }
    case 'picture': {
      const reading = readingNow(resolveReading(shows.reading, values));
      const src = reading?.value;
      return { kind: 'picture', ...(isPictureValue(src) ? { src } : {}), ...doubtOf(reading) };
    }
    case 'still':
      return livePicture(pictureKey(readingId({ device: shows.device, key: stillKey(shows.still) })));
    case 'address':
      return livePicture(pictureKey(addressKey(shows)));
    case 'layout':
      return layoutNow(shows, readingNow, documentOf);
  }
}

/** How old a live picture is, and what is wrong with it, is known where it is shown. */
const livePicture = (live: string | undefined): Shown =>
  live === undefined ? { kind: 'picture', doubt: 'unknown' } : { kind: 'picture', live };

/** Where a range ends now: at what a reading says, or at a number while that is not known. */
export function mostNow(
  most: ReadingRef | undefined,
  usual: number,
  values: Data['values'],
  readingNow: ReadingNow,
): number {
  const value = most && readingNow(resolveReading(most, values))?.value;
  return typeof value === 'number' ? value : usual;
}

/** How far a value has come between two others, 0 to 1. */
export const partOf = (value: number, min: number, max: number): number =>
  max === min ? 0 : Math.max(0, Math.min(1, (value - min) / (max - min)));

const doubtOf = (reading: Reading | undefined): { doubt?: Exclude<Freshness, 'fresh'> } =>
  reading?.freshness === 'fresh' ? {} : { doubt: reading?.freshness ?? 'unknown' };

type LayoutSpec = Extract<NonNullable<Data['shows']>, { kind: 'layout' }>;

function layoutOf({ device, layout }: LayoutSpec, documentOf: DocumentOf) {
  const document = documentOf(device);
  const definition = document?.layouts[layout];
  const range = definition && document?.readings[definition.x]?.index;
  if (!definition || !range) return undefined;
  const { on, source, x, y, size, left, top, right, bottom } = definition;
  const families = [on, source, x, y, size, left, top, right, bottom].filter((family) => family !== undefined);
  return { definition, families, indexes: indexesOf(range) };
}

function layoutNow(spec: LayoutSpec, readingNow: ReadingNow, documentOf: DocumentOf): Shown {
  const layout = layoutOf(spec, documentOf);
  if (!layout) return { kind: 'layout', boxes: [], doubt: 'unknown' };
  const { definition, families, indexes } = layout;
  const { device } = spec;
  const read = (family: string, index: number) => readingNow({ device, key: memberKey(family, index) });
  const all = indexes.flatMap((index) => families.map((family) => read(family, index)?.freshness ?? 'unknown'));
  const doubt = all.includes('unknown') ? 'unknown' : all.includes('stale') ? 'stale' : undefined;
  const boxes = indexes.flatMap((index): LayoutBox[] => {
    const number = (family: string | undefined) => Number(family === undefined ? 0 : (read(family, index)?.value ?? 0));
    if (definition.on !== undefined && read(definition.on, index)?.value !== true) return [];
    const width = number(definition.size) / definition.sizeFull;
    const [left, right] = [number(definition.left), number(definition.right)].map((crop) => crop / 100);
    const [top, bottom] = [number(definition.top), number(definition.bottom)].map((crop) => crop / 100);
    const input = number(definition.source);
    const name = definition.names === undefined ? undefined : read(definition.names, input);
    return [
      {
        x: round(number(definition.x) / definition.placeFull - width / 2 + (left ?? 0) * width),
        y: round(number(definition.y) / definition.placeFull - width / 2 + (top ?? 0) * width),
        width: round(width * (1 - (left ?? 0) - (right ?? 0))),
        height: round(width * (1 - (top ?? 0) - (bottom ?? 0))),
        text: String(name?.value ?? input),
      },
    ];
  });
  return { kind: 'layout', boxes, ...(doubt ? { doubt } : {}) };
}

const round = (value: number): number => Math.round(value * 10_000) / 10_000;
