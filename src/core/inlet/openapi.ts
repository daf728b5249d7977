import { answerStatuses } from './answer';
import { inletWords, listables } from './request';

type Json = Readonly<Record<string, unknown>>;

const parameter = (name: string, description: string): Json => ({
  name,
  in: 'path',
  required: true,
  description,
  schema: { type: 'string' },
});
const query = (name: string, description: string, schema: Json = { type: 'string' }): Json => ({
  name,
  in: 'query',
  description,
  schema,
});

const described: Readonly<Record<string, string>> = {
  page: 'The name of a page, or the id of a control in place of page and label.',
  label: 'The label of the control.',
  macro: 'The name or the id of a macro.',
  number: 'A number.',
  variable: 'The short name of a variable.',
  value: 'The value; it may also be in the query or in the body.',
  steps: 'The number of steps; negative to count down.',
  tag: 'The tag of a device, or SHOW for the program itself.',
  reading: 'The reading, such as program or input[3].name.',
  what: `One of ${listables.join(', ')}.`,
};

const text = (example: string): Json => ({ 'text/plain': { schema: { type: 'string' }, example } });

const answers: Json = {
  '200': {
    description: 'The request succeeded. The answer is plain text, or JSON where it is accepted.',
    content: { ...text('ok confirmed 41 ms'), 'application/json': { schema: { $ref: '#/components/schemas/Answer' } } },
  },
  ...Object.fromEntries(
    [...answerStatuses].map(([status, codes]) => [
      String(status),
      {
        description: `Not done: ${codes.join(', ')}.`,
        content: {
          ...text(`error ${codes[0] ?? ''} …`),
          'application/json': { schema: { $ref: '#/components/schemas/Answer' } },
        },
      },
    ]),
  ),
};

const answerSchema: Json = {
  oneOf: [
    {
      type: 'object',
      required: ['is', 'said'],
      properties: {
        is: { const: 'ok' },
        said: { type: 'string' },
        outcome: { enum: ['confirmed', 'sent'] },
        ms: { type: 'number', description: 'Milliseconds until the device confirmed it.' },
      },
    },
    {
      type: 'object',
      required: ['is', 'value', 'isFresh'],
      properties: {
        is: { const: 'value' },
        value: { type: ['string', 'number', 'boolean'] },
        isFresh: { type: 'boolean', description: 'False while the device does not answer: the value is old.' },
      },
    },
    {
      type: 'object',
      required: ['is', 'show', 'word'],
      properties: { is: { const: 'lamp' }, show: { type: 'string' }, word: { type: 'string' } },
    },
    {
      type: 'object',
      required: ['is', 'items'],
      properties: { is: { const: 'list' }, items: { type: 'array', items: { type: 'string' } } },
    },
    {
      type: 'object',
      required: ['is', 'code', 'message'],
      properties: { is: { const: 'error' }, code: { type: 'string' }, message: { type: 'string' } },
    },
  ],
};

/** `/press/<page>/<label>` as OpenAPI writes it, with its parameters. A query behind it is left out. */
function pathOf(written: string): { readonly path: string; readonly parameters: readonly Json[] } {
  const path = written.replace(/\?.*$/, '');
  const names = [...path.matchAll(/<(\w+)>/g)].map(([, name = '']) => name);
  return {
    path: path.replaceAll(/<(\w+)>/g, '{$1}'),
    parameters: names.map((name) => parameter(name, described[name] ?? name)),
  };
}

/** The description of an HTTP inlet, OpenAPI 3.1, made from the requests that it takes. */
export function inletOpenApi(): Json {
  const paths: Record<string, Json> = {};
  for (const [word, { path: written, does }] of Object.entries(inletWords)) {
    for (const [n, each] of (written?.split(/, or /) ?? []).entries()) {
      const { path, parameters } = pathOf(each);
      const id = `${word}${n === 0 ? '' : n + 1}`;
      const more = [
        ...(word === 'set' ? [query('value', 'The value, where it is not in the path.')] : []),
        query('as', 'The form of the answer.', { enum: ['json'] }),
      ];
      const base = { summary: does, parameters: [...parameters, ...more], responses: answers };
      if (word === 'follow') {
        const responses = {
          ...answers,
          '200': { description: 'Server-sent events, each with JSON.', content: { 'text/event-stream': {} } },
        };
        paths[path] = { get: { ...base, operationId: id, responses } };
      } else paths[path] = { get: { ...base, operationId: id }, post: { ...base, operationId: `${id}ByPost` } };
    }
  }
  paths['/wait/{tag}/{reading}'] = {
    get: {
      operationId: 'wait',
      summary: 'answers when the reading is something else',
      parameters: [
        ...pathOf('/wait/<tag>/<reading>').parameters,
        query('not', 'The value that is known already.'),
        query('seconds', 'The longest wait.', { type: 'number', minimum: 0, maximum: 60, default: 25 }),
      ],
      responses: answers,
    },
  };
  return {
    openapi: '3.1.0',
    info: {
      title: 'HTTP inlet',
      version: '1',
      description:
        'Other programs press controls, start macros, set variables and read what devices report. Names and ids are taken; capitals, blanks and punctuation do not matter. Any other path fires the watches that wait for it.',
    },
    paths,
    components: {
      schemas: { Answer: answerSchema },
      securitySchemes: {
        token: {
          type: 'http',
          scheme: 'bearer',
          description: 'The token of a caller. It may also be in the query, as token.',
        },
      },
    },
    security: [{}, { token: [] }],
  };
}
