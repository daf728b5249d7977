import type { WireRow } from './topics';

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
