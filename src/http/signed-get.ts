import { randomBytes } from 'node:crypto';
import { request as httpRequest, type IncomingMessage } from 'node:http';
import { request as httpsRequest } from 'node:https';
import { basicHeader, digestHeader, readChallenge } from '../core/wire';

/** What is fetched from a device, and with which sign-in. */
interface SignedGet {
  readonly secure?: boolean | undefined;
  readonly host: string;
  readonly port: number;
  readonly path: string;
  readonly user?: string | undefined;
  readonly password?: string | undefined;
  /** How long the device may say nothing; by default as long as the caller waits. */
  readonly timeoutMs?: number;
}

/**
 * Asks a device for something by GET and signs in as it asks: Basic (RFC 7617) or Digest (RFC 7616). The answer may have any status.
 * Rejects when none comes.
 */
export async function signedGet(order: SignedGet, signal: AbortSignal): Promise<IncomingMessage> {
  const { user, password = '' } = order;
  const res = await get(order, user === undefined ? undefined : basicHeader(user, password), signal);
  const challenge = res.statusCode === 401 ? readChallenge(String(res.headers['www-authenticate'] ?? '')) : undefined;
  if (!challenge || user === undefined) return res;
  res.resume();
  const cnonce = randomBytes(8).toString('hex');
  return get(
    order,
    digestHeader(challenge, { user, password, method: 'GET', uri: order.path, cnonce, count: 1 }),
    signal,
  );
}

function get(
  { secure, host, port, path, timeoutMs }: SignedGet,
  authorization: string | undefined,
  signal: AbortSignal,
): Promise<IncomingMessage> {
  return new Promise((resolve, reject) => {
    const headers = authorization === undefined ? {} : { authorization };
    // The certificates of devices are signed by nobody.
    const options = { host, port, path, signal, timeout: timeoutMs, headers };
    const req = secure
      ? httpsRequest({ ...options, rejectUnauthorized: false }, resolve)
      : httpRequest(options, resolve);
    req.on('timeout', () => req.destroy(new Error('It did not answer in time.')));
    req.on('error', reject);
    req.end();
  });
}
