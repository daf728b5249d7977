import { createSocket } from 'node:dgram';
import { readdir, readFile, readlink } from 'node:fs/promises';
import { createServer } from 'node:net';

type Over = 'tcp' | 'udp';

/** The reason why a port cannot be opened, with what to try. @param hint who has it and which one is free, once that is known */
export function portFailure(
  { code }: NodeJS.ErrnoException,
  { port, host }: { readonly port: number; readonly host: string },
  { owner, free }: PortHint = {},
): string {
  const tries = free === undefined ? 'Choose another port' : `The next free port is ${free}`;
  if (code === 'EADDRINUSE') return `Port ${port} is in use${owner === undefined ? '' : ` by ${owner}`}. ${tries}.`;
  if (code === 'EADDRNOTAVAIL') return `This computer does not have the address ${host}.`;
  if (code === 'EACCES') return `This program may not open port ${port}. Choose a port above 1023.`;
  return `Port ${port} cannot be opened (${code ?? 'unknown reason'}).`;
}

export interface PortHint {
  readonly owner?: string | undefined;
  readonly free?: number | undefined;
}

/** The state of a listening socket in Linux's table. */
const listening = '0A';
/** At most so many processes are looked at: nobody waits for the answer for long. */
const mostProcesses = 2000;

/**
 * The name of the program that has a port of this computer, as its system tells it: on Linux, and of programs whose files may be read.
 * `undefined` where nobody says.
 */
export async function programAt(port: number, over: Over): Promise<string | undefined> {
  try {
    const inodes = await inodesAt(port, over);
    if (inodes.size === 0) return undefined;
    const processes = (await readdir('/proc')).filter((name) => /^\d+$/.test(name)).slice(0, mostProcesses);
    for (const id of processes) {
      const handles = await readdir(`/proc/${id}/fd`).catch(() => []);
      for (const handle of handles) {
        const target = await readlink(`/proc/${id}/fd/${handle}`).catch(() => '');
        if (!inodes.has(/^socket:\[(\d+)\]$/.exec(target)?.[1] ?? '')) continue;
        return (await readFile(`/proc/${id}/comm`, 'utf8')).trim() || undefined;
      }
    }
  } catch {
    // Another system, or one that shows nothing of others: then the port is taken, and that is all that is known.
  }
  return undefined;
}

async function inodesAt(port: number, over: Over): Promise<ReadonlySet<string>> {
  const wanted = port.toString(16).toUpperCase().padStart(4, '0');
  const found = new Set<string>();
  for (const table of [`/proc/net/${over}`, `/proc/net/${over}6`]) {
    const text = await readFile(table, 'utf8').catch(() => '');
    for (const line of text.split('\n').slice(1)) {
      const [, local = '', , state, , , , , , inode = ''] = line.trim().split(/\s+/);
      if (local.endsWith(`:${wanted}`) && (over === 'udp' || state === listening)) found.add(inode);
    }
  }
  return found;
}

/** The next port that can be opened here; `undefined` when the next twenty are taken, too. */
export async function nextFreePort(port: number, host: string, over: Over): Promise<number | undefined> {
  for (let next = port + 1; next <= Math.min(65_535, port + 20); next += 1)
    if (await isFree(next, host, over)) return next;
  return undefined;
}

const isFree = (port: number, host: string, over: Over): Promise<boolean> =>
  new Promise((resolve) => {
    if (over === 'tcp') {
      const server = createServer();
      server.once('error', () => resolve(false));
      server.listen(port, host, () => server.close(() => resolve(true)));
      return;
    }
    const socket = createSocket(host.includes(':') ? 'udp6' : 'udp4');
    socket.once('error', () => {
      socket.close();
      resolve(false);
    });
    socket.bind(port, host, () => socket.close(() => resolve(true)));
  });
