import type { ShowRecord } from '../src/core/show';
import { BenchDevice } from './device';
import { freePort } from '../src/server/free-port';
import { dragFrames, openBrowser, say } from './browser';
import { macro, take } from './macro-records';
import { end, showOfOneDevice, startProgram } from './processes';

const steps = 500;

/** The timeline of a macro with 500 steps, in a real browser: the time between frames while one of them is dragged. */
export async function measureMacroEditor(): Promise<void> {
  const browser = await openBrowser('the timeline');
  if (!browser) return;
  const port = await freePort();
  const device = new BenchDevice(true);
  const many: ShowRecord = macro(
    'mac-many',
    Array.from({ length: steps }, (_, n) => ({ id: `s${n}`, at: n * 100, does: take(n) })),
  );
  const child = await startProgram(port, [...showOfOneDevice(await device.listen()), many]);
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    await page.goto(`http://127.0.0.1:${port}/macros/mac-many`);
    await page
      .locator('[data-step]')
      .nth(steps - 1)
      .waitFor({ state: 'attached' });
    await page.waitForTimeout(3000);
    say(`Frames while a step is dragged among ${steps}`, await dragFrames(page, '[data-step]'), 20, 'p95');
  } finally {
    await browser.close();
    await end(child);
    device.close();
  }
}
