import { describe } from 'vitest';
import { foreign, linkIs, reading, saysOf, start, startPython } from './support/foreign-end';
import { until } from './support/rig';

/** A deck that tells its clip and length, and forgets both with one line when the clip is ejected. */
const deck = `
import socket, threading, time
server = socket.socket()
server.bind(('127.0.0.1', 0))
server.listen(1)
print(server.getsockname()[1], flush=True)
peer, _ = server.accept()
rest = b''
while True:
    more = peer.recv(1000)
    if not more: break
    rest += more
    while b'\\n' in rest:
        line, rest = rest.split(b'\\n', 1)
        if line == b'ASK': peer.sendall(b'LENGTH 40\\nAT 10\\n')
        if line == b'EJECT': peer.sendall(b'EMPTY 12\\n')
`;

const number = { type: 'whole', min: 0, max: 1000 };
const driver = {
  format: 1,
  id: 'a-deck',
  version: 1,
  title: 'A deck',
  role: 'playout',
  link: { kind: 'tcp', port: 4009 },
  framing: { kind: 'lines', ending: 'lf' },
  questions: { state: { send: 'ASK' } },
  sync: { send: [{ ask: 'state' }], until: '^AT' },
  commands: { eject: { title: 'Eject', send: 'EJECT' } },
  readings: {
    length: { title: 'Length', value: number },
    at: { title: 'At', value: number },
    left: { title: 'Left', value: { type: 'whole', min: -1000, max: 1000 }, computed: 'length - at' },
  },
  replies: [
    { match: '^LENGTH (?P<v>\\d+)$', set: { length: '{v}' } },
    { match: '^AT (?P<v>\\d+)$', set: { at: '{v}' } },
    { match: '^EMPTY (?P<v>\\d+)$', set: { at: '{v}' }, clears: ['length'] },
  ],
};

describe('a reading computed from one that the same report clears', () => {
  foreign('is unknown, and not computed from the value of before', async ({ expect }) => {
    const { port } = await startPython(deck);
    const rig = await start('a-deck', port, {}, '', driver);
    await linkIs(rig, 'up');
    await saysOf(rig, 'left', 30);
    const device = rig.engine.api.deviceByTag('D1');
    if (!device) throw new Error('There is no D1.');
    const request = {
      id: 'p',
      device,
      command: 'eject',
      params: {},
      guard: true,
      gesture: 'tap',
      who: 'test',
    } as const;
    rig.engine.api.presses.command(request, () => undefined);
    await saysOf(rig, 'at', 12);
    await until(
      () => reading(rig, 'left'),
      (now) => now === undefined,
    );
    expect(reading(rig, 'length')).toBeUndefined();
  });
});
