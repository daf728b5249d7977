import { fork } from 'node:child_process';
import { connect, type Socket } from 'node:net';
import type { ShowRecord } from '../src/core/show';
import { deviceIds } from '../demo/show';
import { freePort } from '../src/server/free-port';
import { compare, type Scale } from './compare';
import { BenchDevice } from './device';
import type { Path } from './paths';
import { end, pause, showOfOneDevice, started, startProgram } from './processes';

/** A watch that fires more often is stopped: twelve take turns, each a few times a second. */
const watches = 12;
const everyMs = 25;

const inlet = (port: number): ShowRecord => ({
  kind: 'inlet',
  id: 'inlet-bench',
  version: 1,
  data: {
    name: 'Bench',
    order: 9,
    note: '',
    speaks: 'text',
    over: 'tcp',
    port,
    host: '127.0.0.1',
    from: [],
    on: true,
  },
});

const watch = (n: number): ShowRecord => ({
  kind: 'watch',
  id: `watch-bench-${n}`,
  version: 1,
  data: {
    name: `Bench ${n}`,
    number: 100 + n,
    order: 100 + n,
    note: '',
    when: { is: 'change', reading: { device: deviceIds.SW1, key: 'preview' }, to: n },
    delayMs: 0,
    quietMs: 0,
    mostPerMinute: 600,
    sends: [{ device: deviceIds.SW1, command: 'take', params: { input: n } }],
  },
});

/** A line to an inlet, and a report that fires a watch, each until the first byte at the device: against a bare relay that does the same. */
export async function measureByItself(scale: Scale): Promise<void> {
  const [bareDevice, ownDevice] = [new BenchDevice(false), new BenchDevice(true)];
  const [port, inletPort, barePort] = [await freePort(), await freePort(), await freePort()];
  const program = await startProgram(port, [
    ...showOfOneDevice(await ownDevice.listen()),
    inlet(inletPort),
    ...Array.from({ length: watches }, (_, n) => watch(n + 1)),
  ]);
  const relay = started(fork('bench/bare-line.mjs', [barePort, await bareDevice.listen()].map(String)));
  await new Promise((resolve) => relay.once('message', resolve));
  await pause(1500);
  const bare = await lineTo('bare relay', barePort, bareDevice);
  const own = await lineTo('Sorrelfinch', inletPort, ownDevice);
  await compare(scale, 'Line to an inlet to device byte, idle', bare, own, 'press', { p99: 2 });
  const few = { ...scale, events: Math.min(scale.events, 1000) };
  await compare(few, 'Reading changed, watch fired, to device byte, idle', bare, own, 'report', { p99: 2 });
  for (const path of [bare, own]) path.close();
  await end(relay);
  await end(program);
  bareDevice.close();
  ownDevice.close();
}

async function lineTo(name: string, port: number, device: BenchDevice): Promise<Path> {
  const socket = await new Promise<Socket>((resolve) => {
    const opened = connect({ port, host: '127.0.0.1', noDelay: true }, () => resolve(opened));
  });
  const arrives = () => new Promise<number>((resolve) => (device.onPress = resolve));
  return {
    name,
    press: async (n) => {
      const answered = new Promise((resolve) => socket.once('data', resolve));
      const arrived = arrives();
      const sentAt = performance.now();
      socket.write(`press ctl-program-${(n % 6) + 1}\r\n`);
      const ms = (await arrived) - sentAt;
      await answered;
      // Inside what an inlet takes of one source in a second.
      await pause(6);
      return ms;
    },
    report: async (n) => {
      await pause(everyMs);
      const arrived = arrives();
      const sentAt = performance.now();
      device.report(`NOW preview ${(n % watches) + 1}`);
      return (await arrived) - sentAt;
    },
    close: () => socket.destroy(),
  };
}
