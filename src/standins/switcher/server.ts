import { createServer, type Server, type Socket } from 'node:net';
import { encodeLine, LineFramer } from '../../core/wire';
import type { HouseSync } from '../house-sync';
import { firmware, SwitcherModel, type SwitcherCommand, type SwitcherField } from './model';
import { allFields, hail, parseRequest, reportOf, type Request } from './protocol';

const framing = { ending: 'crlf', encoding: 'utf-8', maxFrameBytes: 512 } as const;

export interface SwitcherOptions {
  readonly sync: HouseSync;
  readonly host: string;
  /** 0 picks a free port. */
  readonly port: number;
}

/** The vision switcher on a real socket: many controllers at once, each told of every change, whoever made it. */
export class SwitcherStandin {
  private readonly model = new SwitcherModel((fields) => this.broadcast(fields));
  private readonly clients = new Set<Socket>();
  private readonly watchers = new Set<() => void>();
  private server: Server | undefined;
  private readonly stopFrames: () => void;
  private portInUse: number;
  private changing: Promise<void> = Promise.resolve();

  constructor(private readonly options: SwitcherOptions) {
    this.portInUse = options.port;
    this.stopFrames = options.sync.onFrame(() => this.model.frame());
  }

  get port(): number {
    return this.portInUse;
  }

  /** What it would look like from outside, for its page and for tests. */
  get view() {
    return {
      ...this.model.state,
      power: this.server !== undefined,
      controllers: this.clients.size,
      port: this.portInUse,
    };
  }

  /** Switches it on or off. Off, its port is closed, as with a device without power; it keeps its settings. */
  setPower(on: boolean): Promise<void> {
    this.changing = this.changing.then(() => (on ? this.listen() : this.unlisten())).then(() => this.tell());
    return this.changing;
  }

  /** Operates it by hand. Returns the reason when it refuses. */
  operate(command: SwitcherCommand): string | undefined {
    return this.model.request(command)?.text;
  }

  /** Calls `watcher` after each change, of the model or the connections. Returns the way to stop that. */
  watch(watcher: () => void): () => void {
    this.watchers.add(watcher);
    return () => void this.watchers.delete(watcher);
  }

  /** For tests: sends bytes as they are to every controller. */
  sendRaw(bytes: Uint8Array): void {
    for (const client of this.clients) client.write(bytes);
  }

  /** For tests: breaks every connection without a goodbye; the port stays open. */
  drop(): void {
    for (const client of this.clients) client.resetAndDestroy();
  }

  async stop(): Promise<void> {
    this.stopFrames();
    await this.setPower(false);
    this.watchers.clear();
  }

  private listen(): Promise<void> {
    if (this.server) return Promise.resolve();
    const server = createServer((socket) => this.welcome(socket));
    return new Promise((resolve, reject) => {
      server.once('error', reject);
      server.listen(this.portInUse, this.options.host, () => {
        const address = server.address();
        if (address && typeof address === 'object') this.portInUse = address.port;
        this.server = server;
        resolve();
      });
    });
  }

  private unlisten(): Promise<void> {
    const { server } = this;
    if (!server) return Promise.resolve();
    this.server = undefined;
    for (const client of this.clients) client.destroy();
    return new Promise((resolve) => void server.close(() => resolve()));
  }

  private welcome(socket: Socket): void {
    socket.setNoDelay(true);
    const framer = new LineFramer(framing);
    this.clients.add(socket);
    this.tell();
    send(socket, hail);
    socket.on('data', (chunk) => {
      for (const frame of framer.push(chunk)) {
        if (frame.kind === 'overlong') send(socket, 'FAIL 41 line too long');
        else if (frame.malformed) send(socket, 'FAIL 11 not understood');
        else this.onLine(socket, frame.text);
      }
      // A controller that does not read its reports is let go rather than buffered for ever.
      if (socket.writableLength > 1_000_000) socket.destroy();
    });
    socket.on('error', () => socket.destroy());
    socket.on('close', () => {
      this.clients.delete(socket);
      this.tell();
    });
  }

  private onLine(socket: Socket, line: string): void {
    const request = parseRequest(line);
    if ('code' in request) send(socket, `FAIL ${request.code} ${request.text}`);
    else this.answer(socket, request);
  }

  private answer(socket: Socket, request: Request): void {
    if (request.verb === 'alive') return send(socket, 'DONE');
    if (request.verb === 'ask') {
      send(socket, `NOW firmware ${firmware}`);
      for (const field of allFields) send(socket, reportOf(field, this.model.state));
      return send(socket, 'DONE');
    }
    const refusal = this.model.request(request);
    send(socket, refusal ? `FAIL ${refusal.code} ${refusal.text}` : 'DONE');
  }

  private broadcast(fields: readonly SwitcherField[]): void {
    // While a mix runs its position changes at each frame; controllers are told of its start and its end only.
    const { mixed } = this.model.state;
    const told = fields.filter((field) => field !== 'mix' || mixed === null || mixed === 0);
    for (const field of told) {
      const line = reportOf(field, this.model.state);
      for (const client of this.clients) send(client, line);
    }
    this.tell();
  }

  private tell(): void {
    for (const watcher of this.watchers) watcher();
  }
}

function send(socket: Socket, line: string): void {
  const encoded = encodeLine(line, framing);
  if (encoded.ok && socket.writable) socket.write(encoded.value);
}
