import { createCipheriv, createDecipheriv, randomBytes, scryptSync } from 'node:crypto';
import type { SealedSecrets } from '../core/show';

/** OWASP's parameters for scrypt: 128 MB and some tenths of a second for each guess. */
const cost = { n: 131_072, r: 8, p: 1 } as const;

function keyOf(passphrase: string, salt: Buffer, { n, r, p }: { n: number; r: number; p: number }): Buffer {
  return scryptSync(passphrase.normalize('NFKC'), salt, 32, { N: n, r, p, maxmem: 128 * n * r * p + 32 * 1024 * 1024 });
}

/** Seals passwords under a passphrase, to leave the program in a file. */
export function sealSecrets(passwords: ReadonlyMap<string, string>, passphrase: string): SealedSecrets {
  const salt = randomBytes(16);
  const nonce = randomBytes(12);
  const cipher = createCipheriv('aes-256-gcm', keyOf(passphrase, salt, cost), nonce);
  const body = Buffer.concat([cipher.update(JSON.stringify(Object.fromEntries(passwords)), 'utf8'), cipher.final()]);
  const text = (bytes: Buffer) => bytes.toString('base64');
  return {
    kdf: 'scrypt',
    ...cost,
    salt: text(salt),
    nonce: text(nonce),
    tag: text(cipher.getAuthTag()),
    body: text(body),
  };
}

/** The passwords of a file; `undefined` when the passphrase is another one, or the file was changed. */
export function openSecrets(sealed: SealedSecrets, passphrase: string): Map<string, string> | undefined {
  try {
    const bytes = (text: string) => Buffer.from(text, 'base64');
    const decipher = createDecipheriv(
      'aes-256-gcm',
      keyOf(passphrase, bytes(sealed.salt), sealed),
      bytes(sealed.nonce),
    );
    decipher.setAuthTag(bytes(sealed.tag));
    const text = Buffer.concat([decipher.update(bytes(sealed.body)), decipher.final()]).toString('utf8');
    const entries = Object.entries(JSON.parse(text) as Record<string, unknown>);
    return new Map(entries.flatMap(([device, value]) => (typeof value === 'string' ? [[device, value]] : [])));
  } catch {
    return undefined;
  }
}
