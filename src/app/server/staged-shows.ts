import 'server-only';
import { randomBytes } from 'node:crypto';
import { compileDriver } from '../../core/driver';
import {
  addressesThatDiffer,
  loadEdit,
  readShowFile,
  summaryOf,
  type ActionResult,
  type LoadedAddresses,
  type NotStaged,
  type ShowFile,
  type StagedShow,
} from '../../core/show';
import {
  allRecords,
  installedDrivers,
  loadShow,
  openSecrets,
  ReportShelf,
  writeBackup,
  type Backup,
} from '../../store';
import { tellEngine } from './engine-link';
import { dataDir, shippedIds, showDb } from './show-store';

/** One file at a time waits for an answer, for at most this long. */
const waitsMs = 15 * 60_000;

interface Staged {
  readonly id: string;
  readonly file: ShowFile;
  readonly drivers: readonly Record<string, unknown>[];
  readonly why: Backup['why'];
}

const kept = globalThis as typeof globalThis & { sorrelfinchStaged?: Staged };

/** Reads a show file and says what loading it would change. Nothing is changed yet. */
export function stageShow(text: string, why: Backup['why'] = 'before loading'): StagedShow | NotStaged {
  const read = readShowFile(text);
  if (!read.ok) return { ok: false, message: 'Not loaded: the file has a mistake.', problems: read.error };
  return stage(read.value, why);
}

function stage(file: ShowFile, why: Backup['why']): StagedShow | NotStaged {
  const own = file.drivers.filter((document) => !shippedIds.has(String(document.id)));
  const bad = own.flatMap((document) => {
    const compiled = compileDriver(document);
    return compiled.ok
      ? []
      : compiled.error.slice(0, 3).map((each) => ({ ...each, path: `drivers.${String(document.id)}.${each.path}` }));
  });
  if (bad.length > 0) return { ok: false, message: 'Not loaded: a driver in the file has a mistake.', problems: bad };
  const here = new Map(installedDrivers(showDb()).map(({ id, json }) => [id, versionOf(JSON.parse(json))]));
  const newer = own.filter((document) => (here.get(String(document.id)) ?? 0) > versionOf(document));
  const drivers = own.filter((document) => !newer.includes(document));
  const id = randomBytes(9).toString('base64url');
  kept.sorrelfinchStaged = { id, file, drivers, why };
  setTimeout(() => {
    if (kept.sorrelfinchStaged?.id === id) delete kept.sorrelfinchStaged;
  }, waitsMs).unref();
  const rig = allRecords(showDb());
  return {
    ok: true,
    id,
    name: file.name,
    savedAt: file.savedAt,
    summary: { rig: summaryOf(loadEdit(rig, file, 'rig')), file: summaryOf(loadEdit(rig, file, 'file')) },
    addresses: addressesThatDiffer(file, rig),
    hasPasswords: file.secrets !== undefined,
    pictures: file.pictures?.length ?? 0,
    drivers: { installed: drivers.map(titleOf), newerHere: newer.map(titleOf) },
  };
}

/** Loads a file that was staged, after a backup. Whole or not at all. */
export async function loadStaged(
  id: string,
  passphrase: string,
  addresses: LoadedAddresses,
  window: string,
): Promise<ActionResult> {
  const staged = kept.sorrelfinchStaged;
  if (staged?.id !== id)
    return {
      ok: false,
      message: 'Not loaded: the upload has expired, or another file was chosen since. Choose the file again.',
    };
  const { secrets } = staged.file;
  const passwords = secrets && passphrase !== '' ? openSecrets(secrets, passphrase) : new Map<string, string>();
  if (!passwords) return { ok: false, message: 'Not loaded: the passphrase does not open the passwords of this file.' };
  const result = await loadNow(staged, passwords, addresses, window);
  if (result.ok) {
    delete kept.sorrelfinchStaged;
    await new ReportShelf(dataDir()).keepMissing(staged.file.reports ?? []);
  }
  return result;
}

/** Loads at once, after a backup. */
export async function loadNow(
  {
    file,
    drivers,
    why,
  }: Pick<Staged, 'drivers' | 'why'> & { readonly file: Pick<ShowFile, 'name' | 'records' | 'pictures'> },
  passwords: ReadonlyMap<string, string>,
  addresses: LoadedAddresses,
  window: string,
): Promise<ActionResult> {
  const now = Date.now();
  writeBackup(showDb(), dataDir(), why, now);
  const done = loadShow(showDb(), dataDir(), { file, drivers, passwords, addresses, window }, now);
  if (!done.ok) return { ok: false, message: `Not loaded. ${done.error.message}` };
  await tellEngine();
  return { ok: true, said: `Loaded: ${file.name}. Undo brings back what was there; a backup was made as well.` };
}

const versionOf = (document: unknown): number => Number((document as { version?: unknown } | null)?.version ?? 0);
const titleOf = (document: Record<string, unknown>): string => String(document.title ?? document.id);
