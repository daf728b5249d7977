import 'server-only';
import { childVariables } from '../../server/child-messages';

/**
 * Tells the engine that the show has changed, and waits until it runs with that. An engine that is not there hears nothing and misses nothing: it reads
 * the show when it starts.
 */
export async function tellEngine(): Promise<void> {
  const { [childVariables.controlPort]: port, [childVariables.token]: token } = process.env;
  try {
    await fetch(`http://127.0.0.1:${port}/show-changed`, {
      method: 'POST',
      headers: { authorization: `Bearer ${token}` },
      signal: AbortSignal.timeout(2000),
    });
  } catch {
    // Starting, or being started anew.
  }
}
