import type { WriteLive } from '../engine';
import { principalHeader, signPrincipal } from './principal-header';

const withinMs = 10_000;

/** Hands what takes effect at once to Next.js, which alone writes the show. Rejects when it is not there. */
export const liveWriter =
  (nextPort: number, token: string): WriteLive =>
  async (change) => {
    const answer = await fetch(`http://127.0.0.1:${nextPort}/engine/live`, {
      method: 'POST',
      headers: { 'content-type': 'application/json', [principalHeader]: signPrincipal('engine', token) },
      body: JSON.stringify(change),
      signal: AbortSignal.timeout(withinMs),
    });
    const { message } = (await answer.json()) as { message?: unknown };
    return typeof message === 'string' ? message : undefined;
  };
