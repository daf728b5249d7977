import type { Server, Socket } from 'node:net';

/** Listens; resolves with the port, which the system chooses for 0. Rejects when the port is in use. */
export function listen(server: Server, host: string, port: number): Promise<number> {
  return new Promise((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, host, () => {
      const address = server.address();
      resolve(address && typeof address === 'object' ? address.port : port);
    });
  });
}

/** Ends a server with all of its connections. */
export function shutDown(server: Server | undefined, sockets: Iterable<Socket>): Promise<void> {
  for (const socket of sockets) socket.destroy();
  return new Promise((resolve) => (server ? void server.close(() => resolve()) : resolve()));
}
