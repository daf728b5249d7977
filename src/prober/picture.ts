import type { IncomingMessage } from 'node:http';
import type { ProbeAnswers, ProbeOrder } from '../core/diagnosis';
import { signedGet } from '../http';

const maxPictureBytes = 1_048_576;
const types = /^image\/(jpeg|png|webp|gif|svg\+xml)\b/;

type Order = Extract<ProbeOrder, { do: 'picture' }>;

/**
 * Fetches a picture that a device hands out, signing in as the device asks (Basic or Digest). Never rejects.
 */
export async function fetchPicture(order: Order, signal: AbortSignal): Promise<ProbeAnswers['picture']> {
  try {
    return await read(await signedGet(order, signal));
  } catch (error) {
    return { type: '', bytes: '', error: error instanceof Error ? error.message : String(error) };
  }
}

async function read(res: IncomingMessage): Promise<ProbeAnswers['picture']> {
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
  return { type, bytes: Buffer.concat(chunks).toString('base64') };
}
