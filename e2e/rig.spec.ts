import { readFileSync } from 'node:fs';
import { createServer, type AddressInfo, type Socket } from 'node:net';
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { allUp, choose, openDevice, pick, stored, testDevice } from './hand';
import { expect, test } from './program';
import type { ProgramEnds } from './program-ends';
import { paced } from '../test/support/pace';

const operate = (program: ProgramEnds, tag: string, verb: string, body: object) => program.operate(verb, body, tag);
const portOf = async (program: ProgramEnds, tag: string): Promise<number> =>
  ((await (await fetch(`${program.standinUrl}/${tag}/state`)).json()) as { port: number }).port;
const removeAll = async (page: Page) => {
  await page.getByRole('checkbox', { name: 'Choose all' }).check();
  const bar = page.getByRole('region', { name: 'Chosen devices' });
  await bar.getByRole('button', { name: 'Remove', exact: true }).click();
  await expect(bar).toContainText('This would no longer work: ');
  await bar.getByRole('button', { name: 'Really remove' }).click();
  await expect(page.getByText('Nothing is patched yet')).toBeVisible();
};

test('a rig of three is patched from nothing, with a wrong port mended by the offered button', async ({
  page,
  program,
}) => {
  await page.goto(`${program.url}/rig`);
  await allUp(page);
  await removeAll(page);
  const form = page.getByRole('form', { name: 'New device' });
  const add = async (driver: string, address: string) => {
    await page.getByRole('button', { name: 'Add device' }).click();
    await pick(form.getByRole('combobox', { name: 'Driver' }), driver, '');
    await form.getByLabel('Address').fill(address);
  };

  // What is wrong is said at the field, before anything is saved.
  await page.getByRole('button', { name: 'Add device' }).click();
  await form.getByLabel('Name', { exact: true }).focus();
  await form.getByLabel('Name', { exact: true }).press('Tab');
  await expect(form).toContainText('A device needs a name.');
  await form.getByLabel('Tag').fill('7C');
  await expect(form).toContainText('A letter first');
  await form.getByLabel('Port', { exact: true }).fill('70000');
  await expect(form).toContainText('A port is a whole number from 1 to 65535.');
  // Sent with faults, it is not stored, and the first faulty field has the focus.
  await pick(form.getByRole('combobox', { name: 'Driver' }), 'switcher', '');
  await form.getByLabel('Name', { exact: true }).fill('');
  await form.getByLabel('Port', { exact: true }).fill('70000');
  await form.getByLabel('Tag').fill('SW9');
  await form.getByRole('button', { name: 'Add device' }).click();
  await expect(form.getByLabel('Port', { exact: true })).toBeFocused();
  await form.getByLabel('Port', { exact: true }).fill('4401');
  await form.getByRole('button', { name: 'Add device' }).click();
  await expect(form.getByLabel('Name', { exact: true })).toBeFocused();
  await expect(form).toContainText('A device needs a name.');
  await form.getByRole('button', { name: 'Cancel' }).click();

  // Pasted with a protocol, a port and a path; and the port is the wrong one.
  const switcher = await portOf(program, 'sw1');
  await add('switcher', `http://127.0.0.1:${switcher + 30}/`);
  await form.getByLabel('Address').press('Enter');
  await expect(form).toContainText('“http://” was removed');
  await expect(form.getByLabel('Address')).toHaveValue('127.0.0.1');
  await expect(form).toContainText('Nothing listens on this port');
  await form.getByLabel('Port', { exact: true }).fill(String(switcher + 9));
  await form.getByRole('button', { name: 'Test connection' }).click();
  const mend = form.getByRole('button', { name: `Use port ${switcher}` });
  await mend.click();
  await expect(form.getByLabel('Port', { exact: true })).toHaveValue(String(switcher));
  // After a pause the port is tried by itself, and no further.
  await expect(form.getByText(`Port ${switcher} is open.`)).toBeVisible();
  await expect(form.getByText('It speaks the driver’s protocol')).toBeHidden();
  // What was typed survives a reload.
  await page.reload();
  await page.getByRole('button', { name: 'Add device' }).click();
  await expect(form.getByLabel('Port', { exact: true })).toHaveValue(String(switcher));
  await form.getByRole('button', { name: 'Add device' }).click();
  await expect(form).toBeHidden();
  await allUp(page, 1);

  await add('encoder', `127.0.0.1:${await portOf(program, 'e1')}`);
  await form.getByLabel('Sign-in name').fill('operator');
  await form.getByLabel('Password').fill('not it');
  await form.getByLabel('Address').press('Enter');
  await expect(form).toContainText('Sign-in not accepted');
  await form.getByLabel('Password').fill('tide-table-7');
  await form.getByLabel('Address').press('Enter');
  await expect(form).toContainText('It says: model Millrace 20');
  await form.getByRole('button', { name: 'Add device' }).click();
  await expect(form).toBeHidden();
  await allUp(page, 2);

  await add('audio mixer', `127.0.0.1 : ${await portOf(program, 'a1')}`);
  await form.getByLabel('Address').blur();
  await form.getByRole('button', { name: 'Add device' }).click();
  await expect(form).toBeHidden();
  await allUp(page, 3);
});

test('a table with two bad rows enters the good ones and says what is wrong with the others', async ({
  page,
  program,
}) => {
  await page.goto(`${program.url}/rig`);
  await allUp(page);
  await page.getByRole('button', { name: 'More', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Edit the rig as a table' }).click();
  const rows = [
    ['X1', 'Jib', 'ptz-camera', '127.0.0.1', '5001', '', ''],
    ['C1', 'Twice', 'ptz-camera', '127.0.0.300', '5002', '', ''],
    ['X2', 'Sound', 'audio-mixer', 'http://127.0.0.1:5003/', '', '', ''],
    ['X3', 'What', 'no such thing', '127.0.0.1', '70000', '', ''],
  ];
  await page
    .getByRole('textbox', { name: /Paste from a spreadsheet/ })
    .fill(rows.map((row) => row.join('\t')).join('\n'));
  const table = page.getByRole('table', { name: 'What each row becomes' });
  await expect(table.getByRole('row').nth(2)).toContainText('each part of an address goes from 0 to 255');
  await expect(table.getByRole('row').nth(4)).toContainText('no single driver here');
  await expect(table.getByRole('row').nth(4)).toContainText('port: a whole number from 1 to 65535');
  await page.getByRole('button', { name: 'Enter 2 rows' }).click();
  const rig = page.getByRole('table', { name: 'Devices' });
  await expect(rig.getByRole('row', { name: 'Jib', exact: true })).toBeVisible();
  await expect(rig.getByRole('row', { name: 'Sound', exact: true })).toContainText('127.0.0.1:5003');
  await expect(rig.getByRole('row', { name: 'Twice', exact: true })).toBeHidden();
});

test('a device that moved is found on the network, recognised and followed', async ({ page, program }) => {
  await page.goto(`${program.url}/rig`);
  await allUp(page);
  const place = await portOf(program, 'r1');
  await operate(program, 'r1', 'power', { on: false });
  await operate(program, 'a1', 'move', { port: place });
  const row = page.getByRole('row', { name: 'Audio mixer', exact: true });
  await expect(row).toContainText('down');
  await page.getByRole('button', { name: 'Find devices' }).click();
  const find = page.getByRole('region', { name: 'Find devices' });
  await expect(find.getByLabel('Where')).toHaveValue('127.0.0.1');
  await find.getByRole('button', { name: 'Search', exact: true }).click();
  await find.getByRole('button', { name: 'A1 moved here' }).click();
  await expect(row).toContainText(`127.0.0.1:${place}`);
  await expect(row.locator('.device-link')).toContainText('up');
});

test('a show is saved, wrecked, and brought back from its file and from its backup', async ({ page, program }) => {
  await page.goto(`${program.url}/show`);
  await page.getByLabel('Passphrase for the passwords (optional)').fill('a long passphrase');
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Save the show' }).click(),
  ]);
  const file = await download.path();
  const text = readFileSync(file, 'utf8');
  expect(text).toContain('"sorrelfinch-show"');
  expect(text).not.toContain('tide-table-7');

  await page.goto(`${program.url}/rig`);
  await removeAll(page);
  await page.goto(`${program.url}/show`);
  const input = page.getByLabel('Show file to load');
  await input.setInputFiles({
    name: 'broken.json',
    mimeType: 'application/json',
    buffer: Buffer.from(text.slice(0, 500)),
  });
  await expect(page.getByRole('region', { name: 'Show file' }).getByRole('alert')).toContainText('It is not JSON');
  await input.setInputFiles(file);
  // What would change is seen before anything is replaced.
  const review = page.getByRole('region', { name: 'Load Tidewick Regatta' });
  await expect(review.getByRole('row', { name: /^devices/ })).toContainText('SW1');
  await page.getByRole('button', { name: 'Replace this show' }).click();
  await expect(page.getByText(/^Loaded: Tidewick Regatta/).first()).toBeVisible();
  await allUp(page);

  // The backup was made before loading, when the rig was empty.
  await page.reload();
  const backup = page.getByRole('listitem').filter({ hasText: 'before loading' }).first();
  await backup.getByRole('button', { name: 'Restore …' }).click();
  await expect(backup.getByRole('row', { name: /^devices/ })).toContainText('SW1');
  await backup.getByRole('button', { name: 'Replace this show' }).click();
  await expect(page.getByText(/^Loaded: /).first()).toBeVisible();
  await page.goto(`${program.url}/rig`);
  await expect(page.getByText('Nothing is patched yet')).toBeVisible();
  await page.keyboard.press('Control+z');
  await allUp(page);
});

test('a command is tried by hand, shown with its bytes, and becomes a button', async ({ page, program }) => {
  await page.goto(`${program.url}/rig`);
  await allUp(page);
  const row = page.getByRole('article', { name: 'Vision switcher' });
  await openDevice(page, 'Vision switcher', 'Try');
  await choose(row.getByRole('combobox', { name: 'Input', exact: true }), '5 Drone');
  await expect(row.locator('.try-bytes')).toContainText('54 41 4B 45 20 35 0D 0A (8 bytes)');
  await row.getByRole('button', { name: 'Send', exact: true }).click();
  const tried = row.locator('.tried').first();
  await expect(tried).toContainText('confirmed after');
  await expect(tried).toContainText('TAKE 5');
  await expect(tried).toContainText('NOW program 5');
  expect((await program.switcher()).program).toBe(5);
  await tried.getByRole('button', { name: 'Make it a button' }).click();
  await expect(tried.getByRole('button', { name: 'On Race' })).toBeVisible();
});

test('what moves while it is held moves here too, and stops when it is let go', async ({ page, program }) => {
  await page.goto(`${program.url}/rig`);
  await allUp(page);
  const row = page.getByRole('article', { name: 'Pontoon' });
  await openDevice(page, 'Pontoon', 'Try');
  await pick(row.getByRole('combobox', { name: 'Command' }), 'pan tilt held', 'Pan');
  const moving = async () =>
    ((await (await fetch(`${program.standinUrl}/c4/state`)).json()) as { moving: boolean }).moving;
  for (const box of await row.locator('.try-form').getByRole('combobox').all()) {
    if ((await box.textContent()) === 'Choose') await choose(box, 0);
  }
  await row.getByRole('button', { name: 'Hold to send; release to stop' }).hover();
  await page.mouse.down();
  await expect.poll(moving).toBe(true);
  await page.mouse.up();
  await expect.poll(moving).toBe(false);
});

test('one key draws the veil over addresses, and takes it away', async ({ page, program }) => {
  await page.goto(`${program.url}/rig`);
  const address = page.getByRole('row', { name: 'Vision switcher', exact: true }).locator('.device-address');
  const colour = () => address.evaluate((element) => getComputedStyle(element).color);
  await expect(address).toBeVisible();
  expect(await colour()).not.toBe('rgba(0, 0, 0, 0)');
  await page.keyboard.press('F8');
  expect(await colour()).toBe('rgba(0, 0, 0, 0)');
  await expect(page.getByRole('button', { name: /^veiled/ })).toBeVisible();
  await page.keyboard.press('F8');
  expect(await colour()).not.toBe('rgba(0, 0, 0, 0)');

  // Sentences keep their words and lose the addresses in them, wherever they come up.
  await page.keyboard.press('F8');
  await testDevice(page, 'Vision switcher');
  const test = page.getByRole('list', { name: 'Connection test' });
  await expect(test).toContainText('Reports');
  await expect(test).toContainText('half within');
  await expect(test.locator('[data-veil]').first()).toBeAttached();
  const readable = await page.evaluate(() => {
    const walker = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
    const found: string[] = [];
    for (let node = walker.nextNode(); node; node = walker.nextNode())
      if (/\d+\.\d+\.\d+\.\d+/.test(node.textContent ?? '') && !node.parentElement?.closest('[data-veil]'))
        found.push(node.textContent ?? '');
    return found;
  });
  expect(readable).toEqual([]);
});

test('a source is dragged onto an input of the switcher, and seen from both sides', async ({ page, program }) => {
  await page.goto(`${program.url}/rig`);
  await allUp(page);
  const row = page.getByRole('article', { name: 'Vision switcher' });
  await openDevice(page, 'Vision switcher', 'Sources');
  const ties = row.getByRole('region', { name: 'Sources of SW1' });
  const input = ties.locator('.ties-inputs li').nth(8);
  await expect(input).toContainText('Slides');
  await ties.locator('.ties-sources li', { hasText: 'R1' }).dragTo(input);
  await expect(input.getByRole('combobox')).toHaveText('R1 Replays');
  const usedBy = await openDevice(page, 'Replays', 'Used by');
  await expect(usedBy).toContainText('feeds SW1 9');
  await openDevice(page, 'Vision switcher', 'Sources');
  // The same by picking, for those who do not drag.
  await choose(input.getByRole('combobox'), 'fed by nothing of the rig');
  await openDevice(page, 'Replays', 'Used by');
  await expect(usedBy).not.toContainText('feeds SW1 9');
});

test('a switcher feeds another one over an aux, and its own program is said not to be on air', async ({
  page,
  program,
}) => {
  await page.goto(`${program.url}/rig`);
  await allUp(page);
  const row = await openDevice(page, 'Vision switcher');
  await row.getByRole('button', { name: /^More for/ }).click();
  await page.getByRole('menuitem', { name: 'Duplicate' }).click();
  const second = page.getByRole('article', { name: 'Vision switcher copy' });
  await openDevice(page, 'Vision switcher', 'Sources');
  const input = row.locator('.ties-inputs li').nth(8);
  await choose(input.getByRole('combobox'), 'SW2 Vision switcher copy');
  await choose(input.getByRole('combobox', { name: 'over its' }), 'Aux source 2');
  await openDevice(page, 'Vision switcher copy', 'Used by');
  await expect(second).toContainText('feeds SW1 9');
  await openDevice(page, 'Vision switcher copy', 'Sources');
  const onAir = second.getByRole('checkbox', { name: 'What its program shows is on air' });
  await expect(onAir).toBeChecked();
  await onAir.uncheck();
  await stored(page);
  await page.reload();
  await openDevice(page, 'Vision switcher copy', 'Sources');
  await expect(onAir).not.toBeChecked();
  await openDevice(page, 'Vision switcher', 'Sources');
  await expect(input.getByRole('combobox', { name: 'over its' })).toHaveText('Aux source 2');
  // Over its program: then the tie says whether it is on air.
  await choose(input.getByRole('combobox', { name: 'over its' }), 'program');
  await openDevice(page, 'Vision switcher copy', 'Sources');
  await expect(second.getByText('Its program is on air when the input that it feeds is.')).toBeVisible();
});

test('the whole rig is tested: what fails is gathered, and what the device tells otherwise is taken over', async ({
  page,
  program,
}) => {
  await page.goto(`${program.url}/rig`);
  await allUp(page);
  const row = page.getByRole('article', { name: 'Vision switcher' });
  await openDevice(page, 'Vision switcher', 'Settings');
  await row.getByLabel('Inputs').fill('8');
  await row.getByRole('button', { name: 'Save device' }).click();
  await expect(row.getByRole('button', { name: 'Save device' })).toBeHidden();
  await operate(program, 'c2', 'faults', { refuse: true });
  await operate(program, 'c3', 'faults', { refuse: true });
  for (const name of ['Mid-course', 'Finish line'])
    await expect(page.getByRole('row', { name, exact: true })).toContainText('port refused');
  const summary = page.getByRole('region', { name: 'Test results' });
  const first = summary.getByRole('listitem').first();
  await page.getByRole('button', { name: 'Test the whole rig' }).click();
  // On a busy computer answers can be late, which is worth a look, too.
  await expect(summary).toContainText(/^(2[0-3]|1[0-9]|[5-9]) of 26 passed, ([1-9]|1[0-9]) worth a look, 2 failed/, {
    timeout: paced(30_000),
  });
  await expect(first).toContainText('Nothing listens on this port');
  await expect(first.getByRole('button')).toHaveText(['C2', 'C3']);
  await summary.getByRole('button', { name: 'Show the test of C2' }).click();
  await expect(page.getByText('Beside C1:')).toBeVisible();
  await summary.getByRole('button', { name: 'Show the test of SW1' }).click();
  await row.getByRole('button', { name: 'Set Inputs to 12' }).click();
  await testDevice(page, 'Vision switcher');
  await expect(page.getByRole('button', { name: /^Test of SW1/ })).toContainText('test passed', {
    timeout: paced(15_000),
  });
});

test('a text device that no driver knows is set up by its options and given a command', async ({ page, program }) => {
  const heard: string[] = [];
  const sockets = new Set<Socket>();
  const server = createServer((socket) => {
    sockets.add(socket);
    socket.on('error', () => undefined);
    socket.on('data', (data) => {
      for (const got of String(data).split('\r').filter(Boolean)) {
        heard.push(got);
        socket.write(got === 'TAKE 99' ? 'ERR 7 no such input\r' : `OK ${got}\r`);
      }
    });
  });
  await new Promise<void>((resolve) => void server.listen(0, '127.0.0.1', resolve));
  const { port } = server.address() as AddressInfo;
  try {
    await page.goto(`${program.url}/rig`);
    await allUp(page);
    await page.getByRole('button', { name: 'Add device' }).click();
    const form = page.getByRole('form', { name: 'New device' });
    await pick(form.getByRole('combobox', { name: 'Driver' }), 'any text tcp', 'Any device: text over TCP');
    // The name of a kind of device is none of a device.
    await expect(form.getByLabel('Name', { exact: true })).toHaveValue('');
    await form.getByLabel('Name', { exact: true }).fill('Matrix');
    await form.getByLabel('Address').fill(`127.0.0.1:${port}`);
    await form.getByLabel('Tag').fill('MX1');
    await choose(form.getByRole('combobox', { name: 'Commands end with' }), 'CR');
    // Options that do not go together are refused where they are typed.
    await choose(form.getByRole('combobox', { name: 'Answers end with' }), 'other bytes');
    await form.getByLabel('Bytes that end an answer').fill('3G');
    await expect(form.getByRole('alert').filter({ hasText: 'hexadecimal digits' })).toBeVisible();
    await form.getByRole('button', { name: 'Add device' }).click();
    await expect(form).toBeVisible();
    await choose(form.getByRole('combobox', { name: 'Answers end with' }), 'CR only');
    await expect(form.getByLabel('An error contains')).toBeHidden();
    await choose(form.getByRole('combobox', { name: 'Commands are answered' }), 'yes, each in turn');
    await form.getByLabel('An error contains').fill('ERR');
    await form.getByRole('button', { name: 'Add device' }).click();
    const details = page.getByRole('article', { name: 'Matrix' });
    // It answers, but nothing is asked of it: nobody knows.
    await expect(details.getByText('not checked').first()).toBeVisible();
    await details.getByRole('tab', { name: 'Commands', exact: true }).click();
    await details.getByRole('button', { name: 'Add command' }).click();
    const command = page.getByRole('form', { name: 'New command' });
    await command.getByLabel('Name').fill('Take two');
    await expect(command.getByRole('combobox', { name: 'Line ending' })).toHaveText('as set for the device');
    await command.getByRole('textbox', { name: 'Payload' }).fill('TAKE 2');
    await expect(command).toContainText('54 41 4B 45 20 32 0D');
    await page.getByRole('dialog').getByRole('button', { name: 'Add command' }).click();
    await stored(page);
    const saving = page.waitForEvent('download');
    await details.getByRole('button', { name: 'Save as a driver document' }).click();
    const file = await saving;
    expect(file.suggestedFilename()).toBe('own-mx1.json');
    const document = JSON.parse(readFileSync(await file.path(), 'utf8')) as { title: string; commands: object };
    expect(document).toMatchObject({ title: 'Matrix', commands: { own1: { says: 'Take two' } } });
    await details.getByRole('tab', { name: 'Try', exact: true }).click();
    await pick(details.getByRole('combobox', { name: 'Command' }), 'take two', 'Take two');
    await details.getByRole('button', { name: 'Send', exact: true }).click();
    await expect(details.getByText('confirmed').first()).toBeVisible();
    expect(heard).toEqual(['TAKE 2']);
    await expect(details.getByText('not checked')).toHaveCount(0);
  } finally {
    for (const socket of sockets) socket.destroy();
    server.close();
  }
});

test('an empty show is led from patch to test', async ({ page, program }) => {
  await page.goto(`${program.url}/rig`);
  await allUp(page);
  await removeAll(page);
  const guide = page.getByRole('region', { name: 'First steps' });
  await expect(guide).toContainText('Enter the first device');
  await page.getByRole('button', { name: 'Add a device by hand' }).click();
  const form = page.getByRole('form', { name: 'New device' });
  await pick(form.getByRole('combobox', { name: 'Driver' }), 'switcher', 'Vision switcher (stand-in)');
  await form.getByLabel('Address').fill(`127.0.0.1:${await portOf(program, 'sw1')}`);
  await form.getByLabel('Address').blur();
  await form.getByRole('button', { name: 'Add device' }).click();
  // The pages of the demo are still there, so the next step is to press.
  await expect(guide).toContainText('Press the button.');
  await guide.getByRole('link', { name: 'Go to the pages' }).click();
  await page.getByRole('button', { name: 'New page' }).click();
  await expect(page.getByRole('heading', { name: 'New page', level: 1 })).toBeVisible();
  await page.getByRole('button', { name: 'Empty, column 1, row 1', exact: true }).click();
  await page.getByRole('searchbox', { name: 'Search' }).fill('cut');
  await page.locator('.offers button').filter({ hasText: 'Cut' }).first().click();
  await page.getByRole('radio', { name: 'Press' }).click();
  await page.getByRole('button', { name: /^Cut/ }).click();
  await expect(guide).toContainText('Test the whole rig');
  await guide.getByRole('link', { name: 'Go to the rig' }).click();
  await page.getByRole('button', { name: 'Test the whole rig' }).click();
  await expect(guide).toContainText('Every step is done', { timeout: paced(20_000) });
  await guide.getByRole('button', { name: 'Dismiss' }).click();
  await expect(guide).toBeHidden();
});

test('the form for where the program listens starts with what is set, and asks before it deletes the access key', async ({
  page,
  program,
}) => {
  const kept = () => {
    try {
      return JSON.parse(readFileSync(join(program.dataDir, 'listen.json'), 'utf8')) as unknown;
    } catch {
      return undefined;
    }
  };
  await page.goto(`${program.url}/show`);
  const where = page.getByRole('combobox', { name: /^Listen/ });
  const save = page.getByRole('button', { name: 'Save', exact: true });
  await expect(where).toHaveText('this computer only');
  await choose(where, 'every address of this computer');
  await page.getByLabel(/^Access key/).fill('twelve boats abreast');
  await save.click();
  const choice = { host: '0.0.0.0', accessKey: 'twelve boats abreast' };
  await expect.poll(kept).toEqual(choice);

  // Saved once more without a key typed, the key stays.
  await page.reload();
  await expect(where).toHaveText('every address of this computer');
  await save.click();
  await expect(page.getByText('It takes effect at the next start')).toBeVisible();
  expect(kept()).toEqual(choice);

  await choose(where, 'this computer only');
  await save.click();
  await expect(page.getByText('This deletes the access key')).toBeVisible();
  await page.getByRole('button', { name: 'Cancel', exact: true }).click();
  expect(kept()).toEqual(choice);
  await save.click();
  await page.getByRole('button', { name: 'Delete the key and save' }).click();
  await expect.poll(kept).toBeUndefined();
});
