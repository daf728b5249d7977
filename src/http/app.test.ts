import { createServer, request } from 'node:http';
import { connect, type AddressInfo } from 'node:net';
import { describe, expect, it, onTestFinished } from 'vitest';
import { z } from 'zod';
import { httpApp, type Listener } from './app';
import { HttpError } from './http-error';
import { answerLines } from './lines';
import { openApiOf } from './openapi';
import { routeFor } from './route';

const route = routeFor<string>();
const answers = { description: 'Done.' };

/** How the work of `/lines` ended. */
const ends: string[] = [];

const routes = [
  route({
    method: 'POST',
    path: '/add/:what',
    id: 'add',
    summary: 'Adds.',
    body: { name: 'Sum', is: z.strictObject({ a: z.number(), b: z.number() }) },
    query: z.object({ times: z.coerce.number().optional().describe('How often.') }),
    answers: { ...answers, schema: { name: 'Total', is: z.object({ total: z.number() }) } },
    refusals: { '404': 'There is no such thing.' },
    handle: ({ body: { a, b }, query: { times = 1 }, params: { what }, who }) => {
      if (what === 'nothing') throw new HttpError(404, 'no-such-thing', 'There is no such thing.', 'what');
      if (what === 'trouble') throw new Error('of all things');
      return { total: (a + b) * times, what, who };
    },
  }),
  route({ method: 'DELETE', path: '/add/:what', id: 'remove', summary: 'Removes.', answers, handle: () => undefined }),
  route({
    method: 'GET',
    path: '/lines',
    id: 'lines',
    summary: 'Tells lines.',
    answers: { ...answers, type: 'application/x-ndjson' },
    handle: () =>
      answerLines(
        (tell, signal) => {
          tell({ n: 1 });
          return new Promise((resolve) =>
            signal.addEventListener('abort', () => {
              ends.push('hung up');
              resolve();
            }),
          );
        },
        () => ({ is: 'refused' }),
      ),
  }),
];

async function serve(more: Partial<Parameters<typeof httpApp<string>>[0]> = {}) {
  const faults: unknown[] = [];
  const app: Listener<string> = httpApp<string>({
    routes,
    maxBodyBytes: 100,
    onFault: (cause, path) => faults.push([path, (cause as Error).message]),
    ...more,
  });
  const server = createServer((req, res) => void app(req, res, 'somebody'));
  await new Promise<void>((resolve) => void server.listen(0, '127.0.0.1', resolve));
  onTestFinished(() => {
    server.closeAllConnections();
    server.close();
  });
  const { port } = server.address() as AddressInfo;
  const post = (path: string, body: string, headers: Record<string, string> = {}) =>
    fetch(`http://127.0.0.1:${port}${path}`, {
      method: 'POST',
      body,
      headers: { 'content-type': 'application/json', ...headers },
    });
  return { port, post, faults };
}

const sum = JSON.stringify({ a: 1, b: 2 });

describe('an app made of routes', () => {
  it('checks body and query, and tells the route who asks', async () => {
    const { post } = await serve();
    const answer = await post('/add/apples?times=3', sum);
    expect([answer.status, await answer.json()]).toEqual([200, { total: 9, what: 'apples', who: 'somebody' }]);
    expect(answer.headers.get('cache-control')).toBe('no-store');
    expect(answer.headers.get('x-content-type-options')).toBe('nosniff');
  });

  it('answers nothing with 204', async () => {
    const { port } = await serve();
    expect((await fetch(`http://127.0.0.1:${port}/add/apples`, { method: 'DELETE' })).status).toBe(204);
  });

  it.each([
    ['a field that does not fit', '/add/x', '{"a":"1","b":2}', {}, 400, 'bad-input', 'a'],
    ['a field too many', '/add/x', '{"a":1,"b":2,"c":3}', {}, 400, 'bad-input', 'c'],
    ['what is no JSON', '/add/x', '{', {}, 400, 'not-json', 'body'],
    ['another type', '/add/x', sum, { 'content-type': 'text/plain' }, 415, 'not-json', undefined],
    ['a body too long', '/add/x', 'x'.repeat(101), {}, 413, 'too-long', undefined],
    ['what the route refuses', '/add/nothing', sum, {}, 404, 'no-such-thing', 'what'],
    ['a path that there is not', '/sub/x', sum, {}, 404, 'no-such-route', undefined],
    ['a method that there is not', '/lines', sum, {}, 405, 'wrong-method', 'GET'],
  ] as const)('refuses %s with a code', async (_, path, body, headers, status, code, field) => {
    const { post, faults } = await serve();
    const answer = await post(path, body, headers);
    const { error } = (await answer.json()) as { error: { code: string; field?: string } };
    expect([answer.status, error.code, error.field]).toEqual([status, code, field]);
    if (status === 405) expect(answer.headers.get('allow')).toBe('GET');
    expect(faults).toEqual([]);
  });

  it('says nothing of what went wrong inside but that it did, and tells its owner', async () => {
    const { post, faults } = await serve();
    const answer = await post('/add/trouble', sum);
    expect([answer.status, await answer.text()]).toEqual([500, expect.not.stringContaining('of all things')]);
    expect(faults).toEqual([['/add/trouble', 'of all things']]);
  });

  it('as a private end asks for the token, and answers only to the names that it knows', async () => {
    const { post } = await serve({ bearer: 'token', hosts: ['127.0.0.1'] });
    expect((await post('/add/x', sum)).status).toBe(403);
    expect((await post('/add/x', sum, { authorization: 'Bearer guess' })).status).toBe(403);
    expect((await post('/add/x', sum, { authorization: 'Bearer token' })).status).toBe(200);
    const { port } = await serve({ hosts: ['127.0.0.1'] });
    const foreign = new Promise<number | undefined>((resolve, reject) => {
      const ask = request(
        { port, host: '127.0.0.1', path: '/lines', headers: { host: 'elsewhere.example' } },
        (res) => {
          res.resume();
          resolve(res.statusCode);
        },
      );
      ask.on('error', reject);
      ask.end();
    });
    expect(await foreign).toBe(403);
  });

  it('tells lines as they come, and ends the work when the client disconnects', async () => {
    const { port } = await serve();
    ends.length = 0;
    const socket = connect(port, '127.0.0.1');
    const first = new Promise<string>((resolve) => {
      let all = '';
      socket.setEncoding('utf8').on('data', (text: string) => {
        all += text;
        if (all.includes('{"n":1}')) resolve(all);
      });
    });
    socket.write('GET /lines HTTP/1.1\r\nHost: 127.0.0.1\r\n\r\n');
    expect(await first).toContain('application/x-ndjson');
    socket.destroy();
    for (let n = 0; n < 200 && ends.length === 0; n += 1) await new Promise((resolve) => setTimeout(resolve, 10));
    expect(ends).toEqual(['hung up']);
  });
});

it('is described by a document made from the same routes', () => {
  const error = { name: 'Error', is: z.object({ error: z.object({ code: z.string() }) }) };
  const made = openApiOf(routes, { title: 'T', version: '1', description: 'D', error, refusals: { '401': 'Key.' } });
  expect(made).toMatchObject({
    paths: {
      '/add/{what}': {
        post: {
          operationId: 'add',
          parameters: [
            { name: 'what', in: 'path', required: true },
            { name: 'times', in: 'query', required: false },
          ],
          requestBody: { content: { 'application/json': { schema: { $ref: '#/components/schemas/Sum' } } } },
        },
        delete: { operationId: 'remove' },
      },
    },
    components: { schemas: { Sum: { required: ['a', 'b'] }, Total: {}, Error: {} } },
  });
});
