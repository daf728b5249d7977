import { fork } from 'node:child_process';
import { createServer } from 'node:net';
import type { AddressInfo } from 'node:net';
import WebSocket from 'ws';
import { ownId, type ShowRecord, type SnapshotPart } from '../src/core/show';
import { freePort } from '../src/server/free-port';
import { end, loadedPage, pause, showOfOneDevice, startProgram, started } from './processes';
import { median, summarise, type Summary } from './stats';

const everyMs = 20;
const lengthMs = 4000;
const frames = lengthMs / everyMs;
const runs = 5;
const boxes = [1, 2, 3, 4];

/** How far each interval between two frames is from 20 ms, as it arrives. */
const offs = (times: readonly number[]): number[] =>
  times.slice(1).map((at, n) => Math.abs(at - (times[n] ?? at) - everyMs));

/**
 * A switcher in the measuring process, written from its manual alone: it takes every box command, reports it, and notes when each came. What it
 * shares with the program is the line format, and nothing else.
 */
class BoxDevice {
  private readonly state = new Map<string, string>();
  readonly came = new Map<string, number[]>();
  readonly bare: number[] = [];
  private readonly server = createServer((socket) => {
    socket.setNoDelay(true);
    socket.on('error', () => undefined);
    socket.write('HAIL switcher 1 12\r\n');
    socket.setEncoding('utf8').on('data', (text: string) => {
      const at = performance.now();
      for (const line of text.split('\r\n')) {
        const [verb = '', ...rest] = line.split(' ');
        if (verb === 'TAKE') {
          this.bare.push(at);
          continue;
        }
        if (verb === 'ASK') socket.write(`${this.everything()}DONE\r\n`);
        else if (verb in words) {
          const key = `${verb} ${rest[0]}`;
          this.came.set(key, [...(this.came.get(key) ?? []), at]);
          this.state.set(key, rest.join(' '));
          socket.write(`NOW ${words[verb as keyof typeof words]} ${rest.join(' ')}\r\nDONE\r\n`);
        } else if (verb !== '') socket.write('DONE\r\n');
      }
    });
  });

  constructor() {
    for (const box of boxes) {
      this.state.set(`BOX ${box}`, `${box} on`);
      this.state.set(`BOXSRC ${box}`, `${box} ${box}`);
      this.state.set(`BOXAT ${box}`, `${box} 0 0`);
      this.state.set(`BOXSIZE ${box}`, `${box} 5`);
      this.state.set(`BOXCROP ${box}`, `${box} 0 0 0 0`);
    }
  }

  listen(): Promise<number> {
    return new Promise((resolve) =>
      this.server.listen(0, '127.0.0.1', () => resolve((this.server.address() as AddressInfo).port)),
    );
  }

  /** What a box was told last. */
  last(verb: keyof typeof words, box: number): string | undefined {
    return this.state.get(`${verb} ${box}`);
  }

  close(): void {
    this.server.close();
  }

  private everything(): string {
    const names = Array.from({ length: 12 }, (_, n) => `NOW name ${n + 1} Input ${n + 1}\r\n`).join('');
    const all = [...this.state].map(
      ([key, value]) => `NOW ${words[key.split(' ')[0] as keyof typeof words]} ${value}\r\n`,
    );
    return `${names}NOW program 1\r\nNOW preview 12\r\nNOW mix idle\r\n${all.join('')}`;
  }
}

const words = { BOX: 'box', BOXSRC: 'boxsource', BOXAT: 'boxat', BOXSIZE: 'boxsize', BOXCROP: 'boxcrop' } as const;

const kept = (place: number, size: number, crop: number): SnapshotPart => ({
  device: 'dev-switcher',
  keep: 'boxes',
  values: Object.fromEntries(
    boxes.flatMap((box) =>
      Object.entries({ x: place, y: place, size, left: crop, top: crop, right: crop, bottom: crop }).map(
        ([key, value]) => [`box[${box}].${key}`, value] as const,
      ),
    ),
  ),
});
const snapshot = (number: number, part: SnapshotPart): ShowRecord => ({
  kind: 'snapshot',
  id: `snap-${number}`,
  version: 1,
  data: { name: `S${number}`, number, order: number, folder: '', note: '', parts: [part], takenAt: '' },
});

/** A glide of four boxes, 28 values, 50 frames a second: how even it arrives at the device, idle and while pages are loaded. */
export async function measureGlide(): Promise<void> {
  const device = new BoxDevice();
  const devicePort = await device.listen();
  const port = await freePort();
  const program = await startProgram(port, [
    ...showOfOneDevice(devicePort),
    snapshot(91, kept(0, 5, 0)),
    snapshot(92, kept(1000, 100, 40)),
  ]);
  await pause(1500);
  const socket = new WebSocket(`ws://127.0.0.1:${port}/live`, { perMessageDeflate: false });
  await new Promise((resolve) => socket.once('open', resolve));
  let count = 0;
  const glideTo = (to: number, ms: number) =>
    new Promise<void>((resolve, reject) => {
      const id = `bench-glide-${(count += 1)}`;
      const deadline = setTimeout(() => reject(new Error(`The glide to ${to} did not end.`)), ms + 10_000);
      const onMessage = (data: WebSocket.RawData) => {
        const message = JSON.parse(String(data)) as { t: string; id?: string; outcome?: string; reason?: string };
        if (message.id !== id || message.t !== 'press' || ['taken', 'waiting'].includes(message.outcome ?? '')) return;
        clearTimeout(deadline);
        socket.off('message', onMessage);
        if (message.outcome === 'confirmed') resolve();
        else reject(new Error(`${message.outcome}: ${message.reason}`));
      };
      socket.on('message', onMessage);
      const params = { snapshot: to, ms, curve: 'linear' };
      socket.send(JSON.stringify({ t: 'try', id, device: ownId, command: 'glideTo', params, gesture: 'tap' }));
    });

  const compare = async (meanwhile: string) => {
    const own: Summary[] = [];
    const bare: Summary[] = [];
    let longest = 0;
    for (let run = 0; run < runs; run += 1) {
      device.bare.length = 0;
      const loop = fork('bench/bare-timer.mjs', [1, frames, everyMs, devicePort].map(String));
      await new Promise((resolve) => loop.once('message', resolve));
      await end(loop);
      bare.push(summarise(offs(device.bare)));
      await glideTo(91, 0);
      device.came.clear();
      const began = performance.now();
      await glideTo(92, lengthMs);
      longest = Math.max(longest, performance.now() - began - lengthMs);
      // Of each box the place, which changes with every frame; the last value comes when the time is over.
      own.push(summarise(boxes.flatMap((box) => offs((device.came.get(`BOXAT ${box}`) ?? []).slice(0, -1)))));
      for (const box of boxes)
        if (device.last('BOXAT', box) !== `${box} 1000 1000`) throw new Error(`Box ${box} is not at its end.`);
    }
    console.log(`\nA glide of four boxes, 50 frames a second: how far from 20 ms between two frames, ${meanwhile}`);
    for (const key of ['p50', 'p99'] as const) {
      const [base, ours] = [bare, own].map((all) => median(all.map((one) => one[key]))) as [number, number];
      const verdict = key === 'p99' ? (ours <= 4 ? '  within 4 ms' : '  OVER 4 ms') : '';
      console.log(
        `  ${key}  bare timer loop ${base.toFixed(3)}   Sorrelfinch ${ours.toFixed(3)}   ratio ${(ours / base).toFixed(2)}x${verdict}`,
      );
    }
    console.log(`  ended at most ${longest.toFixed(1)} ms after its time, every last value exact`);
  };
  await compare('idle');
  const load = started(fork('bench/page-load.mjs', [`http://127.0.0.1:${port}${loadedPage}`, '4']));
  await pause(2000);
  await compare(`4 loads of ${loadedPage} in flight`);
  await end(load);
  socket.close();
  await end(program);
  device.close();
}
