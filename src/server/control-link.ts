import { createServer, type Server } from 'node:http';
import { timingSafeEqual } from 'node:crypto';

/**
 * The private link from Next.js to the engine: on loopback only, with a token made at each start. Next.js says that the
 * show has changed; the engine looks for itself what, and answers when it has it.
 */
export function serveControlLink(
  port: number,
  token: string,
  onShowChanged: () => Promise<void>,
  /** Starts or ends the stand-ins; resolves with why not, or with nothing. */
  onStandins: (on: boolean) => Promise<string | undefined>,
): Promise<Server> {
  const expected = Buffer.from(`Bearer ${token}`);
  const server = createServer((req, res) => {
    const given = Buffer.from(req.headers.authorization ?? '');
    const allowed = given.length === expected.length && timingSafeEqual(given, expected);
    req.resume();
    if (!allowed) res.writeHead(403).end();
    else if (req.method === 'POST' && req.url === '/show-changed') {
      void onShowChanged().then(() => res.writeHead(204).end());
    } else if (req.method === 'POST' && (req.url === '/standins-on' || req.url === '/standins-off')) {
      void onStandins(req.url === '/standins-on').then((why) =>
        why === undefined ? res.writeHead(204).end() : res.writeHead(409, { 'content-type': 'text/plain' }).end(why),
      );
    } else res.writeHead(404).end();
  });
  return new Promise((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, '127.0.0.1', () => resolve(server));
  });
}
