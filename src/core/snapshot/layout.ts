import { indexesOf, memberKey, type DriverDocument } from '../driver';
import type { Scalar } from '../result';
import type { SnapshotPart } from '../show';

/** A box of a layout, whatever device draws it: the centre and the size in parts of the whole picture, what is cropped off in per cent of the box. */
export interface Box {
  readonly on: boolean;
  readonly source: number;
  readonly x: number;
  readonly y: number;
  readonly size: number;
  readonly left: number;
  readonly top: number;
  readonly right: number;
  readonly bottom: number;
}

/** A box as a part of a snapshot keeps it. */
export interface KeptBox extends Box {
  readonly index: number;
}

function layoutOf(document: DriverDocument, keep: string) {
  const layout = document.layouts[document.keeps[keep]?.layout ?? ''];
  const index = layout && document.readings[layout.x]?.index;
  return layout && index ? { layout, indexes: indexesOf(index) } : undefined;
}

/** True where a group of readings is a layout of boxes. */
export const isLayout = (document: DriverDocument, keep: string): boolean => layoutOf(document, keep) !== undefined;

/** The boxes that a part keeps. */
export function boxesOf({ keep, values }: SnapshotPart, document: DriverDocument): KeptBox[] {
  const found = layoutOf(document, keep);
  if (!found) return [];
  const { layout, indexes } = found;
  return indexes.map((index) => {
    const number = (family: string | undefined) =>
      Number(family === undefined ? 0 : (values[memberKey(family, index)] ?? 0));
    return {
      index,
      on: layout.on === undefined || values[memberKey(layout.on, index)] === true,
      source: number(layout.source),
      x: number(layout.x) / layout.placeFull,
      y: number(layout.y) / layout.placeFull,
      size: number(layout.size) / layout.sizeFull,
      left: number(layout.left),
      top: number(layout.top),
      right: number(layout.right),
      bottom: number(layout.bottom),
    };
  });
}

/** The part with one of its boxes changed; values go no further than the device takes them. */
export function withBox(
  part: SnapshotPart,
  document: DriverDocument,
  index: number,
  change: Partial<Box>,
): SnapshotPart {
  const found = layoutOf(document, part.keep);
  if (!found) return part;
  const { layout } = found;
  const families: readonly (readonly [keyof Box, string | undefined, number])[] = [
    ['source', layout.source, 1],
    ['x', layout.x, layout.placeFull],
    ['y', layout.y, layout.placeFull],
    ['size', layout.size, layout.sizeFull],
    ['left', layout.left, 1],
    ['top', layout.top, 1],
    ['right', layout.right, 1],
    ['bottom', layout.bottom, 1],
  ];
  const values: Record<string, Scalar> = { ...part.values };
  if (change.on !== undefined && layout.on !== undefined) values[memberKey(layout.on, index)] = change.on;
  for (const [name, family, full] of families) {
    const value = change[name];
    if (typeof value !== 'number' || family === undefined) continue;
    values[memberKey(family, index)] = fitted(document, family, value * full);
  }
  return { ...part, values };
}

function fitted(document: DriverDocument, family: string, value: number): number {
  const shape = document.readings[family]?.value;
  if (shape?.type !== 'whole' && shape?.type !== 'decimal') return value;
  const [min, max] = [shape.min ?? -Infinity, shape.max ?? Infinity].map(Number);
  const within = Math.min(max ?? value, Math.max(min ?? value, value));
  if (shape.type === 'whole') return Math.round(within);
  const places = 10 ** (shape.decimals ?? 3);
  return Math.round(within * places) / places;
}

/** A part with these boxes, in their order; the others of the device are off. */
export function partOfBoxes(
  device: string,
  keep: string,
  document: DriverDocument,
  boxes: readonly Omit<Box, 'on' | 'source'>[],
  sources: readonly number[],
): SnapshotPart {
  const indexes = layoutOf(document, keep)?.indexes ?? [];
  return indexes.reduce<SnapshotPart>(
    (part, index, n) => {
      const box = boxes[n];
      const source = sources[n] ?? n + 1;
      return withBox(part, document, index, box ? { ...box, on: true, source } : { ...unused, on: false, source });
    },
    { device, keep, values: {} },
  );
}

/** Where a box waits that is off. */
const unused = { x: 0.5, y: 0.5, size: 0.25, left: 0, top: 0, right: 0, bottom: 0 } as const;
