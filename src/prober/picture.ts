import { createHash, randomBytes } from 'node:crypto';
import { request, type IncomingMessage } from 'node:http';
import type { ProbeAnswers, ProbeOrder } from '../core/diagnosis';
import { basicHeader, digestHeader, readChallenge } from '../core/wire';

const maxPictureBytes = 1_048_576;
const types = /^image\/(jpeg|png|webp|gif|svg\+xml)\b/;

type Order = Extract<ProbeOrder, { do: 'picture' }>;

/**
 * Fetches a picture that a device hands out, signing in as the device asks (Basic or Digest). One that is the same as before is not handed on
 * again. Never rejects.
 */
export async function fetchPicture(order: Order, signal: AbortSignal): Promise<ProbeAnswers['picture']> {
  try {
    const { user, password = '' } = order;
    const res = await get(order, user === undefined ? undefined : basicHeader(user, password), signal);
    const challenge = res.statusCode === 401 ? readChallenge(String(res.headers['www-authenticate'] ?? '')) : undefined;
    if (!challenge || user === undefined) return await read(res, order.has);
    res.resume();
    const cnonce = randomBytes(8).toString('hex');
    const request = { user, password, method: 'GET', uri: order.path, cnonce, count: 1 };
    return await read(await get(order, digestHeader(challenge, request), signal), order.has);
  } catch (error) {
    return { hash: '', type: '', error: error instanceof Error ? error.message : String(error) };
  }
}

function get(
  { host, port, path, timeoutMs }: Order,
  authorization: string | undefined,
  signal: AbortSignal,
): Promise<IncomingMessage> {
  return new Promise((resolve, reject) => {
    const headers = authorization === undefined ? {} : { authorization };
    const req = request({ host, port, path, signal, timeout: timeoutMs, headers }, resolve);
    req.on('timeout', () => req.destroy(new Error('It did not answer in time.')));
    req.on('error', reject);
    req.end();
  });
}

async function read(res: IncomingMessage, has: string | undefined): Promise<ProbeAnswers['picture']> {
  const type = types.exec(res.headers['content-type'] ?? '')?.[0];
  if (res.statusCode !== 200 || type === undefined) {
    res.resume();
    throw new Error(res.statusCode === 200 ? 'The answer is not a picture.' : `It answered with ${res.statusCode}.`);
  }
  const chunks: Buffer[] = [];
  let bytes = 0;
  for await (const chunk of res as AsyncIterable<Buffer>) {
    bytes += chunk.length;
    if (bytes > maxPictureBytes) throw new Error('The picture is larger than 1 MB.');
    chunks.push(chunk);
  }
  const whole = Buffer.concat(chunks);
  const hash = createHash('sha256').update(whole).digest('hex');
  return hash === has ? { hash, type } : { hash, type, bytes: whole.toString('base64') };
}
