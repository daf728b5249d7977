import { unlinkSync } from 'node:fs';
import { stat, writeFile } from 'node:fs/promises';
import { join } from 'node:path';

const reservedBytes = 4 * 1024 * 1024;

/**
 * Room on the disk that is kept for what must not fail: the ledger of what is held, and the outcomes of presses. When the disk is full it is
 * given back to the system, and they go on.
 */
export class DiskReserve {
  private readonly path: string;

  constructor(dataDir: string) {
    this.path = join(dataDir, 'reserved.space');
  }

  /** Takes the room, where it is not taken yet. False when there is none. */
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

  /** Gives the room back; false when there is none to give. */
  giveBack(): boolean {
    try {
      unlinkSync(this.path);
      return true;
    } catch {
      return false;
    }
  }

  /** Runs a write, and once more with the room that was kept when the disk is full. Throws what it threw when that does not help. */
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
