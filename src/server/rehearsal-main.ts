import { setPriority } from 'node:os';
import { z } from 'zod';
import { answerLines, httpApp, listen, routeFor } from '../http';
import { replayOrderSchema } from '../core/live';
import { Rehearsal } from '../standins';
import { processLog } from '../log';
import { beChild, childVariables } from './child-messages';
import { readSettings } from './settings';

/**
 * The process of the rehearsals: idle until the engine aims there. Its private end is on loopback, with the token of this start:
 * POST says which devices are to be stood in for and is answered with where they are; DELETE ends the rehearsal. The line check is planned
 * and rehearsed here as well, with stand-ins and an engine of its own; its code is loaded when it is first asked for.
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

const lineCheck = () => import('./line-check/service');
const replays = () => import('./replay/service');

/** A rehearsal may take a whole core for a while: presses on the live path come first. */
function giveWay(): void {
  try {
    setPriority(5);
  } catch {
    // Not allowed here: it works all the same, only less politely.
  }
}

function dataDir(): string {
  const settings = readSettings(process.env);
  if (!settings.ok) throw new Error(settings.error.map(({ message }) => message).join(' '));
  return settings.value.dataDir;
}

const failed = (cause: unknown) => {
  log.error({ cause }, 'A proof or a replay failed.');
  return { t: 'failed', message: cause instanceof Error ? cause.message : String(cause) };
};

const app = httpApp({
  bearer: variable(childVariables.token),
  maxBodyBytes: 8 * 1024 * 1024,
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
    route({
      method: 'POST',
      path: '/line-check/plan',
      id: 'planLineCheck',
      summary: 'What the running show relies on, and how it can be proved.',
      answers: { description: 'Items, a piece a line.', type: 'application/x-ndjson' },
      handle: () => answerLines(async (tell) => (await lineCheck()).tellPlan(dataDir(), tell), failed),
    }),
    route({
      method: 'POST',
      path: '/line-check/rehearse',
      id: 'rehearseLineCheck',
      summary: 'Proves items at private stand-ins. Hanging up ends it.',
      body: { name: 'LineCheckItems', is: z.strictObject({ items: z.array(z.string()).max(20_000) }) },
      answers: { description: 'Results, one a line.', type: 'application/x-ndjson' },
      handle: ({ body: { items } }) =>
        answerLines(async (tell, signal) => {
          giveWay();
          await (
            await lineCheck()
          ).rehearsePlan(dataDir(), new Set(items), (result) => tell({ t: 'result', result }), signal);
        }, failed),
    }),
    route({
      method: 'POST',
      path: '/replay',
      id: 'replay',
      summary: 'Plays a part of the as-run at private stand-ins. Hanging up ends it.',
      body: { name: 'ReplayOrder', is: replayOrderSchema },
      answers: { description: 'The result of each press, one per line.', type: 'application/x-ndjson' },
      handle: ({ body }) =>
        answerLines(async (tell, signal) => {
          giveWay();
          await (await replays()).replay(dataDir(), body, tell, signal);
        }, failed),
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
