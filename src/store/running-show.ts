import type { ShowRecord } from '../core/show';
import { headSeq, runningRevision } from './meta';
import type { ShowDb } from './open';
import { allRecords, liveRecords } from './records';
import { driversInService, recordsByContent, revisionManifest } from './revisions';

/** The show that the engine runs: the revision in service, or the show as edited last. */
export function runningShow(db: ShowDb): {
  readonly records: readonly ShowRecord[];
  /** The driver documents besides those that ship. */
  readonly documents: readonly unknown[];
  readonly revision: number | null;
  /** The number of the last edit. */
  readonly seq: number;
} {
  const revision = runningRevision(db);
  const records =
    revision === null
      ? allRecords(db)
      : [
          ...recordsByContent(
            db,
            [...revisionManifest(db, revision)].map(([id, hash]) => ({ id, hash })),
          ),
          ...liveRecords(db),
        ];
  const documents = driversInService(db, revision).map(({ json }) => JSON.parse(json) as unknown);
  return { records, documents, revision, seq: headSeq(db) };
}
