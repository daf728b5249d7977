import { describe, expect, it } from 'vitest';
import { lackingWith, problemsOf } from '../src/core/check';
import { DriverShelf } from '../src/core/driver';
import type { PageView } from '../src/core/live';
import { contextKey } from '../src/core/page';
import { showLookup, type ControlRecord, type DeviceRecord, type ShowRecord } from '../src/core/show';
import { shippedDrivers } from '../src/drivers';
import { foreign, printed, startPython } from './support/foreign-end';
import { controlRecord, deviceRecord, pageRecord } from './support/records';
import { startRig, TestClient } from './support/rig';

/**
 * A zone that was made for a VISCA camera drives a camera of another make, whose driver has other names and other ranges. The other end is
 * written in another language from this manual:
 *
 * ```
 *  GOTO n          memory 1 to 99, answered by AT n
 *  DRIVE way x y   way is left, right, up or down, speeds 0 to 100
 *  HALT
 *  IRIS v          -1.00 to 1.00, answered by IRIS v
 * ```
 */
const gimbalDriver = {
  format: 1,
  id: 'gimbal',
  version: 1,
  title: 'Gimbal',
  role: 'camera',
  link: { kind: 'tcp', port: 7000 },
  framing: { kind: 'lines', ending: 'lf' },
  commands: {
    goto: {
      title: 'Go to a memory',
      says: 'Memory {memory}',
      params: { memory: { title: 'Memory', value: { type: 'whole', min: 1, max: 99 } } },
      send: 'GOTO {memory}',
      confirm: { by: 'readings', all: [{ reading: 'at', equals: { param: 'memory' } }], withinMs: 2000 },
    },
    drive: {
      title: 'Drive',
      says: 'Drive {way}',
      params: {
        way: {
          title: 'Way',
          value: {
            type: 'choice',
            choices: ['left', 'right', 'up', 'down', 'upLeft', 'upRight', 'downLeft', 'downRight'].map((value) => ({
              value,
              title: value,
            })),
          },
        },
        across: { title: 'Across', value: { type: 'whole', min: 0, max: 100 }, default: 50 },
        along: { title: 'Along', value: { type: 'whole', min: 0, max: 100 }, default: 50 },
      },
      send: 'DRIVE {way} {across} {along}',
      class: 'urgent',
      stop: { command: 'halt' },
    },
    halt: { title: 'Halt', says: 'Halt', send: 'HALT', class: 'stop' },
    iris: {
      title: 'Iris',
      says: 'Iris {opening}',
      params: { opening: { title: 'Opening', value: { type: 'decimal', min: -1, max: 1, decimals: 2 } } },
      send: 'IRIS {opening}',
    },
  },
  readings: {
    at: { title: 'Memory', value: { type: 'whole', min: 0, max: 99 } },
    opening: { title: 'Iris', value: { type: 'decimal', min: -1, max: 1, decimals: 2 } },
  },
  replies: [
    { match: '^AT (?P<n>\\d+)$', set: { at: '{n}' } },
    { match: '^IRIS (?P<v>.*)$', set: { opening: '{v}' } },
  ],
  drives: { arm: { title: 'Arm', command: 'drive', direction: 'way', x: 'across', y: 'along' } },
  contract: {
    commands: {
      recall: { command: 'goto', params: { preset: 'memory' } },
      move: { command: 'drive', params: { direction: 'way', panSpeed: 'across', tiltSpeed: 'along' } },
      stopMoving: { command: 'halt' },
      iris: { command: 'iris', params: { step: 'opening' } },
    },
    readings: { iris: 'opening' },
    drives: { head: 'arm' },
  },
};

const gimbal = `
import socket, threading
server = socket.socket()
server.bind(('127.0.0.1', 0))
server.listen(5)
print(server.getsockname()[1], flush=True)
def serve(peer):
    rest = b''
    while True:
        more = peer.recv(1000)
        if not more: return
        rest += more
        while b'\\n' in rest:
            line, rest = rest.split(b'\\n', 1)
            text = line.decode()
            print(text, flush=True)
            if text.startswith('GOTO'): peer.sendall(('AT ' + text.split(' ')[1] + '\\n').encode())
            if text.startswith('IRIS'): peer.sendall((text + '\\n').encode())
while True:
    threading.Thread(target=serve, args=(server.accept()[0],), daemon=True).start()
`;

const move = { direction: 'left', panSpeed: 24, tiltSpeed: 1 };
const records = (port: number): ShowRecord[] => [
  { kind: 'show', id: 'show', version: 1, data: { name: 'Mixed', note: '' } },
  deviceRecord('C1', { host: '127.0.0.1', port: 9, enabled: false }),
  deviceRecord('C5', { driver: 'gimbal', host: '127.0.0.1', port }),
  pageRecord('page', 'Cameras', {
    columns: 6,
    zones: [{ id: 'zone', title: 'Camera', col: 0, row: 0, cols: 6, rows: 1, pick: { devices: ['dev-C1', 'dev-C5'] } }],
  }),
  controlRecord('recall', {
    values: { preset: 4 },
    responses: { tap: [{ device: 'dev-C1', command: 'recall', params: { preset: { value: 'preset' } } }] },
  }),
  controlRecord('left', {
    col: 1,
    responses: { tap: [], held: [{ device: 'dev-C1', command: 'move', params: move }] },
  }),
  controlRecord('iris', {
    col: 2,
    type: 'fader',
    range: {
      send: { device: 'dev-C1', command: 'iris', params: {} },
      param: 'step',
      reading: { device: 'dev-C1', key: 'iris' },
      min: 0,
      max: 17,
    },
  }),
  controlRecord('open', {
    col: 3,
    responses: { tap: [{ device: 'dev-C1', command: 'iris', params: { step: 17 } }] },
    lamps: [{ when: { op: 'equals', reading: { device: 'dev-C1', key: 'iris' }, to: 17 }, show: 'active' }],
  }),
  controlRecord('stick', { col: 4, type: 'stick', drive: { device: 'dev-C1', drive: 'head' } }),
  controlRecord('menu', {
    col: 5,
    responses: { tap: [{ device: 'dev-C1', command: 'menu', params: { on: true } }] },
  }),
];

describe('a zone that picks a camera of another make', () => {
  foreign('drives it under its own names and in its own ranges, and lights from its own readings', async () => {
    const { port, lines } = await startPython(gimbal);
    const rig = await startRig(records(port), [...shippedDrivers, gimbalDriver]);
    const client = await TestClient.open(rig.url);
    const context = contextKey('page', { shift: undefined, picks: { zone: 'dev-C5' } });
    const view = await client.follow<PageView>(`page:${context}`);
    await client.linkIs('dev-C5', 'not checked');
    // It has no menu: that control is barred while it is picked.
    expect([view.faces.menu?.barred, view.faces.recall?.barred]).toEqual([true, undefined]);
    // The ends of the fader are those of the device that it drives.
    expect(view.controls.iris?.range).toMatchObject({ min: -1, max: 1, step: 0.01 });

    const press = (control: string, id: string, gesture: 'tap' | 'hold' = 'tap') =>
      client.say({ t: 'press', id, page: 'page', control, context, gesture });
    press('recall', 'press-recall1');
    expect(await client.outcome('press-recall1')).toMatchObject({ outcome: 'confirmed' });
    press('left', 'press-left0001', 'hold');
    client.say({ t: 'release', id: 'press-left0001' });
    client.say({ t: 'turn', id: 'press-iris0001', page: 'page', control: 'iris', context, x: 0.25 });
    client.say({ t: 'release', id: 'press-iris0001' });
    press('open', 'press-open0001');
    await client.next((message) => {
      if (!('topic' in message) || message.topic !== `page:${context}` || message.t === 'none') return false;
      const { faces } = message.data as { faces?: PageView['faces'] & { put?: PageView['faces'] } };
      return (faces?.put ?? faces)?.open?.lamp.show === 'active';
    });
    client.say({ t: 'turn', id: 'press-stick001', page: 'page', control: 'stick', context, x: 1, y: 0 });
    client.say({ t: 'release', id: 'press-stick001' });
    await printed(lines, ['GOTO 4', 'DRIVE left 100 0', 'HALT', 'IRIS 0.25', 'IRIS 1', 'DRIVE right 100 0', 'HALT']);
  });

  it('says while it is made what the other camera does not have, and that a value is out of its range', () => {
    const shelf = new DriverShelf();
    shelf.put([...shippedDrivers, gimbalDriver]);
    const show = records(7000);
    const rig = showLookup(show, (device) => shelf.for(device.data)?.document);
    const sources = { device: rig.deviceOf, page: rig.pageOf, document: ({ id }: DeviceRecord) => rig.documentOf(id) };
    const controls = show.filter((record): record is ControlRecord => record.kind === 'control');
    expect(controls.flatMap((each) => lackingWith(each, 'dev-C1', 'dev-C5', sources))).toEqual([
      'C5 has no command for “On-screen menu”.',
    ]);
    const found = (of: readonly ShowRecord[]) => problemsOf(of, (device) => shelf.for(device.data));
    expect(found(show)).toEqual([]);
    // VISCA counts presets from 0, this camera its memories from 1.
    const first = show.map((each) =>
      each.kind === 'control' && each.id === 'recall'
        ? { ...each, data: { ...each.data, values: { preset: 0 } } }
        : each,
    );
    expect(found(first)).toEqual([
      { record: 'recall', message: 'C5 Go to a memory: Memory 0 is below the smallest, 1.' },
    ]);
  });
});
