import { describe, expect } from 'vitest';
import { foreign, linkIs, printed, reading, saysOf, send, start, startPython } from './support/foreign-end';
import { until } from './support/rig';

/**
 * A rack of amplifiers, written in another language from this manual:
 *
 * ```
 *  RACK <nonce>  or  RACK                  said on connecting; without a nonce the sign-in is off
 *  UNLOCK sha1(nonce:password)             answered by DONE
 *  ?SERIAL                                 answered by DONE serial
 *  ?GAIN MIC1                              answered by DONE gain, without a name; the channels are MIC1, LINE2 and BUS
 *  GAIN <serial> MIC1 -10                  answered by DONE; only with the serial number of the rack
 *  ?SCENES                                 answered by DONE name;name;name
 *  CHANGED SCENES                          said when a scene was added at the rack
 *  TEMP 41.3                               said by itself, all the time
 * ```
 */
const rack = (nonce: string) => `
import hashlib, random, socket, threading, time
server = socket.socket()
server.bind(('127.0.0.1', 0))
server.listen(5)
print(server.getsockname()[1], flush=True)
gains = {'MIC1': '-3', 'LINE2': '0', 'BUS': '-20.5'}
scenes = ['Morning', 'Evening']
def serve(peer):
    say = lambda text: peer.sendall((text + '\\r\\n').encode())
    say('RACK ${nonce}'.strip())
    known = '${nonce}' == ''
    rest = b''
    while True:
        more = peer.recv(1000)
        if not more: return
        rest += more
        while b'\\r\\n' in rest:
            line, rest = rest.split(b'\\r\\n', 1)
            word, *args = line.decode().split(' ')
            print(*([word] + args), flush=True)
            if word == 'UNLOCK':
                known = args[0] == hashlib.sha1(b'${nonce}:low tide').hexdigest()
                say('DONE' if known else 'NO wrong word')
            elif not known: say('NO locked')
            elif word == '?SERIAL': say('DONE Q77')
            elif word == '?GAIN': say('DONE ' + gains[args[0]])
            elif word == 'GAIN' and args[0] == 'Q77':
                gains[args[1]] = args[2]
                say('DONE')
            elif word == '?SCENES': say('DONE ' + ';'.join(scenes))
            elif word == 'ADD':
                scenes.append(args[0])
                for n in range(40): say('CHANGED SCENES')
                say('TEMP 41.0')
                say('TEMP 41.2')
                say('TEMP 40.9')
                say('TEMP 42.5')
                say('DONE')
            else: say('NO not understood')
while True:
    threading.Thread(target=serve, args=(server.accept()[0],), daemon=True).start()
`;

const gain = { type: 'decimal', min: -60, max: 10, unit: 'dB' };
const channels = ['MIC1', 'LINE2', 'BUS'];
const rackDriver = {
  format: 1,
  id: 'a-rack',
  version: 1,
  title: 'A rack',
  role: 'audio',
  link: { kind: 'tcp', port: 4003, window: 1 },
  framing: { kind: 'lines', ending: 'crlf' },
  answers: 'in-order',
  greeting: [
    { expect: '^RACK(?: (?P<nonce>.+))?$', withinMs: 1000 },
    { if: 'nonce', send: 'UNLOCK {proof}', derive: { proof: { hash: 'sha1', of: '{nonce}:{password}' } } },
    { if: 'nonce', expect: '^DONE$', lockedOut: '^NO', withinMs: 1000 },
  ],
  questions: {
    serial: { send: '?SERIAL' },
    gain: { send: '?GAIN {member}', each: 'channel[].gain' },
    scenes: { send: '?SCENES' },
  },
  sync: { send: [{ ask: 'serial' }, { ask: 'gain' }, { ask: 'scenes' }], answered: true },
  polls: [{ send: { ask: 'gain' }, everyMs: 60_000 }],
  commands: {
    gain: {
      title: 'Set the gain',
      says: 'Gain of {channel} to {gain}',
      params: {
        channel: {
          title: 'Channel',
          value: {
            type: 'choice',
            choices: channels.map((wire, n) => ({ value: String(n + 1), title: wire.toLowerCase(), wire })),
          },
        },
        gain: { title: 'Gain', value: gain },
      },
      send: 'GAIN {reading.serial} {channel} {gain}',
      confirm: {
        by: 'readings',
        all: [{ reading: 'channel[].gain', index: 'channel', equals: { param: 'gain' } }],
        withinMs: 2000,
        ask: ['gain'],
      },
    },
    add: {
      title: 'Add a scene',
      says: 'Add {name}',
      params: { name: { title: 'Name', value: { type: 'text' } } },
      send: 'ADD {name}',
    },
  },
  readings: {
    serial: { title: 'Serial number', value: { type: 'text' } },
    scenes: { title: 'Scenes', value: { type: 'text' } },
    temperature: { title: 'Temperature', value: { type: 'decimal', unit: '°C' }, deadBand: 1 },
    'channel[].gain': { title: 'Gain', value: gain, index: { title: 'Channel', from: 1, to: 3, names: channels } },
    summary: {
      title: 'Summary',
      value: { type: 'text' },
      computed: 'serial + ": " + string(channel[1].gain) + " dB, " + scenes',
    },
  },
  replies: [
    { match: '^CHANGED SCENES$', asks: ['scenes'] },
    { match: '^TEMP (?P<t>.*)$', set: { temperature: '{t}' } },
    { to: ['serial'], match: '^DONE (?P<serial>.*)$', set: { serial: '{serial}' }, accepts: true },
    { to: ['gain'], match: '^DONE (?P<gain>.*)$', set: { 'channel[{member}].gain': '{gain}' }, accepts: true },
    { to: ['scenes'], match: '^DONE (?P<names>.*)$', set: { scenes: '{names}' }, accepts: true },
    { match: '^DONE$', accepts: true },
    { match: '^NO (?P<why>.*)$', refuses: { reason: '{why}' } },
  ],
};

const gains = (rig: Parameters<typeof reading>[0]) => [1, 2, 3].map((n) => reading(rig, `channel[${n}].gain`));

describe('a device with named channels that is asked for one at a time', () => {
  foreign('is known after connecting, and told by name with its own serial number what to do', async () => {
    const device = await startPython(rack('7f3a'));
    const rig = await start('a-rack', device.port, {}, 'low tide', rackDriver);
    await linkIs(rig, 'up');
    expect(gains(rig)).toEqual([-3, 0, -20.5]);
    expect(reading(rig, 'summary')).toBe('Q77: -3 dB, Morning;Evening');
    device.lines.length = 0;
    expect(await send(rig, 'gain', { channel: '2', gain: -9 })).toMatchObject({ outcome: 'confirmed' });
    // Only the channel that the command is about is asked for.
    await until(
      () => device.lines.slice(0, 2),
      (lines) => lines.join() === 'GAIN Q77 LINE2 -9,?GAIN LINE2',
    );
    expect(device.lines.filter((line) => line !== '?GAIN LINE2')).toEqual(['GAIN Q77 LINE2 -9']);
    expect(gains(rig)).toEqual([-3, -9, -20.5]);
    await send(rig, 'gain', { channel: '1', gain: 5 });
    await saysOf(rig, 'summary', 'Q77: 5 dB, Morning;Evening');
  });

  foreign('says that a list has changed, many times, and is asked for it twice', async () => {
    const device = await startPython(rack('7f3a'));
    const rig = await start('a-rack', device.port, {}, 'low tide', rackDriver);
    await linkIs(rig, 'up');
    device.lines.length = 0;
    await send(rig, 'add', { name: 'Night' });
    await saysOf(rig, 'scenes', 'Morning;Evening;Night');
    await until(
      () => device.lines.filter((line) => line === '?SCENES').length,
      (count) => count === 2,
    );
    // The wavering of the temperature before it is not shown.
    expect(reading(rig, 'temperature')).toBe(42.5);
  });

  foreign('is signed in to only where its sign-in is on', async () => {
    const open = await startPython(rack(''));
    const rig = await start('a-rack', open.port, {}, '', rackDriver);
    await linkIs(rig, 'up');
    await printed(open.lines, ['?SERIAL', '?GAIN MIC1', '?GAIN LINE2', '?GAIN BUS', '?SCENES']);
    const locked = await startPython(rack('7f3a'));
    await linkIs(await start('a-rack', locked.port, {}, 'high tide', rackDriver), 'locked out');
  });
});
