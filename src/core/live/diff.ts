import type {
  AsRunRow,
  ControlView,
  FaceView,
  HeadView,
  PageLayout,
  PageView,
  ReadingsView,
  RowsView,
  StatusView,
  WireRow,
} from './topics';
import type { Reading } from '../reading';

/** What each topic's differences look like, and how one is laid over the whole. */

export type MapDiff<T> = { readonly put?: Readonly<Record<string, T>>; readonly drop?: readonly string[] };

export type StatusDiff = Partial<Omit<StatusView, 'devices'>> & {
  readonly devices?: MapDiff<StatusView['devices'][string]>;
};
export interface PageDiff {
  readonly layout?: PageLayout;
  readonly controls?: MapDiff<ControlView>;
  readonly faces?: MapDiff<FaceView>;
}
export type ReadingsDiff = MapDiff<Reading>;
export interface RowsDiff<Row> {
  readonly rows: readonly Row[];
}

export function applyMap<T>(
  whole: Readonly<Record<string, T>>,
  diff: MapDiff<T> | undefined,
): Readonly<Record<string, T>> {
  if (!diff) return whole;
  const next = { ...whole, ...diff.put };
  for (const key of diff.drop ?? []) delete next[key];
  return next;
}

export function applyStatus(whole: StatusView, { devices, ...rest }: StatusDiff): StatusView {
  return { ...whole, ...rest, devices: applyMap(whole.devices, devices) };
}

export function applyPage(whole: PageView, diff: PageDiff): PageView {
  return {
    layout: diff.layout ?? whole.layout,
    controls: applyMap(whole.controls, diff.controls),
    faces: applyMap(whole.faces, diff.faces),
  };
}

/** How many rows of each log a screen keeps. */
export const keptRows = { wire: 2000, 'as-run': 500 } as const;

export function applyRows<Row>(whole: RowsView<Row>, diff: RowsDiff<Row>, keep: number): RowsView<Row> {
  return { rows: [...whole.rows, ...diff.rows].slice(-keep) };
}

/** The whole of a topic after a difference. The topic's name decides what kind it is. */
export function applyDiff(topic: string, whole: unknown, diff: unknown): unknown {
  if (topic === 'status') return applyStatus(whole as StatusView, diff as StatusDiff);
  if (topic.startsWith('page:')) return applyPage(whole as PageView, diff as PageDiff);
  if (topic.startsWith('readings:')) return applyMap(whole as ReadingsView, diff as ReadingsDiff);
  if (topic === 'wire') return applyRows(whole as RowsView<WireRow>, diff as RowsDiff<WireRow>, keptRows.wire);
  if (topic === 'as-run') return applyRows(whole as RowsView<AsRunRow>, diff as RowsDiff<AsRunRow>, keptRows['as-run']);
  return { ...(whole as HeadView), ...(diff as HeadView) };
}
