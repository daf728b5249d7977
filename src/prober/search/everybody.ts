import { createSocket, type RemoteInfo, type Socket } from 'node:dgram';
import { networkInterfaces } from 'node:os';

/** A question to everybody on a network: what is said, and where. */
interface Question {
  readonly say: Uint8Array;
  /** A multicast group; without one it goes to the broadcast address of each network. */
  readonly group?: string;
  readonly port: number;
  /** Answers come to the same port instead of the one that was sent from. */
  readonly answersToPort?: boolean;
}

const askEveryMs = 1000;

/**
 * Asks everybody on the networks of this computer, and again each second until the signal ends it. Never rejects: a network that cannot be asked is
 * left out.
 */
export async function askEverybody(
  { say, group, port, answersToPort = false }: Question,
  onAnswer: (message: Uint8Array, from: RemoteInfo) => void,
  signal: AbortSignal,
): Promise<void> {
  const networks = Object.values(networkInterfaces())
    .flatMap((list) => list ?? [])
    .filter(({ family, internal }) => family === 'IPv4' && !internal);
  const asked = networks.map(({ address, netmask }) => {
    const socket = createSocket({ type: 'udp4', reuseAddr: true });
    socket.on('error', () => undefined);
    socket.on('message', onAnswer);
    const to = group ?? broadcastOf(address, netmask);
    const ask = () => socket.send(say, port, to, () => undefined);
    // What is sent to a broadcast address reaches only a socket that is bound to any.
    socket.bind(answersToPort ? port : 0, answersToPort ? undefined : address, () => {
      if (group === undefined) socket.setBroadcast(true);
      else chooseInterface(socket, address);
      ask();
    });
    return { socket, ask };
  });
  const again = setInterval(() => asked.forEach(({ ask }) => ask()), askEveryMs);
  await new Promise<void>((resolve) => {
    if (signal.aborted) resolve();
    else signal.addEventListener('abort', () => resolve(), { once: true });
  });
  clearInterval(again);
  for (const { socket } of asked) socket.close();
}

function chooseInterface(socket: Socket, address: string): void {
  try {
    socket.setMulticastInterface(address);
  } catch {
    // An interface that went away meanwhile: the system's own choice is as good as any.
  }
}

function broadcastOf(address: string, netmask: string): string {
  const mask = netmask.split('.').map(Number);
  return address
    .split('.')
    .map((part, n) => (Number(part) | (~(mask[n] ?? 255) & 255)).toString())
    .join('.');
}
