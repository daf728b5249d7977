import type { DriverDocument } from '../driver';
import type { Freshness, Reading } from '../reading';
import {
  presetCalled,
  presetMissed,
  presetReached,
  tallyState,
  type ControlRecord,
  type PresetBoard,
  type PresetData,
  type PresetRecord,
  type ReadingRef,
} from '../show';
import { presetName } from './edits';
import { hasPlace } from './place';

/** What a tile shows of a preset, or of a number that nothing is stored under. */
export interface PresetTile {
  readonly device: string;
  /** The tag of the camera, where the tiles are of several. */
  readonly tag?: string;
  readonly number: number;
  readonly title: string;
  readonly order: number;
  readonly empty?: true;
  /** As people typed it; empty where they have not. */
  readonly name?: string;
  readonly note?: string;
  readonly picture?: string;
  readonly favourite?: true;
  /** The camera is there, is on its way, or did not get there in time. */
  readonly mark?: 'reached' | 'called' | 'missed';
  /** The camera is on air: a recall would be seen. */
  readonly onAir?: true;
  readonly guarded?: true;
  readonly byPlace?: true;
  /** Its position is known: it can be recalled by that. */
  readonly hasPlace?: true;
  /** What it was before it was overwritten can be got back. */
  readonly hasBefore?: true;
  /** What is said of the camera is old, or not known. */
  readonly doubt?: Exclude<Freshness, 'fresh'>;
}

export interface TileSources {
  readonly readingNow: (ref: ReadingRef) => Reading | undefined;
  readonly documentOf: (device: string) => DriverDocument | undefined;
  readonly presets: () => Iterable<PresetRecord>;
  readonly tagOf: (device: string) => string | undefined;
}

type Data = ControlRecord['data'];

/** The cameras that a control shows presets of. */
export function camerasOf(board: PresetBoard, presets: Iterable<PresetRecord>): string[] {
  if (board.device !== undefined) return [board.device];
  return [...new Set([...presets].filter(({ data }) => data.favourite).map(({ data }) => data.device))];
}

export function readingsOfTiles({ presets: board }: Data, sources: Pick<TileSources, 'presets'>): ReadingRef[] {
  if (!board) return [];
  return camerasOf(board, sources.presets()).flatMap((device) =>
    [presetReached, presetCalled, presetMissed, tallyState].map((key) => ({ device, key })),
  );
}

/** What a control for presets shows now. */
export function tilesNow(board: PresetBoard, sources: TileSources): PresetTile[] {
  const { documentOf, tagOf, presets } = sources;
  const { device } = board;
  const all = [...presets()];
  const shown = all.filter(({ data }) => (device === undefined ? data.favourite : data.device === device));
  const states = new Map(camerasOf(board, all).map((camera) => [camera, stateOf(camera, board, sources)]));
  const tiles = shown.map(({ data }): PresetTile => {
    const state = states.get(data.device);
    const tag = device === undefined ? tagOf(data.device) : undefined;
    return {
      ...tileOf(data),
      ...(tag === undefined ? {} : { tag }),
      ...state?.of(data.number),
      ...(hasPlace(documentOf(data.device), data) ? { hasPlace: true } : {}),
    };
  });
  return [
    ...tiles,
    ...(device === undefined ? [] : emptyTiles(device, board, tiles, states.get(device), sources)),
  ].sort((a, b) => a.order - b.order || a.device.localeCompare(b.device) || a.number - b.number);
}

const tileOf = (data: PresetData): PresetTile => {
  const { device, number, order, name, note, picture, favourite, byPlace, before } = data;
  return {
    device,
    number,
    order,
    title: presetName(data),
    ...(name === '' ? {} : { name }),
    ...(note === '' ? {} : { note }),
    ...(picture === undefined ? {} : { picture }),
    ...(favourite ? { favourite } : {}),
    ...(byPlace ? { byPlace } : {}),
    ...(before?.place ? { hasBefore: true } : {}),
  };
};

/** The numbers that nothing is stored under, from the lowest that the camera takes. */
function emptyTiles(
  device: string,
  { places }: PresetBoard,
  stored: readonly PresetTile[],
  state: CameraState | undefined,
  { documentOf }: TileSources,
): PresetTile[] {
  const numbers = numbersOf(documentOf(device));
  if (!numbers) return [];
  const taken = new Set(stored.map(({ number }) => number));
  return Array.from({ length: places }, (_, n) => numbers.first + n)
    .filter((number) => number <= numbers.last && !taken.has(number))
    .map((number) => ({ device, number, order: number, title: `Preset ${number}`, empty: true, ...state?.of(number) }));
}

/** The numbers under which a camera stores presets; `undefined` for a device that stores none. */
function numbersOf(
  document: DriverDocument | undefined,
): { readonly first: number; readonly last: number } | undefined {
  const { presets, commands } = document ?? {};
  const shape = presets && commands?.[presets.store]?.params[presets.param]?.value;
  if (shape?.type !== 'whole') return undefined;
  return { first: Number(shape.min ?? 0), last: typeof shape.max === 'number' ? shape.max : 255 };
}

interface CameraState {
  readonly of: (number: number) => Pick<PresetTile, 'mark' | 'onAir' | 'guarded' | 'doubt'>;
}

function stateOf(device: string, { guardsOnAir }: PresetBoard, { readingNow, documentOf }: TileSources): CameraState {
  const [reached, called, missed, tally] = [presetReached, presetCalled, presetMissed, tallyState].map((key) =>
    readingNow({ device, key }),
  );
  const onAir = tally?.value === 'onAir';
  // Where the driver says how to tell, not knowing where the camera is is a doubt.
  const tells = documentOf(device)?.presets?.keep !== undefined;
  const freshness = reached?.freshness ?? (tells ? 'unknown' : 'fresh');
  const base = {
    ...(onAir ? { onAir: true as const } : {}),
    ...(onAir && guardsOnAir ? { guarded: true as const } : {}),
    ...(freshness === 'fresh' ? {} : { doubt: freshness }),
  };
  return {
    of: (number) => {
      const mark =
        called?.value === number
          ? 'called'
          : reached?.value === number && reached.freshness === 'fresh'
            ? 'reached'
            : missed?.value === number
              ? 'missed'
              : undefined;
      return mark ? { ...base, mark } : base;
    },
  };
}
