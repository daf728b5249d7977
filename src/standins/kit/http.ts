import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http';

/** What a stand-in offers on the HTTP port that all of them share: its page, its state, and verbs to operate it. */
export interface StandinSite {
  readonly tag: string;
  readonly title: string;
  readonly page: () => string;
  readonly state: () => unknown;
  /** Calls back after each change; returns the way to stop that. */
  readonly watch: (watcher: () => void) => () => void;
  /** Answers a verb: `undefined` when done, else why not. */
  readonly operate: (verb: string, body: unknown) => Promise<string | undefined>;
  /** A picture of what it shows, where it has one, as SVG. */
  readonly still?: () => string;
}

const maxBodyBytes = 16_384;

/** Serves the sites on loopback. Requests that name another host are turned away, so that no foreign page can reach it. */
export function serveSites(sites: readonly StandinSite[], host: string, port: number): Promise<Server> {
  const server = createServer((req, res) => {
    handle(sites, req, res).catch((error: unknown) => {
      console.error(error);
      reply(res, 500, 'The stand-in failed to answer.');
    });
  });
  return new Promise((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, host, () => resolve(server));
  });
}

async function handle(sites: readonly StandinSite[], req: IncomingMessage, res: ServerResponse): Promise<void> {
  const named = (req.headers.host ?? '').replace(/:\d+$/, '');
  if (!['localhost', '127.0.0.1', '[::1]'].includes(named)) return reply(res, 403, 'Not for this host.');
  const { pathname } = new URL(req.url ?? '/', 'http://localhost');
  const [tag = '', verb = ''] = pathname.slice(1).split('/');
  if (tag === '') return reply(res, 200, indexPage(sites), 'text/html; charset=utf-8');
  const site = sites.find((each) => each.tag.toLowerCase() === tag);
  if (!site) return reply(res, 404, 'There is no such stand-in.');
  if (req.method === 'GET' && verb === '') return reply(res, 200, site.page(), 'text/html; charset=utf-8');
  if (req.method === 'GET' && verb === 'state') return json(res, 200, site.state());
  if (req.method === 'GET' && verb === 'events') return stream(site, req, res);
  if (req.method === 'GET' && verb === 'still' && site.still) return reply(res, 200, site.still(), 'image/svg+xml');
  if (req.method !== 'POST') return reply(res, 405, 'Use POST.');
  if (!(req.headers['content-type'] ?? '').startsWith('application/json')) return reply(res, 415, 'Send JSON.');
  const body = await readJson(req);
  if (!body.ok) return json(res, 400, { error: body.error });
  const refusal = await site.operate(verb, body.value);
  if (refusal === undefined) return json(res, 200, site.state());
  return json(res, 400, { error: refusal });
}

function stream(site: StandinSite, req: IncomingMessage, res: ServerResponse): void {
  res.writeHead(200, { 'content-type': 'text/event-stream', 'cache-control': 'no-store' });
  let soon: NodeJS.Timeout | undefined;
  const push = () => {
    soon = undefined;
    res.write(`data: ${JSON.stringify(site.state())}\n\n`);
  };
  push();
  // What moves changes with each frame; a page needs no more than that.
  const stop = site.watch(() => (soon ??= setTimeout(push, 40)));
  req.on('close', () => {
    clearTimeout(soon);
    stop();
  });
}

async function readJson(req: IncomingMessage): Promise<{ ok: true; value: unknown } | { ok: false; error: string }> {
  let text = '';
  for await (const chunk of req) {
    text += String(chunk);
    if (text.length > maxBodyBytes) return { ok: false, error: 'The body is too long.' };
  }
  try {
    return { ok: true, value: text === '' ? {} : JSON.parse(text) };
  } catch {
    return { ok: false, error: 'The body is not JSON.' };
  }
}

const json = (res: ServerResponse, status: number, value: unknown): void =>
  reply(res, status, JSON.stringify(value), 'application/json');

function reply(res: ServerResponse, status: number, body: string, type = 'text/plain; charset=utf-8'): void {
  if (res.headersSent) return void res.destroy();
  res.writeHead(status, { 'content-type': type, 'cache-control': 'no-store' });
  res.end(body);
}

const indexPage = (sites: readonly StandinSite[]): string => `<!doctype html><html lang="en"><meta charset="utf-8">
<title>Stand-ins</title><style>body{font:16px/1.5 sans-serif;max-width:40rem;margin:3rem auto;padding:0 1rem}</style>
<h1>Stand-ins</h1><ul>${sites.map((s) => `<li><a href="/${s.tag.toLowerCase()}">${s.tag}: ${s.title}</a></li>`).join('')}</ul></html>`;
