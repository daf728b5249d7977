import { expect, test } from './program';

const names = [
  'Race',
  'Cameras',
  'Replays',
  'Titles',
  'Streams',
  'Sound',
  'Pontoon talk',
  'Camera work',
  'Layouts',
  'Engineering',
  'Screens',
  'Lights',
  'Clocks',
  'Slides',
  'Launch and club',
  'Wall and house',
];
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
  await expect(tabs).toHaveCount(names.length);
  await page.keyboard.press('Control+z');
  await expect(tabs).toHaveText(withCopy(2));
});

test('pages are put in order by dragging and by keys, and panels follow', async ({ page, program, newScreen }) => {
  const panel = await newScreen();
  await panel.goto(`${program.url}/panel/page-race`);
  await page.goto(`${program.url}/pages/page-race?edit=1`);
  const list = page.getByRole('navigation', { name: 'Pages' });
  await expect(list.getByRole('link')).toHaveText(names);
  const [from, to] = [
    await list.getByRole('button', { name: 'Move Sound' }).boundingBox(),
    await list.getByRole('link', { name: 'Cameras' }).boundingBox(),
  ];
  if (!from || !to) throw new Error('Nothing to drag.');
  await page.mouse.move(from.x + from.width / 2, from.y + from.height / 2);
  await page.mouse.down();
  await page.mouse.move(to.x + to.width / 2, to.y + to.height / 2 - 4, { steps: 8 });
  await page.mouse.up();
  const dragged = ['Race', 'Sound', ...names.filter((name) => name !== 'Race' && name !== 'Sound')];
  await expect(list.getByRole('link')).toHaveText(dragged);
  await expect(panel.getByRole('navigation', { name: 'Pages' }).getByRole('button').nth(1)).toHaveText('Sound');
  // By keys: taken up, moved down by one, put down.
  await list.getByRole('button', { name: 'Move Race' }).focus();
  await page.keyboard.press('Space');
  await expect(page.getByText('Race: place 1 of 16.')).toBeAttached();
  await page.keyboard.press('ArrowDown');
  await expect(page.getByText('Race: place 2 of 16.')).toBeAttached();
  await page.keyboard.press('Space');
  await expect(list.getByRole('link').first()).toHaveText('Sound');
  await page.keyboard.press('Control+z');
  await expect(list.getByRole('link')).toHaveText(dragged);
});
