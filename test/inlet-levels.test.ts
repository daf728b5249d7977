import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { Sender } from 'sacn';
import { ownId, type ShowRecord } from '../src/core/show';
import { startFleetRig, type FleetRig } from './support/fleet';
import {
  allListen,
  freeUdpPort,
  inletRecord,
  messageWatch,
  python,
  setSwitcher,
  switcherOf,
} from './support/inlet-end';
import { controlRecord, pageRecord } from './support/records';
import { onTestFinished, runAsOne, until } from './support/rig';

/** Levels of sACN from a sender of other people, and UMD tally from Python, written from its specification. */

let f: FleetRig;
let end: () => Promise<void>;
let ports: { dmx: number; umd: number };
beforeAll(async () => {
  ports = { dmx: await freeUdpPort(), umd: await freeUdpPort() };
  const level = (channel: number) => ({ device: ownId, key: `dmx[${channel}].level` });
  const records: ShowRecord[] = [
    pageRecord('page', 'Race'),
    controlRecord('ctl-take', {
      label: [{ text: 'Take' }],
      responses: { tap: [{ device: 'dev-SW1', command: 'take', params: { input: { reading: level(102) } } }] },
    }),
    inletRecord('dmx', ports.dmx, {
      speaks: 'sacn',
      over: 'udp',
      universe: 7,
      channels: 8,
      first: 101,
      order: 1,
      triggers: [{ text: 'dmx 101 on', press: 'ctl-take' }],
    }),
    inletRecord('umd', ports.umd, { speaks: 'umd', over: 'udp', order: 2 }),
    messageWatch(1, 'umd 3 red', 7),
    {
      kind: 'watch',
      id: 'watch-2',
      version: 1,
      data: {
        name: 'Level',
        number: 2,
        order: 2,
        note: '',
        when: { is: 'true', condition: { op: 'above', reading: level(103), to: 200 }, forMs: 0 },
        delayMs: 0,
        quietMs: 0,
        mostPerMinute: 60,
        sends: [{ device: 'dev-SW1', command: 'ready', params: { input: 6 } }],
      },
    },
  ];
  [f, end] = await runAsOne(() => startFleetRig(['SW1'], records));
  await f.linkIs('SW1', 'up');
  await allListen(f, 2);
});
afterAll(() => end());

const switcher = () => switcherOf(f);
const own = (key: string) => f.rig.engine.running.readings.fresh(ownId, key);
beforeEach(() => setSwitcher(f));

describe('levels of sACN', () => {
  const sender = (universe = 7) => {
    const made = new Sender({
      universe,
      port: ports.dmx,
      useUnicastDestination: '127.0.0.1',
      defaultPacketOptions: { sourceName: 'Lighting desk', useRawDmxValues: true },
    });
    onTestFinished(() => made.close());
    return (payload: Record<number, number>) => made.send({ payload });
  };

  it('are readings, press what has learned them, and are gone when nobody sends any more', async () => {
    const send = sender();
    await send({ 1: 10, 2: 5, 3: 0, 9: 77 });
    await until(
      () => [own('dmx[101].level'), own('dmx[102].level')],
      ([one, two]) => one === 10 && two === 5,
    );
    // Only so many channels are read.
    expect(own('dmx[109].level')).toBeUndefined();
    expect((await switcher()).program).toBe(1);
    // Faded up over the half: pressed, with the input that another channel says.
    await send({ 1: 200, 2: 5 });
    await until(switcher, ({ program }) => program === 5);
    await until(
      () => own('dmx[101].level'),
      (value) => value === undefined,
      6000,
    );
  });

  it('make conditions true, and nothing by what was up already', async () => {
    const send = sender();
    await send({ 1: 255, 2: 4, 3: 90 });
    await until(
      () => own('dmx[103].level'),
      (value) => value === 90,
    );
    await send({ 1: 255, 2: 4, 3: 230 });
    await until(switcher, ({ preview }) => preview === 6);
    expect((await switcher()).program).toBe(1);
  });

  it('of another universe are not heard, and nonsense is counted', async () => {
    const before = Number(own('inlet[1].refused'));
    await sender(8)({ 1: 99 });
    await python(
      `import socket, sys; socket.socket(socket.AF_INET, socket.SOCK_DGRAM).sendto(b'nonsense', ('127.0.0.1', int(sys.argv[1])))`,
      ports.dmx,
    );
    await until(
      () => Number(own('inlet[1].refused')),
      (count) => count === before + 1,
    );
    expect(own('dmx[101].level')).not.toBe(99);
  });
});

describe('UMD tally of another system', () => {
  const v3 = `
import socket, sys
port, display, red, green, name = int(sys.argv[1]), int(sys.argv[2]), int(sys.argv[3]), int(sys.argv[4]), sys.argv[5]
packet = bytes([0x80 | display, 0x30 | red | green << 1]) + name.encode().ljust(16)
socket.socket(socket.AF_INET, socket.SOCK_DGRAM).sendto(packet, ('127.0.0.1', port))
`;
  const v5 = `
import socket, struct, sys
port, display, left, right, name = int(sys.argv[1]), int(sys.argv[2]), int(sys.argv[3]), int(sys.argv[4]), sys.argv[5]
text = name.encode('utf-16-le')
body = struct.pack('<BBHHHH', 0, 1, 0, display, left << 4 | right | 3 << 6, len(text)) + text
socket.socket(socket.AF_INET, socket.SOCK_DGRAM).sendto(struct.pack('<H', len(body)) + body, ('127.0.0.1', port))
`;
  const shows = (display: number) => [
    own(`display[${display}].text`),
    own(`display[${display}].left`),
    own(`display[${display}].right`),
  ];

  it.each([
    ['3.1', v3, [1, 0], [0, 1], 'CAM 3'],
    ['5.0', v5, [1, 0], [0, 2], 'Brücke'],
  ])('of version %s is a reading, and its lamp fires what waits for it', async (_, script, red, green, name) => {
    await python(script, ports.umd, 3, ...green, name);
    await until(
      () => shows(3),
      (now) => now[0] === name && now[1] === 'off' && now[2] === 'green',
    );
    expect((await switcher()).preview).toBe(2);
    await python(script, ports.umd, 3, ...red, name);
    await until(
      () => shows(3),
      (now) => now[1] === 'red' && now[2] === 'off',
    );
    await until(switcher, ({ preview }) => preview === 7);
  });

  it('above what is read is refused by name', async () => {
    await python(v5, ports.umd, 4000, 1, 0, 'FAR');
    await until(
      () => String(own('inlet[2].came')),
      (came) => came.includes('a display above 499'),
    );
  });
});
