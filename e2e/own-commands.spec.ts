import AxeBuilder from '@axe-core/playwright';
import { ServerTCP } from 'modbus-serial';
import { freePorts } from './free-ports';
import { choose, openDevice, pick, stored } from './hand';
import { expect, test } from './program';

test('a relay box that no driver knows is driven by Modbus, and its command goes to another one', async ({
  page,
  ownProgram: program,
}) => {
  const coils = new Map<number, boolean>();
  const port = await freePorts(1);
  const box = new ServerTCP(
    {
      getCoil: (address: number) => coils.get(address) ?? false,
      setCoil: (address: number, value: boolean) => void coils.set(address, value),
    },
    { host: '127.0.0.1', port, unitID: 1 },
  );
  try {
    await page.goto(`${program.url}/rig`);
    await page.getByRole('button', { name: 'Add device' }).click();
    const form = page.getByRole('form', { name: 'New device' });
    await pick(form.getByRole('combobox', { name: 'Driver' }), 'modbus', 'Any device: Modbus TCP');
    await form.getByLabel('Name', { exact: true }).fill('Relay box');
    await form.getByLabel('Address', { exact: true }).fill(`127.0.0.1:${port}`);
    await form.getByLabel('Tag').fill('RB1');
    await form.getByRole('button', { name: 'Add device' }).click();
    const details = page.getByRole('article', { name: 'Relay box' });
    // It is connected, but nobody asks it anything.
    await expect(details.locator('.device-link')).toContainText('not checked');

    await details.getByRole('tab', { name: 'Commands', exact: true }).click();
    await details.getByRole('button', { name: 'Add reading' }).click();
    const reading = page.getByRole('form', { name: 'New reading' });
    await reading.getByLabel('Name').fill('Horn is on');
    await reading.getByLabel('Address').fill('4');
    await page.getByRole('dialog').getByRole('button', { name: 'Add reading' }).click();
    await expect(page.getByRole('dialog')).toBeHidden();
    await stored(page);
    await expect(details.locator('.device-link')).toContainText('up');

    await details.getByRole('button', { name: 'Add command' }).click();
    const command = page.getByRole('form', { name: 'New command' });
    const add = page.getByRole('dialog').getByRole('button', { name: 'Add command' });
    await add.click();
    await expect(command).toContainText('Enter a name.');
    await command.getByLabel('Name', { exact: true }).fill('Horn');
    await expect(command.getByText('Enter a name.')).toBeHidden();
    await command.getByLabel('Address').fill('4');
    await command.getByRole('button', { name: 'Add value' }).click();
    const value = command.getByRole('region', { name: 'Values' });
    await value.getByLabel('Name in the message').fill('on');
    await value.getByLabel('Label').fill('On');
    await choose(value.getByRole('combobox', { name: 'Type' }), 'on or off');
    await command.getByLabel('Value', { exact: true }).fill('{in}');
    await expect(command).toContainText('There is no value called “in”');
    await command.getByLabel('Value', { exact: true }).fill('{on}');
    await choose(command.getByRole('combobox', { name: 'Confirmed when' }), 'a reading has a value');
    await expect(command.getByRole('combobox', { name: 'Has' })).toHaveText('the value On');
    expect((await new AxeBuilder({ page }).include('[role="dialog"]').analyze()).violations).toEqual([]);
    await add.click();
    await expect(page.getByRole('dialog')).toBeHidden();
    await stored(page);

    await details.getByRole('tab', { name: 'Try', exact: true }).click();
    await pick(details.getByRole('combobox', { name: 'Command' }), 'horn', 'Horn');
    await choose(details.getByRole('combobox', { name: 'On' }), 'on');
    await details.getByRole('button', { name: 'Send', exact: true }).click();
    await expect(details.getByText('confirmed').first()).toBeVisible();
    expect(coils.get(4)).toBe(true);

    await details.getByRole('tab', { name: 'Commands', exact: true }).click();
    const row = details.getByRole('listitem').filter({ hasText: 'command' });
    await row.getByRole('button', { name: 'Edit' }).click();
    const edited = page.getByRole('form', { name: 'Command', exact: true });
    await expect(edited.getByLabel('Value', { exact: true })).toHaveValue('{on}');
    await edited.getByLabel('Name', { exact: true }).fill('Start horn');
    await page.getByRole('dialog').getByRole('button', { name: 'Save command' }).click();
    await expect(row).toContainText('Start horn');
    await stored(page);

    await row.getByRole('button', { name: 'More for Start horn' }).click();
    await page.getByRole('menuitem', { name: 'Copy to another device' }).click();
    const copy = page.getByRole('dialog', { name: 'Copy “Start horn”' });
    await choose(copy.getByRole('combobox', { name: 'Device' }), 'G1 Start gateway');
    await copy.getByRole('button', { name: 'Copy to device' }).click();
    await expect(page.getByText('was copied to G1')).toBeVisible();
    await stored(page);
    await openDevice(page, 'Start gateway', 'Commands');
    const gateway = page.getByRole('article', { name: 'Start gateway' }).locator('.own-list');
    await expect(gateway.getByRole('listitem')).toHaveText([/^Start horn/, /^Horn is on/]);
  } finally {
    box.close(() => undefined);
  }
});
