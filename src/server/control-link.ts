import type { Server } from 'node:http';
import { httpApp, HttpError, listen, routeFor } from '../http';
import type { Log } from '../log';

const route = routeFor<undefined>();
const done = { description: 'Done.' };

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
  log: Log,
): Promise<Server> {
  const standins = (on: boolean) =>
    route({
      method: 'POST',
      path: on ? '/standins-on' : '/standins-off',
      id: on ? 'startStandins' : 'endStandins',
      summary: on ? 'Starts the stand-ins.' : 'Ends the stand-ins.',
      answers: done,
      handle: async () => {
        const why = await onStandins(on);
        if (why !== undefined) throw new HttpError(409, 'not-started', why);
      },
    });
  const app = httpApp({
    bearer: token,
    maxBodyBytes: 1024,
    onFault: (cause, path) => log.error({ cause, path }, 'A request of the pages could not be answered.'),
    routes: [
      route({
        method: 'POST',
        path: '/show-changed',
        id: 'showChanged',
        summary: 'The show was edited, put in service or stepped back.',
        answers: done,
        handle: onShowChanged,
      }),
      standins(true),
      standins(false),
    ],
  });
  return listen(app, port);
}
