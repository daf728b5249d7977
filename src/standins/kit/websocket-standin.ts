import { createServer, type Server } from 'node:http';
import { WebSocketServer, type WebSocket } from 'ws';
import { isLost, Outlet } from './faults';
import { listen, shutDown } from './listen';
import { Standin } from './standin';
import type { Client } from './tcp-standin';

const maxPayload = 65_536;
/** A controller that does not read is disconnected rather than buffered for ever. */
const maxUnsentBytes = 1_000_000;
const utf8 = new TextDecoder();

/** A stand-in that is spoken to in text messages over WebSocket, by any number of controllers. */
export abstract class WebSocketStandin extends Standin {
  /** The path at which it takes connections. */
  protected abstract readonly path: string;
  private readonly sockets = new Map<WebSocket, Client>();
  private server: Server | undefined;
  private door: WebSocketServer | undefined;

  /** A controller has connected. Returns what takes the messages that it sends. */
  protected abstract welcome(client: Client): (text: string) => void;

  protected get clients(): Iterable<Client> {
    return this.sockets.values();
  }

  protected get controllers(): number {
    return this.sockets.size;
  }

  drop(): void {
    for (const socket of this.sockets.keys()) socket.terminate();
  }

  sendRaw(bytes: Uint8Array): void {
    for (const socket of this.sockets.keys()) socket.send(bytes, { binary: false });
  }

  protected open(host: string, port: number): Promise<number> {
    const server = createServer((_, res) => void res.writeHead(404).end());
    const door = new WebSocketServer({ noServer: true, maxPayload });
    server.on('upgrade', (req, socket, head) => {
      socket.on('error', () => socket.destroy());
      if (req.url !== this.path) return void socket.end('HTTP/1.1 404 Not Found\r\nContent-Length: 0\r\n\r\n');
      door.handleUpgrade(req, socket, head, (ws) => this.accept(ws));
    });
    this.server = server;
    this.door = door;
    return listen(server, host, port);
  }

  protected shut(): Promise<void> {
    const { server } = this;
    this.server = undefined;
    this.door?.close();
    this.drop();
    return shutDown(server, []);
  }

  private accept(socket: WebSocket): void {
    const outlet = new Outlet(
      () => this.faults,
      (bytes) => {
        if (socket.readyState === socket.OPEN) socket.send(bytes, { binary: false });
        if (socket.bufferedAmount > maxUnsentBytes) socket.terminate();
      },
    );
    const client: Client = { send: (bytes) => outlet.send(bytes), end: () => socket.close(1000) };
    this.sockets.set(socket, client);
    socket.on('error', () => socket.terminate());
    socket.on('close', () => {
      this.sockets.delete(socket);
      this.tell();
    });
    const take = this.welcome(client);
    socket.on('message', (data) => {
      if (!isLost(this.faults.lossPercent)) take(utf8.decode(data as Buffer));
    });
    this.tell();
  }
}
