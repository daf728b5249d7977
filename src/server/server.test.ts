import { icons } from '../core/face';
import { internalPlace } from '../core/net';
import { mkdtempSync, rmSync } from 'node:fs';
import { createServer, request as httpRequest, type IncomingHttpHeaders } from 'node:http';
import { connect, type AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Validator } from '@seriousme/openapi-schema-validator';
import { describe, expect, it, onTestFinished, vi } from 'vitest';
import { shippedDrivers } from '../drivers';
import { Engine } from '../engine';
import { fail, ok } from '../core/result';
import { openShow, recordsOfKind, type ShowDb, putPicture } from '../store';
import { noLog } from '../log';
import { serveControlLink } from './control-link';
import { freePort } from './free-port';
import { FrontDoor } from './front-door';
import { prepare } from './prepare';
import { principalHeader, readPrincipal, signPrincipal } from './principal-header';
import { readSettings } from './settings';

describe('the settings', () => {
  it('have defaults', () => {
    expect(readSettings({})).toMatchObject({
      ok: true,
      value: { port: 4300, host: '127.0.0.1', standinPortBase: 4400, accessKey: undefined },
    });
  });

  it.each([
    ['a port that is none', { PORT: 'x' }, 'PORT'],
    ['a port out of range', { PORT: '70000' }, 'PORT'],
    ['an address that others can reach, without an access key', { HOST: '0.0.0.0' }, 'HOST'],
    ['an access key that is too short', { HOST: '0.0.0.0', ACCESS_KEY: 'short' }, 'ACCESS_KEY'],
  ])('refuse %s', (_name, environment, path) => {
    const settings = readSettings(environment);
    expect(!settings.ok && settings.error.map((problem) => problem.path)).toEqual([path]);
  });

  it('allow another address with an access key', () => {
    expect(
      readSettings({ HOST: '0.0.0.0', ACCESS_KEY: 'a-long-access-key', ALLOWED_HOSTS: 'Desk.example, b' }),
    ).toMatchObject({
      ok: true,
      value: { host: '0.0.0.0', allowedHosts: ['desk.example', 'b'] },
    });
  });
});

it('trusts only a principal that was signed with the token of this start', () => {
  expect(readPrincipal(signPrincipal('desk', 'token'), 'token')).toBe('desk');
  expect(
    [signPrincipal('desk', 'other'), 'desk.', 'desk', '', undefined].map((header) => readPrincipal(header, 'token')),
  ).toEqual(Array(5).fill(undefined));
});

const tempDir = () => {
  const dir = mkdtempSync(join(tmpdir(), 'sorrelfinch-'));
  onTestFinished(() => rmSync(dir, { recursive: true, force: true }));
  return dir;
};
const withShow = <T>(dir: string, work: (db: ShowDb) => T): T => {
  const { db, close } = openShow(dir);
  try {
    return work(db);
  } finally {
    close();
  }
};

describe('the preparation', () => {
  it('loads the demo show once and leaves it alone afterwards', () => {
    const dir = tempDir();
    prepare(dir, true, 4400);
    prepare(dir, true, 4400);
    const controls = withShow(dir, (db) => recordsOfKind(db, 'control'));
    expect(controls).toHaveLength(388);
    const strange = controls.filter(({ data }) => data.icon !== undefined && !Object.hasOwn(icons, data.icon));
    expect(strange.map(({ data }) => data.icon)).toEqual([]);
  });

  it('moves the demo’s devices when the stand-ins are on other ports', () => {
    const dir = tempDir();
    prepare(dir, true, 4400);
    prepare(dir, true, 5600);
    // The timers of the show are at no port.
    const moved = withShow(dir, (db) => recordsOfKind(db, 'device').filter(({ data }) => data.host !== internalPlace));
    expect(moved.map(({ data }) => data.port)).toEqual(Array.from({ length: 25 }, (_, n) => 5601 + n));
  });

  it('starts an empty show without the demo', () => {
    const dir = tempDir();
    prepare(dir, false, 4400);
    expect(withShow(dir, (db) => [recordsOfKind(db, 'show').length, recordsOfKind(db, 'device').length])).toEqual([
      1, 0,
    ]);
  });
});

interface Answer {
  readonly status: number;
  readonly headers: IncomingHttpHeaders;
  readonly body: string;
}

/** The first line of the answer to the head of a POST, without its body; `undefined` when nothing is answered within a moment. */
/** @param withinMs a refusal comes at once, but for a busy computer */
function firstLine(port: number, header: string, withinMs = 10_000): Promise<string | undefined> {
  return new Promise((resolve) => {
    const socket = connect(port, '127.0.0.1');
    onTestFinished(() => void socket.destroy());
    socket.setEncoding('utf8').once('data', (text: string) => resolve(text.split('\r\n')[0]));
    // The body would be waited for: nothing has been refused.
    setTimeout(() => resolve(undefined), withinMs).unref();
    socket.write(`POST /rig HTTP/1.1\r\nHost: 127.0.0.1:${port}\r\n${header}\r\n\r\n`);
  });
}

/** A door with an engine on the demo show, before a Next.js that only says what it was asked. */
async function startDoor(): Promise<{
  port: number;
  ask: (
    path: string,
    options?: { method?: string; headers?: Record<string, string>; body?: string },
  ) => Promise<Answer>;
  dataDir: string;
}> {
  const dataDir = tempDir();
  prepare(dataDir, true, await freePort());
  const engine = new Engine({ dataDir, drivers: shippedDrivers });
  const next = createServer((req, res) => {
    let body = '';
    req.setEncoding('utf8').on('data', (chunk: string) => (body += chunk));
    req.on('end', () => res.end(JSON.stringify({ url: req.url, headers: req.headers, body })));
  });
  await new Promise<void>((resolve) => void next.listen(0, '127.0.0.1', resolve));
  const port = await freePort();
  const door = new FrontDoor({
    gate: { port, host: '127.0.0.1', accessKey: undefined, allowedHosts: [] },
    engine,
    nextPort: (next.address() as AddressInfo).port,
    picturesPort: await freePort(),
    token: 'token',
    builtIn: undefined,
  });
  onTestFinished(async () => {
    door.close();
    next.closeAllConnections();
    next.close();
    await engine.stop();
  });
  await engine.start();
  await door.listen();
  const ask = (
    path: string,
    { method = 'GET', headers = {}, body }: { method?: string; headers?: Record<string, string>; body?: string } = {},
  ) =>
    new Promise<Answer>((resolve, reject) => {
      const req = httpRequest({ port, host: '127.0.0.1', path, method, headers }, (res) => {
        let text = '';
        res.setEncoding('utf8').on('data', (chunk: string) => (text += chunk));
        res.on('end', () => resolve({ status: res.statusCode ?? 0, headers: res.headers, body: text }));
      });
      req.on('error', reject);
      req.end(body);
    });
  return { port, ask, dataDir };
}

const post = (body: unknown) => ({
  method: 'POST',
  headers: { 'content-type': 'application/json' },
  body: typeof body === 'string' ? body : JSON.stringify(body),
});

describe('the front door', () => {
  it('passes pages on with the original host and a principal that it signed itself', async () => {
    const { ask, port } = await startDoor();
    const { body } = await ask('/rig');
    const { url, headers } = JSON.parse(body) as { url: string; headers: Record<string, string> };
    expect(url).toBe('/rig');
    expect(headers['host']).toBe(`127.0.0.1:${port}`);
    expect(readPrincipal(headers[principalHeader], 'token')).toBe('desk');
  });

  it('refuses a principal that somebody else has written, and every header of that kind', async () => {
    const { ask } = await startDoor();
    for (const name of [principalHeader, 'x-sorrelfinch-other']) {
      const { status, body } = await ask('/rig', { headers: { [name]: 'desk.forged' } });
      expect([status, body]).toEqual([400, expect.stringContaining('for this program alone')]);
    }
  });

  it('passes bodies on whole, with and without a stated length', async () => {
    const { ask } = await startDoor();
    const text = 'x'.repeat(200_000);
    const ways: Record<string, string>[] = [
      { 'content-length': String(text.length) },
      { 'transfer-encoding': 'chunked' },
    ];
    for (const headers of ways) {
      const { body } = await ask('/rig', { method: 'POST', headers, body: text });
      expect((JSON.parse(body) as { body: string }).body).toBe(text);
    }
  });

  it('hands out pictures by itself, for as long as one likes, and no others', async () => {
    const { ask, dataDir } = await startDoor();
    const bytes = Uint8Array.from([...'RIFF0000WEBPVP8 '].map((letter) => letter.charCodeAt(0)));
    const put = withShow(dataDir, (db) => putPicture(db, bytes));
    if (!put.ok) throw new Error(put.error);
    const { status, headers, body } = await ask(`/pictures/${put.value}`);
    expect([status, headers['content-type'], body]).toEqual([200, 'image/webp', 'RIFF0000WEBPVP8 ']);
    expect(headers['cache-control']).toContain('immutable');
    const other = await ask(`/pictures/${'0'.repeat(64)}`);
    expect([other.status, other.headers['cache-control']]).toEqual([404, 'no-store']);
  });

  it('turns foreign hosts and origins away, in pages, interface and WebSocket alike', async () => {
    const { ask, port } = await startDoor();
    expect((await ask('/rig', { headers: { host: 'rebound.example' } })).status).toBe(403);
    const api = await ask('/api/health', { headers: { origin: 'https://elsewhere.example' } });
    expect([api.status, JSON.parse(api.body)]).toMatchObject([403, { error: { code: 'foreign-origin' } }]);
    const upgrade = await new Promise<string>((resolve) => {
      const socket = connect(port, '127.0.0.1');
      socket.setEncoding('utf8').once('data', (text: string) => resolve(text));
      socket.write(
        `GET /live HTTP/1.1\r\nHost: 127.0.0.1:${port}\r\nOrigin: https://elsewhere.example\r\nConnection: Upgrade\r\nUpgrade: websocket\r\nSec-WebSocket-Version: 13\r\nSec-WebSocket-Key: dGhlIHNhbXBsZSBub25jZQ==\r\n\r\n`,
      );
    });
    expect(upgrade).toMatch(/^HTTP\/1\.1 403 /);
  });

  it('refuses bodies beyond its limit', async () => {
    const { ask, port } = await startDoor();
    // By the length that it announces, before a byte of it is sent; and by what has come, where none is announced.
    expect(await firstLine(port, `Content-Length: ${9 * 1024 * 1024}`)).toBe('HTTP/1.1 413 Payload Too Large');
    expect(await firstLine(port, `Content-Length: ${7 * 1024 * 1024}`, 300)).toBeUndefined();
    expect((await ask('/api/press', post('x'.repeat(70_000)))).status).toBe(413);
  });
});

describe('the HTTP interface', () => {
  it('tells the health of processes and links', async () => {
    const { ask } = await startDoor();
    const health = JSON.parse((await ask('/api/health')).body) as {
      ok: boolean;
      links: { tag: string; link: { word: string } }[];
    };
    expect(health).toMatchObject({ ok: false, aim: 'live', recording: true });
    expect(health.links.map(({ tag }) => tag).join(' ')).toBe(
      'SW1 C1 C2 C3 C4 E1 E2 R1 A1 T1 G1 S1 M1 D1 D2 L1 K1 P1 P2 V1 W1 W2 W3 H1 B1 TM1',
    );
  });

  it('presses, and answers with outcome and duration', async () => {
    const { ask } = await startDoor();
    const { status, body } = await ask('/api/press', post({ page: 'page-race', control: 'ctl-program-3' }));
    expect([status, JSON.parse(body)]).toMatchObject([
      200,
      { outcome: 'lost', sends: [{ device: 'SW1', text: 'TAKE 3', outcome: 'lost' }] },
    ]);
  });

  it('says with a code why nothing was sent', async () => {
    const { ask } = await startDoor();
    const { body } = await ask('/api/send', post({ device: 'E1', command: 'stopStream' }));
    expect(JSON.parse(body)).toMatchObject({ outcome: 'skipped', why: 'guarded' });
  });

  it.each([
    ['a missing field', post({ page: 'page-race' }), 400, 'control'],
    ['a field of the wrong type', post({ page: 7, control: 'x' }), 400, 'page'],
    ['an unknown field', post({ page: 'page-race', control: 'ctl-cut', colour: 1 }), 400, 'colour'],
    ['an unknown gesture', post({ page: 'page-race', control: 'ctl-cut', gesture: 'wave' }), 400, 'gesture'],
    ['what is not JSON', post('{'), 400, 'body'],
    ['an unknown page', post({ page: 'page-none', control: 'ctl-cut' }), 404, 'page'],
    ['an unknown control', post({ page: 'page-race', control: 'ctl-none' }), 404, 'control'],
    [
      'another type of content',
      { method: 'POST', headers: { 'content-type': 'text/plain' }, body: '{}' },
      415,
      undefined,
    ],
    ['another method', { method: 'DELETE' }, 405, 'POST'],
  ])('answers %s with the field, and never with a stack trace', async (_name, options, status, field) => {
    const { ask } = await startDoor();
    const fieldOf = ({ body }: Answer) => (JSON.parse(body) as { error: { field?: string } }).error.field;
    // The door opens before the show is read, and until then the engine knows no page.
    const answer = await vi.waitFor(async () => {
      const now = await ask('/api/press', options);
      expect(fieldOf(now)).toBe(field);
      return now;
    }, 5000);
    expect(answer.status).toBe(status);
    expect(answer.body).not.toMatch(/\bat .*\.(ts|js)/);
  });

  it('answers 404 for what there is not', async () => {
    const { ask } = await startDoor();
    expect((await ask('/api/readings?device=XX')).status).toBe(404);
    expect((await ask('/api/readings?device=SHOW')).status).toBe(200);
    expect((await ask('/api/nothing')).status).toBe(404);
  });

  it('describes itself by a valid OpenAPI document', async () => {
    const { ask } = await startDoor();
    const { status, body } = await ask('/api/openapi.json');
    expect(status).toBe(200);
    const result = await new Validator().validate(JSON.parse(body) as never);
    expect(result).toMatchObject({ valid: true });
  });
});

it('tells the engine of a change only with the token of this start', async () => {
  let told = 0;
  const port = await freePort();
  const server = await serveControlLink({
    port,
    token: 'token',
    onShowChanged: () => {
      told += 1;
      return Promise.resolve();
    },
    onStandins: (on) => Promise.resolve(on ? 'not here' : undefined),
    onPicture: (device) => Promise.resolve(device === 'cam' ? ok(Buffer.from('jpeg')) : fail('Not this one.')),
    log: noLog,
  });
  onTestFinished(() => void server.close());
  const tell = (token: string) =>
    fetch(`http://127.0.0.1:${port}/show-changed`, { method: 'POST', headers: { authorization: `Bearer ${token}` } });
  expect((await tell('guess')).status).toBe(403);
  expect((await tell('token')).status).toBe(204);
  expect(told).toBe(1);
  const standins = (way: string, token: string) =>
    fetch(`http://127.0.0.1:${port}/standins-${way}`, {
      method: 'POST',
      headers: { authorization: `Bearer ${token}` },
    });
  expect((await standins('on', 'guess')).status).toBe(403);
  const refused = await standins('on', 'token');
  expect([refused.status, await refused.json()]).toEqual([
    409,
    { error: { code: 'not-started', message: 'not here' } },
  ]);
  expect((await standins('off', 'token')).status).toBe(204);
  const picture = (device: string, token: string) =>
    fetch(`http://127.0.0.1:${port}/picture`, {
      method: 'POST',
      headers: { authorization: `Bearer ${token}`, 'content-type': 'application/json' },
      body: JSON.stringify({ device, still: 'view' }),
    });
  expect((await picture('cam', 'guess')).status).toBe(403);
  expect(await (await picture('cam', 'token')).text()).toBe('jpeg');
  const none = await picture('other', 'token');
  expect([none.status, await none.json()]).toEqual([503, { error: { code: 'no-picture', message: 'Not this one.' } }]);
});
