import { closeSync, existsSync, ftruncateSync, mkdirSync, openSync, readFileSync, writeSync } from 'node:fs';
import { join } from 'node:path';
import type { DiskReserve } from '../record/disk-reserve';
import { oweLine, paidLine, readLedger, type OwedStop } from '../../core/session';

/** Once nothing is owed, a file longer than this begins anew. */
const compactAboveBytes = 64 * 1024;

/**
 * The ledger on disk. A line is in the system's hands before the call returns, so that it survives the engine being
 * killed; that costs some hundredths of a millisecond, which is why only what goes on until it is stopped is entered.
 */
export class LedgerFile {
  private readonly file: number;
  private readonly open = new Set<string>();
  private size: number;
  /** What an earlier engine left behind. */
  readonly left: readonly OwedStop[];

  /** True while what is owed cannot be written. */
  isFailing = false;

  constructor(
    dataDir: string,
    private readonly reserve: DiskReserve,
  ) {
    mkdirSync(dataDir, { recursive: true });
    const path = join(dataDir, 'owed.jsonl');
    const text = existsSync(path) ? readFileSync(path, 'utf8') : '';
    this.left = readLedger(text);
    for (const { id } of this.left) this.open.add(id);
    this.size = text.length;
    this.file = openSync(path, 'a', 0o600);
    // A line that an earlier engine did not finish must not swallow the next one.
    if (text !== '' && !text.endsWith('\n')) this.append('\n');
  }

  owe(stop: OwedStop): void {
    this.open.add(stop.id);
    this.append(oweLine(stop));
  }

  pay(id: string): void {
    if (!this.open.delete(id)) return;
    this.append(paidLine(id));
    if (this.open.size > 0 || this.size < compactAboveBytes) return;
    ftruncateSync(this.file);
    this.size = 0;
  }

  close(): void {
    closeSync(this.file);
  }

  private append(line: string): void {
    try {
      this.size += this.reserve.write(() => writeSync(this.file, line));
      this.isFailing = false;
    } catch {
      // A full disk must not keep a stop from being sent; the screens are told.
      this.isFailing = true;
    }
  }
}
