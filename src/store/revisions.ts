import { createHash } from 'node:crypto';
import { desc, eq, inArray, lt } from 'drizzle-orm';
import { fail, ok, type Result } from '../core/result';
import { differManifests, liveKinds, recordSchema, type ShowRecord } from '../core/show';
import { runningRevision, writeMeta } from './meta';
import { installedDrivers } from './drivers';
import { inTransaction, type ShowDb } from './open';
import { allRecords, contentHash, contentJson, draftManifest } from './records';
import { contents, revisionDrivers, revisionEntries, revisions } from './show-schema';

/** Makes a revision of the show as edited last and puts it in service. Returns its number. */
export function putInService(db: ShowDb, note: string, now: number): number {
  return inTransaction(db, (tx) => {
    const made = tx
      .insert(revisions)
      .values({ at: now, note, hasDrivers: true })
      .returning({ number: revisions.number })
      .get();
    for (const record of allRecords(tx)) {
      if (liveKinds.has(record.kind)) continue;
      const hash = contentHash(record);
      tx.insert(contents)
        .values({ hash, json: contentJson(record) })
        .onConflictDoNothing()
        .run();
      tx.insert(revisionEntries).values({ revision: made.number, id: record.id, hash }).run();
    }
    for (const { id, json } of installedDrivers(tx)) {
      const hash = driverHash(json);
      tx.insert(contents).values({ hash, json }).onConflictDoNothing().run();
      tx.insert(revisionDrivers).values({ revision: made.number, id, hash }).run();
    }
    writeMeta(tx, 'running', String(made.number));
    return made.number;
  });
}

/** Returns to the revision before the one in service. The draft is not touched. */
export function stepBack(db: ShowDb): Result<number, string> {
  return inTransaction(db, (tx): Result<number, string> => {
    const running = runningRevision(tx);
    if (running === null) return fail('No revision is in service: edits go through at once.');
    const before = tx
      .select({ number: revisions.number })
      .from(revisions)
      .where(lt(revisions.number, running))
      .orderBy(desc(revisions.number))
      .limit(1)
      .get();
    if (!before) return fail(`Revision ${running} is the first; there is none before it.`);
    writeMeta(tx, 'running', String(before.number));
    return ok(before.number);
  });
}

/** Takes the show out of service: from now on edits go through at once. */
export function leaveService(db: ShowDb): void {
  inTransaction(db, (tx) => writeMeta(tx, 'running', ''));
}

/** Id to content hash of a revision. */
export function revisionManifest(db: ShowDb, number: number): Map<string, string> {
  const rows = db.select().from(revisionEntries).where(eq(revisionEntries.revision, number)).all();
  return new Map(rows.map((row) => [row.id, row.hash]));
}

/**
 * The driver documents that the engine goes by: those of the revision in service, or those that are installed now while edits go through
 * at once. Revisions of older versions of the program have none of their own.
 */
export function driversInService(
  db: ShowDb,
  revision: number | null,
): { readonly id: string; readonly json: string }[] {
  const own = revision !== null && hasDrivers(db, revision);
  if (!own) return installedDrivers(db);
  return db
    .select({ id: revisionDrivers.id, json: contents.json })
    .from(revisionDrivers)
    .innerJoin(contents, eq(contents.hash, revisionDrivers.hash))
    .where(eq(revisionDrivers.revision, revision))
    .all();
}

const hasDrivers = (db: ShowDb, revision: number): boolean =>
  db.select({ has: revisions.hasDrivers }).from(revisions).where(eq(revisions.number, revision)).get()?.has ?? false;

const driverHash = (json: string): string => createHash('sha256').update(`driver ${json}`).digest('hex');

/** How many installed drivers are other than those in service. */
function draftedDrivers(db: ShowDb, revision: number): number {
  if (!hasDrivers(db, revision)) return 0;
  const manifest = (list: readonly { id: string; json: string }[]) => new Map(list.map(({ id, json }) => [id, json]));
  const { put, remove } = differManifests(manifest(driversInService(db, revision)), manifest(installedDrivers(db)));
  return put.length + remove.length;
}

/** Records of a revision by id and hash, in steps that SQLite takes as parameters. */
export function recordsByContent(db: ShowDb, wanted: readonly { id: string; hash: string }[]): ShowRecord[] {
  const found = new Map<string, string>();
  for (let i = 0; i < wanted.length; i += 500) {
    const hashes = wanted.slice(i, i + 500).map((entry) => entry.hash);
    for (const row of db.select().from(contents).where(inArray(contents.hash, hashes)).all())
      found.set(row.hash, row.json);
  }
  return wanted.flatMap(({ id, hash }) => {
    const json = found.get(hash);
    return json ? [recordSchema.parse({ ...(JSON.parse(json) as object), id, version: 1 })] : [];
  });
}

/** How the draft differs from the revision in service. */
export function serviceState(db: ShowDb): {
  readonly running: number | null;
  readonly drafted: number;
  readonly canStepBack: boolean;
} {
  const running = runningRevision(db);
  if (running === null) return { running, drafted: 0, canStepBack: false };
  const { put, remove } = differManifests(revisionManifest(db, running), draftManifest(db));
  const earlier = db
    .select({ number: revisions.number })
    .from(revisions)
    .where(lt(revisions.number, running))
    .limit(1)
    .get();
  return {
    running,
    drafted: put.length + remove.length + draftedDrivers(db, running),
    canStepBack: earlier !== undefined,
  };
}
