import { createServer } from 'node:http';
import { timingSafeEqual } from 'node:crypto';
import { z } from 'zod';
import { readBody } from '../prober';
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
const expected = Buffer.from(`Bearer ${variable(childVariables.token)}`);
let rehearsal: Rehearsal | undefined;

const server = createServer((req, res) => {
  const given = Buffer.from(req.headers.authorization ?? '');
  if (given.length !== expected.length || !timingSafeEqual(given, expected)) return void res.writeHead(403).end();
  const answer = async () => {
    if (req.method === 'DELETE') {
      const ended = rehearsal;
      rehearsal = undefined;
      await ended?.stop();
      return void res.writeHead(204).end();
    }
    const order = orderSchema.safeParse(await readBody(req));
    if (!order.success) return void res.writeHead(400).end();
    rehearsal ??= new Rehearsal();
    res.writeHead(200, { 'content-type': 'application/json' }).end(JSON.stringify(await rehearsal.arrange(order.data)));
  };
  answer().catch((error: unknown) => {
    log.error({ cause: error }, 'The stand-ins could not be arranged.');
    if (!res.headersSent) res.writeHead(500);
    res.end(String(error));
  });
});

const tell = beChild(async () => {
  await rehearsal?.stop();
  server.closeAllConnections();
  await new Promise((resolve) => server.close(resolve));
});
server.listen(Number(variable(childVariables.rehearsalPort)), '127.0.0.1', () => tell({ type: 'ready' }));
