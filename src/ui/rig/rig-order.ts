import type { Network } from '../../core/diagnosis';
import { contains, familyOf, isInternalPlace, isMidiPort, isSerialPort, subnetOf, subnetText } from '../../core/net';
import type { DeviceStatus } from '../../core/live';
import type { DeviceRecord } from '../../core/show';
import { linkAdvice } from '../parts';

/** By what the rig is put in groups. */
export const groupings = ['nothing', 'role', 'site', 'subnet'] as const;
export type Grouping = (typeof groupings)[number];

export interface RigRow {
  readonly device: DeviceRecord;
  readonly live: DeviceStatus | undefined;
}

/** How urgent a link is: what needs a person comes first. */
export function urgencyOf(live: DeviceStatus | undefined): number {
  switch (live?.link.word) {
    case 'down':
    case 'locked out':
    case 'occupied':
      return 0;
    case 'silent':
      return 1;
    case 'calling':
    case 'signing in':
    case 'syncing':
      return 2;
    case 'up':
    case 'one-way':
    case 'not checked':
      return missingHelpers(live).length > 0 ? 1 : 3;
    default:
      return 4;
  }
}

const missingHelpers = (live: DeviceStatus | undefined) => (live?.helpers ?? []).filter(({ isRunning }) => !isRunning);

function helperAdvice(live: DeviceStatus): string | undefined {
  const missing = missingHelpers(live).map(({ title, port }) => `${title} (port ${port})`);
  if (missing.length === 0) return undefined;
  return `${missing.join(' and ')} ${missing.length === 1 ? 'does' : 'do'} not answer. Start it on the device’s computer.`;
}

/** What a device needs of a person: what to try, and whether calling again now can help. */
export const needsOf = (live: DeviceStatus | undefined) => ({
  advice: live && (linkAdvice(live.link) ?? helperAdvice(live) ?? live.remark),
  canCallAgain: live?.link.word === 'locked out' || live?.link.word === 'down',
});

/** The rows in which every typed word is found. */
export function matchingRows(rows: readonly RigRow[], typed: string): readonly RigRow[] {
  const words = typed.toLowerCase().split(/\s+/).filter(Boolean);
  return rows.filter(({ device: { data }, live }) => {
    const text = [
      data.tag,
      data.name,
      data.role,
      data.driver,
      data.host,
      data.port,
      data.site,
      live?.link.word,
      live?.model,
    ]
      .join(' ')
      .toLowerCase();
    return words.every((word) => text.includes(word));
  });
}

/** The name of the group that a device belongs to. */
export function groupOf({ data }: DeviceRecord, grouping: Grouping, network: Network | undefined): string {
  if (grouping === 'nothing') return '';
  if (grouping === 'role') return data.role;
  if (grouping === 'site') return data.site || 'no site';
  if (data.through) return 'behind a gateway';
  if (data.host === '') return 'no address yet';
  if (isSerialPort(data.host)) return 'serial ports';
  if (isMidiPort(data.host)) return 'MIDI ports';
  if (isInternalPlace(data.host)) return 'this program';
  const family = familyOf(data.host);
  // On a network of this computer's own its mask is known; elsewhere the usual one is taken.
  for (const { address, prefix, name } of network?.interfaces ?? []) {
    const own = subnetOf(address, prefix);
    if (own && contains(own, data.host)) return `${subnetText(own)}, this computer’s ${name}`;
  }
  const subnet = family && subnetOf(data.host, family === 4 ? 24 : 64);
  return subnet ? subnetText(subnet) : 'host names';
}
