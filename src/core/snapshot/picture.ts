import { shownNow } from '../face';
import type { DriverDocument, DriverKeep } from '../driver';
import type { Reading } from '../reading';
import type { Scalar } from '../result';
import type { SnapshotData, SnapshotPart } from '../show';
import { tracksOf } from './tracks';

interface Sources {
  readonly documentOf: (device: string) => DriverDocument | undefined;
  /** What the sources are called now. */
  readonly readingNow: (device: string, key: string) => Reading | undefined;
  /** Where the bytes of a picture are; the program serves those of the show. */
  readonly urlOf?: (hash: string) => string | undefined;
}

/** The address at which the program serves a picture of the show. */
const servedAt = (hash: string): string => `/pictures/${hash}`;

const width = 160;
const height = 90;
/** Muted, so that none can be taken for a state; the boxes are told apart by them. */
const fills = ['#4f5d63', '#6a5f4d', '#5d5267', '#4d6460', '#6b5650', '#5a6150'] as const;
const ground = '#17150f';
const line = '#c9c1b2';
const ink = '#f4efe6';

/**
 * The picture of a snapshot as a URL: its boxes where a layout draws them, else the picture that was fetched when it was taken, else its
 * levels, drawn; `undefined` without any of them. Drawings are SVG in a `data:` URL.
 */
export function pictureOf(
  { parts, picture }: Pick<SnapshotData, 'parts' | 'picture'>,
  sources: Sources,
): string | undefined {
  const drawings = parts.flatMap((part) => {
    const document = sources.documentOf(part.device);
    const keep = document?.keeps[part.keep];
    return document && keep ? [{ part, document, keep }] : [];
  });
  const layout = drawings.find(({ keep }) => keep.layout !== undefined);
  if (!layout && picture !== undefined) return (sources.urlOf ?? servedAt)(picture);
  const body = layout
    ? boxesOf(layout.part, layout.keep.layout ?? '', sources)
    : levelsOf(drawings.flatMap(({ part, document, keep }) => levelsIn(part, document, keep)));
  if (body === undefined) return undefined;
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${width} ${height}"><rect width="${width}" height="${height}" fill="${ground}"/>${body}</svg>`;
  return `data:image/svg+xml,${encodeURIComponent(svg)}`;
}

/** The picture that a snapshot of these parts fetches when it is taken; `undefined` where a layout draws one, or no driver defines any. */
export function stillOf(
  parts: readonly Pick<SnapshotPart, 'device' | 'keep'>[],
  documentOf: Sources['documentOf'],
): { readonly device: string; readonly still: string } | undefined {
  const keeps = parts.flatMap(({ device, keep }) => {
    const definition = documentOf(device)?.keeps[keep];
    return definition ? [{ device, ...definition }] : [];
  });
  if (keeps.some(({ layout }) => layout !== undefined)) return undefined;
  const found = keeps.find(({ still }) => still !== undefined);
  return found?.still === undefined ? undefined : { device: found.device, still: found.still };
}

function boxesOf({ device, values }: SnapshotPart, layout: string, { documentOf, readingNow }: Sources): string {
  const shown = shownNow(
    { shows: { kind: 'layout', device, layout }, values: {} },
    (ref) => {
      const value: Scalar | undefined = values[ref.key];
      return value === undefined ? readingNow(ref.device, ref.key) : { value, freshness: 'fresh' };
    },
    documentOf,
  );
  if (shown?.kind !== 'layout') return '';
  return shown.boxes
    .map(({ x, y, width: w, height: h, text }, n) => {
      const [left, top, wide, high] = [x * width, y * height, w * width, h * height].map(short);
      const size = Math.min(14, h * height * 0.4, (w * width * 1.5) / Math.max(1, text.length));
      const label =
        size < 4
          ? ''
          : `<text x="${short((x + w / 2) * width)}" y="${short((y + h / 2) * height + size / 3)}" font-family="sans-serif" font-size="${short(size)}" text-anchor="middle" fill="${ink}">${escaped(text)}</text>`;
      return `<rect x="${left}" y="${top}" width="${wide}" height="${high}" fill="${fills[n % fills.length]}" stroke="${line}"/>${label}`;
    })
    .join('');
}

/** The numbers of a part that have both ends, 0 to 1; what is muted or off is 0. */
function levelsIn({ values }: SnapshotPart, document: DriverDocument, keep: DriverKeep): number[] {
  return tracksOf(document, keep).flatMap((track) =>
    track.moves
      ? track.values.flatMap(({ key, shape }) => {
          const value = values[key];
          if (typeof value !== 'number' || (shape.type !== 'whole' && shape.type !== 'decimal')) return [];
          const [min, max] = [shape.min, shape.max].map(Number);
          if (min === undefined || max === undefined || !(max > min)) return [];
          return [Math.max(0, Math.min(1, (value - min) / (max - min)))];
        })
      : [],
  );
}

const mostLevels = 24;

function levelsOf(levels: readonly number[]): string | undefined {
  if (levels.length === 0) return undefined;
  const shown = levels.slice(0, mostLevels);
  const every = (width - 16) / shown.length;
  return shown
    .map((level, n) => {
      const high = Math.max(2, level * (height - 20));
      return `<rect x="${short(8 + n * every + every * 0.15)}" y="${short(height - 10 - high)}" width="${short(every * 0.7)}" height="${short(high)}" fill="${fills[n % fills.length]}" stroke="${line}" stroke-width="0.6"/>`;
    })
    .join('');
}

const short = (value: number): number => Math.round(value * 10) / 10;

const escaped = (text: string): string => text.replace(/[&<>"]/g, (each) => `&#${each.charCodeAt(0)};`);
