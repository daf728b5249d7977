import { createServer } from 'node:net';

/**
 * Ports below those that systems give to outgoing connections (RFC 6335, 6: dynamic ports from 49152; Linux begins at 32768). One of those
 * could be taken by any connection before it is listened on, and stay taken.
 */
const firstPort = 10_000;
const ports = 10_000;
const tries = 50;

/** A loopback port that is free now, and that no outgoing connection takes. */
export async function freePort(): Promise<number> {
  for (let n = 0; n < tries; n += 1) {
    const port = firstPort + Math.floor(Math.random() * ports);
    if (await isFree(port)) return port;
  }
  throw new Error(`None of ${tries} loopback ports from ${firstPort} to ${firstPort + ports - 1} is free.`);
}

const isFree = (port: number): Promise<boolean> =>
  new Promise((resolve) => {
    const server = createServer();
    server.once('error', () => resolve(false));
    server.listen(port, '127.0.0.1', () => server.close(() => resolve(true)));
  });
