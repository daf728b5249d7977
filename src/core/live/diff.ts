import type {
  AsRunRow,
  ControlView,
  FaceView,
  HeadView,
  PageLayout,
  PageView,
  ReadingsView,
  RowsView,
  RunsView,
  RunView,
  ScreensView,
  ScreenView,
  StatusView,
  TallyView,
  WireRow,
} from './topics';
import { keptAsRun } from './as-run-class';
import type { Reading } from '../reading';

/** What each topic's differences look like, and how one is laid over the whole. */

export type MapDiff<T> = { readonly put?: Readonly<Record<string, T>>; readonly drop?: readonly string[] };

type StatusDiff = Partial<Omit<StatusView, 'devices'>> & {
  readonly devices?: MapDiff<StatusView['devices'][string]>;
};
export interface PageDiff {
  readonly layout?: PageLayout;
  readonly controls?: MapDiff<ControlView>;
  readonly faces?: MapDiff<FaceView>;
}
type ReadingsDiff = MapDiff<Reading>;
interface RowsDiff<Row> {
  readonly rows: readonly Row[];
}

function applyMap<T>(whole: Readonly<Record<string, T>>, diff: MapDiff<T> | undefined): Readonly<Record<string, T>> {
  if (!diff) return whole;
  const next = { ...whole, ...diff.put };
  for (const key of diff.drop ?? []) delete next[key];
  return next;
}

function applyStatus(whole: StatusView, { devices, ...rest }: StatusDiff): StatusView {
  return { ...whole, ...rest, devices: applyMap(whole.devices, devices) };
}

function applyPage(whole: PageView, diff: PageDiff): PageView {
  return {
    layout: diff.layout ?? whole.layout,
    controls: applyMap(whole.controls, diff.controls),
    faces: applyMap(whole.faces, diff.faces),
  };
}

/** How many rows of the wire a screen keeps. */
export const mostOnWire = 2000;

/** True for rows of the wire that come by themselves all the time. */
export const isQuiet = ({ note }: WireRow): boolean => isQuietNote(note);
export const isQuietNote = (note: string | undefined): boolean =>
  note === 'poll' || note === 'keep-alive' || note === 'report';

/** Of the room on the wire, so many rows at the most are for what comes by itself: a device that is polled must not wash away what was sent. */
export const quietRows = 600;

/** The rows of the wire that are kept: the newest, of those that come by themselves only a share. */
export function keptWire(rows: readonly WireRow[]): readonly WireRow[] {
  if (rows.length <= mostOnWire) return rows;
  let quiet: number = quietRows;
  let others = mostOnWire - quiet;
  const kept: WireRow[] = [];
  for (let n = rows.length - 1; n >= 0; n -= 1) {
    const row = rows[n];
    if (!row || (isQuiet(row) ? quiet-- : others--) <= 0) continue;
    kept.push(row);
  }
  return kept.reverse();
}

/** The whole of a topic after a difference. The topic's name decides what kind it is. */
export function applyDiff(topic: string, whole: unknown, diff: unknown): unknown {
  if (topic === 'status') return applyStatus(whole as StatusView, diff as StatusDiff);
  if (topic.startsWith('page:')) return applyPage(whole as PageView, diff as PageDiff);
  if (topic === 'tally') {
    const { devices } = diff as { devices?: MapDiff<TallyView['devices'][string]> };
    return { devices: applyMap((whole as TallyView).devices, devices) };
  }
  if (topic === 'runs') return applyMap(whole as RunsView, diff as MapDiff<RunView>);
  if (topic === 'screens') return applyMap(whole as ScreensView, diff as MapDiff<ScreenView>);
  if (topic.startsWith('readings:')) return applyMap(whole as ReadingsView, diff as ReadingsDiff);
  if (topic === 'wire') {
    const { rows } = whole as RowsView<WireRow>;
    return { rows: keptWire([...rows, ...(diff as RowsDiff<WireRow>).rows]) };
  }
  if (topic === 'as-run') {
    const { rows } = whole as RowsView<AsRunRow>;
    return { rows: keptAsRun([...rows, ...(diff as RowsDiff<AsRunRow>).rows]) };
  }
  return { ...(whole as HeadView), ...(diff as HeadView) };
}
