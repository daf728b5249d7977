import { createServer, type RequestListener, type Server } from 'node:http';
import { createServer as createTlsServer, type Server as TlsServer } from 'node:https';
import { createServer as createTcpServer, type Server as TcpServer, type Socket } from 'node:net';
import type { Duplex } from 'node:stream';
import type { IncomingMessage } from 'node:http';
import { isLoopback } from '../engine';
import { ConnectionWatch, type ConnectionLimits } from './connection-watch';

/** The first byte of a TLS connection: a handshake record (RFC 8446, 5.1). */
const handshake = 0x16;
/** TLS 1.3 (RFC 8446, B.4), and of TLS 1.2 what has forward secrecy and authenticated encryption (RFC 7525, 4.2): no CBC. */
const ciphers = [
  'TLS_AES_128_GCM_SHA256',
  'TLS_AES_256_GCM_SHA384',
  'TLS_CHACHA20_POLY1305_SHA256',
  'ECDHE-ECDSA-AES128-GCM-SHA256',
  'ECDHE-RSA-AES128-GCM-SHA256',
  'ECDHE-ECDSA-AES256-GCM-SHA384',
  'ECDHE-RSA-AES256-GCM-SHA384',
  'ECDHE-ECDSA-CHACHA20-POLY1305',
  'ECDHE-RSA-CHACHA20-POLY1305',
].join(':');

interface TwoWayOptions {
  readonly onRequest: RequestListener;
  readonly onUpgrade: (req: IncomingMessage, socket: Duplex, head: Buffer) => void;
  /** Without it everything is plain. */
  readonly tls: { readonly cert: string; readonly key: string } | undefined;
  readonly limits?: ConnectionLimits;
}

/**
 * One port for both: plain HTTP for this computer itself, and TLS for all others. A plain request from elsewhere is sent to the same
 * address under TLS; a plain connection to `/live` from elsewhere is refused.
 */
export class TwoWayServer {
  private readonly plain: Server;
  private readonly secure: TlsServer | undefined;
  private readonly tcp: TcpServer | undefined;
  private readonly open = new Set<Socket>();

  private readonly watch: ConnectionWatch;

  constructor({ onRequest, onUpgrade, tls, limits }: TwoWayOptions) {
    this.watch = new ConnectionWatch(limits);
    const set = (server: Server | TlsServer, request: RequestListener, upgrade: TwoWayOptions['onUpgrade']) => {
      server.on('request', (req, res) => {
        this.watch.onRequest(req, res);
        request(req, res);
      });
      server.on('upgrade', (req: IncomingMessage, socket: Duplex, head: Buffer) => {
        this.watch.onUpgrade(req);
        upgrade(req, socket, head);
      });
      server.on('clientError', (_error: Error, socket: Duplex) => void socket.destroy());
      // The watch does that, in every mode alike.
      server.headersTimeout = 0;
      server.requestTimeout = 0;
    };
    this.plain = createServer();
    if (!tls) {
      set(this.plain, onRequest, onUpgrade);
      this.plain.on('connection', (socket) => void this.watch.onConnection(socket));
      return;
    }
    set(
      this.plain,
      (req, res) => (isLoopback(req.socket.remoteAddress) ? onRequest(req, res) : toTls(req, res)),
      (req, socket, head) =>
        isLoopback(req.socket.remoteAddress) ? onUpgrade(req, socket, head) : void socket.destroy(),
    );
    this.secure = createTlsServer({ ...tls, minVersion: 'TLSv1.2', ciphers });
    set(this.secure, onRequest, onUpgrade);
    this.secure.on('tlsClientError', (_error, socket) => void socket.destroy());
    this.tcp = createTcpServer({ noDelay: true }, (socket) => this.sort(socket));
  }

  listen(port: number, host: string): Promise<void> {
    const server = this.tcp ?? this.plain;
    return new Promise((resolve, reject) => {
      server.once('error', reject);
      server.listen(port, host, () => resolve());
    });
  }

  close(): void {
    this.watch.stop();
    (this.tcp ?? this.plain).close();
    this.plain.closeAllConnections();
    this.secure?.closeAllConnections();
    for (const socket of this.open) socket.destroy();
  }

  /** Looks at the first byte, puts it back, and hands the connection to the server that it is for. */
  private sort(socket: Socket): void {
    if (!this.watch.onConnection(socket)) return;
    this.open.add(socket);
    socket.on('close', () => this.open.delete(socket));
    socket.on('error', () => socket.destroy());
    socket.once('data', (chunk: Buffer) => {
      socket.pause();
      socket.unshift(chunk);
      (chunk[0] === handshake ? this.secure : this.plain)?.emit('connection', socket);
      setImmediate(() => socket.resume());
    });
  }
}

const toTls: RequestListener = (req, res) => {
  const { host = '' } = req.headers;
  // The host is only repeated where it is nothing but a name and a port.
  if (!/^[A-Za-z0-9.\-[\]:]+$/.test(host)) return void res.writeHead(400).end();
  res.writeHead(308, { location: `https://${host}${req.url ?? '/'}`, connection: 'close' });
  res.end('This address is reached over TLS: begin it with https.');
};
