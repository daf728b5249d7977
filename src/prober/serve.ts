import type { Server } from 'node:http';
import { probeOrderSchema } from '../core/diagnosis';
import { answerLines, httpApp, listen, routeFor } from '../http';
import { carryOut } from './orders';

const maxBodyBytes = 256 * 1024;
const route = routeFor<undefined>();

/**
 * The prober's private end: on loopback, with the token of this start. An order is the body of a request; its answers come as
 * lines of JSON as they are found. Closing the connection ends the work.
 *
 * @param onFault told of an order that could not be carried out
 */
export async function serveProber(
  port: number,
  token: string,
  onFault: (cause: unknown) => void = () => undefined,
): Promise<Server> {
  const app = httpApp({
    bearer: token,
    maxBodyBytes,
    onFault,
    routes: [
      route({
        method: 'POST',
        path: '/',
        id: 'carryOut',
        summary: 'Carries out an order.',
        body: { name: 'Order', is: probeOrderSchema },
        answers: { description: 'What is found, line by line.', type: 'application/x-ndjson' },
        handle: ({ body }) =>
          answerLines(
            (tell, signal) => carryOut(body, tell, signal),
            (cause) => {
              onFault(cause);
              // The caller sees that the answer is cut off.
              throw cause;
            },
          ),
      }),
    ],
  });
  const server = await listen(app, port);
  server.requestTimeout = 0;
  return server;
}
