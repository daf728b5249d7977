import { createServer, type IncomingMessage } from 'node:http';
import { isIP, type Socket } from 'node:net';
import {
  answerLine,
  answerStatus,
  errorAnswer,
  inletOpenApi,
  pathText,
  requestOfPath,
  type InletAnswer,
  type InletSubject,
} from '../../core/inlet';
import { longestInletText, type InletData } from '../../core/show';
import { answerText, httpApp, routeFor } from '../../http';
import { callerOf, wrongTokenMs } from './callers';
import { newsOf, type News, type Subscriber } from './followers';
import type { InletEnd, Listener } from './inlet-listener';
import type { FoundSubject } from './subjects';

const connectionsMost = 64;
const maxBodyBytes = 2000;
const bodyWithinMs = 3000;
const longestWaitS = 60;
const heartbeatMs = 15_000;

type Who = string;
const route = routeFor<Who>();

/**
 * An inlet of HTTP/1.1: what is asked for is the path, `GET /press/Race/Cut`. Simple boxes get plain text, others JSON where they accept it. A page in
 * a browser is answered only if its origin is listed, so that no web page presses anything through the browser of somebody who visits it.
 */
export function listenHttp(data: InletData, listener: Listener): InletEnd {
  const open = new Set<Socket>();
  let asked = 0;
  const handle = async ({ incoming, who }: { readonly incoming: IncomingMessage; readonly who: Who }) => {
    const wanted = wantedBy(incoming);
    const origin = incoming.headers.origin;
    const foreign = foreignOf(incoming, data);
    if (foreign) {
      listener.onRefused(who, foreign.code);
      return reply(foreign, wanted, undefined);
    }
    if (incoming.method === 'OPTIONS') return preflight(origin);
    const caller = callerOf(data, wanted.token, incoming.socket.remoteAddress ?? '');
    if ('error' in caller) {
      listener.onRefused(who, 'wrong or missing token');
      await new Promise((resolve) => setTimeout(resolve, wrongTokenMs));
      return reply({ is: 'error', code: 'no-token', message: caller.error }, wanted, origin);
    }
    if (wanted.path.length > longestInletText)
      return reply(
        { is: 'error', code: 'too-long', message: `At most ${longestInletText} characters.` },
        wanted,
        origin,
      );
    if (wanted.path === '/openapi.json') return withOrigin(Response.json(inletOpenApi()), origin);
    const [word] = wanted.path.split('/').slice(1, 2);
    const isMuch: InletAnswer = { is: 'error', code: 'too-many', message: 'Too many requests. Try again in a second.' };
    if (word === 'wait' || word === 'follow') {
      const isTaken = listener.onFollows(who, pathText(wanted.path));
      return isTaken ? streamed(word, wanted, origin, who, incoming.socket) : reply(isMuch, wanted, origin);
    }
    const body = incoming.method === 'POST' ? await bodyOf(incoming) : '';
    if (body === undefined)
      return reply({ is: 'error', code: 'too-long', message: `At most ${maxBodyBytes} bytes.` }, wanted, origin);
    const answer = await new Promise<InletAnswer>((resolve) => {
      const isTaken = listener.onHeard({
        text: pathText(wanted.path),
        request: () => requestOfPath(wanted.path, wanted.query, body),
        from: who,
        ...(caller.name === undefined ? {} : { caller: caller.name }),
        bytes: Buffer.from([`${incoming.method ?? 'GET'} ${wanted.path}`, body].filter(Boolean).join('\n')),
        answer: (answer) => {
          resolve(answer);
          return Buffer.from(`${answerStatus(answer)} ${plainText(answer)}`);
        },
        subscriber: nobody,
      });
      if (!isTaken) resolve(isMuch);
    });
    return reply(answer, wanted, origin);
  };

  /** Waits for a change, or tells every one. */
  const streamed = (
    word: 'wait' | 'follow',
    wanted: Wanted,
    origin: string | undefined,
    who: string,
    socket: Socket,
  ) => {
    const found = subjectsOf(wanted, listener);
    const [first] = found.subjects;
    if (found.error || !first)
      return reply(found.error ?? errorAnswer({ code: 'incomplete', message: nothingNamed }), wanted, origin);
    const subscriber = (tell: Subscriber['tell']): Subscriber => ({
      id: `${data.port} ${who} ${(asked += 1)}`,
      lapses: false,
      tell,
    });
    if (word === 'wait')
      return changed(first, wanted, subscriber, listener, socket).then((now) => reply(now, wanted, origin));
    const answer = answerText(
      'text/event-stream; charset=utf-8',
      async (tell, signal) => {
        const say = (subject: FoundSubject, now: News) => tell(`data: ${JSON.stringify(newsJson(subject, now))}\n\n`);
        const own = subscriber(say);
        for (const subject of found.subjects) {
          const now = listener.followers.follow(own, subject);
          say(subject, now.ok ? now.value : { is: 'error', ...now.error });
        }
        const beat = setInterval(() => tell(': still here\n\n'), heartbeatMs);
        await new Promise<void>((resolve) => signal.addEventListener('abort', () => resolve()));
        clearInterval(beat);
        listener.followers.unfollow(own.id);
      },
      () => '',
    );
    return withOrigin(answer, origin);
  };

  const answers = { description: 'What came of it.', type: 'text/plain' };
  const all = { path: '/*', summary: 'Does what the path says.', answers, handle };
  const app = httpApp<Who>({
    routes: [
      route({ ...all, method: 'GET', id: 'get' }),
      route({ ...all, method: 'POST', id: 'post' }),
      route({ ...all, method: 'OPTIONS', id: 'ask' }),
    ],
    maxBodyBytes,
    onFault: (cause) => listener.onRefused('this program', String(cause)),
  });
  const server = createServer((req, res) => {
    const { remoteAddress = '', remotePort = 0 } = req.socket;
    void app(req, res, `${remoteAddress}:${remotePort}`);
  });
  server.headersTimeout = 5000;
  server.requestTimeout = 10_000;
  server.keepAliveTimeout = 5000;
  server.maxHeadersCount = 100;
  server.on('connection', (socket) => {
    const from = `${socket.remoteAddress ?? ''}:${socket.remotePort ?? 0}`;
    if (!listener.mayComeFrom(socket.remoteAddress ?? '') || open.size >= connectionsMost) {
      listener.onRefused(from, open.size >= connectionsMost ? 'too many connections' : 'sender not allowed');
      socket.destroy();
      return;
    }
    open.add(socket);
    socket.on('close', () => open.delete(socket));
  });
  server.on('error', (error) => listener.onPortFailed(error));
  server.listen(data.port, data.host, () => listener.onState('listening'));
  return {
    close: () => {
      server.close();
      for (const socket of open) socket.destroy();
    },
  };
}

interface Wanted {
  readonly path: string;
  readonly query: Readonly<Record<string, string>>;
  /** Every value of each name in the query. */
  readonly all: URLSearchParams;
  readonly token: string | undefined;
  readonly asJson: boolean;
}

function wantedBy({ url = '/', headers }: IncomingMessage): Wanted {
  const [path = '/', search = ''] = url.split('?');
  const all = new URLSearchParams(search);
  const [, bearer] = /^Bearer\s+(\S+)$/i.exec(headers.authorization ?? '') ?? [];
  const asJson = all.get('as') === 'json' || (headers.accept ?? '').includes('application/json');
  const { as: _, ...query } = Object.fromEntries(all);
  return { path, query, all, token: bearer ?? all.get('token') ?? undefined, asJson };
}

/** Why a request is not taken from where it comes: another web page in a browser, or a name that leads here by a trick (DNS rebinding). */
function foreignOf(
  { headers }: IncomingMessage,
  { origins = [] }: InletData,
): Extract<InletAnswer, { is: 'error' }> | undefined {
  const host = (headers.host ?? '').replace(/:\d+$/, '').replace(/^\[(.*)\]$/, '$1');
  if (isIP(host) === 0 && host !== 'localhost')
    return { is: 'error', code: 'foreign-host', message: 'Use the IP address of this computer, or localhost.' };
  const site = headers['sec-fetch-site'];
  const isPage = headers.origin !== undefined || (site !== undefined && site !== 'none');
  if (!isPage || (headers.origin !== undefined && origins.includes(headers.origin))) return undefined;
  return {
    is: 'error',
    code: 'foreign-page',
    message: 'This web page may not use the inlet. Add its origin to the inlet.',
  };
}

function reply(answer: InletAnswer, { asJson }: Wanted, origin: string | undefined): Response {
  const init = { status: answerStatus(answer) };
  if (asJson) return withOrigin(Response.json(answer, init), origin);
  const headers = {
    'content-type': 'text/plain; charset=utf-8',
    ...(answer.is === 'value' ? { 'x-freshness': answer.isFresh ? 'fresh' : 'stale' } : {}),
  };
  return withOrigin(new Response(`${plainText(answer)}\n`, { ...init, headers }), origin);
}

/** What a box shows that knows nothing of all this: of a reading only its value. */
const plainText = (answer: InletAnswer): string =>
  answer.is === 'list'
    ? answer.items.join('\n')
    : answer.is === 'value'
      ? String(answer.value)
      : answer.is === 'lamp'
        ? `${answer.show} ${answer.word}`.trim()
        : answerLine(answer);

/** Cross-origin resource sharing, as the Fetch standard has it ("CORS protocol"). Only listed origins come this far. */
function withOrigin(response: Response, origin: string | undefined): Response {
  if (origin === undefined) return response;
  response.headers.set('access-control-allow-origin', origin);
  response.headers.set('vary', 'Origin');
  return response;
}

const preflight = (origin: string | undefined): Response =>
  withOrigin(
    new Response(null, {
      status: 204,
      headers: {
        'access-control-allow-methods': 'GET, POST',
        'access-control-allow-headers': 'authorization, content-type',
        'access-control-max-age': '600',
      },
    }),
    origin,
  );

/** `undefined` for one that is too long, or does not come. */
async function bodyOf(incoming: IncomingMessage): Promise<string | undefined> {
  const chunks: Buffer[] = [];
  let bytes = 0;
  const deadline = setTimeout(() => incoming.destroy(), bodyWithinMs);
  try {
    for await (const chunk of incoming as AsyncIterable<Buffer>) {
      bytes += chunk.length;
      if (bytes > maxBodyBytes) return undefined;
      chunks.push(chunk);
    }
  } catch {
    // Cut off: there is nobody left to answer.
    return undefined;
  } finally {
    clearTimeout(deadline);
  }
  return Buffer.concat(chunks).toString('utf8');
}

const nothingNamed = 'Name a reading, /follow/SW1/program, or a lamp, /follow/lamp/Race/Cut.';

/** What is followed or waited for: by the path, and as many more as the query names (`reading=SW1/program`, `lamp=Race/Cut`). */
function subjectsOf({ path, all }: Wanted, { subjects }: Listener) {
  const named: InletSubject[] = [];
  if (path.split('/').filter(Boolean).length > 1) {
    const request = requestOfPath(path.replace(/^\/\w+/, '/read'), {}, '');
    if (!request.ok) return { subjects: [], error: errorAnswer(request.error) };
    if (request.value.do === 'read') named.push(request.value.subject);
  }
  for (const reading of all.getAll('reading')) {
    const [tag = '', ...key] = reading.split('/');
    named.push({ tag, key: key.join('/') });
  }
  for (const control of all.getAll('lamp')) named.push({ control });
  const found: FoundSubject[] = [];
  for (const each of named) {
    const subject = subjects.find(each);
    if (!subject.ok) return { subjects: [], error: errorAnswer(subject.error) };
    found.push(subject.value);
  }
  return { subjects: found, error: undefined };
}

/** Long polling: what it is once that is not what the caller knows any more, or when its time is over. */
function changed(
  subject: FoundSubject,
  { query }: Wanted,
  subscriber: (tell: Subscriber['tell']) => Subscriber,
  { followers }: Listener,
  socket: Socket,
): Promise<InletAnswer> {
  const seconds = Math.min(longestWaitS, Math.max(0, Number(query.seconds ?? 25) || 0));
  return new Promise((resolve) => {
    const isNews = (now: News) => query.not === undefined || plainText(now) !== query.not;
    const own = subscriber((_, now) => isNews(now) && end(now));
    const timer = setTimeout(() => end(newsOf(subject)), seconds * 1000);
    const end = (now: InletAnswer) => {
      clearTimeout(timer);
      socket.off('close', onGone);
      followers.unfollow(own.id);
      resolve(now);
    };
    // A caller that hangs up leaves nothing behind.
    const onGone = () => end(newsOf(subject));
    socket.once('close', onGone);
    const now = followers.follow(own, subject);
    if (!now.ok) end(errorAnswer(now.error));
    else if (query.not !== undefined && isNews(now.value)) end(now.value);
  });
}

const newsJson = ({ name }: FoundSubject, now: News) => ({ name, ...now });

/** A request that gets one answer follows nothing. */
const nobody: Subscriber = { id: 'nobody', lapses: true, tell: () => undefined };
