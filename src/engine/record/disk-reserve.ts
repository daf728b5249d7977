import { unlinkSync } from 'node:fs';
import { stat, writeFile } from 'node:fs/promises';
import { join } from 'node:path';

const reservedBytes = 4 * 1024 * 1024;

/**
 * Disk space reserved for what must not fail: the ledger of what is held, and the outcomes of presses. When the disk is full, the space is
 * released and both can still be written.
 */
export class DiskReserve {
  private readonly path: string;

  constructor(dataDir: string) {
    this.path = join(dataDir, 'reserved.space');
  }

  /** Reserves the space unless that was done before. Returns false when the disk has too little. */
  async take(): Promise<boolean> {
    try {
      // Written, and not only made longer: a hole in a file takes no room.
      const { size } = await stat(this.path).catch(() => ({ size: 0 }));
      if (size < reservedBytes) await writeFile(this.path, Buffer.alloc(reservedBytes), { mode: 0o600 });
      return true;
    } catch {
      // A part of it would be no use when it is needed, and takes room that others need now.
      this.giveBack();
      return false;
    }
  }

  /** Releases the space. Returns false when none was reserved. */
  giveBack(): boolean {
    try {
      unlinkSync(this.path);
      return true;
    } catch {
      return false;
    }
  }

  /** Runs a write. When the disk is full, gives the reserved space back and runs it a second time. Throws the error of the last attempt. */
  write<T>(work: () => T): T {
    try {
      return work();
    } catch (error) {
      const { code } = error as NodeJS.ErrnoException;
      if ((code !== 'ENOSPC' && code !== 'EDQUOT') || !this.giveBack()) throw error;
      return work();
    }
  }
}
