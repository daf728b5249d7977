import { timingSafeEqual } from 'node:crypto';
import type { IncomingMessage, ServerResponse } from 'node:http';
import { getRequestListener, type HttpBindings } from '@hono/node-server';
import { Hono, type Context } from 'hono';
import type { z } from 'zod';
import { HttpError } from './http-error';
import type { Route } from './route';

interface AppOptions<Who> {
  readonly routes: readonly Route<never, never, Who>[];
  readonly maxBodyBytes: number;
  /** A private end: only who has this token is answered. */
  readonly bearer?: string;
  /** The host names that requests may use. Any when left out: the caller has checked already. */
  readonly hosts?: readonly string[];
  /** Told of what went wrong without being meant. */
  readonly onFault: (cause: unknown, path: string) => void;
  /** What is said where there is no such path. */
  readonly nothingAt?: (path: string) => string;
}

type App = Hono<{ Bindings: HttpBindings }>;

/** A body that has not come within this time does not come. */
const bodyDeadlineMs = 5000;

/** Answers requests of Node.js's server. Never rejects: what goes wrong becomes an answer without a stack trace. */
export type Listener<Who> = (req: IncomingMessage, res: ServerResponse, who: Who) => Promise<void>;

export function httpApp<Who = undefined>({
  routes,
  maxBodyBytes,
  bearer,
  hosts,
  onFault,
  nothingAt = (path) => `There is nothing at ${path}.`,
}: AppOptions<Who>): Listener<Who> {
  const app: App = new Hono();
  const asking = new WeakMap<IncomingMessage, Who>();
  const expected = bearer === undefined ? undefined : Buffer.from(`Bearer ${bearer}`);
  app.use(async (c, next) => {
    const given = Buffer.from(c.req.header('authorization') ?? '');
    const isKnown = !expected || (given.length === expected.length && timingSafeEqual(given, expected));
    if (!isKnown) throw new HttpError(403, 'no-token', 'The token of this start is missing or wrong.');
    const named = (c.req.header('host') ?? '').replace(/:\d+$/, '');
    if (hosts && !hosts.includes(named)) throw new HttpError(403, 'foreign-host', 'Not for this host.');
    await next();
    c.header('x-content-type-options', 'nosniff');
    if (!c.res.headers.has('cache-control')) c.header('cache-control', 'no-store');
  });
  const methods = new Map<string, string[]>();
  for (const route of routes) {
    methods.set(route.path, [...(methods.get(route.path) ?? []), route.method]);
    app.on(route.method, route.path, async (c) => {
      const { incoming } = c.env;
      const body = route.body ? checked(route.body.is, await readJson(c, maxBodyBytes)) : undefined;
      const query = route.query ? checked(route.query, c.req.query()) : undefined;
      const who = asking.get(incoming) as Who;
      const asked = { body: body as never, query: query as never, params: c.req.param(), who, incoming };
      const answer: unknown = await route.handle(asked);
      if (answer instanceof Response) return answer;
      return answer === undefined ? c.body(null, 204) : c.json(answer as object);
    });
  }
  for (const [path, allowed] of methods)
    app.all(path, (c) => {
      c.header('allow', allowed.join(', '));
      throw new HttpError(405, 'wrong-method', `Use ${allowed.join(' or ')} here.`, allowed[0]);
    });
  app.notFound((c) => refusal(c, new HttpError(404, 'no-such-route', nothingAt(c.req.path))));
  app.onError((error, c) => {
    if (error instanceof HttpError) return refusal(c, error);
    onFault(error, c.req.path);
    return refusal(c, new HttpError(500, 'failed', 'The engine could not answer this.'));
  });
  const listener = getRequestListener((request, env) => app.fetch(request, env), { overrideGlobalObjects: false });
  return async (req, res, who) => {
    asking.set(req, who);
    await listener(req, res);
  };
}

function refusal(c: Context, { status, code, message, field }: HttpError): Response {
  // The rest of a body that was refused is not read; the connection ends with the answer.
  if (status === 413) c.header('connection', 'close');
  c.header('cache-control', 'no-store');
  return c.json({ error: { code, message, field } }, status);
}

function checked<T>(schema: z.ZodType<T>, value: unknown): T {
  const result = schema.safeParse(value);
  if (result.success) return result.data;
  const [issue] = result.error.issues;
  const unknown = issue?.code === 'unrecognized_keys' ? issue.keys[0] : undefined;
  const field = unknown ?? (issue?.path.join('.') || 'body');
  throw new HttpError(400, 'bad-input', `${field}: ${issue?.message ?? 'not understood'}`, field);
}

async function readJson(c: Context<{ Bindings: HttpBindings }>, maxBytes: number): Promise<unknown> {
  if (!/^application\/json\b/i.test(c.req.header('content-type') ?? ''))
    throw new HttpError(415, 'not-json', 'Send the body as application/json.');
  const { incoming } = c.env;
  const chunks: Buffer[] = [];
  let bytes = 0;
  const deadline = setTimeout(() => incoming.destroy(), bodyDeadlineMs);
  try {
    for await (const chunk of incoming as AsyncIterable<Buffer>) {
      bytes += chunk.length;
      if (bytes > maxBytes) throw new HttpError(413, 'too-long', `The body may have ${maxBytes} bytes at most.`);
      chunks.push(chunk);
    }
  } finally {
    clearTimeout(deadline);
  }
  try {
    return bytes === 0 ? {} : JSON.parse(Buffer.concat(chunks).toString('utf8'));
  } catch {
    throw new HttpError(400, 'not-json', 'The body is not valid JSON.', 'body');
  }
}
