import { fork, type ChildProcess } from 'node:child_process';
import { compare, type Scale } from './compare';
import { end, loadedPage, pause, startBoth, started } from './processes';

const loadsInFlight = 4;

/** A press and a report through one device: idle, and while pages are loaded. */
export async function measureOneDevice(scale: Scale, wanted: (part: 'idle' | 'load') => boolean): Promise<void> {
  const { bare, own, port, close } = await startBoth();
  if (wanted('idle')) {
    await compare(scale, 'Press to device byte, idle', bare, own, 'press', { p50: 1.5, p99: 2 });
    await compare(scale, 'Report to panel message, idle', bare, own, 'report', { p99: 2 });
  }
  if (wanted('load')) {
    const load = started(fork('bench/page-load.mjs', [`http://127.0.0.1:${port}${loadedPage}`, String(loadsInFlight)]));
    await pause(2000);
    const before = await loadsOf(load);
    const startedAt = performance.now();
    const meanwhile = `${loadsInFlight} loads of ${loadedPage} in flight`;
    await compare(scale, `Press to device byte, ${meanwhile}`, bare, own, 'press', { p99: 3 });
    await compare(scale, `Report to panel message, ${meanwhile}`, bare, own, 'report', { p99: 3 });
    const rate = ((await loadsOf(load)) - before) / ((performance.now() - startedAt) / 1000);
    console.log(`\nMeanwhile ${rate.toFixed(0)} pages a second were loaded.`);
    await end(load);
  }
  await close();
}

function loadsOf(child: ChildProcess): Promise<number> {
  return new Promise((resolve) => {
    child.once('message', (message) => resolve((message as { loads: number }).loads));
    child.send('how many');
  });
}
