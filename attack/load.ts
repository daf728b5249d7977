import { fork } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { Program } from '../e2e/program';
import { freePort } from '../src/server/free-port';
import { end, pause, showOfCrowd, startProgram, startStandins } from '../bench/processes';
import { BenchDevice } from '../bench/device';
import { Panel } from './panel';
import { becomes, note, percentile, sleep } from './report';

const panels = 64;
const devices = 200;

/** Sixty-four panels and two hundred devices that report all the time: what the engine keeps, and how long a press takes. */
export async function crowd(minutes: number): Promise<void> {
  const others = fork('bench/crowd.mjs', [String(devices), '20']);
  const { ports } = await new Promise<{ ports: number[] }>((resolve) =>
    others.once('message', (m) => resolve(m as never)),
  );
  const device = new BenchDevice(true);
  const base = 15_000 + (process.pid % 500) * 20;
  const standins = await startStandins(base);
  const port = await freePort();
  const program = await startProgram(port, showOfCrowd(await device.listen(), ports, base));
  const url = `http://127.0.0.1:${port}`;
  const all = Array.from(
    { length: panels },
    (_, n) => new Panel(url, `crowd${n}`, ['page-race', 'page-cameras', 'page-streams']),
  );
  try {
    await becomes(() => all.every((each) => each.lamp('page-race', 'ctl-program-1') !== undefined), 20_000);
    const health = (await (await fetch(`${url}/api/health`)).json()) as { processes: { name: string; pid: number }[] };
    const pid = health.processes.find(({ name }) => name === 'engine')?.pid ?? 0;
    const rss = () => Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))?.[1] ?? 0) / 1024;
    // What is filled once (rings, pages, code that is compiled as it gets hot) is no leak.
    await press(all, minutes * 60_000 * 0.3);
    const before = rss();
    all.forEach((each) => (each.delays.length = 0));
    await press(all, minutes * 60_000 * 0.7);
    const after = rss();
    const delays = all.flatMap((each) => each.delays);
    const grown = (after / before - 1) * 100;
    note(
      `${panels} panels, ${devices} devices, ${minutes} min: memory`,
      `${before.toFixed(0)} MB, then ${after.toFixed(0)} MB (${grown.toFixed(1)} %)`,
      grown <= 5,
    );
    note(
      `${panels} panels, ${devices} devices, ${minutes} min: presses`,
      `${delays.length}, there and back p50 ${percentile(delays, 0.5).toFixed(1)} ms, p99 ${percentile(delays, 0.99).toFixed(1)} ms`,
      percentile(delays, 0.99) < 250,
    );
  } finally {
    for (const each of all) each.close();
    await Promise.all([program, standins, others].map(end));
    device.close();
  }
}

async function press(all: readonly Panel[], forMs: number): Promise<void> {
  const until = performance.now() + forMs;
  for (let n = 0; performance.now() < until; n += 1) {
    all[n % all.length]?.press('page-race', `ctl-program-${(n % 6) + 1}`);
    await pause(20);
  }
}

/** Each fault of a stand-in on three devices: presses to another device take as long as before. */
export async function faults(): Promise<void> {
  const program = await Program.start();
  const panel = new Panel(program.url, 'faults', ['page-race']);
  try {
    await becomes(() => panel.lamp('page-race', 'ctl-program-1') !== undefined, 10_000);
    await becomes(async () => (await program.health()).ok, 15_000);
    const measure = async () => {
      panel.delays.length = 0;
      for (let n = 0; n < 150; n += 1) {
        panel.press('page-race', `ctl-program-${(n % 6) + 1}`);
        await sleep(12);
      }
      await sleep(500);
      return percentile(panel.delays, 0.99);
    };
    await measure();
    const quiet = Math.max(await measure(), await measure());
    const tags = ['c1', 'r1', 'a1'];
    for (const fault of ['refuse', 'hang', 'garbage', 'taken', 'delayMs', 'lossPercent']) {
      const to = (on: boolean) => (fault === 'delayMs' ? (on ? 800 : 0) : fault === 'lossPercent' ? (on ? 60 : 0) : on);
      for (const tag of tags) await program.operate('faults', { [fault]: to(true) }, tag);
      await sleep(1000);
      const faulty = await measure();
      for (const tag of tags) await program.operate('faults', { [fault]: to(false) }, tag);
      // The 2 ms are what a timer of this computer may be late.
      note(
        `${fault} on three devices: the others’ p99`,
        `${faulty.toFixed(1)} ms, ${quiet.toFixed(1)} ms before (${(faulty / quiet).toFixed(2)}x)`,
        faulty <= quiet * 1.2 + 2,
      );
    }
  } finally {
    panel.close();
    await program.stop();
  }
}
