import { createHash, randomBytes } from 'node:crypto';
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { CDPSession, Page } from '@playwright/test';
import { choose, edited, linksUp, openDevice, pick, stored } from './hand';
import { expect, Program, test } from './program';
import type { ProgramEnds } from './program-ends';
import { paced } from '../test/support/pace';

/** What a hand is promised, with a real pointer and real touches, asserted at the device. */

interface Camera {
  readonly moving: boolean;
  readonly pan: number;
}
const state = async <T>(program: ProgramEnds, tag: string) =>
  (await (await fetch(`${program.standinUrl}/${tag}/state`)).json()) as T;
const moving = async (program: ProgramEnds, tag = 'c1') => (await state<Camera>(program, tag)).moving;
const centreOf = async (page: Page, selector: string) => {
  const box = await page.locator(selector).boundingBox();
  if (!box) throw new Error(`There is no ${selector}.`);
  return { x: box.x + box.width / 2, y: box.y + box.height / 2, width: box.width, height: box.height };
};
const touch = (client: CDPSession, type: 'touchStart' | 'touchMove' | 'touchEnd', points: { x: number; y: number }[]) =>
  client.send('Input.dispatchTouchEvent', { type, touchPoints: points });

for (const [what, change] of [
  [
    'the desk sends the screen to another page',
    (desk: Page) => pick(desk.getByRole('combobox', { name: /^Page of panel/ }), 'Race'),
  ],
  ['the desk has the screen redraw', (desk: Page) => desk.getByRole('button', { name: 'Redraw' }).click()],
  ['the screen is closed', (desk: Page) => desk.getByRole('button', { name: 'Close' }).click()],
] as const)
  test(`a stick stops its camera when ${what} under the hand`, async ({ page, program, context, newScreen }) => {
    await linksUp(program);
    await page.goto(`${program.url}/panel/page-pontoon`);
    const stick = page.locator('[data-kind="stick"]').first();
    await expect(stick).toBeVisible();
    const pad = await centreOf(page, '[data-kind="stick"] .stick-pad >> nth=0');
    const tags = ['c1', 'c2', 'c3', 'c4'];
    const anyMoves = async () => (await Promise.all(tags.map((tag) => moving(program, tag)))).some(Boolean);
    const client = await context.newCDPSession(page);
    const desk = await newScreen();
    await desk.goto(`${program.url}/panels`);
    await expect(desk.getByRole('button', { name: 'Redraw' })).toBeVisible();
    await page.bringToFront();
    await touch(client, 'touchStart', [{ x: pad.x, y: pad.y }]);
    await touch(client, 'touchMove', [{ x: pad.x - pad.width / 8, y: pad.y }]);
    await expect.poll(anyMoves).toBe(true);
    await change(desk);
    // The finger is still on the glass.
    await expect.poll(anyMoves, { timeout: 1500 }).toBe(false);
    await touch(client, 'touchEnd', []);
  });

test('a stick stops its camera when a linked panel goes to another page under the hand', async ({
  page,
  program,
  context,
  newScreen,
}) => {
  await linksUp(program);
  await page.goto(`${program.url}/panels`);
  const director = page.getByRole('listitem', { name: 'Director' });
  await director.getByRole('button', { name: 'Settings' }).click();
  await director.getByLabel('Linked').check();
  const other = await newScreen();
  await other.goto(`${program.url}/panel/director`);
  await other.getByRole('button', { name: 'Pontoon talk' }).click();
  await expect(other.locator('[data-kind="stick"]').first()).toBeVisible();
  await page.goto(`${program.url}/panel/director`);
  await expect(page.locator('[data-kind="stick"]').first()).toBeVisible();
  const pad = await centreOf(page, '[data-kind="stick"] .stick-pad >> nth=0');
  const anyMoves = async () =>
    (await Promise.all(['c1', 'c2', 'c3', 'c4'].map((tag) => moving(program, tag)))).some(Boolean);
  const client = await context.newCDPSession(page);
  await page.bringToFront();
  await touch(client, 'touchStart', [{ x: pad.x, y: pad.y }]);
  await touch(client, 'touchMove', [{ x: pad.x - pad.width / 8, y: pad.y }]);
  await expect.poll(anyMoves).toBe(true);
  await other.getByRole('button', { name: 'Race' }).click();
  await expect(page.locator('[data-control="ctl-cut"]')).toBeVisible();
  await expect.poll(anyMoves, { timeout: 1500 }).toBe(false);
  await touch(client, 'touchEnd', []);
});

test('a button that is held keeps its camera moving for longer than its longest time, and stops it on release', async ({
  page,
  program,
}) => {
  test.setTimeout(paced(120_000));
  await page.goto(`${program.url}/pages/page-race?edit=1`);
  await edited(page, 'Auto').click();
  const response = page.getByRole('region', { name: 'Response' });
  await pick(response.getByRole('combobox', { name: 'It sends', exact: true }), 'c1 pan held', 'Pan and tilt');
  await choose(response.getByRole('combobox', { name: 'When it sends' }), 'while held');
  await response.getByRole('spinbutton', { name: 'Pan speed' }).fill('1');
  await page.keyboard.press('Enter');
  await stored(page);
  await page.goto(`${program.url}/panel/page-race`);
  await page.getByRole('button', { name: /^Auto/ }).hover();
  await page.mouse.down();
  await expect.poll(() => moving(program)).toBe(true);
  for (let seconds = 0; seconds < 24; seconds += 1) {
    await page.waitForTimeout(1000);
    expect([seconds, await moving(program)]).toEqual([seconds, true]);
  }
  await page.mouse.up();
  await expect.poll(() => moving(program), { timeout: 1500 }).toBe(false);
});

test('a live trial in the editor sends the release, too, and asks what the control asks', async ({ page, program }) => {
  const keys = async () => (await state<{ keys: { on: boolean }[] }>(program, 'sw1')).keys[3]?.on;
  await page.goto(`${program.url}/pages/page-race?edit=1`);
  await edited(page, 'Auto').click();
  const response = page.getByRole('region', { name: 'Response' });
  await pick(response.getByRole('combobox', { name: 'It sends', exact: true }), 'sw1 key off', 'Key');
  await response.getByRole('spinbutton', { name: 'Key', exact: true }).fill('4');
  await page.keyboard.press('Enter');
  await choose(response.getByRole('combobox', { name: 'On', exact: true }), 'on');
  await response.getByText('More than a tap').click();
  const release = response.getByRole('group', { name: 'Release' });
  await pick(release.getByRole('combobox', { name: 'On release' }), 'sw1 key off', 'Key');
  await release.getByRole('spinbutton', { name: 'Key', exact: true }).fill('4');
  await page.keyboard.press('Enter');
  await choose(release.getByRole('combobox', { name: 'On', exact: true }), 'off');
  await stored(page);
  const trial = page.getByRole('region', { name: 'Try it' });
  await choose(trial.getByRole('combobox', { name: 'Aim of the trial' }), 'live: to the devices');
  await trial.getByRole('button', { name: 'Hold' }).hover();
  await page.mouse.down();
  await expect.poll(keys).toBe(true);
  await page.mouse.up();
  await expect.poll(keys).toBe(false);
});

test('on a page that scrolls, a swipe that begins on a button scrolls and presses nothing, and a tap presses', async ({
  browser,
  program,
}) => {
  const phone = await browser.newContext({ viewport: { width: 390, height: 600 }, hasTouch: true, isMobile: true });
  const page = await phone.newPage();
  await page.goto(`${program.url}/panel/page-race`);
  await expect(page.locator('[data-control="ctl-program-1"][data-lamp="onAir"]')).toBeVisible();
  await expect(page.getByRole('group', { name: 'Scroll the page' })).toBeVisible();
  const client = await phone.newCDPSession(page);
  const before = await program.switcher();
  const from = await centreOf(page, '[data-control="ctl-program-5"]');
  const at = () => page.evaluate(() => document.documentElement.scrollTop);
  await touch(client, 'touchStart', [from]);
  for (let n = 1; n <= 12; n += 1) {
    await touch(client, 'touchMove', [{ x: from.x, y: from.y - n * 14 }]);
    await page.waitForTimeout(8);
  }
  await touch(client, 'touchEnd', []);
  await expect.poll(at).toBeGreaterThan(40);
  await page.waitForTimeout(400);
  expect((await program.switcher()).program).toBe(before.program);
  // A tap at the new place presses, and so does a finger that rests; neither scrolls.
  const taken = await centreOf(page, '[data-control="ctl-program-5"]');
  const top = await at();
  await page.touchscreen.tap(taken.x, taken.y);
  await expect.poll(async () => (await program.switcher()).program).toBe(5);
  const other = await centreOf(page, '[data-control="ctl-program-6"]');
  await touch(client, 'touchStart', [other]);
  await expect.poll(async () => (await program.switcher()).program).toBe(6);
  for (let n = 1; n <= 6; n += 1) await touch(client, 'touchMove', [{ x: other.x, y: other.y - n * 14 }]);
  await touch(client, 'touchEnd', []);
  expect(Math.abs((await at()) - top)).toBeLessThan(5);
  await phone.close();
});

test('a show file of many megabytes is loaded with its progress, undone, and refused above the limit', async ({
  page,
  program,
}) => {
  test.setTimeout(paced(180_000));
  await page.goto(`${program.url}/show`);
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Save the show' }).click(),
  ]);
  const file = JSON.parse(readFileSync(await download.path(), 'utf8')) as {
    name: string;
    records: { kind: string; id: string; version: number; data: Record<string, unknown> }[];
    pictures?: object[];
  };
  const bytes = Array.from({ length: 60 }, () =>
    Buffer.concat([Buffer.from('89504e470d0a1a0a', 'hex'), randomBytes(300_000)]),
  );
  const pictures = bytes.map((each) => ({
    hash: createHash('sha256').update(each).digest('hex'),
    type: 'image/png',
    base64: each.toString('base64'),
  }));
  const [one] = file.records.filter(({ id }) => id === 'ctl-cut');
  const many = Array.from({ length: 2500 }, (_, n) => ({
    ...one,
    id: `many-${n}`,
    version: 1,
    data: { ...one?.data, picture: pictures[n % pictures.length]?.hash },
  }));
  const path = join(program.dataDir, 'large.json');
  writeFileSync(path, JSON.stringify({ ...file, name: 'Large', records: [...file.records, ...many], pictures }));
  await page.getByLabel('Show file to load').setInputFiles(path);
  const review = page.getByRole('region', { name: 'Load Large' });
  await expect(review.getByRole('row', { name: /^controls/ })).toContainText('2500', { timeout: paced(60_000) });
  await review.getByRole('button', { name: 'Replace this show' }).click();
  await expect(page.getByText(/^Loaded: Large/).first()).toBeVisible({ timeout: paced(60_000) });
  const count = async () =>
    ((await (await page.request.get(`${program.url}/desk/show?window=abcdefgh`)).json()) as { puts: unknown[] }).puts
      .length;
  expect(await count()).toBe(file.records.length + 2500);
  await page.goto(`${program.url}/rig`);
  await expect(page.getByRole('button', { name: /^All links: .* of 26 up$/ })).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect.poll(count, { timeout: paced(60_000) }).toBe(file.records.length);
});

test('the demo show brings its stand-ins and passwords to an empty show, and they can be stopped', async ({ page }) => {
  test.setTimeout(paced(120_000));
  const program = await Program.start(undefined, undefined, {}, [], false);
  try {
    await page.goto(`${program.url}/rig`);
    await page.getByRole('button', { name: 'Look at the demo show' }).click();
    const up = async () => {
      const { links } = await program.health();
      return links.length > 0 && links.every(({ link }) => ['up', 'one-way'].includes(link.word));
    };
    await expect.poll(up, { timeout: paced(30_000) }).toBe(true);
    await page.goto(`${program.url}/show`);
    const part = page.getByRole('region', { name: 'Stand-ins' });
    await expect(part).toContainText('They are running');
    await part.getByRole('button', { name: 'Stop the stand-ins' }).click();
    await expect(part).toContainText('They are not running');
    await expect.poll(up).toBe(false);
    expect((await program.health()).processes.map(({ name }) => name)).not.toContain('stand-ins');
    await part.getByRole('button', { name: 'Start the stand-ins' }).click();
    await expect.poll(up, { timeout: paced(30_000) }).toBe(true);
  } finally {
    await program.stop();
  }
});

test('typing into the form of a device that is connected leaves its connection alone', async ({ page, program }) => {
  await page.goto(`${program.url}/rig`);
  const controllers = async () => (await program.switcher()).controllers;
  expect(await controllers()).toBe(1);
  const row = page.getByRole('article', { name: 'Vision switcher' });
  await openDevice(page, 'Vision switcher', 'Settings');
  const since = async () => (await program.health()).links.find(({ tag }) => tag === 'SW1')?.link.word;
  const port = row.getByLabel('Port', { exact: true });
  const was = await port.inputValue();
  await port.fill('4999');
  for (let n = 0; n < 25; n += 1) {
    await page.waitForTimeout(100);
    expect([await since(), await controllers()]).toEqual(['up', 1]);
  }
  // Another driver at the same place: it is said, and only interrupted when somebody asks.
  await port.fill(was);
  await page.waitForTimeout(1500);
  expect([await since(), await controllers()]).toEqual(['up', 1]);
});
