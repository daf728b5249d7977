import { readFile } from 'node:fs/promises';
import AxeBuilder from '@axe-core/playwright';
import { allUp, choose, newPage, stored } from './hand';
import { expect, test } from './program';
import type { ProgramEnds } from './program-ends';

/** Snapshots in the browser: taken, called up by touch, overwritten and got back, dealt onto buttons, and imported over other inputs. */

interface Box {
  readonly on: boolean;
  readonly source: number;
  readonly x: number;
  readonly size: number;
}
const box = async (program: ProgramEnds, n: number): Promise<Box | undefined> => {
  const { boxes } = (await program.switcher()) as unknown as { readonly boxes: readonly Box[] };
  return boxes[n - 1];
};

test('a snapshot is taken, called up by touch as a glide, overwritten, and got back', async ({
  page,
  program,
  newScreen,
}) => {
  await page.goto(`${program.url}/snapshots`);
  await allUp(page);
  await page.getByRole('button', { name: 'Take snapshot' }).click();
  const dialog = page.getByRole('dialog', { name: 'Take snapshot' });
  await dialog.getByRole('button', { name: 'Take snapshot' }).click();
  await expect(dialog.getByText('Choose at least one group')).toBeVisible();
  await dialog.getByRole('group', { name: /^SW1/ }).getByRole('checkbox', { name: 'Boxes of the layout' }).check();
  await expect(dialog.getByText('36 values.')).toBeVisible();
  await dialog.getByRole('textbox', { name: 'Name' }).fill('As it began');
  await dialog.getByRole('combobox', { name: 'Folder' }).fill('Mine');
  expect((await new AxeBuilder({ page }).include('[role=dialog]').analyze()).violations).toEqual([]);
  await dialog.getByRole('button', { name: 'Take snapshot' }).click();
  const details = page.getByRole('article', { name: /As it began/ });
  await expect(details).toBeVisible();
  await expect(details.getByText('No difference')).toBeVisible();
  expect((await new AxeBuilder({ page }).include('main').analyze()).violations).toEqual([]);

  // On a panel, by touch.
  const panel = await newScreen();
  await panel.goto(`${program.url}/panel/director/page-layouts`);
  const control = panel.locator('[data-control]').filter({ hasText: 'Race and guest' });
  await control.click();
  await expect(control).toContainText('MOVING');
  await expect(control).toContainText('THERE');
  expect(await box(program, 1)).toMatchObject({ on: true, source: 5, x: 345, size: 64 });

  // Kept by that hand: which groups, and under which name.
  await panel.getByRole('button', { name: /^Take snapshot/ }).click();
  const question = panel.getByRole('dialog', { name: 'Question of Take snapshot' });
  await expect(question.getByRole('checkbox', { name: 'SW1 Boxes of the layout' })).toBeChecked();
  await question.getByRole('checkbox', { name: 'C1 Exposure' }).check();
  await question.getByRole('textbox', { name: 'Name' }).fill('From the panel');
  await question.getByRole('button', { name: 'Lights' }).click();
  await question.getByRole('radio', { name: 'Plum' }).check();
  expect((await new AxeBuilder({ page: panel }).include('[role=dialog]').analyze()).violations).toEqual([]);
  await question.getByRole('button', { name: 'Send it' }).click();
  await expect(question).toBeHidden();
  await expect(page.getByText('From the panel')).toBeVisible();
  await expect(page.getByText('SW1 Boxes of the layout, C1 Exposure')).toBeVisible();

  // Overwritten with that, seen here, and got back.
  await expect(details.getByText(/values differ$/)).toBeVisible();
  await details.getByRole('button', { name: 'Overwrite with what is set now' }).click();
  await expect(details.getByText('No difference')).toBeVisible();
  await details.getByRole('button', { name: 'More for As it began' }).click();
  await page.getByRole('menuitem', { name: 'Get back what it kept before' }).click();
  await expect(details.getByText(/values differ$/)).toBeVisible();
  await stored(page);
  await details.getByRole('button', { name: 'Cut', exact: true }).click();
  await expect(details.getByText('No difference')).toBeVisible();
  expect(await box(program, 1)).toMatchObject({ source: 1, x: 280 });

  // A box is moved with the keys: the snapshot keeps that, the device hears of it when it is called up.
  const first = details.getByRole('button', { name: /^Box 1,/ });
  await first.focus();
  await page.keyboard.press('ArrowRight');
  await expect(details.getByText('1 value differs')).toBeVisible();
  await stored(page);
  await details.getByRole('button', { name: 'Call up' }).click();
  await expect.poll(async () => (await box(program, 1))?.x).toBe(290);
});

test('layouts that ship are added, dealt onto buttons with their pictures, and laid over other inputs from a file', async ({
  page,
  program,
  newScreen,
}) => {
  await page.goto(`${program.url}/snapshots`);
  await allUp(page);
  await page.getByRole('button', { name: 'Import, save' }).click();
  await page.getByRole('menuitem', { name: 'Add layouts' }).click();
  const shelf = page.getByRole('dialog', { name: 'Add layouts' });
  await shelf.getByRole('combobox', { name: 'Folder' }).fill('Shelf');
  await shelf.getByRole('combobox', { name: 'Folder' }).press('Tab');
  await shelf.getByRole('button', { name: 'Add 24 layouts' }).click();
  await expect(page.getByRole('heading', { name: 'Shelf 24' })).toBeVisible();

  // Out as a file, and in again over inputs 5 to 8.
  await page.getByRole('button', { name: /^\d+ Side by side/ }).click();
  await page.getByRole('button', { name: 'Import, save' }).click();
  await page.getByRole('menuitem', { name: 'Save as a file' }).click();
  const saving = page.getByRole('dialog', { name: 'Save snapshots and macros as a file' });
  await expect(saving.getByRole('checkbox', { name: 'Shelf' })).toBeChecked();
  await saving.getByRole('checkbox', { name: 'Wipe to replay' }).check();
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    saving.getByRole('button', { name: 'Save 24 snapshots and 1 macro' }).click(),
  ]);
  const file = await readFile(await download.path());
  await page.getByRole('button', { name: 'Import, save' }).click();
  await page.getByRole('menuitem', { name: 'Import a file' }).click();
  const dialog = page.getByRole('dialog', { name: 'Import snapshots' });
  const chosen = page.locator('input[type=file]').last();
  await chosen.setInputFiles({ name: 'shelf.json', mimeType: 'application/json', buffer: Buffer.from('[]') });
  await expect(dialog.getByRole('alert')).toContainText('something else, not snapshots');
  await chosen.setInputFiles({ name: 'shelf.json', mimeType: 'application/json', buffer: file });
  await expect(dialog.getByRole('heading', { name: '24 of 24 snapshots' })).toBeVisible();
  await dialog.getByRole('button', { name: 'Shift by 4' }).click();
  await expect(dialog.getByText('1 macro is already in the show')).toBeVisible();
  await dialog.getByRole('button', { name: 'Import 24 snapshots' }).click();
  await expect(page.getByRole('heading', { name: 'Shelf 48' })).toBeVisible();
  await stored(page);

  // Fifteen of them onto fifteen buttons in two acts.
  await newPage(page, program.url, 'Boxes');
  await page.getByRole('tab', { name: 'Offers' }).click();
  await page.getByRole('searchbox', { name: 'Search' }).fill('side by side');
  await page.locator('.offers button').filter({ hasText: 'Side by side' }).first().click();
  await expect(page.locator('.edit-grid [data-control]')).toHaveCount(1);
  await page.getByRole('button', { name: 'Series', exact: true }).click();
  await choose(page.getByRole('combobox', { name: 'Over' }), 'numbers');
  const first = Number(await page.getByRole('spinbutton', { name: 'From' }).inputValue());
  await page.getByRole('spinbutton', { name: 'To', exact: true }).fill(String(first + 14));
  await page.getByRole('spinbutton', { name: 'Cells wide' }).fill('5');
  await page.getByRole('spinbutton', { name: 'Cells high' }).fill('3');
  await page.getByRole('button', { name: 'Deal 15', exact: true }).click();
  await expect(page.locator('.edit-grid [data-control]')).toHaveCount(15);
  await stored(page);

  // Each shows the picture of the layout whose name it has, and one of them is at the device after a touch.
  const panel = await newScreen();
  await panel.goto(page.url().replace('/pages/', '/panel/').replace(/\?.*$/, ''));
  const third = panel.locator('[data-control]').filter({ hasText: 'Large left, small right' });
  await expect(third.locator('img')).toBeVisible();
  const pictures = await panel
    .locator('[data-control] img')
    .evaluateAll((all) => all.map((each) => (each as HTMLImageElement).src));
  expect(new Set(pictures).size).toBe(15);
  await third.click();
  await expect(third).toContainText('THERE');
  expect(await box(program, 1)).toMatchObject({ on: true, x: 345, size: 64, source: 1 });
});

test('a layout that would be black is marked, and its button has to be held', async ({ page, program }) => {
  await page.goto(`${program.url}/snapshots?open=snap-4`);
  await allUp(page);
  const details = page.getByRole('article', { name: /Drone inset/ });
  await details.getByRole('button', { name: /^Show all/ }).click();
  for (const n of [1, 2]) {
    await details.getByRole('combobox', { name: `Box on ${n}` }).click();
    await page.getByRole('option', { name: 'off' }).click();
  }
  await expect(details.getByText('It would show only black.')).toBeVisible();
  await stored(page);
  await page.goto(`${program.url}/pages/page-layouts`);
  const control = page.locator('[data-control]').filter({ hasText: 'Drone inset' });
  await expect(control).toContainText('hold to send');
  await control.click();
  await page.waitForTimeout(300);
  expect((await box(program, 2))?.x).toBe(720);
});

test('a snapshot of a camera keeps what the camera sees', async ({ page, program }) => {
  await page.goto(`${program.url}/snapshots`);
  await allUp(page);
  await page.getByRole('button', { name: 'Take snapshot' }).click();
  const dialog = page.getByRole('dialog', { name: 'Take snapshot' });
  await dialog.getByRole('group', { name: /^C1/ }).getByRole('checkbox', { name: 'Exposure' }).check();
  await expect(dialog.getByText('A picture of C1 is fetched when you take it.')).toBeVisible();
  await dialog.getByRole('textbox', { name: 'Name' }).fill('Noon light');
  await dialog.getByRole('button', { name: 'Take snapshot' }).click();
  const details = page.getByRole('article', { name: /Noon light/ });
  const picture = details.locator('img[src^="/pictures/"]');
  await expect(picture).toBeVisible();
  await expect.poll(() => picture.evaluate((img: HTMLImageElement) => img.naturalWidth)).toBeGreaterThan(100);

  // It goes with the snapshot into a file.
  await stored(page);
  await page.getByRole('button', { name: 'Import, save' }).click();
  await page.getByRole('menuitem', { name: 'Save as a file …' }).click();
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page
      .getByRole('dialog')
      .getByRole('button', { name: /^Save / })
      .click(),
  ]);
  const file = JSON.parse(await readFile(await download.path(), 'utf8')) as {
    snapshots: { name: string; picture?: string }[];
    pictures: { hash: string }[];
  };
  const kept = file.snapshots.find(({ name }) => name === 'Noon light')?.picture;
  expect(kept).toBeDefined();
  expect(file.pictures.map(({ hash }) => hash)).toContain(kept);
});

test('a snapshot is taken in the editor, and its folder is dealt onto buttons', async ({ page, program }) => {
  await newPage(page, program.url, 'Looks');
  await allUp(page);
  await page.getByRole('tab', { name: 'Offers' }).click();
  await page.getByRole('button', { name: 'Take snapshot …' }).click();
  const dialog = page.getByRole('dialog', { name: 'Take snapshot' });
  await dialog.getByRole('group', { name: /^SW1/ }).getByRole('checkbox', { name: 'Boxes of the layout' }).check();
  await expect(dialog.getByText('36 values.')).toBeVisible();
  await dialog.getByRole('textbox', { name: 'Name' }).fill('New look');
  await dialog.getByRole('combobox', { name: 'Folder' }).fill('Layouts');
  await dialog.getByRole('button', { name: 'Take snapshot' }).click();
  await expect(page.getByRole('searchbox', { name: 'Search' })).toHaveValue('New look');
  await page.locator('.offers button').filter({ hasText: 'New look' }).first().click();
  await expect(page.locator('.edit-grid [data-control]')).toHaveCount(1);
  await page.getByRole('button', { name: 'Series', exact: true }).click();
  await choose(page.getByRole('combobox', { name: 'Only' }), 'Layouts');
  await page.getByRole('button', { name: 'Deal 9', exact: true }).click();
  await expect(page.locator('.edit-grid [data-control]')).toHaveCount(9);
  await expect(page.locator('.edit-grid [data-control]').first()).toContainText('Two crews');
});
