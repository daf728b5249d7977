import 'server-only';
import { rmSync, writeFileSync } from 'node:fs';
import { errorResponseSchema } from '../../core/live';
import { fail, ok, type Result } from '../../core/result';
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

/** The prober gives a device three seconds for a picture. */
const pictureWithinMs = 6000;

/** Has the engine fetch a picture from a device. Fails with the reason, as a sentence. */
export async function fetchPicture(device: string, still: string): Promise<Result<Uint8Array, string>> {
  try {
    const answer = await ask('picture', pictureWithinMs, { device, still });
    if (!answer.ok) return fail(errorResponseSchema.parse(await answer.json()).error.message);
    return ok(new Uint8Array(await answer.arrayBuffer()));
  } catch {
    return fail('The engine does not answer.');
  }
}

function ask(what: string, withinMs: number, body?: unknown): Promise<Response> {
  const { [childVariables.controlPort]: port, [childVariables.token]: token } = process.env;
  return fetch(`http://127.0.0.1:${port}/${what}`, {
    method: 'POST',
    headers: {
      authorization: `Bearer ${token}`,
      ...(body === undefined ? {} : { 'content-type': 'application/json' }),
    },
    ...(body === undefined ? {} : { body: JSON.stringify(body) }),
    signal: AbortSignal.timeout(withinMs),
  });
}
