import { allUp } from './hand';
import { expect, test } from './program';
import { paced } from '../test/support/pace';

test('a part of the as-run is played again at stand-ins, and the devices are not touched', async ({
  page,
  program,
}) => {
  test.slow();
  await page.goto(`${program.url}/pages/page-race`);
  await allUp(page);
  for (const name of [/^Mid-course/, /^Finish/]) {
    await page.getByRole('region', { name: 'Set up on preview' }).getByRole('button', { name }).click();
    await expect(page.getByRole('link', { name: /^As-run/ })).toContainText('last confirmed');
  }
  const preview = async () =>
    ((await (await fetch(`${program.standinUrl}/sw1/state`)).json()) as { preview: number }).preview;
  const before = await preview();
  await page.getByRole('link', { name: /^As-run/ }).click();
  await page.getByRole('link', { name: 'Replay …' }).click();
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await expect(page.getByText(/^2 of 2 presses: no differences/)).toBeVisible({ timeout: paced(60_000) });
  const presses = page.getByRole('region', { name: 'Presses' });
  await expect(presses.getByRole('row')).toHaveCount(3);
  await expect(presses).toContainText('Race · Mid-course');
  expect(await preview()).toBe(before);
});

test('a page shows beside each control how far it is proved, and presses nothing meanwhile', async ({
  page,
  program,
}) => {
  test.slow();
  await page.goto(`${program.url}/pages/page-race`);
  await allUp(page);
  const sent = async () => (await (await fetch(`${program.standinUrl}/sw1/state`)).json()) as { preview: number };
  const { preview } = await sent();
  await page.locator('[aria-label="Press, check or edit"]').getByText('Check').click();
  const control = page.getByRole('button', { name: /^Proofs of Finish/ }).last();
  await expect(control).toHaveAccessibleName(/not proved$/, { timeout: paced(60_000) });
  await control.click();
  const proofs = page.getByRole('complementary', { name: 'Proofs of the control' });
  await expect(proofs).toContainText('Set 3 up on preview');
  await proofs.getByRole('button', { name: 'Check this control' }).click();
  await expect(control).toHaveAccessibleName(/: proved$/, { timeout: paced(60_000) });
  expect((await sent()).preview).toBe(preview);
});
