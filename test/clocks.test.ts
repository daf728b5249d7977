import { describe, expect, it } from 'vitest';
import type { StatusView } from '../src/core/live';
import { internalPlace } from '../src/core/net';
import type { DeviceRecord } from '../src/core/show';
import { HouseSync } from '../src/standins';
import { ClockStandin } from '../src/standins/clock/server';
import { foreign, linkIs, reading, saysOf, send, start, startPython } from './support/foreign-end';
import { onTestFinished, TestClient, until, type TestRig } from './support/rig';

/** Clocks: the driver against a machine in Python written from the manual, the stand-in against a controller in Python, and our own timers. */

const machine = `
import json, socket, threading, time
server = socket.socket()
server.bind(('127.0.0.1', 0))
server.listen(5)
print(server.getsockname()[1], flush=True)
timers = [('pier', 'Pier talk', 'Ada', 90), ('row', 'Row past', '', 2)]
s = {'place': 0, 'end': 0.0, 'left': 0.0, 'runs': False, 'next': 1, 'message': ''}
def left(): return s['end'] - time.time() if s['runs'] else s['left']
def run():
    place = s['place'] or s['next']
    id, name, speaker, length = timers[place - 1]
    state = 'ready' if not s['place'] else 'paused' if not s['runs'] else 'over' if left() <= 0 else 'running'
    return {'run': {'state': state, 'runs': s['runs'], 'place': s['place'], 'id': id if s['place'] else '', 'name': name, 'speaker': speaker, 'length': length, 'left': round(left() if s['place'] else length, 2), 'colour': ''}}
def following():
    at = s['next']
    return {'next': {'place': at if at <= len(timers) else 0, 'name': timers[at - 1][1] if at <= len(timers) else '', 'speaker': ''}}
def begin(place):
    if not 1 <= place <= len(timers): return (2, 'no such timer')
    s.update(place=place, next=place + 1, end=time.time() + timers[place - 1][3], runs=True)
def act(o):
    do = o['do']
    if do == 'startNext': return begin(s['next']) if s['next'] <= len(timers) else (4, 'there is no next timer')
    if do == 'startPlace': return begin(o['place'])
    if do == 'pause':
        if not s['runs']: return (6, 'it does not run')
        s.update(left=left(), runs=False)
    elif do == 'resume': s.update(end=time.time() + s['left'], runs=True)
    elif do == 'message': s['message'] = o['text']
    elif do not in ('list', 'state', 'ping'): return (1, 'not understood')
def serve(peer):
    def say(*all):
        for each in all: peer.sendall(json.dumps(each).encode() + b'\\n')
    say({'is': 'clocks', 'model': 'Gnomon', 'firmware': '1.9'})
    for line in peer.makefile('r'):
        o = json.loads(line)
        refused = act(o)
        if o['do'] not in ('ping', 'list', 'state'): print(o['do'], flush=True)
        if refused: say({'no': o['n'], 'code': refused[0], 'text': refused[1]})
        else:
            if o['do'] == 'list': say({'timers': [{'id': i, 'name': n, 'speaker': p, 'length': l, 'warn': 0, 'grace': 0, 'colour': ''} for i, n, p, l in timers]})
            if o['do'] != 'ping': say(run(), following(), {'message': s['message']})
            say({'ok': o['n']})
while True: threading.Thread(target=serve, args=(server.accept()[0],), daemon=True).start()
`;

describe('a clock machine', () => {
  foreign('in another language lists its timers, starts, pauses, and says what it refuses', async () => {
    const device = await startPython(machine);
    const rig = await start('clock-machine', device.port, { role: 'clock' });
    await linkIs(rig, 'up');
    expect([reading(rig, 'state'), reading(rig, 'nextName'), reading(rig, 'timer[2].name')]).toEqual([
      'ready',
      'Pier talk',
      'Row past',
    ]);
    expect(await send(rig, 'startNext', {})).toMatchObject({ outcome: 'confirmed' });
    expect([reading(rig, 'name'), reading(rig, 'speaker')]).toEqual(['Pier talk', 'Ada']);
    expect(await send(rig, 'pause', {})).toMatchObject({ outcome: 'confirmed' });
    expect(await send(rig, 'pause', {})).toMatchObject({
      outcome: 'refused',
      reason: expect.stringContaining('not running'),
    });
    expect(await send(rig, 'restart', {})).toMatchObject({ outcome: 'refused' });
    expect(await send(rig, 'message', { text: 'Half a minute' })).toMatchObject({ outcome: 'confirmed' });
    expect(await send(rig, 'start', { timer: 2 })).toMatchObject({ outcome: 'confirmed' });
    expect(await send(rig, 'startNext', {})).toMatchObject({ outcome: 'refused' });
    expect(device.lines).toEqual(['startNext', 'pause', 'pause', 'restart', 'message', 'startPlace', 'startNext']);
  });

  const controller = `
import json, socket, sys
s = socket.create_connection(('127.0.0.1', int(sys.argv[1])), 5)
s.settimeout(5)
lines = s.makefile('r')
print(0, flush=True)
said = []
def until(fits):
    for line in lines:
        value = json.loads(line)
        said.append(value)
        if fits(value): return value
def ask(**order):
    s.sendall(json.dumps(order).encode() + b'\\n')
    return until(lambda v: v.get('ok') == order['n'] or v.get('no') == order['n'])
print(until(lambda v: 'is' in v)['model'])
ask(n=1, do='list')
print(len(next(v for v in said if 'timers' in v)['timers']))
print(ask(n=2, do='startPlace', place=5).get('ok'))
print(next(v for v in reversed(said) if 'run' in v)['run']['state'])
print(ask(n=3, do='startPlace', place=99).get('code'))
print(ask(n=4, do='add', seconds=-119).get('ok'))
print(until(lambda v: 'run' in v and v['run']['state'] == 'over')['run']['left'] <= 0)
s.sendall(b'{"n":5}\\n' + b'x' * 5000 + b'\\n')
print(until(lambda v: v.get('no') == 5)['code'], until(lambda v: 'no' in v)['code'])
s.sendall(b'{"n":6,"do":"mess' + b'age","text":"One"}\\n{"n":7,"do":"ping"}\\n')
print(until(lambda v: 'message' in v)['message'], until(lambda v: v.get('ok') == 7)['ok'])
`;

  foreign('that stands in answers a controller in another language', async () => {
    const sync = new HouseSync(25);
    const clock = new ClockStandin({ tag: 'K1', sync, host: '127.0.0.1', port: 0 });
    onTestFinished(async () => {
      sync.stop();
      await clock.stop();
    });
    await clock.setPower(true);
    const { lines } = await startPython(controller, String(clock.port));
    await until(
      () => lines.length,
      (count) => count >= 9,
    );
    expect(lines).toEqual(['Gnomon', '9', '2', 'running', '2', '4', 'True', '1 9', 'One 7']);
  });
});

const timers: NonNullable<DeviceRecord['data']['timers']> = [
  { id: 'talk', name: 'Talk', speaker: 'Ada', lengthS: 3, warnS: 2, graceS: 0 },
  { id: 'break', name: 'Break', speaker: '', lengthS: 600, warnS: 60, graceS: 0 },
];
const own = { role: 'clock', driver: 'own-timers', host: internalPlace, timers };

const state = (rig: TestRig) => reading(rig, 'state');
const device = (rig: TestRig): DeviceRecord => {
  const found = rig.engine.running.show.devices.get('dev');
  if (!found) throw new Error('There is no device.');
  return found;
};

describe('the timers of the program itself', () => {
  it('go from ready over warning to over, and count on', async () => {
    const rig = await start('own-timers', 1, own);
    await linkIs(rig, 'up');
    expect([state(rig), reading(rig, 'nextName')]).toEqual(['ready', 'Talk']);
    expect(await send(rig, 'startNext', {})).toMatchObject({ outcome: 'confirmed' });
    expect([state(rig), reading(rig, 'speaker'), reading(rig, 'nextName')]).toEqual(['running', 'Ada', 'Break']);
    await saysOf(rig, 'state', 'warning');
    await saysOf(rig, 'state', 'over');
    await until(
      () => Number(reading(rig, 'left')),
      (left) => left < -0.5,
    );
    expect(await send(rig, 'pause', {})).toMatchObject({ outcome: 'confirmed' });
    expect(await send(rig, 'startNext', {})).toMatchObject({ outcome: 'confirmed' });
    expect([reading(rig, 'name'), reading(rig, 'nextName')]).toEqual(['Break', '']);
    expect(await send(rig, 'startNext', {})).toMatchObject({
      outcome: 'refused',
      reason: expect.stringContaining('There is no next timer'),
    });
  });

  it('take another list while one runs, without a break', async () => {
    const rig = await start('own-timers', 1, own);
    await linkIs(rig, 'up');
    await send(rig, 'start', { timer: 2 });
    const before = device(rig);
    const more = [...timers, { id: 'prizes', name: 'Prizes', speaker: '', lengthS: 60, warnS: 0, graceS: 0 }];
    const longer = more.map((each) => (each.id === 'break' ? { ...each, lengthS: 900 } : each));
    rig.edit({
      title: 'Timers',
      changes: [{ op: 'update', from: before, to: { ...before, data: { ...before.data, timers: longer } } }],
    });
    await saysOf(rig, 'timer[3].name', 'Prizes');
    expect([reading(rig, 'runs'), reading(rig, 'place'), reading(rig, 'length')]).toEqual([true, 2, 900]);
  });

  it('go on when the engine is killed, at the time that they would have', async () => {
    const rig = await start('own-timers', 1, own);
    await linkIs(rig, 'up');
    await send(rig, 'start', { timer: 2 });
    await send(rig, 'message', { text: 'Back at three' });
    const startedAt = Date.now();
    await new Promise((resolve) => setTimeout(resolve, 300));
    await rig.crash();
    await new Promise((resolve) => setTimeout(resolve, 700));
    await rig.revive();
    await linkIs(rig, 'up');
    expect([state(rig), reading(rig, 'name'), reading(rig, 'message')]).toEqual(['running', 'Break', 'Back at three']);
    const gone = (Date.now() - startedAt) / 1000;
    // Readings come once a second.
    expect(Math.abs(600 - gone - Number(reading(rig, 'left')))).toBeLessThan(1.2);
  });

  it('are others in a rehearsal, and as they were after it', async () => {
    const rig = await start('own-timers', 1, own);
    await linkIs(rig, 'up');
    await send(rig, 'start', { timer: 2 });
    const desk = await TestClient.open(rig.url);
    await desk.follow('status');
    const aimAt = async (aim: 'live' | 'rehearse') => {
      desk.say({ t: 'aim', aim });
      await until(
        () => (desk.topic('status') as StatusView).aim,
        (now) => now === aim,
      );
      await linkIs(rig, 'up');
    };
    await aimAt('rehearse');
    await saysOf(rig, 'state', 'ready');
    await send(rig, 'message', { text: 'Only here' });
    await aimAt('live');
    await saysOf(rig, 'state', 'running');
    expect([reading(rig, 'name'), reading(rig, 'message')]).toEqual(['Break', '']);
  });
});
