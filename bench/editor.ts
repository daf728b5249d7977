import { spawn } from 'node:child_process';
import { existsSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium, type Page } from '@playwright/test';
import WebSocket from 'ws';
import { demoShow } from '../demo/show';
import type { ShowRecord } from '../src/core/show';
import { freePort } from '../src/server/free-port';
import { commitEdit, openShow } from '../src/store';
import { summarise } from './stats';

/**
 * The page editor with 100 pages of 100 controls, in a real browser: from the click on a page to its being usable, the time
 * between frames while a control is dragged, and from an edit to the message at a panel.
 */
const pages = 100;
const columns = 10;
const repeats = 40;

export async function measureEditor(): Promise<void> {
  const executablePath = ['/usr/bin/chromium', '/usr/bin/chromium-browser'].find((path) => existsSync(path));
  if (!executablePath) return console.log('\nNo Chromium here: the editor was not measured.');
  const folder = mkdtempSync(join(tmpdir(), 'sorrelfinch-bench-'));
  const port = await freePort();
  const { db, close } = openShow(folder);
  // One edit may have 2,000 changes.
  const records = manyPages();
  for (let n = 0; n < records.length; n += 2000) {
    const changes = records.slice(n, n + 2000).map((record) => ({ op: 'add' as const, record }));
    commitEdit(db, { title: 'Bench', changes }, 'bench', Date.now());
  }
  close();
  const child = spawn(process.execPath, ['dist/supervisor.js'], {
    env: { ...process.env, PORT: String(port), DATA_DIR: folder },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  const browser = await chromium.launch({ executablePath, args: ['--no-sandbox'] });
  try {
    await new Promise<void>((resolve) =>
      child.stdout.on('data', (text) => String(text).includes('is ready') && resolve()),
    );
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    await page.goto(`http://127.0.0.1:${port}/pages/page-0?edit=1`);
    await page.locator('.edit-grid [data-control]').nth(99).waitFor();
    await page.waitForTimeout(3000);
    say('Opening a page of 100 controls among 100 pages, click to usable', await openings(page), 300, 'p50');
    say('Frames while a control is dragged among 100', await dragFrames(page), 20, 'p95');
    say('Edit in the browser to message at a panel', await editsToPanel(page, port), 100, 'p95');
  } finally {
    await browser.close();
    child.kill('SIGTERM');
    await new Promise((resolve) => child.once('exit', resolve));
    rmSync(folder, { recursive: true, force: true });
  }
}

function say(what: string, samples: readonly number[], aimMs: number, at: 'p50' | 'p95'): void {
  const { p50, p99 } = summarise([...samples]);
  const sorted = [...samples].sort((a, b) => a - b);
  const p95 = sorted[Math.floor(sorted.length * 0.95)] ?? 0;
  console.log(
    `\n${what}\n  p50 ${p50.toFixed(1)}  p95 ${p95.toFixed(1)}  p99 ${p99.toFixed(1)} ms, ${samples.length} samples (aim: ${at} ${aimMs} ms)`,
  );
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

async function dragFrames(page: Page): Promise<number[]> {
  const box = await page.locator('.edit-grid [data-control]').first().boundingBox();
  if (!box) throw new Error('Nothing to drag.');
  const frames = page.evaluate(`new Promise((resolve) => {
    const times = [];
    let last = performance.now();
    const until = last + 6000;
    requestAnimationFrame(function frame(now) {
      times.push(now - last);
      last = now;
      if (now < until) requestAnimationFrame(frame);
      else resolve(times);
    });
  })`) as Promise<number[]>;
  await page.mouse.move(box.x + 20, box.y + 20);
  await page.mouse.down();
  const until = performance.now() + 5600;
  for (let n = 0; performance.now() < until; n += 1) {
    await page.mouse.move(box.x + 20 + ((n * 9) % 700), box.y + 20 + ((n * 5) % 420));
    await page.waitForTimeout(8);
  }
  const times = await frames;
  await page.keyboard.press('Escape');
  await page.mouse.move(box.x + 20, box.y + 20);
  await page.mouse.up();
  return times.slice(1);
}

async function editsToPanel(page: Page, port: number): Promise<number[]> {
  const id = new URL(page.url()).pathname.split('/').at(-1) ?? '';
  const socket = new WebSocket(`ws://127.0.0.1:${port}/live?as=panel`);
  await new Promise((resolve) => socket.once('open', resolve));
  socket.send(JSON.stringify({ t: 'sub', topics: [`page:${id}`] }));
  await new Promise((resolve) => setTimeout(resolve, 500));
  await page.locator('.edit-grid [data-control]').nth(5).click();
  const label = page.getByRole('combobox', { name: 'Label' });
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

function manyPages(): ShowRecord[] {
  const rig = demoShow(4400).filter((record) => record.kind !== 'page' && record.kind !== 'control');
  return [
    ...rig.map((record) =>
      record.kind === 'device' ? { ...record, data: { ...record.data, enabled: false } } : record,
    ),
    ...Array.from({ length: pages }, (_, p) => [
      {
        kind: 'page' as const,
        id: `page-${p}`,
        version: 1,
        data: { name: `Page ${p}`, order: p, columns, rows: 10, note: '', zones: [] },
      },
      ...Array.from({ length: 100 }, (__, n): ShowRecord => ({
        kind: 'control',
        id: `ctl-${p}-${n}`,
        version: 1,
        data: {
          page: `page-${p}`,
          type: 'button',
          col: n % columns,
          row: Math.floor(n / columns),
          cols: 1,
          rows: 1,
          label: [{ text: `Take ${n} ` }, { reading: { device: 'dev-switcher', key: 'program' } }],
          values: { input: (n % 12) + 1 },
          responses: { tap: [{ device: 'dev-switcher', command: 'take', params: { input: { value: 'input' } } }] },
          lamps: [
            {
              when: { op: 'equals', reading: { device: 'dev-switcher', key: 'program' }, to: { value: 'input' } },
              show: 'onAir',
            },
          ],
        },
      })),
    ]).flat(),
  ];
}
