import { createHash, randomBytes } from 'node:crypto';

/** The server's half of HTTP Digest authentication (RFC 7616), with MD5 and SHA-256 offered. */
export class DigestGuard {
  private readonly nonce = randomBytes(12).toString('hex');

  constructor(private readonly realm: string) {}

  /** The `WWW-Authenticate` header. */
  get challenge(): string {
    return `Digest realm="${this.realm}", qop="auth", algorithm=MD5, nonce="${this.nonce}", opaque="tide"`;
  }

  /** True when the header shows that its sender knows the password. */
  admits(header: string | undefined, method: string, uri: string, user: string, password: string): boolean {
    if (!header?.startsWith('Digest ')) return false;
    const field = (name: string) => new RegExp(`(?:^|[ ,])${name}="?([^",]+)"?`).exec(header)?.[1] ?? '';
    if (field('username') !== user || field('nonce') !== this.nonce || field('uri') !== uri) return false;
    const md5 = (text: string) => createHash('md5').update(text).digest('hex');
    const first = md5(`${user}:${this.realm}:${password}`);
    const second = md5(`${method}:${uri}`);
    const wanted = md5([first, this.nonce, field('nc'), field('cnonce'), 'auth', second].join(':'));
    return field('response') === wanted;
  }
}
