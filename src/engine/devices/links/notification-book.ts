import { createSocket, type Socket } from 'node:dgram';

type Listener = (message: Uint8Array) => void;

interface Door {
  readonly socket: Socket;
  readonly listeners: Map<string, Set<Listener>>;
}

/** One socket a port, for all devices that send notifications to it. */
const doors = new Map<number, Door>();

/** IPv4 addresses as sockets of either family write them. */
const plain = (address: string): string => address.replace(/^::ffff:/i, '');

/**
 * Listens for the datagrams that the device at this address sends to a port of this computer by itself. Two devices at one address (behind one router)
 * cannot be told apart: then neither is heard. A port that is taken means no notifications and no fault: what they say is asked for as well.
 *
 * @returns stops it; may be called twice
 */
export function listenForNotifications(port: number, address: string, listener: Listener): () => void {
  const from = plain(address);
  const door = doors.get(port) ?? open(port);
  const there = door.listeners.get(from) ?? new Set();
  door.listeners.set(from, there.add(listener));
  return () => {
    if (!there.delete(listener)) return;
    if (there.size === 0) door.listeners.delete(from);
    if (door.listeners.size > 0 || doors.get(port) !== door) return;
    doors.delete(port);
    door.socket.close();
  };
}

function open(port: number): Door {
  const door: Door = { socket: createSocket({ type: 'udp4', reuseAddr: true }), listeners: new Map() };
  doors.set(port, door);
  door.socket.on('error', () => undefined);
  door.socket.on('message', (message, { address }) => {
    const there = [...(door.listeners.get(plain(address)) ?? [])];
    if (there.length === 1) there[0]?.(message);
  });
  door.socket.bind(port);
  door.socket.unref();
  return door;
}
