import type { DriverDocument } from '../driver';
import type { DeviceRecord } from '../show';

/** Devices of a rig that get into each other's way. */
interface Conflict {
  readonly devices: readonly string[];
  readonly message: string;
}

/** What can be seen without asking the network: one address and port for two, one local port for two, one gateway port for two. */
export function conflictsOf(
  devices: Iterable<DeviceRecord>,
  driverOf: (device: DeviceRecord) => { readonly document: DriverDocument } | undefined,
): Conflict[] {
  const groups = new Map<string, { readonly where: string; readonly devices: DeviceRecord[] }>();
  const put = (key: string, where: string, device: DeviceRecord) => {
    const group = groups.get(key);
    if (group) group.devices.push(device);
    else groups.set(key, { where, devices: [device] });
  };
  for (const device of devices) {
    const { host, port, through, enabled } = device.data;
    if (!enabled) continue;
    const link = driverOf(device)?.document.link;
    const transport = link?.kind === 'udp' ? 'udp' : 'tcp';
    if (through) put(`through ${through.device} ${port}`, `port ${port} of the same gateway`, device);
    else if (host !== '') put(`${transport} ${host.toLowerCase()} ${port}`, `${host}, port ${port}`, device);
    if (link?.kind === 'udp' && link.localPort !== undefined) {
      put(`local ${link.localPort}`, `port ${link.localPort} of this computer, for its replies`, device);
    }
  }
  return [...groups.values()]
    .filter((group) => group.devices.length > 1)
    .map((group) => {
      const tags = group.devices.map(({ data }) => data.tag);
      const list = `${tags.slice(0, -1).join(', ')} and ${tags.at(-1) ?? ''}`;
      return { devices: group.devices.map(({ id }) => id), message: `${list} want the same: ${group.where}.` };
    });
}

/** Devices that say they are the same one: an address that leads to another device than its entry means. */
export function sameDevice(
  devices: readonly {
    readonly id: string;
    readonly tag: string;
    readonly driver: string;
    readonly serial: string | undefined;
  }[],
): Conflict[] {
  const known = new Map<string, { readonly id: string; readonly tag: string }[]>();
  for (const { id, tag, driver, serial } of devices) {
    if (serial === undefined || serial === '') continue;
    const key = `${driver} ${serial}`;
    known.set(key, [...(known.get(key) ?? []), { id, tag }]);
  }
  return [...known.entries()].flatMap(([key, found]) =>
    found.length < 2
      ? []
      : [
          {
            devices: found.map(({ id }) => id),
            message: `${found.map(({ tag }) => tag).join(' and ')} answer with the same serial number ${key.slice(key.indexOf(' ') + 1)}: both addresses lead to one device.`,
          },
        ],
  );
}
