import type { Page } from '@playwright/test';
import { allUp, choose, linksUp, pick, stored } from './hand';
import { expect, test } from './program';

const timeline = (page: Page) => page.getByRole('group', { name: 'Timeline' });
const step = (page: Page, text: RegExp) => timeline(page).getByRole('button', { name: text });
const segment = (page: Page, n: number) =>
  page.getByRole('group', { name: 'Segments' }).getByRole('button', { name: `Segment ${n}:` });
const addCommand = (page: Page) => page.getByRole('combobox', { name: /^Add a command to/ });
const pane = (page: Page) => page.getByRole('region', { name: 'What is chosen' });
const setAt = async (page: Page, ms: string) => {
  await pane(page).getByRole('spinbutton', { name: 'At, ms' }).fill(ms);
  await page.keyboard.press('Enter');
};

test('a wipe is built from nothing, played dry, run, and drawn over its plan', async ({ page, program }) => {
  await page.goto(`${program.url}/macros`);
  await page.getByRole('button', { name: 'New macro' }).click();
  await page.waitForURL(/\/macros\/mac-[0-9a-f]{16}$/);
  const name = page.getByRole('textbox', { name: 'Name of the macro' });
  await name.fill('Wipe under a clip');
  await name.press('Enter');
  await expect(page.getByRole('link', { name: /Wipe under a clip/ })).toContainText('1 to mend');

  // The clip is loaded, and begins when it is cued.
  await pick(addCommand(page), 'r1 load', 'Load');
  await choose(pane(page).getByRole('combobox', { name: 'Clip', exact: true }), '11 Sponsor loop');
  await page.getByRole('button', { name: 'Add segment' }).click();
  const wipe = pane(page).getByRole('region', { name: 'Segment' });
  await wipe.getByRole('textbox', { name: 'Name', exact: true }).fill('Wipe');
  await page.keyboard.press('Enter');
  await expect(segment(page, 2)).toHaveAccessibleName('Segment 2: Wipe');
  await wipe.getByRole('checkbox', { name: 'Wait before it starts' }).check();
  // What the program itself knows can be waited for like what a device reports.
  await pick(wipe.getByRole('combobox', { name: 'Reading' }), 'devices down', 'Devices down');
  await expect(segment(page, 2)).toContainText('waits: SHOW Devices down is ');
  await pick(wipe.getByRole('combobox', { name: 'Reading' }), 'r1 transport', 'Transport');
  await choose(wipe.getByRole('combobox', { name: 'this' }), 'cued');
  await expect(segment(page, 2)).toContainText('waits: R1 Transport is cued');
  await wipe.getByRole('button', { name: 'Add marker' }).click();
  await wipe
    .getByRole('group', { name: /^Marker/ })
    .getByRole('textbox', { name: 'Name' })
    .fill('picture covered');
  await page.keyboard.press('Enter');
  await expect(timeline(page).getByText('picture covered')).toBeVisible();
  await pick(addCommand(page), 'r1 play', 'Play');
  await pick(addCommand(page), 'sw1 cut', 'Cut to preview');
  await setAt(page, '480');
  await choose(pane(page).getByLabel('At this time the command'), 'takes effect');
  await expect(pane(page).getByText('sent at 460 ms, effective at 480 ms')).toBeVisible();

  // As timecode; what cannot be is refused at the field, and nothing is lost.
  const timecode = pane(page).getByRole('textbox', { name: 'as timecode' });
  await expect(timecode).toHaveValue('00:00:00:12');
  await timecode.fill('00:00:00:30');
  await timecode.press('Enter');
  await expect(pane(page).getByRole('alert')).toContainText('Frames go up to 24');
  await setAt(page, '99999999');
  await expect(pane(page).getByRole('alert')).toContainText('ten minutes before');
  await expect(step(page, /^Cut to preview, at \+480 ms.*in Wipe$/)).toBeVisible();

  // Dragged, it comes to lie on a frame; with the keys it goes a frame at a time.
  const cut = step(page, /^Cut to preview/);
  await cut.hover({ position: { x: 8, y: 10 } });
  const box = await cut.boundingBox();
  if (!box) throw new Error('The step is not to be seen.');
  await page.mouse.down();
  await page.mouse.move(box.x + 60, box.y + 10, { steps: 6 });
  await page.mouse.up();
  await expect(cut).not.toHaveAccessibleName(/\+480 ms/);
  const moved = Number(await pane(page).getByRole('spinbutton', { name: 'At, ms' }).inputValue());
  expect(moved % 40).toBe(0);
  await cut.focus();
  await page.keyboard.press('ArrowLeft');
  await expect(pane(page).getByRole('spinbutton', { name: 'At, ms' })).toHaveValue(String(moved - 40));
  await page.keyboard.press('Control+z');
  await expect(pane(page).getByRole('spinbutton', { name: 'At, ms' })).toHaveValue(String(moved));
  await setAt(page, '480');

  await stored(page);
  // Dry: the timeline plays and nothing is sent. It waits for a clip that nobody loads, until it is stopped.
  const before = await program.switcher();
  await page.getByRole('button', { name: 'Play dry' }).click();
  const strip = page.getByRole('region', { name: 'What runs' });
  await expect(strip.getByText('dry · waits')).toBeVisible();
  await strip.getByRole('button', { name: 'Stop Wipe under a clip' }).click();
  await expect(strip).toBeHidden();
  await expect(timeline(page).getByRole('img', { name: /^skipped/ })).toBeVisible();
  expect(await program.switcher()).toMatchObject({ program: before.program });

  // In a rehearsal: private stand-ins do it, and the devices are let go and stay as they are.
  const aim = page.getByRole('radiogroup', { name: /^Aim/ });
  await aim.getByRole('radio', { name: 'rehearse' }).click();
  await page
    .getByRole('alertdialog')
    .getByRole('button', { name: /rehearse$/ })
    .click();
  await expect(aim.getByRole('radio', { name: 'rehearse' })).toBeChecked();
  await allUp(page);
  expect(await program.switcher()).toMatchObject({ program: before.program, controllers: 0 });
  await page.getByRole('button', { name: 'Start in the rehearsal' }).click();
  await expect(timeline(page).getByRole('img', { name: /^confirmed; sent/ })).toHaveCount(3);
  expect((await program.switcher()).program).toBe(before.program);
  await aim.getByRole('radio', { name: 'live' }).click();
  await allUp(page);
  await expect.poll(async () => (await program.switcher()).controllers).toBe(1);
  await linksUp(program);

  // Live: it falls where it was planned, and that is drawn below the plan.
  await page.getByRole('button', { name: 'Start live' }).click();
  await expect(timeline(page).getByRole('img', { name: /^confirmed; sent/ })).toHaveCount(3);
  await expect.poll(async () => (await program.switcher()).program).not.toBe(before.program);
  await page.getByRole('radio', { name: 'List' }).click();
  await expect(page.getByRole('row', { name: /Cut to preview/ })).toContainText('confirmed');
  await page.getByRole('radio', { name: 'Runs' }).click();
  await expect(page.getByRole('table')).toContainText('Cut');
  await page.getByRole('button', { name: 'compare' }).first().click();
  await expect(page.getByRole('columnheader', { name: 'the other' })).toBeVisible();
  await expect(page.getByRole('img', { name: /How late .* steps were sent/ })).toBeVisible();
});

test('a macro is begun from a panel, is in sight on every screen, and is stopped there', async ({
  page,
  program,
  newScreen,
}) => {
  await page.goto(`${program.url}/panel/page-replays`);
  const desk = await newScreen();
  await desk.goto(`${program.url}/as-run`);
  const button = page.getByRole('button', { name: /^Start of race/ }).and(page.locator('[data-control]'));
  // What the page still lacks while it loads would move it.
  await expect(page.getByRole('list', { name: 'Links' })).toContainText('26 of 26 up');
  const before = await button.boundingBox();
  // A label that has come meanwhile may change a row by a pixel; a strip that took room would change it by more.
  const isStill = async () => {
    const now = await button.boundingBox();
    expect(Math.abs((now?.y ?? 0) - (before?.y ?? 0))).toBeLessThan(2);
  };
  await button.click();
  const strip = page.getByRole('region', { name: 'What runs' });
  await expect(strip.getByRole('group', { name: 'Start of race' })).toBeVisible();
  await expect(desk.getByRole('region', { name: 'What runs' })).toContainText('Start of race');
  await expect(button).toHaveAccessibleName(/runs/);
  // The strip lies over the foot of the page: no control has moved, and none is under it.
  await isStill();
  const foot = await strip.boundingBox();
  for (const control of await page.locator('[data-control]').all()) {
    const box = await control.boundingBox();
    if (!box || !foot) throw new Error('Something is not on the screen.');
    expect(box.y + box.height).toBeLessThanOrEqual(foot.y);
  }
  // A second press while it runs does nothing, and says so.
  await button.click();
  await strip.getByRole('button', { name: 'Stop Start of race' }).click();
  await expect(strip).toHaveCount(0);
  await isStill();
  await desk
    .getByRole('button', { name: /^Macro Start of race$/ })
    .first()
    .waitFor();
  await expect(desk.getByText(/Stopped by/).first()).toBeVisible();
});

test('what would go wrong is marked while it is edited', async ({ page, program }) => {
  await page.goto(`${program.url}/macros/mac-interview`);
  await expect(page.getByRole('list', { name: 'To be mended' })).toHaveCount(0);
  // The macro calls one that calls it.
  await choose(page.getByRole('combobox', { name: 'Add something else' }), 'Start of race');
  await stored(page);
  await page.goto(`${program.url}/macros/mac-start`);
  await choose(page.getByRole('combobox', { name: 'Add something else' }), 'Pontoon interview opening');
  await expect(page.getByRole('list', { name: 'To be mended' })).toContainText(
    'It calls itself in a circle: Start of race → Pontoon interview opening → Start of race.',
  );
  await stored(page);
  await page.getByRole('button', { name: 'Start live' }).click();
  await expect(page.getByText(/^lost: It calls itself in a circle/)).toBeVisible();
});

test('a macro chooses a level on a panel and dims it', async ({ page, program, newScreen }) => {
  await page.goto(`${program.url}/macros/mac-interview`);
  await choose(page.getByRole('combobox', { name: 'Add something else' }), 'the brightness of the panels');
  await pane(page)
    .getByRole('region', { name: 'Step', exact: true })
    .getByRole('spinbutton', { name: 'Brightness, %' })
    .fill('40');
  await page.keyboard.press('Enter');
  await stored(page);
  const panel = await newScreen();
  await panel.goto(`${program.url}/panel/page-pontoon`);
  const guests = panel.getByRole('group', { name: 'Level' }).getByRole('button', { name: 'guests' });
  await expect(guests).toHaveAttribute('aria-pressed', 'false');
  await page.getByRole('button', { name: 'Start live' }).click();
  await expect(guests).toHaveAttribute('aria-pressed', 'true');
  await expect(panel.locator('.panel')).toHaveAttribute('style', /--dim: ?0\.6/);
});

test('what is done by hand is recorded and becomes a macro', async ({ page, program, newScreen }) => {
  await page.goto(`${program.url}/macros`);
  await page.getByRole('button', { name: 'Record by hand' }).click();
  const line = page.getByRole('group', { name: 'Recording by hand' });
  await expect(line).toContainText('0 steps');
  const panel = await newScreen();
  await panel.goto(`${program.url}/panel/page-race`);
  await panel.getByRole('button', { name: /^Cut/ }).click();
  await expect(line).toContainText('1 step');
  // At the device itself, after what it reports of the cut.
  await page.waitForTimeout(1500);
  await program.operate('operate', { verb: 'ready', input: 9 });
  await expect(line).toContainText('2 steps');
  await line.getByRole('button', { name: 'Stop, make a macro' }).click();
  await page.waitForURL(/\/macros\/mac-[0-9a-f]{16}$/);
  await expect(page.getByRole('textbox', { name: 'Name of the macro' })).toHaveValue(/^Recorded \d\d:\d\d$/);
  await expect(step(page, /^Cut to preview, at \+?0 ms/)).toBeVisible();
  await expect(step(page, /^Set .* up on preview, at \+/)).toBeVisible();
  await expect(line).toBeHidden();
  await expect(page.getByRole('list', { name: 'To be mended' })).toHaveCount(0);
});

test('a step is dragged to another device and to another segment, and the whole macro fits its room again', async ({
  page,
  program,
}) => {
  await page.goto(`${program.url}/macros/mac-wipe`);
  await expect(step(page, /^Cut to preview.*in Under it$/)).toBeVisible();
  // A preset of one camera, dragged onto the lane of another one.
  await pick(addCommand(page), 'c1 preset', 'Recall preset');
  await page.keyboard.press('Escape');
  await pick(addCommand(page), 'c2 preset', 'Recall preset');
  await stored(page);
  const lane = (tag: string) => timeline(page).getByRole('listitem').filter({ hasText: tag });
  const preset = page.locator('[data-step]', { hasText: 'Recall preset' }).first();
  await preset.scrollIntoViewIfNeeded();
  const from = await preset.boundingBox();
  const to = await lane('C2').boundingBox();
  if (!from || !to) throw new Error('The step or the lane is not to be seen.');
  await page.mouse.move(from.x + 6, from.y + 10);
  await page.mouse.down();
  await page.mouse.move(from.x + 12, to.y + 14, { steps: 8 });
  await page.mouse.up();
  await expect(lane('C1')).toHaveCount(0);
  await expect(pane(page).getByRole('combobox', { name: 'It sends' })).toContainText('C2');
  // A switcher has no presets: there the step goes back to its own lane.
  const switcher = await lane('SW1').boundingBox();
  const now = await preset.boundingBox();
  if (!now || !switcher) throw new Error('The step or the lane is not to be seen.');
  await page.mouse.move(now.x + 6, now.y + 10);
  await page.mouse.down();
  await page.mouse.move(now.x + 8, switcher.y + 14, { steps: 8 });
  await page.mouse.up();
  await expect(lane('C2')).toHaveCount(1);
  await expect(pane(page).getByRole('combobox', { name: 'It sends' })).toContainText('C2');

  // A command from the list, dragged to its time; the list stays open for the next one.
  const beside = page.getByRole('complementary', { name: 'Beside the macro' });
  await beside.getByRole('tab', { name: 'Commands' }).click();
  await beside.getByRole('searchbox', { name: 'Search' }).fill('c3 preset 2');
  const [row, frame] = [
    await beside.getByRole('list', { name: 'Commands' }).getByRole('button').first().boundingBox(),
    await timeline(page).boundingBox(),
  ];
  if (!row || !frame) throw new Error('The command or the timeline is not to be seen.');
  await page.mouse.move(row.x + 60, row.y + 12);
  await page.mouse.down();
  await page.mouse.move(frame.x + 300, frame.y + 110, { steps: 8 });
  await expect(timeline(page).getByText(/^C3 at [+−]/)).toBeVisible();
  await page.mouse.up();
  await expect(lane('C3')).toHaveCount(1);
  await expect(beside.getByRole('tab', { name: 'Commands' })).toHaveAttribute('aria-selected', 'true');
  const made = page.locator('[data-step][aria-pressed="true"]');
  await expect(made).toHaveText(/Recall preset 2/);
  const there = await made.boundingBox();
  expect(Math.abs((there?.x ?? 0) - frame.x - 300)).toBeLessThan(40);
  // Dropped beside the timeline it is not added.
  const count = await page.locator('[data-step]').count();
  await page.mouse.move(row.x + 60, row.y + 12);
  await page.mouse.down();
  await page.mouse.move(frame.x + 200, frame.y - 60, { steps: 8 });
  await page.mouse.up();
  await stored(page);
  await expect(page.locator('[data-step]')).toHaveCount(count);

  // Over the border of its segment into the next one.
  await page.getByRole('button', { name: 'Fit' }).click();
  const keyOff = step(page, /^Key 1 off.*in Ready$/);
  await keyOff.scrollIntoViewIfNeeded();
  const key = await keyOff.boundingBox();
  const wipe = await segment(page, 2).boundingBox();
  if (!key || !wipe) throw new Error('The step or the segment is not to be seen.');
  await page.mouse.move(key.x + 6, key.y + 10);
  await page.mouse.down();
  await page.mouse.move(wipe.x + 60, key.y + 12, { steps: 8 });
  await page.mouse.up();
  await expect(step(page, /^Key 1 off.*in Wipe$/)).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(step(page, /^Key 1 off.*in Ready$/)).toBeVisible();

  // Zoomed about the pointer by the wheel, and back.
  const scroller = timeline(page);
  const width = () => scroller.evaluate((element) => element.scrollWidth);
  const fits = await width();
  await scroller.hover();
  await page.keyboard.down('Control');
  await page.mouse.wheel(0, -400);
  await page.keyboard.up('Control');
  await expect.poll(width).toBeGreaterThan(fits * 1.3);
  await page.getByRole('button', { name: 'Fit' }).click();
  await expect.poll(width).toBeLessThan(fits * 1.1);
});
