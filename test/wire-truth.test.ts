import { describe, expect } from 'vitest';
import type { RowsView, WireRow } from '../src/core/live';
import { foreign, send, start, startPython } from './support/foreign-end';
import { TestClient, until, type TestRig } from './support/rig';

/** What is typed for a generic device is what leaves, and what it says is seen when it comes. The other end is Python's library. */

const httpServer = `
import http.server, json, sys
class Handler(http.server.BaseHTTPRequestHandler):
    def answer(self):
        n = int(self.headers.get('content-length') or 0)
        body = self.rfile.read(n).decode()
        print(json.dumps({'line': self.requestline, 'auth': self.headers.get('authorization'), 'body': body}), flush=True)
        said = b'ok'
        self.send_response(200)
        self.send_header('content-length', str(len(said)))
        self.end_headers()
        self.wfile.write(said)
    do_GET = answer
    do_POST = answer
    def log_message(self, *args): pass
server = http.server.ThreadingHTTPServer(('127.0.0.1', 0), Handler)
print(server.server_port, flush=True)
server.serve_forever()
`;
const textDevice = `
import socket, sys, time
server = socket.socket()
server.bind(('127.0.0.1', 0))
server.listen(5)
print(server.getsockname()[1], flush=True)
while True:
    peer, _ = server.accept()
    peer.sendall(b'READY\\r')
    try:
        while True:
            got = peer.recv(100)
            if not got: break
            if got.startswith(b'nul'): peer.sendall(b'LEVEL 7\\x00')
            elif got.startswith(b'part'): peer.sendall(b'HALF A ')
            elif got.startswith(b'rest'): peer.sendall(b'LINE\\r')
            elif got.startswith(b'both'): peer.sendall(b'ONE\\r\\nTWO\\r\\n')
    except OSError:
        pass
`;

const said = (rig: TestRig) => rig.engine.api.readings('D1')?.readings.find(({ key }) => key === 'said')?.value;

describe('a generic HTTP device', () => {
  foreign(
    'gets the path as it was typed, query and all, and no empty sign-in',
    async () => {
      const { port, lines } = await startPython(httpServer);
      for (const driver of ['generic-http', 'generic-http-digest', 'generic-pairs']) {
        const rig = await start(driver, port);
        await until(
          () => rig.engine.api.health().links[0]?.link.word,
          (word) => word === 'not checked',
        );
        const command = driver === 'generic-pairs' ? 'ask' : 'get';
        const result = await send(rig, command, { path: '/api/scene?name=Wide&cut=1;2' });
        expect(result).toMatchObject({ outcome: 'confirmed' });
        expect(result.sends[0]?.text).toBe('GET /api/scene?name=Wide&cut=1;2');
        await until(
          () => lines.length,
          (count) => count > 0,
        );
        const [line] = lines.splice(0).map((each) => JSON.parse(each) as { line: string; auth: string | null });
        expect(line).toMatchObject({ line: 'GET /api/scene?name=Wide&cut=1;2 HTTP/1.1', auth: null });
      }
    },
    30_000,
  );

  foreign(
    'is signed in at where there is a name',
    async () => {
      const { port, lines } = await startPython(httpServer);
      const rig = await start('generic-http', port, { user: 'joe' });
      await until(
        () => rig.engine.api.health().links[0]?.link.word,
        (word) => word === 'not checked',
      );
      await send(rig, 'get', { path: '/' });
      await until(
        () => lines.length,
        (count) => count > 0,
      );
      const [line] = lines.map((each) => JSON.parse(each) as { auth: string });
      expect(line?.auth).toBe(`Basic ${Buffer.from('joe:').toString('base64')}`);
    },
    30_000,
  );
});

describe('a generic text device', () => {
  foreign(
    'is heard whether its lines end with CR, NUL or CR LF, and seen before they end',
    async () => {
      const { port } = await startPython(textDevice);
      const rig = await start('generic-text-tcp', port);
      const client = await TestClient.open(rig.url);
      await client.follow<RowsView<WireRow>>('wire');
      const ask = (text: string) => send(rig, 'send', { text, ending: 'none' });
      await until(
        () => said(rig),
        (now) => now === 'READY',
      );
      await ask('nul');
      await until(
        () => said(rig),
        (now) => now === 'LEVEL 7',
      );
      await ask('both');
      await until(
        () => said(rig),
        (now) => now === 'TWO',
      );
      await ask('part');
      const wire = () =>
        (client.topic('wire') as RowsView<WireRow>).rows
          .filter(({ dir }) => dir === 'in')
          .map(({ hex }) => Buffer.from(hex, 'hex').toString());
      // Not a line yet, and on the wire all the same, while the connection stays.
      await until(wire, (rows) => rows.includes('HALF A '), 1500);
      expect(said(rig)).toBe('TWO');
      expect(rig.engine.api.health().links[0]?.link.word).toBe('up');
      await ask('rest');
      await until(
        () => said(rig),
        (now) => now === 'HALF A LINE',
      );
    },
    30_000,
  );
});
