import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http';
import type { Socket } from 'node:net';
import { isLost } from './faults';
import { listen, shutDown } from './listen';
import { Standin } from './standin';

export interface HttpAsked {
  readonly method: string;
  readonly path: string;
  readonly headers: IncomingMessage['headers'];
  readonly body: string;
}

export interface HttpAnswer {
  readonly status: number;
  readonly body: string;
  readonly type: string;
  readonly headers?: Readonly<Record<string, string>>;
}

const maxBodyBytes = 16_384;

/** A stand-in that is spoken to over HTTP. */
export abstract class HttpStandin extends Standin {
  private server: Server | undefined;
  private readonly sockets = new Set<Socket>();
  private readonly streams = new Set<ServerResponse>();

  protected abstract answer(asked: HttpAsked): HttpAnswer | 'events';

  protected get controllers(): number {
    return this.sockets.size;
  }

  drop(): void {
    for (const socket of this.sockets) socket.resetAndDestroy();
  }

  sendRaw(bytes: Uint8Array): void {
    for (const stream of this.streams) stream.write(bytes);
  }

  /** Tells everybody who follows the events. */
  protected push(data: string): void {
    const { hang, delayMs, lossPercent, garbage } = this.faults;
    if (hang || isLost(lossPercent)) return;
    const text = garbage ? 'data: \u007f\u0015\u000b\n\n' : `data: ${data}\n\n`;
    const write = () => {
      for (const stream of this.streams) stream.write(text);
    };
    if (delayMs > 0) setTimeout(write, delayMs).unref();
    else write();
  }

  /** What a new follower hears first. */
  protected greeting(): string {
    return '';
  }

  protected open(host: string, port: number): Promise<number> {
    const server = createServer((req, res) => {
      this.take(req, res).catch(() => res.destroy());
    });
    server.on('connection', (socket) => {
      this.sockets.add(socket);
      socket.on('close', () => {
        this.sockets.delete(socket);
        this.tell();
      });
      this.tell();
    });
    this.server = server;
    return listen(server, host, port);
  }

  protected shut(): Promise<void> {
    const { server } = this;
    this.server = undefined;
    return shutDown(server, this.sockets);
  }

  private async take(req: IncomingMessage, res: ServerResponse): Promise<void> {
    let body = '';
    for await (const chunk of req) {
      body += String(chunk);
      if (body.length > maxBodyBytes) return void res.destroy();
    }
    const { hang, delayMs, garbage, lossPercent } = this.faults;
    if (hang || isLost(lossPercent)) return;
    const { method = 'GET', url = '/', headers } = req;
    const answer = this.answer({ method, path: url, headers, body });
    if (delayMs > 0) await new Promise((resolve) => setTimeout(resolve, delayMs));
    if (answer === 'events') {
      res.writeHead(200, { 'content-type': 'text/event-stream', 'cache-control': 'no-store' });
      this.streams.add(res);
      res.on('close', () => this.streams.delete(res));
      res.write(`data: ${this.greeting()}\n\n`);
      return;
    }
    const { status, type } = answer;
    res.writeHead(status, { 'content-type': type, ...answer.headers });
    res.end(garbage ? '\u007f\u0015\u000b' : answer.body);
  }
}
