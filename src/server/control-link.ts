import type { Server } from 'node:http';
import { z } from 'zod';
import type { Result } from '../core/result';
import { httpApp, HttpError, listen, routeFor } from '../http';
import type { Log } from '../log';

const route = routeFor<undefined>();
const done = { description: 'Done.' };

interface ControlLinkOptions {
  readonly port: number;
  readonly token: string;
  readonly onShowChanged: () => Promise<void>;
  /** Starts or ends the stand-ins; resolves with why not, or with nothing. */
  readonly onStandins: (on: boolean) => Promise<string | undefined>;
  /** Fetches a picture from a device; fails with the reason, as a sentence. */
  readonly onPicture: (device: string, still: string) => Promise<Result<Buffer, string>>;
  readonly log: Log;
}

const pictureSchema = z.strictObject({ device: z.string().max(80), still: z.string().max(80) });

/**
 * The private link from Next.js to the engine: on loopback only, with a token made at each start. Next.js says that the
 * show has changed; the engine looks for itself what, and answers when it has it.
 */
export function serveControlLink({
  port,
  token,
  onShowChanged,
  onStandins,
  onPicture,
  log,
}: ControlLinkOptions): Promise<Server> {
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
      route({
        method: 'POST',
        path: '/picture',
        id: 'fetchPicture',
        summary: 'Fetches a picture from a device.',
        body: { name: 'Picture', is: pictureSchema },
        answers: { ...done, type: 'application/octet-stream' },
        handle: async ({ body }) => {
          const taken = await onPicture(body.device, body.still);
          if (!taken.ok) throw new HttpError(503, 'no-picture', taken.error);
          return new Response(new Uint8Array(taken.value));
        },
      }),
      standins(true),
      standins(false),
    ],
  });
  return listen(app, port);
}
