import { mkdirSync } from 'node:fs';
import { dirname, join } from 'node:path';
import Database from 'better-sqlite3';
import { drizzle, type BetterSQLite3Database } from 'drizzle-orm/better-sqlite3';
import { migrate } from 'drizzle-orm/better-sqlite3/migrator';
import * as asRunSchema from './as-run-schema';
import { wrapped } from './errors';
import * as showSchema from './show-schema';

export type ShowDb = BetterSQLite3Database<typeof showSchema>;
export type AsRunDb = BetterSQLite3Database<typeof asRunSchema>;

/** An open database and the way to close it. */
export interface Opened<Db> {
  readonly db: Db;
  readonly close: () => void;
}

const showFile = (dataDir: string) => join(dataDir, 'show.db');
const asRunFile = (dataDir: string) => join(dataDir, 'as-run.db');
const migrations = (which: 'show' | 'as-run') => join(process.cwd(), 'src/store/migrations', which);

/** Opens `show.db` for writing, making and migrating it where needed. */
export function openShow(dataDir: string): Opened<ShowDb> {
  const sqlite = open(showFile(dataDir), false);
  const db = drizzle(sqlite, { schema: showSchema });
  wrapped(() => migrate(db, { migrationsFolder: migrations('show') }));
  return { db, close: () => sqlite.close() };
}

/** Opens `show.db` for reading. Fails when it does not exist yet. */
export function openShowForReading(dataDir: string): Opened<ShowDb> {
  const sqlite = open(showFile(dataDir), true);
  return { db: drizzle(sqlite, { schema: showSchema }), close: () => sqlite.close() };
}

/** Opens `as-run.db` for writing, making and migrating it where needed. */
export function openAsRun(dataDir: string): Opened<AsRunDb> {
  const sqlite = open(asRunFile(dataDir), false);
  const db = drizzle(sqlite, { schema: asRunSchema });
  wrapped(() => migrate(db, { migrationsFolder: migrations('as-run') }));
  return { db, close: () => sqlite.close() };
}

/** Opens `as-run.db` for reading. Fails when it does not exist yet. */
export function openAsRunForReading(dataDir: string): Opened<AsRunDb> {
  const sqlite = open(asRunFile(dataDir), true);
  return { db: drizzle(sqlite, { schema: asRunSchema }), close: () => sqlite.close() };
}

function open(file: string, readonly: boolean): Database.Database {
  return wrapped(() => {
    if (!readonly) mkdirSync(dirname(file), { recursive: true });
    const sqlite = new Database(file, readonly ? { readonly: true, fileMustExist: true } : {});
    sqlite.pragma('busy_timeout = 5000');
    if (!readonly) {
      sqlite.pragma('journal_mode = WAL');
      sqlite.pragma('synchronous = NORMAL');
      sqlite.pragma('foreign_keys = ON');
    }
    return sqlite;
  });
}

/**
 * Runs `fn` in one transaction that takes the write lock first. The type refuses a function that returns a promise: a
 * transaction that waits would hold everybody else up.
 */
export function inTransaction<Db extends ShowDb | AsRunDb, T>(
  db: Db,
  fn: (tx: Db) => T extends Promise<unknown> ? never : T,
): T {
  return wrapped(() => db.transaction((tx) => fn(tx as unknown as Db) as T, { behavior: 'immediate' }));
}
