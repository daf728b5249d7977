import { createServer } from 'node:http';
import next from 'next';
import { beChild, childVariables } from './child-messages';

/** The Next.js process: pages and actions, on a loopback port that only the front door uses. */
const dev = process.env[childVariables.mode] === 'dev';
const port = Number(process.env[childVariables.nextPort]);
const app = next({ dev, dir: process.cwd(), hostname: '127.0.0.1', port });
const server = createServer();
// Only the front door connects here, and it keeps its connections. Were this end to close an idle one, a request that is just
// being sent over it would be lost: the front door cannot repeat an edit, so it would have to answer that the desk is not there.
server.keepAliveTimeout = 0;
const tell = beChild(async () => {
  server.closeAllConnections();
  server.close();
  await Promise.race([app.close(), new Promise((resolve) => setTimeout(resolve, 1500))]);
});

await app.prepare();
const handle = app.getRequestHandler();
server.on('request', (req, res) => void handle(req, res));
if (dev) server.on('upgrade', (req, socket, head) => void app.getUpgradeHandler()(req, socket, head));
server.listen(port, '127.0.0.1', () => tell({ type: 'ready' }));
