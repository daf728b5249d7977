import type { Locator, Page } from '@playwright/test';
import { expect, test, Program } from './program';
import { choose, stored } from './hand';

const control = (page: Page, id: string): Locator => page.locator(`[data-control="ctl-${id}"]`);
const lamp = (page: Page, id: string, show: string) => expect(control(page, id)).toHaveAttribute('data-lamp', show);

test('from the rig to a lamp that tells the truth, and through a stop of the device', async ({
  page,
  program,
  context,
}) => {
  await page.goto(program.url);
  await expect(page.getByRole('row', { name: 'Vision switcher', exact: true })).toBeVisible();
  await page.getByRole('button', { name: 'All links: 26 of 26 up' }).click();
  await expect(page.getByRole('list', { name: 'All links' })).toHaveText(/SW1\s*up/);
  await page.keyboard.press('Escape');

  await page.getByRole('navigation', { name: 'Signal path' }).getByRole('link', { name: /Pages/ }).click();
  await lamp(page, 'program-1', 'onAir');
  // On pointer-down, before the button is let go.
  await control(page, 'program-3').hover();
  await page.mouse.down();
  await lamp(page, 'program-3', 'onAir');
  await lamp(page, 'program-1', 'off');
  expect((await program.switcher()).program).toBe(3);
  await page.mouse.up();
  await expect(page.locator('.press-line')).toContainText('confirmed');

  // By hand, on the switcher's own page.
  await page.getByRole('link', { name: /^Rig/ }).click();
  const opened = context.waitForEvent('page');
  await page.getByRole('button', { name: 'More', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Stand-ins’ own pages' }).click();
  const standin = await opened;
  await standin.getByRole('link', { name: /SW1/ }).click();
  await page.getByRole('link', { name: /^Pages/ }).click();
  await standin.getByRole('group', { name: 'Program' }).getByRole('button', { name: '5 Drone' }).click();
  await lamp(page, 'program-5', 'onAir');
  await lamp(page, 'program-3', 'off');

  await standin.getByRole('button', { name: 'Switch off' }).click();
  await expect(page.locator('[data-stage="Rig"]')).toHaveText('RigSW1');
  await page.getByRole('button', { name: 'All links: SW1 not up, 25 of 26 up' }).click();
  await expect(page.getByRole('list', { name: 'All links' }).getByRole('listitem').first()).toHaveText(
    /^SW1\s*down · port refused/,
  );
  await page.keyboard.press('Escape');
  await lamp(page, 'program-5', 'unknown');
  await lamp(page, 'preview-2', 'unknown');
  await control(page, 'program-1').click();
  await expect(control(page, 'program-1')).toContainText('lost');
  await expect(page.locator('.press-line')).toContainText('The device is down (port refused)');

  await standin.getByRole('button', { name: 'Switch on' }).click();
  await expect(control(page, 'program-5')).toHaveAttribute('data-lamp', 'onAir', { timeout: 2000 });

  await page.getByRole('link', { name: /^Wire/ }).click();
  await page.getByLabel('Filter').fill('TAKE');
  await expect(page.getByRole('table')).toContainText('TAKE 3\\r\\n');
  await expect(page.getByRole('row')).toHaveCount(2);
  await page.getByRole('link', { name: /^As-run/ }).click();
  // What the multiviewer is told stands there, too; presses are what is looked for.
  await choose(page.getByRole('combobox', { name: /^Show/ }), 'presses');
  await expect(page.getByRole('row').filter({ hasText: 'Race · Finish' })).toContainText('confirmed');
  await expect(page.getByRole('row').filter({ hasText: 'Race · Start tower' })).toContainText('lost');
});

test('an edit is saved, undone, and seen at once on a page that is open elsewhere', async ({
  page,
  program,
  newScreen,
}) => {
  const panel = await newScreen();
  await panel.goto(`${program.url}/panel/page-race`);
  await expect(control(panel, 'program-6')).toContainText('Launch');

  await page.goto(`${program.url}/pages/page-race`);
  await page.getByRole('radio', { name: 'Edit' }).click();
  await control(page, 'program-6').click();
  await choose(page.getByRole('combobox', { name: 'Input', exact: true }), '7 Replay');
  await expect(control(panel, 'program-6')).toContainText('Replay');
  await control(panel, 'program-6').click();
  await lamp(panel, 'program-6', 'onAir');
  expect((await program.switcher()).program).toBe(7);

  const label = page.getByRole('textbox', { name: 'Label', exact: true });
  await label.fill('Replay of {SW9.program}');
  await expect(page.locator('.label-field [role="alert"]')).toContainText(
    'Character 11: There is no device with the tag “SW9”. Is “SW1” meant?',
  );
  await label.fill('Again {SW1.input[$input].name}');
  await label.press('Enter');
  await expect(control(panel, 'program-6')).toContainText('Again Replay');

  await page.getByRole('button', { name: 'Empty, column 1, row 3' }).click();
  await page.getByRole('searchbox', { name: 'Search' }).fill('take to program');
  await page.locator('.offers button').first().click();
  await expect(panel.locator('.control')).toHaveCount(15);
  await page.getByRole('toolbar').getByRole('button', { name: 'Clear' }).click();
  await expect(panel.locator('.control')).toHaveCount(14);

  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(panel.locator('.control')).toHaveCount(15);
  await page.keyboard.press('Control+z');
  await expect(panel.locator('.control')).toHaveCount(14);
  await page.keyboard.press('Control+z');
  await expect(control(panel, 'program-6')).not.toContainText('Again');
  await page.keyboard.press('Control+Shift+z');
  await expect(control(panel, 'program-6')).toContainText('Again Replay');
});

test('what was edited survives a restart of the program', async ({ page, ownProgram: program }) => {
  await page.goto(`${program.url}/pages/page-race`);
  await page.getByRole('radio', { name: 'Edit' }).click();
  await control(page, 'cut').click();
  await page.getByRole('textbox', { name: 'Label', exact: true }).fill('Hard cut');
  await page.keyboard.press('Enter');
  await expect(control(page, 'cut')).toContainText('Hard cut');
  // It is seen at once; that it is stored takes a moment.
  await stored(page);
  await program.stop();
  const again = await Program.start(program.dataDir);
  try {
    await page.goto(`${again.url}/panel/page-race`);
    await expect(control(page, 'cut')).toContainText('Hard cut');
    // The stand-ins moved to other ports, and the demo's device with them.
    await lamp(page, 'program-1', 'onAir');
  } finally {
    await again.stop();
  }
});

test('in service, edits gather as a draft until they are put in service, and one step goes back', async ({
  page,
  program,
  newScreen,
}) => {
  const panel = await newScreen();
  await panel.goto(`${program.url}/panel/page-race`);
  await page.goto(`${program.url}/pages/page-race`);
  await page.getByRole('button', { name: 'Put in service' }).click();
  const service = page.getByRole('group', { name: 'Service' });
  await expect(service).toContainText('In servicerevision 1');
  await page.getByRole('radio', { name: 'Edit' }).click();
  await control(page, 'cut').click();
  await page.getByRole('textbox', { name: 'Label', exact: true }).fill('Hard cut');
  await page.keyboard.press('Enter');
  await expect(service).toContainText('revision 1 · 1 drafted');
  await expect(control(page, 'cut')).toContainText('Hard cut');
  await expect(control(panel, 'cut')).toHaveText('Cut');
  await page.getByRole('button', { name: 'Put in service' }).click();
  await expect(control(panel, 'cut')).toHaveText('Hard cut');
  await service.getByRole('button', { name: /^In service/ }).click();
  await page.getByRole('menuitem', { name: /^Step back/ }).click();
  await expect(control(panel, 'cut')).toHaveText('Cut');
});

test('with the aim dry nothing is sent', async ({ page, program }) => {
  await page.goto(`${program.url}/pages/page-race`);
  await page.getByRole('radio', { name: 'dry' }).click();
  await expect(page.getByRole('radio', { name: 'dry' })).toBeChecked();
  await control(page, 'program-4').click();
  await expect(control(page, 'program-4')).toContainText('dry');
  expect((await program.switcher()).program).toBe(1);
});

test('everything is reached by keyboard', async ({ page, program }) => {
  await page.goto(`${program.url}/pages/page-race`);
  await lamp(page, 'program-1', 'onAir');
  await control(page, 'program-2').focus();
  await page.keyboard.press('Enter');
  await lamp(page, 'program-2', 'onAir');
  await page.keyboard.press('Control+k');
  await page.getByRole('combobox').fill('go to wire');
  await expect(page.getByRole('option', { name: 'Go to Wire' })).toHaveAttribute('aria-selected', 'true');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'Wire' })).toBeVisible();
});
