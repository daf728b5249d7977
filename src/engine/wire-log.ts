import { keptRows, keptWire, type RowsView, type WireRow } from '../core/live';

const maxRowBytes = 2048;
const batchMs = 50;

/** The last bytes to and from the devices. Screens get them in batches; entering a row costs next to nothing. */
export class WireLog {
  private rows: WireRow[] = [];
  private fresh: WireRow[] = [];
  private nextN = 1;
  private timer: NodeJS.Timeout | undefined;

  constructor(private readonly onRows: (rows: readonly WireRow[]) => void) {}

  get view(): RowsView<WireRow> {
    return { rows: keptWire(this.rows) };
  }

  record(device: string, dir: WireRow['dir'], bytes: Uint8Array, note?: string): void {
    const shown = bytes.length > maxRowBytes ? bytes.subarray(0, maxRowBytes) : bytes;
    const hex = Buffer.from(shown.buffer, shown.byteOffset, shown.length).toString('hex');
    const cut = bytes.length > maxRowBytes ? `${bytes.length} bytes, the first ${maxRowBytes} shown` : undefined;
    const row: WireRow = { n: this.nextN++, at: Date.now(), device, dir, hex, note: note ?? cut };
    this.rows.push(row);
    this.fresh.push(row);
    // Trimmed in large steps, so that a row costs the same however many there are.
    if (this.rows.length > keptRows.wire * 2) this.rows = [...keptWire(this.rows)];
    if (this.fresh.length > keptRows.wire) this.fresh = this.fresh.slice(-keptRows.wire);
    this.timer ??= setTimeout(() => this.flush(), batchMs);
  }

  stop(): void {
    clearTimeout(this.timer);
  }

  private flush(): void {
    this.timer = undefined;
    const rows = this.fresh;
    this.fresh = [];
    this.onRows(rows);
  }
}
