import { describe, expect } from 'vitest';
import { foreign, linkIs, send, start, startPython, tested } from './support/foreign-end';

/** `?` gives `ST 7`, twice where it is asked to; `GO` gives nothing. */
const meter = `
import socket
server = socket.socket()
server.bind(('127.0.0.1', 0))
server.listen(5)
print(server.getsockname()[1], flush=True)
while True:
    peer = server.accept()[0]
    while True:
        data = peer.recv(1000)
        if not data: break
        for line in data.split(b'\\n'):
            if line == b'?': peer.sendall(b'ST 7\\n')
            if line == b'TWICE': peer.sendall(b'ST 7\\nST 8\\nODD 1\\n')
`;

const meterDriver = (match: string) => ({
  format: 1,
  id: 'a-meter',
  version: 1,
  title: 'A meter',
  role: 'relays',
  link: { kind: 'tcp', port: 4004 },
  framing: { kind: 'lines', ending: 'lf' },
  answers: 'in-order',
  sync: { send: ['?'], answered: true, withinMs: 400 },
  commands: { twice: { title: 'Twice', says: 'Twice', send: 'TWICE' } },
  readings: { state: { title: 'State', value: { type: 'whole' } } },
  replies: [{ match, set: { state: '{n}' }, accepts: true }],
});

describe('what a device says and its driver has no place for', () => {
  foreign('is what the connection test names, where nothing else comes', async () => {
    const device = await startPython(meter);
    const rig = await start('a-meter', device.port, {}, '', meterDriver('^STATE (?P<n>\\d+)$'));
    await linkIs(rig, 'down');
    expect((await tested(rig, { devices: ['D1'] })).at(-1)).toMatchObject({
      stage: 'protocol',
      verdict: { trouble: 'no-reply-fits', seen: 'It said “ST 7”.' },
    });
  });

  foreign('is counted beside what it understands, with answers that nothing had asked for', async () => {
    const device = await startPython(meter);
    const rig = await start('a-meter', device.port, {}, '', meterDriver('^ST (?P<n>\\d+)$'));
    await linkIs(rig, 'up');
    await send(rig, 'twice', {});
    const { seen } = (await tested(rig, { devices: ['D1'] })).at(-1)?.verdict ?? {};
    expect(seen).toContain('1 frame fits no reply of the driver, such as “ODD 1”.');
    expect(seen).toContain('1 answer came that nothing had asked for.');
  });
});
