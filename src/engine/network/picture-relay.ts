import { createHmac } from 'node:crypto';
import { request, type ClientRequest } from 'node:http';
import type { PictureSource } from '../../core/picture';

/** How the engine gets at the relay of pictures. */
export interface PictureRelay {
  /** The key by which screens ask for a picture. Nobody can guess it, so that a screen has the pictures of its pages and no others. */
  readonly keyOf: (id: string) => string;
  readonly setSources: (sources: readonly PictureSource[]) => void;
  readonly stop: () => void;
}

const againMs = 300;

/**
 * The relay in a process of its own; told anew whenever that has been started anew.
 * @param onFault told why it does not take what it is told
 */
export function pictureRelayAt(port: number, token: string, onFault: (why: string) => void): PictureRelay {
  let sources: readonly PictureSource[] = [];
  let asking: ClientRequest | undefined;
  let again: NodeJS.Timeout | undefined;
  let isStopped = false;
  const tell = () => {
    clearTimeout(again);
    if (isStopped) return;
    const headers = { authorization: `Bearer ${token}`, 'content-type': 'application/json' };
    const req = request({ host: '127.0.0.1', port, method: 'POST', path: '/sources', headers }, (res) => {
      // The answer lasts as long as the relay does. What is refused once is refused again.
      res.resume();
      if (res.statusCode === 200) res.on('close', () => over(req));
      else onFault(`The relay answered with ${res.statusCode}.`);
    });
    asking = req;
    // It is started anew by the supervisor, which tells why.
    req.on('error', () => over(req));
    req.end(JSON.stringify(sources));
  };
  const over = (req: ClientRequest) => {
    if (asking !== req) return;
    asking = undefined;
    again = setTimeout(tell, againMs);
  };
  return {
    keyOf: (id) => createHmac('sha256', token).update(`picture:${id}`).digest('base64url').slice(0, 22),
    setSources: (list) => {
      sources = list;
      tell();
    },
    stop: () => {
      isStopped = true;
      clearTimeout(again);
      asking?.destroy();
      asking = undefined;
    },
  };
}
