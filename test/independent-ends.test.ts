import { execFile, spawn, spawnSync, type ChildProcess } from 'node:child_process';
import { createHash } from 'node:crypto';
import { createSocket, type Socket } from 'node:dgram';
import type { EventEmitter } from 'node:events';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { createServer, type Server } from 'node:http';
import { createServer as createTcpServer, type AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import ModbusRTU from 'modbus-serial';
import { fromBuffer, toBuffer } from 'osc-min';
import Tsl3 from 'tsl-umd';
import Tsl5 from 'tsl-umd-v5';
import { describe, expect, it } from 'vitest';
import { WebSocketServer, type WebSocket } from 'ws';
import type { ShowRecord } from '../src/core/show';
import { decodeOsc, encodeOsc, messagesOf, oscText } from '../src/core/wire';
import { shippedDrivers } from '../src/drivers';
import type { PressResult } from '../src/engine/presses/presses';
import { encoderPassword, encoderUser, startFleet } from '../src/standins';
import pumpDriver from './fixtures/pump-driver.json';
import { startModbus } from './support/modbus-end';
import { onTestFinished, startRig, until, type TestRig } from './support/rig';

/**
 * Our codecs and links against other people's: packages from the registry, and programs of Debian where they are there. Both
 * ends sharing a codec would share its faults.
 */

const run = promisify(execFile);
const has = (program: string): boolean => spawnSync(program, ['--version'], { stdio: 'ignore' }).error === undefined;
/** On the machine that decides, nothing of this may be passed over. */
const debian = (program: string) => (has(program) || process.env.CI ? it : it.skip);

function device(driver: string, port: number, more: object = {}): ShowRecord {
  const data = { tag: 'D1', name: 'Device', role: 'gateway', driver, host: '127.0.0.1', port, enabled: true, site: '' };
  return { kind: 'device', id: 'dev', version: 1, data: { ...data, user: '', options: {}, ...more } } as ShowRecord;
}
const show: ShowRecord = { kind: 'show', id: 'show', version: 1, data: { name: 'Ends', note: '' } };

function start(
  driver: string,
  port: number,
  more: object = {},
  password = '',
  drivers = shippedDrivers,
): Promise<TestRig> {
  return startRig([show, device(driver, port, more)], drivers, password ? { dev: password } : {});
}

let sent = 0;
function send(
  rig: TestRig,
  command: string,
  params: Readonly<Record<string, string | number | boolean>> = {},
): Promise<PressResult> {
  const target = rig.engine.api.deviceByTag('D1');
  if (!target) throw new Error('There is no D1.');
  return new Promise((resolve) => {
    const request = { id: `ends-${(sent += 1)}-${Date.now()}`, device: target, command, params, guard: true } as const;
    rig.engine.api.presses.command(
      { ...request, gesture: 'tap', who: 'test' },
      (report) => 'sends' in report && resolve(report),
    );
  });
}
const reading = (rig: TestRig, key: string) =>
  rig.engine.api.readings('D1')?.readings.find((each) => each.key === key)?.value;
const linkIs = (rig: TestRig, word: string) =>
  until(
    () => rig.engine.api.health().links[0]?.link.word,
    (now) => now === word,
  );

async function udp(): Promise<{ socket: Socket; port: number; next: () => Promise<Buffer> }> {
  const socket = createSocket('udp4');
  onTestFinished(() => {
    try {
      socket.close();
    } catch {
      // Closed by the test itself, to leave the port to a program.
    }
  });
  await new Promise<void>((resolve) => socket.bind(0, '127.0.0.1', resolve));
  return {
    socket,
    port: socket.address().port,
    next: () => new Promise((resolve) => void socket.once('message', resolve)),
  };
}

/** A program that ends with the test. */
function start_(program: string, args: readonly string[]): ChildProcess {
  const child = spawn(program, args, { stdio: ['ignore', 'pipe', 'pipe'] });
  onTestFinished(() => void child.kill());
  return child;
}

describe('OSC', () => {
  const values = [
    { type: 'integer', value: -7 },
    { type: 'float', value: 0.5 },
    { type: 'string', value: 'Ünder the bridge' },
    { type: 'blob', value: Buffer.from([1, 2, 3, 4, 5]) },
    { type: 'true', value: true },
    { type: 'false', value: false },
  ] as const;

  it('written by a package is read by us', () => {
    const packet = toBuffer({ address: '/a/b', args: [...values] } as never);
    const decoded = decodeOsc(new Uint8Array(packet.buffer, packet.byteOffset, packet.byteLength));
    expect(decoded.ok && messagesOf(decoded.value)[0]?.args.map(oscText)).toEqual([
      '-7',
      '0.5',
      'Ünder the bridge',
      '0102030405',
      'true',
      'false',
    ]);
  });

  it('written by us is read by a package', () => {
    const bytes = encodeOsc({
      kind: 'bundle',
      timeTag: 1n,
      elements: [
        {
          kind: 'message',
          address: '/x',
          args: [
            { type: 's', value: 'é' },
            { type: 'f', value: -2 },
            { type: 'i', value: 9 },
          ],
        },
      ],
    });
    const packet = fromBuffer(Buffer.from(bytes)) as unknown as {
      elements: readonly { address: string; args: readonly { value: unknown }[] }[];
    };
    expect(packet.elements[0]?.address).toBe('/x');
    expect(packet.elements[0]?.args.map(({ value }) => value)).toEqual(['é', -2, 9]);
  });

  it('sent by the generic driver arrives at a package', async () => {
    const end = await udp();
    const rig = await start('generic-osc', end.port);
    await linkIs(rig, 'one-way');
    const arrived = end.next();
    expect(await send(rig, 'decimal', { address: '/level', value: 0.25 })).toMatchObject({ outcome: 'sent' });
    expect(fromBuffer(await arrived)).toMatchObject({ address: '/level', args: [{ type: 'float', value: 0.25 }] });
  });

  debian('oscdump')('sent by the generic driver is printed by a command-line receiver', async () => {
    const { port, socket } = await udp();
    socket.close();
    const dump = start_('oscdump', ['-L', String(port)]);
    let text = '';
    dump.stdout?.on('data', (chunk) => (text += String(chunk)));
    await new Promise((resolve) => setTimeout(resolve, 400));
    const rig = await start('generic-osc', port);
    await linkIs(rig, 'one-way');
    await send(rig, 'text', { address: '/say', value: 'ahoy' });
    await until(
      () => text,
      (printed) => printed.includes('/say s "ahoy"'),
    );
  });

  debian('oscsend')('sent by a command-line sender is obeyed by the title machine', async () => {
    const fleet = await startFleet({ host: '127.0.0.1', portBase: 0, only: ['T1'] });
    onTestFinished(() => fleet.stop());
    const titles = fleet.devices.get('T1');
    await run('oscsend', ['127.0.0.1', String(titles?.port), '/titles/load', 'iii', '1', '2', '4']);
    await until(
      () => titles?.view.layers as readonly { template: number }[],
      (layers) => layers[1]?.template === 4,
    );
  });
});

describe('Modbus', () => {
  it('a package as the device: relays are read and written by the driver', async () => {
    const coils = [false, true, false, false, false];
    const holding = [300, 0];
    const port = await startModbus({
      getCoil: (address: number) => coils[address] ?? false,
      getDiscreteInput: (address: number) => address === 2,
      getInputRegister: (address: number) => [40, 308, 14][address] ?? 0,
      getHoldingRegister: (address: number) => holding[address] ?? 0,
      setCoil: (address: number, value: boolean) => void (coils[address] = value),
      setRegister: (address: number, value: number) => void (holding[address] = value),
    });
    const rig = await start('relay-gateway', port);
    await linkIs(rig, 'up');
    expect([reading(rig, 'lightBoat'), reading(rig, 'flagHeight'), reading(rig, 'door')]).toEqual([true, 40, true]);
    expect(await send(rig, 'light', { light: 'tower', on: true })).toMatchObject({ outcome: 'confirmed' });
    expect(coils).toEqual([false, true, true, false, false]);
    expect(await send(rig, 'hornLimit', { seconds: 4.5 })).toMatchObject({ outcome: 'confirmed' });
    expect(holding[0]).toBe(45);
  });

  it('a package as the controller: the gateway stand-in answers as the standard says', async () => {
    const fleet = await startFleet({ host: '127.0.0.1', portBase: 0, only: ['G1'] });
    onTestFinished(() => fleet.stop());
    const client = new ModbusRTU();
    await client.connectTCP('127.0.0.1', { port: fleet.devices.get('G1')?.port ?? 0 });
    onTestFinished(() => new Promise<void>((resolve) => client.close(() => resolve())));
    client.setID(1);
    await client.writeCoil(2, true);
    await client.writeRegister(0, 77);
    expect((await client.readCoils(0, 5)).data.slice(0, 5)).toEqual([false, false, true, false, false]);
    expect((await client.readHoldingRegisters(0, 2)).data).toEqual([77, 0]);
    expect((await client.readInputRegisters(1, 2)).data).toEqual([308, 14]);
    await client.writeCoils(0, [false, true, false]);
    expect((await client.readCoils(0, 3)).data.slice(0, 3)).toEqual([false, true, false]);
    await expect(client.readCoils(40, 1)).rejects.toThrow(/Illegal data address/i);
  });

  debian('mbpoll')('a command-line poller reads the gateway stand-in', async () => {
    const fleet = await startFleet({ host: '127.0.0.1', portBase: 0, only: ['G1'] });
    onTestFinished(() => fleet.stop());
    const port = String(fleet.devices.get('G1')?.port);
    const { stdout } = await run('mbpoll', [
      '-m',
      'tcp',
      '-p',
      port,
      '-a',
      '1',
      '-t',
      '3',
      '-r',
      '2',
      '-c',
      '2',
      '-1',
      '127.0.0.1',
    ]);
    expect(stdout).toMatch(/\[2\]:\s+308/);
    expect(stdout).toMatch(/\[3\]:\s+14/);
  });
});

describe('UMD tally', () => {
  const heard = (end: EventEmitter) => new Promise<never>((resolve) => void end.once('message', resolve));

  it('version 5.0 from the driver arrives at a package', async () => {
    const [socket, end] = [await udp(), new Tsl5()];
    const rig = await start('multiviewer', socket.port);
    await linkIs(rig, 'one-way');
    const arrived = heard(end);
    void socket.next().then((bytes) => end.processTally(bytes, 'loopback'));
    await send(rig, 'show', { screen: 2, display: 300, name: 'FINISH', lamp: 'red' });
    expect(await arrived).toMatchObject({
      screen: 2,
      index: 300,
      display: { text: 'FINISH', lh_tally: 1, rh_tally: 1, text_tally: 1, brightness: 3 },
    });
  });

  it('version 5.0 from a package is shown by the multiviewer stand-in', async () => {
    const fleet = await startFleet({ host: '127.0.0.1', portBase: 0, only: ['M1'] });
    onTestFinished(() => fleet.stop());
    const viewer = fleet.devices.get('M1');
    const socket = createSocket('udp4');
    onTestFinished(() => void socket.close());
    const display = { text: 'Mid-course', rh_tally: 2, text_tally: 0, lh_tally: 1, brightness: 2 };
    socket.send(new Tsl5().constructPacket({ screen: 0, index: 4, display }), viewer?.port ?? 0, '127.0.0.1');
    const tile = { number: 4, text: 'Mid-course', left: 'red', right: 'green', brightness: 2 };
    await until(
      () => viewer?.view.displays as readonly object[],
      (displays) => JSON.stringify(displays[3]) === JSON.stringify({ ...tile }, Object.keys(displays[3] ?? {})),
    );
  });

  it('version 3.1 from the driver arrives at a package', async () => {
    const [socket, end] = [await udp(), new Tsl3(0)];
    onTestFinished(() => void end.server.close());
    const rig = await start('multiviewer-v31', socket.port);
    await linkIs(rig, 'one-way');
    const arrived = heard(end);
    void socket.next().then((bytes) => end.server.emit('message', bytes, { address: 'loopback' }));
    await send(rig, 'show', { display: 17, name: 'PONTOON', lamp: 'green' });
    expect(await arrived).toMatchObject({
      address: 17,
      label: 'PONTOON         ',
      brightness: 3,
      tally1: 0,
      tally2: 1,
      tally3: 0,
      tally4: 0,
    });
  });
});

describe('WebSocket', () => {
  async function station(): Promise<{ port: number; clients: Set<WebSocket>; seen: string[]; headers: string[] }> {
    const server = new WebSocketServer({ host: '127.0.0.1', port: 0, path: '/control' });
    const seen: string[] = [];
    const headers: string[] = [];
    const pumps = [
      { number: 1, on: false },
      { number: 2, on: true },
    ];
    server.on('connection', (socket, request) => {
      headers.push(String(request.headers.authorization), socket.protocol);
      socket.send('{"hello":"pumps"}');
      socket.on('message', (data) => {
        seen.push(String(data));
        const {
          ref,
          call,
          with: args,
        } = JSON.parse(String(data)) as { ref: number; call: string; with?: { pump: number; on: boolean } };
        if (call === 'run' && args?.pump === 2)
          return socket.send(JSON.stringify({ ref, ok: false, why: 'pump 2 is in repair' }));
        const pump = pumps[(args?.pump ?? 1) - 1];
        if (call === 'run' && args && pump) pump.on = args.on;
        socket.send(JSON.stringify({ pumps }));
        socket.send(JSON.stringify({ ref, ok: true }));
      });
    });
    onTestFinished(() => {
      for (const client of server.clients) client.terminate();
      return new Promise<void>((resolve) => void server.close(() => resolve()));
    });
    await new Promise((resolve) => server.once('listening', resolve));
    return { port: (server.address() as AddressInfo).port, clients: server.clients, seen, headers };
  }

  it('a package as the device: matched answers, refusals, values with their types, parts left out', async () => {
    const end = await station();
    const rig = await start('pump-station', end.port, { user: 'joe' }, 'secret', [pumpDriver]);
    await linkIs(rig, 'up');
    expect(end.headers).toEqual([`Basic ${Buffer.from('joe:secret').toString('base64')}`, 'pump.1']);
    expect(reading(rig, 'pump[2].on')).toBe(true);
    expect(await send(rig, 'run', { pump: 1, on: true })).toMatchObject({ outcome: 'confirmed' });
    const asked = end.seen
      .map((text) => JSON.parse(text) as { call: string; with?: object })
      .find(({ call }) => call === 'run');
    expect(asked?.with).toEqual({ pump: 1, on: true });
    expect(await send(rig, 'run', { pump: 2, on: false })).toMatchObject({
      outcome: 'refused',
      reason: 'pump 2 is in repair',
    });
  });

  it('carries bytes as binary messages', async () => {
    const server = new WebSocketServer({ host: '127.0.0.1', port: 0 });
    const got: { bytes: Buffer; binary: boolean }[] = [];
    server.on('connection', (socket) => {
      socket.on('message', (data, binary) => {
        got.push({ bytes: data as Buffer, binary });
        socket.send(Buffer.from([0x02, 0x2a]));
      });
    });
    onTestFinished(() => {
      for (const client of server.clients) client.terminate();
      return new Promise<void>((resolve) => void server.close(() => resolve()));
    });
    await new Promise((resolve) => server.once('listening', resolve));
    const driver = {
      ...pumpDriver,
      id: 'valve',
      link: { kind: 'websocket', port: 1 },
      framing: { kind: 'message', as: 'bytes' },
      answers: 'none',
      questions: {},
      greeting: [],
      sync: { send: [{ hex: '01' }], until: '^02' },
      commands: {
        set: {
          title: 'Set',
          params: { n: { title: 'N', value: { type: 'whole', min: 0, max: 255 } } },
          send: { hex: '10 {n:u8}' },
        },
      },
      readings: { level: { title: 'Level', value: { type: 'whole', reads: 'hex' } } },
      replies: [{ match: '^02(?P<n>..)$', set: { level: '{n}' } }],
    };
    const rig = await start('valve', (server.address() as AddressInfo).port, {}, '', [driver]);
    await linkIs(rig, 'up');
    expect(reading(rig, 'level')).toBe(42);
    await send(rig, 'set', { n: 200 });
    await until(
      () => got.length,
      (count) => count === 2,
    );
    expect(got.map(({ bytes, binary }) => [bytes.toString('hex'), binary])).toEqual([
      ['01', true],
      ['10c8', true],
    ]);
  });

  it('that breaks is down and up again; one that is no WebSocket says so', async () => {
    const end = await station();
    const rig = await start('pump-station', end.port, {}, '', [pumpDriver]);
    await linkIs(rig, 'up');
    for (const client of end.clients) client.terminate();
    // It is called again at once: what is seen of the fall is the second connection.
    await until(
      () => end.headers.length,
      (lines) => lines === 4,
    );
    await linkIs(rig, 'up');
    const plain = createServer((_req, res) => res.writeHead(404).end());
    onTestFinished(() => void plain.close());
    await new Promise<void>((resolve) => void plain.listen(0, '127.0.0.1', resolve));
    const other = await start('pump-station', (plain.address() as AddressInfo).port, {}, '', [pumpDriver]);
    await until(
      () => other.engine.api.health().links[0]?.link,
      (link) => link?.cause === 'wrong-greeting' || link?.cause === 'other' || link?.word === 'down',
    );
  });
});

describe('HTTP', () => {
  debian('lighttpd')('a real server with Digest lets the right password in and no other', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'sorrelfinch-http-'));
    onTestFinished(() => rmSync(folder, { recursive: true, force: true }));
    const free = createTcpServer();
    await new Promise<void>((resolve) => void free.listen(0, '127.0.0.1', resolve));
    const { port } = free.address() as AddressInfo;
    await new Promise((resolve) => free.close(resolve));
    const md5 = (text: string) => createHash('md5').update(text).digest('hex');
    writeFileSync(join(folder, 'users'), `joe:weir:${md5('joe:weir:slack water')}\n`);
    writeFileSync(join(folder, 'level.txt'), 'level=42\n');
    writeFileSync(
      join(folder, 'conf'),
      `server.document-root = "${folder}"
server.bind = "127.0.0.1"
server.port = ${port}
server.modules = ("mod_auth", "mod_authn_file")
auth.backend = "htdigest"
auth.backend.htdigest.userfile = "${join(folder, 'users')}"
auth.require = ("/" => ("method" => "digest", "realm" => "weir", "require" => "valid-user"))
`,
    );
    start_('lighttpd', ['-D', '-f', join(folder, 'conf')]);
    await until(
      () =>
        fetch(`http://127.0.0.1:${port}/level.txt`).then(
          ({ status }) => status,
          () => 0,
        ),
      (status) => status === 401,
    );
    const right = await start('generic-http-digest', port, { user: 'joe' }, 'slack water');
    await linkIs(right, 'not checked');
    expect(await send(right, 'get', { path: '/level.txt' })).toMatchObject({ outcome: 'confirmed' });
    expect(reading(right, 'said')).toBe('level=42');
    // The nonce is used again, with its count.
    expect(await send(right, 'get', { path: '/level.txt' })).toMatchObject({ outcome: 'confirmed' });
    expect(await send(right, 'get', { path: '/none' })).toMatchObject({ outcome: 'refused' });
    const wrong = await start('generic-http-digest', port, { user: 'joe' }, 'high water');
    await linkIs(wrong, 'not checked');
    expect(await send(wrong, 'get', { path: '/level.txt' })).toMatchObject({ outcome: 'refused' });
  });

  debian('curl')('a command-line client signs in at the encoder stand-in, and reads its events', async () => {
    const fleet = await startFleet({ host: '127.0.0.1', portBase: 0, only: ['E1'] });
    onTestFinished(() => fleet.stop());
    const url = `http://127.0.0.1:${fleet.devices.get('E1')?.port}/v1`;
    const curl = (...args: string[]) =>
      run('curl', ['-sS', '--digest', '-u', `${encoderUser}:${encoderPassword}`, '--max-time', '2', ...args]);
    const { stdout } = await curl('-X', 'POST', '-d', '{"on":true}', `${url}/record`);
    expect(JSON.parse(stdout)).toEqual({ ok: true });
    const { stdout: status } = await curl(`${url}/status`);
    expect(JSON.parse(status)).toMatchObject({ record: { on: true } });
    const events = await curl('-N', `${url}/events`).catch((error: { stdout: string }) => error);
    expect(events.stdout).toMatch(/^data: \{"event":"status"/);
    const { stdout: refused } = await run('curl', [
      '-sS',
      '--digest',
      '-u',
      'operator:wrong',
      '-o',
      '/dev/null',
      '-w',
      '%{http_code}',
      `${url}/status`,
    ]);
    expect(refused).toBe('401');
  });

  it('pairs go out as a form and come back as pairs', async () => {
    let body = '';
    const server: Server = createServer((req, res) => {
      req.on('data', (chunk) => (body += String(chunk)));
      req.on('end', () => res.end('wall=3&feed=C1+wide\n'));
    });
    onTestFinished(() => void server.close());
    await new Promise<void>((resolve) => void server.listen(0, '127.0.0.1', resolve));
    const rig = await start('generic-pairs', (server.address() as AddressInfo).port);
    await linkIs(rig, 'not checked');
    const params = { path: '/set', key1: 'feed', value1: 'a & b', key2: 'out', value2: '2' };
    expect(await send(rig, 'set', params)).toMatchObject({ outcome: 'confirmed' });
    expect(body).toBe('feed=a+%26+b&out=2');
    expect(reading(rig, 'said')).toBe('feed=C1 wide');
  });
});

describe('the generic drivers for text and bytes', () => {
  it('send what was typed with the chosen ending over TCP, and show what comes back', async () => {
    let got = '';
    const server = createTcpServer((socket) => {
      socket.on('error', () => undefined);
      socket.on('data', (chunk) => {
        got += chunk.toString('latin1');
        socket.write('TEMP 21\r\n');
      });
      onTestFinished(() => void socket.destroy());
    });
    onTestFinished(() => void server.close());
    await new Promise<void>((resolve) => void server.listen(0, '127.0.0.1', resolve));
    const rig = await start('generic-text-tcp', (server.address() as AddressInfo).port);
    await linkIs(rig, 'not checked');
    expect(await send(rig, 'send', { text: 'HI \\x01{x}', ending: 'cr' })).toMatchObject({ outcome: 'sent' });
    await until(
      () => reading(rig, 'said'),
      (said) => said === 'TEMP 21',
    );
    expect(got).toBe('HI \x01{x}\r');
    expect(await send(rig, 'send', { text: 'bad \\q', ending: 'cr' })).toMatchObject({
      outcome: 'lost',
      reason: expect.stringContaining('character 5'),
    });
  });

  it('send bytes over UDP', async () => {
    const end = await udp();
    const rig = await start('generic-bytes-udp', end.port);
    await linkIs(rig, 'one-way');
    const arrived = end.next();
    await send(rig, 'send', { bytes: '02 ff 0d' });
    expect((await arrived).toString('hex')).toBe('02ff0d');
  });

  it('take commands and readings that the show adds', async () => {
    let got = '';
    const server = createTcpServer((socket) => {
      socket.on('error', () => undefined);
      socket.on('data', (chunk) => {
        got += String(chunk);
        socket.write('LEVEL 7\n');
      });
      onTestFinished(() => void socket.destroy());
    });
    onTestFinished(() => void server.close());
    await new Promise<void>((resolve) => void server.listen(0, '127.0.0.1', resolve));
    const additions = {
      commands: {
        own1: {
          title: 'Ask the level',
          params: {},
          send: { bytes: 'LEVEL?\\r\\n' },
          risky: false,
          harmless: true,
          class: 'ordinary',
        },
      },
      readings: { own1: { title: 'Level', value: { type: 'text' } } },
      replies: [{ match: '^LEVEL (?P<value>[0-9]+)$', set: { own1: '{value}' } }],
    };
    const rig = await start('generic-text-tcp', (server.address() as AddressInfo).port, { additions });
    await linkIs(rig, 'not checked');
    expect(await send(rig, 'own1')).toMatchObject({ outcome: 'sent' });
    await until(
      () => reading(rig, 'own1'),
      (level) => level === '7',
    );
    expect(got).toBe('LEVEL?\r\n');
  });
});
