import AxeBuilder from '@axe-core/playwright';
import { expect, test } from './program';

test.use({ viewport: { width: 390, height: 844 } });

test('a phone shows one camera’s tally over the whole screen, and says so when nobody knows', async ({
  page,
  ownProgram: program,
}) => {
  await page.goto(`${program.url}/panel`);
  await page.getByRole('button', { name: 'Tally' }).click();
  await page.getByRole('button', { name: 'C2 Mid-course' }).click();
  await expect(page).toHaveURL(/\/panel\/tally\/C2$/);
  const word = page.getByRole('status');
  await expect(word).toHaveText('NEXT');
  await program.operate('operate', { verb: 'take', input: 2 });
  await expect(word).toHaveText('ON AIR');
  await program.operate('operate', { verb: 'ready', input: 3 });
  await program.operate('operate', { verb: 'take', input: 1 });
  await expect(word).toHaveText('off air');
  // The layout on program, with this camera in one of its boxes.
  await program.operate('operate', { verb: 'take', input: 10 });
  await expect(word).toHaveText('ON AIR');
  expect((await new AxeBuilder({ page }).analyze()).violations).toEqual([]);
  await program.operate('power', { on: false });
  await expect(word).toHaveText('NOT KNOWN');
  await expect(page.getByText('Treat it as on air.')).toBeVisible();
  await program.operate('power', { on: true });
  await expect(word).not.toHaveText('NOT KNOWN');
  await program.stop();
  await expect(word).toHaveText('CUT OFF');
  await expect(page.locator('[data-tally="onAir"]')).toHaveCount(0);
});

test('the desk lists the cameras and the phones that show their tally, and calls a phone', async ({
  page,
  program,
  newScreen,
}) => {
  const phone = await newScreen();
  await phone.goto(`${program.url}/panel/tally/C2`);
  await expect(phone.getByRole('status')).toHaveText('NEXT');
  await page.goto(`${program.url}/panels`);
  const row = page.getByRole('listitem', { name: 'Tally of C2' });
  await expect(row).toContainText('next');
  await expect(row).toContainText('1 phone');
  await expect(page.getByRole('listitem', { name: 'Tally of C3' })).toContainText('no phone');
  await program.operate('operate', { verb: 'take', input: 2 });
  await expect(row).toContainText('on air');
  const screen = page.getByRole('listitem').filter({ hasText: 'Tally C2' });
  await screen.getByRole('button', { name: 'Identify' }).click();
  const called = phone.getByRole('alert').filter({ hasText: 'This is' });
  await expect(called).toBeVisible();
  // Another camera chosen on the phone is another row's phone.
  await called.click();
  await phone.getByRole('button', { name: 'Another camera' }).click();
  await phone.getByRole('button', { name: 'C3 Finish line' }).click();
  await expect(page.getByRole('listitem', { name: 'Tally of C3' })).toContainText('1 phone');
  await expect(row).toContainText('no phone');
});
