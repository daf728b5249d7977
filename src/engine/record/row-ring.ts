import type { DriverCommand } from '../../core/driver';
import type { WireRow } from '../../core/live';
import type { Scalar } from '../../core/result';

const dirs = ['out', 'in', 'note'] as const;

/** What a row belongs to: kept as it is until the row goes, and put into words only when somebody looks. */
export interface RowAbout {
  readonly name?: string | undefined;
  readonly press?: string | undefined;
  readonly prepared?: { readonly command: DriverCommand; readonly given: Readonly<Record<string, Scalar>> } | undefined;
}

/**
 * The last rows of the wire in memory that was taken once: entering one makes nothing that would have to be collected later,
 * for collecting costs the press that comes just then. Rows are made when somebody looks.
 */
export class RowRing {
  private readonly bytes: Uint8Array;
  private readonly lengths: Uint32Array;
  private readonly shown: Uint16Array;
  private readonly numbers: Float64Array;
  private readonly times: Float64Array;
  private readonly dirs: Uint8Array;
  private readonly devices: string[];
  private readonly notes: (string | undefined)[];
  private readonly abouts: (RowAbout | undefined)[];
  private next = 0;
  private count = 0;

  /** @param capacity how many rows are kept; of each row the first `maxRowBytes` */
  constructor(
    private readonly capacity: number,
    private readonly maxRowBytes: number,
    private readonly inWords: (device: string, about: RowAbout) => string | undefined = () => undefined,
  ) {
    this.bytes = new Uint8Array(capacity * maxRowBytes);
    this.lengths = new Uint32Array(capacity);
    this.shown = new Uint16Array(capacity);
    this.numbers = new Float64Array(capacity);
    this.times = new Float64Array(capacity);
    this.dirs = new Uint8Array(capacity);
    this.devices = new Array<string>(capacity).fill('');
    this.notes = new Array<string | undefined>(capacity).fill(undefined);
    this.abouts = new Array<RowAbout | undefined>(capacity).fill(undefined);
  }

  put(
    n: number,
    at: number,
    device: string,
    dir: WireRow['dir'],
    bytes: Uint8Array,
    note?: string,
    about?: RowAbout,
  ): void {
    const slot = this.next;
    this.next = slot + 1 === this.capacity ? 0 : slot + 1;
    if (this.count < this.capacity) this.count += 1;
    const { length } = bytes;
    const fits = length <= this.maxRowBytes;
    this.bytes.set(fits ? bytes : bytes.subarray(0, this.maxRowBytes), slot * this.maxRowBytes);
    this.lengths[slot] = length;
    this.shown[slot] = fits ? length : this.maxRowBytes;
    this.numbers[slot] = n;
    this.times[slot] = at;
    this.dirs[slot] = dirs.indexOf(dir);
    this.devices[slot] = device;
    this.notes[slot] = note;
    this.abouts[slot] = about;
  }

  /** The rows after one number and up to another, oldest first. */
  between(after: number, upTo: number): WireRow[] {
    const rows: WireRow[] = [];
    for (let back = 1; back <= this.count; back += 1) {
      const slot = (this.next - back + this.capacity) % this.capacity;
      const n = this.numbers[slot] ?? 0;
      if (n <= after) break;
      if (n <= upTo) rows.push(this.row(slot, n));
    }
    return rows.reverse();
  }

  private row(slot: number, n: number): WireRow {
    const shown = this.shown[slot] ?? 0;
    const length = this.lengths[slot] ?? 0;
    const start = this.bytes.byteOffset + slot * this.maxRowBytes;
    const cut = length > shown ? `${length} bytes, the first ${shown} shown` : undefined;
    const device = this.devices[slot] ?? '';
    const about = this.abouts[slot];
    const says = about?.prepared && this.inWords(device, about);
    return {
      n,
      at: this.times[slot] ?? 0,
      device,
      dir: dirs[this.dirs[slot] ?? 0] ?? 'note',
      hex: Buffer.from(this.bytes.buffer, start, shown).toString('hex'),
      note: this.notes[slot] ?? cut,
      ...(about?.name === undefined ? {} : { name: about.name }),
      ...(says === undefined ? {} : { says }),
      ...(about?.press === undefined ? {} : { press: about.press }),
    };
  }
}
