import { DriverShelf } from '../../core/driver';
import { openShowForReading, recordsOfKind } from '../../store';
import type { ShowData } from './show-worker';
import { preloadWorker } from '../threads/worker-file';

/** What takes long at a start and needs neither the record nor the network. */
export interface WarmStart {
  readonly shelf: DriverShelf;
}

/**
 * Loads the workers, so that an engine made with the result starts in a fraction of the time.
 *
 * @param dataDir for a spare, which has time: the show in this folder is read, and the drivers of its devices are compiled
 *   with their options. Nothing is kept of the show, which may change before the engine starts.
 */
export function warmUp(drivers: readonly unknown[], dataDir?: string): WarmStart {
  preloadWorker('show-worker', dataDir && ({ dataDir, drivers, readAhead: true } satisfies ShowData));
  preloadWorker('as-run-worker');
  const shelf = new DriverShelf();
  shelf.stock(drivers);
  if (dataDir) compileDevices(shelf, dataDir);
  return { shelf };
}

function compileDevices(shelf: DriverShelf, dataDir: string): void {
  try {
    const { db, close } = openShowForReading(dataDir);
    for (const { data } of recordsOfKind(db, 'device')) shelf.for(data);
    close();
  } catch {
    // The engine reads the show again when it starts, and says what is wrong.
  }
}
