import { describe, expect } from 'vitest';
import curtainDriver from '../docs/worked-example/curtain-driver.json';
import mastDriver from '../docs/worked-example/mast-driver.json';
import type { PressResult } from '../src/engine/presses/presses';
import { foreign, linkIs, printed, reading, saysOf, send, start, startPython } from './support/foreign-end';
import { until } from './support/rig';

/**
 * Three devices that no driver knows, each written in another language from the manual above it and driven by a document made from that
 * manual. What a press promised is asserted at the device.
 */

const outcomes = (results: readonly PressResult[]) => results.map(({ outcome }) => outcome);

/**
 * The manual of `docs/worked-example/bytes.md`.
 *
 * ```
 *  A6 6A  length  command  data …  sum  0D      length: command and data; sum: of command and data, modulo 256
 *  01 level            set the level (0 to 200: half per cent)      answered by 81, or E1 code
 *  02                  ask for the state                           answered by 82 level flags
 *  82 level flags      also by itself, when something changes      flags: bit 0 moving, bit 2 locked
 * ```
 */
const curtain = `
import socket
def frame(*data):
    return bytes([0xa6, 0x6a, len(data), *data, sum(data) & 255, 0x0d])
server = socket.socket()
server.bind(('127.0.0.1', 0))
server.listen(5)
print(server.getsockname()[1], flush=True)
level, asked = 0, 0
while True:
    peer = server.accept()[0]
    rest = b''
    while True:
        more = peer.recv(1000)
        if not more: break
        rest += more
        while len(rest) > 3 and len(rest) >= rest[2] + 5:
            size = rest[2]
            data, check, end = rest[3:3 + size], rest[3 + size], rest[4 + size]
            assert rest[:2] == b'\\xa6\\x6a' and check == sum(data) & 255 and end == 13, rest.hex()
            rest = rest[size + 5:]
            if data[0] == 1 and data[1] > 200:
                peer.sendall(frame(0xe1, 7))
                continue
            if data[0] == 1:
                level = data[1]
                print('level', level, flush=True)
                peer.sendall(frame(0x81))
            # Noise on the line, the beginning of a frame that never comes, and a damaged report, before every report.
            asked += 1
            damaged = bytearray(frame(0x82, 99, 0))
            damaged[4] = 77
            peer.sendall(b'\\x00\\x0d\\xa6\\x6a\\x03' + bytes(damaged) + frame(0x82, level, 4 if level > 100 else 0))
`;

/**
 * ```
 *  #nonce                                   sent on connecting
 *  AUTH sha256(nonce:password)              answered by +, or by ! and a reason, percent-encoded; there is no name
 *  SHOW line=text                           the text percent-encoded; answered by + or !reason; reported as LINE n text
 * ```
 */
const sign = `
import hashlib, socket, urllib.parse
server = socket.socket()
server.bind(('127.0.0.1', 0))
server.listen(5)
print(server.getsockname()[1], flush=True)
quote = lambda text: urllib.parse.quote(text, safe='')
while True:
    peer = server.accept()[0]
    peer.sendall(b'#7f3a\\r')
    wanted = hashlib.sha256(b'7f3a:quiet water').hexdigest()
    rest, known = b'', False
    while True:
        more = peer.recv(1000)
        if not more: break
        rest += more
        while b'\\r' in rest:
            line, rest = rest.split(b'\\r', 1)
            word, _, tail = line.decode('ascii').partition(' ')
            if word == 'AUTH':
                known = tail == wanted
                peer.sendall(b'+\\r' if known else b'!' + quote('Wrong word').encode() + b'\\r')
            elif word == 'SHOW' and known:
                number, _, text = tail.partition('=')
                text = urllib.parse.unquote(text)
                if len(text) > 20:
                    peer.sendall(('!' + quote('20 %% longer than it may be: “%s”' % text) + '\\r').encode())
                    continue
                print(number, text, flush=True)
                peer.sendall(('+\\rLINE %s %s\\r' % (number, quote(text))).encode())
`;

const signDriver = {
  format: 1,
  id: 'a-sign',
  version: 1,
  title: 'A sign',
  role: 'screen',
  link: { kind: 'tcp', port: 4002 },
  framing: { kind: 'lines', ending: 'cr' },
  answers: 'in-order',
  greeting: [
    { expect: '^#(?P<nonce>.+)$', withinMs: 1000 },
    { send: 'AUTH {proof}', derive: { proof: { hash: 'sha256', of: '{nonce}:{password}' } } },
    { expect: '^\\+$', lockedOut: '^!', withinMs: 1000 },
  ],
  sync: { send: [] },
  commands: {
    show: {
      title: 'Show a text',
      says: 'Show {text} in line {line}',
      params: {
        line: { title: 'Line', value: { type: 'whole', min: 1, max: 4 } },
        text: { title: 'Text', value: { type: 'text' } },
      },
      send: 'SHOW {line}={text:percent}',
      confirm: {
        by: 'readings',
        all: [{ reading: 'line[].text', index: 'line', equals: { param: 'text' } }],
        withinMs: 1000,
      },
    },
  },
  readings: {
    'line[].text': {
      title: 'Text of a line',
      value: { type: 'text', reads: 'percent' },
      index: { title: 'Line', from: 1, to: 4 },
    },
  },
  replies: [
    { match: '^\\+$', accepts: true },
    { match: '^!(?P<reason>.*)$', refuses: { reason: '{reason}', reads: 'percent' } },
    { match: '^LINE (?P<line>\\d) (?P<text>.*)$', set: { 'line[{line}].text': '{text}' } },
  ],
};

/**
 * A text in each datagram: `n SET channel value`, answered by `n OK`; `n GET channel`, answered by `n VAL channel value`. Every seventh
 * datagram is lost, on the way there and on the way back.
 */
const relays = `
import socket
sock = socket.socket(socket.AF_INET, socket.SOCK_DGRAM)
sock.bind(('127.0.0.1', 0))
print(sock.getsockname()[1], flush=True)
passed, values = 0, {}
def lost():
    global passed
    passed += 1
    return passed % 7 == 0
while True:
    data, peer = sock.recvfrom(2000)
    if lost(): continue
    number, word, *rest = data.decode().split()
    if word == 'SET':
        values[rest[0]] = rest[1]
        print('set', rest[0], rest[1], flush=True)
        answer = number + ' OK'
    else:
        answer = '%s VAL %s %s' % (number, rest[0], values.get(rest[0], '0'))
    if not lost(): sock.sendto(answer.encode(), peer)
`;

const relaysDriver = {
  format: 1,
  id: 'some-relays',
  version: 1,
  title: 'Some relays',
  role: 'relays',
  link: { kind: 'udp', port: 4003, answerWithinMs: 1000, again: { times: 3, everyMs: 60 } },
  framing: { kind: 'message', as: 'text' },
  answers: 'matched',
  sync: { send: [] },
  polls: [{ send: '{ref} GET 1', everyMs: 500 }],
  commands: {
    set: {
      title: 'Switch a relay',
      says: 'Relay {relay} {on}',
      params: {
        relay: { title: 'Relay', value: { type: 'whole', min: 1, max: 8 } },
        on: { title: 'On', value: { type: 'onOff' } },
      },
      send: '{ref} SET {relay} {on}',
      again: true,
      confirm: { by: 'answer', withinMs: 1000 },
    },
  },
  readings: {
    'relay[].on': { title: 'A relay', value: { type: 'onOff' }, index: { title: 'Relay', from: 1, to: 8 } },
  },
  replies: [
    { match: '^(?P<ref>\\d+) OK$', accepts: true },
    { match: '^(?P<ref>\\d+) VAL (?P<n>\\d) (?P<on>[01])$', set: { 'relay[{n}].on': '{on}' }, accepts: true },
  ],
};

/** The manual of `docs/worked-example/http.md`. */
const mast = `
import http.server, json
light = 'off'
class Handler(http.server.BaseHTTPRequestHandler):
    protocol_version = 'HTTP/1.1'
    def answer(self):
        global light
        body = self.rfile.read(int(self.headers.get('content-length') or 0))
        status, said = 200, None
        if self.headers.get('x-mast-token') != 'low cloud': status, said = 401, {'error': 'no token'}
        elif self.command == 'POST' and self.path == '/api/v1/mast/2/light':
            light = json.loads(body)['state']
            print('light', light, flush=True)
        elif self.path != '/api/v1/mast/2/state': status, said = 404, {'error': 'no such thing'}
        text = json.dumps(said or {'wind': {'knots': 12.5, 'from': 'SW'}, 'light': light}).encode()
        self.send_response(status)
        self.send_header('content-length', str(len(text)))
        self.end_headers()
        self.wfile.write(text)
    do_GET = do_POST = answer
    def log_message(self, *args): pass
server = http.server.ThreadingHTTPServer(('127.0.0.1', 0), Handler)
print(server.server_port, flush=True)
server.serve_forever()
`;

describe('a device with a document made from its manual', () => {
  foreign(
    'HTTP with a token and a poll: the light is confirmed by its reading, a wrong token locks it out',
    async () => {
      const device = await startPython(mast);
      const rig = await start('weather-mast', device.port, { options: { mast: 2 } }, 'low cloud', mastDriver);
      await linkIs(rig, 'up');
      expect(['wind', 'from', 'light'].map((key) => reading(rig, key))).toEqual([12.5, 'SW', false]);
      expect(await send(rig, 'light', { on: true })).toMatchObject({ outcome: 'confirmed' });
      await printed(device.lines, ['light on']);
      expect(reading(rig, 'light')).toBe(true);
      const wrong = await start('weather-mast', device.port, { options: { mast: 2 } }, 'high cloud', mastDriver);
      await linkIs(wrong, 'locked out');
    },
  );

  foreign('bytes with a length, a checksum and an end: noise and damage between them do no harm', async () => {
    const device = await startPython(curtain);
    const rig = await start('stage-curtain', device.port, {}, '', curtainDriver);
    await linkIs(rig, 'up');
    await saysOf(rig, 'locked', false);
    const results = [];
    for (const level of [12.5, 80, 0, 100]) results.push(await send(rig, 'level', { level }));
    expect(outcomes(results)).toEqual(['confirmed', 'confirmed', 'confirmed', 'confirmed']);
    await printed(device.lines, ['level 25', 'level 160', 'level 0', 'level 200']);
    expect([reading(rig, 'level'), reading(rig, 'locked'), reading(rig, 'moving')]).toEqual([100, true, false]);
    expect(await send(rig, 'level', { level: 120 })).toMatchObject({
      outcome: 'refused',
      reason: 'The curtain does not go that far.',
    });
  });

  foreign('text with percent-encoded fields behind a challenge, signed in with a password alone', async () => {
    const device = await startPython(sign);
    const rig = await start('a-sign', device.port, {}, 'quiet water', signDriver);
    await linkIs(rig, 'up');
    const text = '50 % = half, “Ü”';
    expect(await send(rig, 'show', { line: 2, text })).toMatchObject({ outcome: 'confirmed' });
    await printed(device.lines, [`2 ${text}`]);
    expect(reading(rig, 'line[2].text')).toBe(text);
    expect(await send(rig, 'show', { line: 1, text: 'far, far, far too long' })).toMatchObject({
      outcome: 'refused',
      reason: '20 % longer than it may be: “far, far, far too long”',
    });
  });

  foreign('text with a challenge: without a password it signs in with the one that its kind comes with', async () => {
    const device = await startPython(sign);
    const known = { ...signDriver, signIn: { password: 'quiet water' } };
    const rig = await start('a-sign', device.port, {}, '', known);
    await linkIs(rig, 'up');
  });

  foreign('text with a challenge: a wrong password locks it out', async () => {
    const device = await startPython(sign);
    const rig = await start('a-sign', device.port, {}, 'loud water', signDriver);
    await linkIs(rig, 'locked out');
  });

  foreign(
    'datagrams of which every seventh is lost: each press is confirmed, and says when it had to be repeated',
    async () => {
      const device = await startPython(relays);
      const rig = await start('some-relays', device.port, {}, '', relaysDriver);
      await linkIs(rig, 'up');
      const results = [];
      for (let n = 0; n < 30; n += 1) results.push(await send(rig, 'set', { relay: (n % 8) + 1, on: n % 3 === 0 }));
      expect(new Set(outcomes(results))).toEqual(new Set(['confirmed']));
      const repeated = results.filter(({ reason }) => reason?.includes('because nothing answered'));
      expect(repeated.length).toBeGreaterThan(3);
      // On and off right after each other, whatever gets lost of it: no copy of the first comes behind the second.
      for (let n = 0; n < 8; n += 1) {
        const [, off] = await Promise.all([true, false].map((on) => send(rig, 'set', { relay: 1, on })));
        if (off?.outcome !== 'confirmed') continue;
        await until(
          () => device.lines.findLast((line) => line.startsWith('set 1')),
          (line) => line === 'set 1 0',
        );
      }
      await send(rig, 'set', { relay: 1, on: 24 % 3 === 0 });
      await until(
        () => device.lines.at(-1),
        (line) => line === 'set 1 1',
      );
      const last = new Map(device.lines.map((line) => line.split(' ').slice(1) as [string, string]));
      for (let n = 22; n < 30; n += 1) expect(last.get(String((n % 8) + 1))).toBe(n % 3 === 0 ? '1' : '0');
    },
  );
});
