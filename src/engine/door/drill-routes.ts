import { drillActSchema, drillOrderSchema } from '../../core/live';
import { HttpError, routeFor } from '../../http';
import type { ApiSource } from './api-source';
import type { Principal } from './gate';

const route = routeFor<Principal>();
const refusals = { '400': 'The body is wrong; `field` names where.', '409': 'Not now; the message says why.' };
const answers = { description: 'Done. The topic `drills` tells what follows.' };

function unless(why: string | undefined): { readonly ok: true } {
  if (why !== undefined) throw new HttpError(409, 'not-now', why);
  return { ok: true };
}

/** Fault drills over HTTP. */
export const drillRoutes = (source: ApiSource): readonly ReturnType<typeof route>[] => [
  route({
    method: 'POST',
    path: '/api/drills/run',
    id: 'runDrill',
    summary: 'Begins a fault drill. Only in a rehearsal.',
    body: { name: 'DrillOrder', is: drillOrderSchema },
    answers,
    refusals,
    handle: ({ body: { drill, who } }) => unless(source.drills.begin(drill, who)),
  }),
  route({
    method: 'POST',
    path: '/api/drills/act',
    id: 'actOnDrill',
    summary: 'Says that a fault was seen, takes a fault away, or stops the drill.',
    body: { name: 'DrillAct', is: drillActSchema },
    answers,
    refusals,
    handle: ({ body }) => unless(source.drills.act(body)),
  }),
];
