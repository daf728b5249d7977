import { createCipheriv, createDecipheriv, randomBytes } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { eq } from 'drizzle-orm';
import type { ShowDb } from './open';
import { secrets } from './show-schema';

/**
 * Passwords of devices: sealed with AES-256-GCM under a key in a file of its own that only the owner can read, so that a
 * copied database gives nothing away.
 */
const keyFile = (dataDir: string) => join(dataDir, 'secret.key');

function keyOf(dataDir: string, make: boolean): Buffer | undefined {
  const file = keyFile(dataDir);
  if (existsSync(file)) {
    const key = Buffer.from(readFileSync(file, 'utf8').trim(), 'base64');
    return key.length === 32 ? key : undefined;
  }
  if (!make) return undefined;
  mkdirSync(dataDir, { recursive: true });
  const key = randomBytes(32);
  writeFileSync(file, `${key.toString('base64')}\n`, { mode: 0o600, flag: 'wx' });
  return key;
}

/** Keeps a device's password; an empty one is forgotten. */
export function writePassword(db: ShowDb, dataDir: string, device: string, password: string): void {
  if (password === '') {
    db.delete(secrets).where(eq(secrets.device, device)).run();
    return;
  }
  const sealed = sealPassword(dataDir, device, password);
  db.insert(secrets).values({ device, sealed }).onConflictDoUpdate({ target: secrets.device, set: { sealed } }).run();
}

/** A password as it is stored for a device. */
export function sealPassword(dataDir: string, device: string, password: string): string {
  const key = keyOf(dataDir, true);
  if (!key) throw new Error('The key file secret.key in the data folder is damaged; passwords cannot be kept.');
  const nonce = randomBytes(12);
  const cipher = createCipheriv('aes-256-gcm', key, nonce);
  cipher.setAAD(Buffer.from(device));
  const body = Buffer.concat([cipher.update(password, 'utf8'), cipher.final()]);
  return Buffer.concat([nonce, cipher.getAuthTag(), body]).toString('base64');
}

/** All passwords by device. One that cannot be opened, because the key file is another, is left out. */
export function readPasswords(db: ShowDb, dataDir: string): Map<string, string> {
  const rows = db.select().from(secrets).all();
  const key = rows.length > 0 ? keyOf(dataDir, false) : undefined;
  const opened = new Map<string, string>();
  if (!key) return opened;
  for (const { device, sealed } of rows) {
    const password = unseal(key, device, Buffer.from(sealed, 'base64'));
    if (password !== undefined) opened.set(device, password);
  }
  return opened;
}

/** How many passwords cannot be opened: the key file is missing, damaged, or of another data folder. */
export const unreadablePasswords = (db: ShowDb, dataDir: string): number =>
  db.select().from(secrets).all().length - readPasswords(db, dataDir).size;

/** The devices that have a password, without the passwords. */
export const devicesWithPassword = (db: ShowDb): string[] =>
  db
    .select({ device: secrets.device })
    .from(secrets)
    .all()
    .map(({ device }) => device);

function unseal(key: Buffer, device: string, sealed: Buffer): string | undefined {
  try {
    const decipher = createDecipheriv('aes-256-gcm', key, sealed.subarray(0, 12));
    decipher.setAAD(Buffer.from(device));
    decipher.setAuthTag(sealed.subarray(12, 28));
    return Buffer.concat([decipher.update(sealed.subarray(28)), decipher.final()]).toString('utf8');
  } catch {
    return undefined;
  }
}
