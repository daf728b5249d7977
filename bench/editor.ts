import type { Page } from '@playwright/test';
import WebSocket from 'ws';
import { freePort } from '../src/server/free-port';
import { dragFrames, openBrowser, say } from './browser';
import { manyPages } from './many-pages';
import { end, startProgram } from './processes';

/**
 * The page editor with 100 pages of 100 controls, in a real browser: from the click on a page to its being usable, the time
 * between frames while a control is dragged, and from an edit to the message at a panel.
 */
const pages = 100;
const repeats = 40;

export async function measureEditor(): Promise<void> {
  const browser = await openBrowser('the editor');
  if (!browser) return;
  const port = await freePort();
  const child = await startProgram(port, manyPages(pages));
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    await page.goto(`http://127.0.0.1:${port}/pages/page-0?edit=1`);
    await page.locator('.edit-grid [data-control]').nth(99).waitFor();
    await page.waitForTimeout(3000);
    say('Opening a page of 100 controls among 100 pages, click to usable', await openings(page), 300, 'p50');
    say('Frames while a control is dragged among 100', await dragFrames(page, '.edit-grid [data-control]'), 20, 'p95');
    say('Edit in the browser to message at a panel', await editsToPanel(page, port), 100, 'p95');
  } finally {
    await browser.close();
    await end(child);
  }
}

/** From the pointer going down on another page's name to the frame in which its last control stands. */
async function openings(page: Page): Promise<number[]> {
  const samples: number[] = [];
  for (let n = 1; n <= repeats; n += 1) {
    const id = `page-${(n * 7) % pages}`;
    // As text: what is translated on the way would not be known in the browser.
    const took = (await page.evaluate(`new Promise((resolve, reject) => {
      const link = document.querySelector('nav[aria-label="Pages"] a[href^="/pages/${id}?"]');
      const startedAt = performance.now();
      link.click();
      requestAnimationFrame(function look() {
        const there = document.querySelectorAll('.edit-grid [data-control^="ctl-${id.slice(5)}-"]').length === 100;
        if (there) requestAnimationFrame(() => resolve(performance.now() - startedAt));
        else if (performance.now() - startedAt > 20000) reject(new Error('It did not open.'));
        else requestAnimationFrame(look);
      });
    })`)) as number;
    samples.push(took);
    await page.waitForTimeout(150);
  }
  return samples;
}

async function editsToPanel(page: Page, port: number): Promise<number[]> {
  const id = new URL(page.url()).pathname.split('/').at(-1) ?? '';
  const socket = new WebSocket(`ws://127.0.0.1:${port}/live?as=panel`);
  await new Promise((resolve) => socket.once('open', resolve));
  socket.send(JSON.stringify({ t: 'sub', topics: [`page:${id}`] }));
  await new Promise((resolve) => setTimeout(resolve, 500));
  await page.locator('.edit-grid [data-control]').nth(5).click();
  const label = page.getByRole('textbox', { name: 'Label', exact: true });
  const samples: number[] = [];
  for (let n = 0; n < repeats; n += 1) {
    await label.fill(`Edit ${n}`);
    const came = new Promise<number>((resolve) => {
      const onMessage = (data: WebSocket.RawData) => {
        if (!String(data).includes(`Edit ${n}`)) return;
        socket.off('message', onMessage);
        resolve(performance.now());
      };
      socket.on('message', onMessage);
    });
    const startedAt = performance.now();
    await label.press('Enter');
    samples.push((await came) - startedAt);
    await page.waitForTimeout(150);
  }
  socket.close();
  return samples;
}
