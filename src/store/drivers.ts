import { eq } from 'drizzle-orm';
import type { ShowDb } from './open';
import { drivers } from './show-schema';

/** The driver documents that were installed here, as they were read. */
export function installedDrivers(db: ShowDb): { readonly id: string; readonly json: string }[] {
  return db.select({ id: drivers.id, json: drivers.json }).from(drivers).all();
}

/** One text that is another whenever the installed drivers are. */
export const driversKey = (db: ShowDb): string =>
  db
    .select({ id: drivers.id, at: drivers.at })
    .from(drivers)
    .all()
    .map(({ id, at }) => `${id}@${at}`)
    .sort()
    .join(' ');

/** Installs a driver document that has been checked, in place of one with the same id. */
export function installDriver(db: ShowDb, id: string, document: unknown, now: number): void {
  const row = { json: JSON.stringify(document), at: now };
  db.insert(drivers)
    .values({ id, ...row })
    .onConflictDoUpdate({ target: drivers.id, set: row })
    .run();
}

export function removeDriver(db: ShowDb, id: string): void {
  db.delete(drivers).where(eq(drivers.id, id)).run();
}
