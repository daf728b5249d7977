import { timingSafeEqual } from 'node:crypto';
import { setMaxListeners } from 'node:events';
import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http';
import { probeOrderSchema } from '../core/diagnosis';
import { carryOut } from './orders';

const maxBodyBytes = 256 * 1024;

/**
 * The prober's private end: on loopback, with the token of this start. An order is the body of a request; its answers come as
 * lines of JSON as they are found. Whoever ends the connection ends the work.
 */
export function serveProber(
  port: number,
  token: string,
  onFault: (cause: unknown) => void = () => undefined,
): Promise<Server> {
  const expected = Buffer.from(`Bearer ${token}`);
  const server = createServer((req, res) => {
    const given = Buffer.from(req.headers.authorization ?? '');
    if (given.length !== expected.length || !timingSafeEqual(given, expected)) return void res.writeHead(403).end();
    void answer(req, res).catch((cause: unknown) => {
      // Whoever asked has hung up, or the work has failed.
      if (!res.destroyed) onFault(cause);
      res.destroy();
    });
  });
  server.requestTimeout = 0;
  return new Promise((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, '127.0.0.1', () => resolve(server));
  });
}

async function answer(req: IncomingMessage, res: ServerResponse): Promise<void> {
  const order = probeOrderSchema.safeParse(await readBody(req));
  if (!order.success) return void res.writeHead(400).end(order.error.issues[0]?.message);
  const gone = new AbortController();
  // Many tries at a time listen to it.
  setMaxListeners(0, gone.signal);
  res.on('close', () => gone.abort());
  res.writeHead(200, { 'content-type': 'application/x-ndjson' });
  await carryOut(order.data, (each) => void res.write(`${JSON.stringify(each)}\n`), gone.signal);
  res.end();
}

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
