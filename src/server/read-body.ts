import type { IncomingMessage } from 'node:http';

const maxBodyBytes = 256 * 1024;

/** The JSON body of a request of our own processes. Rejects when it is longer than anything that they say. */
export async function readBody(req: IncomingMessage): Promise<unknown> {
  const chunks: Buffer[] = [];
  let bytes = 0;
  for await (const chunk of req as AsyncIterable<Buffer>) {
    bytes += chunk.length;
    if (bytes > maxBodyBytes) throw new Error('The order is too long.');
    chunks.push(chunk);
  }
  return JSON.parse(Buffer.concat(chunks).toString('utf8')) as unknown;
}
