import { readFileSync } from 'node:fs';
import type { IncomingMessage, ServerResponse } from 'node:http';
import type { Socket } from 'node:net';
import { join } from 'node:path';
import { Transform, type Duplex } from 'node:stream';
import { gzipSync } from 'node:zlib';
import { createProxyServer } from 'httpxy';
import { maxShowFileBytes } from '../core/show';
import sirv from 'sirv';
import {
  apiOf,
  type Engine,
  Gate,
  type GateSettings,
  isLoopback,
  type Principal,
  type Refused,
  sessionCookie,
} from '../engine';
import { answerJoin } from './join-page';
import { panelIcon, panelManifest } from './panel-manifest';
import { principalHeader, signPrincipal } from './principal-header';
import type { ConnectionLimits } from './connection-watch';
import { SecurityHeaders } from './security-headers';
import { TwoWayServer } from './two-way-server';

/** The page that every panel starts from. */
interface PanelShell {
  readonly plain: Buffer;
  readonly compressed: Buffer;
}

interface FrontDoorOptions {
  readonly gate: GateSettings;
  readonly engine: Engine;
  readonly nextPort: number;
  /** The relay of live pictures. */
  readonly picturesPort: number;
  readonly token: string;
  /** The project's folder, for the panel's shell and static files of the build; `undefined` while developing. */
  readonly builtIn: string | undefined;
  /** What others are answered under; without it everybody is answered plainly. */
  readonly tls?: { readonly cert: string; readonly key: string };
  readonly limits?: ConnectionLimits;
}

const maxPassedBodyBytes = 8 * 1024 * 1024;
/** A show file has pictures in it; a little more than the program takes, so that it can say so itself. */
const maxShowBodyBytes = maxShowFileBytes + 1024 * 1024;
const maxBodyOf = (req: IncomingMessage): number =>
  /^\/desk\/show-file(\?|$)/.test(req.url ?? '') ? maxShowBodyBytes : maxPassedBodyBytes;

/**
 * The public port. Everything passes the gate; `/live`, `/api` and pictures are answered by the engine in this process, the
 * panel's shell and the static files from disk, and the rest by Next.js.
 */
export class FrontDoor {
  private readonly server: TwoWayServer;
  private readonly api: ReturnType<typeof apiOf>;
  private readonly gate: Gate;
  private readonly proxy;
  private readonly pictures;
  private readonly target: string;
  private readonly panelShell: PanelShell | undefined;
  private readonly headers: SecurityHeaders;
  private readonly statics: ReturnType<typeof sirv> | undefined;

  constructor(private readonly options: FrontDoorOptions) {
    this.gate = new Gate(options.gate, options.token, options.engine.panels.whoIs, options.engine.wrongKeys);
    this.api = apiOf(options.engine.api);
    this.headers = new SecurityHeaders(options.builtIn);
    this.target = `http://127.0.0.1:${options.nextPort}`;
    this.proxy = createProxyServer({ target: this.target, xfwd: false, changeOrigin: false });
    // Next.js may be starting: its ending is logged by the supervisor.
    this.proxy.on('error', (_error, _req, res) => res && 'writeHead' in res && unavailable(res as ServerResponse));
    const relay = `http://127.0.0.1:${options.picturesPort}`;
    this.pictures = createProxyServer({ target: relay, xfwd: false, changeOrigin: false });
    // A relay that has ended comes back; the screen calls it again.
    this.pictures.on('error', () => undefined);
    if (options.builtIn) {
      const plain = readFileSync(join(options.builtIn, 'dist/panel-shell.html'));
      this.panelShell = { plain, compressed: gzipSync(plain) };
      this.statics = sirv(join(options.builtIn, '.next/static'), {
        immutable: true,
        maxAge: 31_536_000,
        etag: true,
        // The build puts compressed copies beside the files.
        brotli: true,
        gzip: true,
      });
    }
    this.server = new TwoWayServer({
      onRequest: (req, res) => this.onRequest(req, res),
      onUpgrade: (req, socket, head) => this.onUpgrade(req, socket, head),
      tls: options.tls,
      ...(options.limits ? { limits: options.limits } : {}),
    });
  }

  listen(): Promise<void> {
    return this.server.listen(this.options.gate.port, this.options.gate.host);
  }

  close(): void {
    this.server.close();
  }

  private onRequest(req: IncomingMessage, res: ServerResponse): void {
    const url = req.url ?? '/';
    const { engine } = this.options;
    this.headers.set(req, res, 'encrypted' in req.socket);
    const request = { remoteAddress: req.socket.remoteAddress, headers: req.headers, url };
    if (url.startsWith('/join/')) {
      const wrong = this.gate.check(request);
      if (wrong && !wrong.ok) return this.refuse(res, req, wrong.error);
      if (answerJoin(req, res, engine, this.options.tls !== undefined)) return;
    }
    const admitted = this.gate.admit(request);
    if (!admitted.ok) return this.refuse(res, req, admitted.error);
    const asked = this.options.gate.keyOnLoopback || !isLoopback(req.socket.remoteAddress);
    if (req.headers.authorization?.toLowerCase().startsWith('basic ') && asked) {
      // Browsers do not always repeat the password for a WebSocket; the cookie goes with every request.
      res.setHeader(
        'set-cookie',
        `${sessionCookie}=${this.gate.cookie}; HttpOnly; SameSite=Strict; Path=/${this.options.tls ? '; Secure' : ''}`,
      );
    }
    if (url.startsWith('/api/') || /^\/metrics(\?|$)/.test(url)) return void this.api(req, res, admitted.value);
    if (this.panelShell && (url === '/panel' || /^\/panel[/?]/.test(url)) && isRead(req))
      return this.servePanel(req, res, this.panelShell);
    if (/^\/panel\.webmanifest(\?|$)/.test(url) && isRead(req)) return this.serveManifest(res, url);
    if (url === '/panel-icon.svg' && isRead(req)) return this.serveIcon(res);
    if (this.statics && url.startsWith('/_next/static/') && isRead(req)) {
      req.url = url.slice('/_next/static'.length);
      return this.statics(req, res, () => notFound(res));
    }
    const hash = /^\/pictures\/([0-9a-f]{64})$/.exec(url)?.[1];
    if (hash !== undefined && isRead(req)) return void this.servePicture(res, hash);
    this.pass(req, res, admitted.value);
  }

  /** A picture's address is its content, so that it is fetched once and kept. */
  private async servePicture(res: ServerResponse, hash: string): Promise<void> {
    const picture = await this.options.engine.picture(hash);
    if (!picture) return notFound(res);
    res.writeHead(200, {
      'content-type': picture.type,
      'content-length': picture.bytes.length,
      'cache-control': 'public, max-age=31536000, immutable',
      'x-content-type-options': 'nosniff',
      // A drawing from a device may hold scripts; looked at by itself it runs none.
      'content-security-policy': "default-src 'none'; style-src 'unsafe-inline'; sandbox; frame-ancestors 'none'",
    });
    res.end(picture.bytes);
  }

  private serveManifest(res: ServerResponse, url: string): void {
    const path = /[?&]panel=([a-z0-9-]{1,30})(&|$)/.exec(url)?.[1] ?? 'all';
    const text = JSON.stringify(panelManifest(path, this.options.engine.panels.nameAt(path)));
    res.writeHead(200, { 'content-type': 'application/manifest+json; charset=utf-8', 'cache-control': 'no-cache' });
    res.end(text);
  }

  private serveIcon(res: ServerResponse): void {
    res.writeHead(200, { 'content-type': 'image/svg+xml', 'cache-control': 'public, max-age=86400' });
    res.end(panelIcon);
  }

  private servePanel(req: IncomingMessage, res: ServerResponse, { plain, compressed }: PanelShell): void {
    const takesGzip = /\bgzip\b/i.test(String(req.headers['accept-encoding']));
    const body = takesGzip ? compressed : plain;
    res.writeHead(200, {
      'content-type': 'text/html; charset=utf-8',
      'content-length': body.length,
      ...(takesGzip ? { 'content-encoding': 'gzip' } : {}),
      vary: 'accept-encoding',
      'cache-control': 'no-cache',
    });
    res.end(body);
  }

  private pass(req: IncomingMessage, res: ServerResponse, principal: Principal): void {
    const most = maxBodyOf(req);
    if (Number(req.headers['content-length'] ?? 0) > most) {
      res.writeHead(413, { 'content-type': 'text/plain; charset=utf-8', connection: 'close' });
      return void res.end(`A request may have ${most} bytes at most.`);
    }
    this.identify(req, principal);
    // A body that does not say its length is counted on the way.
    const counted = req.headers['transfer-encoding'] ? { buffer: req.pipe(counting(req)) } : {};
    this.proxy.web(req, res, counted).catch(() => unavailable(res));
  }

  private onUpgrade(req: IncomingMessage, socket: Duplex, head: Buffer): void {
    socket.on('error', () => socket.destroy());
    const url = req.url ?? '/';
    const admitted = this.gate.admit({ remoteAddress: req.socket.remoteAddress, headers: req.headers, url });
    if (!admitted.ok) {
      this.note(req, admitted.error);
      socket.end(`HTTP/1.1 ${admitted.error.status} Refused\r\nConnection: close\r\nContent-Length: 0\r\n\r\n`);
      return;
    }
    if (/^\/live(\?|$)/.test(url)) {
      (socket as Socket).setNoDelay(true);
      return this.options.engine.hub.accept(req, socket, head, admitted.value);
    }
    this.identify(req, admitted.value);
    const isPicture = /^\/pictures\/live(\?|$)/.test(url);
    const proxy = isPicture ? this.pictures : this.proxy;
    proxy.ws(req, socket as Socket, {}, head).catch(() => socket.destroy());
  }

  private refuse(res: ServerResponse, req: IncomingMessage, refused: Refused): void {
    this.note(req, refused);
    refuse(res, req.url ?? '/', refused);
  }

  /** A browser that has not shown the key yet is asked for it; everything else that is turned away is recorded. */
  private note(req: IncomingMessage, { code }: Refused): void {
    if (code === 'key-needed' && !req.headers.authorization) return;
    const path = (req.url ?? '/')
      .split('?', 1)[0]
      ?.replace(/^(\/join\/).*/, '$1…')
      .slice(0, 80);
    this.options.engine.panels.refused(
      `${code}, ${req.method ?? ''} ${path ?? ''} from ${req.socket.remoteAddress ?? '?'}`,
    );
  }

  private identify(req: IncomingMessage, { kind }: Principal): void {
    for (const name of Object.keys(req.headers)) if (name.startsWith('x-sorrelfinch-')) delete req.headers[name];
    req.headers[principalHeader] = signPrincipal(kind, this.options.token);
  }
}

function counting(req: IncomingMessage): Transform {
  let bytes = 0;
  return new Transform({
    transform(chunk: Buffer, _encoding, done) {
      bytes += chunk.length;
      if (bytes > maxBodyOf(req)) req.destroy();
      else done(null, chunk);
    },
  });
}

const isRead = (req: IncomingMessage): boolean => req.method === 'GET' || req.method === 'HEAD';

function notFound(res: ServerResponse): void {
  res.writeHead(404, { 'content-type': 'text/plain; charset=utf-8', 'cache-control': 'no-store' });
  res.end('There is no such file.');
}

function refuse(res: ServerResponse, url: string, refused: Refused): void {
  const api = url.startsWith('/api/');
  res.writeHead(refused.status, {
    'content-type': api ? 'application/json; charset=utf-8' : 'text/plain; charset=utf-8',
    connection: 'close',
    ...(refused.afterMs === undefined ? {} : { 'retry-after': String(Math.ceil(refused.afterMs / 1000)) }),
    ...(refused.status === 401 ? { 'www-authenticate': 'Basic realm="Sorrelfinch", charset="UTF-8"' } : {}),
  });
  res.end(api ? JSON.stringify({ error: { code: refused.code, message: refused.message } }) : refused.message);
}

const waitingPage = `<!doctype html><html lang="en"><head><meta charset="utf-8"><meta http-equiv="refresh" content="2"><title>Sorrelfinch</title>
<style>body{font:16px/1.5 sans-serif;max-width:36rem;margin:15vh auto;padding:0 1rem;background:#1c1917;color:#ede6dc}a{color:#e6b98f}</style></head>
<body><h1>The desk is starting</h1><p>This page tries again every two seconds. Panels go on working meanwhile:
<a href="/panel">open a panel</a>.</p></body></html>`;

/** Next.js is not there: say so, and try again. What runs in the engine goes on. */
function unavailable(res: ServerResponse): void {
  if (res.headersSent || res.destroyed) return void res.destroy();
  res.writeHead(503, { 'content-type': 'text/html; charset=utf-8', 'retry-after': '2', 'cache-control': 'no-store' });
  res.end(waitingPage);
}
