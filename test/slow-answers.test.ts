import { describe, expect } from 'vitest';
import { foreign, linkIs, printed, send, start, startPython } from './support/foreign-end';
import { type TestRig } from './support/rig';

/**
 * A device at the end of a long line, 250 ms each way, whose answers name nothing: `SET n` is answered by the report `LEVEL n` or by `ERR why`,
 * and somebody at the device turns the same knob. Which command an answer is for is all that this is about.
 */
const farDevice = `
import queue, socket, threading, time
server = socket.socket()
server.bind(('127.0.0.1', 0))
server.listen(5)
print(server.getsockname()[1], flush=True)
def serve(peer):
    way = queue.Queue()
    def later(text): way.put((time.monotonic() + 0.25, text))
    def out():
        while True:
            at, text = way.get()
            time.sleep(max(0, at - time.monotonic()))
            try: peer.sendall((text + '\\r').encode())
            except OSError: return
    inward = queue.Queue()
    def work():
        while True:
            at, line = inward.get()
            time.sleep(max(0, at - time.monotonic()))
            word, _, value = line.partition(' ')
            if word == 'ASK': later('LEVEL 1')
            elif value == '13': pass
            elif int(value) > 100: later('ERR no ' + value)
            else:
                print('set', value, flush=True)
                later('LEVEL ' + value)
    for job in (out, work): threading.Thread(target=job, daemon=True).start()
    rest = b''
    while True:
        more = peer.recv(1000)
        if not more: return
        rest += more
        while b'\\r' in rest:
            line, rest = rest.split(b'\\r', 1)
            # Somebody turns the knob while the command is on its way.
            if line == b'SET 10' and KNOB: peer.sendall(b'LEVEL 77\\r')
            inward.put((time.monotonic() + 0.25, line.decode()))
while True: threading.Thread(target=serve, args=(server.accept()[0],), daemon=True).start()
`;

const far = (knob: boolean) => startPython(farDevice.replace('KNOB', knob ? 'True' : 'False'));

const driver = (answers: 'in-order' | 'none') => ({
  format: 1,
  id: 'a-far-device',
  version: 1,
  title: 'A far device',
  role: 'gateway',
  link: { kind: 'tcp', port: 4009, answerWithinMs: 1500 },
  framing: { kind: 'lines', ending: 'cr' },
  answers,
  questions: { level: { send: 'ASK level' } },
  sync: { send: [{ ask: 'level' }], until: '^LEVEL' },
  commands: {
    set: {
      title: 'Set',
      says: 'Set to {level}',
      params: { level: { title: 'Level', value: { type: 'whole', min: 0, max: 2000 } } },
      send: 'SET {level}',
      confirm: { by: 'readings', all: [{ reading: 'level', equals: { param: 'level' } }], withinMs: 1500 },
    },
  },
  readings: { level: { title: 'Level', value: { type: 'whole' } } },
  replies: [
    { match: '^LEVEL (?P<level>\\d+)$', set: { level: '{level}' }, ...(answers === 'none' ? {} : { accepts: true }) },
    { match: '^ERR (?P<why>.*)$', refuses: { reason: '{why}' } },
  ],
});

/** Sends these one right after the other, and gives the end of each. */
const sendAll = async (rig: TestRig, levels: readonly number[]) =>
  (await Promise.all(levels.map((level) => send(rig, 'set', { level })))).map(({ outcome, reason }) =>
    outcome === 'refused' ? `refused: ${reason}` : outcome,
  );

describe('answers from far away that name nothing', () => {
  foreign('find their commands, however many are on the way and whatever is reported besides', async () => {
    const device = await far(true);
    const rig = await start('a-far-device', device.port, {}, '', driver('in-order'));
    await linkIs(rig, 'up');
    expect(await sendAll(rig, [10, 999, 20, 888, 30, 777])).toEqual([
      'confirmed',
      'refused: no 999',
      'confirmed',
      'refused: no 888',
      'confirmed',
      'refused: no 777',
    ]);
    await printed(device.lines, ['set 10', 'set 20', 'set 30']);
  });

  foreign('leave a refusal to the command that was refused, where only refusals are answered', async () => {
    const device = await far(false);
    const rig = await start('a-far-device', device.port, {}, '', driver('none'));
    await linkIs(rig, 'up');
    expect(await sendAll(rig, [10, 999, 20, 888])).toEqual([
      'confirmed',
      'refused: no 999',
      'confirmed',
      'refused: no 888',
    ]);
    // What the device passes over is late, and takes nobody's refusal.
    expect(await sendAll(rig, [13])).toEqual(['late']);
    expect(await sendAll(rig, [777])).toEqual(['refused: no 777']);
  });
});
