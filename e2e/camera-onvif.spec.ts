import { spawn } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import AxeBuilder from '@axe-core/playwright';
import { choose, pick } from './hand';
import { expect, test } from './program';
import { paced } from '../test/support/pace';

/** The camera of `test/onvif.test.ts`: in Python, with nothing of this program in it. */
async function startCamera() {
  const file = fileURLToPath(new URL('../test/peers/onvif-camera.py', import.meta.url));
  const settings = JSON.stringify({ signIn: 'token', clock: 40 });
  const child = spawn('/usr/bin/python3', ['-u', file, settings], { stdio: ['ignore', 'pipe', 'inherit'] });
  const port = await new Promise<number>((resolve) =>
    child.stdout.once('data', (chunk: Buffer) => resolve(Number(String(chunk)))),
  );
  const state = async () =>
    (await (await fetch(`http://127.0.0.1:${port}/state`)).json()) as { pan: number; speeds: { pan: number } };
  return { port, state, stop: () => child.kill() };
}

test('an ONVIF camera is added, tested and moved', async ({ page, ownProgram: program }) => {
  const camera = await startCamera();
  try {
    await page.goto(`${program.url}/rig`);
    await page.getByRole('button', { name: 'Add device' }).click();
    const form = page.getByRole('form', { name: 'New device' });
    await pick(form.getByRole('combobox', { name: 'Driver' }), 'onvif', 'PTZ camera, ONVIF');
    await form.getByLabel('Name', { exact: true }).fill('Weir');
    await form.getByLabel('Address', { exact: true }).fill(`127.0.0.1:${camera.port}`);
    await form.getByLabel('Sign-in name', { exact: true }).fill('operator');
    await form.getByLabel(/^Password/).fill('low "tide" & <reeds>');
    await form.getByRole('button', { name: 'Add device' }).click();
    const details = page.getByRole('article', { name: 'Weir' });
    await expect(details.locator('.device-link')).toContainText('up');

    await details.getByRole('button', { name: 'Test connection' }).click();
    await expect(details).toContainText('ahead of that of this computer', { timeout: paced(30_000) });

    await details.getByRole('tab', { name: 'Try', exact: true }).click();
    await pick(details.getByRole('combobox', { name: 'Command' }), 'recall preset number', 'Recall preset');
    await choose(details.getByRole('combobox', { name: 'Preset', exact: true }), '1 Finish & line');
    await expect(details.getByLabel('Token of this preset')).toHaveCount(0);
    await details.getByRole('button', { name: 'Send', exact: true }).click();
    await expect(details.getByText('confirmed').first()).toBeVisible();
    await expect.poll(async () => (await camera.state()).pan).toBe(0.5);
    const { violations } = await new AxeBuilder({ page }).analyze();
    expect(violations.map(({ id, nodes }) => [id, nodes.length])).toEqual([]);

    // What is plugged into this computer by MIDI has a name instead of an address.
    await page.getByRole('button', { name: 'Add device' }).click();
    await pick(form.getByRole('combobox', { name: 'Driver' }), 'midi', 'Any device: MIDI');
    await form.getByLabel('MIDI port').fill('Desk');
    await expect(form.getByLabel('Address')).toHaveCount(0);
    await expect(form).toContainText('Look again');
  } finally {
    camera.stop();
  }
});
