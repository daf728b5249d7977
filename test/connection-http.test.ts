import { describe, expect } from 'vitest';
import { foreign, linkIs, reading, saysOf, start, startPython, tested } from './support/foreign-end';

/** A web server of another program: `/state` is there, everything else is not; with a password it wants to be asked with it. */
const server = (password: string) => `
import base64, http.server
class Handler(http.server.BaseHTTPRequestHandler):
    def do_GET(self):
        wanted = 'Basic ' + base64.b64encode(b'desk:${password}').decode()
        status = 200 if self.path == '/state' else 404
        if '${password}' and self.headers.get('authorization') != wanted: status = 401
        self.send_response(status)
        self.send_header('X-Level', '-12.5')
        self.send_header('x-mode', 'record; slot=2')
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

describe('readings of an HTTP device', () => {
  foreign('come from headers of its answers, and from each other', async () => {
    const device = await startPython(server(''));
    const options = { asked: 'yes', question: '/state', everyMs: 200, body: 'json' };
    const additions = {
      commands: {},
      readings: {
        own1: { title: 'Level', value: { type: 'decimal' } },
        own2: { title: 'Slot', value: { type: 'whole' } },
        own3: { title: 'On', value: { type: 'onOff', on: 'true', off: 'false' } },
        own4: {
          title: 'Summary',
          value: { type: 'text' },
          computed: '(own3 ? "on, " : "off, ") + string(own1) + " dB"',
        },
      },
      replies: [
        { header: 'x-level', set: { own1: '{value}' } },
        { header: 'X-Mode', match: 'slot=(?P<slot>[0-9]+)', set: { own2: '{slot}' } },
        { take: { value: '/on' }, set: { own3: '{value}' } },
      ],
    };
    const rig = await start('generic-http', device.port, { options, additions });
    await saysOf(rig, 'own4', 'on, -12.5 dB');
    expect(reading(rig, 'own2')).toBe(2);
  });
});
