import { describe, expect } from 'vitest';
import { foreign, linkIs, start, startPython, tested } from './support/foreign-end';

/** A web server of another program: `/state` is there, everything else is not; with a password it wants to be asked with it. */
const server = (password: string) => `
import base64, http.server
class Handler(http.server.BaseHTTPRequestHandler):
    def do_GET(self):
        wanted = 'Basic ' + base64.b64encode(b'desk:${password}').decode()
        status = 200 if self.path == '/state' else 404
        if '${password}' and self.headers.get('authorization') != wanted: status = 401
        self.send_response(status)
        self.end_headers()
        self.wfile.write(b'{"on": true}')
    def log_message(self, *args): pass
server = http.server.ThreadingHTTPServer(('127.0.0.1', 0), Handler)
print(server.server_port, flush=True)
server.serve_forever()
`;

describe('the test of an HTTP device', () => {
  foreign('to which the program has no question is judged by an answer to a plain request', async () => {
    const open = await startPython(server(''));
    const rig = await start('generic-http', open.port);
    await linkIs(rig, 'not checked');
    const [protocol] = (await tested(rig, { devices: ['D1'] })).filter(({ stage }) => stage === 'protocol');
    expect(protocol?.verdict).toMatchObject({ is: 'passed', seen: expect.stringContaining('HTTP 404') as string });
    const locked = await startPython(server('low tide'));
    const other = await start('generic-http', locked.port);
    await linkIs(other, 'not checked');
    expect((await tested(other, { devices: ['D1'] })).at(-1)?.verdict.trouble).toBe('no-password');
  });

  foreign('that refuses its question says with which status', async () => {
    const device = await startPython(server(''));
    const options = { asked: 'yes', question: '/status' };
    const rig = await start('generic-http', device.port, { options });
    const trips = (await tested(rig, { devices: ['D1'] })).find(({ stage }) => stage === 'roundTrip');
    expect(trips?.verdict).toMatchObject({
      trouble: 'question-refused',
      seen: expect.stringContaining('404') as string,
    });
  });

  foreign('can be set beside one of an address that nobody has', async () => {
    const device = await startPython(server(''));
    const rig = await start('generic-http', device.port);
    const candidate = { driver: 'generic-http', host: '127.0.0.1', port: device.port };
    const stages = await tested(rig, { candidate, beside: true });
    expect(stages.at(-1)).toMatchObject({ stage: 'port', verdict: { trouble: 'port-refused', mends: [] } });
  });
});
