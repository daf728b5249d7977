import { existsSync } from 'node:fs';
import { chromium, type Browser, type Page } from '@playwright/test';
import { summarise } from './stats';

/** A browser, or nothing where there is none: then it says so. */
export async function openBrowser(what: string): Promise<Browser | undefined> {
  const executablePath = ['/usr/bin/chromium', '/usr/bin/chromium-browser'].find((path) => existsSync(path));
  if (executablePath) return chromium.launch({ executablePath, args: ['--no-sandbox'] });
  console.log(`\nNo Chromium here: ${what} was not measured.`);
  return undefined;
}

/** The times between two frames, in milliseconds, for so long. */
export async function framesOf(page: Page, forMs: number): Promise<number[]> {
  // As text: what is translated on the way would not be known in the browser.
  const times = (await page.evaluate(`new Promise((resolve) => {
    const times = [];
    let last = performance.now();
    const until = last + ${forMs};
    requestAnimationFrame(function frame(now) {
      times.push(now - last);
      last = now;
      if (now < until) requestAnimationFrame(frame);
      else resolve(times);
    });
  })`)) as number[];
  return times.slice(1);
}

/** The times between frames while the first of these is dragged about for some seconds and put back. */
export async function dragFrames(page: Page, selector: string): Promise<number[]> {
  const box = await page.locator(selector).first().boundingBox();
  if (!box) throw new Error('Nothing to drag.');
  const frames = framesOf(page, 6000);
  await page.mouse.move(box.x + 20, box.y + 20);
  await page.mouse.down();
  const until = performance.now() + 5600;
  for (let n = 0; performance.now() < until; n += 1) {
    await page.mouse.move(box.x + 20 + ((n * 9) % 600), box.y + 20 + ((n * 5) % 420));
    await page.waitForTimeout(8);
  }
  const times = await frames;
  await page.keyboard.press('Escape');
  await page.mouse.move(box.x + 20, box.y + 20);
  await page.mouse.up();
  return times;
}

/** Says what was measured in the browser, with the aim. */
export function say(what: string, samples: readonly number[], aimMs: number, at: 'p50' | 'p95'): void {
  const { p50, p99 } = summarise([...samples]);
  const sorted = [...samples].sort((a, b) => a - b);
  const p95 = sorted[Math.floor(sorted.length * 0.95)] ?? 0;
  console.log(
    `\n${what}\n  p50 ${p50.toFixed(1)}  p95 ${p95.toFixed(1)}  p99 ${p99.toFixed(1)} ms, ${samples.length} samples (aim: ${at} ${aimMs} ms)`,
  );
}
