import { z } from 'zod';
import { incidentSchema } from '../../core/health';
import { incidentSeenSchema } from '../../core/live';
import { HttpError, routeFor } from '../../http';
import type { ApiSource } from './api-source';
import type { Principal } from './gate';

const route = routeFor<Principal>();

const span = z.object({
  at: z.number().describe('When the span began, in milliseconds since 1970.'),
  answers: z.number(),
  missed: z.number().describe('Questions and commands that were not answered in time.'),
  half: z.number().optional().describe('Half of the answers came within this many milliseconds.'),
  longest: z.number().optional().describe('The longest answer, in milliseconds.'),
});

/** Health over HTTP: what went beyond its limit, how devices have answered, and who has seen what. */
export const healthRoutes = (source: ApiSource): readonly ReturnType<typeof route>[] => [
  route({
    method: 'GET',
    path: '/api/incidents',
    id: 'getIncidents',
    summary: 'What went beyond its limit, the newest first.',
    answers: {
      description: 'The incidents of this data folder, those that last among them.',
      schema: { name: 'Incidents', is: z.object({ incidents: z.array(incidentSchema) }) },
    },
    handle: () => ({ incidents: source.watched.incidents }),
  }),
  route({
    method: 'POST',
    path: '/api/incidents/seen',
    id: 'seeIncident',
    summary: 'Says who has seen an incident.',
    body: { name: 'IncidentSeen', is: incidentSeenSchema },
    answers: { description: 'Done. The topic `health` tells what follows.' },
    refusals: { '404': 'There is no such incident.' },
    handle: ({ body: { incident, who, note } }) => {
      const why = source.watched.see(incident, who, note);
      if (why !== undefined) throw new HttpError(404, 'no-such-incident', why, 'incident');
      return { ok: true };
    },
  }),
  route({
    method: 'GET',
    path: '/api/devices/:device/history',
    id: 'getDeviceHistory',
    summary:
      'How a device has answered: the last ten minutes in spans of 10 s, the last twelve hours in spans of 2 min.',
    answers: {
      description: 'The spans, the oldest first.',
      schema: { name: 'DeviceHistory', is: z.object({ minutes: z.array(span), hours: z.array(span) }) },
    },
    refusals: { '404': 'There is no such device.' },
    handle: ({ params: { device = '' } }) => {
      const history = source.watched.historyOf(device);
      if (!history)
        throw new HttpError(404, 'no-such-device', 'There is no device with this id in the running show.', 'device');
      return history;
    },
  }),
];
