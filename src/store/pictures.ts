import { createHash } from 'node:crypto';
import { eq, inArray } from 'drizzle-orm';
import { fail, ok, type Result } from '../core/result';
import { picturesOfRecord, pictureType, type Picture, type PictureType, type ShowRecord } from '../core/show';
import type { ShowDb } from './open';
import { pictures } from './show-schema';

/** Keeps a picture, once for the same bytes; returns its hash. Refused, with the reason, when it is none that is taken. */
export function putPicture(db: ShowDb, bytes: Uint8Array): Result<string, string> {
  const type = pictureType(bytes);
  if (!type.ok) return type;
  const hash = createHash('sha256').update(bytes).digest('hex');
  db.insert(pictures)
    .values({ hash, type: type.value, bytes: Buffer.from(bytes) })
    .onConflictDoNothing()
    .run();
  return ok(hash);
}

export function getPicture(
  db: ShowDb,
  hash: string,
): { readonly type: PictureType; readonly bytes: Buffer } | undefined {
  const row = db.select().from(pictures).where(eq(pictures.hash, hash)).get();
  return row && { type: row.type as PictureType, bytes: row.bytes };
}

/** The pictures that some records show, for a file. */
export function picturesOf(db: ShowDb, records: readonly ShowRecord[]): Picture[] {
  const wanted = [...new Set(records.flatMap(picturesOfRecord))].sort();
  const found: Picture[] = [];
  for (let i = 0; i < wanted.length; i += 200) {
    const rows = db
      .select()
      .from(pictures)
      .where(inArray(pictures.hash, wanted.slice(i, i + 200)))
      .all();
    for (const { hash, type, bytes } of rows)
      found.push({ hash, type: type as PictureType, base64: bytes.toString('base64') });
  }
  return found.sort((a, b) => (a.hash < b.hash ? -1 : 1));
}

/** Takes the pictures of a file in. One whose bytes are not those that it is named after is left out, and told. */
export function takePictures(db: ShowDb, list: readonly Picture[]): Result<number, string> {
  let taken = 0;
  for (const { hash, base64 } of list) {
    const put = putPicture(db, Buffer.from(base64, 'base64'));
    if (!put.ok) return fail(`A picture in the file: ${put.error}`);
    if (put.value !== hash) return fail('A picture in the file is damaged: its bytes are others than its name says.');
    taken += 1;
  }
  return ok(taken);
}
