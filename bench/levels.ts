import { fork } from 'node:child_process';
import { createSocket } from 'node:dgram';
import type { ShowRecord } from '../src/core/show';
import { freePort } from '../src/server/free-port';
import { BenchDevice } from './device';
import { end, pause, showOfOneDevice, started, startProgram } from './processes';
import { summarise, type Summary } from './stats';

const universes = [1, 2, 3, 4] as const;
const seconds = 20;
const everyMs = 1000 / 44;
/** Where a packet of sACN has its universe. */
const universeAt = 113;

/** Four universes that fade at once: how far the interval between two packets is from 44 a second, at the receiver. */
export async function measureLevels(): Promise<void> {
  const socket = createSocket('udp4');
  const heard = new Map<number, number[]>();
  socket.on('message', (bytes) => {
    const universe = bytes.readUInt16BE(universeAt);
    const times = heard.get(universe) ?? [];
    if (times.length === 0) heard.set(universe, times);
    times.push(performance.now());
  });
  await new Promise<void>((resolve) => void socket.bind(0, '127.0.0.1', resolve));
  const { port: lightsPort } = socket.address();

  const device = new BenchDevice(true);
  const port = await freePort();
  const program = await startProgram(port, [...showOfOneDevice(await device.listen()), ...lights(lightsPort)]);
  for (const universe of universes) await fade(port, `L${universe}`, seconds + 10);
  await pause(2000);
  heard.clear();
  await pause(seconds * 1000);
  const own = offBy(heard);
  await end(program);
  device.close();
  await pause(1000);
  heard.clear();
  const bare = started(fork('bench/bare-levels.mjs', [lightsPort, seconds].map(String)));
  await new Promise((resolve) => bare.once('exit', resolve));
  const base = offBy(heard);
  socket.close();

  console.log(
    `\nFour universes of levels, ${own.count} packets: how far their interval is from ${everyMs.toFixed(2)} ms`,
  );
  for (const key of ['p50', 'p99'] as const)
    console.log(
      `  ${key}  bare timer loop ${base[key].toFixed(3)}   Sorrelfinch ${own[key].toFixed(3)}${key === 'p99' ? (own.p99 <= 2 ? '  within 2 ms' : '  OVER 2 ms') : ''}`,
    );
}

function offBy(heard: ReadonlyMap<number, readonly number[]>): Summary & { readonly count: number } {
  const off = [...heard.values()].flatMap((times) =>
    times.slice(1).map((at, n) => Math.abs(at - (times[n] ?? at) - everyMs)),
  );
  return { ...summarise(off), count: off.length };
}

const lights = (port: number): ShowRecord[] =>
  universes.map((universe) => ({
    kind: 'device',
    id: `dev-lights-${universe}`,
    version: 1,
    data: {
      tag: `L${universe}`,
      name: `Lights ${universe}`,
      role: 'lights',
      driver: 'lights-sacn',
      host: '127.0.0.1',
      port,
      enabled: true,
      site: '',
      user: '',
      options: { universe },
    },
  }));

async function fade(port: number, device: string, fadeSeconds: number): Promise<void> {
  const params = { channel: 1, last: 512, level: 100, fade: fadeSeconds };
  const answer = await fetch(`http://127.0.0.1:${port}/api/send`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ device, command: 'setRange', params }),
  });
  if (!answer.ok) throw new Error(`${device}: ${await answer.text()}`);
}
