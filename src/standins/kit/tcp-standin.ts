import { createServer, type Server, type Socket } from 'node:net';
import { isLost, Outlet } from './faults';
import { listen, shutDown } from './listen';
import { Standin } from './standin';

/** A controller that is connected to a stand-in. */
export interface Client {
  send(bytes: Uint8Array): void;
  /** Ends the connection once everything has gone out. */
  end(): void;
}

/** A controller that does not read is disconnected rather than buffered for ever. */
const maxUnsentBytes = 1_000_000;

/** A stand-in that listens on TCP, for any number of controllers. */
export abstract class TcpStandin extends Standin {
  private readonly sockets = new Map<Socket, Client>();
  private server: Server | undefined;

  /** A controller has connected. Returns what takes the bytes that it sends. */
  protected abstract welcome(client: Client): (chunk: Uint8Array) => void;
  /** A controller has gone. */
  protected farewell(_client: Client): void {}

  protected get clients(): Iterable<Client> {
    return this.sockets.values();
  }

  protected get controllers(): number {
    return this.sockets.size;
  }

  drop(): void {
    for (const socket of this.sockets.keys()) socket.resetAndDestroy();
  }

  sendRaw(bytes: Uint8Array): void {
    for (const socket of this.sockets.keys()) socket.write(bytes);
  }

  protected open(host: string, port: number): Promise<number> {
    const server = createServer((socket) => this.accept(socket));
    this.server = server;
    return listen(server, host, port);
  }

  protected shut(): Promise<void> {
    const { server } = this;
    this.server = undefined;
    return shutDown(server, this.sockets.keys());
  }

  private accept(socket: Socket): void {
    socket.setNoDelay(true);
    const outlet = new Outlet(
      () => this.faults,
      (bytes) => {
        if (socket.writable) socket.write(bytes);
        if (socket.writableLength > maxUnsentBytes) socket.destroy();
      },
    );
    const client: Client = { send: (bytes) => outlet.send(bytes), end: () => socket.end() };
    this.sockets.set(socket, client);
    socket.on('error', () => socket.destroy());
    socket.on('close', () => {
      this.sockets.delete(socket);
      this.farewell(client);
      this.tell();
    });
    const take = this.welcome(client);
    socket.on('data', (chunk) => {
      if (!isLost(this.faults.lossPercent)) take(chunk);
    });
    this.tell();
  }
}
