import { spawn, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { mkdtempSync, rmSync } from 'node:fs';
import { connect } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { ownId, type InletData, type ShowRecord } from '../src/core/show';
import { writePassword } from '../src/store';
import { startFleetRig, type FleetRig } from './support/fleet';
import {
  allListen,
  freeTcpPort,
  inletRecord,
  messageWatch,
  python,
  run,
  setSwitcher,
  switcherOf,
} from './support/inlet-end';
import { hasBroker, startBroker } from './support/mqtt-broker';
import { controlRecord, macroRecord, pageRecord } from './support/records';
import { onTestFinished, runAsOne, until } from './support/rig';

/** Inlets of MQTT: the broker of the program against clients of other people, and the program at the broker of other people. */

/** On the machine that decides, nothing of this may be passed over. */
const withClients = hasBroker || process.env.CI ? describe : describe.skip;

const token = 'a-token-of-the-score-box';
const hash = createHash('sha256').update(token).digest('hex');
const mqtt = (id: string, port: number, more: Partial<InletData> = {}): ShowRecord =>
  inletRecord(id, port, { speaks: 'mqtt', ...more });

let f: FleetRig;
let end: () => Promise<void>;
let outside: Awaited<ReturnType<typeof startBroker>>;
let ports: { own: number; closed: number };
beforeAll(async () => {
  outside = await startBroker();
  ports = { own: await freeTcpPort(), closed: await freeTcpPort() };
  const [first, second] = [ports.own, ports.closed].sort((a, b) => a - b);
  const records: ShowRecord[] = [
    pageRecord('page', 'Race'),
    controlRecord('ctl-cut', {
      label: [{ text: 'Cut now' }],
      responses: { tap: [{ device: 'dev-SW1', command: 'cut', params: {} }] },
      lamps: [
        { when: { op: 'equals', reading: { device: 'dev-SW1', key: 'program' }, to: 3 }, show: 'onAir', word: 'THREE' },
      ],
    }),
    controlRecord('ctl-again', {
      label: [{ text: 'Cut now' }],
      col: 1,
      responses: { tap: [] },
      lamps: [{ when: { op: 'equals', reading: { device: 'dev-SW1', key: 'program' }, to: 4 }, show: 'active' }],
    }),
    {
      kind: 'variable',
      id: 'var-race',
      version: 1,
      data: { name: 'Race', key: 'race', order: 1, note: '', value: { type: 'text', initial: '' } },
    },
    macroRecord(
      'mac-aux',
      [
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
      ],
      { params: [{ name: 'input', title: 'Input', value: 1 }] },
    ),
    messageWatch(1, 'club/horn go', 5),
    mqtt('own', ports.own, { publishes: ['lamp/#', 'SW1/program', 'SW1/input/+/name'], order: first ?? 0 }),
    mqtt('closed', ports.closed, { callers: [{ name: 'Score box', hash }], order: second ?? 0 }),
    mqtt('elsewhere', 1, {
      base: 'club/regatta',
      order: 99_999,
      publishes: ['SW1/program'],
      broker: { host: '127.0.0.1', port: outside.port, topics: ['club/horn'] },
    }),
  ];
  [f, end] = await runAsOne(() => startFleetRig(['SW1'], records));
  await f.linkIs('SW1', 'up');
  await allListen(f, 3);
});
afterAll(async () => {
  await end();
  await outside.stop();
});

const switcher = () => switcherOf(f);
const own = (key: string) => f.rig.engine.running.readings.fresh(ownId, key);
const stateOf = (name: string, key: string) => {
  const n = [1, 2, 3].find((each) => own(`inlet[${each}].name`) === name);
  return own(`inlet[${n}].${key}`);
};
const publish = (port: number, topic: string, message: string, ...more: string[]) =>
  run('mosquitto_pub', '-h', '127.0.0.1', '-p', String(port), '-t', topic, '-m', message, ...more);
/** The messages of a topic as they come, each as `topic message`. It listens when this resolves. */
async function listen(port: number, topic: string): Promise<string[]> {
  const ready = 'ready/now';
  const args = ['-h', '127.0.0.1', '-p', String(port), '-t', ready, '-t', topic, '-v'];
  const child = spawn('mosquitto_sub', args, { stdio: ['ignore', 'pipe', 'inherit'] });
  onTestFinished(() => void child.kill());
  const lines: string[] = [];
  let isReady = false;
  child.stdout.on('data', (chunk: Buffer) => {
    for (const line of String(chunk).split('\n'))
      if (line.startsWith(ready)) isReady = true;
      else if (line !== '') lines.push(line);
  });
  while (!isReady) await publish(port, ready, '?');
  return lines;
}

const edit = (from: ShowRecord | undefined, to: object) => {
  const changes = [{ op: 'update', from, to: { ...from, data: { ...from?.data, ...to } } }];
  f.rig.edit({ title: 'Test', changes: changes as never });
};
const turn = (on: boolean) => edit(f.rig.engine.running.show.inlets.get('elsewhere'), { on });

beforeEach(() => setSwitcher(f));

withClients('the broker of the program', () => {
  it('a control is pressed by its names, and the answer says what came of it', async () => {
    const answers = await listen(ports.own, 'sorrelfinch/answer/#');
    await publish(ports.own, 'sorrelfinch/do/press/Race/Cut now', 'ON', '-i', 'box-1');
    await until(switcher, ({ program }) => program === 2);
    await until(
      () => answers,
      (lines) => lines.length > 0,
    );
    expect(answers[0]).toMatch(/^sorrelfinch\/answer\/box-1 press\/Race\/Cut now ON ok confirmed \d+ ms$/);
  });

  it('what the topic leaves out is in the message, which may also be a line of text', async () => {
    await publish(ports.own, 'sorrelfinch/do/set/race', 'Final A', '-q', '2');
    await until(
      () => own('variable.race'),
      (value) => value === 'Final A',
    );
    await publish(ports.own, 'sorrelfinch/do/run/mac-aux', 'input=6', '-q', '1');
    await until(switcher, ({ aux }) => aux[0] === 6);
    await publish(ports.own, 'sorrelfinch/do', 'run mac-aux input=4');
    await until(switcher, ({ aux }) => aux[0] === 4);
  });

  it('lamps and readings are retained for those who come later, and follow the device', async () => {
    const lines = await listen(ports.own, 'sorrelfinch/is/#');
    await until(
      () => lines,
      (now) => now.includes('sorrelfinch/is/SW1/program 1') && now.some((line) => /\/SW1\/input\/1\/name ./.test(line)),
    );
    expect(lines).toContain('sorrelfinch/is/lamp/Race/Cut_now off');
    // Another of the same name is told apart by its id.
    expect(lines).toContain('sorrelfinch/is/lamp/ctl-again off');
    await f.send('SW1', 'take', { input: 3 });
    await until(
      () => lines,
      (now) =>
        now.includes('sorrelfinch/is/SW1/program 3') && now.includes('sorrelfinch/is/lamp/Race/Cut_now onAir THREE'),
    );
    const online = await listen(ports.own, 'sorrelfinch/online');
    await until(
      () => online,
      (now) => now.includes('sorrelfinch/online true'),
    );
  });

  it('an edited label moves its topic, and a device that is gone takes its value back', async () => {
    const lines = await listen(ports.own, 'sorrelfinch/is/#');
    const rename = (label: string) =>
      edit(f.rig.engine.running.show.controls.get('ctl-again'), { label: [{ text: label }] });
    rename('Other');
    await until(
      () => lines,
      (now) =>
        now.includes('sorrelfinch/is/lamp/Race/Other off') && now.includes('sorrelfinch/is/lamp/ctl-again (null)'),
    );
    rename('Cut now');
    await f.operate('SW1', 'drop');
    await until(
      () => lines,
      (now) => now.includes('sorrelfinch/is/SW1/program (null)'),
    );
    await f.linkIs('SW1', 'up');
    await until(
      () => lines.lastIndexOf('sorrelfinch/is/SW1/program 1'),
      (at) => at > lines.lastIndexOf('sorrelfinch/is/SW1/program (null)'),
    );
  });

  it('other topics go from client to client, fire watches, and are not retained', async () => {
    const lines = await listen(ports.own, 'club/#');
    const before = Number(stateOf('own', 'refused'));
    await publish(ports.own, 'club/horn', 'go', '-r');
    await publish(ports.own, 'club/score', '3:2');
    await until(switcher, ({ preview }) => preview === 5);
    await until(
      () => lines,
      (now) => now.length === 2,
    );
    expect(lines).toEqual(['club/horn go', 'club/score 3:2']);
    expect(Number(stateOf('own', 'refused'))).toBe(before);
    const later = await listen(ports.own, 'club/#');
    await publish(ports.own, 'club/score', '4:2');
    await until(
      () => later,
      (now) => now.length > 0,
    );
    expect(later).toEqual(['club/score 4:2']);
  });

  it('nobody else speaks in the name of the program, and strangers are refused with the code of MQTT', async () => {
    expect((await publish(ports.own, 'sorrelfinch/is/SW1/program', '9', '-q', '1')).code).not.toBe(0);
    await until(
      () => String(stateOf('own', 'came')),
      (came) => came.includes('nobody else may publish'),
    );
    const refused = await publish(ports.closed, 'sorrelfinch/do/press/ctl-cut', '', '-u', 'x', '-P', 'wrong');
    expect(refused.said).toContain('bad user name or password');
    expect((await switcher()).program).toBe(1);
    await publish(ports.closed, 'sorrelfinch/do/press/ctl-cut', '', '-u', 'x', '-P', token);
    await until(switcher, ({ program }) => program === 2);
  });

  it('what is no MQTT, too long, or a version that it does not speak ends that connection and nothing else', async () => {
    const raw = (bytes: readonly number[]) =>
      new Promise<string>((resolve) => {
        const socket = connect(ports.own, '127.0.0.1', () => socket.write(Uint8Array.from(bytes)));
        onTestFinished(() => socket.destroy());
        socket.on('error', () => undefined);
        socket.on('close', () => resolve('closed'));
      });
    expect(await raw([0x47, 0x45, 0x54, 0x20, 0x2f])).toBe('closed');
    // PUBLISH with a remaining length of 128 MiB (MQTT 3.1.1, 2.2.3).
    expect(await raw([0x30, 0x80, 0x80, 0x80, 0x40, 0x00])).toBe('closed');
    const newer = await publish(ports.own, 'sorrelfinch/do/press/ctl-cut', '', '-V', '5');
    expect(newer.code).not.toBe(0);
    await publish(ports.own, 'sorrelfinch/do/press/ctl-cut', '', '-V', '31');
    await until(switcher, ({ program }) => program === 2);
  });

  it('a packet with the flag of a second delivery presses nothing', async () => {
    const twice = `
import socket, struct, sys
def text(t): return struct.pack('>H', len(t)) + t.encode()
def packet(first, body): return bytes([first, len(body)]) + body
s = socket.create_connection(('127.0.0.1', int(sys.argv[1]))); s.settimeout(5)
s.send(packet(0x10, text('MQTT') + bytes([4, 2, 0, 30]) + text('twice')))
assert s.recv(4) == bytes([0x20, 2, 0, 0])
body = text('sorrelfinch/do/press/ctl-cut') + struct.pack('>H', 7)
s.send(packet(0x3a, body)); print(s.recv(4).hex())
`;
    expect(await python(twice, ports.own)).toBe('40020007\n');
    await until(
      () => String(stateOf('own', 'came')),
      (came) => came.includes('sent again'),
    );
    expect((await switcher()).program).toBe(1);
  });

  it('a flood is cut off, and presses go on', async () => {
    const flood = `
import socket, struct, sys
def text(t): return struct.pack('>H', len(t)) + t.encode()
def packet(first, body): return bytes([first, len(body)]) + body
s = socket.create_connection(('127.0.0.1', int(sys.argv[1]))); s.settimeout(5)
s.send(packet(0x10, text('MQTT') + bytes([4, 2, 0, 30]) + text('flood')))
s.recv(4)
try:
    for n in range(20000): s.send(packet(0x30, text('noise') + b'%d' % n))
    print('all sent')
except OSError: print('cut off')
`;
    const flooding = python(flood, ports.own);
    expect((await f.send('SW1', 'take', { input: 6 })).outcome).toBe('confirmed');
    expect(await flooding).toBe('cut off\n');
  });
});

withClients('the program at a broker elsewhere', () => {
  it('is asked by MQTT 5 with a response topic, and answers there', async () => {
    const { said, code } = await run(
      'mosquitto_rr',
      ...['-h', '127.0.0.1', '-p', String(outside.port), '-V', '5', '-W', '8'],
      ...['-t', 'club/regatta/do/press/Race/Cut now', '-e', 'box/reply', '-m', '1'],
    );
    expect([code, said]).toEqual([0, expect.stringMatching(/ok confirmed \d+ ms\n$/)]);
    expect((await switcher()).program).toBe(2);
  });

  it('keeps readings retained there, and its last will says when it is gone', async () => {
    const lines = await listen(outside.port, 'club/regatta/#');
    await until(
      () => lines,
      (now) => now.includes('club/regatta/is/SW1/program 1') && now.includes('club/regatta/online true'),
    );
    turn(false);
    await until(
      () => lines,
      (now) => now.includes('club/regatta/online false'),
    );
    turn(true);
    await until(
      () => stateOf('elsewhere', 'state'),
      (state) => state === 'listening',
    );
  });

  it('a retained request is old and presses nothing; other topics fire watches', async () => {
    turn(false);
    await until(
      () => stateOf('elsewhere', 'state'),
      (state) => state === 'off',
    );
    await publish(outside.port, 'club/regatta/do/press/ctl-cut', '1', '-r');
    turn(true);
    await until(
      () => String(stateOf('elsewhere', 'came')),
      (came) => came.includes('retained request'),
    );
    expect((await switcher()).program).toBe(1);
    await publish(outside.port, 'club/regatta/do/press/ctl-cut', '', '-r', '-n');
    await publish(outside.port, 'club/horn', 'go');
    await until(switcher, ({ preview }) => preview === 5);
  });

  it('an answer is never itself a request', async () => {
    const before = (await switcher()).program;
    await run(
      'mosquitto_pub',
      ...['-h', '127.0.0.1', '-p', String(outside.port), '-V', '5', '-t', 'club/regatta/do/press/ctl-cut', '-m', '1'],
      ...['-D', 'publish', 'response-topic', 'club/regatta/do'],
    );
    await until(switcher, ({ program }) => program !== before);
    await until(
      () => String(stateOf('elsewhere', 'came')),
      (came) => came.startsWith('ok confirmed'),
    );
    const heard = Number(stateOf('elsewhere', 'heard'));
    await new Promise((resolve) => setTimeout(resolve, 300));
    expect(Number(stateOf('elsewhere', 'heard'))).toBe(heard);
  });

  it('a refused sign-in waits for a new password, and a broker that is gone is called again', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'sorrelfinch-names-'));
    onTestFinished(() => rmSync(folder, { recursive: true, force: true }));
    const names = join(folder, 'names');
    spawnSync('mosquitto_passwd', ['-c', '-b', names, 'desk', 'tide-4']);
    const settings = `allow_anonymous false\npassword_file ${names}\nuser root`;
    const signed = await startBroker(settings);
    let isRunning = true;
    onTestFinished(() => isRunning && signed.stop());
    const record = f.rig.engine.running.show.inlets.get('elsewhere');
    const state = () => [stateOf('elsewhere', 'state'), String(stateOf('elsewhere', 'why'))] as const;
    const password = (text: string) => {
      writePassword(f.rig.db, f.rig.dataDir, 'elsewhere', text);
      void f.rig.engine.onShowChanged();
    };
    password('tide-5');
    edit(record, { broker: { host: '127.0.0.1', port: signed.port, user: 'desk' } });
    expect((await until(state, ([now]) => now === 'locked out'))[1]).toContain('does not accept');
    password('tide-4');
    await until(state, ([now]) => now === 'listening');
    await signed.stop();
    isRunning = false;
    expect((await until(state, ([now]) => now === 'failed'))[1]).toMatch(/closed the connection|port refused/);
    const again = await startBroker(settings, signed.port);
    onTestFinished(again.stop);
    await until(state, ([now]) => now === 'listening');
  });
});
