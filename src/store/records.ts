import { createHash } from 'node:crypto';
import { eq, gt, inArray, notInArray } from 'drizzle-orm';
import { canonicalJson, liveKinds, recordSchema, type RecordKind, type RecordOf, type ShowRecord } from '../core/show';
import type { ShowDb } from './open';
import { records, tombstones } from './show-schema';

type Row = typeof records.$inferSelect;

/** SHA-256 of a record's kind and data: equal content, equal hash. */
export function contentHash(record: Pick<ShowRecord, 'kind' | 'data'>): string {
  return createHash('sha256').update(contentJson(record)).digest('hex');
}

export const contentJson = (record: Pick<ShowRecord, 'kind' | 'data'>): string =>
  canonicalJson({ kind: record.kind, data: record.data });

export function toRecord(row: Pick<Row, 'id' | 'kind' | 'version' | 'data'>): ShowRecord {
  return recordSchema.parse({ id: row.id, kind: row.kind, version: row.version, data: JSON.parse(row.data) });
}

export function getRecord(db: ShowDb, id: string): ShowRecord | undefined {
  const row = db.select().from(records).where(eq(records.id, id)).get();
  return row && toRecord(row);
}

export function recordsOfKind<K extends RecordKind>(db: ShowDb, kind: K): RecordOf<K>[] {
  return db.select().from(records).where(eq(records.kind, kind)).all().map(toRecord) as RecordOf<K>[];
}

export function allRecords(db: ShowDb): ShowRecord[] {
  return db.select().from(records).all().map(toRecord);
}

/** Id to content hash of the show as edited last, of what a revision is made of. */
export function draftManifest(db: ShowDb): Map<string, string> {
  const rows = db
    .select({ id: records.id, hash: records.hash })
    .from(records)
    .where(notInArray(records.kind, [...liveKinds]))
    .all();
  return new Map(rows.map((row) => [row.id, row.hash]));
}

/** What is in effect at once, whatever revision is in service. */
export const liveRecords = (db: ShowDb): ShowRecord[] =>
  db
    .select()
    .from(records)
    .where(inArray(records.kind, [...liveKinds]))
    .all()
    .map(toRecord);

/** What has changed since an edit number: the cost depends on the changes, not on the size of the show. */
export function changesSince(db: ShowDb, seq: number) {
  return {
    puts: db.select().from(records).where(gt(records.seq, seq)).all(),
    removes: db.select().from(tombstones).where(gt(tombstones.seq, seq)).all(),
  };
}

/** Writes a record under an edit number, inside a transaction of the caller. */
export function putRecord(db: ShowDb, record: ShowRecord, seq: number): void {
  const row = {
    kind: record.kind,
    version: record.version,
    data: JSON.stringify(record.data),
    hash: contentHash(record),
    seq,
  };
  db.insert(records)
    .values({ id: record.id, ...row })
    .onConflictDoUpdate({ target: records.id, set: row })
    .run();
  db.delete(tombstones).where(eq(tombstones.id, record.id)).run();
}

export function removeRecord(db: ShowDb, record: Pick<ShowRecord, 'id' | 'kind'>, seq: number): void {
  db.delete(records).where(eq(records.id, record.id)).run();
  db.insert(tombstones)
    .values({ id: record.id, kind: record.kind, seq })
    .onConflictDoUpdate({ target: tombstones.id, set: { seq } })
    .run();
}
