import { z } from 'zod';
import {
  errorResponseSchema,
  healthResponseSchema,
  pressRequestSchema,
  pressResponseSchema,
  readingsResponseSchema,
  sendRequestSchema,
} from './api';
import { findRequestSchema } from './find';
import { testRequestSchema } from './tests';

const schemas = {
  PressRequest: pressRequestSchema,
  SendRequest: sendRequestSchema,
  TestRequest: testRequestSchema,
  FindRequest: findRequestSchema,
  PressResponse: pressResponseSchema,
  Health: healthResponseSchema,
  Readings: readingsResponseSchema,
  Error: errorResponseSchema,
};

const json = (name: keyof typeof schemas, description: string) => ({
  description,
  content: { 'application/json': { schema: { $ref: `#/components/schemas/${name}` } } },
});

const lines = (description: string) => ({
  description: `${description} A JSON object a line, each as soon as it is known; hanging up ends the work.`,
  content: { 'application/x-ndjson': { schema: { type: 'string' } } },
});

const body = (name: keyof typeof schemas) => ({
  required: true,
  content: { 'application/json': { schema: { $ref: `#/components/schemas/${name}` } } },
});

const refusals = {
  '401': json('Error', 'The access key is missing or wrong.'),
  '403': json('Error', 'A foreign host name or origin, or not allowed for this client.'),
};

/** The OpenAPI 3.1 document of the HTTP API, made from the schemas that the engine checks with. */
export function openApiDocument(version: string): unknown {
  return {
    openapi: '3.1.0',
    info: {
      title: 'Sorrelfinch automation',
      version,
      description:
        'Press controls and read what the devices report. From another computer an access key is needed, as a bearer token.',
    },
    servers: [{ url: '/' }],
    security: [{}, { accessKey: [] }],
    paths: {
      '/api/health': {
        get: {
          operationId: 'getHealth',
          summary: 'The state of each process and of each link.',
          responses: { '200': json('Health', 'The state now. `ok` tells whether all is well.'), ...refusals },
        },
      },
      '/api/readings': {
        get: {
          operationId: 'getReadings',
          summary: 'Everything that the devices report, with its freshness.',
          parameters: [
            {
              name: 'device',
              in: 'query',
              required: false,
              schema: { type: 'string' },
              description: 'Only of the device with this tag.',
            },
          ],
          responses: {
            '200': json('Readings', 'The readings now.'),
            '404': json('Error', 'There is no such device.'),
            ...refusals,
          },
        },
      },
      '/api/press': {
        post: {
          operationId: 'press',
          summary: 'Presses a control and answers when the outcome is known.',
          requestBody: body('PressRequest'),
          responses: {
            '200': json('PressResponse', 'The outcome, whatever it is.'),
            '400': json('Error', 'The body is wrong; `field` names where.'),
            '404': json('Error', 'There is no such page or control.'),
            '413': json('Error', 'The body is too long.'),
            '415': json('Error', 'The body is not JSON.'),
            ...refusals,
          },
        },
      },
      '/api/send': {
        post: {
          operationId: 'send',
          summary: 'Sends one command to one device and answers when the outcome is known.',
          requestBody: body('SendRequest'),
          responses: {
            '200': json('PressResponse', 'The outcome, whatever it is.'),
            '400': json('Error', 'The body or a parameter is wrong; `field` names where.'),
            '404': json('Error', 'There is no such device or command.'),
            ...refusals,
          },
        },
      },
      '/api/record/prune': {
        post: {
          operationId: 'pruneRecord',
          summary:
            'Deletes the oldest rows of the as-run that are more than it keeps. Nothing is deleted below its limits.',
          responses: {
            '200': {
              description: 'They are being deleted.',
              content: { 'application/json': { schema: { type: 'object' } } },
            },
            ...refusals,
          },
        },
      },
      '/api/report': {
        get: {
          operationId: 'getReport',
          summary:
            'Everything needed to look into a failure: health, figures, versions, logs and the show, without passwords, user names and addresses. For the desk only.',
          responses: {
            '200': { description: 'The report.', content: { 'application/json': { schema: { type: 'object' } } } },
            ...refusals,
          },
        },
      },
      '/metrics': {
        get: {
          operationId: 'getMetrics',
          summary: 'Figures of the running program in the open text format that monitoring systems read.',
          responses: {
            '200': { description: 'The figures now.', content: { 'text/plain': { schema: { type: 'string' } } } },
            ...refusals,
          },
        },
      },
      '/api/network': {
        get: {
          operationId: 'getNetwork',
          summary: 'The interfaces, addresses and gateways of this computer.',
          responses: {
            '200': {
              description: 'As they are now.',
              content: { 'application/json': { schema: { type: 'object' } } },
            },
            ...refusals,
          },
        },
      },
      '/api/test': {
        post: {
          operationId: 'testConnections',
          summary: 'Tests connections stage by stage: of the rig, of some of its devices, or of one that is not in it.',
          requestBody: body('TestRequest'),
          responses: {
            '200': lines(
              'What each stage of each device found: `device`, `tag`, `stage`, `ms`, `verdict`; the last line of a device has no `stage`.',
            ),
            '400': json('Error', 'The body is wrong; `field` names where.'),
            ...refusals,
          },
        },
      },
      '/api/find': {
        post: {
          operationId: 'findDevices',
          summary: 'Searches a range of addresses for devices that the drivers know.',
          requestBody: body('FindRequest'),
          responses: {
            '200': lines('`is` says what a line is: `progress`, `found`, `announced`, `refused` or `done`.'),
            '400': json('Error', 'The body is wrong; `field` names where.'),
            ...refusals,
          },
        },
      },
    },
    components: {
      securitySchemes: { accessKey: { type: 'http', scheme: 'bearer' } },
      schemas: Object.fromEntries(Object.entries(schemas).map(([name, schema]) => [name, schemaOf(name, schema)])),
    },
  };
}

function schemaOf(name: string, schema: z.ZodType): unknown {
  const { $schema: _, ...rest } = z.toJSONSchema(schema, {
    io: name.endsWith('Request') ? 'input' : 'output',
  }) as Record<string, unknown>;
  return rest;
}
