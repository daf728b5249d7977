import { spawnSync } from 'node:child_process';
import { createSocket } from 'node:dgram';
import { connect } from 'node:net';
import AxeBuilder from '@axe-core/playwright';
import { freePorts } from './free-ports';
import { allUp, pick, stored } from './hand';
import { expect, test } from './program';
import { paced } from '../test/support/pace';

/** Inlets in the browser: switched on, spoken to from outside, and a watch that learns what it hears. */

const say = (port: number, line: string): Promise<string> =>
  new Promise((resolve, reject) => {
    const socket = connect(port, '127.0.0.1', () => socket.write(`${line}\r\n`));
    socket.setTimeout(10_000, () => socket.destroy(new Error('No answer.')));
    socket.once('data', (data) => {
      resolve(String(data).trim());
      socket.destroy();
    });
    socket.once('error', reject);
  });

test('a text box presses Cut and reads who is on air', async ({ page, program }) => {
  const port = await freePorts(1);
  await page.goto(`${program.url}/inlets`);
  await allUp(page);
  await page.getByRole('button', { name: /^Text box/ }).click();
  const details = page.getByRole('article', { name: 'Text box' });
  await details.getByRole('spinbutton', { name: 'Port' }).fill(String(port));
  await details.getByRole('spinbutton', { name: 'Port' }).press('Enter');
  await stored(page);
  await details.getByRole('switch').click();
  await stored(page);
  await expect(page.getByRole('button', { name: /^Text box/ })).toContainText('Listening');
  expect(await say(port, 'press Race/Cut')).toMatch(/^ok confirmed/);
  expect(await say(port, 'read SW1 programName')).toBe('value Mid-course');
  await expect(details).toContainText('2 heard, 0 refused');
  await expect(details).toContainText('value Mid-course');
  expect(await say(port, 'press Streams/Start stream')).toMatch(/^error/);
  expect((await new AxeBuilder({ page }).include('main').analyze()).violations).toEqual([]);
  // Others reach it only once it is said which.
  await details.getByRole('checkbox', { name: 'Other computers can reach it' }).check();
  await expect(details.getByRole('textbox', { name: 'From these addresses or networks' })).toBeVisible();
});

test('a watch learns an OSC message, and fires when it comes again', async ({ page, program }) => {
  const port = await freePorts(1);
  await page.goto(`${program.url}/inlets`);
  await allUp(page);
  await page.getByRole('button', { name: /^Show control/ }).click();
  const details = page.getByRole('article', { name: 'Show control' });
  await details.getByRole('spinbutton', { name: 'Port' }).fill(String(port));
  await details.getByRole('spinbutton', { name: 'Port' }).press('Enter');
  await stored(page);
  await details.getByRole('switch').click();
  await expect(page.getByRole('button', { name: /^Show control/ })).toContainText('Listening');

  await page.getByRole('link', { name: 'Watches' }).click();
  await page.getByRole('button', { name: 'Add watch' }).click();
  const watch = page.getByRole('article', { name: 'Watch 6' });
  await watch.getByRole('radio', { name: 'Message' }).click();
  await pick(watch.getByRole('combobox', { name: 'Send' }), 'sw1 preview 5', 'preview');
  await stored(page);
  await watch.getByRole('button', { name: 'Learn' }).click();
  await expect(watch.getByText('Send the message now')).toBeVisible();
  // OSC 1.0: the address and the type tags end with zeros and are filled up to four bytes.
  const socket = createSocket('udp4');
  const message = Buffer.from('/cue/7/go\0\0\0,i\0\0\0\0\0\x01', 'latin1');
  const send = () => socket.send(message, port, '127.0.0.1');
  send();
  await expect(watch.getByRole('textbox', { name: 'When this comes in' })).toHaveValue('/cue/7/go 1');
  await expect(watch.getByRole('combobox', { name: 'Over' })).toContainText('Show control');
  await stored(page);
  await watch.getByRole('switch').click();
  await stored(page);
  send();
  await expect.poll(async () => (await program.switcher()).preview).toBe(5);
  await expect(watch).toContainText('“/cue/7/go 1” came in from 127.0.0.1');
  socket.close();
});

test('an address is copied from a control, and presses it for a caller with a token', async ({ page, program }) => {
  const port = await freePorts(1);
  await page.context().grantPermissions(['clipboard-read', 'clipboard-write']);
  await page.goto(`${program.url}/inlets`);
  await allUp(page);
  await page.getByRole('button', { name: /^Web/ }).click();
  const details = page.getByRole('article', { name: 'Web' });
  await details.getByRole('spinbutton', { name: 'Port' }).fill(String(port));
  await details.getByRole('spinbutton', { name: 'Port' }).press('Enter');
  await stored(page);
  await details.getByRole('textbox', { name: 'New caller' }).fill('Score box');
  await details.getByRole('button', { name: 'Add caller' }).click();
  const token = (await details.getByRole('status').getByRole('code').textContent()) ?? '';
  expect(token.length).toBeGreaterThan(20);
  await stored(page);
  expect((await new AxeBuilder({ page }).include('main').analyze()).violations).toEqual([]);
  await details.getByRole('switch').click();
  await expect(page.getByRole('button', { name: /^Web/ })).toContainText('Listening');

  await page.goto(`${program.url}/pages/page-race?edit=1`);
  await page.locator('.edit-grid [data-control="ctl-cut"]').click();
  await page.getByRole('button', { name: 'Copy the address for Web' }).click();
  await expect(page.getByText('Address copied.')).toBeVisible();
  const address = await page.evaluate(() => navigator.clipboard.readText());
  expect(address).toBe(`http://127.0.0.1:${port}/press/Race/Cut`);
  const before = await program.switcher();
  expect((await fetch(address)).status).toBe(401);
  const answer = await fetch(address, { headers: { authorization: `Bearer ${token}` } });
  expect([answer.status, await answer.text()]).toEqual([200, expect.stringMatching(/^ok confirmed/)]);
  expect(await program.switcher()).toMatchObject({ program: before.preview });
  // The token is shown once: nothing that the show keeps has it.
  const show = await page.request.get(`${program.url}/desk/show`);
  const text = await show.text();
  expect([text.includes(token), text.includes('Score box')]).toEqual([false, true]);
});

test('a macro learns from an OSC sender, and is started by it', async ({ page, program }) => {
  const port = await freePorts(1);
  await page.goto(`${program.url}/inlets`);
  await allUp(page);
  await page.getByRole('button', { name: /^Show control/ }).click();
  const details = page.getByRole('article', { name: 'Show control' });
  await details.getByRole('spinbutton', { name: 'Port' }).fill(String(port));
  await details.getByRole('spinbutton', { name: 'Port' }).press('Enter');
  await stored(page);
  await details.getByRole('switch').click();
  await expect(page.getByRole('button', { name: /^Show control/ })).toContainText('Listening');

  const socket = createSocket('udp4');
  const send = () => socket.send(Buffer.from('/finish\0,\0\0\0', 'latin1'), port, '127.0.0.1');
  await page.goto(`${program.url}/macros/mac-finish`);
  const outside = page.getByRole('region', { name: 'From outside' });
  await outside.getByRole('button', { name: 'Learn' }).click();
  await expect(outside.getByText('Send the message now')).toBeVisible();
  send();
  await expect(outside.getByRole('list', { name: 'Learned' })).toContainText('/finish');
  await stored(page);
  send();
  await expect.poll(async () => (await program.switcher()).program).toBe(3);

  // Another one that hears the same names who has it, and takes it over only when told.
  await page.goto(`${program.url}/macros/mac-start`);
  await outside.getByRole('button', { name: 'Learn' }).click();
  await expect(outside.getByText('Send the message now')).toBeVisible();
  send();
  await expect(outside.getByRole('alert')).toContainText(/\/finish is used by Finish .*already\./);
  await outside.getByRole('button', { name: 'Learn it here' }).click();
  await expect(outside.getByRole('list', { name: 'Learned' })).toContainText('/finish');
  await stored(page);
  expect((await new AxeBuilder({ page }).include('main').analyze()).violations).toEqual([]);
  await page.goto(`${program.url}/macros/mac-finish`);
  await expect(outside.getByRole('button', { name: 'Learn' })).toBeVisible();
  await expect(outside.getByRole('list', { name: 'Learned' })).toBeHidden();
  socket.close();
});

test('a broker of its own is asked and listened to by clients of other people', async ({ page, program }) => {
  const port = await freePorts(1);
  await page.goto(`${program.url}/inlets`);
  await allUp(page);
  await page.getByRole('button', { name: /^Club network/ }).click();
  const details = page.getByRole('article', { name: 'Club network' });
  await details.getByRole('spinbutton', { name: 'Port' }).fill(String(port));
  await details.getByRole('spinbutton', { name: 'Port' }).press('Enter');
  await stored(page);
  await details.getByRole('textbox', { name: 'Topics begin with' }).fill('club/regatta');
  await details.getByRole('textbox', { name: 'Topics begin with' }).press('Enter');
  await stored(page);
  await details.getByRole('switch').click();
  await expect(page.getByRole('button', { name: /^Club network/ })).toContainText('Listening');
  expect((await new AxeBuilder({ page }).include('main').analyze()).violations).toEqual([]);
  const before = await program.switcher();
  const client = (command: string, ...args: string[]) =>
    spawnSync(command, ['-h', '127.0.0.1', '-p', String(port), ...args], { encoding: 'utf8', timeout: paced(10_000) })
      .stdout;
  client('mosquitto_pub', '-t', 'club/regatta/do/press/Race/Cut', '-m', '1');
  await expect.poll(async () => (await program.switcher()).program).toBe(before.preview);
  await expect(details).toContainText('ok confirmed');
  await expect
    .poll(() => client('mosquitto_sub', '-t', 'club/regatta/is/SW1/program', '-C', '1', '-W', '3').trim())
    .toBe(String(before.preview));
  // A broker elsewhere takes the place of the port, and nothing answers at this one.
  await details.getByRole('checkbox', { name: 'Use a broker on another computer' }).check();
  await details.getByRole('textbox', { name: 'Address of the broker' }).fill('127.0.0.1');
  await details.getByRole('textbox', { name: 'Address of the broker' }).press('Enter');
  await expect(details).toContainText('port refused');
  await expect(page.getByRole('button', { name: /^Club network/ })).toContainText('Cannot listen');
});

test('a parameter is an expression, and is looked up when the button is pressed', async ({ page, program }) => {
  await page.goto(`${program.url}/pages/page-race?edit=1`);
  await allUp(page);
  await page.locator('.edit-grid [data-control="ctl-program-3"]').click();
  await page.getByRole('button', { name: 'Take Input from elsewhere' }).click();
  await page.getByRole('menuitem', { name: 'An expression' }).click();
  await stored(page);
  const field = page.getByRole('textbox', { name: 'Expression for Input' });
  await field.click();
  await page.keyboard.press('ControlOrMeta+a');
  await page.keyboard.type('SW1.nothing(');
  await page.keyboard.press('Enter');
  await expect(page.getByText(/^Not stored/)).toBeVisible();
  await page.keyboard.press('ControlOrMeta+a');
  await page.keyboard.type('SW1.preview + 2');
  await page.keyboard.press('Enter');
  await stored(page);
  const { preview } = await program.switcher();
  await page.getByRole('radio', { name: 'Press' }).click();
  await expect(page.locator('.edit-grid')).toHaveCount(0);
  await page.locator('[data-control="ctl-program-3"]').click();
  await expect.poll(async () => (await program.switcher()).program).toBe(preview + 2);
});

test('macros leave as a file, and come into the show again', async ({ page, program }) => {
  await page.goto(`${program.url}/macros`);
  await allUp(page);
  const name = await page
    .getByRole('navigation', { name: 'Macros' })
    .getByRole('link')
    .first()
    .locator('span')
    .first()
    .innerText();
  await page.getByRole('navigation', { name: 'Macros' }).getByRole('link').first().click();
  await expect(page).toHaveURL(/\/macros\/./);
  await page.getByRole('button', { name: 'More for this macro' }).click();
  const saved = page.waitForEvent('download');
  await page.getByRole('menuitem', { name: 'Save as a file' }).click();
  const file = await (await saved).path();
  await page.getByRole('button', { name: 'Import macros' }).click();
  const dialog = page.getByRole('dialog', { name: 'Import macros' });
  await dialog.locator('input[type=file]').setInputFiles(file);
  await expect(dialog).toContainText('All macros of this file are in the show already.');
  await dialog.getByRole('button', { name: 'Cancel' }).click();
  const title = page.getByRole('textbox', { name: 'Name of the macro' });
  await title.fill('Another name');
  await title.press('Enter');
  await stored(page);
  await page.getByRole('button', { name: 'Import macros' }).click();
  await dialog.locator('input[type=file]').setInputFiles(file);
  await dialog.getByRole('button', { name: 'Import', exact: true }).click();
  await expect(page.getByRole('textbox', { name: 'Name of the macro' })).toHaveValue(name);
  await expect(page.getByRole('navigation', { name: 'Macros' })).toContainText('Another name');
});
