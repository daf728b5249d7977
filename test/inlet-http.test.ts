import { spawn } from 'node:child_process';
import { createHash } from 'node:crypto';
import { connect } from 'node:net';
import { Validator } from '@seriousme/openapi-schema-validator';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import type { AsRunRow, RowsView } from '../src/core/live';
import { type InletData, type ShowRecord } from '../src/core/show';
import { startFleetRig, type FleetRig } from './support/fleet';
import { allListen, freeTcpPort, inletRecord, run, setSwitcher, switcherOf } from './support/inlet-end';
import { controlRecord, macroRecord, pageRecord } from './support/records';
import { onTestFinished, runAsOne, until } from './support/rig';

/** The inlet of HTTP. The other end is curl, and Python where something has to stay open. */

const token = 'a-token-of-the-score-box';
const inlet = (id: string, port: number, more: Partial<InletData> = {}): ShowRecord =>
  inletRecord(id, port, { speaks: 'http', ...more });

let f: FleetRig;
let end: () => Promise<void>;
let ports: { open: number; closed: number; text: number };
beforeAll(async () => {
  ports = { open: await freeTcpPort(), closed: await freeTcpPort(), text: await freeTcpPort() };
  const records: ShowRecord[] = [
    pageRecord('page', 'Race'),
    controlRecord('ctl-cut', {
      label: [{ text: 'Cut' }],
      responses: { tap: [{ device: 'dev-SW1', command: 'cut', params: {} }] },
      lamps: [
        { when: { op: 'equals', reading: { device: 'dev-SW1', key: 'program' }, to: 3 }, show: 'onAir', word: 'THREE' },
      ],
    }),
    controlRecord('ctl-gone', { label: [{ text: 'Gone' }], responses: { tap: [] } }),
    {
      kind: 'variable',
      id: 'var-race',
      version: 1,
      data: { name: 'Race', key: 'race', order: 1, note: '', value: { type: 'text', initial: '' } },
    },
    {
      ...macroRecord('mac-aux', [
        {
          steps: [
            {
              id: 'a',
              at: 0,
              does: {
                is: 'send',
                send: { device: 'dev-SW1', command: 'aux', params: { aux: 1, input: { value: 'input' } } },
              },
            },
          ],
        },
      ]),
    },
    inlet('open', ports.open, { origins: ['https://scores.example'] }),
    inlet('closed', ports.closed, {
      callers: [{ name: 'Score box', hash: createHash('sha256').update(token).digest('hex') }],
    }),
    inlet('text', ports.text, { speaks: 'text' }),
    {
      kind: 'watch',
      id: 'watch-1',
      version: 1,
      data: {
        name: 'Goal',
        number: 1,
        order: 1,
        note: '',
        when: { is: 'message', text: 'goal home' },
        delayMs: 0,
        quietMs: 0,
        mostPerMinute: 60,
        sends: [{ device: 'dev-SW1', command: 'ready', params: { input: 5 } }],
      },
    },
  ];
  for (const record of records)
    if (record.kind === 'macro')
      (record.data as { params: object[] }).params = [{ name: 'input', title: 'Input', value: 1 }];
  [f, end] = await runAsOne(() => startFleetRig(['SW1'], records));
  await f.linkIs('SW1', 'up');
  await allListen(f, 3);
});
afterAll(() => end());

/** The status and the body that curl gets. */
const curl = async (path: string, ...args: string[]): Promise<[number, string]> => {
  const { said } = await run('curl', '-s', '-m', '20', '-w', '\n%{http_code}', ...args, `http://127.0.0.1:${path}`);
  const at = said.lastIndexOf('\n');
  return [Number(said.slice(at + 1)), said.slice(0, at).trim()];
};
const open = (path: string, ...args: string[]) => curl(`${ports.open}${path}`, ...args);
const switcher = () => switcherOf(f);

beforeEach(() => setSwitcher(f));

describe('over HTTP', () => {
  it('a control is pressed by its names or its id, with the outcome in the answer', async () => {
    const [status, said] = await open('/press/race/cut');
    expect([status, said]).toEqual([200, expect.stringMatching(/^ok confirmed \d+ ms$/)]);
    expect((await switcher()).program).toBe(2);
    const json = await open('/press/ctl-cut', '-H', 'Accept: application/json', '-X', 'POST');
    expect(json[0]).toBe(200);
    expect(JSON.parse(json[1])).toMatchObject({ is: 'ok', outcome: 'confirmed' });
    expect((await switcher()).program).toBe(1);
  });

  it('describes itself, validly, and answers at every path that it describes', async () => {
    const [status, text] = await open('/openapi.json');
    expect(status).toBe(200);
    const description = JSON.parse(text) as { paths: Record<string, { get: { responses: object } }> };
    expect(await new Validator().validate(description as never)).toMatchObject({ valid: true });
    const filled: Readonly<Record<string, string>> = {
      page: 'Race',
      label: 'Cut',
      macro: 'mac-aux',
      number: '1',
      variable: 'race',
      value: '7',
      steps: '1',
      tag: 'SW1',
      reading: 'program',
      what: 'pages',
    };
    const paths = Object.keys(description.paths).filter((path) => !path.startsWith('/follow'));
    expect(paths.length).toBeGreaterThan(12);
    for (const path of paths) {
      const at = path.replaceAll(/\{(\w+)\}/g, (_, name: string) => encodeURIComponent(filled[name] ?? ''));
      const [answered, said] = await open(`${at}?${path.startsWith('/wait') ? 'seconds=0.1' : ''}`);
      expect([path, said]).not.toEqual([path, expect.stringContaining('unknown-request')]);
      expect(Object.keys(description.paths[path]?.get.responses ?? {})).toContain(String(answered));
    }
  });

  it('a macro is started with its parameters, in their types', async () => {
    expect((await open('/run/mac-aux?input=6'))[0]).toBe(200);
    await until(switcher, ({ aux }) => aux[0] === 6);
    expect(await open('/run/mac-aux?input=six')).toEqual([400, expect.stringContaining('cannot be “six”')]);
    expect(await open('/run/mac-aux?lane=1')).toEqual([404, expect.stringContaining('it has input')]);
  });

  it('a variable is set from the path, the query or the body, and read back', async () => {
    for (const [path, args, value] of [
      ['/set/race/7', [], '7'],
      ['/set/race?value=1%2F2', [], '1/2'],
      ['/set/race', ['-d', 'The final & last', '-H', 'Content-Type: text/plain'], 'The final & last'],
    ] as const) {
      expect((await open(path, ...args))[0]).toBe(200);
      expect(await open('/read/SHOW/variable.race')).toEqual([200, value]);
    }
  });

  it('readings and lamps are read as text and as JSON', async () => {
    expect(await open('/read/SW1/program')).toEqual([200, '1']);
    expect(await open('/read/lamp/Race/Cut')).toEqual([200, 'off']);
    const [, json] = await open('/read/SW1/program?as=json');
    expect(JSON.parse(json)).toEqual({ is: 'value', value: 1, isFresh: true });
    expect(await open('/read/SW1/nothing')).toEqual([404, expect.stringContaining('error not-found')]);
    expect(await open('/read/SW9/program')).toEqual([404, expect.stringContaining('There is no device SW9')]);
  });

  it('anything else fires the watches that wait for it, or is refused with a code', async () => {
    expect(await open('/goal/home')).toEqual([200, 'ok 1 watch']);
    await until(switcher, ({ preview }) => preview === 5);
    expect(await open('/goal/away')).toEqual([404, expect.stringContaining('error unknown-request')]);
    expect((await open('/press/Race/Cut', '-X', 'PUT'))[0]).toBe(405);
    expect((await open(`/press/${'x'.repeat(400)}`))[0]).toBe(413);
    expect((await open('/set/race', '-d', 'x'.repeat(5000)))[0]).toBe(413);
    expect(await open('/press/ctl-gone')).toEqual([409, expect.stringContaining('error skipped')]);
  });

  it('a change is waited for', async () => {
    const began = performance.now();
    const waiting = open('/wait/SW1/program?not=1&seconds=10');
    await new Promise((resolve) => setTimeout(resolve, 300));
    await f.send('SW1', 'take', { input: 4 });
    expect(await waiting).toEqual([200, '4']);
    expect(performance.now() - began).toBeLessThan(5000);
    // At once, where it is another one already; and after its time where nothing changes.
    expect(await open('/wait/SW1/program?not=1&seconds=10')).toEqual([200, '4']);
    expect(await open('/wait/SW1/program?not=4&seconds=0.3')).toEqual([200, '4']);
  });

  it('every change of a reading and a lamp is told as an event', async () => {
    const script = `
import urllib.request, json, sys
r = urllib.request.urlopen('http://127.0.0.1:%s/follow/SW1/program?lamp=Race/Cut' % sys.argv[1], timeout=10)
assert r.headers['content-type'].startswith('text/event-stream'), r.headers
seen = []
for line in r:
    line = line.decode().strip()
    if line.startswith('data: '):
        seen.append(json.loads(line[6:])); print(json.dumps(seen[-1]), flush=True)
    if len(seen) >= 6: break
`;
    const child = spawn('python3', ['-c', script, String(ports.open)]);
    onTestFinished(() => void child.kill());
    let said = '';
    child.stdout.on('data', (chunk: Buffer) => (said += String(chunk)));
    const events = () =>
      said
        .split('\n')
        .filter((line) => line !== '')
        .map((line) => JSON.parse(line) as { name: string; value?: number; show?: string });
    await until(events, (now) => now.length >= 2);
    await f.send('SW1', 'take', { input: 3 });
    await until(events, (now) => now.length >= 4);
    await f.send('SW1', 'take', { input: 2 });
    const all = await until(events, (now) => now.length >= 6);
    const of = (name: string) => all.filter((each) => each.name === name).map(({ value, show }) => value ?? show);
    expect(of('SW1 program')).toEqual([1, 3, 2]);
    expect(of('lamp Race/Cut')).toEqual(['off', 'onAir', 'off']);
  });

  it('only those with a token are heard where callers are listed, by name in the as-run', async () => {
    const closed = (path: string, ...args: string[]) => curl(`${ports.closed}${path}`, ...args);
    expect(await closed('/press/Race/Cut')).toEqual([401, expect.stringContaining('error no-token')]);
    expect((await closed('/press/Race/Cut?token=guess'))[0]).toBe(401);
    expect((await switcher()).program).toBe(1);
    expect((await closed(`/press/Race/Cut?token=${token}`))[0]).toBe(200);
    expect((await closed('/press/Race/Cut', '-H', `Authorization: Bearer ${token}`))[0]).toBe(200);
    await until(
      async () => JSON.stringify((await f.client.follow<RowsView<AsRunRow>>('as-run')).rows),
      (rows) => rows.includes('inlet closed (Score box)'),
    );
  });

  it('a web page presses nothing through a browser, unless its origin is listed', async () => {
    expect(await open('/press/Race/Cut', '-H', 'Origin: https://elsewhere.example')).toEqual([
      403,
      expect.stringContaining('error foreign-page'),
    ]);
    // A picture in a page has no origin, but says where it is from.
    expect((await open('/press/Race/Cut', '-H', 'Sec-Fetch-Site: cross-site'))[0]).toBe(403);
    // A name that leads to this computer by a trick.
    expect((await open('/press/Race/Cut', '-H', 'Host: elsewhere.example'))[0]).toBe(403);
    expect((await switcher()).program).toBe(1);
    const { said: listed } = await run(
      'curl',
      '-s',
      '-i',
      '-H',
      'Origin: https://scores.example',
      `http://127.0.0.1:${ports.open}/press/Race/Cut`,
    );
    expect(listed).toMatch(/access-control-allow-origin: https:\/\/scores\.example/i);
    expect((await switcher()).program).toBe(2);
    const { said: before } = await run(
      'curl',
      '-s',
      '-i',
      '-X',
      'OPTIONS',
      '-H',
      'Origin: https://scores.example',
      '-H',
      'Access-Control-Request-Method: POST',
      `http://127.0.0.1:${ports.open}/press/Race/Cut`,
    );
    expect(before).toMatch(/204/);
    expect(before).toMatch(/access-control-allow-methods: GET, POST/i);
  });

  it('what comes in pieces, breaks off or is no HTTP does not stop it', async () => {
    for (const bytes of [
      'GARBAGE\r\n\r\n',
      'POST /set/race HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Length: 90\r\n\r\nhalf',
      '\0\0\0',
    ]) {
      const socket = connect(ports.open, '127.0.0.1');
      socket.on('error', () => undefined);
      socket.write(bytes);
      await new Promise((resolve) => setTimeout(resolve, 30));
      socket.destroy();
    }
    expect((await open('/read/SW1/program'))[0]).toBe(200);
  });
});

describe('a line of text', () => {
  it('follows readings and lamps until it says otherwise, or hangs up', async () => {
    const socket = connect(ports.text, '127.0.0.1');
    onTestFinished(() => void socket.destroy());
    let said = '';
    socket.setEncoding('utf8').on('data', (text: string) => (said += text));
    const lines = () => said.split('\r\n').filter((line) => line !== '');
    socket.write('follow SW1 program\r\nfollow lamp Race/Cut\r\n');
    await until(lines, (now) => now.length === 2);
    await f.send('SW1', 'take', { input: 3 });
    await until(lines, (now) => now.length === 4);
    socket.write('unfollow SW1 program\r\n');
    await until(lines, (now) => now.length === 5);
    await f.send('SW1', 'take', { input: 2 });
    await until(lines, (now) => now.length === 6);
    expect(lines()).toEqual([
      'value 1',
      'lamp off',
      expect.stringMatching(/^now /),
      expect.stringMatching(/^now /),
      'ok no longer followed',
      'now lamp Race/Cut off',
    ]);
    expect(lines().slice(2, 4).sort()).toEqual(['now SW1 program 3', 'now lamp Race/Cut onAir THREE']);
  });
});
