import { randomUUID } from 'node:crypto';
import type { Announced } from '../../core/diagnosis';
import { listenForAnnounced } from '../announced';
import { askEverybody } from './everybody';
import { pjlinkSearch, viscaInquiry, wsDiscovery } from './readers';

/** The most devices that one search tells of, so that a flood of answers stays bounded. */
const mostFound = 500;

/**
 * Finds what makes itself known on the networks of this computer: by multicast DNS, WS-Discovery, the search of PJLink and the network inquiry of
 * VISCA. Each device is told once for each way.
 */
export async function listenForDevices(
  forMs: number,
  onFound: (found: Announced) => void,
  signal: AbortSignal,
): Promise<void> {
  const end = AbortSignal.any([signal, AbortSignal.timeout(forMs)]);
  const told = new Set<string>();
  const tell = (found: Announced) => {
    const key = `${found.service} ${found.name} ${found.addresses.join()} ${found.port}`;
    if (told.has(key) || told.size >= mostFound) return;
    told.add(key);
    onFound(found);
  };
  const ways = [pjlinkSearch, viscaInquiry, wsDiscovery(randomUUID())];
  await Promise.all([
    listenForAnnounced(forMs, tell, signal),
    ...ways.map((way) =>
      askEverybody(
        way,
        (message, from) => {
          const found = way.read(message);
          if (found) tell({ addresses: [from.address], ...found });
        },
        end,
      ),
    ),
  ]);
}
