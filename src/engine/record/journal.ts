import { closeSync, ftruncateSync, openSync, readdirSync, readFileSync, rmSync, writeSync } from 'node:fs';
import { join } from 'node:path';
import type { DiskReserve } from './disk-reserve';

/** A longer file is closed and a new one begun; the old one is deleted once the database has all of its rows. */
const rotateAboveBytes = 1024 * 1024;
/** Limit of a file while the database cannot be written. */
const mostBytes = 64 * 1024 * 1024;
const nameOf = /^as-run-[a-z0-9-]+\.journal$/;

/**
 * Keeps the outcomes of presses until the database has them. A line is appended before its outcome is shown, so that it survives the engine being
 * killed. The operating system has the line when the call returns; that costs some hundredths of a millisecond.
 */
export class Journal {
  private file: number | undefined;
  private path = '';
  private size = 0;
  private files = 0;
  private written = 0;
  /** Whether the last append failed, as on a full disk. */
  private failing = false;
  /** Files before this one, each with the number of the row from which on it is not needed. */
  private readonly older: { readonly path: string; readonly neededUpTo: number }[] = [];

  /** @param id of this start of the engine; its files are told from those of earlier ones by it */
  constructor(
    private readonly dataDir: string,
    private readonly id: string,
    private readonly reserve: DiskReserve,
  ) {
    this.begin();
  }

  get isFailing(): boolean {
    return this.failing;
  }

  /** Appends a row, without its number. Returns the key under which it is entered once, or `undefined` when it could not be written. */
  append(row: string): string | undefined {
    if (this.file === undefined || this.size > mostBytes) return this.failed();
    const key = `${this.id}-${(this.written += 1)}`;
    try {
      const { file } = this;
      this.size += this.reserve.write(() => writeSync(file, `{"entry":"${key}",${row.slice(1)}\n`));
      this.failing = false;
      return key;
    } catch {
      // A full disk: the row is still handed to the database, and the screens are told.
      return this.failed();
    }
  }

  /**
   * The database has every row up to this number.
   *
   * @param newest the number that the last row that was entered has or will have
   */
  isWritten(upTo: number, newest: number): void {
    while (this.older[0] && this.older[0].neededUpTo <= upTo) rmSync(this.older.shift()?.path ?? '', { force: true });
    if (this.file === undefined) return this.begin();
    if (upTo >= newest) {
      if (this.size > 0) ftruncateSync(this.file);
      this.size = 0;
    } else if (this.size > rotateAboveBytes) {
      this.older.push({ path: this.path, neededUpTo: newest });
      closeSync(this.file);
      this.begin();
    }
  }

  close(): void {
    if (this.file === undefined) return;
    closeSync(this.file);
    this.file = undefined;
    if (this.size === 0) rmSync(this.path, { force: true });
  }

  private begin(): void {
    this.path = join(this.dataDir, `as-run-${this.id}-${(this.files += 1)}.journal`);
    this.size = 0;
    try {
      this.file = openSync(this.path, 'a', 0o600);
    } catch {
      // The folder cannot be written: the record says so itself.
      this.file = undefined;
    }
  }

  private failed(): undefined {
    this.failing = true;
    return undefined;
  }
}

/** What other starts of the engine left behind: the texts of their journals, and how to remove them. */
export function leftJournals(dataDir: string, id: string): { readonly text: string; readonly remove: () => void }[] {
  return readdirSync(dataDir)
    .filter((name) => nameOf.test(name) && !name.startsWith(`as-run-${id}-`))
    .sort()
    .map((name) => {
      const path = join(dataDir, name);
      return { text: readFileSync(path, 'utf8'), remove: () => rmSync(path, { force: true }) };
    });
}
