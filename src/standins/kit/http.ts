import type { Server } from 'node:http';
import { z } from 'zod';
import { httpApp, HttpError, listen, routeFor } from '../../http';
import { stillOf, streamOf } from './pictures';

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
  readonly still?: (view?: string) => string;
}

const maxBodyBytes = 16_384;
/** What moves changes with each frame; a page needs no more than that. */
const pushEveryMs = 40;

const route = routeFor<undefined>();
/** A JPEG of a width, instead of the drawing; and which of several pictures. */
const pictureSchema = z.strictObject({
  width: z.coerce.number().int().min(16).max(1920).optional(),
  view: z.string().max(20).optional(),
});
const html = { description: 'A page.', type: 'text/html' };

function picturing(site: StandinSite): Required<Pick<StandinSite, 'still'>> & StandinSite {
  const { still } = site;
  if (!still) throw new HttpError(404, 'no-picture', 'This stand-in has no picture.');
  return { ...site, still: (view) => still.call(site, view), watch: (watcher) => site.watch(watcher) };
}

/** Serves the sites on loopback. Requests that name another host are turned away, so that no foreign page can reach it. */
export function serveSites(sites: readonly StandinSite[], host: string, port: number): Promise<Server> {
  const siteOf = (tag: string | undefined): StandinSite => {
    const site = sites.find((each) => each.tag.toLowerCase() === tag);
    if (!site) throw new HttpError(404, 'no-such-stand-in', 'There is no such stand-in.');
    return site;
  };
  const app = httpApp({
    maxBodyBytes,
    hosts: ['localhost', '127.0.0.1', '[::1]'],
    // The supervisor collects what a process says.
    onFault: (cause) => console.error(cause),
    routes: [
      route({
        method: 'GET',
        path: '/',
        id: 'list',
        summary: 'All stand-ins.',
        answers: html,
        handle: () => page(indexPage(sites)),
      }),
      route({
        method: 'GET',
        path: '/:tag',
        id: 'page',
        summary: 'What a stand-in looks like from outside.',
        answers: html,
        handle: ({ params: { tag } }) => page(siteOf(tag).page()),
      }),
      route({
        method: 'GET',
        path: '/:tag/state',
        id: 'state',
        summary: 'The state of a stand-in.',
        answers: { description: 'Its state now.' },
        handle: ({ params: { tag } }) => siteOf(tag).state(),
      }),
      route({
        method: 'GET',
        path: '/:tag/events',
        id: 'events',
        summary: 'The state of a stand-in, again after each change.',
        answers: { description: 'Server-sent events.', type: 'text/event-stream' },
        handle: ({ params: { tag } }) => eventsOf(siteOf(tag)),
      }),
      route({
        method: 'GET',
        path: '/:tag/still',
        id: 'still',
        summary: 'A picture of what a stand-in shows.',
        query: pictureSchema,
        answers: { description: 'An SVG, or a JPEG of a width.', type: 'image/svg+xml' },
        handle: ({ params: { tag }, query }) => stillOf(picturing(siteOf(tag)), query),
      }),
      route({
        method: 'GET',
        path: '/:tag/live',
        id: 'live',
        summary: 'What a stand-in shows, as a stream of pictures.',
        query: pictureSchema,
        answers: { description: 'Pictures that replace one another.', type: 'multipart/x-mixed-replace' },
        handle: ({ params: { tag }, query }) => streamOf(picturing(siteOf(tag)), query),
      }),
      route({
        method: 'POST',
        path: '/:tag/:verb',
        id: 'operate',
        summary: 'Operates a stand-in by hand, or has it misbehave.',
        body: { name: 'Verb', is: z.unknown() },
        answers: { description: 'Its state after that.' },
        handle: async ({ params: { tag, verb = '' }, body }) => {
          const site = siteOf(tag);
          const refusal = await site.operate(verb, body);
          if (refusal !== undefined) throw new HttpError(400, 'refused', refusal);
          return site.state();
        },
      }),
    ],
  });
  return listen(app, port, host);
}

const page = (text: string): Response =>
  new Response(text, { headers: { 'content-type': 'text/html; charset=utf-8', 'cache-control': 'no-store' } });

function eventsOf(site: StandinSite): Response {
  const text = new TextEncoder();
  let soon: NodeJS.Timeout | undefined;
  let unwatch: () => void = () => undefined;
  const body = new ReadableStream<Uint8Array>({
    start(stream) {
      const push = () => {
        soon = undefined;
        stream.enqueue(text.encode(`data: ${JSON.stringify(site.state())}\n\n`));
      };
      push();
      unwatch = site.watch(() => (soon ??= setTimeout(push, pushEveryMs)));
    },
    cancel() {
      clearTimeout(soon);
      unwatch();
    },
  });
  return new Response(body, { headers: { 'content-type': 'text/event-stream', 'cache-control': 'no-store' } });
}

const indexPage = (sites: readonly StandinSite[]): string => `<!doctype html><html lang="en"><meta charset="utf-8">
<title>Stand-ins</title><style>body{font:16px/1.5 sans-serif;max-width:40rem;margin:3rem auto;padding:0 1rem}</style>
<h1>Stand-ins</h1><ul>${sites.map((s) => `<li><a href="/${s.tag.toLowerCase()}">${s.tag}: ${s.title}</a></li>`).join('')}</ul></html>`;
