import { existsSync } from 'node:fs';
import { chromium, type Browser, type Page } from '@playwright/test';

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
