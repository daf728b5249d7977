import { once } from 'node:events';
import { connect } from 'node:net';
import WebSocket from 'ws';
import { Program } from '../e2e/program';
import { note, sleep } from './report';

const key = 'an-access-key-for-the-attack';
const authorization = `Bearer ${key}`;

/** Who comes in where, with this computer asked for its key as any other would be. */
export async function accessList(): Promise<void> {
  const program = await Program.start(undefined, undefined, { ACCESS_KEY: key, REQUIRE_KEY: 'always' });
  const statusOf = async (path: string, headers: Record<string, string> = {}, method = 'GET') =>
    (await fetch(`${program.url}${path}`, { method, headers, redirect: 'manual' })).status;
  const rows: [string, () => Promise<number | string>, number | string][] = [];
  for (const path of [
    '/',
    '/rig',
    '/panel',
    '/api/health',
    '/api/readings',
    '/desk/as-run',
    '/desk/show',
    '/_next/static/x',
    '/pictures/x',
  ])
    rows.push([`no key: ${path}`, () => statusOf(path), 401]);
  for (const path of ['/api/press', '/api/send', '/desk/edit', '/desk/show-file', '/api/record/prune'])
    rows.push([`no key: POST ${path}`, () => statusOf(path, {}, 'POST'), 401]);
  rows.push(
    ['no key: /live', () => live(program.url), 'refused'],
    ['the key: /api/health', () => statusOf('/api/health', { authorization }), 200],
    ['the key: /live', () => live(program.url, { authorization }), 'open'],
    [
      'a foreign origin with the key',
      () => statusOf('/api/health', { authorization, origin: 'https://elsewhere.example' }),
      403,
    ],
    [
      'a forged principal with the key',
      () => statusOf('/desk/show', { authorization, 'x-sorrelfinch-principal': 'desk.x' }),
      400,
    ],
    ['a made-up session', () => statusOf('/rig', { cookie: 'sorrelfinch-session=x' }), 401],
    ['a made-up panel', () => statusOf('/panel', { cookie: 'sorrelfinch-panel=x.y' }), 401],
    ['a path with dots', () => raw(program.url, '/panel/../desk/show'), 400],
  );
  const wrong: string[] = [];
  try {
    for (const [name, ask, expected] of rows) {
      const got = await ask();
      if (got !== expected) wrong.push(`${name}: ${got} and not ${expected}`);
    }
    note(
      `access list, ${rows.length} ways in`,
      wrong.length === 0 ? 'nobody let in who should not be' : wrong.join('; '),
      wrong.length === 0,
    );
    let refusedAt = 0;
    for (let n = 1; n <= 20 && refusedAt === 0; n += 1)
      if ((await statusOf('/api/health', { authorization: `Bearer wrong-${n}` })) === 429) refusedAt = n;
    note(
      'wrong keys in a row',
      refusedAt > 0 ? `refused from the ${refusedAt}th on` : 'never refused',
      refusedAt > 0 && refusedAt < 8,
    );
  } finally {
    await program.stop();
  }
}

/** Heads and bodies that never end: closed, in the mode for this computer and in the one for others. */
export async function slow(connections: number): Promise<void> {
  for (const [name, env] of [
    ['this computer only', {}],
    ['key for everybody', { ACCESS_KEY: key, REQUIRE_KEY: 'always' }],
  ] as const) {
    const program = await Program.start(undefined, undefined, env);
    try {
      const port = Number(new URL(program.url).port);
      let open = 0;
      for (let n = 0; n < connections; n += 1) {
        const socket = connect(port, '127.0.0.1');
        open += 1;
        socket.on('error', () => undefined).on('close', () => (open -= 1));
        socket.resume();
        await once(socket, 'connect').catch(() => undefined);
        socket.write(
          n % 2 === 0
            ? 'GET / HTTP/1.1\r\nhost: localhost\r\n'
            : 'POST /desk/edit HTTP/1.1\r\nhost: localhost\r\ncontent-length: 9999\r\n\r\n',
        );
      }
      const from = performance.now();
      await sleep(14_000);
      const afterHeads = open;
      while (open > 0 && performance.now() - from < 75_000) await sleep(500);
      note(
        `${connections} connections that never end (${name})`,
        `${afterHeads} left after 14 s, ${open} after ${((performance.now() - from) / 1000).toFixed(0)} s`,
        open === 0,
      );
    } finally {
      await program.stop();
    }
  }
}

function live(url: string, headers: Record<string, string> = {}): Promise<string> {
  const socket = new WebSocket(`${url.replace('http', 'ws')}/live`, { headers });
  return new Promise((resolve) => {
    socket.once('open', () => {
      socket.terminate();
      resolve('open');
    });
    socket.once('error', () => resolve('refused'));
  });
}

/** A request whose path is sent as it is: clients make paths plain themselves. */
async function raw(url: string, path: string): Promise<number> {
  const socket = connect(Number(new URL(url).port), '127.0.0.1');
  socket.write(`GET ${path} HTTP/1.1\r\nhost: localhost\r\nauthorization: ${authorization}\r\n\r\n`);
  const [text] = (await once(socket, 'data')) as [Buffer];
  socket.destroy();
  return Number(/^HTTP\/1\.1 (\d+)/.exec(String(text))?.[1]);
}
