import { spawn } from 'node:child_process';
import { createServer } from 'node:net';
import type { AddressInfo } from 'node:net';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import type { RowsView, WireRow } from '../src/core/live';
import { ownId, type InletData, type ShowRecord } from '../src/core/show';
import { startFleetRig, type FleetRig } from './support/fleet';
import {
  freeTcpPort,
  freeUdpPort,
  inletRecord,
  messageWatch,
  python,
  setSwitcher,
  switcherOf,
} from './support/inlet-end';
import { controlRecord, macroRecord, pageRecord } from './support/records';
import { onTestFinished, runAsOne, until } from './support/rig';

/** Inlets in the engine. The other end is Python, which knows nothing of this program but what is written here. */

/** Sends lines over TCP with an ending of its own, and reads one answer for each. */
const textClient = `
import socket, sys
port, ending, lines = int(sys.argv[1]), sys.argv[2].encode().decode('unicode_escape'), sys.argv[3:]
s = socket.create_connection(('127.0.0.1', port)); s.settimeout(8)
f = s.makefile('r', newline='')
for line in lines:
    for byte in (line + ending).encode(): s.send(bytes([byte]))
    print(f.readline().strip())
`;
const say = async (port: number, ...lines: string[]) =>
  (await python(textClient, port, '\\r', ...lines)).trim().split('\n');
/** Open Sound Control 1.0 as its specification writes it: strings end with a zero and are filled up to four bytes, numbers are big-endian. */
const oscClient = `
import socket, struct, sys
def text(t):
    b = t.encode() + b'\\0'
    return b + b'\\0' * (-len(b) % 4)
port, address, args = int(sys.argv[1]), sys.argv[2], sys.argv[3:]
tags, body = ',', b''
for a in args:
    if a.lstrip('-').isdigit(): tags += 'i'; body += struct.pack('>i', int(a))
    else: tags += 's'; body += text(a)
s = socket.socket(socket.AF_INET, socket.SOCK_DGRAM); s.settimeout(8)
s.sendto(text(address) + text(tags) + body, ('127.0.0.1', port))
answer = s.recv(2000)
assert answer.startswith(text('/answer') + text(',s')), answer
print(answer[len(text('/answer') + text(',s')):].split(b'\\0')[0].decode())
`;
/** Follows a reading over OSC, and prints each message that comes: its address and its integer. */
const oscFollower = `
import socket, struct, sys
def text(t):
    b = t.encode() + b'\\0'
    return b + b'\\0' * (-len(b) % 4)
port, wanted = int(sys.argv[1]), int(sys.argv[2])
s = socket.socket(socket.AF_INET, socket.SOCK_DGRAM); s.settimeout(8)
s.sendto(text('/follow') + text(',ss') + text('SW1') + text('program'), ('127.0.0.1', port))
for n in range(wanted):
    m = s.recv(2000)
    address = m.split(b'\\0')[0].decode()
    rest = m[len(text(address)):]
    if rest.startswith(text(',i')): print(address, struct.unpack('>i', rest[4:8])[0], flush=True)
    else: print(address, rest[len(text(',s')):].split(b'\\0')[0].decode(), flush=True)
`;
const sayOsc = async (port: number, address: string, ...args: (string | number)[]) =>
  (await python(oscClient, port, address, ...args)).trim();

let f: FleetRig;
let end: () => Promise<void>;
let ports: { text: number; udp: number; osc: number; read: number; taken: number; oscTcp: number };
beforeAll(async () => {
  const [text, read, taken] = [await freeTcpPort(), await freeTcpPort(), await freeTcpPort()];
  ports = { text, read, taken, oscTcp: await freeTcpPort(), udp: await freeUdpPort(), osc: await freeUdpPort() };
  const records: ShowRecord[] = [
    pageRecord('page', 'Race'),
    controlRecord('ctl-cut', {
      label: [{ text: 'Cut' }],
      responses: { tap: [{ device: 'dev-SW1', command: 'cut', params: {} }] },
    }),
    controlRecord('ctl-launch', {
      label: [{ reading: { device: 'dev-SW1', key: 'input[6].name' } }],
      responses: { tap: [{ device: 'dev-SW1', command: 'take', params: { input: 6 } }] },
    }),
    controlRecord('ctl-black', {
      responses: { tap: [{ device: 'dev-SW1', command: 'black', params: { to: true } }], guard: 'hold' },
    }),
    macroRecord('mac-aux', [
      {
        steps: [
          {
            id: 'a',
            at: 0,
            does: { is: 'send', send: { device: 'dev-SW1', command: 'aux', params: { aux: 1, input: 7 } } },
          },
        ],
      },
    ]),
    {
      kind: 'variable',
      id: 'var-lap',
      version: 1,
      data: {
        name: 'Lap',
        key: 'lap',
        order: 1,
        note: '',
        value: { type: 'number', min: 0, max: 99, step: 1, decimals: 0, unit: '', initial: 0 },
      },
    },
    messageWatch(1, 'cue 12 go', 6),
    messageWatch(2, '/cue/13 1', 7, 'osc'),
    inletRecord('text', ports.text, {
      triggers: [
        { text: 'horn please', press: 'ctl-cut' },
        { text: 'aux please', run: 'mac-aux' },
        { text: 'gone please', press: 'ctl-that-was' },
      ],
    }),
    macroRecord(
      'mac-lane',
      [
        {
          steps: [
            {
              id: 'a',
              at: 0,
              does: {
                is: 'send',
                send: { device: 'dev-SW1', command: 'aux', params: { aux: 2, input: { value: 'input' } } },
              },
            },
          ],
        },
      ],
      { params: [{ name: 'input', title: 'Input', value: 1 }] },
    ),
    {
      kind: 'watch',
      id: 'watch-pattern',
      version: 1,
      data: {
        ...(messageWatch(9, '', 1) as Extract<ShowRecord, { kind: 'watch' }>).data,
        when: {
          is: 'message',
          text: 'lane (?P<lap>[0-9]+) aux (?P<input>[0-9]+)',
          pattern: true,
        },
        sends: [],
        runs: { macro: 'mac-lane', params: {} },
      },
    },
    inletRecord('udp', ports.udp, { over: 'udp' }),
    inletRecord('osc', ports.osc, { speaks: 'osc', over: 'udp' }),
    inletRecord('osc-tcp', ports.oscTcp, { speaks: 'osc', over: 'tcp' }),
    inletRecord('read', ports.read, { readsOnly: true, triggers: [{ text: 'horn please', press: 'ctl-cut' }] }),
    inletRecord('elsewhere', ports.taken, { on: false, from: ['10.99.0.0/16'] }),
  ];
  [f, end] = await runAsOne(() => startFleetRig(['SW1'], records));
  await f.linkIs('SW1', 'up');
});
afterAll(() => end());

const switcher = () => switcherOf(f);
const switcherIs = (state: Partial<Awaited<ReturnType<typeof switcher>>>) =>
  until(switcher, (now) => Object.entries(state).every(([key, value]) => now[key as keyof typeof now] === value));
const own = (key: string) => f.rig.engine.running.readings.fresh(ownId, key);
const stateOf = (name: string) => {
  const n = [1, 2, 3, 4, 5, 6].find((each) => own(`inlet[${each}].name`) === name);
  return (key: string) => own(`inlet[${n}].${key}`);
};

beforeEach(() => setSwitcher(f));

describe('a text inlet', () => {
  it('presses by page and label, says what came of it, and reads who is on air', async () => {
    const answers = await say(ports.text, 'press Race/Cut', 'read SW1 program', 'read sw1 programName');
    expect(answers[0]).toMatch(/^ok confirmed \d+ ms$/);
    expect(answers.slice(1)).toEqual(['value 2', 'value Mid-course']);
    await switcherIs({ program: 2 });
  });

  it.each(['\\n', '\\r', '\\r\\n'])('takes lines that end with %s, a byte at a time', async (ending) => {
    expect(
      (await python(textClient, ports.text, ending, 'set lap 12', 'step lap -2', 'read SHOW variable.lap'))
        .trim()
        .split('\n')
        .slice(2),
    ).toEqual(['value 10']);
  });

  it('starts a macro by its name, and fires what waits for a line', async () => {
    expect((await say(ports.text, 'run MAC-AUX'))[0]).toMatch(/^ok confirmed/);
    expect((await switcher()).aux[0]).toBe(7);
    expect(await say(ports.text, 'cue 12 go')).toEqual(['ok 1 watch']);
    await switcherIs({ preview: 6 });
  });

  it('answers what it cannot do with a code, and goes on', async () => {
    const answers = await say(
      ports.text,
      'press Race/Nothing',
      'jump',
      'set lap 100',
      'call 5',
      'read SW1 nothing',
      'x'.repeat(400),
      'read SW1 program',
    );
    expect(answers.map((answer) => answer.split(' ').slice(0, 2).join(' '))).toEqual([
      'error not-found',
      'error unknown-request',
      'error lost',
      'error lost',
      'error not-found',
      'error too-long',
      'value 1',
    ]);
  });

  it('does nothing that a person would have to confirm', async () => {
    const [answer] = await say(ports.text, 'press ctl-black');
    expect(answer).toMatch(/^error skipped/);
    expect((await f.state('SW1')) as unknown as { black: number }).toMatchObject({ black: 0 });
  });

  it('that only reads presses nothing, and answers questions', async () => {
    const answers = await say(ports.read, 'press Race/Cut', 'read SW1 preview');
    expect(answers[0]).toMatch(/^error not-allowed/);
    expect(answers[1]).toBe('value 2');
    expect(await switcher()).toMatchObject({ program: 1 });
  });

  it('does what was learned for a text that means nothing, and says what no longer exists', async () => {
    const answers = await say(ports.text, 'horn please', 'aux please', 'gone please');
    expect(answers.map((answer) => answer.split(' ').slice(0, 2).join(' '))).toEqual([
      'ok confirmed',
      'ok confirmed',
      'error not-found',
    ]);
    expect(await switcher()).toMatchObject({ program: 2 });
    // The same text means nothing on another inlet; and one that only reads does nothing that was learned either.
    expect((await say(ports.read, 'horn please'))[0]).toMatch(/^error not-allowed/);
    expect(await sayOsc(ports.osc, '/horn')).toMatch(/^error unknown-request/);
  });

  it('fills a variable and a parameter of a macro from a pattern', async () => {
    expect(await say(ports.text, 'lane 42 aux 6')).toEqual(['ok 1 watch']);
    await until(
      () => own('variable.lap'),
      (lap) => lap === 42,
    );
    await until(switcher, ({ aux }) => aux[1] === 6);
    // Not all of the line fits.
    expect((await say(ports.text, 'lane 42 aux 6 now'))[0]).toMatch(/^error unknown-request/);
  });

  it('says what came in last, and counts', async () => {
    const heard = async (line: string) => {
      await say(ports.text, line);
      await until(
        () => stateOf('text')('last'),
        (last) => last === line,
      );
      return Number(stateOf('text')('heard'));
    };
    const before = await heard('read SW1 preview');
    expect(await heard('read SW1 program')).toBe(before + 1);
    await until(
      () => stateOf('text')('came'),
      (came) => came === 'value 1',
    );
    const { readings } = f.rig.engine.api.readings('SHOW') ?? { readings: [] };
    expect(readings.find(({ key }) => key === 'variable.lap')?.device).toBe('SHOW');
    expect(String(stateOf('text')('from'))).toMatch(/^127\.0\.0\.1:\d+$/);
  });

  it('presses a control by what it shows now, where its label comes from a device', async () => {
    await f.send('SW1', 'name', { input: 6, text: 'Umpire' });
    expect(await say(ports.text, 'press Race/umpire')).toEqual([expect.stringMatching(/^ok confirmed/)]);
    expect((await switcher()).program).toBe(6);
    await f.send('SW1', 'name', { input: 6, text: 'Launch' });
    expect(await say(ports.text, 'press Race/umpire', 'press Race/Launch')).toEqual([
      expect.stringContaining('error not-found'),
      expect.stringMatching(/^ok/),
    ]);
  });

  it('is on the wire with what came of it, and with the press that it was', async () => {
    await f.client.follow<RowsView<WireRow>>('wire');
    await say(ports.text, 'press Race/Cut', 'dance');
    await sayOsc(ports.osc, '/read', 'SW1', 'program');
    const textOf = ({ hex }: WireRow) => Buffer.from(hex, 'hex').toString().trim();
    const rows = () => {
      const all = (f.client.topic('wire') as RowsView<WireRow>).rows.filter(({ device }) =>
        /^(text|osc)$/.test(device),
      );
      return all.slice(all.findLastIndex((row) => textOf(row) === 'press Race/Cut'));
    };
    const [press, answer, dance, refusal, asked, told] = await until(rows, (now) => now.length === 6);
    expect([press?.dir, press && textOf(press), press?.note]).toEqual(['in', 'press Race/Cut', 'from 127.0.0.1']);
    expect(answer && textOf(answer)).toMatch(/^ok confirmed/);
    expect(press?.press).toBe(answer?.press);
    const sent = (f.client.topic('wire') as RowsView<WireRow>).rows.find(
      (row) => row.device === 'dev-SW1' && row.press === press?.press,
    );
    expect(sent && textOf(sent)).toBe('CUT');
    expect(dance?.press).toBeUndefined();
    expect(refusal && textOf(refusal)).toContain('error unknown-request');
    expect(asked?.hex.startsWith(Buffer.from('/read').toString('hex'))).toBe(true);
    expect(told && textOf(told)).toContain('value');
  });

  it('over UDP answers the sender', async () => {
    const udp = `
import socket, sys
s = socket.socket(socket.AF_INET, socket.SOCK_DGRAM); s.settimeout(8)
s.sendto(b'press ctl-cut', ('127.0.0.1', int(sys.argv[1])))
print(s.recv(2000).decode().strip())
`;
    expect(await python(udp, ports.udp)).toMatch(/^ok confirmed/);
    await switcherIs({ program: 2 });
  });
});

describe('an inlet of Open Sound Control', () => {
  it('tells who follows a reading of each change, at an address of its own', async () => {
    const child = spawn('python3', ['-c', oscFollower, String(ports.osc), '3']);
    onTestFinished(() => void child.kill());
    let said = '';
    child.stdout.on('data', (chunk: Buffer) => (said += String(chunk)));
    const lines = () => said.trim().split('\n').filter(Boolean);
    await until(lines, (now) => now.length === 1);
    await f.send('SW1', 'take', { input: 4 });
    await until(lines, (now) => now.length === 2);
    await f.send('SW1', 'take', { input: 1 });
    expect(await until(lines, (now) => now.length === 3)).toEqual([
      '/answer value 1',
      '/SW1/program 4',
      '/SW1/program 1',
    ]);
  });

  it('presses, sets and reads, and fires what waits for its address', async () => {
    expect(await sayOsc(ports.osc, '/press/ctl-cut')).toMatch(/^ok confirmed/);
    await switcherIs({ program: 2 });
    expect(await sayOsc(ports.osc, '/set/lap', 5)).toMatch(/^ok confirmed/);
    expect(await sayOsc(ports.osc, '/read', 'SHOW', 'variable.lap')).toBe('value 5');
    expect(await sayOsc(ports.osc, '/cue/13', 1)).toBe('ok 1 watch');
    await switcherIs({ preview: 7 });
    expect(await sayOsc(ports.osc, '/cue/14', 1)).toMatch(/^error unknown-request/);
  });
});

describe('an inlet of Open Sound Control over TCP', () => {
  /** Sends one message in a framing of its own choice, and prints the texts of the answer. */
  const client = `
import socket, struct, sys
def text(t):
    b = t.encode() + b'\\0'
    return b + b'\\0' * (-len(b) % 4)
port, framing, address, args = int(sys.argv[1]), sys.argv[2], sys.argv[3], sys.argv[4:]
packet = text(address) + text(',' + 's' * len(args)) + b''.join(text(a) for a in args)
if framing == 'slip': out = b'\\xc0' + packet.replace(b'\\xdb', b'\\xdb\\xdd').replace(b'\\xc0', b'\\xdb\\xdc') + b'\\xc0'
else: out = struct.pack('>i', len(packet)) + packet
s = socket.create_connection(('127.0.0.1', port)); s.settimeout(8)
for n in range(0, len(out), 5): s.send(out[n:n + 5])
got = b''
while True:
    got += s.recv(4000)
    if framing == 'slip':
        if got.count(b'\\xc0') == 2 and got.endswith(b'\\xc0'): break
    elif len(got) >= 4 and len(got) == 4 + struct.unpack('>i', got[:4])[0]: break
body = got[1:-1] if framing == 'slip' else got[4:]
parts = [p for p in body.split(b'\\0') if p]
assert parts[0] == b'/answer' and parts[1].startswith(b',s'), parts
print('|'.join(p.decode() for p in parts[2:]))
`;
  it.each(['slip', 'size'])('is answered in the framing of the sender: %s', async (framing) => {
    const say = async (...args: string[]) => (await python(client, ports.oscTcp, framing, ...args)).trim();
    expect(await say('/press', 'Race/Cut')).toMatch(/^ok confirmed/);
    await switcherIs({ program: 2 });
    expect(await say('/read', 'SW1', 'program')).toBe('value 2');
    expect(await say('/list', 'pages')).toBe('list|Race');
    expect(await say('/list/readings', 'SW1')).toContain('|program|');
  });

  it('lists what can be asked for', async () => {
    expect(
      await say(ports.text, 'list pages', 'list macros', 'list controls Race', 'list variables', 'list ships'),
    ).toEqual([
      'list ["Race"]',
      'list ["mac-aux","mac-lane"]',
      expect.stringMatching(/^list \["Cut","Launch",/),
      'list ["lap"]',
      expect.stringContaining('error incomplete list takes'),
    ]);
  });

  it('ends a connection that speaks nonsense, and no other', async () => {
    const nonsense = `
import socket, sys
s = socket.create_connection(('127.0.0.1', int(sys.argv[1]))); s.settimeout(5)
s.send(b'GET / HTTP/1.1\\r\\n\\r\\n')
try: print('open' if s.recv(10) else 'closed')
except ConnectionError: print('closed')
`;
    expect((await python(nonsense, ports.oscTcp)).trim()).toBe('closed');
  });
});

describe('an inlet under attack', () => {
  it('counts a flood, answers none of it, and presses go on at once', async () => {
    const flood = `
import socket, sys, os
s = socket.socket(socket.AF_INET, socket.SOCK_DGRAM)
for n in range(4000):
    s.sendto(b'step lap' if n % 2 else os.urandom(60), ('127.0.0.1', int(sys.argv[1])))
`;
    const flooding = python(flood, ports.udp);
    const took: number[] = [];
    for (let n = 0; n < 5; n += 1) {
      const from = performance.now();
      expect(await f.send('SW1', 'ready', { input: 3 + (n % 2) })).toMatchObject({ outcome: 'confirmed' });
      took.push(performance.now() - from);
    }
    await flooding;
    await until(
      () => Number(stateOf('udp')('refused')),
      (refused) => refused > 100,
    );
    // A press takes until the next frame of the switcher, 40 ms; generous, as the computer of a test may be busy.
    expect(Math.min(...took)).toBeLessThan(500);
    expect(await say(ports.text, 'read SW1 program')).toEqual(['value 1']);
  });

  it('takes nothing from where nothing is expected, and names a port that is taken', async () => {
    const record = (data: Partial<InletData>) =>
      inletRecord('elsewhere', ports.taken, { from: ['10.99.0.0/16'], ...data });
    const edit = (from: ShowRecord, to: ShowRecord) =>
      f.rig.edit({ title: 'Inlet', changes: [{ op: 'update', from, to }] as never });
    const off = record({ on: false });
    const on = { ...record({ on: true }), version: 1 } as ShowRecord;
    edit(off, on);
    await until(
      () => stateOf('elsewhere')('state'),
      (state) => state === 'listening',
    );
    await expect(say(ports.taken, 'read SW1 program')).rejects.toThrow();
    await until(
      () => stateOf('elsewhere')('came'),
      (came) => came === 'refused: sender not allowed',
    );
    const other = createServer();
    onTestFinished(() => other.close());
    const port = await new Promise<number>((resolve) =>
      other.listen(0, '127.0.0.1', () => resolve((other.address() as AddressInfo).port)),
    );
    const moved = { ...record({ on: true, port }), version: 2 } as ShowRecord;
    edit({ ...on, version: 2 } as ShowRecord, moved);
    await until(
      () => stateOf('elsewhere')('state'),
      (state) => state === 'failed',
    );
    // Linux says who has it: this test itself.
    await until(
      () => String(stateOf('elsewhere')('why')),
      (why) => new RegExp(`Port ${port} is in use by the program “.+”. The next free port is \\d+`).test(why),
    );
    expect(f.rig.engine.api.health().alerts).toContainEqual({
      code: 'inlet-closed',
      text: expect.stringContaining('The inlet “elsewhere” cannot listen. Port') as string,
    });
    // It is tried again until the other program gives it back.
    other.close();
    await until(
      () => stateOf('elsewhere')('state'),
      (state) => state === 'listening',
    );
  });
});
