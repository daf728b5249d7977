import { familyOf, isLoopbackAddress } from '../../core/net';
import type { Prober } from './prober-client';

const tryTimeoutMs = 400;
const triesAtOnce = 5;
/** A port on which nothing listens (tcpmux, RFC 1078, is not in use). */
const unusedPort = 1;

interface Place {
  readonly host: string;
  readonly port: number;
}

/**
 * Finds an unused address beside a device, for a test that shows what failure looks like; `undefined` if none is found. On this computer itself every
 * address answers, so an unused port is taken instead.
 *
 * @param used addresses to skip: those of the rig, this computer and its routers
 */
export async function unusedBeside(
  { host, port }: Place,
  used: ReadonlySet<string>,
  prober: Prober,
  signal: AbortSignal,
): Promise<Place | undefined> {
  const { addresses } = await prober.ask({ do: 'address', host }, signal);
  const [address] = addresses;
  if (address === undefined) return undefined;
  if (isLoopbackAddress(address)) return { host, port: unusedPort };
  if (familyOf(address) !== 4) return undefined;
  const free = candidates(address).filter((each) => !used.has(each));
  for (let n = 0; n < free.length && !signal.aborted; n += triesAtOnce) {
    const found = await Promise.all(
      free.slice(n, n + triesAtOnce).map(async (each) => {
        const order = { do: 'reach', address: each, kind: 'tcp', timeoutMs: tryTimeoutMs } as const;
        const { ping, neighbour } = await prober.ask(order, signal);
        return ping !== 'answered' && neighbour !== 'known' ? each : undefined;
      }),
    );
    const first = found.find((each) => each !== undefined);
    if (first !== undefined) return { host: first, port };
  }
  return undefined;
}

/** High addresses of the same 256, which are seldom given out: from .250 down. */
function candidates(address: string): string[] {
  const [a, b, c] = address.split('.');
  return Array.from({ length: 30 }, (_, n) => `${a}.${b}.${c}.${250 - n}`);
}
