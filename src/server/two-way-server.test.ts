import { once } from 'node:events';
import { mkdtempSync, rmSync } from 'node:fs';
import { connect, type Socket } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { connect as connectTls } from 'node:tls';
import { beforeAll, describe, expect, it, onTestFinished } from 'vitest';
import { certificate, type Certificate } from './certificate';
import { freePort } from './free-port';
import { TwoWayServer } from './two-way-server';

/** Connections that never get on are closed, plain or under TLS, whether the server listens itself or is handed them. */

let own: Certificate;
beforeAll(async () => {
  const dir = mkdtempSync(join(tmpdir(), 'sorrelfinch-'));
  own = await certificate(dir, undefined, []);
  rmSync(dir, { recursive: true, force: true });
});

const limits = { open: 8, unfinished: 6, headWithinMs: 400, bodyWithinMs: 800 };

async function startServer(tls: boolean): Promise<number> {
  const port = await freePort();
  const server = new TwoWayServer({
    onRequest: (req, res) => {
      req.resume();
      req.once('end', () => res.end('done'));
    },
    onUpgrade: (_req, socket) => socket.destroy(),
    tls: tls ? own : undefined,
    limits,
  });
  await server.listen(port, '127.0.0.1');
  onTestFinished(() => server.close());
  return port;
}

/** A connection, and for how long it was open, in milliseconds. */
async function open(port: number, secure: boolean): Promise<{ socket: Socket; lasted: Promise<number> }> {
  const from = performance.now();
  const plain = connect(port, '127.0.0.1');
  const socket = secure ? connectTls({ socket: plain, rejectUnauthorized: false }) : plain;
  socket.on('error', () => undefined);
  onTestFinished(() => void plain.destroy());
  const lasted = once(plain, 'close').then(() => performance.now() - from);
  await once(socket, secure ? 'secureConnect' : 'connect');
  return { socket, lasted };
}

describe.each([
  ['plain', false, false],
  ['plain beside TLS', true, false],
  ['TLS', true, true],
])('%s', (_name, tls, secure) => {
  it('closes a head that never ends', async () => {
    const { socket, lasted } = await open(await startServer(tls), secure);
    const drip = setInterval(() => socket.write('x-slow: 1\r\n'), 100);
    onTestFinished(() => clearInterval(drip));
    socket.write('GET / HTTP/1.1\r\nhost: localhost\r\n');
    expect(await lasted).toBeLessThan(3000);
  });

  it('closes a body that never ends', async () => {
    const { socket, lasted } = await open(await startServer(tls), secure);
    socket.write('POST / HTTP/1.1\r\nhost: localhost\r\ncontent-length: 1000\r\n\r\n');
    const drip = setInterval(() => socket.write('x'), 100);
    onTestFinished(() => clearInterval(drip));
    expect(await lasted).toBeLessThan(3500);
  });

  it('answers a request, and one after it on the same connection', async () => {
    const { socket } = await open(await startServer(tls), secure);
    for (let n = 0; n < 2; n += 1) {
      socket.write('GET / HTTP/1.1\r\nhost: localhost\r\n\r\n');
      expect(String((await once(socket, 'data'))[0])).toContain('200 OK');
    }
  });
});

it('closes the head of a second request that never ends', async () => {
  const { socket, lasted } = await open(await startServer(true), true);
  socket.write('GET / HTTP/1.1\r\nhost: localhost\r\n\r\n');
  await once(socket, 'data');
  socket.write('GET / HTTP/1.1\r\nhost: ');
  expect(await lasted).toBeLessThan(20_000);
});

it('has only so many connections from one address', async () => {
  // On this computer four times as many.
  const port = await startServer(false);
  const all = await Promise.all(Array.from({ length: 40 }, () => open(port, false).catch(() => undefined)));
  await new Promise((resolve) => setTimeout(resolve, 100));
  expect(all.filter((each) => each && !each.socket.destroyed).length).toBeLessThanOrEqual(24);
});

it('speaks TLS 1.2 with forward secrecy and authenticated encryption only', async () => {
  const port = await startServer(true);
  const tries = (ciphers: string) =>
    new Promise<string>((resolve) => {
      const socket = connectTls(
        { port, host: '127.0.0.1', rejectUnauthorized: false, maxVersion: 'TLSv1.2', ciphers },
        () => {
          resolve(socket.getCipher().standardName);
          socket.destroy();
        },
      );
      socket.once('error', () => resolve('refused'));
    });
  expect(await tries('ECDHE-ECDSA-AES128-SHA256:ECDHE-ECDSA-AES256-SHA384:ECDHE-ECDSA-AES128-SHA')).toBe('refused');
  expect(await tries('ECDHE-ECDSA-AES128-GCM-SHA256')).toBe('TLS_ECDHE_ECDSA_WITH_AES_128_GCM_SHA256');
});
