import { createServer, type IncomingMessage, type ServerResponse } from 'node:http';
import type { AddressInfo } from 'node:net';
import { describe, expect, it, onTestFinished, vi } from 'vitest';
import { compileDriver } from '../../../core/driver';
import type { Outgoing } from '../../../core/wire';
import { HttpLink } from './http-link';

const compiled = compileDriver({
  format: 1,
  id: 'a-page',
  version: 1,
  title: 'A page',
  role: 'gateway',
  link: { kind: 'http', port: 80, answerWithinMs: 150 },
  framing: { kind: 'http', body: 'text' },
  readings: {},
  commands: {},
});
if (!compiled.ok || compiled.value.document.framing.kind !== 'http') throw new Error('The driver does not compile.');
const { document } = compiled.value;
const { framing } = compiled.value.document;

/** A link to a server that answers as the test says. Resolves once the link counts as open. */
async function linkTo(answer: (path: string, res: ServerResponse, req: IncomingMessage) => void) {
  const asked: string[] = [];
  const server = createServer((req, res) => {
    asked.push(req.url ?? '');
    answer(req.url ?? '', res, req);
  });
  onTestFinished(() => {
    server.closeAllConnections();
    server.close();
  });
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const { port } = server.address() as AddressInfo;
  const onEnd = vi.fn();
  const address = { host: '127.0.0.1', port, user: '', password: '' };
  const link = await new Promise<HttpLink>((resolve) => {
    const made: HttpLink = new HttpLink(address, document, framing, {
      onOpen: () => resolve(made),
      onArrived: () => undefined,
      onBytes: () => undefined,
      onRejected: () => undefined,
      onEnd,
    });
  });
  onTestFinished(() => link.close());
  return { link, asked, onEnd };
}

const get = (path: string): Outgoing => ({
  kind: 'http',
  request: { method: 'GET', path, headers: {}, body: undefined },
});

describe('requests in a lane', () => {
  it('go out one after the other', async () => {
    const held: ServerResponse[] = [];
    const { link, asked } = await linkTo((_path, res) => held.push(res));
    link.write(get('/1'), 1, 'others');
    link.write(get('/2'), 2, 'others');
    link.write(get('/stop'), 3, 'movements');
    await vi.waitFor(() => expect(asked.toSorted()).toEqual(['/1', '/stop']));
    for (const res of held) res.end();
    await vi.waitFor(() => expect(asked).toContain('/2'));
  });

  it('wait for a request that nothing answers no longer than an answer may take', async () => {
    const { link, asked } = await linkTo((path, res) => path !== '/1' && res.end());
    link.write(get('/1'), 1, 'others');
    link.write(get('/2'), 2, 'others');
    await vi.waitFor(() => expect(asked).toEqual(['/1', '/2']));
  });

  it('are not sent any more when the connection ends while they wait', async () => {
    const { link, asked, onEnd } = await linkTo((_path, _res, req) => req.socket.destroy());
    link.write({ kind: 'http', request: { method: 'POST', path: '/1', headers: {}, body: '' } }, 1, 'others');
    link.write(get('/2'), 2, 'others');
    await vi.waitFor(() => expect(onEnd).toHaveBeenCalledOnce());
    // Longer than the time after which a lane goes on without an answer.
    await new Promise((resolve) => setTimeout(resolve, 250));
    expect(asked).toEqual(['/1']);
  });
});
