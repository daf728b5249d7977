import { createSocket } from 'node:dgram';
import { connect } from 'node:net';
import AxeBuilder from '@axe-core/playwright';
import { freePorts } from './free-ports';
import { allUp, pick, stored } from './hand';
import { expect, test } from './program';

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
