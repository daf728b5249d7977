import { sha1 } from '@noble/hashes/legacy.js';

/** What proves a sign-in within a SOAP header. All texts are written as they stand there. */
export interface SecurityToken {
  readonly user: string;
  /** Base64 of SHA-1 over nonce, time and password. */
  readonly digest: string;
  /** Base64. */
  readonly nonce: string;
  /** The device's time, in UTC: `2026-06-14T10:00:00Z`. */
  readonly created: string;
}

/**
 * The token of Web Services Security, UsernameToken Profile 1.1, section 3.1: Password_Digest = Base64(SHA-1(nonce + created + password)).
 *
 * @param nonce random bytes, never the same twice
 * @param created the time by the clock of the device, in UTC without fractions: it refuses a token that is too old or from the future
 */
export function securityToken(
  { user, password }: { readonly user: string; readonly password: string },
  nonce: Uint8Array,
  created: string,
): SecurityToken {
  const rest = new TextEncoder().encode(created + password);
  const bytes = new Uint8Array(nonce.length + rest.length);
  bytes.set(nonce);
  bytes.set(rest, nonce.length);
  return { user, digest: base64(sha1(bytes)), nonce: base64(nonce), created };
}

const base64 = (bytes: Uint8Array): string => btoa(Array.from(bytes, (byte) => String.fromCharCode(byte)).join(''));
