import { describe, expect } from 'vitest';
import { foreign, linkIs, printed, saysOf, send, start, startPython } from './support/foreign-end';

/** “Any device: text over TCP”, set by its options, against devices that are written in another language with that language's sockets. */

/** Serves one device a connection. `answer` is a body of Python that gets `got`, one command without its ending, and `say`. */
const device = (ending: string, answer: string, greeting = ''): string => `
import socket, threading, time
server = socket.socket()
server.bind(('127.0.0.1', 0))
server.listen(5)
print(server.getsockname()[1], flush=True)
def serve(peer):
    say = peer.sendall
    ${greeting || 'pass'}
    rest = b''
    while True:
        more = peer.recv(1000)
        if not more: return
        rest += more
        while ${ending} in rest:
            got, rest = rest.split(${ending}, 1)
            print(repr(got), flush=True)
${answer
  .trim()
  .split('\n')
  .map((line) => `            ${line}`)
  .join('\n')}
while True:
    threading.Thread(target=serve, args=(server.accept()[0],), daemon=True).start()
`;

const own = {
  commands: {
    own1: {
      title: 'Take two',
      params: {},
      send: { bytes: 'TAKE 2{option.ends}' },
      risky: false,
      harmless: false,
      class: 'ordinary',
    },
  },
  readings: { own1: { title: 'Program', value: { type: 'text' } } },
  replies: [{ match: '^OK (?P<value>[0-9]+)', set: { own1: '{value}' } }],
};

describe('a text device whose commands and answers end with CR', () => {
  const program = device(
    `b'\\r'`,
    `
if got == b'TAKE 99': say(b'ERR 7 no such input\\r')
elif got.startswith(b'TAKE'): say(b'TEMP 41\\r' + b'OK ' + got[5:] + b'\\r')
elif got == b'HUSH': pass
else: say(b'ERR 1 unknown\\r')`,
  );
  const options = {
    ends: 'cr',
    answersEnd: 'cr',
    answered: 'each',
    errors: 'ERR',
    answers: 'OK',
    answerWithinMs: 2000,
  };

  foreign(
    'confirms by its answers, refuses with its reason, and takes what it says by itself for no answer',
    async () => {
      const { port, lines } = await startPython(program);
      const rig = await start('generic-text-tcp', port, { options, additions: own });
      await linkIs(rig, 'not checked');
      expect(await send(rig, 'line', { text: 'TAKE 3' })).toMatchObject({ outcome: 'confirmed' });
      await saysOf(rig, 'said', 'OK 3');
      expect(await send(rig, 'line', { text: 'TAKE 99' })).toMatchObject({
        outcome: 'refused',
        reason: expect.stringContaining('ERR 7 no such input'),
      });
      expect(await send(rig, 'line', { text: 'HUSH' })).toMatchObject({ outcome: 'late' });
      await printed(lines, ["b'TAKE 3'", "b'TAKE 99'", "b'HUSH'"]);
    },
  );

  foreign('has commands and readings of the show, which leave its answers what they are', async () => {
    const { port, lines } = await startPython(program);
    const rig = await start('generic-text-tcp', port, { options, additions: own });
    await linkIs(rig, 'not checked');
    expect(await send(rig, 'own1', {})).toMatchObject({ outcome: 'confirmed' });
    await saysOf(rig, 'own1', '2');
    await printed(lines, ["b'TAKE 2'"]);
  });
});

describe('a text device', () => {
  foreign.each([
    { name: 'a prompt of two bytes', more: { answersEnd: 'bytes', endBytes: '0D 3E' }, ending: `b'\\r>'` },
    { name: 'a pause', more: { answersEnd: 'silence', silenceMs: 60 }, ending: `b''` },
    { name: 'a pause after CR LF', more: { answersEnd: 'silence', silenceMs: 60 }, ending: `b'\\r\\n'` },
    { name: 'NUL', more: { answersEnd: 'nul' }, ending: `b'\\x00'` },
    { name: 'LF', more: { answersEnd: 'lf' }, ending: `b'\\n'` },
  ])('is heard whose answers end with $name, in two pieces and with Latin-1', async ({ more, ending }) => {
    const { port } = await startPython(
      device(`b'\\n'`, `say(b'LEVEL '); time.sleep(0.02); say('für 5'.encode('latin-1') + ${ending})`),
    );
    const options = { ends: 'lf', encoding: 'latin-1', answered: 'each', ...more };
    const rig = await start('generic-text-tcp', port, { options });
    await linkIs(rig, 'not checked');
    for (let n = 0; n < 3; n += 1)
      expect(await send(rig, 'line', { text: 'LEVEL?' })).toMatchObject({ outcome: 'confirmed' });
    await saysOf(rig, 'said', 'LEVEL für 5');
  });

  foreign('is asked regularly where that is set, and is silent when it no longer answers', async () => {
    const { port, lines } = await startPython(
      device(`b'\\r\\n'`, `seen.append(1)\nif len(seen) < 6: say(b'STATUS fine\\r\\n')`, 'seen = []'),
    );
    const options = { asked: 'yes', question: 'STATUS?', everyMs: 200, silentAfterMs: 900 };
    const rig = await start('generic-text-tcp', port, { options });
    await linkIs(rig, 'up');
    await saysOf(rig, 'said', 'STATUS fine');
    await linkIs(rig, 'silent');
    expect(lines.length).toBeGreaterThan(5);
    expect(new Set(lines)).toEqual(new Set(["b'STATUS?'"]));
  });
});

describe('a text device whose messages have their length in front', () => {
  foreign.each([
    { lengthBytes: '1', lengthOrder: 'big', lengthCounts: 'rest', lengthSent: 'length' },
    { lengthBytes: '2', lengthOrder: 'big', lengthCounts: 'all', lengthSent: 'length' },
    { lengthBytes: '2', lengthOrder: 'little', lengthCounts: 'rest', lengthSent: 'length' },
    { lengthBytes: '4', lengthOrder: 'big', lengthCounts: 'rest', lengthSent: 'nothing' },
    { lengthBytes: '4', lengthOrder: 'little', lengthCounts: 'all', lengthSent: 'length' },
  ])('of $lengthBytes bytes, $lengthOrder, counting $lengthCounts, sends $lengthSent', async (how) => {
    const { lengthBytes, lengthOrder, lengthCounts, lengthSent } = how;
    const { port, lines } = await startPython(`
import socket
server = socket.socket()
server.bind(('127.0.0.1', 0))
server.listen(5)
print(server.getsockname()[1], flush=True)
own = ${lengthBytes} if '${lengthCounts}' == 'all' else 0
def pack(text): return (len(text) + own).to_bytes(${lengthBytes}, '${lengthOrder}') + text
peer = server.accept()[0]
def exactly(n):
    data = b''
    while len(data) < n: data += peer.recv(n - len(data))
    return data
while True:
    if '${lengthSent}' == 'length': got = exactly(int.from_bytes(exactly(${lengthBytes}), '${lengthOrder}') - own)
    else:
        got = b''
        while not got.endswith(b';'): got += exactly(1)
    print(got.decode(), flush=True)
    # Two messages in one piece, then one in two pieces; line endings in them are text.
    whole = pack(b'HEARD ' + got) + pack('Höhe\\r\\n5'.encode())
    peer.sendall(whole[:-3])
    peer.sendall(whole[-3:])
`);
    const options = { ends: 'none', answersEnd: 'length', answered: 'each', answers: 'HEARD', ...how };
    const rig = await start('generic-text-tcp', port, { options });
    await linkIs(rig, 'not checked');
    for (const text of ['UP;', 'DOWN 3;'])
      expect(await send(rig, 'line', { text })).toMatchObject({ outcome: 'confirmed' });
    await saysOf(rig, 'said', 'Höhe\r\n5');
    await printed(lines, ['UP;', 'DOWN 3;']);
  });
});

describe('a text device that closes the connection after each answer', () => {
  const oneShot = `
import socket
server = socket.socket()
server.bind(('127.0.0.1', 0))
server.listen(5)
print(server.getsockname()[1], flush=True)
while True:
    peer = server.accept()[0]
    got = b''
    while b'\\r' not in got: got += peer.recv(1000)
    print(got.decode().strip(), flush=True)
    if b'13' not in got: peer.sendall(b'ERR 9\\r' if b'99' in got else b'OK\\r')
    peer.close()
`;
  const options = { ends: 'cr', answered: 'each', errors: 'ERR', answers: 'OK', perMessage: true, answerWithinMs: 700 };

  foreign('gets a connection for each command, and each has its answer', async () => {
    const { port, lines } = await startPython(oneShot);
    const rig = await start('generic-text-tcp', port, { options });
    await linkIs(rig, 'not checked');
    // One of them is not answered: no other has to pay for it.
    const texts = ['TAKE 1', 'TAKE 99', 'TAKE 13', 'TAKE 3', 'TAKE 99'];
    const results = await Promise.all(texts.map((text) => send(rig, 'line', { text })));
    expect(results.map(({ outcome }) => outcome)).toEqual(['confirmed', 'refused', 'late', 'confirmed', 'refused']);
    await printed(lines, texts);
    await linkIs(rig, 'up');
  });

  foreign('that is not there is known when something is sent', async () => {
    const { port } = await startPython(`
import socket
server = socket.socket()
server.bind(('127.0.0.1', 0))
print(server.getsockname()[1], flush=True)
server.close()
`);
    const rig = await start('generic-text-tcp', port, { options });
    await linkIs(rig, 'not checked');
    expect(await send(rig, 'line', { text: 'TAKE 1' })).toMatchObject({ outcome: 'lost' });
    await linkIs(rig, 'down');
  });
});

describe('a text device over UDP', () => {
  const program = `
import socket
peer = socket.socket(socket.AF_INET, socket.SOCK_DGRAM)
peer.bind(('127.0.0.1', 0))
print(peer.getsockname()[1], flush=True)
while True:
    got, who = peer.recvfrom(1000)
    print(repr(got), flush=True)
    peer.sendto(b'NAK' if got == b'TAKE 99' else b'ACK ' + got, who)
`;

  foreign('is one-way until something is to come back, and then confirms and refuses', async () => {
    const { port, lines } = await startPython(program);
    const mute = await start('generic-text-udp', port);
    await linkIs(mute, 'one-way');
    expect(await send(mute, 'line', { text: 'TAKE 1' })).toMatchObject({ outcome: 'sent' });
    const options = { answered: 'each', errors: 'NAK', answerWithinMs: 2000 };
    const rig = await start('generic-text-udp', port, { options });
    await linkIs(rig, 'not checked');
    expect(await send(rig, 'line', { text: 'TAKE 2' })).toMatchObject({ outcome: 'confirmed' });
    expect(await send(rig, 'line', { text: 'TAKE 99' })).toMatchObject({ outcome: 'refused' });
    await printed(lines, ["b'TAKE 1'", "b'TAKE 2'", "b'TAKE 99'"]);
  });
});

describe('a device that speaks in bytes', () => {
  foreign.each([
    {
      name: 'a byte',
      more: { answersEnd: 'bytes', endBytes: '03' },
      answer: `say(b'\\x06'); time.sleep(0.02); say(b'\\x10\\x03')`,
      said: '061003',
    },
    {
      name: 'a pause',
      more: { answersEnd: 'silence', silenceMs: 60 },
      answer: `say(b'\\x06'); time.sleep(0.02); say(b'\\x10')`,
      said: '0610',
    },
    {
      name: 'their length',
      more: { answersEnd: 'length', length: 3 },
      answer: `say(b'\\x06'); time.sleep(0.02); say(b'\\x10\\x00')`,
      said: '061000',
    },
  ])('is heard whose answers end with $name, in two pieces', async ({ more, answer, said }) => {
    const { port, lines } = await startPython(device(`b'\\xff'`, answer));
    const rig = await start('generic-bytes-tcp', port, { options: { answered: 'each', ...more } });
    await linkIs(rig, 'not checked');
    for (let n = 0; n < 3; n += 1)
      expect(await send(rig, 'send', { bytes: '02 41 FF' })).toMatchObject({ outcome: 'confirmed' });
    await saysOf(rig, 'said', said);
    expect(new Set(lines)).toEqual(new Set(["b'\\x02A'"]));
  });
});
