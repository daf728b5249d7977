import type { MacroRecord } from '../../core/show';
import { laneOf, lanesOf } from './step-text';

/** The height of a row of steps, and of what is drawn below the rows of a lane, in pixels. */
export const rowPx = 34;
const belowPx = 24;
/** Narrow letters are seven pixels wide, near enough. */
const letterPx = 7;
const framePx = 24;

interface Lane {
  readonly id: string;
  readonly top: number;
  readonly height: number;
}

export interface TimelineLayout {
  readonly lanes: readonly Lane[];
  readonly height: number;
  /** In which row of its lane each step is drawn, so that none lies on another. */
  readonly rows: ReadonlyMap<string, number>;
  /** How much room each segment needs to the right of its zero point, in pixels. */
  readonly rooms: readonly number[];
}

/** Gives every step of a macro its row, and every lane its height. */
export function layOut({ data }: MacroRecord, texts: ReadonlyMap<string, string>, scale: number): TimelineLayout {
  const rows = new Map<string, number>();
  const counts = new Map<string, number>();
  const rooms = data.segments.map(({ steps, markers = [] }) => {
    const ends = new Map<string, number[]>();
    let room = 0;
    for (const step of [...steps].sort((a, b) => a.at - b.at)) {
      const lane = laneOf(step.does);
      const own = ends.get(lane) ?? [];
      ends.set(lane, own);
      const from = step.at * scale;
      const free = own.findIndex((end) => end <= from);
      const row = free === -1 ? own.length : free;
      const end = from + (texts.get(step.id)?.length ?? 0) * letterPx + framePx;
      own[row] = end;
      room = Math.max(room, end);
      rows.set(step.id, row);
      counts.set(lane, Math.max(counts.get(lane) ?? 1, row + 1));
    }
    return Math.max(
      room,
      ...markers.map(({ at, name, forMs = 0 }) => Math.max(at + forMs, at) * scale + name.length * letterPx),
    );
  });
  let top = 0;
  const lanes = lanesOf(data).map((id) => {
    const height = (counts.get(id) ?? 1) * rowPx + belowPx;
    const lane = { id, top, height };
    top += height;
    return lane;
  });
  return { lanes, height: top, rows, rooms };
}
