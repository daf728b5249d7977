import { chmodSync, existsSync, mkdirSync, renameSync, statSync } from 'node:fs';
import { dirname, join } from 'node:path';
import Database from 'better-sqlite3';
import { drizzle, type BetterSQLite3Database } from 'drizzle-orm/better-sqlite3';
import { migrate } from 'drizzle-orm/better-sqlite3/migrator';
import * as asRunSchema from './as-run-schema';
import { StoreError, wrapped } from './errors';
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

/** What `show.db` in a data folder is like. */
export type ShowState = 'absent' | 'empty' | 'damaged' | 'well';

/** Looks at `show.db` as a whole, before anything opens it. */
export function showState(dataDir: string): ShowState {
  const file = showFile(dataDir);
  if (!existsSync(file)) return 'absent';
  if (statSync(file).size === 0) return 'empty';
  try {
    return wrapped(() => {
      const sqlite = new Database(file, { fileMustExist: true });
      try {
        sqlite.pragma('busy_timeout = 5000');
        return sqlite.pragma('quick_check(1)', { simple: true }) === 'ok' ? 'well' : 'damaged';
      } finally {
        sqlite.close();
      }
    });
  } catch (error) {
    if (error instanceof StoreError && error.code === 'damaged') return 'damaged';
    throw error;
  }
}

/** Renames a database with all that belongs to it, so that another can take its place. Returns its new name. */
export function setAside(dataDir: string, name: 'show.db' | 'as-run.db', now: number): string {
  const aside = `${name}.damaged-${new Date(now).toISOString().replace(/[:.]/g, '-')}`;
  for (const ending of ['', '-wal', '-shm'])
    if (existsSync(join(dataDir, `${name}${ending}`)))
      renameSync(join(dataDir, `${name}${ending}`), join(dataDir, `${aside}${ending}`));
  return aside;
}

function open(file: string, readonly: boolean): Database.Database {
  return wrapped(() => {
    if (!readonly) mkdirSync(dirname(file), { recursive: true, mode: 0o700 });
    const sqlite = new Database(file, readonly ? { readonly: true, fileMustExist: true } : {});
    sqlite.pragma('busy_timeout = 5000');
    if (!readonly) {
      onlyForOwner(file);
      sqlite.pragma('journal_mode = WAL');
      sqlite.pragma('synchronous = NORMAL');
      sqlite.pragma('foreign_keys = ON');
    }
    return sqlite;
  });
}

/** Makes a database readable by its owner only. SQLite gives the -wal and -shm files the same rights. */
function onlyForOwner(file: string): void {
  try {
    chmodSync(file, 0o600);
  } catch {
    // The file belongs to another user, who decides about its rights.
  }
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
