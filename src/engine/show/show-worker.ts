import { parentPort } from 'node:worker_threads';
import { problemsOf } from '../../core/check';
import { DriverShelf } from '../../core/driver';
import { differManifests, liveKinds, type ShowDifference, type ShowRecord } from '../../core/show';
import {
  getPicture,
  driversInService,
  readPasswords,
  unreadablePasswords,
  changesSince,
  contentHash,
  draftManifest,
  headSeq,
  openShowForReading,
  recordsByContent,
  revisionManifest,
  runningRevision,
  toRecord,
  allRecords,
  type Opened,
  type ShowDb,
} from '../../store';
import { serveWorker } from '../threads/serve-worker';

/**
 * Reads the show for the engine: works out what has changed since the engine last looked, checks it, and hands it over
 * in small pieces. Reading and checking a large show takes hundreds of milliseconds; in here nobody feels them.
 */

export type ShowNews =
  /** Driver documents besides those that ship: those that are new or changed, and the ids of all that there are. */
  | { readonly type: 'drivers'; readonly documents: readonly unknown[]; readonly all: readonly string[] }
  /** Passwords by device; a device that is missing has none. */
  | { readonly type: 'passwords'; readonly passwords: Readonly<Record<string, string>>; readonly unreadable: number }
  | ({ readonly type: 'piece' } & ShowDifference)
  /** Everything up to here has been handed over. */
  | {
      readonly type: 'settled';
      /** The look that this ends. */
      readonly ask: number;
      readonly seq: number;
      readonly revision: number | null;
    }
  /** How many things of the show that was handed over will not work. */
  | { readonly type: 'problems'; readonly problems: number }
  | { readonly type: 'failed'; readonly ask: number; readonly message: string };

/** Looks what has changed; its end carries the same number. */
export interface LookOrder {
  readonly look: number;
}

/** A picture that was asked for by its hash. */
export interface PictureOrder {
  readonly picture: string;
  readonly ask: number;
}
export interface PictureNews {
  readonly type: 'picture';
  readonly ask: number;
  readonly picture: { readonly type: string; readonly bytes: Uint8Array } | undefined;
}

const pieceSize = 25;
export interface ShowData {
  readonly dataDir: string;
  /** The driver documents that ship. */
  readonly drivers: readonly unknown[];
  /** For a spare: does everything once that is slow the first time, before it is asked for anything. */
  readonly readAhead?: boolean;
}

let dataDir = '';
const tell = (news: ShowNews | PictureNews) => parentPort?.postMessage(news);

const shelf = new DriverShelf();
let installed: ReadonlyMap<string, string> | undefined;
let passwords = '';

let opened: Opened<ShowDb> | undefined;
/** What the engine has: either the show as edited up to `seq`, or a revision. */
let has: { readonly seq: number; readonly revision: number | null; readonly records: Map<string, ShowRecord> } = {
  seq: 0,
  revision: null,
  records: new Map(),
};

function look(ask: number): void {
  opened ??= openShowForReading(dataDir);
  const { db } = opened;
  const seq = headSeq(db);
  const revision = runningRevision(db);
  lookAtDrivers(db, revision);
  lookAtPasswords(db);
  const difference =
    revision === null && has.revision === null
      ? catchUp(db)
      : joined(revision === has.revision ? none : turnTo(db, revision), catchUp(db, liveKinds));
  const records = has.records;
  for (const { id } of difference.removes) records.delete(id);
  for (const record of difference.puts) records.set(record.id, record);
  has = { seq, revision, records };
  handOver(difference);
  tell({ type: 'settled', ask, seq, revision });
  // Nobody waits for this: what will not work is found while the show runs already.
  const problems = problemsOf(records.values(), (device) => shelf.for(device.data)).length;
  tell({ type: 'problems', problems });
}

/** Reads the whole show and checks it, for nothing but speed: the second time takes a third of the first. */
function readAhead(): void {
  try {
    opened ??= openShowForReading(dataDir);
    const records = allRecords(opened.db);
    problemsOf(records, (device) => shelf.for(device.data));
    manifestOf(new Map(records.map((record) => [record.id, record])));
  } catch {
    // The first look reads it again, and says what is wrong.
    opened?.close();
    opened = undefined;
  }
}

/** Drivers that are others now: installed or removed while edits go through at once, or with the revision in service. */
function lookAtDrivers(db: ShowDb, revision: number | null): void {
  const now = new Map(driversInService(db, revision).map(({ id, json }) => [id, json]));
  const changed = [...now]
    .filter(([id, json]) => installed?.get(id) !== json)
    .map(([, json]) => JSON.parse(json) as unknown);
  const removed = [...(installed?.keys() ?? [])].filter((id) => !now.has(id));
  const isFirst = installed === undefined;
  installed = now;
  if (changed.length === 0 && removed.length === 0 && !isFirst) return;
  for (const id of removed) shelf.remove(id);
  shelf.put(changed);
  tell({ type: 'drivers', documents: changed, all: [...now.keys()] });
}

function lookAtPasswords(db: ShowDb): void {
  const now = Object.fromEntries(readPasswords(db, dataDir));
  const unreadable = unreadablePasswords(db, dataDir);
  const text = JSON.stringify([now, unreadable]);
  if (text === passwords) return;
  passwords = text;
  tell({ type: 'passwords', passwords: now, unreadable });
}

const none: ShowDifference = { puts: [], removes: [] };

const joined = (a: ShowDifference, b: ShowDifference): ShowDifference => ({
  puts: [...a.puts, ...b.puts],
  removes: [...a.removes, ...b.removes],
});

/** What was edited since the engine last looked, of all kinds or of some. */
function catchUp(db: ShowDb, kinds?: ReadonlySet<string>): ShowDifference {
  const { puts, removes } = changesSince(db, has.seq);
  const isMeant = ({ kind }: { readonly kind: string }) => kinds === undefined || kinds.has(kind);
  return {
    puts: puts.filter(isMeant).map(toRecord),
    removes: removes.filter(isMeant).flatMap(({ id }) => {
      const known = has.records.get(id);
      return known ? [{ id, kind: known.kind }] : [];
    }),
  };
}

/** From what the engine has to a revision, or back to the show as edited last. */
function turnTo(db: ShowDb, revision: number | null): ShowDifference {
  const target = revision === null ? draftManifest(db) : revisionManifest(db, revision);
  const present = has.revision === null ? manifestOf(has.records) : revisionManifest(db, has.revision);
  const { put, remove } = differManifests(present, target);
  const wanted = new Set(put);
  const puts =
    revision === null
      ? allRecords(db).filter((record) => wanted.has(record.id))
      : recordsByContent(
          db,
          put.map((id) => ({ id, hash: target.get(id) ?? '' })),
        );
  return {
    puts,
    removes: remove.flatMap((id) => {
      const known = has.records.get(id);
      return known ? [{ id, kind: known.kind }] : [];
    }),
  };
}

/** Of what a revision is made of. */
function manifestOf(records: ReadonlyMap<string, ShowRecord>): Map<string, string> {
  return new Map(
    [...records].flatMap(([id, record]) => (liveKinds.has(record.kind) ? [] : [[id, contentHash(record)]])),
  );
}

/** Devices and pages first, so that a control finds what it names. */
function handOver({ puts, removes }: ShowDifference): void {
  const order = {
    show: 0,
    device: 1,
    page: 2,
    control: 3,
    tie: 4,
    panel: 5,
    macro: 6,
    snapshot: 7,
    preset: 8,
    binding: 9,
    variable: 10,
    watch: 11,
    inlet: 12,
  } as const;
  const sorted = [...puts].sort((a, b) => order[a.kind] - order[b.kind]);
  if (removes.length > 0) tell({ type: 'piece', puts: [], removes });
  for (let i = 0; i < sorted.length; i += pieceSize) {
    tell({ type: 'piece', puts: sorted.slice(i, i + pieceSize), removes: [] });
  }
}

function handPicture({ picture: hash, ask }: PictureOrder): void {
  let picture: PictureNews['picture'];
  try {
    opened ??= openShowForReading(dataDir);
    picture = getPicture(opened.db, hash);
  } catch {
    // The database is not there yet, or busy: it is as if there were no such picture, and the panel may ask again.
  }
  tell({ type: 'picture', ask, picture });
}

function handle(order: LookOrder | PictureOrder): void {
  if ('picture' in order) return handPicture(order);
  const ask = order.look;
  try {
    look(ask);
  } catch (error) {
    opened?.close();
    opened = undefined;
    tell({ type: 'failed', ask, message: error instanceof Error ? error.message : 'The show could not be read.' });
  }
}

serveWorker<ShowData, LookOrder | PictureOrder>((data) => {
  dataDir = data.dataDir;
  shelf.stock(data.drivers);
  if (data.readAhead) readAhead();
  return handle;
});
