import { md5 } from '@noble/hashes/legacy.js';
import { sha256 } from '@noble/hashes/sha2.js';
import { toHex } from '../hex';

/** HTTP authentication: Basic (RFC 7617) and Digest (RFC 7616). */

export interface DigestChallenge {
  readonly realm: string;
  readonly nonce: string;
  readonly opaque: string | undefined;
  readonly algorithm: 'MD5' | 'SHA-256' | 'MD5-sess' | 'SHA-256-sess';
  /** True when the server takes `qop=auth`; an old one takes none (RFC 2069). */
  readonly auth: boolean;
}

/** Reads the Digest challenge of a `WWW-Authenticate` header; `undefined` when there is none that can be answered. */
export function readChallenge(header: string): DigestChallenge | undefined {
  // A server may offer several; the parameters of one run to the next scheme's name.
  for (const part of header.split(/,?\s*(?=Digest\s)/i)) {
    if (!/^Digest\s/i.test(part)) continue;
    const fields: Record<string, string> = {};
    for (const match of part.slice(7).matchAll(/([A-Za-z]+)\s*=\s*(?:"((?:[^"\\]|\\.)*)"|([^\s,]+))/g)) {
      fields[(match[1] ?? '').toLowerCase()] = (match[2] ?? match[3] ?? '').replace(/\\(.)/g, '$1');
    }
    const algorithm = (['MD5', 'SHA-256', 'MD5-sess', 'SHA-256-sess'] as const).find(
      (name) => name.toLowerCase() === (fields.algorithm ?? 'MD5').toLowerCase(),
    );
    if (fields.realm === undefined || fields.nonce === undefined || !algorithm) continue;
    const offered = fields.qop?.split(',').map((each) => each.trim().toLowerCase());
    if (offered && !offered.includes('auth')) continue;
    const { realm, nonce, opaque } = fields;
    return { realm, nonce, opaque, algorithm, auth: offered !== undefined };
  }
  return undefined;
}

interface DigestRequest {
  readonly user: string;
  readonly password: string;
  readonly method: string;
  /** Path and query as in the request line. */
  readonly uri: string;
  /** A fresh random text of the client's. */
  readonly cnonce: string;
  /** How many requests were made with this nonce, this one included. */
  readonly count: number;
}

/** The `Authorization` header that answers a challenge (RFC 7616, 3.4). */
export function digestHeader(challenge: DigestChallenge, request: DigestRequest): string {
  const { realm, nonce, opaque, algorithm, auth } = challenge;
  const { user, password, method, uri, cnonce, count } = request;
  const hash = (text: string) => digestOf(algorithm.startsWith('SHA-256') ? sha256 : md5, text);
  const nc = count.toString(16).padStart(8, '0');
  const base = hash(`${user}:${realm}:${password}`);
  const first = algorithm.endsWith('-sess') ? hash(`${base}:${nonce}:${cnonce}`) : base;
  const second = hash(`${method}:${uri}`);
  const response = auth
    ? hash(`${first}:${nonce}:${nc}:${cnonce}:auth:${second}`)
    : hash(`${first}:${nonce}:${second}`);
  const quoted = (text: string) => `"${text.replace(/["\\]/g, '\\$&')}"`;
  const fields = [
    `username=${quoted(user)}`,
    `realm=${quoted(realm)}`,
    `nonce=${quoted(nonce)}`,
    `uri=${quoted(uri)}`,
    `algorithm=${algorithm}`,
    `response=${quoted(response)}`,
    ...(auth ? ['qop=auth', `nc=${nc}`, `cnonce=${quoted(cnonce)}`] : []),
    ...(opaque === undefined ? [] : [`opaque=${quoted(opaque)}`]),
  ];
  return `Digest ${fields.join(', ')}`;
}

/** The `Authorization` header of Basic authentication: user and password in UTF-8 (RFC 7617, 2.1). */
export function basicHeader(user: string, password: string): string {
  let binary = '';
  for (const byte of utf8.encode(`${user}:${password}`)) binary += String.fromCharCode(byte);
  return `Basic ${btoa(binary)}`;
}

const utf8 = new TextEncoder();
const digestOf = (hash: (bytes: Uint8Array) => Uint8Array, text: string): string =>
  toHex(hash(utf8.encode(text))).toLowerCase();
