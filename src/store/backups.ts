import { mkdirSync, readdirSync, readFileSync, renameSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { showFileOf, type ShowFile } from '../core/show';
import { installedDrivers } from './drivers';
import type { ShowDb } from './open';
import { picturesOf } from './pictures';
import { allRecords } from './records';

/** Copies of the show that are made by themselves: show files without passwords, the last twenty of them. */
export interface Backup {
  readonly name: string;
  /** Milliseconds since 1970. */
  readonly at: number;
  readonly why: 'daily' | 'before loading' | 'before restoring';
  readonly bytes: number;
}

const keep = 20;
const dayMs = 24 * 3600 * 1000;
const fileName = /^show-(\d{4}-\d{2}-\d{2}T\d{2}-\d{2}-\d{2}-\d{3}Z)-(daily|before-loading|before-restoring)\.json$/;
const folder = (dataDir: string) => join(dataDir, 'backups');

/** The show as it is now, as a file without passwords. */
export function showFileNow(db: ShowDb, now: number): ShowFile {
  const drivers = installedDrivers(db).map(({ json }) => JSON.parse(json) as Record<string, unknown>);
  const records = allRecords(db);
  return showFileOf(records, drivers, new Date(now).toISOString(), undefined, picturesOf(db, records));
}

/** Writes a backup and removes the oldest beyond twenty. */
export function writeBackup(db: ShowDb, dataDir: string, why: Backup['why'], now: number): string {
  mkdirSync(folder(dataDir), { recursive: true, mode: 0o700 });
  const stamp = new Date(now).toISOString().replace(/[:.]/g, '-');
  const name = `show-${stamp}-${why.replace(' ', '-')}.json`;
  const file = join(folder(dataDir), name);
  // A computer that loses its power, or a disk that is full, leaves no half a backup behind.
  try {
    writeFileSync(`${file}.part`, JSON.stringify(showFileNow(db, now)), { mode: 0o600 });
    renameSync(`${file}.part`, file);
  } catch (error) {
    rmSync(`${file}.part`, { force: true });
    throw error;
  }
  for (const { name: old } of backups(dataDir).slice(keep)) rmSync(join(folder(dataDir), old), { force: true });
  return name;
}

/** The backups, newest first. */
export function backups(dataDir: string): Backup[] {
  let names: string[];
  try {
    names = readdirSync(folder(dataDir));
  } catch {
    return [];
  }
  return names
    .flatMap((name): Backup[] => {
      const [, stamp, why] = fileName.exec(name) ?? [];
      if (stamp === undefined) return [];
      const iso = stamp.replace(/T(\d\d)-(\d\d)-(\d\d)-(\d{3})Z/, 'T$1:$2:$3.$4Z');
      const { size } = statSync(join(folder(dataDir), name));
      return [{ name, at: Date.parse(iso), why: why?.replace('-', ' ') as Backup['why'], bytes: size }];
    })
    .sort((a, b) => b.at - a.at);
}

/** The text of a backup; `undefined` when there is none of that name. */
export function readBackup(dataDir: string, name: string): string | undefined {
  return fileName.test(name) ? readFileSync(join(folder(dataDir), name), 'utf8') : undefined;
}

/** Makes the day's backup when there is none of the last 24 hours and the show has something in it. */
export function dailyBackup(db: ShowDb, dataDir: string, now: number): boolean {
  const last = backups(dataDir)[0]?.at ?? 0;
  if (now - last < dayMs || allRecords(db).length < 2) return false;
  writeBackup(db, dataDir, 'daily', now);
  return true;
}
