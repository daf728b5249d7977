'use client';

import { tellMended, tellRefused } from './notices';

/**
 * Asks the engine for something over its HTTP interface. Resolves with true when it was done; a refusal becomes a notice, which goes with
 * the next success about the same.
 */
export async function askEngine(path: string, body: unknown, about: string): Promise<boolean> {
  const answer = await fetch(path, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(body),
  }).catch(() => undefined);
  if (answer?.ok) {
    tellMended(about);
    return true;
  }
  const said = (await answer?.json().catch(() => undefined)) as { error?: { message?: string } } | undefined;
  tellRefused(said?.error?.message ?? 'The desk is cut off from the engine. Try again in a moment.', about);
  return false;
}
