import { expect, test } from './program';

const names = ['Race', 'Cameras', 'Replays', 'Titles', 'Streams', 'Sound', 'Pontoon talk', 'Engineering'];
/** The pages with the copy of one at a place. */
const withCopy = (at: number) => names.toSpliced(at, 0, 'Race 2');

test('a page is made, duplicated with its controls, moved and taken away, and undo brings it back', async ({
  page,
  program,
}) => {
  await page.goto(`${program.url}/pages/page-race`);
  const tabs = page.getByRole('navigation', { name: 'Pages' }).getByRole('link');
  const cut = page.locator('[data-control]').filter({ hasText: 'Cut' });
  const heading = (name: string) => page.getByRole('heading', { level: 1, name, exact: true });
  await expect(tabs).toHaveText(names);
  await page.getByRole('radio', { name: 'Edit' }).click();
  await page.getByRole('button', { name: 'Duplicate page' }).click();
  await expect(heading('Race 2')).toBeVisible();
  await expect(cut).toBeVisible();
  await expect(tabs).toHaveText(withCopy(1));

  // The copy is a page of its own: what is changed on it leaves the first as it was.
  await cut.click();
  await page.getByRole('toolbar').getByRole('button', { name: 'Clear' }).click();
  await expect(cut).toBeHidden();
  await page.getByRole('tab', { name: 'Page' }).click();
  await page.getByRole('button', { name: 'Later' }).click();
  await expect(tabs).toHaveText(withCopy(2));
  await page.getByRole('button', { name: 'Remove page' }).click();
  await expect(page.getByText('13 controls go with it.')).toBeVisible();
  await page.getByRole('button', { name: 'Really remove the page' }).click();
  await expect(heading('Race')).toBeVisible();
  await expect(cut).toBeVisible();
  await expect(tabs).toHaveCount(8);
  await page.keyboard.press('Control+z');
  await expect(tabs).toHaveText(withCopy(2));
});
