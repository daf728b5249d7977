import { mkdirSync, rmSync } from 'node:fs';
import { chromium, type Browser, type Page } from '@playwright/test';
import playwright from '../playwright.config';
import { Program } from './program';

/** One picture of each main view, from the demo show. */
const folder = 'docs/screenshots';
const desk = { width: 1280, height: 800 };

mkdirSync(folder, { recursive: true });
const program = await Program.start();
const browser = await chromium.launch(playwright.use?.launchOptions);
try {
  const take = (n: number) => program.operate('operate', { verb: 'take', input: n });
  await shoot(browser, 'rig-dark', 'dark', desk, '/rig', (page) => page.getByText('Mix rate').waitFor());
  await take(1);
  await shoot(browser, 'page-dark', 'dark', desk, '/pages/page-race', async (page) => {
    await page.locator('[data-control="ctl-program-3"]').click();
    await page.locator('[data-control="ctl-program-3"][data-lamp="onAir"]').waitFor();
  });
  await shoot(browser, 'edit-dark', 'dark', desk, '/pages/page-race', async (page) => {
    await page.getByRole('radio', { name: 'Edit' }).click();
    await page.locator('[data-control="ctl-program-3"]').click();
    await page.getByRole('heading', { name: 'Finish' }).waitFor();
  });
  await shoot(browser, 'palette-light', 'light', desk, '/pages/page-race', async (page) => {
    await page.keyboard.press('Control+k');
    await page.getByRole('combobox').waitFor();
  });
  await shoot(browser, 'panel-light', 'light', desk, '/panel/page-race', async (page) => {
    await page.locator('[data-control="ctl-auto"]').click();
    await page.locator('[data-control="ctl-auto"][data-lamp="active"]').waitFor();
  });
  await program.operate('power', { on: false });
  await shoot(browser, 'panel-down-dark', 'dark', desk, '/panel/page-race', async (page) => {
    await page.locator('[data-lamp="unknown"]').first().waitFor();
    await page.locator('[data-control="ctl-program-4"]').click();
  });
  await program.operate('power', { on: true });
  await shoot(browser, 'panel-phone-dark', 'dark', { width: 390, height: 844 }, '/panel/page-race', (page) =>
    page.locator('[data-lamp="onAir"]').waitFor(),
  );
  await shoot(browser, 'wire-dark', 'dark', desk, '/wire', (page) => page.getByText('ASK all').waitFor());
  await shoot(browser, 'as-run-light', 'light', desk, '/as-run', (page) => page.getByText('Race · Finish').waitFor());
  await shoot(browser, 'standin-switcher', 'dark', desk, `${program.standinUrl}/sw1`, (page) =>
    page.getByText('1 connected').waitFor(),
  );
} finally {
  await browser.close();
  await program.stop();
  rmSync(program.dataDir, { recursive: true, force: true });
}
process.exit(0);

async function shoot(
  from: Browser,
  name: string,
  theme: 'dark' | 'light',
  viewport: { width: number; height: number },
  path: string,
  ready: (page: Page) => Promise<unknown>,
): Promise<void> {
  const context = await from.newContext({ viewport });
  await context.addInitScript((chosen) => localStorage.setItem('theme', chosen), theme);
  const page = await context.newPage();
  await page.goto(path.startsWith('http') ? path : program.url + path);
  await ready(page);
  await page.evaluate(() => document.fonts.ready);
  await page.waitForTimeout(300);
  await page.screenshot({ path: `${folder}/${name}.png` });
  await context.close();
  console.log(name);
}
