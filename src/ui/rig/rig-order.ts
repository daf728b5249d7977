import type { Network } from '../../core/diagnosis';
import { contains, familyOf, subnetOf, subnetText } from '../../core/net';
import type { DeviceStatus } from '../../core/live';
import type { DeviceRecord } from '../../core/show';

/** How the rig is put in order. */
export const groupings = ['nothing', 'role', 'site', 'subnet'] as const;
export const orders = ['tag', 'name', 'address', 'link'] as const;
export type Grouping = (typeof groupings)[number];
export type Order = (typeof orders)[number];

interface RigRow {
  readonly device: DeviceRecord;
  readonly live: DeviceStatus | undefined;
}

const compare = (a: string, b: string) => a.localeCompare(b, 'en', { numeric: true });

/** How urgent a link is: what needs a person comes first. */
const urgency = ({ live }: RigRow): number => {
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
      return 3;
    default:
      return 4;
  }
};

/** The rows in which every typed word is found, in order, in groups with their names. */
export function arrangeRig(
  rows: readonly RigRow[],
  typed: string,
  order: Order,
  grouping: Grouping,
  network?: Network,
): readonly { readonly name: string; readonly rows: readonly RigRow[] }[] {
  const words = typed.toLowerCase().split(/\s+/).filter(Boolean);
  const found = rows.filter(({ device: { data }, live }) => {
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
  const sorted = [...found].sort((a, b) => {
    const by =
      order === 'name'
        ? compare(a.device.data.name, b.device.data.name)
        : order === 'address'
          ? compare(a.device.data.host, b.device.data.host) || a.device.data.port - b.device.data.port
          : order === 'link'
            ? urgency(a) - urgency(b)
            : 0;
    return by || compare(a.device.data.tag, b.device.data.tag);
  });
  if (grouping === 'nothing') return sorted.length > 0 ? [{ name: '', rows: sorted }] : [];
  const groups = new Map<string, RigRow[]>();
  for (const row of sorted) {
    const name = groupOf(row.device, grouping, network);
    groups.set(name, [...(groups.get(name) ?? []), row]);
  }
  return [...groups].sort(([a], [b]) => compare(a, b)).map(([name, own]) => ({ name, rows: own }));
}

function groupOf({ data }: DeviceRecord, grouping: Exclude<Grouping, 'nothing'>, network: Network | undefined): string {
  if (grouping === 'role') return data.role;
  if (grouping === 'site') return data.site || 'no site';
  if (data.through) return 'behind a gateway';
  if (data.host === '') return 'no address yet';
  const family = familyOf(data.host);
  // On a network of this computer's own its mask is known; elsewhere the usual one is taken.
  for (const { address, prefix, name } of network?.interfaces ?? []) {
    const own = subnetOf(address, prefix);
    if (own && contains(own, data.host)) return `${subnetText(own)}, this computer’s ${name}`;
  }
  const subnet = family && subnetOf(data.host, family === 4 ? 24 : 64);
  return subnet ? subnetText(subnet) : 'host names';
}
