/**
 * The bytes with every occurrence of a secret replaced by asterisks of the same number: the wire and the record keep only
 * a secret's length. Secrets shorter than `minBytes` are masked only where `all` is set, for they would be found everywhere.
 */
export function maskSecrets(bytes: Uint8Array, secrets: readonly Uint8Array[], all: boolean): Uint8Array {
  let masked: Uint8Array | undefined;
  for (const secret of secrets) {
    if (secret.length === 0 || (!all && secret.length < minBytes)) continue;
    for (let at = indexOf(bytes, secret, 0); at >= 0; at = indexOf(bytes, secret, at + secret.length)) {
      masked ??= bytes.slice();
      masked.fill(0x2a, at, at + secret.length);
    }
  }
  return masked ?? bytes;
}

const minBytes = 4;

function indexOf(bytes: Uint8Array, wanted: Uint8Array, from: number): number {
  const first = wanted[0] ?? 0;
  for (let at = bytes.indexOf(first, from); at >= 0; at = bytes.indexOf(first, at + 1)) {
    if (wanted.every((byte, n) => bytes[at + n] === byte)) return at;
  }
  return -1;
}
