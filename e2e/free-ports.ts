import { createServer } from 'node:net';

/** The first of so many free ports in a row. */
export async function freePorts(count: number): Promise<number> {
  const free = (port: number) =>
    new Promise<boolean>((resolve) => {
      const server = createServer();
      server.once('error', () => resolve(false));
      server.listen(port, '127.0.0.1', () => server.close(() => resolve(true)));
    });
  for (let port = 20_000 + Math.floor(Math.random() * 10_000); port < 32_000; port += count) {
    const all = await Promise.all(Array.from({ length: count }, (_, n) => free(port + n)));
    if (all.every(Boolean)) return port;
  }
  throw new Error('No free ports.');
}
