import type { Locator, Page } from '@playwright/test';
import { cell, choose, deal, Hand, newPage, openDevice, stored, tabTo, take } from './hand';
import { expect, test } from './program';
import { paced } from '../test/support/pace';

/** Programming pages in a real browser: with the mouse, with the keyboard alone, in two windows, and from a file. */

const labels = (page: Page) => page.locator('.edit-grid [data-control] .tape-label').allInnerTexts();

const raceLabels = [
  ...['Start tower', 'Mid-course', 'Finish', 'Pontoon', 'Drone', 'Launch', 'Cut'],
  ...['Start tower', 'Mid-course', 'Finish', 'Pontoon', 'Drone', 'Launch', 'Auto'],
];

test('a page of 24 controls with names, series, tints and lamps takes at most 50 actions', async ({
  page,
  program,
}) => {
  const hand = new Hand(page);
  await page.goto(`${program.url}/pages/page-race?edit=1`);
  await hand.click(page.getByRole('button', { name: 'New page' }));
  await expect(page.getByRole('heading', { level: 1, name: 'New page' })).toBeVisible();
  const rows = [
    { search: 'program', title: 'Start tower', tint: 'slate' },
    { search: 'preview', title: 'Start tower', tint: 'lagoon' },
    { search: 'clips', title: 'Opening film', tint: 'sand' },
    { search: 'mutes', title: 'Programme', tint: 'plum' },
  ];
  for (const [row, { search, title, tint }] of rows.entries()) {
    const first = await offerTitle(page, hand, search, title, cell(page, 0, row));
    await deal(page, hand, page.locator('.edit-grid [aria-pressed="true"]').first(), cell(page, 5, row), 6);
    await hand.click(page.getByRole('button', { name: tint, exact: true }));
    expect(first).not.toBe('');
  }
  await expect(page.locator('.edit-grid [data-control]')).toHaveCount(24);
  await expect(page.locator('.edit-grid .tape[data-tint]')).toHaveCount(24);
  // A lamp of the switcher is true at once, and a name follows what the device lists.
  await expect(page.locator('.edit-grid [data-lamp], .edit-grid .lamp-onAir').first()).toBeVisible();
  expect((await labels(page)).slice(0, 3)).toEqual(['Start tower', 'Mid-course', 'Finish']);
  expect(hand.count).toBeLessThanOrEqual(50);
  console.log(`24 controls in ${hand.count} actions`);
});

/** As `take`, whatever the first offer of that purpose is called; returns its title. */
async function offerTitle(page: Page, hand: Hand, search: string, title: string, to: Locator): Promise<string> {
  await hand.click(page.getByRole('tab', { name: 'Offers' }));
  await expect(page.getByRole('searchbox', { name: 'Search' })).toBeFocused();
  await hand.type(search);
  const wanted = page.locator('.offers button').filter({ hasText: title });
  const one = (await wanted.count()) > 0 ? wanted.first() : page.locator('.offers button').first();
  await one.scrollIntoViewIfNeeded();
  const name = await one.locator('b').innerText();
  await hand.drag(one, to);
  await expect(page.getByRole('heading', { level: 2, name })).toBeVisible();
  return name;
}

test('the Race page is built from nothing with the mouse, and a series of twelve', async ({ page, program }) => {
  const hand = new Hand(page);
  await newPage(page, program.url, 'Race again');
  await page.getByRole('spinbutton', { name: 'Columns' }).fill('7');
  await page.keyboard.press('Enter');
  await expect(cell(page, 6, 0)).toBeVisible();
  await take(page, hand, 'program', 'Start tower', cell(page, 0, 0));
  await deal(page, hand, page.locator('.edit-grid [aria-pressed="true"]'), cell(page, 5, 0), 6);
  await hand.click(page.getByRole('button', { name: 'Zone', exact: true }));
  await page.getByRole('textbox', { name: 'Title' }).fill('Straight to program');
  await page.keyboard.press('Enter');
  await take(page, hand, 'preview', 'Start tower', cell(page, 0, 1));
  await deal(page, hand, page.locator('.edit-grid [aria-pressed="true"]'), cell(page, 5, 1), 6);
  await hand.click(page.getByRole('button', { name: 'Zone', exact: true }));
  await page.getByRole('textbox', { name: 'Title' }).fill('Set up on preview');
  await page.keyboard.press('Enter');
  await take(page, hand, 'sw1 cut', 'Cut', cell(page, 6, 0));
  await take(page, hand, 'sw1 auto', 'Auto', cell(page, 6, 1));
  await expect(page.locator('.edit-grid [data-control]')).toHaveCount(14);
  expect(await labels(page)).toEqual(raceLabels);

  // What was built works: it is pressed, and the switcher does it.
  await page.getByRole('radio', { name: 'Press' }).click();
  await page
    .getByRole('region', { name: 'Straight to program' })
    .getByRole('button', { name: /^Drone/ })
    .click();
  await expect.poll(async () => (await program.switcher()).program).toBe(5);

  // A series of twelve in one step, which one undo takes back.
  await page.getByRole('radio', { name: 'Edit' }).click();
  await take(page, hand, 'program', 'Start tower', cell(page, 0, 2));
  await hand.click(page.getByRole('button', { name: 'Series', exact: true }));
  await choose(page.getByRole('combobox', { name: 'Over' }), 'what the device lists');
  await expect(page.locator('.overlay-member')).toHaveCount(11);
  await hand.click(page.getByRole('button', { name: 'Deal 12', exact: true }));
  await expect(page.locator('.edit-grid [data-control]')).toHaveCount(26);
  await page.locator('.edit-grid').press('Control+z');
  await expect(page.locator('.edit-grid [data-control]')).toHaveCount(15);
});

test('controls are moved, swapped, resized, copied to another page and cleared', async ({ page, program, context }) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write'], { origin: program.url });
  const hand = new Hand(page);
  await page.goto(`${program.url}/pages/page-race?edit=1`);
  const at = (name: string) => page.locator('.edit-grid [data-control]').filter({ hasText: name }).first();
  const place = async (name: string) => (await at(name).getAttribute('style')) ?? '';
  await expect(at('Drone')).toBeVisible();
  const [drone, finish] = [await place('Drone'), await place('Finish')];
  await hand.drag(at('Drone'), at('Finish'));
  await expect.poll(() => place('Drone')).toBe(finish);
  expect(await place('Finish')).toBe(drone);
  await stored(page);
  await at('Cut').click();
  await expect(at('Cut')).toHaveAttribute('aria-pressed', 'true');
  // On a busy computer the grid may still move under the pointer: then it is dragged again.
  await expect(async () => {
    await hand.drag(page.locator('.handle'), cell(page, 6, 2));
    await expect(page.getByText('Another control is there.').first()).toBeVisible({ timeout: 3000 });
  }).toPass({ timeout: paced(30_000) });
  await page.locator('.edit-grid [data-control]').filter({ hasText: 'Auto' }).click();
  // Escape in mid-drag puts everything back, and keeps the choice.
  const auto = page.locator('.edit-grid [data-control]').filter({ hasText: 'Auto' });
  for (const grip of [page.locator('.handle'), auto]) {
    const [from, to] = [await grip.boundingBox(), await cell(page, 6, 2).boundingBox()];
    if (!from || !to) throw new Error('nothing to drag');
    await page.mouse.move(from.x + from.width / 2, from.y + from.height / 2);
    await page.mouse.down();
    await page.mouse.move(to.x + 10, to.y + 10, { steps: 5 });
    await expect(page.locator('.edit-grid')).toHaveAttribute('data-dragging', /move|resize/);
    await page.keyboard.press('Escape');
    await expect(page.locator('.edit-grid')).not.toHaveAttribute('data-dragging');
    await page.mouse.up();
    await expect(auto).toHaveAttribute('aria-pressed', 'true');
  }
  expect(await place('Auto')).not.toContain('span 3');
  await hand.drag(page.locator('.handle'), cell(page, 6, 2));
  await expect.poll(() => place('Auto')).toContain('span 3');

  await at('Start tower').click();
  await page.keyboard.press('Control+c');
  await page.getByRole('link', { name: 'Titles' }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'Titles' })).toBeVisible();
  await cell(page, 5, 3).click();
  await page.keyboard.press('Control+v');
  await expect(at('Start tower')).toBeVisible();
  await page.keyboard.press('Delete');
  await expect(at('Start tower')).toBeHidden();
  // The answer to that would take the place of what is said next.
  await stored(page);
  // What is not ours is said to be so.
  await page.evaluate(() => navigator.clipboard.writeText('a shopping list'));
  await cell(page, 5, 3).click();
  await page.keyboard.press('Control+v');
  await expect(page.getByText('The clipboard holds other text (“a shopping list”)')).toBeVisible();
});

test('a page is built by keyboard alone', async ({ page, program }) => {
  await page.goto(`${program.url}/pages/page-race?edit=1`);
  await expect(page.getByRole('button', { name: 'New page' })).toBeVisible();
  await tabTo(page, page.getByRole('button', { name: 'New page' }));
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { level: 1, name: 'New page' })).toBeVisible();
  await tabTo(page, cell(page, 0, 0));
  await page.keyboard.type('sw1 start tower program');
  await page.keyboard.press('Enter');
  const first = page.locator('.edit-grid [data-control]').first();
  await expect(first).toBeFocused();
  await tabTo(page, page.getByRole('button', { name: 'Series', exact: true }), true);
  await page.keyboard.press('Enter');
  await tabTo(page, page.getByRole('spinbutton', { name: 'Cells wide' }));
  await page.keyboard.press('Control+a');
  await page.keyboard.type('6');
  await page.keyboard.press('Enter');
  await expect(page.locator('.edit-grid [data-control]')).toHaveCount(6);
  await tabTo(page, page.locator('.edit-grid [data-at-cursor]'), true);
  await page.keyboard.press('ArrowDown');
  await page.keyboard.type('sw1 cut');
  await page.keyboard.press('Enter');
  await expect(page.locator('.edit-grid [data-control]')).toHaveCount(7);
  await page.keyboard.press('Control+ArrowRight');
  await page.keyboard.press('Control+Shift+ArrowRight');
  const cut = page.locator('.edit-grid [data-control]').filter({ hasText: 'Cut' });
  await expect(cut).toHaveAttribute('style', /4 \/ 2 \/ span 1 \/ span 2/);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('textbox', { name: 'Label', exact: true })).toBeFocused();
  await page.keyboard.press('Control+a');
  await page.keyboard.type('Cut to {SW1.prev');
  await expect(page.getByRole('option', { name: /^previewPreview/ })).toBeVisible();
  await page.keyboard.press('Enter');
  await page.keyboard.press('Enter');
  await expect(cut).toContainText('Cut to 2');
  await page.keyboard.press('Control+a');
  await page.keyboard.type('Cut {SW1.previw}');
  await expect(page.getByText('SW1 has no reading “previw”. Is “preview” meant?')).toBeVisible();
});

test('the Race page is built from nothing again, by keyboard alone', async ({ page, program }) => {
  test.setTimeout(paced(150_000));
  await page.goto(`${program.url}/pages/page-race?edit=1`);
  await tabTo(page, page.getByRole('button', { name: 'New page' }));
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { level: 1, name: 'New page' })).toBeVisible();
  const retype = async (field: Locator, text: string) => {
    await tabTo(page, field);
    await page.keyboard.press('Control+a');
    await page.keyboard.type(text);
    await page.keyboard.press('Enter');
  };
  await retype(page.getByRole('textbox', { name: 'Name', exact: true }), 'Race by keys');
  await expect(page.getByRole('heading', { level: 1, name: 'Race by keys' })).toBeVisible();
  await retype(page.getByRole('spinbutton', { name: 'Columns' }), '7');
  await expect(cell(page, 6, 0)).toBeVisible();

  const atCursor = page.locator('.edit-grid [data-at-cursor]');
  const controls = page.locator('.edit-grid [data-control]');
  /** Types in the cell that has the focus what it shall be. */
  const put = async (typed: string, count: number) => {
    await page.keyboard.type(typed);
    await page.keyboard.press('Enter');
    await expect(controls).toHaveCount(count);
    await expect(atCursor).toBeFocused();
  };
  const sixInZone = async (typed: string, before: number, title: string) => {
    await put(typed, before + 1);
    await tabTo(page, page.getByRole('button', { name: 'Series', exact: true }), true);
    await page.keyboard.press('Enter');
    await retype(page.getByRole('spinbutton', { name: 'Cells wide' }), '6');
    await expect(controls).toHaveCount(before + 6);
    await tabTo(page, page.getByRole('button', { name: 'Zone', exact: true }), true);
    await page.keyboard.press('Enter');
    await expect(page.getByRole('textbox', { name: 'Title' })).toBeFocused();
    await page.keyboard.press('Control+a');
    await page.keyboard.type(title);
    await page.keyboard.press('Enter');
    await expect(page.getByRole('button', { name: title, exact: true })).toBeVisible();
    await tabTo(page, atCursor, true);
  };
  await tabTo(page, cell(page, 0, 0));
  await sixInZone('sw1 start tower program', 0, 'Straight to program');
  await page.keyboard.press('ArrowDown');
  await sixInZone('sw1 start tower preview', 6, 'Set up on preview');
  await page.keyboard.press('ArrowUp');
  for (let n = 0; n < 6; n += 1) await page.keyboard.press('ArrowRight');
  await put('sw1 cut', 13);
  await page.keyboard.press('ArrowDown');
  await put('sw1 auto', 14);
  expect(await labels(page)).toEqual(raceLabels);
});

test('two windows see each other’s edits, and nobody’s is lost untold', async ({ page, program, newScreen }) => {
  const other = await newScreen();
  for (const each of [page, other]) {
    await each.goto(`${program.url}/pages/page-race?edit=1`);
    await each.locator('.edit-grid [data-control]').filter({ hasText: 'Cut' }).click();
  }
  const label = (of: Page) => of.getByRole('textbox', { name: 'Label', exact: true });
  await label(page).fill('Cut now');
  await label(page).press('Enter');
  await expect(other.locator('.edit-grid [data-control]').filter({ hasText: 'Cut now' })).toBeVisible();
  // While one types, the other changes the same: both are known, and whoever types decides.
  await label(other).fill('Cut here');
  await label(page).fill('Cut there');
  await label(page).press('Enter');
  await expect(other.getByText('Changed meanwhile to “Cut there”.')).toBeVisible();
  await label(other).press('Escape');
  await expect(label(other)).toHaveText('Cut there');
  // Different parts of one control do not get in each other's way.
  await label(other).fill('Cut over');
  await page.getByRole('button', { name: 'plum', exact: true }).click();
  await expect(other.locator('.edit-grid .tape[data-tint="plum"]')).toBeVisible();
  await label(other).press('Enter');
  await expect(page.locator('.edit-grid .tape[data-tint="plum"]').filter({ hasText: 'Cut over' })).toBeVisible();
});

test('pages are carried into a show with other tags, in one step that can be undone', async ({ page, program }) => {
  await page.goto(`${program.url}/pages/page-titles?edit=1`);
  await page.getByRole('tab', { name: 'Page' }).click();
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save page as a file' }).click();
  const file = await (await download).path();

  // The same rig under another tag.
  await page.goto(`${program.url}/rig`);
  const row = page.getByRole('article', { name: 'Titles' });
  await openDevice(page, 'Titles', 'Settings');
  await row.getByRole('textbox', { name: 'Tag' }).fill('CG7');
  await row.getByRole('button', { name: 'Save device' }).click();
  await expect(row.getByText('CG7').first()).toBeVisible();

  await page.goto(`${program.url}/pages/page-race?edit=1`);
  await page.getByRole('tab', { name: 'Page' }).click();
  await page.getByRole('button', { name: 'Import', exact: true }).click();
  const dialog = page.getByRole('dialog', { name: 'Import pages' });
  await dialog.getByLabel('A file of pages').setInputFiles(file);
  await expect(dialog.getByText('is CG7 here')).toBeVisible();
  await expect(dialog.getByText('also called here')).toBeVisible();
  await dialog.getByRole('button', { name: 'Import', exact: true }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'Titles 2' })).toBeVisible();
  await expect(page.locator('.edit-grid [data-control]')).toHaveCount(23);
  await expect(page.getByRole('region', { name: 'Unresolved' })).toBeHidden();
  await page.locator('.edit-grid').press('Control+z');
  await expect(page.getByRole('link', { name: 'Titles 2' })).toBeHidden();
});

test('what is gone says so, is led to one by one, and is mended', async ({ page, program }) => {
  await page.goto(`${program.url}/rig`);
  await page.getByRole('checkbox', { name: 'Choose C4' }).check();
  const chosen = page.getByRole('region', { name: 'Chosen devices' });
  await chosen.getByRole('button', { name: 'Remove', exact: true }).click();
  await chosen.getByRole('button', { name: 'Really remove' }).click();
  await expect(page.getByRole('navigation', { name: 'Signal path' }).getByText(/unresolved/)).toBeVisible();
  await page.getByRole('navigation', { name: 'Signal path' }).getByRole('link', { name: /Pages/ }).click();
  const bar = page.getByRole('region', { name: 'Unresolved' });
  const wrong = page.locator('.wrong').first();
  // First the zones that picked it, then the controls that are about it, one after the other.
  for (const zone of ['The zone “Camera”', 'A zone without a title']) {
    await expect(bar).toContainText(`${zone} picks among a device that is no longer in the rig.`);
    await bar.getByRole('button', { name: 'Go to it' }).click();
    await wrong.getByRole('button', { name: 'Pick among the 3 that are' }).click();
    await expect(wrong).toBeHidden();
  }
  await expect(bar).toContainText('A device that it uses is no longer in the rig');
  await bar.getByRole('button', { name: 'Go to it' }).click();
  await wrong.getByRole('button', { name: 'Repair' }).click();
  await expect(page.locator('.wrong')).toHaveCount(0);
});

test('a control is tried in the editor: dry first, then live', async ({ page, program }) => {
  await page.goto(`${program.url}/pages/page-race?edit=1`);
  await page.locator('.edit-grid [data-control]').filter({ hasText: 'Launch' }).first().click();
  const part = page.getByRole('region', { name: 'Try it' });
  await part.getByRole('button', { name: 'Press', exact: true }).click();
  await expect(part.locator('.tried')).toContainText('SW1');
  expect((await program.switcher()).program).toBe(1);
  await choose(part.getByRole('combobox', { name: 'Aim of the trial' }), 'live: to the devices');
  const button = part.getByRole('button', { name: 'Hold to press' });
  await button.hover();
  await page.mouse.down();
  await expect(part.locator('.tried')).toContainText('confirmed');
  await page.mouse.up();
  expect((await program.switcher()).program).toBe(6);
});

test('on a panel a fader, a stick, a list and a level are worked by hand', async ({ page, program }) => {
  await page.goto(`${program.url}/panel/page-pontoon`);
  const fader = page.getByRole('slider', { name: 'Pontoon mic' });
  await expect(fader).toHaveAttribute('aria-valuenow', /-?\d/);
  const before = Number(await fader.getAttribute('aria-valuenow'));
  await fader.hover();
  await page.mouse.down();
  await page.mouse.move(0, 0);
  const box = await fader.boundingBox();
  if (!box) throw new Error('no fader');
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2 - 60, { steps: 4 });
  await page.mouse.up();
  await expect.poll(async () => Number(await fader.getAttribute('aria-valuenow'))).toBeGreaterThan(before);
  const state = async (tag: string) =>
    (await (await fetch(`${program.standinUrl}/${tag}/state`)).json()) as { moving: boolean };
  await page.getByRole('button', { name: 'C1 Start tower' }).click();
  const stick = page.locator('[data-kind="stick"]');
  await expect(stick).toContainText('C1');
  await stick.focus();
  await page.keyboard.down('ArrowRight');
  await expect.poll(async () => (await state('c1')).moving).toBe(true);
  await page.keyboard.up('ArrowRight');
  await expect.poll(async () => (await state('c1')).moving).toBe(false);
  const clips = page.locator('[data-kind="list"]').filter({ hasText: 'Clips' });
  await clips.getByRole('option', { name: /Heat 1 finish/ }).click();
  await clips.getByRole('button', { name: 'Load', exact: true }).click();
  await expect(clips.locator('[data-mark="current"]')).toContainText('Heat 1 finish');
  const host = page.locator('[data-control="ctl-pontoon-5"]');
  await expect(host).toContainText('Host');
  await page.getByRole('button', { name: 'guests', exact: true }).click();
  await expect(host).toContainText('Guest 1');
  await page.getByRole('button', { name: 'usual', exact: true }).click();
  await expect(host).toContainText('Host');
});
