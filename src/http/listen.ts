import { createServer, type Server } from 'node:http';
import type { Listener } from './app';

/** Serves an app on a port of its own; rejects when the port cannot be had. */
export function listen(app: Listener<undefined>, port: number, host = '127.0.0.1'): Promise<Server> {
  const server = createServer((req, res) => void app(req, res, undefined));
  return new Promise((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, host, () => resolve(server));
  });
}
