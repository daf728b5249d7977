import { mkdtempSync, rmSync } from 'node:fs';
import { spawnSync } from 'node:child_process';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect } from 'vitest';
import { DriverShelf, type DriverAdditions } from '../src/core/driver';
import { emptyReading, putReading } from '../src/core/show';
import { shippedDrivers } from '../src/drivers';
import { TestClient } from './support/rig';
import { foreign, reading as readingOf, saysOf, send, start, startPython } from './support/foreign-end';
import { must } from './support/records';
import type { RowsView, WireRow } from '../src/core/live';
import { onTestFinished, until, type TestRig } from './support/rig';

/** “Any device: HTTP requests”, set by its options, against Python's own HTTP server. */

/** A device with a state as JSON below a nested path, for requests with the token. */
const device = (tls = '') => `
import http.server, json, ssl
state = {'out': {'1': {'level': 40, 'on': True}}}
class Handler(http.server.BaseHTTPRequestHandler):
    protocol_version = 'HTTP/1.1'
    def answer(self):
        n = int(self.headers.get('content-length') or 0)
        body = self.rfile.read(n).decode()
        print(json.dumps({'line': self.requestline, 'auth': self.headers.get('authorization'), 'key': self.headers.get('x-key'), 'type': self.headers.get('content-type'), 'body': body}), flush=True)
        status, said = 200, state
        if self.headers.get('authorization') != 'Bearer salt marsh' and self.headers.get('x-key') != 'salt marsh': status, said = 401, {'error': 'no token'}
        elif self.path == '/api/v2/out/1?fast=1' and self.command in ('PUT', 'PATCH'): state['out']['1'].update(json.loads(body))
        elif self.path == '/api/v2/old': status = 302
        elif self.path != '/api/v2/state': status, said = 404, {'error': 'no such thing'}
        text = json.dumps(said).encode()
        self.send_response(status)
        self.send_header('content-type', 'application/json')
        self.send_header('content-length', str(len(text)))
        self.end_headers()
        self.wfile.write(text)
    do_GET = do_PUT = do_PATCH = do_POST = answer
    def log_message(self, *args): pass
server = http.server.ThreadingHTTPServer(('127.0.0.1', 0), Handler)
${tls}
print(server.server_port, flush=True)
server.serve_forever()
`;
const token = { base: '/api/v2', auth: 'bearer', body: 'json' };
const asked = { asked: 'yes', question: '/state', everyMs: 200, silentAfterMs: 1000 };
const own = {
  commands: {},
  readings: {
    own1: { title: 'Level', value: { type: 'whole', min: 0, max: 100 } },
    own2: { title: 'On', value: { type: 'onOff', on: 'true', off: 'false' } },
  },
  replies: [
    { take: { value: '/out/1/level' }, set: { own1: '{value}' } },
    { take: { value: '/out/1/on' }, set: { own2: '{value}' } },
  ],
};
const reading = (rig: TestRig, key: string, value: unknown) =>
  until(
    () => rig.engine.api.readings('D1')?.readings.find((each) => each.key === key)?.value,
    (now) => now === value,
  );
const linkIs = (rig: TestRig, word: string) =>
  until(
    () => rig.engine.api.health().links[0]?.link.word,
    (now) => now === word,
  );
const heard = (lines: readonly string[]) =>
  lines.map(
    (line) =>
      JSON.parse(line) as { line: string; auth: string | null; key: string | null; type: string | null; body: string },
  );

describe('a generic HTTP device with a token, nested paths and a state in JSON', () => {
  foreign('is asked for its state, which becomes readings, and is changed by PUT and PATCH', async () => {
    const { port, lines } = await startPython(device());
    const rig = await start('generic-http', port, { options: { ...token, ...asked }, additions: own }, 'salt marsh');
    await linkIs(rig, 'up');
    await reading(rig, 'own1', 40);
    await reading(rig, 'own2', true);
    const params = { path: '/out/1?fast=1', kind: 'json', body: '{"level": 75}' };
    expect(await send(rig, 'put', params)).toMatchObject({ outcome: 'confirmed' });
    await reading(rig, 'own1', 75);
    expect(await send(rig, 'patch', { ...params, body: '{"on": false}' })).toMatchObject({ outcome: 'confirmed' });
    await reading(rig, 'own2', false);
    const put = heard(lines).find(({ line }) => line.startsWith('PUT'));
    expect(put).toMatchObject({
      line: 'PUT /api/v2/out/1?fast=1 HTTP/1.1',
      auth: 'Bearer salt marsh',
      type: 'application/json',
      body: '{"level": 75}',
    });
    expect(await send(rig, 'get', { path: '/nothing' })).toMatchObject({ outcome: 'refused' });
  });

  foreign('shows method, path, body and status on the wire, and the token nowhere', async () => {
    const { port } = await startPython(device());
    const options = { ...token, auth: 'none', headers: 'X-Key: {password} | X-Desk: north | X-Place: Öland' };
    const rig = await start('generic-http', port, { options }, 'salt marsh');
    const client = await TestClient.open(rig.url);
    await client.follow<RowsView<WireRow>>('wire');
    await linkIs(rig, 'not checked');
    const params = { path: '/out/1?fast=1', kind: 'json', body: '{"level": 8}' };
    expect(await send(rig, 'put', params)).toMatchObject({ outcome: 'confirmed' });
    const wire = () =>
      JSON.stringify(
        (client.topic('wire') as RowsView<WireRow>).rows.map(({ hex }) =>
          Buffer.from(hex.replaceAll(' ', ''), 'hex').toString(),
        ),
      );
    await until(wire, (text) => text.includes('HTTP/1.1 200'));
    expect(wire()).toContain('PUT /api/v2/out/1?fast=1 HTTP/1.1');
    expect(wire()).toContain('X-Desk: north');
    expect(wire()).not.toContain('salt marsh');
    expect(JSON.stringify(client.topic('wire'))).not.toContain('salt marsh');
  });

  foreign('takes a redirection as done only where that is set, and a refused token as a refusal', async () => {
    const { port } = await startPython(device());
    const strict = await start('generic-http', port, { options: token }, 'salt marsh');
    await linkIs(strict, 'not checked');
    expect(await send(strict, 'get', { path: '/old' })).toMatchObject({ outcome: 'refused' });
    const lenient = await start('generic-http', port, { options: { ...token, done: '3xx' } }, 'salt marsh');
    await linkIs(lenient, 'not checked');
    expect(await send(lenient, 'get', { path: '/old' })).toMatchObject({ outcome: 'confirmed' });
    const wrong = await start('generic-http', port, { options: token }, 'low tide');
    await linkIs(wrong, 'not checked');
    expect(await send(wrong, 'get', { path: '/state' })).toMatchObject({ outcome: 'refused' });
  });

  foreign('is reached over TLS, and not where its own certificate is checked', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'ends-'));
    onTestFinished(() => rmSync(folder, { recursive: true }));
    const [key, cert] = [join(folder, 'key.pem'), join(folder, 'cert.pem')];
    const args = ['req', '-x509', '-newkey', 'rsa:2048', '-nodes', '-keyout', key, '-out', cert, '-days', '2'];
    const made = spawnSync('openssl', [...args, '-subj', '/CN=device.test'], { stdio: 'ignore' });
    expect(made.status).toBe(0);
    const { port } = await startPython(
      device(
        `context = ssl.SSLContext(ssl.PROTOCOL_TLS_SERVER); context.load_cert_chain('${cert}', '${key}'); server.socket = context.wrap_socket(server.socket, server_side=True)`,
      ),
    );
    const options = { ...token, ...asked, scheme: 'https' };
    const rig = await start('generic-http', port, { options, additions: own }, 'salt marsh');
    await linkIs(rig, 'up');
    await reading(rig, 'own1', 40);
    const checked = { ...options, checkCertificate: true };
    const careful = await start('generic-http', port, { options: checked }, 'salt marsh');
    await linkIs(careful, 'down');
    expect(careful.engine.api.health().links[0]?.link).toMatchObject({ cause: 'certificate' });
  });
});

describe('a device that answers with several lines', () => {
  foreign('gives readings from each of them and from its headers, as they are entered on the desk', async () => {
    const { port } = await startPython(`
from http.server import BaseHTTPRequestHandler, HTTPServer
class Device(BaseHTTPRequestHandler):
    def log_message(self, *_): pass
    def do_GET(self):
        text = b'fan=3\\r\\nlevel=-4 dB, quiet\\r\\nname=Low tide\\n'
        self.send_response(200)
        self.send_header('content-type', 'text/plain')
        self.send_header('content-length', str(len(text)))
        self.send_header('X-Mode', 'record; slot=2')
        self.end_headers()
        self.wfile.write(text)
server = HTTPServer(('127.0.0.1', 0), Device)
print(server.server_port, flush=True)
server.serve_forever()
`);
    const options = { body: 'text', asked: 'yes', question: '/state', everyMs: 200 };
    const shelf = new DriverShelf();
    shelf.put(shippedDrivers);
    const document = shelf.for({ driver: 'generic-http', options })?.document;
    if (!document) throw new Error('There is no such driver.');
    const level = { type: 'decimal', unit: 'dB' } as const;
    const entered = [
      { title: 'Fan', source: { in: 'line', before: 'fan=', after: '' }, value: { type: 'whole' } },
      { title: 'Level', source: { in: 'line', before: 'level=', after: ' dB' }, value: level },
      { title: 'Name', source: { in: 'line', before: 'name=', after: '' }, value: { type: 'text' } },
      { title: 'Mode', source: { in: 'header', name: 'x-mode', pattern: '' }, value: { type: 'text' } },
      {
        title: 'Slot',
        source: { in: 'header', name: 'X-Mode', pattern: 'slot=(?P<value>[0-9])' },
        value: { type: 'whole' },
      },
    ] as const;
    const additions = entered.reduce<DriverAdditions | undefined>(
      (before, each) => must(putReading(document, before, undefined, { ...emptyReading(document), ...each })),
      undefined,
    );
    const rig = await start('generic-http', port, { options, additions });
    await linkIs(rig, 'up');
    await saysOf(rig, 'own5', 2);
    expect(['own1', 'own2', 'own3', 'own4'].map((key) => readingOf(rig, key))).toEqual([
      3,
      -4,
      'Low tide',
      'record; slot=2',
    ]);
  });
});
