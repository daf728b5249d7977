import { describe, expect } from 'vitest';
import { foreign, linkIs, printed, saysOf, send, start, startPython, tested } from './support/foreign-end';
import { until } from './support/rig';

/** A serial port behind a gateway that is set over the connection: the gateway is that of a package in Python (RFC 2217), with a device on its line. */

/** @param limit the highest speed that the port has; asked for more it stays there */
const gateway = (limit: number) => `
import serial, serial.rfc2217, socket, threading
class Line:
    """The device: what is written to the port comes back as LEVEL and what was said, with a byte FF among it."""
    def __init__(self): self.__dict__.update(baudrate=9600, bytesize=8, parity='N', stopbits=1, xonxoff=False, rtscts=False, rts=True, dtr=True, cts=True, dsr=True, ri=False, cd=True, break_condition=False, in_waiting=0)
    def __setattr__(self, name, value):
        if name == 'baudrate' and value > ${limit}: value = ${limit}
        self.__dict__[name] = value
        if name in ('baudrate', 'bytesize', 'parity', 'stopbits'): print(name, value, flush=True)
    def reset_input_buffer(self): pass
    def reset_output_buffer(self): pass
server = socket.socket()
server.bind(('127.0.0.1', 0))
server.listen(5)
print(server.getsockname()[1], flush=True)
def serve(peer):
    class Out:
        def write(self, data): peer.sendall(data)
    port = serial.rfc2217.PortManager(Line(), Out())
    rest = b''
    while True:
        got = peer.recv(1000)
        if not got: return
        rest += b''.join(port.filter(got))
        while b'\\r' in rest:
            said, rest = rest.split(b'\\r', 1)
            print('line', said.hex(), flush=True)
            peer.sendall(b''.join(port.escape(b'LEVEL ' + said + b'\\xff\\r')))
while True: threading.Thread(target=serve, args=(server.accept()[0],), daemon=True).start()
`;

const options = {
  line: 'rfc2217',
  baudRate: 19_200,
  format: '7E2',
  ends: 'cr',
  answersEnd: 'cr',
  encoding: 'latin-1',
  answered: 'each',
  answers: 'LEVEL',
};

describe('a serial port that is set by RFC 2217', () => {
  foreign('has the speed and format of the device, and every byte passes both ways', async () => {
    const device = await startPython(gateway(115_200));
    const rig = await start('generic-text-tcp', device.port, { options });
    await linkIs(rig, 'not checked');
    await until(
      () => device.lines.slice(-4),
      (lines) => lines.join() === 'baudrate 19200,bytesize 7,parity E,stopbits 2',
    );
    expect(await send(rig, 'send', { text: 'ask\\xFF\\r', ending: 'none' })).toMatchObject({ outcome: 'confirmed' });
    await until(
      () => device.lines.at(-1),
      (line) => line === 'line 61736bff',
    );
    await saysOf(rig, 'said', 'LEVEL ask\u00ff\u00ff');
    const stages = await tested(rig, { devices: ['D1'] });
    expect(stages.every(({ verdict }) => verdict.is !== 'failed')).toBe(true);
  });

  foreign('says so where the port does not take the speed', async () => {
    const device = await startPython(gateway(9600));
    const rig = await start('generic-text-tcp', device.port, { options });
    await linkIs(rig, 'not checked');
    expect(rig.engine.api.health().links[0]?.faults).toBe(1);
  });

  foreign('is named where the gateway has no such port', async () => {
    const device = await startPython(`
import socket
server = socket.socket()
server.bind(('127.0.0.1', 0))
server.listen(5)
print(server.getsockname()[1], flush=True)
peers = []
while True:
    peer = server.accept()[0]
    peers.append(peer)
    # IAC DONT COM-PORT-OPTION
    peer.sendall(bytes([255, 254, 44]))
`);
    const rig = await start('generic-text-tcp', device.port, { options });
    await until(
      () => rig.engine.api.health().links[0]?.link,
      (link) => link?.word === 'down' && link.cause === 'wrong-greeting' && /RFC 2217/.test(link.detail ?? ''),
    );
    await printed(device.lines, []);
  });
});
