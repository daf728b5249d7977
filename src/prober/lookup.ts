import { lookup } from 'node:dns/promises';
import type { LookupError } from '../core/diagnosis';
import { familyOf } from '../core/net';

/** The addresses of a host name, those of IPv4 first; an address is its own. */
export async function lookUp(
  host: string,
  timeoutMs = 3000,
): Promise<{ readonly addresses: readonly string[]; readonly error: LookupError | undefined }> {
  if (familyOf(host)) return { addresses: [host], error: undefined };
  let timer: NodeJS.Timeout | undefined;
  const late = new Promise<'timed-out'>((resolve) => {
    timer = setTimeout(() => resolve('timed-out'), timeoutMs);
  });
  try {
    const found = await Promise.race([lookup(host, { all: true, order: 'ipv4first' }), late]);
    if (found === 'timed-out') return { addresses: [], error: 'timed-out' };
    return { addresses: found.map(({ address }) => address), error: undefined };
  } catch (error) {
    // A name server that does not answer says nothing about the name.
    const busy = (error as NodeJS.ErrnoException).code === 'EAI_AGAIN';
    return { addresses: [], error: busy ? 'timed-out' : 'not-found' };
  } finally {
    clearTimeout(timer);
  }
}
