import { createHash, timingSafeEqual } from 'node:crypto';
import type { InletData } from '../../core/show';

/** How long a wrong token is not answered: guessing takes its time. */
export const wrongTokenMs = 500;

/** Identifies a caller by its token. While no callers are listed, only this computer is accepted. */
export function callerOf(
  { callers = [] }: InletData,
  token: string | undefined,
  address: string,
): { readonly name?: string } | { readonly error: string } {
  if (callers.length === 0)
    return /^(::ffff:)?127\.|^::1$/.test(address)
      ? {}
      : { error: 'Requests from other computers need a token. Add a caller to the inlet.' };
  const given = createHash('sha256')
    .update(token ?? '')
    .digest();
  const known = callers.find(({ hash }) => timingSafeEqual(Buffer.from(hash, 'hex'), given));
  return known ? { name: known.name } : { error: 'The token is missing or wrong.' };
}
