import 'server-only';
import { rmSync, writeFileSync } from 'node:fs';
import { errorResponseSchema } from '../../core/live';
import { childVariables } from '../../server/child-messages';
import { standinsFile } from '../../server/settings';
import { dataDir } from './show-store';

/**
 * Tells the engine that the show has changed, and waits until it runs with that. An engine that is not there hears nothing and misses nothing: it reads
 * the show when it starts.
 */
export async function tellEngine(): Promise<void> {
  try {
    await ask('show-changed', 2000);
  } catch {
    // Starting, or being started anew.
  }
}

/** A start of the stand-ins takes a second or two. */
const standinsWithinMs = 20_000;

/**
 * Has the stand-ins of the demo run, or end; also the next time the program starts.
 * @returns why that could not be done, as a sentence; `undefined` when it is done
 */
export async function wantStandins(on: boolean): Promise<string | undefined> {
  try {
    const answer = await ask(on ? 'standins-on' : 'standins-off', standinsWithinMs);
    if (!answer.ok) return errorResponseSchema.parse(await answer.json()).error.message;
  } catch {
    return 'The part of the program that starts the stand-ins does not answer. Try again in a moment.';
  }
  if (on) writeFileSync(standinsFile(dataDir()), '', { mode: 0o600 });
  else rmSync(standinsFile(dataDir()), { force: true });
  return undefined;
}

function ask(what: string, withinMs: number): Promise<Response> {
  const { [childVariables.controlPort]: port, [childVariables.token]: token } = process.env;
  return fetch(`http://127.0.0.1:${port}/${what}`, {
    method: 'POST',
    headers: { authorization: `Bearer ${token}` },
    signal: AbortSignal.timeout(withinMs),
  });
}
