/** What can go wrong with a database, by code. The text never holds parameters: they may be secrets. */
type StoreErrorCode = 'busy' | 'full' | 'damaged' | 'not-found' | 'not-allowed' | 'failed';

const meanings: Readonly<Record<StoreErrorCode, string>> = {
  busy: 'The database is in use by another program for too long. Is a second copy running on the same data folder?',
  full: 'The disk is full. Make room, then try again.',
  damaged: 'The database file is damaged or is none. Restore the data folder from a copy.',
  'not-found': 'The database file does not exist or cannot be opened. Check DATA_DIR.',
  'not-allowed': 'The database file cannot be written. Check who owns the data folder.',
  failed: 'The database refused the operation.',
};

export class StoreError extends Error {
  constructor(
    readonly code: StoreErrorCode,
    options?: { cause?: unknown },
  ) {
    super(meanings[code], options);
    this.name = 'StoreError';
  }
}

/** Runs `fn` and turns a database error into a `StoreError`; every other error passes unchanged. */
export function wrapped<T>(fn: () => T): T {
  try {
    return fn();
  } catch (error) {
    const code = (error as { code?: unknown }).code;
    if (typeof code !== 'string' || !code.startsWith('SQLITE_')) throw error;
    throw new StoreError(codeOf(code), { cause: error });
  }
}

function codeOf(sqlite: string): StoreErrorCode {
  if (sqlite.startsWith('SQLITE_BUSY') || sqlite.startsWith('SQLITE_LOCKED')) return 'busy';
  if (sqlite.startsWith('SQLITE_FULL')) return 'full';
  if (sqlite.startsWith('SQLITE_CORRUPT') || sqlite.startsWith('SQLITE_NOTADB')) return 'damaged';
  if (sqlite.startsWith('SQLITE_CANTOPEN')) return 'not-found';
  if (sqlite.startsWith('SQLITE_READONLY') || sqlite.startsWith('SQLITE_PERM')) return 'not-allowed';
  return 'failed';
}
