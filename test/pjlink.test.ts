import { createSocket, type Socket } from 'node:dgram';
import { describe, expect } from 'vitest';
import { HouseSync, screenPassword, ScreenStandin } from '../src/standins';
import { foreign, linkIs, reading, saysOf, send, start, startPython } from './support/foreign-end';
import { onTestFinished, until } from './support/rig';

/**
 * PJLink against ends in another language, written from the specifications of Class 1 (2013) and Class 2 (2017): the driver against a screen, and
 * the stand-in against a controller.
 */

interface Screen {
  readonly password?: string;
  readonly class?: 1 | 2;
  readonly power?: 0 | 1;
}

/** Prints each command that it carries out. It warms up for a second. */
const screen = ({ password = '', class: own = 2, power = 1 }: Screen) => `
import socket, hashlib, threading, time
s = {'POWR': '${power}', 'INPT': '31', 'AVMT': '30', 'FREZ': '0', 'ready': 0}
volume = 5
names = {'11': 'Lectern', '31': 'Wall box', '3A': 'Booth'}
ERST, LAMP = '010002', '120 1 4500 0'
def power():
    if s['POWR'] == '3' and time.time() > s['ready']: s['POWR'] = '1'
    return s['POWR']
def did(*what): print('did', *what, flush=True)
def one(name, arg):
    if name == 'POWR':
        if arg == '?': return power()
        if arg not in '01': return 'ERR2'
        if power() in '23': return 'ERR3'
        if arg == '1' and s['POWR'] == '0': s['POWR'], s['ready'] = '3', time.time() + 1
        elif arg == '0': s['POWR'] = '0'
        did(name, arg)
        return 'OK'
    if name == 'CLSS': return '${own}'
    if name == 'NAME': return 'Slip Hall \\u00fc'
    if name == 'INF1': return 'Nobody'
    if name == 'INF2': return 'P-1'
    if name == 'INFO': return ''
    if name == 'INST': return ' '.join(names)
    if name == 'ERST': return ERST
    if name == 'LAMP': return LAMP
    if name in ('INPT', 'AVMT'):
        if power() != '1': return 'ERR3'
        if arg == '?': return s[name]
        if name == 'INPT' and arg not in names: return 'ERR2'
        if name == 'AVMT':
            if len(arg) != 2 or arg[0] not in '123' or arg[1] not in '01': return 'ERR2'
            video, audio = s['AVMT'] in ('11', '31'), s['AVMT'] in ('21', '31')
            if arg[0] in '13': video = arg[1] == '1'
            if arg[0] in '23': audio = arg[1] == '1'
            s['AVMT'] = '31' if video and audio else '11' if video else '21' if audio else '30'
        else: s['INPT'] = arg
        did(name, arg)
        return 'OK'
    return 'ERR1'
def two(name, arg):
    global volume
    if name == 'SNUM': return 'A-0007'
    if name == 'SVER': return '3.2'
    if name == 'FILT': return '310'
    if name == 'RLMP': return 'LMP 7'
    if name == 'RFIL': return 'ERR1'
    if name == 'INNM': return names.get(arg[1:], 'ERR2')
    if name in ('IRES', 'RRES'): return ('ERR3' if power() != '1' else '-' if s['INPT'] == '11' else '1920x1080') if name == 'IRES' else '1920x1200'
    if name == 'SVOL':
        volume += 1 if arg == '1' else -1
        did(name, arg)
        return 'OK'
    if name == 'FREZ':
        if power() != '1': return 'ERR3'
        if arg == '?': return s['FREZ']
        s['FREZ'] = arg
        did(name, arg)
        return 'OK'
    return one(name, arg)
def serve(peer):
    salt = '498e4a67'
    secret = ${JSON.stringify(password)}
    peer.sendall(('PJLINK 1 %s\\r' % salt if secret else 'PJLINK 0\\r').encode())
    digest = hashlib.md5((salt + secret).encode()).hexdigest() if secret else ''
    rest, first = b'', True
    while True:
        more = peer.recv(1000)
        if not more: return
        rest += more
        while b'\\r' in rest:
            line, rest = rest.split(b'\\r', 1)
            line = line.decode()
            if first and digest:
                if not line.startswith(digest):
                    peer.sendall(b'PJLINK ERRA\\r')
                    peer.close()
                    return
                line = line[32:]
            first = False
            head, name, arg = line[:2], line[2:6], line[7:]
            answer = one(name, arg) if head == '%1' else two(name, arg) if ${own} == 2 else 'ERR1'
            peer.sendall(('%s%s=%s\\r' % (head, name, answer)).encode())
listener = socket.create_server(('127.0.0.1', 0))
print(listener.getsockname()[1], flush=True)
while True:
    peer, _ = listener.accept()
    threading.Thread(target=serve, args=(peer,), daemon=True).start()
`;

const driver = 'screen-pjlink';

async function udpFrom(address: string): Promise<Socket> {
  const socket = createSocket('udp4');
  onTestFinished(() => void socket.close());
  await new Promise<void>((resolve) => socket.bind(0, address, resolve));
  return socket;
}
async function freeUdpPort(): Promise<number> {
  const socket = createSocket('udp4');
  await new Promise<void>((resolve) => socket.bind(0, '127.0.0.1', resolve));
  const { port } = socket.address();
  await new Promise<void>((resolve) => void socket.close(resolve));
  return port;
}

describe('a screen that is spoken to', () => {
  foreign(
    'of class 2, with a password: says what it is, and does what it is told',
    async () => {
      const { port, lines } = await startPython(screen({ password: 'tide' }));
      const rig = await start(driver, port, {}, 'tide');
      await linkIs(rig, 'up');
      const known = {
        power: 'on',
        powered: true,
        name: 'Slip Hall ü',
        model: 'P-1',
        serial: 'A-0007',
        software: '3.2',
        input: 'digital1',
        inputs: '11 31 3A',
        shown: true,
        muted: false,
        frozen: false,
        fan: 'well',
        lampHealth: 'warning',
        other: 'error',
        'lamp[1].hours': 120,
        'lamp[2].hours': 4500,
        'lamp[2].on': false,
        filterHours: 310,
        signal: 'present',
        resolution: '1920x1080',
        bestResolution: '1920x1200',
      };
      for (const [key, value] of Object.entries(known)) await saysOf(rig, key, value);
      await saysOf(rig, 'inputName', 'Wall box');

      const rows = [
        ['show', { on: false }, 'AVMT 11', 'shown', false],
        ['mute', { on: true }, 'AVMT 21', 'muted', true],
        ['show', { on: true }, 'AVMT 10', 'shown', true],
        ['freeze', { on: true }, 'FREZ 1', 'frozen', true],
        ['input', { input: 'rgb1' }, 'INPT 11', 'input', 'rgb1'],
      ] as const;
      for (const [command, params, did, key, value] of rows) {
        expect(await send(rig, command, params), command).toMatchObject({ outcome: 'confirmed' });
        expect(lines.at(-1)).toBe(`did ${did}`);
        expect(reading(rig, key)).toBe(value);
      }
      // Muting the sound has left the picture as it was.
      expect(reading(rig, 'muted')).toBe(true);

      expect(await send(rig, 'power', { on: false })).toMatchObject({ outcome: 'confirmed' });
      expect(lines.at(-1)).toBe('did POWR 0');
      // What a screen shows while it is off nobody knows: no lamp may say that it is blank or muted.
      const now = ['power', 'shown', 'muted', 'frozen', 'input'].map((key) => reading(rig, key));
      expect(now).toEqual(['off', undefined, undefined, undefined, undefined]);
    },
    30_000,
  );

  foreign('of class 2 reports by itself what has changed, and nobody else can do so for it', async () => {
    const { port } = await startPython(screen({}));
    const notices = await freeUdpPort();
    const rig = await start(driver, port, { options: { notifications: notices } });
    await linkIs(rig, 'up');
    await saysOf(rig, 'lampHealth', 'warning');
    const [own, other] = await Promise.all([udpFrom('127.0.0.1'), udpFrom('127.0.0.2')]);
    // Class 2 specification, 5.2: status notifications. It is asked for errors every five seconds only.
    other.send('%2ERST=020000\r', notices, '127.0.0.1');
    own.send('garbage', notices, '127.0.0.1');
    own.send('%2LKUP=02:00:5e:10:00:01\r', notices, '127.0.0.1');
    own.send('%2ERST=000020\r', notices, '127.0.0.1');
    await until(
      () => [reading(rig, 'lampHealth'), reading(rig, 'filter')],
      ([lamp, filter]) => lamp === 'well' && filter === 'error',
      1500,
    );
    // What it says beside the connection is no answer to what is asked there.
    for (let n = 0; n < 20; n += 1) own.send('%2POWR=1\r', notices, '127.0.0.1');
    expect(await send(rig, 'freeze', { on: true })).toMatchObject({ outcome: 'confirmed' });
    expect(rig.engine.api.health().links[0]?.link.word).toBe('up');
  });

  foreign(
    'of class 1, without a password: does without what it does not know',
    async () => {
      const { port, lines } = await startPython(screen({ class: 1 }));
      const rig = await start(driver, port);
      await linkIs(rig, 'up');
      await saysOf(rig, 'class', 1);
      expect(await send(rig, 'input', { input: 'rgb1' })).toMatchObject({ outcome: 'confirmed' });
      expect(lines).toEqual(['did INPT 11']);
      const [end] = (await send(rig, 'freeze', { on: true })).sends;
      expect(end).toMatchObject({ outcome: 'refused', reason: 'The screen does not know this command.' });
      expect(reading(rig, 'frozen')).toBeUndefined();
    },
    30_000,
  );

  foreign(
    'refuses what it cannot do in standby, and tells when it has warmed up',
    async () => {
      const { port } = await startPython(screen({ password: 'tide', power: 0 }));
      const rig = await start(driver, port, {}, 'tide');
      await linkIs(rig, 'up');
      await saysOf(rig, 'power', 'off');
      const [end] = (await send(rig, 'input', { input: 'rgb1' })).sends;
      expect(end).toMatchObject({ outcome: 'refused', reason: expect.stringContaining('off, warming up') });
      expect(await send(rig, 'power', { on: true })).toMatchObject({ outcome: 'confirmed' });
      expect(reading(rig, 'power')).toBe('warming');
      await saysOf(rig, 'power', 'on');
      await saysOf(rig, 'input', 'digital1');
    },
    30_000,
  );

  foreign('does not accept another password', async () => {
    const { port } = await startPython(screen({ password: 'tide' }));
    const rig = await start(driver, port, {}, 'ebb');
    await linkIs(rig, 'locked out');
  });
});

describe('the stand-in', () => {
  foreign(
    'answers a controller in another language',
    async () => {
      const sync = new HouseSync(25);
      const standin = new ScreenStandin({ tag: 'D2', sync, host: '127.0.0.1', port: 0, name: 'Club house', class: 2 });
      await standin.setPower(true);
      onTestFinished(async () => {
        await standin.stop();
        sync.stop();
      });
      const { lines } = await startPython(`
import socket, hashlib, time
print(0, flush=True)
def enter(password):
    peer = socket.create_connection(('127.0.0.1', ${standin.port}))
    stream = peer.makefile('rwb')
    def line():
        text = b''
        while not text.endswith(b'\\r'):
            more = stream.read(1)
            if not more: return 'closed'
            text += more
        return text[:-1].decode()
    hello = line().split(' ')
    assert hello[:2] == ['PJLINK', '1'] and len(hello[2]) == 8, hello
    digest = hashlib.md5((hello[2] + password).encode()).hexdigest()
    def ask(text, first=[digest]):
        stream.write((first.pop() if first else '').encode() + text.encode() + b'\\r')
        stream.flush()
        return line()
    return ask
wrong = enter('nothing')
print(wrong('%1POWR ?'), wrong('%1POWR ?'), flush=True)
ask = enter(${JSON.stringify(screenPassword)})
for text in ['%1POWR ?', '%1INPT ?', '%1POWR 2', '%1POWR 1', '%1POWR ?', '%1POWR 0', '%2FREZ 1', '%1LAMP ?', '%1CLSS ?', '%1NONE ?', '%2INNM ?32']: print(ask(text), flush=True)
while ask('%1POWR ?') != '%1POWR=1': time.sleep(0.1)
for text in ['%1INPT 32', '%1INPT 99', '%2FREZ 1', '%2FREZ ?', '%1AVMT 31', '%1AVMT 20', '%1AVMT ?', '%2IRES ?', '%1INST ?']: print(ask(text), flush=True)
print('end', flush=True)
`);
      await until(
        () => lines.at(-1),
        (last) => last === 'end',
        15_000,
      );
      expect(lines.slice(0, -1)).toEqual([
        'PJLINK ERRA closed',
        ...['%1POWR=0', '%1INPT=ERR3', '%1POWR=ERR2', '%1POWR=OK', '%1POWR=3', '%1POWR=ERR3', '%2FREZ=ERR3'],
        ...['%1LAMP=1834 1', '%1CLSS=2', '%1NONE=ERR1', '%2INNM=Results'],
        ...['%1INPT=OK', '%1INPT=ERR2', '%2FREZ=OK', '%2FREZ=1', '%1AVMT=OK', '%1AVMT=OK', '%1AVMT=11'],
        ...['%2IRES=1280x720', '%1INST=11 21 31 32'],
      ]);
      expect(standin.view).toMatchObject({
        powerState: 'on',
        input: '32',
        isBlank: true,
        isMuted: false,
        isFrozen: true,
      });
    },
    30_000,
  );
});
