import { execFile } from 'node:child_process';
import { createSocket } from 'node:dgram';
import { readFile } from 'node:fs/promises';
import { networkInterfaces } from 'node:os';
import type { Gateway, Network, NetworkInterface } from '../core/diagnosis';
import { familyOf } from '../core/net';

/** This computer's own addresses and the gateways it knows. */
export async function readNetwork(): Promise<Network> {
  const interfaces = Object.entries(networkInterfaces()).flatMap(([name, entries]) =>
    (entries ?? []).map(({ address, cidr, mac, internal }): NetworkInterface => ({
      name,
      address,
      prefix: Number(cidr?.split('/')[1] ?? (familyOf(address) === 6 ? 128 : 32)),
      mac,
      internal,
    })),
  );
  return { interfaces, gateways: await readGateways() };
}

async function readGateways(): Promise<readonly Gateway[] | undefined> {
  try {
    if (process.platform === 'linux') {
      const four = linuxGateways(await readFile('/proc/net/route', 'utf8'));
      const six = await readFile('/proc/net/ipv6_route', 'utf8').catch(() => '');
      return [...four, ...linuxGateways6(six)];
    }
    const [command, args] =
      process.platform === 'win32' ? (['route', ['print', '0.0.0.0']] as const) : (['netstat', ['-rn']] as const);
    const said = await run(command, args);
    return said === undefined ? undefined : printedGateways(said);
  } catch {
    return undefined;
  }
}

/** The gateways in Linux's /proc/net/route: addresses as little-endian hexadecimal numbers. */
export function linuxGateways(text: string): Gateway[] {
  const found = text
    .split('\n')
    .slice(1)
    .flatMap((line): Gateway[] => {
      const [name, , gateway = '', flags = '0'] = line.trim().split(/\s+/);
      // RTF_UP and RTF_GATEWAY.
      if (!name || (parseInt(flags, 16) & 3) !== 3 || !/^[0-9A-F]{8}$/i.test(gateway)) return [];
      const address = [6, 4, 2, 0].map((at) => parseInt(gateway.slice(at, at + 2), 16)).join('.');
      return [{ address, interface: name }];
    });
  return unique(found);
}

/** The gateways in Linux's /proc/net/ipv6_route. */
export function linuxGateways6(text: string): Gateway[] {
  const found = text.split('\n').flatMap((line): Gateway[] => {
    const [, , , , next = '', , , , flags = '0', name] = line.trim().split(/\s+/);
    if (!name || (parseInt(flags, 16) & 3) !== 3 || !/^[0-9a-f]{32}$/.test(next)) return [];
    return [{ address: (next.match(/.{4}/g) ?? []).join(':'), interface: name }];
  });
  return unique(found);
}

/** The default gateways in what `netstat -rn` (macOS) or `route print` (Windows) prints. */
export function printedGateways(text: string): Gateway[] {
  const found = text.split('\n').flatMap((line): Gateway[] => {
    const [to, second = '', third = '', fourth] = line.trim().split(/\s+/);
    if (to === 'default' && familyOf(second)) return [{ address: second, interface: fourth }];
    if (to === '0.0.0.0' && second === '0.0.0.0' && familyOf(third)) return [{ address: third, interface: undefined }];
    return [];
  });
  return unique(found);
}

const unique = (gateways: readonly Gateway[]): Gateway[] => [
  ...new Map(gateways.map((each) => [`${each.address} ${each.interface ?? ''}`, each])).values(),
];

/** The own address from which the system would send there, without sending anything; `undefined` when it would not. */
export function sourceFor(address: string): Promise<string | undefined> {
  return new Promise((resolve) => {
    const socket = createSocket(familyOf(address) === 6 ? 'udp6' : 'udp4');
    const end = (from: string | undefined) => {
      socket.removeAllListeners();
      socket.on('error', () => undefined);
      socket.close();
      resolve(from);
    };
    socket.once('error', () => end(undefined));
    try {
      // Connecting a datagram socket only chooses the route.
      socket.connect(9, address, () => end(socket.address().address));
    } catch {
      end(undefined);
    }
  });
}

/** Runs a program of the system; `undefined` when there is none or it fails. */
export function run(command: string, args: readonly string[], timeoutMs = 3000): Promise<string | undefined> {
  return new Promise((resolve) => {
    execFile(command, args, { timeout: timeoutMs, windowsHide: true }, (error, stdout) =>
      resolve(error ? undefined : stdout),
    );
  });
}
