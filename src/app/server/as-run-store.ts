import 'server-only';
import { openAsRunForReading, type AsRunDb, type Opened } from '../../store';
import { dataDir } from './show-store';

let opened: Opened<AsRunDb> | undefined;

/** The record, for reading; the engine alone writes it. */
export function asRunDb(): AsRunDb {
  opened ??= openAsRunForReading(dataDir());
  return opened.db;
}
