import { fork } from 'node:child_process';
import { compare, type Scale } from './compare';
import { framesOf, openBrowser } from './browser';
import { end, startBoth, started } from './processes';

const crowdSize = 200;
const crowdRate = 20;

/**
 * Press to device byte while engine and relay each hold a crowd of devices that report all the time. The engine has the whole demo show
 * besides, with decks, encoders, cameras and a multiviewer, and every one of the crowd is tied.
 */
export async function measureCrowd(scale: Scale): Promise<void> {
  const crowd = fork('bench/crowd.mjs', [String(crowdSize), String(crowdRate)]);
  started(crowd);
  const { ports } = await new Promise<{ ports: number[] }>((resolve) =>
    crowd.once('message', (m) => resolve(m as never)),
  );
  const { bare, own, port, close } = await startBoth(ports);
  const reportedOf = () =>
    new Promise<number>((resolve) => {
      crowd.once('message', (message) => resolve((message as { reported: number }).reported));
      crowd.send('how many');
    });
  const before = await reportedOf();
  const startedAt = performance.now();
  const meanwhile = `${crowdSize} devices reporting ${crowdRate} times a second each`;
  await compare(scale, `Press to device byte, ${meanwhile}`, bare, own, 'press', { p50: 1.5, p99: 2 });
  const rate = ((await reportedOf()) - before) / ((performance.now() - startedAt) / 1000);
  const { links } = (await (await fetch(`http://127.0.0.1:${port}/api/health`)).json()) as {
    links: { link: { word: string }; faults: number }[];
  };
  const up = links.filter(({ link }) => link.word === 'up').length;
  const faults = links.reduce((all, each) => all + each.faults, 0);
  console.log(
    `\nMeanwhile each of the two got ${(rate / 2).toFixed(0)} reports a second; ${up} of ${links.length} devices are up, ${faults} frames could not be read.`,
  );
  await measureRigFrames(port);
  await close();
  await end(crowd);
}

/** How smoothly the rig screen draws while all those devices report: the time between two frames, in a real browser. */
async function measureRigFrames(port: number): Promise<void> {
  const browser = await openBrowser('the rig screen');
  if (!browser) return;
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    await page.goto(`http://127.0.0.1:${port}/rig`);
    await page.getByText(`${crowdSize + 13} devices`).waitFor();
    await page.waitForTimeout(3000);
    const frames = await framesOf(page, 10_000);
    const sorted = [...frames].sort((a, b) => a - b);
    const at = (share: number) => (sorted[Math.floor(sorted.length * share)] ?? 0).toFixed(1);
    console.log(
      `\nRig screen with ${crowdSize + 13} devices, frames: p50 ${at(0.5)} ms, p95 ${at(0.95)} ms (aim 20 ms)`,
    );
  } finally {
    await browser.close();
  }
}
