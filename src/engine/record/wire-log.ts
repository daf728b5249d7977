import { isQuietNote, mostOnWire, quietRows, type RowsView, type WireRow } from '../../core/live';
import type { LinkChange } from '../parts';
import { RowRing, type RowAbout } from './row-ring';

/** Hears what goes over the wire, with secrets masked. */
export type OnWire = (dir: WireRow['dir'], bytes: Uint8Array, note?: string, about?: RowAbout) => void;

/** Kept for looking back and for saving, by size: minutes of a show with many devices, hours of a quiet one. */
const others = { bytes: 24 * 1024 * 1024, rows: 98_000, rowBytes: 2048, recent: mostOnWire - quietRows };
const quiet = { bytes: 8 * 1024 * 1024, rows: 60_000, rowBytes: 2048, recent: quietRows };
const batchMs = 50;

/**
 * The last bytes to and from the devices. Screens get the newest in batches, if there are any that look; entering a row costs next
 * to nothing. What comes by itself has room of its own, so that it does not wash away what was sent.
 */
export class WireLog {
  private readonly quiet: RowRing;
  private readonly others: RowRing;
  private lastN = 0;
  /** Followers have all rows up to this one. */
  private toldN = 0;
  private timer: NodeJS.Timeout | undefined;
  private readonly listeners = new Map<string, Set<OnWire>>();

  constructor(
    private readonly isFollowed: () => boolean,
    private readonly onRows: (rows: readonly WireRow[]) => void,
    /** A command of a device in words, with its values. */
    inWords: (device: string, about: RowAbout) => string | undefined = () => undefined,
  ) {
    this.quiet = new RowRing(quiet, inWords);
    this.others = new RowRing(others, inWords);
  }

  /**
   * All that is kept, in pieces: the oldest rows after a number, at most so many.
   *
   * @returns `last`: the number of the newest row
   */
  page(after: number, most: number): { readonly rows: readonly WireRow[]; readonly last: number } {
    const rows = [...this.quiet.oldestAfter(after, most), ...this.others.oldestAfter(after, most)];
    return { rows: rows.sort((a, b) => a.n - b.n).slice(0, most), last: this.lastN };
  }

  /** What followers have been told so far; what is new since then comes with the next batch, to all of them. */
  get view(): RowsView<WireRow> {
    if (this.timer === undefined) this.toldN = this.lastN;
    return { rows: this.between(0, this.toldN) };
  }

  /** Hears a device's bytes until what is returned is called. */
  listenTo(device: string, onWire: OnWire): () => void {
    const all = this.listeners.get(device) ?? new Set();
    this.listeners.set(device, all.add(onWire));
    return () => {
      all.delete(onWire);
      if (all.size === 0) this.listeners.delete(device);
    };
  }

  record(device: string, dir: WireRow['dir'], bytes: Uint8Array, note?: string, about?: RowAbout): void {
    this.lastN += 1;
    const ring = isQuietNote(note) ? this.quiet : this.others;
    ring.put(this.lastN, Date.now(), device, dir, bytes, note, about);
    if (this.listeners.size > 0) for (const onWire of this.listeners.get(device) ?? []) onWire(dir, bytes, note, about);
    if (this.timer === undefined && this.isFollowed()) this.timer = setTimeout(() => this.flush(), batchMs);
  }

  onLink({ device, status: { link }, isPassing }: LinkChange): void {
    if (isPassing || link.word === 'off') return;
    this.record(device, 'note', new Uint8Array(), `link ${link.word}${link.cause ? `: ${link.cause}` : ''}`);
  }

  stop(): void {
    clearTimeout(this.timer);
  }

  private flush(): void {
    this.timer = undefined;
    const rows = this.between(this.toldN, this.lastN);
    this.toldN = this.lastN;
    this.onRows(rows);
  }

  private between(after: number, upTo: number): WireRow[] {
    const rows = [...this.quiet.between(after, upTo, quiet.recent), ...this.others.between(after, upTo, others.recent)];
    return rows.sort((a, b) => a.n - b.n);
  }
}
