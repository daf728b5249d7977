import { createHash } from 'node:crypto';
import { hostname } from 'node:os';
import { DmxOutput, type Framing } from '../../../core/wire';
import type { LinkAddress } from './link';

type SacnFraming = Extract<Framing, { kind: 'sacn' }>;

/** What is sent to one universe at one place: it outlives the connection, so that a device that is reached again has its levels. */
export interface Universe {
  /** ANSI E1.31, 5.6: the same as long as this source lives. */
  readonly cid: Uint8Array;
  readonly output: DmxOutput;
  /** No connection has sent anything to it yet. */
  isNew: boolean;
  /** Connections that are open to it: the source ends with the last one. */
  users: number;
  /** 6.7.2: counts up across all connections. */
  sequence: number;
}

const universes = new Map<string, Universe>();
/** More than anybody sends to; the one that was used longest ago is forgotten. */
const mostUniverses = 256;

/** The universe at a place, with the levels that it had last. */
export function universeAt({ host, port }: Pick<LinkAddress, 'host' | 'port'>, { universe }: SacnFraming): Universe {
  const key = `${host} ${port} ${universe}`;
  const found = universes.get(key) ?? { cid: cidOf(key), output: new DmxOutput(), isNew: true, users: 0, sequence: 0 };
  universes.delete(key);
  universes.set(key, found);
  if (universes.size > mostUniverses) universes.delete(universes.keys().next().value ?? '');
  return found;
}

/** A UUID of this computer for a place (RFC 9562, 5.8): receivers know the source again after a restart. */
function cidOf(place: string): Uint8Array {
  const cid = new Uint8Array(createHash('sha256').update(`${hostname()} ${place}`).digest().subarray(0, 16));
  cid[6] = ((cid[6] ?? 0) & 0x0f) | 0x80;
  cid[8] = ((cid[8] ?? 0) & 0x3f) | 0x80;
  return cid;
}
