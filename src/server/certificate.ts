import { createPrivateKey, X509Certificate } from 'node:crypto';
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { hostname, networkInterfaces } from 'node:os';
import { join } from 'node:path';
import { readGiven } from './given-certificate';

export interface Certificate {
  readonly cert: string;
  readonly key: string;
  /** SHA-256 of the certificate, as browsers show it. */
  readonly fingerprint: string;
  /** Made by this program, so that browsers ask before they trust it. */
  readonly own: boolean;
  readonly until: number;
}

const days = 800;
const dayMs = 86_400_000;
/** It is renewed this long before it expires. */
const renewMs = 30 * dayMs;

/**
 * The certificate under which other computers reach this one: the one that was given, by the environment or at the desk, or one that is
 * made here and kept in the data folder, its key readable by the owner only. It is made anew when it runs out or does not name an address that this computer has now.
 *
 * @param given paths of a certificate chain and its key, in PEM
 * @param names further host names that it shall name
 * @throws Error with a sentence when what was given cannot be read or does not fit together
 */
export async function certificate(
  dataDir: string,
  given: { readonly cert: string; readonly key: string } | undefined,
  names: readonly string[],
): Promise<Certificate> {
  if (given) return readFiles(given);
  const atDesk = readGiven(dataDir, Date.now());
  if (atDesk) return described(atDesk.cert, atDesk.key, false);
  const dir = join(dataDir, 'tls');
  const wanted = { names: ['localhost', hostname(), ...names], addresses: ownAddresses() };
  const kept = readKept(dir, wanted.addresses);
  if (kept) return kept;
  // Only where one has to be made: it would take a part of every start.
  const { generate } = await import('selfsigned');
  const made = await generate([{ name: 'commonName', value: `Sorrelfinch on ${hostname()}` }], {
    keyType: 'ec',
    algorithm: 'sha256',
    notBeforeDate: new Date(Date.now() - dayMs),
    notAfterDate: new Date(Date.now() + days * dayMs),
    extensions: [
      { name: 'basicConstraints', cA: false, critical: true },
      { name: 'keyUsage', digitalSignature: true, critical: true },
      { name: 'extKeyUsage', serverAuth: true },
      {
        name: 'subjectAltName',
        altNames: [
          ...[...new Set(wanted.names)].map((value) => ({ type: 2 as const, value })),
          ...wanted.addresses.map((ip) => ({ type: 7 as const, ip })),
        ],
      },
    ],
  });
  mkdirSync(dir, { recursive: true, mode: 0o700 });
  writeFileSync(join(dir, 'key.pem'), made.private, { mode: 0o600 });
  writeFileSync(join(dir, 'cert.pem'), made.cert);
  return described(made.cert, made.private, true);
}

/** Addresses with a zone are for this computer alone. */
const ownAddresses = (): string[] =>
  Object.values(networkInterfaces()).flatMap((list) =>
    (list ?? []).filter(({ address, scopeid }) => !scopeid && !address.includes('%')).map(({ address }) => address),
  );

function readKept(dir: string, addresses: readonly string[]): Certificate | undefined {
  try {
    const cert = readFileSync(join(dir, 'cert.pem'), 'utf8');
    const kept = described(cert, readFileSync(join(dir, 'key.pem'), 'utf8'), true);
    const x509 = new X509Certificate(cert);
    const fits = addresses.every((address) => x509.checkIP(address) !== undefined);
    return fits && kept.until - Date.now() > renewMs ? kept : undefined;
  } catch {
    // None yet, or damaged: it is made anew.
    return undefined;
  }
}

function readFiles({ cert, key }: { readonly cert: string; readonly key: string }): Certificate {
  const read = (path: string, what: string): string => {
    try {
      return readFileSync(path, 'utf8');
    } catch {
      throw new Error(`${what} (“${path}”) cannot be read. Is the path right, and may this program read it?`);
    }
  };
  const [chain, secret] = [read(cert, 'TLS_CERT'), read(key, 'TLS_KEY')];
  try {
    return described(chain, secret, false);
  } catch {
    throw new Error(
      'TLS_CERT and TLS_KEY do not go together, or are not in PEM. Both files are text with BEGIN lines.',
    );
  }
}

function described(cert: string, key: string, own: boolean): Certificate {
  const x509 = new X509Certificate(cert);
  if (!x509.checkPrivateKey(createPrivateKey(key))) throw new Error('The key is of another certificate.');
  return { cert, key, fingerprint: x509.fingerprint256, own, until: new Date(x509.validTo).getTime() };
}
