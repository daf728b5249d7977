import type { DriverCommand } from '../../core/driver';
import type { WireRow } from '../../core/live';
import type { Scalar } from '../../core/result';

const dirs = ['out', 'in', 'note'] as const;

/** What a row belongs to: kept as it is while the row is recent, and put into words only when somebody looks. */
export interface RowAbout {
  readonly name?: string | undefined;
  readonly press?: string | undefined;
  readonly prepared?: { readonly command: DriverCommand; readonly given: Readonly<Record<string, Scalar>> } | undefined;
}

interface Limits {
  /** The room for the bytes of all rows: the oldest rows go when it is full. */
  readonly bytes: number;
  /** The most rows, however short they are; a multiple of `recent`. */
  readonly rows: number;
  /** Of each row the first bytes that are kept. */
  readonly rowBytes: number;
  /** How many of the newest rows keep what they belong to. */
  readonly recent: number;
}

/** Texts that come again and again, by a number that fits into two bytes; 0 is none. */
class Words {
  private readonly numbers = new Map<string, number>();
  private readonly texts: (string | undefined)[] = [undefined];

  numberOf(text: string | undefined): number {
    if (text === undefined) return 0;
    const known = this.numbers.get(text);
    if (known !== undefined) return known;
    // Texts that are different each time would grow without end; the row goes without.
    if (this.texts.length >= 0xffff) return 0;
    const number = this.texts.push(text) - 1;
    this.numbers.set(text, number);
    return number;
  }

  textOf(number: number): string | undefined {
    return this.texts[number];
  }
}

/** Names of devices and commands: a show has few of them. */
const ids = new Words();
/** Remarks may contain what a device said, so that their number has no limit of its own. */
const remarks = new Words();
const utf8 = new TextEncoder();
const pressBytes = 80;

/**
 * The last rows of the wire in memory that was taken once, as many as fit: entering one makes nothing that would have to be collected later,
 * for collecting costs the press that comes just then. Rows are made when somebody looks.
 */
export class RowRing {
  private readonly bytes: Uint8Array;
  /** Where a row begins, counted from the first byte ever: the place is the rest after division by the room. */
  private readonly starts: Float64Array;
  private readonly lengths: Uint32Array;
  private readonly shown: Uint16Array;
  private readonly presses: Uint8Array;
  private readonly numbers: Float64Array;
  private readonly times: Float64Array;
  private readonly dirs: Uint8Array;
  private readonly devices: Uint16Array;
  private readonly notes: Uint16Array;
  private readonly names: Uint16Array;
  private readonly prepared: (RowAbout['prepared'] | undefined)[];
  private next = 0;
  private count = 0;
  private head = 0;

  constructor(
    private readonly limits: Limits,
    private readonly inWords: (device: string, about: RowAbout) => string | undefined = () => undefined,
  ) {
    const { rows } = limits;
    this.bytes = new Uint8Array(limits.bytes);
    this.starts = new Float64Array(rows);
    this.lengths = new Uint32Array(rows);
    this.shown = new Uint16Array(rows);
    this.presses = new Uint8Array(rows);
    this.numbers = new Float64Array(rows);
    this.times = new Float64Array(rows);
    this.dirs = new Uint8Array(rows);
    this.devices = new Uint16Array(rows);
    this.notes = new Uint16Array(rows);
    this.names = new Uint16Array(rows);
    this.prepared = new Array<RowAbout['prepared'] | undefined>(limits.recent).fill(undefined);
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
    const { rows, rowBytes, recent } = this.limits;
    const slot = this.next;
    this.next = slot + 1 === rows ? 0 : slot + 1;
    if (this.count < rows) this.count += 1;
    const { length } = bytes;
    const shown = length <= rowBytes ? length : rowBytes;
    const start = this.roomFor(shown + pressBytes);
    this.bytes.set(shown === length ? bytes : bytes.subarray(0, shown), start);
    const { press } = about ?? {};
    const written =
      press === undefined
        ? 0
        : utf8.encodeInto(press, this.bytes.subarray(start + shown, start + shown + pressBytes)).written;
    this.head += shown + written;
    this.lengths[slot] = length;
    this.shown[slot] = shown;
    this.presses[slot] = written;
    this.starts[slot] = this.head - shown - written;
    this.numbers[slot] = n;
    this.times[slot] = at;
    this.dirs[slot] = dirs.indexOf(dir);
    this.devices[slot] = ids.numberOf(device);
    this.notes[slot] = remarks.numberOf(note);
    this.names[slot] = ids.numberOf(about?.name);
    this.prepared[slot % recent] = about?.prepared;
  }

  /** The rows after one number and up to another, oldest first; of more than `most` the newest. */
  between(after: number, upTo: number, most = Infinity): WireRow[] {
    const rows: WireRow[] = [];
    for (let back = 1; back <= this.count && rows.length < most; back += 1) {
      const slot = this.slotAt(back);
      const n = this.numbers[slot] ?? 0;
      if (n <= after || !this.isKept(slot)) break;
      if (n <= upTo) rows.push(this.row(slot, n, back));
    }
    return rows.reverse();
  }

  /** The oldest rows after a number, at most so many. */
  oldestAfter(after: number, most: number): WireRow[] {
    // Numbers go down and rows get lost the farther back one looks: the last that is wanted is found by halving.
    let [wanted, unwanted] = [0, this.count + 1];
    while (unwanted - wanted > 1) {
      const back = (wanted + unwanted) >> 1;
      const slot = this.slotAt(back);
      if ((this.numbers[slot] ?? 0) > after && this.isKept(slot)) wanted = back;
      else unwanted = back;
    }
    const rows: WireRow[] = [];
    for (let back = wanted; back > 0 && rows.length < most; back -= 1) {
      const slot = this.slotAt(back);
      rows.push(this.row(slot, this.numbers[slot] ?? 0, back));
    }
    return rows;
  }

  private slotAt(back: number): number {
    return (this.next - back + this.limits.rows) % this.limits.rows;
  }

  /** False when newer rows have taken the place of its bytes. */
  private isKept(slot: number): boolean {
    return (this.starts[slot] ?? 0) >= this.head - this.limits.bytes;
  }

  /** The place for so many bytes in one piece. What is left at the end of the room is passed over. */
  private roomFor(length: number): number {
    const { bytes } = this.limits;
    const place = this.head % bytes;
    if (place + length <= bytes) return place;
    this.head += bytes - place;
    return 0;
  }

  private row(slot: number, n: number, back: number): WireRow {
    const shown = this.shown[slot] ?? 0;
    const length = this.lengths[slot] ?? 0;
    const start = this.bytes.byteOffset + ((this.starts[slot] ?? 0) % this.limits.bytes);
    const cut = length > shown ? `${length} bytes, the first ${shown} shown` : undefined;
    const device = ids.textOf(this.devices[slot] ?? 0) ?? '';
    const name = ids.textOf(this.names[slot] ?? 0);
    const pressLength = this.presses[slot] ?? 0;
    const press =
      pressLength === 0 ? undefined : Buffer.from(this.bytes.buffer, start + shown, pressLength).toString('utf8');
    const prepared = back <= this.limits.recent ? this.prepared[slot % this.limits.recent] : undefined;
    const says = prepared && this.inWords(device, { name, press, prepared });
    return {
      n,
      at: this.times[slot] ?? 0,
      device,
      dir: dirs[this.dirs[slot] ?? 0] ?? 'note',
      hex: Buffer.from(this.bytes.buffer, start, shown).toString('hex'),
      note: remarks.textOf(this.notes[slot] ?? 0) ?? cut,
      ...(name === undefined ? {} : { name }),
      ...(says === undefined ? {} : { says }),
      ...(press === undefined ? {} : { press }),
    };
  }
}
