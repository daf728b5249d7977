import { createSocket } from 'node:dgram';
import { createServer, type Socket } from 'node:net';
import type { InletData } from '../../core/show';
import type { InletEnd, Listener } from './inlet-listener';

const connectionsMost = 16;
/** What a client has not read. */
const mostUnsentBytes = 65_536;

/** Sends bytes back. Returns them if they could be sent. */
export type SendBack = (bytes: Uint8Array) => Uint8Array | undefined;

/** What is served to one connection. */
interface Served {
  readonly onBytes: (chunk: Buffer) => void;
  readonly onClose: () => void;
}

/** Listens for connections over TCP from where they may come. `serve` is called for each. */
export function listenTcp(
  data: InletData,
  listener: Listener,
  serve: (from: string, send: SendBack, end: () => void) => Served,
): InletEnd {
  const open = new Set<Socket>();
  const server = createServer((socket) => {
    const address = socket.remoteAddress ?? '';
    const from = `${address}:${socket.remotePort ?? 0}`;
    if (!listener.mayComeFrom(address) || open.size >= connectionsMost) {
      listener.onRefused(from, open.size >= connectionsMost ? 'too many connections' : 'sender not allowed');
      socket.destroy();
      return;
    }
    open.add(socket);
    const send: SendBack = (bytes) => {
      // A client that does not read is disconnected before its answers fill the memory.
      if (socket.writableLength > mostUnsentBytes) socket.destroy();
      if (!socket.writable) return undefined;
      socket.write(bytes);
      return bytes;
    };
    const { onBytes, onClose } = serve(from, send, () => socket.destroy());
    socket.on('close', () => {
      open.delete(socket);
      onClose();
    });
    // A caller that goes away is nothing that anybody has to know.
    socket.on('error', () => socket.destroy());
    socket.on('data', onBytes);
  });
  server.on('error', (error) => listener.onPortFailed(error));
  server.listen(data.port, data.host, () => listener.onState('listening'));
  return {
    close: () => {
      server.close();
      for (const socket of open) socket.destroy();
    },
  };
}

/** Receives datagrams from where they may come. */
export function listenUdp(
  data: InletData,
  listener: Listener,
  onDatagram: (bytes: Buffer, from: string, send: SendBack) => void,
): InletEnd {
  const socket = createSocket(data.host.includes(':') ? 'udp6' : 'udp4');
  let isOpen = true;
  socket.on('error', (error) => listener.onPortFailed(error));
  socket.on('message', (bytes, { address, port }) => {
    const from = `${address}:${port}`;
    if (!listener.mayComeFrom(address)) return listener.onRefused(from, 'sender not allowed');
    onDatagram(bytes, from, (reply) => {
      if (!isOpen) return undefined;
      // An answer that cannot be sent is not missed: datagrams promise nothing.
      socket.send(reply, port, address, () => undefined);
      return reply;
    });
  });
  socket.bind(data.port, data.host, () => listener.onState('listening'));
  return {
    close: () => {
      isOpen = false;
      socket.close();
    },
  };
}
