import { fork, spawn } from 'node:child_process';
import WebSocket from 'ws';
import { freePort } from '../src/server/free-port';
import { end, loadedPage, newFolder, pause, started } from './processes';

const runs = 100;
/** The demo's wipe has its cut 480 ms after the clip begins: at 25 frames a second in its thirteenth frame, number 12. */
const wanted = 12;

/** In which frame of the wipe clip the cut of the demo's macro falls, by the stand-ins' house sync: idle, and while pages are loaded. */
export async function measureLanding(): Promise<void> {
  const port = await freePort();
  const base = 20_000 + Math.floor(Math.random() * 20_000);
  const child = started(
    spawn(process.execPath, ['dist/supervisor.js', '--demo'], {
      env: { ...process.env, PORT: String(port), STANDIN_PORT_BASE: String(base), DATA_DIR: newFolder() },
      stdio: ['ignore', 'pipe', 'inherit'],
    }),
  );
  await new Promise<void>((resolve) =>
    child.stdout.on('data', (text) => String(text).includes('is ready') && resolve()),
  );
  await pause(3000);
  const socket = new WebSocket(`ws://127.0.0.1:${port}/live`);
  await new Promise((resolve) => socket.once('open', resolve));
  say(await landings(socket, base), 'idle');
  const load = started(fork('bench/page-load.mjs', [`http://127.0.0.1:${port}${loadedPage}`, '4']));
  await pause(2000);
  say(await landings(socket, base), `4 loads of ${loadedPage} in flight`);
  await end(load);
  socket.close();
  await end(child);
}

function say(frames: readonly number[], meanwhile: string): void {
  const hit = frames.filter((frame) => frame === wanted).length;
  const others = frames.filter((frame) => frame !== wanted);
  console.log(
    `\nThe cut under the wipe clip, ${meanwhile}: ${hit} of ${frames.length} in frame ${wanted} (aim 99 of 100)${others.length > 0 ? `, others in ${others.join(', ')}` : ''}`,
  );
}

async function landings(socket: WebSocket, base: number): Promise<number[]> {
  const state = async (tag: string) => (await (await fetch(`http://127.0.0.1:${base}/${tag}/state`)).json()) as State;
  const found: number[] = [];
  for (let n = 0; n < runs; n += 1) {
    const before = await state('sw1');
    const id = `landing-${performance.now().toFixed(0)}`;
    const ended = new Promise<void>((resolve) => {
      const onMessage = (data: WebSocket.RawData) => {
        if (!String(data).includes(id) || !String(data).includes('"skipped"')) return;
        socket.off('message', onMessage);
        resolve();
      };
      socket.on('message', onMessage);
    });
    socket.send(JSON.stringify({ t: 'run', id, macro: 'mac-wipe', params: {}, aim: 'live' }));
    for (let asked = 0; (await state('sw1')).switchedAt === before.switchedAt; asked += 1) {
      if (asked > 400) throw new Error('It did not switch.');
      await pause(20);
    }
    const { switchedAt } = await state('sw1');
    found.push(switchedAt - (await state('r1')).playsSince);
    socket.send(JSON.stringify({ t: 'end run', run: id, way: 'stop' }));
    await ended;
    // Each run begins elsewhere between two frames.
    await fetch(`http://127.0.0.1:${base}/sw1/operate`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ verb: 'take', input: 1 }),
    });
    await pause(100 + ((n * 7.3) % 40));
  }
  return found;
}

interface State {
  readonly switchedAt: number;
  readonly playsSince: number;
}
