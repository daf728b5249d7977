import { createHash, randomBytes } from 'node:crypto';
import { existsSync, readdirSync, readFileSync } from 'node:fs';
import type { IncomingMessage, ServerResponse } from 'node:http';
import { join, relative } from 'node:path';

/** What a page may do besides what it asks for itself: hand gear, a screen that stays awake and full; nothing that listens or looks. */
const permissions = [
  ...['midi', 'gamepad', 'screen-wake-lock', 'fullscreen', 'clipboard-write', 'clipboard-read'].map(
    (each) => `${each}=(self)`,
  ),
  ...['camera', 'microphone', 'geolocation', 'payment', 'usb', 'serial', 'bluetooth', 'display-capture'].map(
    (each) => `${each}=()`,
  ),
].join(', ');

const always: Readonly<Record<string, string>> = {
  'x-content-type-options': 'nosniff',
  // With no referrer at all a browser would not say where a form comes from either.
  'referrer-policy': 'same-origin',
  'permissions-policy': permissions,
  'cross-origin-opener-policy': 'same-origin',
  'cross-origin-resource-policy': 'same-origin',
  'x-frame-options': 'DENY',
};
const hsts = 'max-age=31536000';

/**
 * The headers that go with everything that is handed out: no page of another origin can frame it or have it run scripts of its own (Content
 * Security Policy Level 3). Pages that were made in the build have their inline scripts allowed by hash, others by a nonce of their own.
 */
export class SecurityHeaders {
  /** By path, the hashes of the inline scripts of the page that was built for it. */
  private readonly hashes: ReadonlyMap<string, string>;

  /** @param builtIn the project's folder; without it, while developing, scripts may be inline and evaluated */
  constructor(private readonly builtIn: string | undefined) {
    this.hashes = builtIn === undefined ? new Map() : builtHashes(join(builtIn, '.next/server/app'));
  }

  /** Sets them on an answer, and tells Next.js the nonce on the request. A route that has a stricter policy sets its own after this. */
  set(req: IncomingMessage, res: ServerResponse, secure: boolean): void {
    for (const [name, value] of Object.entries(always)) res.setHeader(name, value);
    if (secure) res.setHeader('strict-transport-security', hsts);
    const policy = this.policyFor(req, secure);
    req.headers['content-security-policy'] = policy;
    res.setHeader('content-security-policy', policy);
  }

  private policyFor({ url = '/', headers: { host = '' } }: IncomingMessage, secure: boolean): string {
    const path = url.split('?', 1)[0] ?? '/';
    const built = this.hashes.get(/^\/panel\//.test(path) ? '/panel' : path === '/' ? '/index' : path);
    const scripts =
      this.builtIn === undefined
        ? "'unsafe-inline' 'unsafe-eval'"
        : (built ?? `'nonce-${randomBytes(16).toString('base64')}' ${this.hashes.get('/_not-found') ?? ''}`.trim());
    // Not every browser takes `self` for a WebSocket. The host is only repeated where it is nothing but a name and a port.
    const socket = /^[A-Za-z0-9.\-[\]:]+$/.test(host) ? ` ${secure ? 'wss' : 'ws'}://${host}` : '';
    return [
      "default-src 'none'",
      `script-src 'self' ${scripts}`,
      // Components set styles of single elements; those run nothing.
      "style-src 'self' 'unsafe-inline'",
      "img-src 'self' data: blob:",
      "font-src 'self'",
      `connect-src 'self'${socket}`,
      "manifest-src 'self'",
      "worker-src 'self' blob:",
      "form-action 'self'",
      "base-uri 'none'",
      "frame-ancestors 'none'",
    ].join('; ');
  }
}

/** The hashes of all inline scripts of all pages that were made in the build, by path, as they stand in a policy. */
function builtHashes(folder: string): ReadonlyMap<string, string> {
  if (!existsSync(folder)) return new Map();
  const pages = readdirSync(folder, { recursive: true, withFileTypes: true }).filter(
    (entry) => entry.isFile() && entry.name.endsWith('.html'),
  );
  return new Map(
    pages.map((entry) => {
      const file = join(entry.parentPath, entry.name);
      const path = `/${relative(folder, file)
        .replace(/\\/g, '/')
        .replace(/\.html$/, '')}`;
      const scripts = readFileSync(file, 'utf8').matchAll(/<script(?![^>]*\ssrc=)[^>]*>([\s\S]*?)<\/script>/g);
      return [path, [...scripts].map(([, text = '']) => `'sha256-${sha256(text)}'`).join(' ')];
    }),
  );
}

const sha256 = (text: string): string => createHash('sha256').update(text).digest('base64');
