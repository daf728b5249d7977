import AxeBuilder from '@axe-core/playwright';
import { hasBroker, publish, startBroker, startListener } from '../test/support/mqtt-broker';
import { choose, pick, stored } from './hand';
import { expect, test } from './program';

test('a lamp behind an MQTT broker is added, and steps up from what it reports', async ({ page, program }) => {
  test.skip(!hasBroker && !process.env.CI, 'There is no MQTT broker on this computer.');
  const broker = await startBroker();
  const { port } = broker;
  publish(port, 'stage/lamp/state', '{"level": 35}');
  const lamp = await startListener(port, 'stage/lamp/set', (text) => publish(port, 'stage/lamp/state', text));
  try {
    await page.goto(`${program.url}/rig`);
    await page.getByRole('button', { name: 'Add device' }).click();
    const form = page.getByRole('form', { name: 'New device' });
    await pick(form.getByRole('combobox', { name: 'Driver' }), 'any mqtt', 'Any device: MQTT');
    await form.getByLabel('Name', { exact: true }).fill('Stage lamp');
    await form.getByLabel('Address', { exact: true }).fill(`127.0.0.1:${port}`);
    await form.getByLabel('Tag').fill('LA1');
    await form.getByLabel('Topics to listen to').fill('stage/#');
    await form.getByRole('button', { name: 'Add device' }).click();
    const details = page.getByRole('article', { name: 'Stage lamp' });
    // The broker keeps what the lamp said last.
    await expect(details.locator('.device-link')).toContainText('up');

    await details.getByRole('tab', { name: 'Commands', exact: true }).click();
    await details.getByRole('button', { name: 'Add reading' }).click();
    const reading = page.getByRole('form', { name: 'New reading' });
    await reading.getByLabel('Name').fill('Brightness');
    await choose(reading.getByRole('combobox', { name: 'Type' }), 'whole number');
    await reading.getByLabel('JSON Pointer').fill('/level');
    await page.getByRole('dialog').getByRole('button', { name: 'Add reading' }).click();
    await expect(reading).toContainText('Enter the topic.');
    await reading.getByLabel('Topic').fill('stage/lamp/state');
    await page.getByRole('dialog').getByRole('button', { name: 'Add reading' }).click();
    await expect(page.getByRole('dialog')).toBeHidden();
    await stored(page);

    await details.getByRole('button', { name: 'Add command' }).click();
    const command = page.getByRole('form', { name: 'New command' });
    await command.getByLabel('Name', { exact: true }).fill('Brighter');
    await command.getByLabel('Topic').fill('stage/lamp/set');
    await command.getByRole('textbox', { name: 'Payload' }).fill('{"level": {level}}');
    await command.getByRole('button', { name: 'Add value' }).click();
    const value = command.getByRole('region', { name: 'Values' });
    await choose(value.getByRole('combobox', { name: 'Without a value given' }), 'it steps up or down');
    await expect(value.getByRole('combobox', { name: 'From the reading' })).toHaveText('Brightness');
    await value.getByRole('spinbutton', { name: 'By', exact: true }).fill('10');
    await choose(command.getByRole('combobox', { name: 'Confirmed when' }), 'a reading has a value');
    await expect(command.getByRole('combobox', { name: 'Reading', exact: true })).toHaveText('Brightness');
    expect((await new AxeBuilder({ page }).include('[role="dialog"]').analyze()).violations).toEqual([]);
    await page.getByRole('dialog').getByRole('button', { name: 'Add command' }).click();
    await expect(page.getByRole('dialog')).toBeHidden();
    await stored(page);

    await details.getByRole('tab', { name: 'Try', exact: true }).click();
    await pick(details.getByRole('combobox', { name: 'Command' }), 'brighter', 'Brighter');
    await details.getByRole('button', { name: 'Send', exact: true }).click();
    await expect(details.getByText('confirmed').first()).toBeVisible();
    expect(lamp.lines).toEqual(['{"level":45}']);
  } finally {
    await lamp.stop();
    await broker.stop();
  }
});
