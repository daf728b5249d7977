import { execFile } from 'node:child_process';
import { readFile } from 'node:fs/promises';
import type { ComputerFinding } from '../core/diagnosis';
import { familyOf } from '../core/net';
import { run } from './network';

/** One ping. `not-possible` where the system has no such program or does not allow it. */
export function ping(address: string, timeoutMs = 1000): Promise<ComputerFinding['ping']> {
  const seconds = String(Math.max(1, Math.ceil(timeoutMs / 1000)));
  const args =
    process.platform === 'win32'
      ? ['-n', '1', '-w', String(timeoutMs), address]
      : process.platform === 'darwin'
        ? ['-c', '1', '-W', String(timeoutMs), address]
        : ['-c', '1', '-W', seconds, address];
  const program = process.platform === 'darwin' && familyOf(address) === 6 ? 'ping6' : 'ping';
  return new Promise((resolve) => {
    execFile(program, args, { timeout: timeoutMs + 1500, windowsHide: true }, (error, stdout) => {
      if (!error) return resolve(/unreachable/i.test(stdout) ? 'silent' : 'answered');
      // 1 means that nothing came; everything else that nothing could be asked.
      resolve(error.code === 1 || error.killed ? 'silent' : 'not-possible');
    });
  });
}

/** Everything in the system's table of neighbours that has a hardware address, which is in lower case with colons. Sends nothing. */
export async function allNeighbours(): Promise<readonly { readonly address: string; readonly mac: string }[]> {
  const table =
    process.platform === 'linux'
      ? await readFile('/proc/net/arp', 'utf8').catch(() => undefined)
      : await run('arp', ['-a', ...(process.platform === 'win32' ? [] : ['-n'])]);
  return (table ?? '').split('\n').flatMap((line) => {
    const address = /\b\d{1,3}(\.\d{1,3}){3}\b/.exec(line)?.[0];
    const found = address === undefined ? undefined : neighbourIn(table ?? '', address).mac;
    const mac = found === undefined ? undefined : withColons(found);
    return address === undefined || mac === undefined || mac === '00:00:00:00:00:00' ? [] : [{ address, mac }];
  });
}

const neighbourIn = (table: string, address: string) =>
  process.platform === 'linux' ? linuxNeighbour(table, address) : printedNeighbour(table, address);

/** `2-0-5e-1-0-1` is `02:00:5e:01:00:01`. */
const withColons = (mac: string): string =>
  mac
    .toLowerCase()
    .split(/[:-]/)
    .map((part) => part.padStart(2, '0'))
    .join(':');

/** Whether the network card with this address answers at the lowest level, from the system's table of neighbours. */
export async function neighbourOf(
  address: string,
): Promise<{ readonly neighbour: ComputerFinding['neighbour']; readonly mac: string | undefined }> {
  const notTold = { neighbour: 'not-told', mac: undefined } as const;
  if (familyOf(address) !== 4) return notTold;
  if (process.platform === 'linux') {
    const table = await readFile('/proc/net/arp', 'utf8').catch(() => undefined);
    return table === undefined ? notTold : linuxNeighbour(table, address);
  }
  const table = await run('arp', ['-a', ...(process.platform === 'win32' ? [] : ['-n'])]);
  return table === undefined ? notTold : printedNeighbour(table, address);
}

/** Looks an address up in Linux's /proc/net/arp. An entry without the flag ATF_COM was asked for and not answered. */
export function linuxNeighbour(table: string, address: string) {
  for (const line of table.split('\n').slice(1)) {
    const [ip, , flags = '0', mac = ''] = line.trim().split(/\s+/);
    if (ip !== address) continue;
    return (parseInt(flags, 16) & 2) !== 0
      ? ({ neighbour: 'known', mac } as const)
      : ({ neighbour: 'missing', mac: undefined } as const);
  }
  return { neighbour: 'missing', mac: undefined } as const;
}

/** Looks an address up in what `arp -a` prints on macOS and Windows. */
export function printedNeighbour(table: string, address: string) {
  for (const line of table.split('\n')) {
    if (!line.split(/[\s()]+/).includes(address)) continue;
    const mac = /([0-9a-f]{1,2}[:-]){5}[0-9a-f]{1,2}/i.exec(line)?.[0];
    return mac ? ({ neighbour: 'known', mac } as const) : ({ neighbour: 'missing', mac: undefined } as const);
  }
  return { neighbour: 'missing', mac: undefined } as const;
}
