import { z } from 'zod';
import { explanationSchema } from '../../core/explain';
import {
  errorResponseSchema,
  findRequestSchema,
  healthResponseSchema,
  pressRequestSchema,
  pressResponseSchema,
  readingsResponseSchema,
  sendRequestSchema,
  driverTrialSchema,
  testRequestSchema,
  type PressReport,
  type PressResponse,
} from '../../core/live';
import { answerLines, HttpError, openApiOf, routeFor } from '../../http';
import type { NetworkTools } from '../network/network-tools';
import type { PressResult } from '../presses/presses';
import type { ApiSource } from './api-source';
import type { Principal } from './gate';
import { drillRoutes } from './drill-routes';
import { healthRoutes } from './health-routes';
import { lineCheckRoutes } from './line-check-routes';

const route = routeFor<Principal>();
type ApiRoute = ReturnType<typeof route>;

const noSuchDevice = (tag: string) =>
  new HttpError(404, 'no-such-device', `There is no device with the tag “${tag}”.`, 'device');
/** Rows of the wire in one piece: few enough that making them is not felt. */
const wirePiece = 500;
/** What the prober answers; the supervisor reports why it is away. */
async function fromProber<Answer>(ask: () => Promise<Answer>): Promise<Answer> {
  try {
    return await ask();
  } catch {
    throw noProber();
  }
}

const noProber = () =>
  new HttpError(503, 'no-prober', 'The part that looks at the network is just being started. Try again in a moment.');
const lineByLine = 'A JSON object a line, each as soon as it is known; hanging up ends the work.';
const badBody = {
  '400': 'The body or a parameter is wrong; `field` names where.',
  '413': 'The body is too long.',
  '415': 'The body is not JSON.',
};
const pressed = { name: 'PressResponse', is: pressResponseSchema };

const about = {
  title: 'Sorrelfinch automation',
  version: '1',
  description:
    'Press controls and read what the devices report. From another computer an access key is needed, as a bearer token.',
  error: { name: 'Error', is: errorResponseSchema },
  refusals: {
    '401': 'The access key is missing or wrong.',
    '403': 'A foreign host name or origin, or not allowed for this client.',
  },
};

/** All routes of the interface for automation. The document at `/api/openapi.json` is made from them. */
export function apiRoutes(source: ApiSource): readonly ApiRoute[] {
  const routes: readonly ApiRoute[] = [
    ...stateRoutes(source),
    ...pressRoutes(source),
    ...networkRoutes(source),
    ...lineCheckRoutes(source),
    ...healthRoutes(source),
    ...drillRoutes(source),
    route({
      method: 'GET',
      path: '/api/openapi.json',
      id: 'getOpenApi',
      summary: 'This document.',
      answers: { description: 'An OpenAPI 3.1 document.' },
      handle: () => openApiOf(routes, about),
    }),
  ];
  return routes.map(withoutPanels);
}

/** A panel presses over its own connection, where its rights are known. */
const withoutPanels = (each: ApiRoute): ApiRoute => ({
  ...each,
  handle: (asked) => {
    if (asked.who.kind === 'panel')
      throw new HttpError(403, 'not-allowed', 'A panel cannot use the automation interface.');
    return each.handle(asked);
  },
});

const stateRoutes = (source: ApiSource): readonly ApiRoute[] => [
  route({
    method: 'GET',
    path: '/api/health',
    id: 'getHealth',
    summary: 'The state of each process and of each link.',
    answers: {
      description: 'The state now. `ok` tells whether all is well.',
      schema: { name: 'Health', is: healthResponseSchema },
    },
    handle: () => source.health(),
  }),
  route({
    method: 'GET',
    path: '/api/readings',
    id: 'getReadings',
    summary: 'Everything that the devices report, with its freshness.',
    query: z.object({ device: z.string().optional().describe('Only of the device with this tag.') }),
    answers: { description: 'The readings now.', schema: { name: 'Readings', is: readingsResponseSchema } },
    refusals: { '404': 'There is no such device.' },
    handle: ({ query: { device } }) => {
      const readings = source.readings(device);
      if (!readings) throw noSuchDevice(device ?? '');
      return readings;
    },
  }),
  route({
    method: 'GET',
    path: '/api/wire',
    id: 'getWire',
    summary:
      'Bytes sent to and received from the devices, up to 500 rows at a time, oldest first. Secrets are masked. For the desk only.',
    query: z.object({
      after: z.coerce.number().int().min(0).optional().describe('The number of the last row that is here already.'),
    }),
    answers: { description: 'Rows with their numbers, and the number of the newest one.' },
    handle: ({ who, query: { after = 0 } }) => {
      if (who.kind !== 'desk') throw new HttpError(403, 'not-allowed', 'Only the desk can read the wire.');
      return source.wire.page(after, wirePiece);
    },
  }),
  route({
    method: 'POST',
    path: '/api/record/prune',
    id: 'pruneRecord',
    summary: 'Deletes the oldest rows of the as-run that are more than it keeps. Nothing is deleted below its limits.',
    answers: { description: 'They are being deleted.' },
    handle: () => {
      source.pruneRecord();
      return { ok: true };
    },
  }),
  route({
    method: 'GET',
    path: '/api/report',
    id: 'getReport',
    summary:
      'Everything needed to look into a failure: health, figures, versions, logs and the show, without passwords, user names and addresses. For the desk only.',
    answers: { description: 'The report.' },
    handle: async ({ who }) => {
      if (who.kind !== 'desk') throw new HttpError(403, 'not-allowed', 'Only the desk can save a report.');
      const name = `sorrelfinch-report-${new Date().toISOString().slice(0, 16).replace(/[:T]/g, '-')}.json`;
      const headers = { 'content-disposition': `attachment; filename="${name}"` };
      return Response.json(await source.report(), { headers });
    },
  }),
  route({
    method: 'GET',
    path: '/metrics',
    id: 'getMetrics',
    summary: 'Figures of the running program in the open text format that monitoring systems read.',
    answers: { description: 'The figures now.', type: 'text/plain' },
    handle: async () =>
      new Response(await source.metrics.text(), { headers: { 'content-type': source.metrics.contentType } }),
  }),
];

const pressRoutes = (source: ApiSource): readonly ApiRoute[] => [
  route({
    method: 'POST',
    path: '/api/press',
    id: 'press',
    summary: 'Presses a control and answers when the outcome is known.',
    body: { name: 'PressRequest', is: pressRequestSchema },
    answers: { description: 'The outcome, whatever it is.', schema: pressed },
    refusals: { ...badBody, '404': 'There is no such page or control.' },
    handle: ({ body: { page, control, gesture, guard, given, id = source.newId() }, who }) => {
      if (!source.hasPage(page))
        throw new HttpError(404, 'no-such-page', `There is no page “${page}” in the running show.`, 'page');
      if (!source.presses.find(page, control))
        throw new HttpError(404, 'no-such-control', `There is no control “${control}” on this page.`, 'control');
      const request = { id, page, control, gesture, guard, given, alone: true, who: who.kind };
      return ended((listener) => source.presses.press(request, listener));
    },
  }),
  route({
    method: 'GET',
    path: '/api/presses/:press',
    id: 'explainPress',
    summary:
      'Explains one of the last 2,000 presses: what happened to it, moment by moment, from the engine to the lamp.',
    answers: { description: 'The account so far.', schema: { name: 'Explanation', is: explanationSchema } },
    refusals: { '404': 'It is too long ago, or the engine has been restarted since.' },
    handle: ({ params: { press = '' } }) => {
      const explanation = source.explain(press);
      if (explanation) return explanation;
      const reason = 'The engine keeps the last 2,000 presses since its start. The as-run has their outcomes.';
      throw new HttpError(404, 'no-such-press', reason, 'press');
    },
  }),
  route({
    method: 'POST',
    path: '/api/send',
    id: 'send',
    summary: 'Sends one command to one device and answers when the outcome is known.',
    body: { name: 'SendRequest', is: sendRequestSchema },
    answers: { description: 'The outcome, whatever it is.', schema: pressed },
    refusals: { ...badBody, '404': 'There is no such device or command.' },
    handle: ({ body: { device: tag, command, params, guard, id = source.newId() }, who }) => {
      const device = source.deviceByTag(tag);
      if (!device) throw noSuchDevice(tag);
      const problem = source.checkCommand(device, command, params);
      if (problem?.path === 'command') throw new HttpError(404, 'no-such-command', problem.message, problem.path);
      if (problem) throw new HttpError(400, 'bad-input', problem.message, problem.path);
      const request = { id, device, command, params, guard, gesture: 'tap', who: who.kind } as const;
      return ended((listener) => source.presses.command(request, listener));
    },
  }),
];

const networkRoutes = (source: ApiSource): readonly ApiRoute[] => [
  route({
    method: 'GET',
    path: '/api/network',
    id: 'getNetwork',
    summary: 'The interfaces, addresses and gateways of this computer.',
    answers: { description: 'As they are now.' },
    handle: () => fromProber(() => toolsOf(source).network()),
  }),
  route({
    method: 'GET',
    path: '/api/serial-ports',
    id: 'getSerialPorts',
    summary: 'The serial ports of this computer.',
    answers: { description: 'Each with the path that opens it and a title.' },
    handle: () => fromProber(() => toolsOf(source).serialPorts()),
  }),
  route({
    method: 'GET',
    path: '/api/midi-ports',
    id: 'getMidiPorts',
    summary: 'The MIDI ports of this computer.',
    answers: { description: 'Each port with its name and the address to enter for a device.' },
    handle: () => fromProber(() => toolsOf(source).midiPorts()),
  }),
  route({
    method: 'POST',
    path: '/api/test',
    id: 'testConnections',
    summary: 'Tests connections stage by stage: of the rig, of some of its devices, or of one that is not in it.',
    body: { name: 'TestRequest', is: testRequestSchema },
    answers: {
      description: `What each stage of each device found: \`device\`, \`tag\`, \`stage\`, \`ms\`, \`verdict\`; the last line of a device has no \`stage\`. ${lineByLine}`,
      type: 'application/x-ndjson',
    },
    refusals: badBody,
    handle: ({ body }) => byLines((tell, signal) => toolsOf(source).test(body, tell, signal)),
  }),
  route({
    method: 'POST',
    path: '/api/driver-trial',
    id: 'tryDriver',
    summary: 'Tries a driver document that is not installed: calls a device, sends something, listens, and hangs up.',
    body: { name: 'DriverTrialRequest', is: driverTrialSchema },
    answers: {
      description: `\`t\` says what a line is: \`wire\`, \`link\`, \`readings\`, \`ended\` or \`refused\`. ${lineByLine}`,
      type: 'application/x-ndjson',
    },
    refusals: badBody,
    handle: ({ body }) => byLines((tell, signal) => toolsOf(source).tryDocument(body, tell, signal)),
  }),
  route({
    method: 'POST',
    path: '/api/find',
    id: 'findDevices',
    summary: 'Searches a range of addresses for devices that the drivers know.',
    body: { name: 'FindRequest', is: findRequestSchema },
    answers: {
      description: `\`is\` says what a line is: \`progress\`, \`found\`, \`refused\` or \`done\`. ${lineByLine}`,
      type: 'application/x-ndjson',
    },
    refusals: badBody,
    handle: ({ body }) => byLines((tell, signal) => toolsOf(source).find(body, tell, signal)),
  }),
];

function toolsOf({ tools }: ApiSource): NetworkTools {
  if (!tools) throw noProber();
  return tools;
}

/** Lines as they come. What fails before the first of them is refused as a whole. */
async function byLines(work: Parameters<typeof answerLines>[0]): Promise<Response> {
  let begun: (first: 'line' | 'end') => void = () => undefined;
  let failed: (cause: unknown) => void = () => undefined;
  const first = new Promise<'line' | 'end'>((resolve, reject) => {
    begun = resolve;
    failed = reject;
  });
  let hasBegun = false;
  const answer = answerLines(
    async (tell, signal) => {
      await work((line) => {
        hasBegun = true;
        begun('line');
        tell(line);
      }, signal);
      if (!hasBegun) tell({ is: 'done' });
      begun('end');
    },
    (cause) => {
      if (!hasBegun) failed(cause);
      return {
        is: 'refused',
        message: 'The part that looks at the network has just stopped. Try again in a moment.',
      };
    },
  );
  try {
    await first;
  } catch {
    throw noProber();
  }
  return answer;
}

/** Resolves with the end of a press. */
function ended(begin: (listener: (report: PressReport | PressResult) => void) => void): Promise<PressResponse> {
  return new Promise((resolve) => {
    begin((report) => {
      if (!('sends' in report)) return;
      const { id, outcome, ms, reason, why, sends } = report;
      resolve({ id, outcome, ms, reason, why, sends: [...sends] });
    });
  });
}
