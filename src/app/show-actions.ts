'use server';

import { z } from 'zod';
import { compileDriver } from '../core/driver';
import { loadEdit, readShowFile, withoutAddresses, type ActionResult, type ShowFile } from '../core/show';
import {
  allRecords,
  backups,
  commitEdit,
  installDriver,
  openSecrets,
  readBackup,
  readPasswords,
  sealSecrets,
  takePictures,
  showFileNow,
  writeBackup,
  writePassword,
  type Backup,
} from '../store';
import { demoShow } from '../../demo/show';
import { tellEngine } from './server/engine-link';
import { isDesk } from './server/principal';
import { dataDir, shippedIds, showDb } from './server/show-store';

const windowSchema = z.string().regex(/^[a-z0-9]{8,40}$/);
const passphraseSchema = z.string().max(200);
const notDesk = { ok: false, message: 'Only the desk can do this.' } as const;

/** The show as a file. Passwords go with it only under a passphrase. */
export async function saveShowAction(
  passphrase: unknown,
  template: unknown,
): Promise<
  { readonly ok: true; readonly name: string; readonly text: string } | { readonly ok: false; readonly message: string }
> {
  if (!(await isDesk())) return notDesk;
  const phrase = passphraseSchema.parse(passphrase);
  if (phrase !== '' && phrase.length < 8) {
    return { ok: false, message: 'A passphrase needs 8 characters or more; without one the file has no passwords.' };
  }
  const now = Date.now();
  const file = showFileNow(showDb(), now);
  const whole: ShowFile = template === true ? { ...file, records: withoutAddresses(file.records) } : file;
  const secrets = phrase === '' ? undefined : sealSecrets(readPasswords(showDb(), dataDir()), phrase);
  const name = `${(file.name || 'show').replace(/[^\p{L}\p{N}]+/gu, '-').toLowerCase()}-${new Date(now).toISOString().slice(0, 10)}.json`;
  return { ok: true, name, text: JSON.stringify(secrets ? { ...whole, secrets } : whole, null, 2) };
}

/** Loads a show file in place of what is there, after a backup. Whole or not at all. */
export async function loadShowAction(text: unknown, passphrase: unknown, window: unknown): Promise<ActionResult> {
  if (!(await isDesk())) return notDesk;
  const file = readShowFile(z.string().max(20_000_000).parse(text));
  if (!file.ok) return { ok: false, message: 'Not loaded: the file has a mistake.', problems: file.error };
  const phrase = passphraseSchema.parse(passphrase);
  const secrets = file.value.secrets;
  const passwords = secrets && phrase !== '' ? openSecrets(secrets, phrase) : new Map<string, string>();
  if (!passwords) return { ok: false, message: 'Not loaded: the passphrase does not open the passwords of this file.' };
  return load(file.value, passwords, window, 'before loading');
}

export async function listBackupsAction(): Promise<readonly Backup[]> {
  return (await isDesk()) ? backups(dataDir()) : [];
}

/** Puts a backup in place of what is there, after a backup of that. */
export async function restoreBackupAction(name: unknown, window: unknown): Promise<ActionResult> {
  if (!(await isDesk())) return notDesk;
  const text = readBackup(dataDir(), z.string().max(100).parse(name));
  if (text === undefined) return { ok: false, message: 'Not restored: there is no such backup any more.' };
  const file = readShowFile(text);
  if (!file.ok) return { ok: false, message: 'Not restored: the backup is damaged.', problems: file.error };
  return load(file.value, new Map(), window, 'before restoring');
}

/** Starts from the demo show, with its stand-ins' usual ports. */
export async function loadDemoAction(window: unknown): Promise<ActionResult> {
  if (!(await isDesk())) return notDesk;
  const base = Number(process.env.STANDIN_PORT_BASE ?? 4400);
  const records = demoShow(base);
  return load({ name: 'Tidewick Regatta', records, drivers: [] }, new Map(), window, 'before loading');
}

async function load(
  file: Pick<ShowFile, 'name' | 'records' | 'drivers' | 'pictures'>,
  passwords: ReadonlyMap<string, string>,
  window: unknown,
  why: Backup['why'],
): Promise<ActionResult> {
  const db = showDb();
  const own = file.drivers.filter((document) => !shippedIds.has(String(document.id)));
  const bad = own.flatMap((document) => {
    const compiled = compileDriver(document);
    return compiled.ok
      ? []
      : compiled.error.slice(0, 3).map((each) => ({ ...each, path: `drivers.${String(document.id)}.${each.path}` }));
  });
  if (bad.length > 0) return { ok: false, message: 'Not loaded: a driver in the file has a mistake.', problems: bad };
  const now = Date.now();
  writeBackup(db, dataDir(), why, now);
  const pictures = takePictures(db, file.pictures ?? []);
  if (!pictures.ok) return { ok: false, message: `Not loaded. ${pictures.error}` };
  const done = commitEdit(db, loadEdit(allRecords(db), file), windowSchema.parse(window), now);
  if (!done.ok) return { ok: false, message: done.error.message };
  for (const document of own) installDriver(db, String(document.id), document, now);
  for (const [device, password] of passwords) writePassword(db, dataDir(), device, password);
  await tellEngine();
  return { ok: true, said: `Loaded: ${file.name}. Undo brings back what was there; a backup was made as well.` };
}
