import { eq } from 'drizzle-orm';
import type { ShowDb } from './open';
import { meta } from './show-schema';

type Key = 'head' | 'running' | 'standin-port-base';

export function readMeta(db: ShowDb, key: Key): string | undefined {
  return db.select().from(meta).where(eq(meta.key, key)).get()?.value;
}

export function writeMeta(db: ShowDb, key: Key, value: string): void {
  db.insert(meta).values({ key, value }).onConflictDoUpdate({ target: meta.key, set: { value } }).run();
}

/** The number of the last edit; 0 for a show that was never edited. */
export const headSeq = (db: ShowDb): number => Number(readMeta(db, 'head') ?? 0);

/** The revision in service, or `null` while edits go through at once. */
export function runningRevision(db: ShowDb): number | null {
  const value = readMeta(db, 'running');
  return value ? Number(value) : null;
}
