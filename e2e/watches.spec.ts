import AxeBuilder from '@axe-core/playwright';
import { allUp, choose, pick, stored } from './hand';
import { expect, test } from './program';
import type { ProgramEnds } from './program-ends';
import { paced } from '../test/support/pace';

/** Variables and watches in the browser: made, tried, seen to act at the device, taken back. */

const switcher = async (program: ProgramEnds) =>
  (await program.switcher()) as unknown as { readonly program: number; readonly preview: number };

test('a variable is made, counted here and on a panel, and shown in a label', async ({ page, program, newScreen }) => {
  await page.goto(`${program.url}/variables`);
  await allUp(page);
  await page.getByRole('button', { name: 'Add variable' }).click();
  await page.getByRole('menuitem', { name: 'Number' }).click();
  const details = page.getByRole('article', { name: 'Variable 4' });
  await details.getByRole('textbox', { name: 'Name' }).fill('Laps to go');
  await details.getByRole('textbox', { name: 'Name' }).press('Enter');
  const named = page.getByRole('article', { name: 'Laps to go' });
  await named.getByRole('spinbutton', { name: 'Maximum' }).fill('3');
  await named.getByRole('spinbutton', { name: 'Maximum' }).press('Enter');
  await stored(page);
  const value = named.getByRole('group', { name: 'Value now' });
  for (let n = 0; n < 4; n += 1) await value.getByRole('button', { name: 'One step up' }).click();
  await expect(value).toContainText('3');
  await value.getByRole('button', { name: 'Reset' }).click();
  await expect(value).toContainText('0');
  expect((await new AxeBuilder({ page }).include('main').analyze()).violations).toEqual([]);

  const panel = await newScreen();
  await panel.goto(`${program.url}/panel/page-engineering`);
  const race = panel.locator('[data-control]').filter({ hasText: 'Race 1' });
  await race.click();
  await expect(panel.locator('[data-control]').filter({ hasText: 'Race 2' })).toBeVisible();
  await page.getByRole('button', { name: /^Race/ }).click();
  await expect(page.getByRole('article', { name: 'Race' }).getByRole('group', { name: 'Value now' })).toContainText(
    '2',
  );
});

test('a watch is made, switched on, fires at the device, is in the as-run, and is switched from a panel', async ({
  page,
  program,
  newScreen,
}) => {
  await page.goto(`${program.url}/watches`);
  await allUp(page);
  await page.getByRole('button', { name: 'Add watch' }).click();
  const details = page.getByRole('article', { name: 'Watch 6' });
  await expect(details.getByText('It does nothing yet')).toBeVisible();
  await details.getByRole('textbox', { name: 'Name' }).fill('Follow me');
  await details.getByRole('textbox', { name: 'Name' }).press('Enter');
  const mine = page.getByRole('article', { name: 'Follow me' });
  // When the program is the finish, the preview becomes the drone.
  await pick(mine.getByRole('combobox', { name: 'Reading' }), 'sw1 program input', 'Program input');
  await mine.getByRole('spinbutton', { name: 'this', exact: true }).fill('3');
  await mine.getByRole('spinbutton', { name: 'this', exact: true }).press('Enter');
  await pick(mine.getByRole('combobox', { name: 'Send' }), 'sw1 preview 5', 'preview');
  await stored(page);
  await expect(mine.getByText('It does nothing yet')).toBeHidden();
  await expect(mine.getByRole('switch')).not.toBeChecked();
  await program.operate('operate', { verb: 'take', input: 3 });
  await mine.getByRole('switch').click();
  await expect(mine.getByText('Switched on', { exact: true })).toBeVisible();
  await stored(page);
  // It is true already: that sets nothing off.
  expect((await switcher(program)).preview).not.toBe(5);
  await program.operate('operate', { verb: 'take', input: 1 });
  // The switcher acts with the next frame.
  await page.waitForTimeout(300);
  await program.operate('operate', { verb: 'take', input: 3 });
  await expect.poll(async () => (await switcher(program)).preview).toBe(5);
  await expect(mine).toContainText('Fired once');
  await expect(mine).toContainText('SW1 Program input: 3');
  // Held against the past it says the same; what the record has of earlier tests counts, too.
  await expect(async () => {
    await mine.getByRole('button', { name: 'When would it have fired in the last hour?' }).click();
    await expect(mine.getByText(/It would have fired (once|\d+ times) between/)).toBeVisible({ timeout: 1500 });
  }).toPass({ timeout: paced(20_000) });
  expect((await new AxeBuilder({ page }).include('main').analyze()).violations).toEqual([]);

  await page.goto(`${program.url}/as-run`);
  await expect(page.getByText('watch Follow me').first()).toBeVisible();

  // From a panel: the horn is armed, and disarmed at the desk.
  const panel = await newScreen();
  await panel.goto(`${program.url}/panel/page-engineering`);
  const horn = panel.locator('[data-control]').filter({ hasText: 'Horn at the start' });
  await expect(horn).toContainText('ARMED');
  await page.goto(`${program.url}/watches?open=watch-2`);
  await page.getByRole('article', { name: 'Horn at the start' }).getByRole('switch').click();
  await expect(horn).not.toContainText('ARMED');
  await horn.click();
  await expect(horn).toContainText('ARMED');
});

test('a schedule says when it would be, refuses what cannot be, and a loop is named', async ({ page, program }) => {
  await page.goto(`${program.url}/watches?open=watch-2`);
  await allUp(page);
  const details = page.getByRole('article', { name: 'Horn at the start' });
  await choose(details.getByRole('combobox', { name: 'At', exact: true }), 'a cron expression');
  await details.getByRole('textbox', { name: 'Cron expression' }).fill('61 * * * *');
  await details.getByRole('textbox', { name: 'Cron expression' }).press('Enter');
  await expect(details.getByText('Invalid cron expression')).toBeVisible();
  await details.getByRole('textbox', { name: 'Cron expression' }).fill('30 14 * * 1-5');
  await details.getByRole('textbox', { name: 'Cron expression' }).press('Enter');
  await expect(details.getByText('Invalid cron expression')).toBeHidden();
  await expect(details.getByText(/^Next: .*14:30:00/)).toBeVisible();
  await stored(page);

  await page
    .getByRole('button', { name: /Light on with the pontoon/ })
    .last()
    .click();
  const light = page.getByRole('article', { name: 'Light on with the pontoon' });
  await pick(light.getByRole('combobox', { name: 'And also' }), 'show switch pontoon', 'Pontoon');
  await expect(light.getByText('It may set itself off')).toBeVisible();
});
