import { setMaxListeners } from 'node:events';
import type { IncomingMessage, ServerResponse } from 'node:http';
import type { z } from 'zod';
import {
  findRequestSchema,
  openApiDocument,
  pressRequestSchema,
  sendRequestSchema,
  testRequestSchema,
  type ErrorResponse,
  type PressResponse,
  type PressReport,
} from '../../core/live';
import type { ApiSource } from './api-source';
import type { Principal } from './gate';
import type { NetworkTools } from '../network/network-tools';
import type { PressResult } from '../presses/presses';

const maxBodyBytes = 64 * 1024;
const bodyDeadlineMs = 5000;

class ApiError extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    message: string,
    readonly field?: string,
  ) {
    super(message);
  }
}

/** Answers `/api/*`. Never rejects: what goes wrong becomes an answer without a stack trace. */
export async function answerApi(
  source: ApiSource,
  principal: Principal,
  req: IncomingMessage,
  res: ServerResponse,
): Promise<void> {
  try {
    const body = await route(source, principal, req, res);
    if (body !== answered) reply(res, 200, body);
  } catch (error) {
    if (!(error instanceof ApiError))
      source.log.error({ cause: error, path: req.url?.split('?', 1)[0] }, 'A request could not be answered.');
    const known = error instanceof ApiError ? error : new ApiError(500, 'failed', 'The engine could not answer this.');
    const answer: ErrorResponse = { error: { code: known.code, message: known.message, field: known.field } };
    if (known.status === 405) res.setHeader('allow', known.field ?? 'GET');
    // The rest of a body that was refused is not read; the connection ends with the answer.
    if (known.status === 413) res.setHeader('connection', 'close');
    reply(res, known.status, answer);
  }
}

/** Returned instead of a body by what has answered by itself. */
const answered = Symbol('answered');

async function route(
  source: ApiSource,
  principal: Principal,
  req: IncomingMessage,
  res: ServerResponse,
): Promise<unknown> {
  const url = new URL(req.url ?? '/', 'http://localhost');
  if (principal.kind === 'panel')
    throw new ApiError(403, 'not-allowed', 'A panel cannot use the automation interface.');
  switch (url.pathname) {
    case '/api/health':
      allow(req, 'GET');
      return source.health();
    case '/api/readings': {
      allow(req, 'GET');
      const tag = url.searchParams.get('device') ?? undefined;
      const readings = source.readings(tag);
      if (!readings) throw new ApiError(404, 'no-such-device', `There is no device with the tag “${tag}”.`, 'device');
      return readings;
    }
    case '/api/press':
      allow(req, 'POST');
      return press(source, principal, await readJson(req));
    case '/api/send':
      allow(req, 'POST');
      return send(source, principal, await readJson(req));
    case '/api/network':
      allow(req, 'GET');
      return toolsOf(source).network().catch(noProber);
    case '/api/test': {
      allow(req, 'POST');
      const order = parsed(testRequestSchema, await readJson(req));
      return stream(res, (tell, signal) => toolsOf(source).test(order, tell, signal));
    }
    case '/api/find': {
      allow(req, 'POST');
      const order = parsed(findRequestSchema, await readJson(req));
      return stream(res, (tell, signal) => toolsOf(source).find(order, tell, signal));
    }
    case '/api/record/prune':
      allow(req, 'POST');
      source.pruneRecord();
      return { ok: true };
    case '/api/report': {
      allow(req, 'GET');
      if (principal.kind !== 'desk') throw new ApiError(403, 'not-allowed', 'Only the desk can save a report.');
      const name = `sorrelfinch-report-${new Date().toISOString().slice(0, 16).replace(/[:T]/g, '-')}.json`;
      res.setHeader('content-disposition', `attachment; filename="${name}"`);
      return source.report();
    }
    case '/metrics':
      allow(req, 'GET');
      res.setHeader('content-type', source.metrics.contentType);
      res.end(await source.metrics.text());
      return answered;
    case '/api/openapi.json':
      allow(req, 'GET');
      return openApiDocument('1');
    default:
      throw new ApiError(
        404,
        'no-such-route',
        `There is nothing at ${url.pathname}. /api/openapi.json lists what there is.`,
      );
  }
}

function toolsOf({ tools }: ApiSource): NetworkTools {
  return tools ?? noProber();
}

function noProber(): never {
  throw new ApiError(
    503,
    'no-prober',
    'The part that looks at the network is just being started. Try again in a moment.',
  );
}

/** Answers line by line, as JSON. Whoever ends the connection ends the work. */
async function stream(
  res: ServerResponse,
  work: (tell: (line: unknown) => void, signal: AbortSignal) => Promise<void>,
): Promise<typeof answered> {
  const gone = new AbortController();
  // Many tries at a time listen to it.
  setMaxListeners(0, gone.signal);
  res.on('close', () => gone.abort());
  const tell = (line: unknown) => {
    if (!res.headersSent) {
      res.writeHead(200, { 'content-type': 'application/x-ndjson; charset=utf-8', 'cache-control': 'no-store' });
    }
    res.write(`${JSON.stringify(line)}\n`);
  };
  try {
    await work(tell, gone.signal);
  } catch {
    // A client that has gone ends the work with an error of its own.
    if (gone.signal.aborted) return answered;
    if (!res.headersSent) noProber();
    tell({ is: 'refused', message: 'The part that looks at the network has just stopped. Try again in a moment.' });
  }
  if (!res.headersSent) tell({ is: 'done' });
  res.end();
  return answered;
}

function allow(req: IncomingMessage, method: 'GET' | 'POST'): void {
  if (req.method !== method) throw new ApiError(405, 'wrong-method', `Use ${method} here.`, method);
}

function parsed<T extends z.ZodType>(schema: T, body: unknown): z.infer<T> {
  const result = schema.safeParse(body);
  if (result.success) return result.data;
  const [issue] = result.error.issues;
  const unknown = issue?.code === 'unrecognized_keys' ? issue.keys[0] : undefined;
  const field = unknown ?? (issue?.path.join('.') || 'body');
  throw new ApiError(400, 'bad-input', `${field}: ${issue?.message ?? 'not understood'}`, field);
}

function press(source: ApiSource, principal: Principal, body: unknown): Promise<PressResponse> {
  const { page, control, gesture, guard, given, id = source.newId() } = parsed(pressRequestSchema, body);
  if (!source.hasPage(page))
    throw new ApiError(404, 'no-such-page', `There is no page “${page}” in the running show.`, 'page');
  if (!source.presses.find(page, control)) {
    throw new ApiError(404, 'no-such-control', `There is no control “${control}” on this page.`, 'control');
  }
  return ended((listener) =>
    source.presses.press({ id, page, control, gesture, guard, given, alone: true, who: principal.kind }, listener),
  );
}

function send(source: ApiSource, principal: Principal, body: unknown): Promise<PressResponse> {
  const { device: tag, command, params, guard, id = source.newId() } = parsed(sendRequestSchema, body);
  const device = source.deviceByTag(tag);
  if (!device) throw new ApiError(404, 'no-such-device', `There is no device with the tag “${tag}”.`, 'device');
  const problem = source.checkCommand(device, command, params);
  if (problem) {
    const status = problem.path === 'command' ? 404 : 400;
    throw new ApiError(status, status === 404 ? 'no-such-command' : 'bad-input', problem.message, problem.path);
  }
  return ended((listener) =>
    source.presses.command({ id, device, command, params, guard, gesture: 'tap', who: principal.kind }, listener),
  );
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

async function readJson(req: IncomingMessage): Promise<unknown> {
  if (!/^application\/json\b/i.test(req.headers['content-type'] ?? '')) {
    throw new ApiError(415, 'not-json', 'Send the body as application/json.');
  }
  const chunks: Buffer[] = [];
  let bytes = 0;
  const deadline = setTimeout(() => req.destroy(), bodyDeadlineMs);
  try {
    for await (const chunk of req as AsyncIterable<Buffer>) {
      bytes += chunk.length;
      if (bytes > maxBodyBytes) throw new ApiError(413, 'too-long', `The body may have ${maxBodyBytes} bytes at most.`);
      chunks.push(chunk);
    }
  } finally {
    clearTimeout(deadline);
  }
  try {
    return JSON.parse(Buffer.concat(chunks).toString('utf8'));
  } catch {
    throw new ApiError(400, 'not-json', 'The body is not valid JSON.', 'body');
  }
}

function reply(res: ServerResponse, status: number, body: unknown): void {
  if (res.headersSent || res.destroyed) return;
  const text = JSON.stringify(body);
  res.writeHead(status, {
    'content-type': 'application/json; charset=utf-8',
    'content-length': Buffer.byteLength(text),
    'cache-control': 'no-store',
    'x-content-type-options': 'nosniff',
  });
  res.end(text);
}
