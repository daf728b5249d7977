import { describe, expect, it } from 'vitest';
import { DriverShelf, encodeCommand } from '../src/core/driver';
import type { Scalar } from '../src/core/result';
import { shippedDrivers } from '../src/drivers';
import { foreign, linkIs, reading, saysOf, send, start, startPython } from './support/foreign-end';
import { until } from './support/rig';

/**
 * Cameras that speak VISCA in its four ways, written in another language from the command lists that cameras publish: behind a header in
 * datagrams, and without one in datagrams, over a stream and over a serial line, where each has an address.
 */

const shelf = new DriverShelf();
shelf.put(shippedDrivers);

/** Every command with bytes from the command lists; a row is `command · parameters · bytes behind the address`. */
const vectors: readonly (readonly [string, Readonly<Record<string, Scalar>>, string])[] = [
  ['power', { on: true }, '01 04 00 02'],
  ['power', { on: false }, '01 04 00 03'],
  ['move', { direction: 'upLeft', panSpeed: 24, tiltSpeed: 20 }, '01 06 01 18 14 01 01'],
  ['move', { direction: 'down', panSpeed: 1, tiltSpeed: 5 }, '01 06 01 01 05 03 02'],
  ['stopMoving', {}, '01 06 01 01 01 03 03'],
  ['moveTo', { pan: -10, tilt: 5, speed: 18, tiltSpeed: 10 }, '01 06 02 12 0A 0F 0F 07 00 00 00 04 08'],
  ['moveBy', { pan: 10, tilt: -5, panSpeed: 1, tiltSpeed: 2 }, '01 06 03 01 02 00 00 09 00 0F 0F 0B 08'],
  ['home', {}, '01 06 04'],
  ['resetHead', {}, '01 06 05'],
  ['limit', { corner: 'upRight', pan: 10, tilt: 5 }, '01 06 07 00 01 00 00 09 00 00 00 04 08'],
  ['clearLimit', { corner: 'downLeft' }, '01 06 07 01 00 07 0F 0F 0F 07 0F 0F 0F'],
  ['zoomIn', { speed: 7 }, '01 04 07 27'],
  ['zoomOut', { speed: 0 }, '01 04 07 30'],
  ['stopZoom', {}, '01 04 07 00'],
  ['zoomTo', { zoom: 100 }, '01 04 47 04 00 00 00'],
  ['digitalZoom', { on: true }, '01 04 06 02'],
  ['focusFar', { speed: 3 }, '01 04 08 23'],
  ['focusNear', { speed: 3 }, '01 04 08 33'],
  ['stopFocus', {}, '01 04 08 00'],
  ['focusTo', { focus: 100 }, '01 04 48 01 00 00 00'],
  ['autoFocus', { on: true }, '01 04 38 02'],
  ['autoFocus', { on: false }, '01 04 38 03'],
  ['focusOnce', {}, '01 04 18 01'],
  ['focusInfinity', {}, '01 04 18 02'],
  ['steadyFocus', { on: true }, '01 04 58 03'],
  ['exposure', { mode: 'bright' }, '01 04 39 0D'],
  ['iris', { step: 17 }, '01 04 4B 00 00 01 01'],
  ['shutter', { step: 21 }, '01 04 4A 00 00 01 05'],
  ['gain', { step: 15 }, '01 04 4C 00 00 00 0F'],
  ['bright', { step: 31 }, '01 04 4D 00 00 01 0F'],
  ['exposureCompensation', { on: true }, '01 04 3E 02'],
  ['exposureCompensationTo', { step: 14 }, '01 04 4E 00 00 00 0E'],
  ['gainLimit', { step: 9 }, '01 04 2C 09'],
  ['wideDynamic', { on: false }, '01 04 3D 03'],
  ['slowShutter', { on: true }, '01 04 5A 02'],
  ['whiteBalance', { mode: 'manual' }, '01 04 35 05'],
  ['whiteBalance', { mode: 'tracking' }, '01 04 35 04'],
  ['whiteBalanceOnce', {}, '01 04 10 05'],
  ['redGain', { step: 255 }, '01 04 43 00 00 0F 0F'],
  ['blueGain', { step: 16 }, '01 04 44 00 00 01 00'],
  ['backlight', { on: true }, '01 04 33 02'],
  ['sharpness', { step: 15 }, '01 04 42 00 00 00 0F'],
  ['noiseReduction', { step: 5 }, '01 04 53 05'],
  ['gamma', { step: 4 }, '01 04 5B 04'],
  ['colourGain', { step: 14 }, '01 04 49 00 00 00 0E'],
  ['colourHue', { step: 7 }, '01 04 4F 00 00 00 07'],
  ['flip', { on: true }, '01 04 66 02'],
  ['mirror', { on: false }, '01 04 61 03'],
  ['freeze', { on: true }, '01 04 62 02'],
  ['blackAndWhite', { on: true }, '01 04 63 04'],
  ['blackAndWhite', { on: false }, '01 04 63 00'],
  ['nightMode', { on: true }, '01 04 01 02'],
  ['nudge', { setting: 'iris', way: 'up' }, '01 04 0B 02'],
  ['nudge', { setting: 'redGain', way: 'reset' }, '01 04 03 00'],
  ['recall', { preset: 15 }, '01 04 3F 02 0F'],
  ['store', { preset: 0 }, '01 04 3F 01 00'],
  ['forget', { preset: 9 }, '01 04 3F 00 09'],
  ['tally', { on: true }, '01 7E 01 0A 00 02'],
  ['tallyGreen', { on: false }, '01 7E 04 1A 00 03'],
  ['menu', { on: true }, '01 06 06 02'],
  ['menuEnter', {}, '01 06 06 05'],
  ['menuBack', {}, '01 06 06 04'],
  ['remote', { on: false }, '01 06 08 03'],
  ['look', {}, '09 06 12'],
];

describe('every command goes out as the command lists have it', () => {
  it('there is a row for every command', () => {
    const known = new Set(vectors.map(([command]) => command));
    const commands = Object.keys(shelf.for({ driver: 'ptz-camera', options: {} })?.document.commands ?? {});
    expect(commands.filter((id) => !known.has(id))).toEqual([]);
  });

  it.each(vectors)('%s %j', (command, params, bytes) => {
    for (const [driver, options, first] of [
      ['ptz-camera', {}, '81'],
      ['ptz-camera-bare', {}, '81'],
      ['ptz-camera-udp', { address: 7 }, '87'],
      ['ptz-camera-serial', { address: 2 }, '82'],
    ] as const) {
      const used = shelf.for({ driver, options });
      if (!used) throw new Error(`There is no ${driver}.`);
      const made = encodeCommand(used, command, params);
      if (!made.ok) throw new Error(JSON.stringify(made.error));
      const { out } = made.value;
      const hex = Buffer.from((out as { payload: Uint8Array }).payload)
        .toString('hex')
        .toUpperCase();
      expect([driver, hex]).toEqual([driver, `${first} ${bytes} FF`.replaceAll(' ', '')]);
    }
  });
});

/**
 * The camera of the tests: it answers what it does not know with “syntax error”. The head moves at once. `way` is header, datagram, stream or line.
 */
const camera = (way: string, address: number) => `
import os, pty, socket, sys, threading, tty
way, address = '${way}', ${address}
frm = bytes([((address + 8) << 4) & 255])
state = {'power': 2, 'pan': 0, 'tilt': 0, 'zoom': 0, 'auto': 2, 'red': 128, 'white': 0, 'flip': 3, 'recalled': None}
nib = lambda v, n: bytes((v >> (4 * i)) & 15 for i in reversed(range(n)))
num = lambda b: int(''.join('%X' % (x & 15) for x in b), 16)
def answer(m):
    """Returns the replies to one message, without header."""
    if m[0] == 0x88:
        if m[1] == 0x30: return [bytes([0x88, 0x30, m[2] + 1, 0xff])]
        return [m]
    if m[0] != 0x80 + address: return []
    b = m[1:-1]
    info = lambda data: [frm + b'\\x50' + data + b'\\xff']
    done = [frm + b'\\x41\\xff', frm + b'\\x51\\xff']
    syntax = [frm + b'\\x60\\x02\\xff']
    print(b.hex(), flush=True) if b[0] == 1 else None
    if b[0] == 9:
        print('?' + b[1:].hex(), flush=True)
        known = {
            '0002': lambda: bytes([0x7e, 0x01, 0x07, 0x42, 0x02, 0x10, 0x02]),
            '0400': lambda: bytes([state['power']]),
            '0612': lambda: nib(state['pan'] & 0xffff, 4) + nib(state['tilt'] & 0xffff, 4),
            '0447': lambda: nib(state['zoom'], 4),
            '0438': lambda: bytes([state['auto']]),
            '0443': lambda: nib(state['red'], 4),
            '0435': lambda: bytes([state['white']]),
            '0466': lambda: bytes([state['flip']]),
        }
        return info(known[b[1:].hex()]()) if b[1:].hex() in known else syntax
    if b[:3] == bytes([1, 6, 2]): state['pan'], state['tilt'] = num(b[5:9]), num(b[9:13]); return done
    if b[:3] == bytes([1, 4, 0x47]): state['zoom'] = num(b[3:7]); return done
    if b[:3] == bytes([1, 4, 0x38]): state['auto'] = b[3]; return done
    if b[:3] == bytes([1, 4, 0x43]):
        if state['white'] != 5: return [frm + b'\\x60\\x41\\xff']
        state['red'] = num(b[3:7]); return done
    if b[:3] == bytes([1, 4, 0x35]): state['white'] = b[3]; return done
    if b[:3] == bytes([1, 4, 0x66]): state['flip'] = b[3]; return done
    if b[:3] == bytes([1, 4, 0x3f]): state['recalled'] = b[4]; return done
    if b[:3] == bytes([1, 6, 1]): state['moving'] = b[5:7].hex(); return done
    return syntax
def split(rest, send):
    while b'\\xff' in rest:
        m, rest = rest.split(b'\\xff', 1)
        for r in answer(m + b'\\xff'): send(r)
    return rest
if way in ('header', 'datagram'):
    s = socket.socket(socket.AF_INET, socket.SOCK_DGRAM)
    s.bind(('127.0.0.1', 0))
    print(s.getsockname()[1], flush=True)
    while True:
        data, peer = s.recvfrom(100)
        if way == 'datagram':
            for r in answer(data): s.sendto(r, peer)
            continue
        kind, length, seq, body = data[:2], int.from_bytes(data[2:4], 'big'), data[4:8], data[8:]
        if length != len(body): continue
        if kind == b'\\x02\\x00': s.sendto(b'\\x02\\x01\\x00\\x01' + seq + b'\\x01', peer); continue
        for r in answer(body): s.sendto(b'\\x01\\x11' + len(r).to_bytes(2, 'big') + seq + r, peer)
elif way == 'stream':
    s = socket.socket()
    s.bind(('127.0.0.1', 0))
    s.listen(2)
    print(s.getsockname()[1], flush=True)
    while True:
        peer, _ = s.accept()
        rest = b''
        while True:
            more = peer.recv(100)
            if not more: break
            rest = split(rest + more, peer.sendall)
else:
    mine, theirs = pty.openpty()
    tty.setraw(theirs)
    print(1, flush=True)
    print(os.ttyname(theirs), flush=True)
    rest = b''
    while True: rest = split(rest + os.read(mine, 100), lambda r: os.write(mine, r))
`;

/** What the camera is told, without the address. */
const commands = [
  '0106021814000102000f0f0700',
  '01044702000000',
  '01043803',
  '01046602',
  '01043f0209',
  '01044300000c08',
  '01043505',
  '01044300000c08',
  '01045b02',
];

const ways = [
  ['behind a header in datagrams', 'header', 'ptz-camera', 1],
  ['in bare datagrams', 'datagram', 'ptz-camera-udp', 1],
  ['over a stream', 'stream', 'ptz-camera-bare', 4],
  ['over a serial line, to the second camera', 'line', 'ptz-camera-serial', 2],
] as const;

describe('a camera that is spoken to', () => {
  for (const [title, way, driver, address] of ways)
    foreign(`${title} comes up, does what it is told, and is not asked again what it does not know`, async () => {
      const { port, lines } = await startPython(camera(way, address));
      const host =
        way === 'line'
          ? await until(
              () => lines.shift(),
              (path) => path !== undefined,
            )
          : '127.0.0.1';
      const options = way === 'header' ? {} : { address };
      const rig = await start(driver, port, { role: 'camera', host, options });
      await linkIs(rig, 'up');
      await saysOf(rig, 'model', '0742');
      await saysOf(rig, 'flip', false);
      if (way === 'line') await saysOf(rig, 'camerasOnLine', 1);

      expect(await send(rig, 'moveTo', { pan: 20, tilt: -10, speed: 24, tiltSpeed: 20 })).toMatchObject({
        outcome: 'confirmed',
      });
      expect(await send(rig, 'zoomTo', { zoom: 50 })).toMatchObject({ outcome: 'confirmed' });
      expect(await send(rig, 'autoFocus', { on: false })).toMatchObject({ outcome: 'confirmed' });
      expect(await send(rig, 'flip', { on: true })).toMatchObject({ outcome: 'confirmed' });
      expect(await send(rig, 'recall', { preset: 9 })).toMatchObject({ outcome: 'confirmed' });
      // Refused for now: white balance is automatic. Refused for ever: there is no gamma.
      expect(await send(rig, 'redGain', { step: 200 })).toMatchObject({ outcome: 'refused' });
      expect(await send(rig, 'whiteBalance', { mode: 'manual' })).toMatchObject({ outcome: 'confirmed' });
      expect(await send(rig, 'redGain', { step: 200 })).toMatchObject({ outcome: 'confirmed' });
      expect(await send(rig, 'gamma', { step: 2 })).toMatchObject({ outcome: 'refused' });
      expect([reading(rig, 'pan'), reading(rig, 'tilt'), reading(rig, 'zoom'), reading(rig, 'redGain')]).toEqual([
        20, -10, 50, 200,
      ]);
      expect(reading(rig, 'gamma')).toBeUndefined();
      // What the program asks for is printed with a question mark.
      await until(
        () => lines.filter((line) => !line.startsWith('?')),
        (told) => told.length === commands.length,
      );
      expect(lines.filter((line) => !line.startsWith('?'))).toEqual(commands);
      if (way !== 'header') return;
      // The tally lamp would be asked for every 800 ms, the direction is every 400 ms.
      await until(
        () => lines.filter((line) => line === '?0612').length,
        (count) => count > 7,
      );
      expect(lines.filter((line) => line === '?7e010a')).toHaveLength(1);
    });
});
