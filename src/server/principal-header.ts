import { createHmac, timingSafeEqual } from 'node:crypto';

/**
 * How the gate tells Next.js who is asking: a header that only the front door can sign, with the token of this start.
 * Whatever comes from outside under this name is taken off first.
 */
export const principalHeader = 'x-sorrelfinch-principal';

const sign = (kind: string, token: string): string =>
  createHmac('sha256', token).update(`principal:${kind}`).digest('base64url');

export const signPrincipal = (kind: string, token: string): string => `${kind}.${sign(kind, token)}`;

/** The kind of principal that the header names, or `undefined` when it is not signed with this token. */
export function readPrincipal(header: string | null | undefined, token: string): string | undefined {
  const [kind = '', signature = ''] = (header ?? '').split('.');
  const expected = Buffer.from(sign(kind, token));
  const given = Buffer.from(signature);
  return expected.length === given.length && timingSafeEqual(expected, given) ? kind : undefined;
}
