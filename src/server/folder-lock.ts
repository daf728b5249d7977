import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import Database from 'better-sqlite3';
import { z } from 'zod';
import { fail, ok, type Result } from '../core/result';

const holderSchema = z.object({ pid: z.number(), port: z.number(), since: z.string() });
type FolderHolder = z.infer<typeof holderSchema>;

const noteFile = (dataDir: string) => join(dataDir, 'in-use.json');

/**
 * Locks a data folder for this process, or returns a sentence that says why not. The operating system holds the lock on an open file, so it is
 * released however the process ends. The note file only tells which process has it.
 */
export function lockFolder(dataDir: string, port: number): Result<{ readonly release: () => void }, string> {
  try {
    mkdirSync(dataDir, { recursive: true, mode: 0o700 });
    const lock = new Database(join(dataDir, 'in-use.db'), { timeout: 0 });
    try {
      // The database stays empty; only its lock counts. The journal stays in memory, so that no second file is written.
      lock.pragma('journal_mode = MEMORY');
      lock.exec('BEGIN EXCLUSIVE');
    } catch (error) {
      lock.close();
      throw error;
    }
    const holder: FolderHolder = { pid: process.pid, port, since: new Date().toISOString() };
    try {
      writeFileSync(noteFile(dataDir), JSON.stringify(holder), { mode: 0o600 });
    } catch {
      // A full disk: the lock holds without the note.
    }
    return ok({ release: () => void lock.close() });
  } catch (error) {
    return fail(sentenceOf(dataDir, String((error as { code?: unknown }).code)));
  }
}

function sentenceOf(dataDir: string, code: string): string {
  if (code.startsWith('SQLITE_BUSY')) {
    const holder = readHolder(dataDir);
    const who = holder
      ? `process ${holder.pid}, port ${holder.port}, since ${new Date(holder.since).toLocaleString('en-GB')}`
      : 'it has not said which process it is';
    return `The data folder ${dataDir} is in use by another copy of this program (${who}). Stop that copy, or choose another folder with DATA_DIR.`;
  }
  return `The data folder ${dataDir} cannot be written (${code}). Check that it exists, that the disk is not full or read-only, and who owns the folder, or choose another one with DATA_DIR.`;
}

function readHolder(dataDir: string): FolderHolder | undefined {
  try {
    return holderSchema.parse(JSON.parse(readFileSync(noteFile(dataDir), 'utf8')));
  } catch {
    return undefined;
  }
}
