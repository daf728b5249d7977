import { spawn, spawnSync } from 'node:child_process';
import { choose, pick, stored } from './hand';
import { expect, test } from './program';

/** A scale at the other end of a pseudo terminal: \`W?\` gives its weight, and the state of its tray. */
const scale = `
import os, pty, tty
master, slave = pty.openpty()
tty.setraw(slave)
print(os.ttyname(slave), flush=True)
rest = b''
while True:
    rest += os.read(master, 200)
    while b'\\r' in rest:
        line, rest = rest.split(b'\\r', 1)
        if line == b'W?': os.write(master, b'W=12.5 kg\\r')
`;
const python = '/usr/bin/python3';
const can = process.platform === 'linux' && spawnSync(python, ['--version'], { stdio: 'ignore' }).status === 0;

// On the machine that decides, this is not passed over.
test.skip(!can && !process.env.CI, 'needs Python and pseudo terminals');

test('a device at a serial port is tested and added, and a reading of its own is computed from another', async ({
  page,
  ownProgram: program,
}) => {
  const device = spawn(python, ['-u', '-c', scale], { stdio: ['ignore', 'pipe', 'inherit'] });
  const path = await new Promise<string>((resolve) =>
    device.stdout.once('data', (chunk) => resolve(String(chunk).trim())),
  );
  try {
    // The ports of this computer are listed by a process of their own.
    expect((await page.request.get(`${program.url}/api/serial-ports`)).ok()).toBe(true);
    await page.goto(`${program.url}/rig`);
    await page.getByRole('button', { name: 'Add device' }).click();
    const form = page.getByRole('form', { name: 'New device' });
    await pick(form.getByRole('combobox', { name: 'Driver' }), 'serial text', 'Any device: text over a serial port');
    await expect(form.getByLabel('Address', { exact: true })).toBeHidden();
    await form.getByLabel('Name', { exact: true }).fill('Scale');
    await form.getByLabel('Tag').fill('SC1');
    await choose(form.getByRole('combobox', { name: 'Commands end with' }), 'CR');
    await choose(form.getByRole('combobox', { name: 'Ask something regularly' }), 'yes');
    await form.getByLabel('The question').fill('W?');
    await form.getByLabel('Serial port').fill('/dev/ttyNOBODY');
    await form.getByRole('button', { name: 'Test connection' }).click();
    await expect(form.getByText('No such serial port.')).toBeVisible();
    await form.getByLabel('Serial port').fill(path);
    await form.getByRole('button', { name: 'Test connection' }).click();
    await expect(form.getByText(`${path} opens.`)).toBeVisible();
    await expect(form.getByText('It speaks the driver’s protocol.')).toBeVisible();
    await form.getByRole('button', { name: 'Add device' }).click();
    const details = page.getByRole('article', { name: 'Scale' });
    await expect(details.locator('.device-link')).toContainText('up');

    await details.getByRole('tab', { name: 'Commands', exact: true }).click();
    const dialog = page.getByRole('dialog');
    const reading = page.getByRole('form', { name: 'New reading' });
    await details.getByRole('button', { name: 'Add reading' }).click();
    await reading.getByLabel('Name').fill('Weight');
    await reading.getByLabel('Comes after').fill('W=');
    await reading.getByLabel('Up to').fill(' kg');
    await choose(reading.getByRole('combobox', { name: 'Type' }), 'decimal number');
    await dialog.getByRole('button', { name: 'Add reading' }).click();
    await expect(dialog).toBeHidden();
    await stored(page);

    await details.getByRole('button', { name: 'Add reading' }).click();
    await reading.getByLabel('Name').fill('Load');
    await choose(reading.getByRole('combobox', { name: 'Found' }), 'computed from other readings');
    const expression = reading.getByRole('textbox', { name: 'Expression' });
    // Escape closes the list of readings, and not the dialog with all that was typed.
    await expression.click();
    await page.keyboard.type('weig');
    const offered = page.getByRole('option', { name: /own1/ });
    await expect(offered).toBeVisible();
    await page.keyboard.press('Escape');
    await expect(offered).toBeHidden();
    await expect(dialog).toBeVisible();
    await expression.fill('own1 > 10 ? "heavy" : light');
    await dialog.getByRole('button', { name: 'Add reading' }).click();
    await expect(dialog.getByText('There is no reading “light”.')).toBeVisible();
    await expression.fill('own1 > 10.0 ? "heavy" : "light"');
    await dialog.getByRole('button', { name: 'Add reading' }).click();
    await expect(dialog).toBeHidden();
    await stored(page);
    await details.getByRole('tab', { name: 'Readings', exact: true }).click();
    await expect(details.getByRole('listitem').filter({ hasText: 'Load' })).toContainText('heavy');
    await expect(details.getByRole('listitem').filter({ hasText: 'Weight' })).toContainText('12.5');
  } finally {
    device.kill();
  }
});
