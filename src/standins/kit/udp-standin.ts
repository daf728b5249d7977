import { createSocket, type RemoteInfo, type Socket } from 'node:dgram';
import { isLost, Outlet } from './faults';
import { Standin } from './standin';

/** The sender of a datagram; answers go back there. */
export interface Peer {
  readonly key: string;
  send(bytes: Uint8Array): void;
}

const maxPeers = 64;

/** A stand-in that listens for datagrams and answers their senders. */
export abstract class UdpStandin extends Standin {
  private readonly known = new Map<string, Peer>();
  private socket: Socket | undefined;

  protected abstract onDatagram(peer: Peer, bytes: Uint8Array): void;

  protected get peers(): Iterable<Peer> {
    return this.known.values();
  }

  protected get controllers(): number {
    return this.known.size;
  }

  /** There is no connection to break: the peers are forgotten, and with them what was kept for them. */
  drop(): void {
    this.known.clear();
    this.tell();
  }

  sendRaw(bytes: Uint8Array): void {
    for (const peer of this.known.values()) peer.send(bytes);
  }

  protected open(host: string, port: number): Promise<number> {
    const socket = createSocket(host.includes(':') ? 'udp6' : 'udp4');
    return new Promise((resolve, reject) => {
      socket.once('error', reject);
      socket.bind(port, host, () => {
        socket.off('error', reject);
        // A controller that went away answers with an ICMP message; nothing follows from that.
        socket.on('error', () => undefined);
        socket.on('message', (bytes, from) => this.onMessage(socket, bytes, from));
        this.socket = socket;
        resolve(socket.address().port);
      });
    });
  }

  protected shut(): Promise<void> {
    const { socket } = this;
    this.socket = undefined;
    this.known.clear();
    return new Promise((resolve) => (socket ? void socket.close(() => resolve()) : resolve()));
  }

  private onMessage(socket: Socket, bytes: Uint8Array, from: RemoteInfo): void {
    if (isLost(this.faults.lossPercent)) return;
    const key = `${from.address} ${from.port}`;
    let peer = this.known.get(key);
    if (!peer) {
      const outlet = new Outlet(
        () => this.faults,
        (out) => this.socket === socket && socket.send(out, from.port, from.address, () => undefined),
      );
      peer = { key, send: (out) => outlet.send(out) };
      this.known.set(key, peer);
      if (this.known.size > maxPeers) this.known.delete(this.known.keys().next().value ?? '');
      this.tell();
    }
    this.onDatagram(peer, bytes);
  }
}
