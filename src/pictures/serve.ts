import type { IncomingMessage, Server } from 'node:http';
import { WebSocketServer } from 'ws';
import { pictureSourcesSchema } from '../core/picture';
import { answerText, httpApp, listen, routeFor } from '../http';
import { Relay } from './relay';
import { Viewer } from './viewer';

const maxBodyBytes = 4 * 1024 * 1024;
const maxMessageBytes = 32 * 1024;
const route = routeFor<undefined>();

interface PictureServer {
  readonly server: Server;
  readonly stop: () => void;
}

interface Options {
  readonly port: number;
  /** Of this start; the engine shows it. */
  readonly token: string;
  /** Whether the front door has let a screen in. */
  readonly admits: (req: IncomingMessage) => boolean;
  /** Told of what went wrong here. */
  readonly onFault?: (cause: unknown) => void;
}

/**
 * The relay of pictures on loopback. The engine tells it where pictures are, and keeps the answer open: when that ends, this process has gone and
 * the next one has to be told again. Screens come in by the front door.
 */
export async function servePictures({
  port,
  token,
  admits,
  onFault = () => undefined,
}: Options): Promise<PictureServer> {
  const relay = new Relay();
  let supersede: () => void = () => undefined;
  const app = httpApp({
    bearer: token,
    maxBodyBytes,
    onFault,
    routes: [
      route({
        method: 'POST',
        path: '/sources',
        id: 'setSources',
        summary: 'Where pictures are. The answer lasts until the next one, or until this process ends.',
        body: { name: 'PictureSources', is: pictureSourcesSchema },
        answers: { description: 'Nothing, for as long as it holds.', type: 'text/plain' },
        handle: ({ body }) => {
          supersede();
          relay.setSources(body);
          return answerText(
            'text/plain',
            (tell, signal) =>
              new Promise((resolve) => {
                tell('taken\n');
                supersede = resolve;
                signal.addEventListener('abort', () => resolve());
              }),
            String,
          );
        },
      }),
    ],
  });
  const server = await listen(app, port);
  server.requestTimeout = 0;
  const door = new WebSocketServer({ noServer: true, maxPayload: maxMessageBytes, perMessageDeflate: false });
  server.on('upgrade', (req, socket, head) => {
    socket.on('error', () => socket.destroy());
    if (!/^\/pictures\/live(\?|$)/.test(req.url ?? '') || !admits(req))
      return void socket.end('HTTP/1.1 403 Forbidden\r\nConnection: close\r\nContent-Length: 0\r\n\r\n');
    door.handleUpgrade(req, socket, head, (screen) => new Viewer(screen, relay));
  });
  return {
    server,
    stop: () => {
      relay.stop();
      supersede();
      server.closeAllConnections();
      server.close();
    },
  };
}
