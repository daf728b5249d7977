import type { Page } from '@playwright/test';
import { allUp } from './hand';
import { expect, test } from './program';
import type { ProgramEnds } from './program-ends';
import { paced } from '../test/support/pace';

const misbehave = ({ standinUrl }: ProgramEnds, tag: string, verb: string, body: object) =>
  fetch(`${standinUrl}/${tag}/${verb}`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(body),
  });

const stageOf = (page: Page) => page.getByRole('link', { name: /^Health/ });

test('what goes beyond its limit is told, acknowledged by a name, and kept with its as-run', async ({
  page,
  program,
  browser,
}) => {
  test.slow();
  await page.goto(`${program.url}/panels`);
  await allUp(page);
  const row = page.getByRole('listitem', { name: 'Director' });
  await row.getByRole('button', { name: 'Settings' }).click();
  await row.getByRole('switch', { name: 'Notices' }).click();
  const tablet = await browser.newContext({ viewport: { width: 820, height: 1180 } });
  try {
    const panel = await tablet.newPage();
    await panel.goto(`${program.url}/panel/director`);
    const mark = panel.getByRole('button', { name: /^\d+ health notices?$/ });

    for (let n = 0; n < 3; n += 1) {
      await misbehave(program, 'a1', 'drop', {});
      await expect
        .poll(async () => (await program.health()).links.find(({ tag }) => tag === 'A1')?.link.word, {
          timeout: paced(20_000),
        })
        .toBe('up');
    }
    // The other pages of the desk are told in a notice, which leads to the page.
    const notice = page.getByRole('alert').filter({ hasText: 'The link of A1 dropped' });
    await expect(notice).toBeVisible({ timeout: paced(30_000) });
    // A busy computer may have incidents of its own.
    await expect(stageOf(page)).toContainText(/\d incident/);
    await mark.click();
    await expect(panel.getByRole('list', { name: 'Health notices' })).toContainText('The link of A1 dropped');
    await notice.getByRole('link', { name: 'Open Health' }).click();
  } finally {
    await tablet.close();
  }
  await expect(page.getByRole('heading', { name: 'Health', level: 1 })).toBeVisible();
  const open = page.getByRole('list', { name: 'Incidents that go on' });
  const dropped = open.getByRole('listitem').filter({ hasText: 'The link of A1 dropped' });
  await dropped.getByRole('button', { name: /^Details/ }).click();
  const details = page.getByRole('complementary', { name: 'Details of the incident' });
  await expect(details).toContainText('A1 link');
  await dropped.getByRole('button', { name: /^Acknowledge/ }).click();
  const dialog = page.getByRole('dialog', { name: 'Acknowledge the incident' });
  await dialog.getByRole('textbox', { name: 'Your name' }).fill('');
  await dialog.getByRole('button', { name: 'Acknowledge', exact: true }).click();
  await expect(dialog).toContainText('Type your name first.');
  await dialog.getByRole('textbox', { name: 'Your name' }).fill('Ines');
  await dialog.getByRole('textbox', { name: 'Note' }).fill('Loose plug.');
  await dialog.getByRole('button', { name: 'Acknowledge', exact: true }).click();
  await expect(details).toContainText('Ines');
  await expect(details).toContainText('Loose plug.');
  await expect(dropped).toContainText('seen by Ines');

  // The limit belongs to the show, and can be undone like any edit.
  await page.getByRole('button', { name: 'Limits …' }).click();
  const limits = page.getByRole('dialog', { name: 'Limits' });
  const drops = limits.getByRole('spinbutton', { name: 'Limit: Dropped links in 10 minutes' });
  await drops.fill('0');
  await drops.press('Enter');
  await expect(limits).toContainText('1');
  await drops.fill('30');
  await drops.press('Enter');
  await limits.getByRole('button', { name: 'Close' }).click();
  await page.reload();
  await page.getByRole('button', { name: 'Limits …' }).click();
  await expect(drops).toHaveValue('30');
  await limits.getByRole('button', { name: 'Restore the usual limits' }).click();
  await expect(drops).toHaveValue('3');
});

test('devices are set against the line check, each with its answers over time', async ({ page, program }) => {
  test.slow();
  await page.goto(`${program.url}/health`);
  await allUp(page);
  const row = page.getByRole('row').filter({ hasText: 'Mid-course' });
  await expect(row).toContainText(/\d ms/, { timeout: paced(30_000) });
  await row.getByRole('button', { name: /Mid-course/ }).click();
  const details = page.getByRole('complementary', { name: 'Health of the device' });
  await expect(details.getByRole('img', { name: /^Last 10 minutes: \d+ answers/ })).toBeVisible();
  await page
    .getByRole('radio', { name: 'Screens' })
    .or(page.getByText('Screens', { exact: true }))
    .first()
    .click();
  await expect(page.getByRole('region', { name: 'Health of the screens' })).toContainText('desk');
});

test('the rig is exercised for a while, and the spread of its round trips is drawn', async ({ page, program }) => {
  test.slow();
  await page.goto(`${program.url}/line-check/burn-in`);
  await allUp(page);
  await page.getByRole('button', { name: 'Begin burn-in …' }).click();
  const dialog = page.getByRole('dialog', { name: 'Begin a burn-in' });
  await dialog.getByRole('spinbutton', { name: 'Duration' }).fill('0.2');
  await dialog.getByRole('spinbutton', { name: 'Duration' }).press('Tab');
  await dialog.getByRole('button', { name: 'Begin burn-in', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Stop burn-in' })).toBeVisible();
  await expect(page.getByRole('img', { name: 'Round trips of 24 devices' })).toBeVisible({ timeout: paced(30_000) });
  await expect(page.getByRole('button', { name: 'Begin burn-in …' })).toBeVisible({ timeout: paced(40_000) });
  const figures = page.getByRole('region', { name: 'Figures of the burn-in' });
  await expect(figures.getByRole('row').filter({ hasText: 'C1' })).toContainText(/\d\d/);
  await expect(figures.getByRole('row').filter({ hasText: /^M1/ })).toContainText('no read-only query');
});
