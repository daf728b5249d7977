import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import type { RowsView, WireRow } from '../src/core/live';
import { ownId, type DeviceRecord, type ShowRecord } from '../src/core/show';
import { startFleetRig, type FleetRig } from './support/fleet';
import { startPython } from './support/foreign-end';
import { messageWatch, setSwitcher, switcherOf } from './support/inlet-end';
import { controlRecord, pageRecord } from './support/records';
import { runAsOne, until } from './support/rig';

/** Devices that ask for something themselves, over the connection by which they are driven: a stand-in, and one that is written in Python. */

/** Takes one connection. Lines that this test writes to it go to the program, and what the program answers is printed. */
const box = `
import socket, sys, threading
server = socket.socket()
server.bind(('127.0.0.1', 0))
server.listen(5)
print(server.getsockname()[1], flush=True)
control = socket.socket()
control.bind(('127.0.0.1', 0))
control.listen(1)
print(control.getsockname()[1], flush=True)
peers = []
def serve(peer):
    rest = b''
    while True:
        more = peer.recv(1000)
        if not more: return
        rest += more
        while b'\\n' in rest:
            got, rest = rest.split(b'\\n', 1)
            print('got ' + got.decode(), flush=True)
def accept():
    while True:
        peer = server.accept()[0]
        peers.append(peer)
        threading.Thread(target=serve, args=(peer,), daemon=True).start()
threading.Thread(target=accept, daemon=True).start()
asked = control.accept()[0]
while True:
    more = asked.recv(1000)
    if not more: break
    for peer in peers: peer.sendall(more)
`;

const document = {
  format: 1,
  id: 'button-box',
  version: 1,
  title: 'Button box',
  role: 'relays',
  help: { address: 'On its label.' },
  link: { kind: 'tcp', port: 9000, direction: 'both', answerWithinMs: 2000 },
  framing: { kind: 'lines', ending: 'lf', encoding: 'utf-8', maxFrameBytes: 1000 },
  commands: {
    lamp: {
      title: 'Lamp',
      params: { on: { title: 'On', value: { type: 'onOff', on: '1', off: '0' } } },
      send: 'LAMP {on}',
    },
    done: {
      title: 'Done',
      params: {
        id: { title: 'Number', value: { type: 'whole' } },
        said: { title: 'Said', value: { type: 'text' } },
      },
      send: 'DONE {id} {said}',
    },
    refused: {
      title: 'Refused',
      params: {
        id: { title: 'Number', value: { type: 'whole' } },
        code: { title: 'Code', value: { type: 'text' } },
      },
      send: 'NO {id} {code}',
    },
  },
  readings: { keys: { title: 'Keys', value: { type: 'whole' } } },
  replies: [
    {
      match: '^ASK (?P<id>[0-9]+) (?P<what>.+)$',
      set: { keys: '{id}' },
      requests: { line: '{what}', done: 'done', refused: 'refused' },
    },
  ],
};

const device = (port: number, requests?: 'reads' | 'acts'): ShowRecord => ({
  kind: 'device',
  id: 'dev-B9',
  version: 1,
  data: {
    tag: 'B9',
    name: 'Button box',
    role: 'relays',
    driver: 'button-box',
    host: '127.0.0.1',
    port,
    enabled: true,
    site: '',
    user: '',
    options: {},
    ...(requests === undefined ? {} : { requests }),
  },
});

let f: FleetRig;
let end: () => Promise<void>;
let lines: string[];
let say: (text: string) => void;
beforeAll(async () => {
  [f, end] = await runAsOne(async () => {
    const started = await startPython(box);
    await until(
      () => started.lines,
      (now) => now.length > 0,
    );
    const control = Number(started.lines.shift());
    lines = started.lines;
    const { connect } = await import('node:net');
    const socket = connect(control, '127.0.0.1');
    say = (text) => void socket.write(text);
    const records: ShowRecord[] = [
      pageRecord('page', 'Race'),
      controlRecord('ctl-cut', {
        label: [{ text: 'Cut' }],
        responses: { tap: [{ device: 'dev-SW1', command: 'cut', params: {} }] },
      }),
      messageWatch(1, 'key 3', 7),
      messageWatch(2, 'horn', 6, 'dev-B9'),
      device(started.port, 'acts'),
    ];
    return startFleetRig(['SW1', 'K1'], records, undefined, [document]);
  });
  for (const tag of ['SW1', 'K1']) await f.linkIs(tag, 'up');
  // It says nothing until one of its buttons is pressed.
  await f.linkIs('B9', 'not checked');
});
afterAll(() => end());

const switcher = () => switcherOf(f);
const allow = (id: string, requests: DeviceRecord['data']['requests']) => {
  const from = f.rig.engine.running.show.devices.get(id);
  if (!from) throw new Error('There is no such device.');
  const { requests: _, ...rest } = from.data;
  const to = { ...from, data: requests === undefined ? rest : { ...rest, requests } };
  f.rig.edit({ title: 'Rights', changes: [{ op: 'update', from, to }] });
  return until(
    () => f.rig.engine.running.show.devices.get(id)?.data.requests,
    (now) => now === requests,
  );
};
let asked = 0;
const ask = async (what: string): Promise<string> => {
  const id = (asked += 1);
  say(`ASK ${id} ${what}\n`);
  const answer = await until(
    () => lines.find((line) => line.startsWith(`got DONE ${id} `) || line.startsWith(`got NO ${id} `)),
    (line) => line !== undefined,
  );
  return answer?.replace(/^got (\w+) \d+ /, '$1 ') ?? '';
};

beforeEach(() => setSwitcher(f));

describe('a device that asks for something itself', () => {
  it('presses, sets and reads, and is answered in its own words', async () => {
    expect(await ask('press Race/Cut')).toMatch(/^DONE ok confirmed \d+ ms$/);
    expect((await switcher()).program).toBe(2);
    expect(await ask('read SW1 program')).toBe('DONE value 2');
    expect(await ask('press Race/Nothing')).toBe('NO not-found');
    expect(await ask('follow SW1 program')).toBe('NO not-allowed');
    // What the same line says besides is entered before.
    expect(f.reading('B9', 'keys')).toBe(asked);
  });

  it('fires the watches that wait for its text, on it or on any', async () => {
    expect(await ask('horn')).toBe('DONE ok 1 watch');
    await until(switcher, ({ preview }) => preview === 6);
  });

  it('may do what its rights allow, also when they change while it is connected', async () => {
    await allow('dev-B9', 'reads');
    expect(await ask('press Race/Cut')).toBe('NO not-allowed');
    expect(await ask('read SW1 program')).toBe('DONE value 1');
    await allow('dev-B9', undefined);
    expect(await ask('read SW1 program')).toBe('NO not-allowed');
    expect((await switcher()).program).toBe(1);
    expect(f.link('B9').word).toBe('up');
    await allow('dev-B9', 'acts');
    expect(await ask('press Race/Cut')).toMatch(/^DONE ok/);
  });

  it('is on the wire with what came of it', async () => {
    await f.client.follow<RowsView<WireRow>>('wire');
    await ask('press Race/Cut');
    const rows = () => (f.client.topic('wire') as RowsView<WireRow>).rows.filter((row) => row.device === 'dev-B9');
    await until(rows, (now) => now.some(({ note }) => /^request press Race\/Cut: ok confirmed/.test(note ?? '')));
  });

  it('that asks all the time is held back, and presses go on', async () => {
    for (let n = 0; n < 40; n += 1) say(Array.from({ length: 100 }, () => 'ASK 7 read SW1 program\n').join(''));
    expect((await f.send('SW1', 'take', { input: 4 })).outcome).toBe('confirmed');
    await f.client.follow<RowsView<WireRow>>('wire');
    const notes = () => (f.client.topic('wire') as RowsView<WireRow>).rows.map(({ note }) => note ?? '');
    await until(notes, (now) => now.some((note) => note.includes('too many requests per second')));
  });

  it('with keys that mean nothing by themselves sets off what waits for them, once it may', async () => {
    await f.operate('K1', 'operate', { verb: 'key', key: 3 });
    await f.client.follow<RowsView<WireRow>>('wire');
    const notes = () => (f.client.topic('wire') as RowsView<WireRow>).rows.map(({ note }) => note ?? '');
    await until(notes, (now) => now.some((note) => note.startsWith('request key 3: error not-allowed')));
    expect((await switcher()).preview).toBe(2);
    await allow('dev-K1', 'reads');
    await f.operate('K1', 'operate', { verb: 'key', key: 3 });
    await until(switcher, ({ preview }) => preview === 7);
    expect(f.rig.engine.running.readings.fresh(ownId, 'watch[1].count')).not.toBe(0);
  });
});
