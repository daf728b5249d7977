import { mkdirSync, rmSync } from 'node:fs';
import { chromium, type Browser, type Page } from '@playwright/test';
import playwright from '../playwright.config';
import { allUp, openDevice } from './hand';
import { Program } from './program';
import { paced } from '../test/support/pace';

/** One picture of each main view, from the demo show. */
const folder = 'docs/screenshots';
const desk = { width: 1280, height: 800 };

mkdirSync(folder, { recursive: true });
const program = await Program.start();
const browser = await chromium.launch(playwright.use?.launchOptions);
try {
  const take = (n: number) => program.operate('operate', { verb: 'take', input: n });
  await shoot(browser, 'rig-dark', 'dark', desk, '/rig', async (page) => {
    await allUp(page);
    await openDevice(page, 'Audio mixer', 'Readings');
    await page.getByText('Commentary 1').waitFor();
  });
  await shoot(browser, 'snapshots-light', 'light', desk, '/snapshots?open=snap-3', async (page) => {
    await page.getByRole('group', { name: 'Boxes' }).waitFor();
    await page.getByRole('button', { name: 'Call up Two crews' }).click();
    await page.getByText('There', { exact: true }).first().waitFor();
  });
  await shoot(browser, 'line-check-dark', 'dark', desk, '/line-check', async (page) => {
    await allUp(page);
    await page.getByRole('status').filter({ hasText: 'proved' }).waitFor();
    await page.getByRole('button', { name: 'Check the show' }).click();
    await page.getByRole('button', { name: 'Cancel check' }).waitFor();
    await page.getByRole('button', { name: 'Cancel check' }).waitFor({ state: 'hidden', timeout: paced(120_000) });
    await page.getByRole('button', { name: /^SW1/ }).click();
    await page.getByRole('button', { name: 'Take 3 to program' }).click();
  });
  await shoot(browser, 'drivers-light', 'light', desk, '/drivers', async (page) => {
    await page.getByRole('button', { name: 'Install a driver' }).click();
    const bench = page.getByRole('region', { name: 'Bench' });
    await bench.getByRole('textbox', { name: /^One message a line/ }).fill(dimmer());
    await bench.getByRole('button', { name: 'Take these messages' }).click();
    await bench.getByRole('button', { name: 'Start a document' }).first().click();
    const rows = bench.getByRole('list', { name: 'Frames' }).getByRole('listitem');
    await rows.nth(1).getByRole('checkbox').check();
    await bench.getByRole('button', { name: /more of the same kind/ }).click();
    await bench.getByLabel('What it reports').fill('Level');
    await bench.getByText('Level of each number').waitFor();
  });
  await shoot(browser, 'pontoon-dark', 'dark', desk, '/panel/page-pontoon', async (page) => {
    await page.getByRole('slider').first().waitFor();
    await page.getByRole('option').first().waitFor();
  });
  await take(1);
  await shoot(browser, 'page-dark', 'dark', desk, '/pages/page-race', async (page) => {
    await page.locator('[data-control="ctl-program-3"]').click();
    await page.locator('[data-control="ctl-program-3"][data-lamp="onAir"]').waitFor();
  });
  await shoot(browser, 'edit-dark', 'dark', desk, '/pages/page-race', async (page) => {
    await page.getByRole('radio', { name: 'Edit' }).click();
    await page.locator('[data-control="ctl-program-3"]').click();
    await page.getByRole('heading', { level: 2, name: 'Finish' }).waitFor();
    await page.getByRole('button', { name: 'Series', exact: true }).click();
    await page.locator('.overlay-member').first().waitFor();
  });
  await shoot(browser, 'cameras-dark', 'dark', desk, '/panel/cameras', async (page) => {
    await page.getByRole('button', { name: /C2 Mid-course/ }).click();
    await page.locator('[data-preset="2"]').click();
    await page.locator('[data-preset="2"][data-mark="reached"]').waitFor();
    await page.locator('.shown-picture img').first().waitFor();
    await page.waitForTimeout(1500);
  });
  await shoot(browser, 'panel-light', 'light', desk, '/panel/page-lights', async (page) => {
    await page.locator('[data-control="ctl-lights-2-1"]').click();
    await page.locator('[data-control="ctl-lights-2-1"][data-lamp="active"]').waitFor();
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
  await shoot(browser, 'test-dark', 'dark', desk, '/rig', async (page) => {
    const row = page.getByRole('article', { name: 'Vision switcher' });
    await openDevice(page, 'Vision switcher', 'Settings');
    const port = Number(await row.getByLabel('Port', { exact: true }).inputValue());
    await row.getByLabel('Port', { exact: true }).fill(String(port + 40));
    await row.getByRole('button', { name: 'Test connection' }).click();
    const mend = row.getByRole('button', { name: `Use port ${port}` });
    await mend.waitFor();
    await mend.scrollIntoViewIfNeeded();
  });
  await shoot(browser, 'watches-dark', 'dark', desk, '/watches?open=watch-2', async (page) => {
    await allUp(page);
    await page.getByRole('button', { name: 'Fire now' }).click();
    await page.getByText(/^Fired once/).waitFor();
  });
  await shoot(browser, 'wire-dark', 'dark', desk, '/wire', async (page) => {
    await page.getByLabel(/hide polling/).check();
    await page.getByRole('row').nth(5).waitFor();
  });
  await shoot(browser, 'as-run-light', 'light', desk, '/as-run', async (page) => {
    await page.getByPlaceholder('any word').fill('Race');
    await page.getByText('Race · ').first().waitFor();
  });
  await shoot(browser, 'standin-switcher', 'dark', desk, `${program.standinUrl}/sw1`, (page) =>
    page.getByText('1 connected').waitFor(),
  );
  const screens = await browser.newContext({ viewport: desk });
  for (const path of ['director', 'sound']) {
    const panel = await screens.newPage();
    await panel.goto(`${program.url}/panel/${path}`);
    await panel.locator('[data-control]').first().waitFor();
  }
  await shoot(browser, 'panels-dark', 'dark', desk, '/panels', async (page) => {
    await page
      .getByRole('combobox', { name: /^Page of panel/ })
      .nth(1)
      .waitFor();
  });
  await shoot(browser, 'macro-dark', 'dark', desk, '/macros/mac-wipe', async (page) => {
    await page.getByRole('button', { name: 'Start live' }).click();
    await page
      .getByRole('img', { name: /^confirmed; sent/ })
      .nth(9)
      .waitFor();
    await page.getByRole('button', { name: /^Cut to preview, at/ }).click();
    await page.locator('[data-step]', { hasText: 'Cut' }).scrollIntoViewIfNeeded();
  });
  // The last one: an incident is told on every page.
  await program.operate('faults', { delayMs: 140 }, 'c2');
  await shoot(browser, 'health-dark', 'dark', desk, '/health', async (page) => {
    await page.getByRole('list', { name: 'Incidents that go on' }).waitFor({ timeout: paced(120_000) });
    await page.getByRole('button', { name: 'C2 Mid-course' }).click();
    await page.getByRole('img', { name: /^Last 10 minutes/ }).waitFor();
  });
} finally {
  await browser.close();
  await program.stop();
  rmSync(program.dataDir, { recursive: true, force: true });
}
process.exit(0);

/** What a dimmer says that nobody has described: `7E`, a length, `21` to set or `41` to report, channel, level, sum. */
function dimmer(): string {
  const frame = (kind: number, ...values: number[]) => {
    const body = [0x7e, values.length + 2, kind, ...values];
    return Buffer.from([...body, body.reduce((all, byte) => all + byte, 0) & 255])
      .toString('hex')
      .replace(/..(?=.)/g, '$& ');
  };
  const lines = Array.from({ length: 12 }, (_, n) => [n + 1, (n * 47) % 256] as const);
  return lines.flatMap((values) => [`> ${frame(0x21, ...values)}`, frame(0x41, ...values)]).join('\n');
}

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
