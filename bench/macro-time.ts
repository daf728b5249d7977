import { fork } from 'node:child_process';
import WebSocket from 'ws';
import type { MacroRunsView } from '../src/core/live';
import type { ShowRecord } from '../src/core/show';
import { freePort } from '../src/server/free-port';
import { BenchDevice } from './device';
import { macro, take } from './macro-records';
import { end, loadedPage, pause, showOfOneDevice, startProgram, started } from './processes';
import { median, summarise, type Summary } from './stats';

const macros = 50;
const steps = 40;
const everyMs = 50;
const runs = 5;

/** Steps of macros, planned to sent, against a bare timer loop of as many; idle and while pages are loaded; and the drift over minutes. */
export async function measureMacros(driftMinutes: number): Promise<void> {
  const device = new BenchDevice(true);
  const bareDevice = new BenchDevice(false);
  const barePort = await bareDevice.listen();
  const port = await freePort();
  const program = await startProgram(port, [
    ...showOfOneDevice(await device.listen()),
    ...manyMacros(),
    driftMacro(driftMinutes),
  ]);
  const desk = await Desk.open(port);
  await compareTo('idle', desk, barePort);
  const load = started(fork('bench/page-load.mjs', [`http://127.0.0.1:${port}${loadedPage}`, '4']));
  await pause(2000);
  await compareTo(`4 loads of ${loadedPage} in flight`, desk, barePort);
  await end(load);
  await measureDrift(desk, driftMinutes);
  desk.close();
  await end(program);
  device.close();
  bareDevice.close();
}

async function compareTo(meanwhile: string, desk: Desk, barePort: number): Promise<void> {
  const bare: Summary[] = [];
  const own: Summary[] = [];
  for (let run = 0; run < runs; run += 1) {
    bare.push(summarise(await bareTimer(barePort)));
    own.push(summarise(await desk.runAll()));
  }
  console.log(`\n${macros} macros of ${steps} steps at once, planned to sent, ${meanwhile}`);
  for (const key of ['p50', 'p99'] as const) {
    const [base, ours] = [bare, own].map((all) => median(all.map((one) => one[key]))) as [number, number];
    const ratio = ours / base;
    const verdict = key === 'p99' ? (ratio <= 2 ? '  within 2x' : '  OVER 2x') : '';
    console.log(
      `  ${key}  bare timer loop ${base.toFixed(3)}   Sorrelfinch ${ours.toFixed(3)}   ratio ${ratio.toFixed(2)}x${verdict}`,
    );
  }
}

async function measureDrift(desk: Desk, minutes: number): Promise<void> {
  const past = await desk.run('mac-drift', minutes * 60_000 + 20_000);
  const late = past.steps.map(({ sentMs = 0, plannedMs }) => sentMs - plannedMs);
  const tenth = Math.max(1, Math.floor(late.length / 10));
  const first = summarise(late.slice(0, tenth)).p50;
  const last = summarise(late.slice(-tenth)).p50;
  console.log(
    `\nDrift over ${minutes} minutes, ${late.length} steps: late at the median ${first.toFixed(3)} ms in the first tenth, ${last.toFixed(3)} ms in the last`,
  );
}

async function bareTimer(port: number): Promise<number[]> {
  const child = fork('bench/bare-timer.mjs', [macros, steps, everyMs, port].map(String));
  const { late } = await new Promise<{ late: number[] }>((resolve) =>
    child.once('message', (m) => resolve(m as never)),
  );
  await end(child);
  return late;
}

/** A desk that begins macros and reads what became of them. */
class Desk {
  private count = 0;
  private constructor(private readonly socket: WebSocket) {}

  static async open(port: number): Promise<Desk> {
    const socket = new WebSocket(`ws://127.0.0.1:${port}/live`, { perMessageDeflate: false });
    // Each run waits for its own.
    socket.setMaxListeners(0);
    await new Promise((resolve) => socket.once('open', resolve));
    return new Desk(socket);
  }

  /** All at once; resolves with how late each step was. */
  async runAll(): Promise<number[]> {
    const all = await Promise.all(Array.from({ length: macros }, (_, n) => this.run(`mac-${n}`, 60_000)));
    return all.flatMap(({ steps: ran }) => ran.map(({ sentMs = Number.NaN, plannedMs }) => sentMs - plannedMs));
  }

  async run(macro: string, withinMs: number): Promise<MacroRunsView['past'][number]> {
    const id = `bench-run-${(this.count += 1)}`;
    const ended = this.next(`"id":"${id}"`, (text) => !text.includes('"waiting"'), withinMs);
    this.socket.send(JSON.stringify({ t: 'run', id, macro, params: {}, aim: 'live' }));
    await ended;
    const whole = this.next(`"topic":"macro:${macro}"`, () => true, 10_000);
    this.socket.send(JSON.stringify({ t: 'sub', topics: [`macro:${macro}`] }));
    const { data } = JSON.parse(await whole) as { data: MacroRunsView };
    this.socket.send(JSON.stringify({ t: 'unsub', topics: [`macro:${macro}`] }));
    const past = data.past.find((each) => each.id === id);
    if (!past) throw new Error(`No run ${id} of ${macro}.`);
    return past;
  }

  close(): void {
    this.socket.close();
  }

  private next(part: string, fits: (text: string) => boolean, withinMs: number): Promise<string> {
    return new Promise((resolve, reject) => {
      const deadline = setTimeout(() => reject(new Error(`Nothing with ${part} came.`)), withinMs);
      const onMessage = (data: WebSocket.RawData) => {
        const text = String(data);
        if (!text.includes(part) || !fits(text)) return;
        clearTimeout(deadline);
        this.socket.off('message', onMessage);
        resolve(text);
      };
      this.socket.on('message', onMessage);
    });
  }
}

const manyMacros = (): ShowRecord[] =>
  Array.from({ length: macros }, (_, m) =>
    macro(
      `mac-${m}`,
      // Each at times of its own, as in the bare loop.
      Array.from({ length: steps }, (__, n) => ({ id: `s${n}`, at: 300 + n * everyMs + m * 1.7, does: take(n) })),
    ),
  );

/** A step every three seconds. */
const driftMacro = (minutes: number): ShowRecord =>
  macro(
    'mac-drift',
    Array.from({ length: minutes * 20 }, (_, n) => ({ id: `d${n}`, at: (n + 1) * 3000, does: take(n) })),
  );
