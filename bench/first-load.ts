import type { Browser } from '@playwright/test';
import { freePort } from '../src/server/free-port';
import { openBrowser } from './browser';
import { BenchDevice } from './device';
import { page as benchPage } from './paths';
import { end, showOfOneDevice, startProgram } from './processes';
import { median } from './stats';

const slower = 4;
const loads = 9;

/** From opening a panel's address in a fresh browser until its controls can be pressed, on a processor slowed down, and its script in bytes. */
export async function measureFirstLoad(): Promise<void> {
  const browser = await openBrowser('the first load of a panel');
  if (!browser) return;
  const device = new BenchDevice(true);
  const port = await freePort();
  const program = await startProgram(port, showOfOneDevice(await device.listen()));
  try {
    const url = `http://127.0.0.1:${port}/panel/${benchPage}`;
    const all: Load[] = [];
    for (let n = 0; n < loads; n += 1) all.push(await oneLoad(browser, url));
    const of = (key: keyof Load) => median(all.map((each) => each[key]));
    console.log(`\nFirst load of a panel, processor ${slower}x slower, ${loads} fresh browsers, medians`);
    console.log(`  drawn ${of('drawnMs').toFixed(0)} ms, can be pressed ${of('readyMs').toFixed(0)} ms (aim 1,000 ms)`);
    console.log(`  script ${(of('bytes') / 1000).toFixed(1)} kB compressed (aim 200 kB), in ${of('files')} files`);
  } finally {
    await browser.close();
    await end(program);
    device.close();
  }
}

interface Load {
  readonly drawnMs: number;
  readonly readyMs: number;
  readonly bytes: number;
  readonly files: number;
}

async function oneLoad(browser: Browser, url: string): Promise<Load> {
  const context = await browser.newContext({ viewport: { width: 1024, height: 768 }, hasTouch: true });
  const page = await context.newPage();
  const client = await context.newCDPSession(page);
  await client.send('Emulation.setCPUThrottlingRate', { rate: slower });
  // Noted in the browser itself: what asks from outside is slowed down too.
  await page.addInitScript(`
    (function look() {
      const control = document.querySelector('[data-control] button, button[data-control]');
      if (control && !control.disabled && control.getAttribute('aria-disabled') !== 'true') window.readyAtMs ??= performance.now();
      else requestAnimationFrame(look);
    })();
  `);
  await page.goto(url, { waitUntil: 'commit' });
  // Left alone until then: whoever asks the browser meanwhile slows it down.
  await page.waitForTimeout(3000);
  const readyMs = (await page.evaluate('window.readyAtMs')) as number;
  const drawnMs = (await page.evaluate(
    `performance.getEntriesByName('first-contentful-paint')[0]?.startTime ?? NaN`,
  )) as number;
  // As they came over the network, compressed by the program.
  const sizes = (await page.evaluate(
    `performance.getEntriesByType('resource').filter((each) => each.initiatorType === 'script').map((each) => each.encodedBodySize)`,
  )) as number[];
  await context.close();
  return { drawnMs, readyMs, bytes: sizes.reduce((a, b) => a + b, 0), files: sizes.length };
}
