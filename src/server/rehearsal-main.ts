import { z } from 'zod';
import { httpApp, listen, routeFor } from '../http';
import { Rehearsal } from '../standins';
import { processLog } from '../log';
import { beChild, childVariables } from './child-messages';

/**
 * The process of the rehearsals: idle until the engine aims there. Its private end is on loopback, with the token of this start:
 * POST says which devices are to be stood in for and is answered with where they are; DELETE ends the rehearsal.
 */
const orderSchema = z.array(
  z.strictObject({
    id: z.string(),
    tag: z.string(),
    name: z.string(),
    driver: z.string(),
    through: z.string().optional(),
  }),
);

const variable = (name: string): string => process.env[name] ?? '';
const log = processLog('rehearsal');
const route = routeFor<undefined>();
let rehearsal: Rehearsal | undefined;

const app = httpApp({
  bearer: variable(childVariables.token),
  maxBodyBytes: 1024 * 1024,
  onFault: (cause) => log.error({ cause }, 'The stand-ins could not be arranged.'),
  routes: [
    route({
      method: 'POST',
      path: '/',
      id: 'arrange',
      summary: 'Starts what stands in for these devices, and ends what is not wanted any more.',
      body: { name: 'Order', is: orderSchema },
      answers: { description: 'Where each of them is.' },
      handle: ({ body }) => {
        rehearsal ??= new Rehearsal();
        return rehearsal.arrange(body);
      },
    }),
    route({
      method: 'DELETE',
      path: '/',
      id: 'end',
      summary: 'Ends the rehearsal.',
      answers: { description: 'It has ended.' },
      handle: async () => {
        const ended = rehearsal;
        rehearsal = undefined;
        await ended?.stop();
      },
    }),
  ],
});

const tell = beChild(async () => {
  await rehearsal?.stop();
  server.closeAllConnections();
  await new Promise((resolve) => server.close(resolve));
});
const server = await listen(app, Number(variable(childVariables.rehearsalPort)));
tell({ type: 'ready' });
