import { createHmac, timingSafeEqual } from 'node:crypto';
import type { IncomingHttpHeaders } from 'node:http';
import { isIP } from 'node:net';
import { networkInterfaces } from 'node:os';
import { fail, ok, type Result } from '../../core/result';
import type { Joined } from './panel-access';

/**
 * Who is asking. Loopback is the desk; from elsewhere the access key makes a browser the desk and a program
 * automation. A panel has the rights of a panel only.
 */
export interface Principal {
  readonly kind: 'desk' | 'panel' | 'automation';
  /** It may show and press this panel, and nothing else. */
  readonly panel?: string;
  /** The screen that joined with a token. */
  readonly joined?: Joined;
}

export interface GateSettings {
  readonly port: number;
  /** The address that the front door listens on. */
  readonly host: string;
  readonly accessKey: string | undefined;
  /** Further host names under which this computer may be reached. */
  readonly allowedHosts: readonly string[];
  /** This computer has to show the access key as well: other people use it, too. */
  readonly keyOnLoopback?: boolean;
}

/** Who has given wrong keys. */
interface KeyWatch {
  readonly waitMs: (address: string) => number;
  readonly wrong: (address: string) => void;
  readonly right: (address: string) => void;
}

const nobody: KeyWatch = { waitMs: () => 0, wrong: () => undefined, right: () => undefined };

export interface GateRequest {
  readonly remoteAddress: string | undefined;
  readonly headers: IncomingHttpHeaders;
  readonly url: string;
}

export interface Refused {
  readonly status: 400 | 401 | 403 | 429;
  readonly code:
    'bad-host' | 'foreign-origin' | 'key-needed' | 'forged-header' | 'not-a-panels' | 'too-many-keys' | 'bad-path';
  readonly message: string;
  /** When to try again. */
  readonly afterMs?: number;
}

export const sessionCookie = 'sorrelfinch-session';
export const panelCookie = 'sorrelfinch-panel';
/** What a joined screen may ask for besides `/live`: what a panel is made of. */
const forPanels =
  /^\/(panel([/?.].*)?|live(\?.*)?|pictures\/(live(\?.*)?|[0-9a-f]{64})|_next\/static\/.*|panel-icon\.svg|favicon\.ico)$/;
const loopbackNames = ['localhost', '127.0.0.1', '[::1]'];

export const isLoopback = (address: string | undefined): boolean =>
  address !== undefined && (address === '::1' || address.replace(/^::ffff:/, '').startsWith('127.'));

/** The one place that every request passes: says who it is from, or turns it away. */
export class Gate {
  constructor(
    private readonly settings: GateSettings,
    /** Made anew at each start; signs the session cookie. */
    private readonly secret: string,
    /** Whose credential this is, of the screens that have joined. */
    private readonly whoIs: (credential: string) => Joined | undefined = () => undefined,
    private readonly keys: KeyWatch = nobody,
  ) {}

  admit(request: GateRequest): Result<Principal, Refused> {
    return this.check(request) ?? this.identify(request);
  }

  /** What is wrong with a request regardless of its sender; `undefined` when nothing is. */
  check(request: GateRequest): Result<never, Refused> | undefined {
    const { host } = request.headers;
    if (!isPlainPath(request.url))
      return fail({ status: 400, code: 'bad-path', message: 'The address has a path that is not plain.' });
    if (Object.keys(request.headers).some((name) => name.startsWith('x-sorrelfinch-')))
      return fail({
        status: 400,
        code: 'forged-header',
        message: 'Headers that begin with x-sorrelfinch are for this program alone.',
      });
    if (!host || !this.knowsHost(host)) {
      // A foreign name that points here is how a page on the network could reach this program through a browser.
      return fail({
        status: 403,
        code: 'bad-host',
        message: 'This program does not answer under that host name. ALLOWED_HOSTS can add it.',
      });
    }
    const { origin } = request.headers;
    if (origin !== undefined && !sameOrigin(origin, host)) {
      return fail({ status: 403, code: 'foreign-origin', message: 'A page of another site may not use this program.' });
    }
    return undefined;
  }

  /** The value of the cookie that a browser gets once it has shown the key. */
  get cookie(): string {
    return createHmac('sha256', this.secret)
      .update(`session:${this.settings.accessKey ?? ''}`)
      .digest('base64url');
  }

  private identify({ remoteAddress, headers, url }: GateRequest): Result<Principal, Refused> {
    const asPanel = /^(\/pictures)?\/live\?as=panel/.test(url) || /^\/panel([/?]|$)/.test(url);
    const { accessKey, keyOnLoopback } = this.settings;
    if (isLoopback(remoteAddress) && !(keyOnLoopback && accessKey)) return ok({ kind: asPanel ? 'panel' : 'desk' });
    const address = remoteAddress ?? '?';
    const waitMs = headers.authorization === undefined ? 0 : this.keys.waitMs(address);
    if (waitMs > 0)
      return fail({
        status: 429,
        code: 'too-many-keys',
        message: `Too many wrong access keys came from this address. Try again in ${Math.ceil(waitMs / 1000)} s.`,
        afterMs: waitMs,
      });
    const [scheme = '', credentials = ''] = (headers.authorization ?? '').split(' ');
    if (accessKey && scheme.toLowerCase() === 'bearer' && same(credentials, accessKey)) {
      this.keys.right(address);
      return ok({ kind: 'automation' });
    }
    const password =
      scheme.toLowerCase() === 'basic'
        ? Buffer.from(credentials, 'base64').toString().split(':').slice(1).join(':')
        : '';
    if (accessKey && same(password, accessKey)) this.keys.right(address);
    if (accessKey && (same(password, accessKey) || same(cookieOf(headers.cookie, sessionCookie), this.cookie))) {
      return ok({ kind: asPanel ? 'panel' : 'desk' });
    }
    const joined = this.whoIs(cookieOf(headers.cookie, panelCookie));
    if (joined) {
      if (forPanels.test(url)) return ok({ kind: 'panel', panel: joined.panel, joined });
      return fail({
        status: 403,
        code: 'not-a-panels',
        message: 'This screen has joined as a panel: it has that panel only.',
      });
    }
    if (headers.authorization !== undefined) this.keys.wrong(address);
    return fail({
      status: 401,
      code: 'key-needed',
      message: 'Show the access key: as the password in a browser, as a bearer token in a program.',
    });
  }

  private knowsHost(header: string): boolean {
    const name = header.replace(/:\d+$/, '').toLowerCase();
    if (loopbackNames.includes(name)) return true;
    if (this.settings.host === '127.0.0.1') return false;
    if (name === this.settings.host || this.settings.allowedHosts.includes(name)) return true;
    const bare = name.replace(/^\[|\]$/g, '');
    return isIP(bare) !== 0 && ownAddresses().includes(bare);
  }
}

/**
 * True for a path that means the same to everybody who reads it: no dot segments (RFC 3986, 5.2.4), empty segments or backslashes, and none
 * of them percent-encoded. Rights go by the path, so that one that is read in two ways could have two rights.
 */
function isPlainPath(url: string): boolean {
  const path = url.split(/[?#]/, 1)[0] ?? '';
  return path.startsWith('/') && !/\/\/|\\|%2e|%2f|%5c|%00|\/\.{1,2}(\/|$)/i.test(path);
}

const ownAddresses = (): string[] =>
  Object.values(networkInterfaces()).flatMap((list) => (list ?? []).map((entry) => entry.address));

function sameOrigin(origin: string, host: string): boolean {
  try {
    return new URL(origin).host === host.toLowerCase();
  } catch {
    return false;
  }
}

function same(a: string, b: string): boolean {
  const left = createHmac('sha256', 'compare').update(a).digest();
  const right = createHmac('sha256', 'compare').update(b).digest();
  return timingSafeEqual(left, right);
}

function cookieOf(header: string | undefined, wanted: string): string {
  for (const part of (header ?? '').split(';')) {
    const [name, value = ''] = part.trim().split('=');
    if (name === wanted) return value;
  }
  return '';
}
