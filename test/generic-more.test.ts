import { describe, expect } from 'vitest';
import { foreign, linkIs, printed, reading, saysOf, send, start, startPython } from './support/foreign-end';
import { until } from './support/rig';
import { startModbus } from './support/modbus-end';
import { webSocket } from './support/websocket-end';

/**
 * “Any device: WebSocket”, “JSON lines over TCP”, “Modbus TCP” and “OSC” with their options and with commands and readings that a show adds,
 * against ends that share no line with the program.
 */

const base = { risky: false, harmless: false, class: 'ordinary' } as const;
const level = { title: 'Level', value: { type: 'whole', min: 0, max: 100 }, sends: 'index', optional: false } as const;
const on = { title: 'On', value: { type: 'onOff', on: '1', off: '0' }, sends: 'index', optional: false } as const;

const gain = {
  commands: {
    own1: {
      ...base,
      title: 'Gain',
      params: { level },
      send: { json: { gain: '{level}' } },
      confirm: { by: 'readings', all: [{ reading: 'own1', equals: { param: 'level' } }], withinMs: 1500 },
    },
  },
  readings: { own1: { title: 'Gain', value: { type: 'whole' } } },
  replies: [{ take: { value: '/mixer/gain' }, set: { own1: '{value}' } }],
};

describe('any device', () => {
  foreign(
    'WebSocket with JSON: path, token, header, first message, question; a value is confirmed by its reading',
    async () => {
      const device = await startPython(webSocket);
      const options = {
        path: '/ctl/v1?panel=2',
        auth: 'bearer',
        headers: 'X-Key: {password}',
        first: 'yes',
        hello: '{"hello":"desk"}',
        asked: 'yes',
        question: '{"ask":"status"}',
        everyMs: 300,
      };
      const rig = await start('generic-websocket', device.port, { options, additions: gain }, 'low tide');
      await linkIs(rig, 'up');
      await saysOf(rig, 'own1', 5);
      expect(device.lines.slice(0, 3)).toEqual([
        'open /ctl/v1?panel=2 Bearer low tide low tide',
        'got {"hello": "desk"}',
        'got {"ask": "status"}',
      ]);
      expect(await send(rig, 'own1', { level: 62 })).toMatchObject({ outcome: 'confirmed' });
      await until(
        () => device.lines.includes('got {"gain": 62}'),
        (is) => is,
      );
      expect(reading(rig, 'own1')).toBe(62);
    },
  );

  foreign('bytes with a length and a CRC, set by options: damaged answers are not believed', async () => {
    // aa length(payload, two bytes, low first) payload crc(low first, from the length on)
    const device = await startPython(`
import socket, struct
def crc(data):
    value = 0xffff
    for byte in data:
        value ^= byte
        for _ in range(8): value = (value >> 1) ^ 0xa001 if value & 1 else value >> 1
    return struct.pack('<H', value)
def frame(payload):
    body = struct.pack('<H', len(payload)) + payload
    return b'\\xaa' + body + crc(body)
server = socket.socket()
server.bind(('127.0.0.1', 0))
server.listen(5)
print(server.getsockname()[1], flush=True)
while True:
    peer = server.accept()[0]
    while True:
        got = peer.recv(1000)
        if not got: break
        print(got.hex(), flush=True)
        bad = bytearray(frame(b'\\x77\\x00'))
        bad[3] ^= 1
        peer.sendall(bytes(bad) + frame(bytes([got[3], 0x55])))
`);
    const options = {
      answersEnd: 'prefixed',
      lengthIs: 'u16le',
      header: 1,
      uncounted: 2,
      check: 'crc16modbus',
      checkFrom: 1,
      checkEndian: 'little',
    };
    const additions = {
      commands: {
        own1: {
          ...base,
          title: 'Set',
          params: { level },
          send: { hex: 'AA 01 00 {level:u8} {check crc16modbus from 1 as u16le}' },
          confirm: { by: 'readings', all: [{ reading: 'own1', equals: { param: 'level' } }], withinMs: 1500 },
        },
      },
      readings: { own1: { title: 'Level', value: { type: 'whole', reads: 'hex' } } },
      replies: [{ match: '^AA0200(?P<value>..)55', set: { own1: '{value}' } }],
    };
    const rig = await start('generic-bytes-tcp', device.port, { options, additions });
    await linkIs(rig, 'not checked');
    expect(await send(rig, 'own1', { level: 9 })).toMatchObject({ outcome: 'confirmed' });
    // CRC of 01 00 09 by the other end's own table.
    expect(device.lines).toEqual([expect.stringMatching(/^aa010009/)]);
    expect([reading(rig, 'own1'), rig.engine.api.health().links[0]?.faults]).toEqual([9, 1]);
  });

  foreign('text over UDP that loses what is sent first: it goes out again, and the press says so', async () => {
    const device = await startPython(`
import socket
sock = socket.socket(socket.AF_INET, socket.SOCK_DGRAM)
sock.bind(('127.0.0.1', 0))
print(sock.getsockname()[1], flush=True)
count = 0
while True:
    data, peer = sock.recvfrom(2000)
    count += 1
    print(data.decode(), flush=True)
    # The first is lost on the way, of the third only the answer.
    if count not in (1, 3): sock.sendto(b'OK ' + data, peer)
`);
    const set = { ...base, title: 'Set', params: { level }, send: { bytes: 'SET {level}' }, again: true };
    const options = { answered: 'each', answers: 'OK', answerWithinMs: 1000, again: 2, againMs: 100 };
    const additions = { commands: { own1: set }, readings: {}, replies: [] };
    const rig = await start('generic-text-udp', device.port, { options, additions });
    await linkIs(rig, 'not checked');
    const said = 'Sent twice, because nothing answered.';
    expect(await send(rig, 'own1', { level: 1 })).toMatchObject({ outcome: 'confirmed', reason: said });
    expect(await send(rig, 'own1', { level: 2 })).toMatchObject({ outcome: 'confirmed', reason: said });
    expect(await send(rig, 'own1', { level: 3 })).toMatchObject({ outcome: 'confirmed' });
    await printed(device.lines, ['SET 1', 'SET 1', 'SET 2', 'SET 2', 'SET 3']);
    expect(reading(rig, 'said')).toBe('OK SET 3');
  });

  foreign('JSON lines over TCP: what is not asked is not checked until it speaks', async () => {
    const device = await startPython(`
import json, socket
server = socket.socket()
server.bind(('127.0.0.1', 0))
server.listen(5)
print(server.getsockname()[1], flush=True)
while True:
    peer = server.accept()[0]
    for line in peer.makefile('r'):
        asked = json.loads(line)
        print(json.dumps(asked), flush=True)
        peer.sendall((json.dumps({'mixer': {'gain': asked['gain']}}, indent=None) + '\\n').encode())
`);
    const rig = await start('generic-json-tcp', device.port, { additions: gain });
    await linkIs(rig, 'not checked');
    expect(await send(rig, 'own1', { level: 7 })).toMatchObject({ outcome: 'confirmed' });
    await linkIs(rig, 'up');
    await printed(device.lines, ['{"gain": 7}']);
  });

  foreign('Modbus: a relay box with two coils, an input and a register, at the unit of its options', async () => {
    const coils = new Map([[4, false]]);
    const registers = new Map([[10, 7]]);
    const units = new Set<number>();
    const port = await startModbus(
      {
        getCoil: (address: number, unit: number) => {
          units.add(unit);
          return coils.get(address) ?? false;
        },
        setCoil: (address: number, value: boolean) => void coils.set(address, value),
        getDiscreteInput: () => true,
        getHoldingRegister: (address: number) => registers.get(address) ?? 0,
        setRegister: (address: number, value: number) => void registers.set(address, value),
      },
      3,
    );
    const asked = (read: string, address: number) => ({
      send: { modbus: { read, address, count: 1, unit: { option: 'unit' } } },
    });
    const value = { title: 'Lamp', value: { type: 'onOff', on: '1', off: '0' } };
    const additions = {
      commands: {
        own1: {
          ...base,
          title: 'Lamp',
          params: { on },
          send: { modbus: { write: 'coil', address: 4, value: '{on}', unit: { option: 'unit' } } },
          confirm: {
            by: 'readings',
            all: [{ reading: 'own1', equals: { param: 'on' } }],
            withinMs: 1500,
            ask: ['own1'],
          },
        },
      },
      readings: { own1: value, own2: { ...value, title: 'Door' }, own3: { title: 'Speed', value: { type: 'whole' } } },
      replies: [
        { to: ['own1'], match: '^coil 4 (?P<value>-?\\d+)$', set: { own1: '{value}' } },
        { to: ['own2'], match: '^input 0 (?P<value>-?\\d+)$', set: { own2: '{value}' } },
        { to: ['own3'], match: '^holding 10 (?P<value>-?\\d+)$', set: { own3: '{value}' } },
      ],
      questions: { own1: asked('coil', 4), own2: asked('input', 0), own3: asked('holding', 10) },
      polls: ['own1', 'own2', 'own3'].map((ask) => ({ send: { ask }, everyMs: 150, atOnce: true })),
    };
    const rig = await start('generic-modbus', port, { options: { unit: 3 }, additions });
    await linkIs(rig, 'up');
    await saysOf(rig, 'own1', false);
    await saysOf(rig, 'own2', true);
    await saysOf(rig, 'own3', 7);
    expect(await send(rig, 'own1', { on: true })).toMatchObject({ outcome: 'confirmed' });
    expect(coils.get(4)).toBe(true);
    expect(await send(rig, 'register', { address: 10, value: 500 })).toMatchObject({ outcome: 'confirmed' });
    await saysOf(rig, 'own3', 500);
    // Somebody at the box itself.
    coils.set(4, false);
    await saysOf(rig, 'own1', false);
    expect([...units]).toEqual([3]);
  });

  foreign.each(['slip', 'length'])(
    'OSC over TCP, separated by %s: a fader is confirmed by the report',
    async (over) => {
      // RFC 1055 and OSC 1.0 by their texts.
      const device = await startPython(`
import socket, struct
slip = ${over === 'slip' ? 'True' : 'False'}
server = socket.socket()
server.bind(('127.0.0.1', 0))
server.listen(5)
print(server.getsockname()[1], flush=True)
def text(value):
    data = value.encode() + b'\\0'
    return data + b'\\0' * (-len(data) % 4)
def frame(data):
    if not slip: return struct.pack('>i', len(data)) + data
    return b'\\xc0' + data.replace(b'\\xdb', b'\\xdb\\xdd').replace(b'\\xc0', b'\\xdb\\xdc') + b'\\xc0'
def read(data):
    address = data[:data.index(b'\\0')].decode()
    at = len(text(address))
    if data[at:at + 2] != b',f': return address, None
    return address, struct.unpack('>f', data[at + 4:at + 8])[0]
while True:
    peer = server.accept()[0]
    rest = b''
    while True:
        more = peer.recv(1000)
        if not more: break
        rest += more
        packets = []
        if slip:
            *parts, rest = rest.split(b'\\xc0')
            packets = [p.replace(b'\\xdb\\xdc', b'\\xc0').replace(b'\\xdb\\xdd', b'\\xdb') for p in parts if p]
        else:
            while len(rest) >= 4 and len(rest) >= 4 + struct.unpack('>i', rest[:4])[0]:
                size = struct.unpack('>i', rest[:4])[0]
                packets.append(rest[4:4 + size])
                rest = rest[4 + size:]
        for packet in packets:
            address, value = read(packet)
            print(address, value, flush=True)
            if value is not None: peer.sendall(frame(text(address) + text(',f') + struct.pack('>f', value)))
`);
      const additions = {
        commands: {
          own1: {
            ...base,
            title: 'Fader',
            params: { level: { ...level, value: { type: 'decimal', min: 0, max: 1 } } },
            send: { osc: { address: '/fader/3', args: [['f', '{level}']] } },
            confirm: {
              by: 'readings',
              all: [{ reading: 'own1', equals: { param: 'level' }, within: 0.001 }],
              withinMs: 1500,
            },
          },
        },
        readings: { own1: { title: 'Fader', value: { type: 'decimal' } } },
        replies: [{ match: '^/fader/3$', set: { own1: '{arg1}' } }],
      };
      const rig = await start('generic-osc-tcp', device.port, { options: { over }, additions });
      await linkIs(rig, 'not checked');
      expect(await send(rig, 'own1', { level: 0.75 })).toMatchObject({ outcome: 'confirmed' });
      await printed(device.lines, ['/fader/3 0.75']);
      expect(reading(rig, 'own1')).toBe(0.75);
    },
  );
});
