import { fail, ok, type Result } from '../core/result';
import { loadEdit, sameDevice, type LoadedAddresses, type ShowFile } from '../core/show';
import type { Beside } from './beside';
import { commitEdit, type EditDone, type EditFailure } from './edits';
import { inTransaction, type ShowDb } from './open';
import { takePictures } from './pictures';
import { allRecords } from './records';
import { readPasswords, sealPassword } from './secrets';

/** What is loaded, and how. */
interface Loading {
  readonly file: Pick<ShowFile, 'name' | 'records' | 'pictures'>;
  /** The documents of the file that are installed with it. */
  readonly drivers: readonly Record<string, unknown>[];
  readonly passwords: ReadonlyMap<string, string>;
  readonly addresses: LoadedAddresses;
  readonly window: string;
}

type LoadFailure = EditFailure | { readonly code: 'bad-picture'; readonly message: string };

/**
 * Puts a show in place of the one that is there: records, pictures, drivers and passwords in one transaction, and in one step that undo
 * takes back. A device that this rig has under another id keeps its password.
 */
export function loadShow(
  db: ShowDb,
  dataDir: string,
  { file, drivers, passwords, addresses, window }: Loading,
  now: number,
): Result<EditDone, LoadFailure> {
  try {
    return inTransaction(db, (tx): Result<EditDone, LoadFailure> => {
      const taken = takePictures(tx, file.pictures ?? []);
      if (!taken.ok) throw new LoadRefused({ code: 'bad-picture', message: taken.error });
      const rig = allRecords(tx);
      const own = readPasswords(tx, dataDir);
      const kept = new Map<string, string>();
      if (addresses === 'rig')
        for (const record of file.records) {
          const here = record.kind === 'device' ? sameDevice(record, rig) : undefined;
          const password = here && here.id !== record.id ? own.get(here.id) : undefined;
          if (password !== undefined) kept.set(record.id, password);
        }
      const beside: Beside = {
        drivers: drivers.map((document) => ({ id: String(document.id), json: JSON.stringify(document) })),
        secrets: [...new Map([...kept, ...passwords])].map(([device, password]) => ({
          device,
          sealed: sealPassword(dataDir, device, password),
        })),
      };
      const done = commitEdit(tx, loadEdit(rig, file, addresses), window, now, beside);
      if (!done.ok) throw new LoadRefused(done.error);
      return ok(done.value);
    });
  } catch (error) {
    if (error instanceof LoadRefused) return fail(error.why);
    throw error;
  }
}

/** Rolls the transaction back. */
class LoadRefused extends Error {
  constructor(readonly why: LoadFailure) {
    super(why.message);
  }
}
