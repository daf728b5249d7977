import { spawn, type ChildProcess } from 'node:child_process';
import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { expect, test } from './program';
import { allUp, openDevice, pick, stored } from './hand';
import type { ProgramEnds } from './program-ends';

const control = (page: Page, label: string, row = 0) => page.locator('.control').filter({ hasText: label }).nth(row);
const camera = async (program: ProgramEnds, tag: string) =>
  (await (await fetch(`${program.standinUrl}/${tag}/state`)).json()) as { moving: boolean; pan: number };
const encoder = async (program: ProgramEnds) =>
  (await (await fetch(`${program.standinUrl}/e1/state`)).json()) as { stream: string; recording: boolean };

test('all devices of the demo come up, and a camera moves while its control is held and no longer', async ({
  page,
  program,
}) => {
  await page.goto(`${program.url}/pages/page-cameras`);
  await allUp(page);
  const left = control(page, 'Left');
  await left.hover();
  await page.mouse.down();
  await expect.poll(async () => (await camera(program, 'c1')).moving).toBe(true);
  // Longer than the engine waits for a word from whoever holds.
  await page.waitForTimeout(1500);
  expect((await camera(program, 'c1')).moving).toBe(true);
  await page.mouse.up();
  await expect.poll(async () => (await camera(program, 'c1')).moving).toBe(false);

  // By keyboard, and let go by leaving the page.
  await left.focus();
  await page.keyboard.down('Space');
  await expect.poll(async () => (await camera(program, 'c1')).moving).toBe(true);
  await page.getByRole('link', { name: /^As-run/ }).click();
  await expect.poll(async () => (await camera(program, 'c1')).moving).toBe(false);
  await expect(page.getByRole('row').filter({ hasText: 'Stopped: ' }).first()).toContainText('C1 Stop pan and tilt');
});

test('a camera that pans stops when the panel is closed, and when the engine is killed', async ({
  page,
  ownProgram: program,
  newScreen,
}) => {
  await page.goto(`${program.url}/pages/page-cameras`);
  await allUp(page);
  const panel = await newScreen();
  await panel.goto(`${program.url}/panel/page-cameras`);
  await control(panel, 'Right', 3).hover();
  await panel.mouse.down();
  await expect.poll(async () => (await camera(program, 'c4')).moving).toBe(true);
  await panel.close();
  await expect.poll(async () => (await camera(program, 'c4')).moving, { timeout: 2000 }).toBe(false);

  await control(page, 'Left', 3).hover();
  await page.mouse.down();
  await expect.poll(async () => (await camera(program, 'c4')).moving).toBe(true);
  process.kill(await program.pidOf('engine'), 'SIGKILL');
  await expect.poll(async () => (await camera(program, 'c4')).moving, { timeout: 8000 }).toBe(false);
  await page.mouse.up();
});

test('a guarded control sends only when it is held until its bar is full', async ({ page, program }) => {
  await page.goto(`${program.url}/pages/page-streams`);
  await allUp(page);
  const startStream = control(page, 'Start stream');
  await expect(startStream).toContainText('hold to send');
  await startStream.click();
  await page.waitForTimeout(1200);
  expect((await encoder(program)).stream).toBe('idle');
  await startStream.hover();
  await page.mouse.down();
  await expect.poll(async () => (await encoder(program)).stream).toBe('live');
  await page.mouse.up();
  await expect(startStream).toHaveAttribute('data-lamp', 'onAir');
  // The clock runs on between the reports.
  await expect(control(page, 'On air')).toContainText('On air 0:02', { timeout: 8000 });
  // By keyboard.
  const stopStream = control(page, 'Stop stream');
  await stopStream.focus();
  await page.keyboard.down('Enter');
  await expect.poll(async () => (await encoder(program)).stream).toBe('idle');
  await page.keyboard.up('Enter');
});

test('a wrong password locks out and says so; the right one, and a call, bring the device back', async ({
  page,
  program,
}) => {
  await page.goto(`${program.url}/rig`);
  await allUp(page);
  const row = page.getByRole('article', { name: 'Stream, main' });
  await openDevice(page, 'Stream, main', 'Settings');
  await row.getByLabel('Password').fill('not it');
  await row.getByRole('button', { name: 'Save device' }).click();
  await expect(row).toContainText('locked out');
  await expect(row).toContainText('does not accept the name or the password');
  await expect(row.getByLabel('Password')).toBeHidden();
  await openDevice(page, 'Stream, main', 'Settings');
  await row.getByLabel('Password').fill('tide-table-7');
  await row.getByRole('button', { name: 'Save device' }).click();
  await expect(row.locator('.device-link')).toContainText('up for');
});

test('a show’s own command is typed with its mistake marked, added, and pressed', async ({ page, program }) => {
  await page.goto(`${program.url}/rig`);
  await allUp(page);
  const row = page.getByRole('article', { name: 'Replays' });
  await openDevice(page, 'Replays', 'Commands');
  await row.getByRole('button', { name: 'Add command' }).click();
  const form = page.getByRole('form', { name: 'New command' });
  await form.getByLabel('Name').fill('Half speed');
  await form.getByRole('textbox', { name: 'Payload' }).fill('play 50\\q');
  await expect(form.locator('.cm-line .bg-fault')).toHaveText('\\');
  await expect(form).toContainText('Character 8: Unknown escape');
  await form.getByRole('textbox', { name: 'Payload' }).fill('loop on');
  await expect(form).toContainText('6C 6F 6F 70 20 6F 6E 0A');
  await expect(form).toContainText('8 bytes');
  await page.getByRole('dialog').getByRole('button', { name: 'Add command' }).click();
  await expect(row.locator('.own-list')).toContainText('Half speed');
  // It is seen at once; that the engine has it takes a moment.
  await stored(page);
  const send = async () => {
    const answer = await fetch(`${program.url}/api/send`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ device: 'R1', command: 'own1' }),
    });
    return (await answer.json()) as { outcome?: string };
  };
  await expect.poll(async () => (await send()).outcome).toBe('confirmed');
  const deck = (await (await fetch(`${program.standinUrl}/r1/state`)).json()) as { loop: boolean };
  expect(deck.loop).toBe(true);
});

/** The made-up device of docs/drivers.md on a free port. */
async function sluice(): Promise<{ child: ChildProcess; port: number }> {
  const child = spawn(process.execPath, ['docs/worked-example/sluice.mjs', '0']);
  const port = await new Promise<number>((resolve) => {
    child.stdout.on('data', (text) => resolve(Number(/port (\d+)/.exec(String(text))?.[1])));
  });
  return { child, port };
}

test('the worked example, as docs/drivers.md has it, controls a device that is not in the fleet', async ({
  page,
  program,
}) => {
  const { child, port } = await sluice();
  try {
    await page.goto(`${program.url}/rig`);
    await page.getByRole('button', { name: 'More', exact: true }).click();
    await page.getByRole('menuitem', { name: 'Drivers' }).click();
    await page.getByRole('button', { name: 'Install a driver' }).click();
    const form = page.getByRole('form', { name: 'Install a driver' });
    const text = readFileSync('docs/worked-example/sluice-driver.json', 'utf8');
    // First with a mistake: refused with its path, and nothing typed is lost.
    await form.getByRole('textbox').fill(text.replace('GOTO={opening}', 'GOTO={opened}'));
    await form.getByRole('button', { name: 'Check and install' }).click();
    await expect(form).toContainText('Not installed: the document has 1 mistake.');
    await expect(form).toContainText('commands.goTo.send There is no parameter “opened”. Known: opening.');
    await expect(form.getByRole('textbox')).toContainText('GOTO={opened}');
    // The mistake is marked where it stands, and what can stand there is beside it.
    await expect(form.locator('.cm-lintRange-error')).toContainText('GOTO={opened}');
    await form.locator('.cm-lintRange-error').click();
    await expect(form.getByRole('region', { name: 'Reference' })).toContainText('commands.goTo.send');
    await form.getByLabel('From a file').setInputFiles('docs/worked-example/sluice-driver.json');
    await expect(form.getByRole('textbox')).toContainText('GOTO={opening}');
    await form.getByRole('button', { name: 'Check and install' }).click();
    await expect(page.getByRole('row').filter({ hasText: 'sluice-gate' })).toBeVisible();

    await page.getByRole('link', { name: 'Back to the rig' }).click();
    await page.getByRole('button', { name: 'Add device' }).click();
    const add = page.getByRole('form', { name: 'New device' });
    await pick(add.getByRole('combobox', { name: 'Driver' }), 'sluice', 'Sluice gate');
    await expect(add.getByRole('textbox', { name: 'Tag' })).toHaveValue('G2');
    await add.getByRole('textbox', { name: 'Address' }).fill('127.0.0.1');
    await add.getByRole('spinbutton', { name: 'Port' }).fill(String(port));
    await add.getByRole('button', { name: 'Add device' }).click();
    const row = page.getByRole('row', { name: 'Sluice gate', exact: true });
    await expect(row.locator('.device-link')).toContainText('up');

    await page.getByRole('link', { name: /^Pages/ }).click();
    await page.getByRole('radio', { name: 'Edit' }).click();
    await page.getByRole('button', { name: 'Empty, column 1, row 3' }).click();
    await page.getByRole('searchbox', { name: 'Search' }).fill('g2 half open');
    await page.locator('.offers button').filter({ hasText: 'Half open' }).first().click();
    await expect(page.getByRole('heading', { level: 2, name: 'Half open' })).toBeVisible();
    await page.getByRole('radio', { name: 'Press' }).click();
    await control(page, 'Half open').click();
    await expect(control(page, 'Half open')).toContainText('confirmed', { timeout: 8000 });
  } finally {
    child.kill();
  }
});

test('a driver that ships is opened, completed from the schema, compared, and installed as a copy', async ({
  page,
  program,
}) => {
  await page.goto(`${program.url}/drivers`);
  await page.getByRole('button', { name: 'More for Gateway with relays (stand-in)' }).click();
  await page.getByRole('menuitem', { name: 'Duplicate' }).click();
  const form = page.getByRole('form', { name: /^Copy of / });
  const text = form.getByRole('textbox', { name: 'Driver document' });
  await expect(text).toContainText('"relay-gateway-copy"');
  // A role is completed from those that there are.
  await text.getByText('"gateway"').click();
  // Before the quotation mark at the end of the value.
  for (const key of ['End', 'ArrowLeft', 'ArrowLeft', 'Control+Space']) await page.keyboard.press(key);
  await expect(page.getByRole('option', { name: 'titles' })).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(form.getByRole('region', { name: 'Reference' })).toContainText('role');
  await form.getByRole('button', { name: 'Check and install' }).click();
  await expect(page.getByRole('row').filter({ hasText: 'relay-gateway-copy' })).toBeVisible();
  await page.getByRole('row').filter({ hasText: 'relay-gateway-copy' }).getByRole('button', { name: /^Open/ }).click();
  const opened = page.getByRole('form', { name: /copy, version 1$/ });
  await opened.getByRole('textbox', { name: 'Driver document' }).getByText('"version": 1').click();
  for (const key of ['End', 'ArrowLeft', '2']) await page.keyboard.press(key);
  await opened.getByRole('checkbox', { name: /^Show changes/ }).check();
  await expect(opened.locator('.cm-changedLine')).toContainText('12');
});
