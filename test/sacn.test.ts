import { createSocket } from 'node:dgram';
import { Receiver, type Packet } from 'sacn';
import { describe, expect, it } from 'vitest';
import { troubleOf } from '../src/core/diagnosis';
import { driverTrialSchema } from '../src/core/live';
import { shippedDrivers } from '../src/drivers';
import { foreign, linkIs, reading, saysOf, send, start, startPython, tested } from './support/foreign-end';
import { onTestFinished, until } from './support/rig';
import { allRecords } from '../src/store';

/** Lights over sACN, with a receiver of a package and one in Python that reads the bytes by the tables of ANSI E1.31. */

async function freePort(): Promise<number> {
  const socket = createSocket('udp4');
  await new Promise<void>((resolve) => void socket.bind(0, '127.0.0.1', resolve));
  const { port } = socket.address();
  await new Promise<void>((resolve) => void socket.close(() => resolve()));
  return port;
}

async function startReceiver(universes: number[]) {
  const port = await freePort();
  const receiver = new Receiver({ universes, port, iface: '127.0.0.1' });
  onTestFinished(() => void receiver.close());
  const packets: Packet[] = [];
  const bad: unknown[] = [];
  receiver.on('packet', (packet) => packets.push(packet));
  receiver.on('PacketCorruption', (error) => bad.push(error));
  receiver.on('PacketOutOfOrder', (error) => bad.push(error));
  /** A level as the receiver has it now, 0 to 255. */
  const level = (channel: number) => packets.at(-1)?.payloadAsBuffer?.[channel - 1];
  return { port, packets, bad, level };
}

const levelIs = (ask: () => number | undefined, wanted: number) => until(ask, (value) => value === wanted);

describe('lights over sACN', () => {
  it('nothing is sent before the first level; then levels, fades, blackout and the end arrive', async () => {
    const lights = await startReceiver([7]);
    const rig = await start('lights-sacn', lights.port, { options: { universe: 7, priority: 120 } });
    await linkIs(rig, 'one-way');
    expect(lights.packets).toEqual([]);

    expect(await send(rig, 'setLevel', { channel: 3, level: 100 })).toMatchObject({ outcome: 'sent' });
    await levelIs(() => lights.level(3), 255);
    expect(lights.packets[0]).toMatchObject({ universe: 7, priority: 120, sourceName: 'Sorrelfinch' });
    await saysOf(rig, 'level[3]', 100);

    const before = lights.packets.length;
    await send(rig, 'setRange', { channel: 1, last: 512, level: 20, fade: 0.5 });
    await levelIs(() => lights.level(512), 51);
    // On the way, and not in one step.
    const way = lights.packets.slice(before).map(({ payloadAsBuffer }) => payloadAsBuffer?.[0] ?? 0);
    expect(new Set(way.filter((value) => value > 0 && value < 51)).size).toBeGreaterThan(8);
    await levelIs(() => lights.level(3), 51);
    await saysOf(rig, 'level[512]', 20);

    await send(rig, 'setColour', { channel: 10, colour: '#FF8000' });
    await levelIs(() => lights.level(10), 255);
    expect([11, 12, 13].map(lights.level)).toEqual([128, 0, 51]);

    await send(rig, 'blackout', { on: true });
    await levelIs(() => lights.level(10), 0);
    expect([reading(rig, 'level[10]'), reading(rig, 'blackout')]).toEqual([100, true]);
    await send(rig, 'blackout', { on: false });
    await levelIs(() => lights.level(10), 255);

    await send(rig, 'endOutput', {});
    await until(
      () => lights.packets.filter(({ options }) => (options & 0x40) !== 0).length,
      (count) => count === 3,
    );
    await saysOf(rig, 'output', false);
    expect(lights.bad).toEqual([]);
  });

  it('a channel that does not exist is refused before anything is sent', async () => {
    const lights = await startReceiver([1]);
    const rig = await start('lights-sacn', lights.port);
    await linkIs(rig, 'one-way');
    const report = await send(rig, 'setLook', { channel: 511, levels: '1, 2, 3' });
    expect(report).toMatchObject({ outcome: 'lost', sends: [{ why: 'bad-value' }] });
    expect(JSON.stringify(report)).toContain('512');
    expect(lights.packets).toEqual([]);
  });

  it('levels outlive a connection that is made again, and a show that ends says so', async () => {
    const lights = await startReceiver([2]);
    const rig = await start('lights-sacn', lights.port, { options: { universe: 2 } });
    await linkIs(rig, 'one-way');
    await send(rig, 'setLevel', { channel: 5, level: 40 });
    await levelIs(() => lights.level(5), 102);
    // Another priority is another connection. Records are read back as the rig wrote them.
    const before = allRecords(rig.db).find(({ kind }) => kind === 'device');
    if (before?.kind !== 'device') throw new Error('There is no D1.');
    const data = { ...before.data, options: { universe: 2, priority: 7 } };
    rig.edit({ title: 'Priority', changes: [{ op: 'update', from: before, to: { ...before, data } }] });
    await until(
      () => lights.packets.at(-1)?.priority,
      (priority) => priority === 7,
    );
    expect(lights.level(5)).toBe(102);
    await saysOf(rig, 'level[5]', 40);
    await rig.engine.stop();
    await until(
      () => lights.packets.at(-1)?.options,
      (options) => options === 0x40,
    );
  });

  it('a trial beside the rig’s own connection does not end the source', async () => {
    const lights = await startReceiver([9]);
    const rig = await start('lights-sacn', lights.port, { options: { universe: 9 } });
    await linkIs(rig, 'one-way');
    await send(rig, 'setLevel', { channel: 5, level: 40 });
    await levelIs(() => lights.level(5), 102);
    const { id: device = '' } = rig.engine.api.deviceByTag('D1') ?? {};
    const document = JSON.stringify(shippedDrivers.find((each) => (each as { id: string }).id === 'lights-sacn'));
    const request = driverTrialSchema.parse({ document, device, listenMs: 300 });
    const ended: string[] = [];
    await rig.engine.api.tools?.tryDocument(request, ({ t }) => ended.push(t), new AbortController().signal);
    expect(ended).toContain('link');
    const count = lights.packets.length;
    await until(
      () => lights.packets.length,
      (now) => now > count,
    );
    expect(lights.packets.every(({ options }) => options === 0)).toBe(true);
    expect(lights.level(5)).toBe(102);
  });

  it('by multicast they reach the group of their universe, and the test says so without asking a computer', async () => {
    const lights = await startReceiver([300]);
    const options = { universe: 300, delivery: 'multicast', localAddress: '127.0.0.1' };
    const rig = await start('lights-sacn', lights.port, { host: '239.255.1.44', options });
    await linkIs(rig, 'one-way');
    await send(rig, 'setLevel', { channel: 1, level: 100 });
    await levelIs(() => lights.level(1), 255);
    const stages = await tested(rig, { devices: ['D1'] });
    expect(stages.map(({ stage }) => stage)).not.toContain('computer');
    expect(stages[0]?.verdict.seen).toContain('multicast group 239.255.1.44');
    expect(troubleOf(stages.map(({ verdict }) => verdict))).toBeUndefined();
  });

  foreign('a packet is what the tables of the standard say, read in another language', async () => {
    const device = await startPython(`
import socket, struct
s = socket.socket(socket.AF_INET, socket.SOCK_DGRAM)
s.bind(('127.0.0.1', 0))
print(s.getsockname()[1], flush=True)
while True:
    b = s.recv(2000)
    assert len(b) == 638, len(b)
    pre, post, acn, flen, vector, cid = struct.unpack('>HH12sHI16s', b[:38])
    assert (pre, post, acn, flen, vector) == (0x10, 0, b'ASC-E1.17\\0\\0\\0', 0x726e, 4)
    flen, vector, name, priority, sync, seq, opts, universe = struct.unpack('>HI64sBHBBH', b[38:115])
    assert (flen, vector, sync) == (0x7258, 2, 0)
    plen, pv, kind, first, step, count, start = struct.unpack('>HBBHHHB', b[115:126])
    assert (plen, pv, kind, first, step, count, start) == (0x720b, 2, 0xa1, 0, 1, 513, 0)
    assert cid[6] >> 4 == 8 and cid[8] >> 6 == 2
    print(name.rstrip(b'\\0').decode(), priority, universe, opts, b[126], b[637], flush=True)
`);
    const options = { universe: 63_999, priority: 0, sourceName: 'Bühne links' };
    const rig = await start('lights-sacn', device.port, { options });
    await linkIs(rig, 'one-way');
    await send(rig, 'setRange', { channel: 1, last: 512, level: 100 });
    await until(
      () => device.lines[0],
      (line) => line === 'Bühne links 0 63999 0 255 255',
    );
  });
});

foreign(
  'Wake-on-LAN: a computer that is off hears six bytes FF and its address sixteen times, by broadcast',
  async () => {
    // Magic Packet Technology (AMD, 1995), 2.1. The broadcast address of the loopback network leaves nothing else.
    const computer = await startPython(`
import socket
s = socket.socket(socket.AF_INET, socket.SOCK_DGRAM)
s.bind(('', 0))
print(s.getsockname()[1], flush=True)
while True:
    b = s.recv(2000)
    at = b.find(b'\\xff' * 6)
    mine = bytes.fromhex('3c528201ab09')
    print('on' if at >= 0 and b[at + 6:at + 102] == mine * 16 else 'not for me', b[at + 102:].hex(), flush=True)
`);
    const options = { hardware: '3C-52-82-01-AB-09', secret: '0102 0304 0506' };
    const rig = await start('wake-on-lan', computer.port, { host: '127.255.255.255', options });
    await linkIs(rig, 'one-way');
    expect(await send(rig, 'wake', {})).toMatchObject({ outcome: 'sent' });
    await until(
      () => computer.lines[0],
      (line) => line === 'on 010203040506',
    );
    const stages = await tested(rig, { devices: ['D1'] });
    expect(troubleOf(stages.map(({ verdict }) => verdict))).toBeUndefined();
  },
);
