import AxeBuilder from '@axe-core/playwright';
import type { Page } from '@playwright/test';
import { expect, test } from './program';
import { choose, openDevice, testDevice } from './hand';
import { paced } from '../test/support/pace';

/**
 * Looks at a screen with axe and expects it to find nothing: with all rules in the dark theme, and with those that colours can break in the
 * light one.
 *
 * @param within only this, where it lies over the rest of the page
 */
const checker = (page: Page) => async (where: string, within?: string) => {
  const wear = (theme: string) => page.evaluate((name) => (document.documentElement.dataset.theme = name), theme);
  const look = async (theme: string, axe: AxeBuilder) => {
    await wear(theme);
    if (within !== undefined) axe.include(within);
    const { violations } = await axe
      // No page of ours has frames; the other way opens a page of its own each time, which takes twice as long.
      .setLegacyMode()
      .options({ resultTypes: ['violations'], preload: false })
      .analyze();
    return violations.map(
      ({ id, nodes }) => `${theme}, ${where}: ${id} ${nodes.map((node) => node.target.join(' ')).join(', ')}`,
    );
  };
  const dark = await look('dark', new AxeBuilder({ page }));
  const light = await look('light', new AxeBuilder({ page }).withRules(['color-contrast', 'link-in-text-block']));
  await wear('dark');
  expect([...dark, ...light]).toEqual([]);
};

test.describe('every screen is clean of what axe finds, in both themes:', () => {
  test.slow();
  test.beforeEach(({ context }) => context.addInitScript(() => localStorage.setItem('theme', 'dark')));

  test('health, burn-in, drills, replay, and a page under check', async ({ page, program }) => {
    const check = checker(page);
    await program.operate('faults', { refuse: true }, 'e2');
    await page.goto(`${program.url}/health`);
    const open = page.getByRole('list', { name: 'Incidents that go on' });
    await expect(open).toBeVisible({ timeout: paced(40_000) });
    await check('health');
    await open
      .getByRole('button', { name: /^Details/ })
      .first()
      .click();
    await expect(page.getByRole('complementary', { name: 'Details of the incident' })).toBeVisible();
    await check('an incident');
    await open
      .getByRole('button', { name: /^Acknowledge/ })
      .first()
      .click();
    await check('acknowledging');
    await page.getByRole('dialog').getByRole('button', { name: 'Cancel' }).click();
    await page.getByRole('button', { name: 'Limits …' }).click();
    await check('limits');
    await page.goto(`${program.url}/line-check/drills`);
    await page.getByRole('button', { name: 'New drill' }).click();
    await page.getByRole('button', { name: 'Add fault' }).click();
    await expect(page.getByRole('spinbutton', { name: 'After' }).first()).toBeVisible();
    await check('drills');
    await page.goto(`${program.url}/line-check/burn-in`);
    await page.getByRole('button', { name: 'Begin burn-in …' }).click();
    await check('burn-in');
    await page.goto(`${program.url}/as-run/replay`);
    await expect(page.getByRole('button', { name: 'Play', exact: true })).toBeVisible();
    await check('replay');
    await page.goto(`${program.url}/pages/page-race`);
    await page.locator('[aria-label="Press, check or edit"]').getByText('Check').click();
    await expect(page.getByRole('button', { name: /^Proofs of Cut: / })).toBeVisible({ timeout: paced(60_000) });
    await check('a page under check');
  });

  test('the line check and its walk-round', async ({ page, program }) => {
    const check = checker(page);
    await page.goto(`${program.url}/line-check`);
    await page.getByRole('searchbox', { name: 'Search items' }).fill('tally lamp');
    await page.getByRole('button', { name: 'Tally lamp', exact: true }).first().click();
    await expect(page.getByRole('complementary', { name: 'Details of the item' })).toBeVisible();
    await check('line check');
    await page.getByRole('button', { name: 'Try at devices …' }).click();
    await check('devices to try');
    await page.getByRole('dialog').getByRole('button', { name: 'Cancel' }).click();
    await page.getByRole('button', { name: /^Walk-round/ }).click();
    await expect(page.getByRole('heading', { name: 'Walk-round' })).toBeVisible();
    await check('walk-round');
  });

  test('the rig and its panes', async ({ page, program }) => {
    const check = checker(page);
    await page.goto(`${program.url}/rig`);
    const row = page.getByRole('article', { name: 'Vision switcher' });
    await openDevice(page, 'Vision switcher', 'Readings');
    await expect(page.getByText('Mix rate')).toBeVisible();
    await check('rig');
    await openDevice(page, 'Vision switcher', 'Settings');
    await check('device form');
    await openDevice(page, 'Vision switcher', 'Commands');
    await check('own commands');
    await row.getByRole('button', { name: 'Add command' }).click();
    const command = page.getByRole('form', { name: 'New command' });
    await command.getByRole('textbox', { name: 'Payload' }).fill('A\\q');
    await command.getByRole('button', { name: 'Add value' }).click();
    await check('new command');
    await page.getByRole('dialog').getByRole('button', { name: 'Cancel' }).click();
    await row.getByRole('button', { name: 'Add reading' }).click();
    await check('new reading');
    await page.getByRole('dialog').getByRole('button', { name: 'Cancel' }).click();
    await page.getByRole('button', { name: 'Add device' }).click();
    await check('new device');
    await openDevice(page, 'Vision switcher', 'Try');
    await choose(row.getByRole('combobox', { name: 'Input', exact: true }), 1);
    await row.getByRole('button', { name: 'Send', exact: true }).click();
    await expect(row.locator('.tried')).toContainText('confirmed');
    await check('try');
    await testDevice(page, 'Vision switcher');
    // How many of them is another test's matter.
    await expect(row.getByText(/of 20 answered/)).toBeVisible({ timeout: paced(30_000) });
    await page.getByRole('checkbox', { name: 'Choose C1' }).check();
    await page.getByRole('button', { name: 'More', exact: true }).click();
    await page.getByRole('menuitem', { name: 'Edit the rig as a table' }).click();
    await page.getByRole('textbox', { name: /Paste from a spreadsheet/ }).fill('C9\tJib\tptz-camera\t10.0.0\t');
    await check('test and table');
    await page.getByRole('button', { name: 'Find devices' }).click();
    await page.getByRole('button', { name: 'Search', exact: true }).click();
    await expect(page.getByText('in the rig as SW1')).toBeVisible();
    await check('find');
    await openDevice(page, 'Vision switcher', 'Sources');
    await check('ties');
    await page.goto(`${program.url}/rig`);
    const viewer = page.getByRole('article', { name: 'Multiviewer' });
    await openDevice(page, 'Multiviewer', 'Displays');
    await expect(viewer.getByRole('combobox', { name: 'Display 1 shows' })).toBeVisible();
    await check('displays');
  });

  test('the kit', async ({ page, program }) => {
    const check = checker(page);
    await page.goto(`${program.url}/kit`);
    await expect(page.getByRole('heading', { name: 'Marks' })).toBeVisible();
    await page.getByRole('button', { name: 'Something was refused' }).click();
    await expect(page.getByText('the tag SW1 is taken')).toBeVisible();
    await check('kit');
    await page.getByRole('button', { name: 'More' }).click();
    await expect(page.getByRole('menuitem', { name: 'Duplicate' })).toBeVisible();
    await check('menu', '[role="menu"]');
    await page.keyboard.press('Escape');
    await page.getByRole('combobox', { name: 'Command' }).click();
    await page.keyboard.type('70 c2');
    await expect(page.getByRole('option')).toHaveCount(1);
    await check('picker', '[role="listbox"]');
    await page.keyboard.press('Enter');
    await expect(page.getByRole('combobox', { name: 'Command' })).toContainText('Recall preset 70');
    await page.getByRole('button', { name: 'Remove device' }).click();
    await check('dialog');
  });

  test('show and network, drivers, panels', async ({ page, program }) => {
    const check = checker(page);
    await page.goto(`${program.url}/show`);
    await expect(page.getByText('this computer only').first()).toBeVisible();
    await check('show and network');
    await page.goto(`${program.url}/drivers`);
    await page.getByRole('button', { name: 'Install a driver' }).click();
    await expect(page.getByRole('region', { name: 'Add bytes' })).toBeVisible();
    await check('drivers');
    await page.goto(`${program.url}/panels`);
    await page.getByRole('listitem', { name: 'Director' }).getByRole('button', { name: '5 pages' }).click();
    await page.getByRole('listitem', { name: 'Cameras' }).getByRole('button', { name: '4 hidden' }).click();
    await check('panels');
  });

  test('a page and its editor', async ({ page, program }) => {
    const check = checker(page);
    await page.goto(`${program.url}/pages/page-streams`);
    await expect(page.getByText('hold to send').first()).toBeVisible();
    await check('guarded page');
    await page.goto(`${program.url}/pages/page-race`);
    await page.locator('[data-control="ctl-program-3"]').click();
    await expect(page.locator('[data-lamp="onAir"]')).toHaveCount(1);
    await check('page');
    await page.getByRole('radio', { name: 'Edit' }).click();
    await page.locator('[data-control="ctl-program-3"]').click();
    await check('editor');
    await page.getByRole('button', { name: 'Series', exact: true }).click();
    await check('series');
    await page.keyboard.press('Escape');
    await page.getByRole('button', { name: 'Empty, column 1, row 3' }).click();
    await check('from the rig');
    await page.getByRole('tab', { name: 'Page' }).click();
    await page.getByText('Shift levels').click();
    await check('page pane');
    await page.getByRole('button', { name: 'Import' }).click();
    await check('import');
    await page.keyboard.press('Escape');
    await page.getByRole('tab', { name: 'Find' }).click();
    await page.getByRole('searchbox').fill('cut');
    await check('find across pages');
    await page.keyboard.press('Control+k');
    await expect(page.getByRole('combobox')).toBeVisible();
    await check('palette');
    await page.goto(`${program.url}/pages/page-pontoon/sheet`);
    await expect(page.getByRole('heading', { name: 'Strips' })).toBeVisible();
    await check('sheet');
  });

  test('macros', async ({ page, program }) => {
    const check = checker(page);
    await page.goto(`${program.url}/macros/mac-start`);
    await page.getByRole('button', { name: 'Play dry' }).click();
    await page
      .getByRole('button', { name: /^Horn.*|^Sound the horn/ })
      .first()
      .click();
    await expect(page.getByRole('region', { name: 'Step' })).toBeVisible();
    await check('macro');
    await page.getByRole('radio', { name: 'rehearse' }).click();
    await expect(page.getByRole('alertdialog')).toBeVisible();
    await check('whether a rehearsal is meant');
    await page.getByRole('button', { name: 'Stay' }).click();
  });

  test('snapshots', async ({ page, program }) => {
    const check = checker(page);
    await page.goto(`${program.url}/snapshots?open=snap-3`);
    await expect(page.getByRole('article', { name: /Race and guest/ })).toBeVisible();
    await check('snapshots');
    await page.getByRole('button', { name: 'Import, save' }).click();
    await page.getByRole('menuitem', { name: 'Add layouts' }).click();
    await expect(page.getByRole('dialog', { name: 'Add layouts' })).toBeVisible();
    await check('layouts to add');
  });

  test('watches and variables', async ({ page, program }) => {
    const check = checker(page);
    await page.goto(`${program.url}/watches?open=watch-1`);
    await expect(page.getByRole('article', { name: /Recording follows/ })).toBeVisible();
    await check('a watch');
    await page.goto(`${program.url}/watches?open=watch-2`);
    await expect(page.getByRole('article', { name: /Horn at the start/ })).toBeVisible();
    await check('a watch with a time');
    await page.goto(`${program.url}/variables`);
    await page.getByRole('button', { name: /^Race/ }).click();
    await check('variables');
    await page.goto(`${program.url}/inlets`);
    await page.getByRole('button', { name: /^Text box/ }).click();
    await check('inlets');
  });

  test('wire and as-run', async ({ page, program }) => {
    const check = checker(page);
    await page.goto(`${program.url}/pages/page-race`);
    await page.locator('[data-control="ctl-program-3"]').click();
    await expect(page.locator('[data-lamp="onAir"]')).toHaveCount(1);
    // While the press is among the newest rows.
    await page.goto(`${program.url}/as-run`);
    await expect(page.getByText('Race · Finish').first()).toBeVisible();
    await check('as-run');
    await page.goto(`${program.url}/wire`);
    await page.getByLabel('Filter').fill('ASK all');
    await expect(page.getByText('ASK all').first()).toBeVisible();
    await check('wire');
  });

  test('a panel', async ({ page, program }) => {
    const check = checker(page);
    await page.goto(`${program.url}/panel/page-race`);
    await page.locator('[data-control="ctl-program-3"]').click();
    await expect(page.locator('[data-lamp="onAir"]')).toHaveCount(1);
    await page.goto(`${program.url}/panel/page-race`);
    await expect(page.locator('[data-lamp="onAir"]')).toHaveCount(1);
    await check('panel');
    await page.goto(`${program.url}/panel/page-pontoon`);
    await expect(page.getByRole('slider').first()).toBeVisible();
    await check('panel with every kind of control');
    await page.getByRole('button', { name: 'This screen' }).click();
    await expect(page.getByRole('heading', { name: 'Hand gear' })).toBeVisible();
    await check('what a panel can do here');
    await page.goto(`${program.url}/panel/page-cameras`);
    await expect(page.locator('.shown-picture img')).toHaveCount(4);
    await check('panel with pictures');
    await page.goto(`${program.url}/panel/page-work`);
    await expect(page.locator('[data-preset] img').first()).toBeVisible();
    await check('camera page');
    await page.getByRole('radio', { name: 'Edit' }).click();
    await page.locator('[data-preset="1"]').click();
    await expect(page.getByLabel('Name of preset 1')).toBeVisible();
    await check('a preset that is edited');
    await page.goto(`${program.url}/panel/page-titles`);
    await page.getByRole('button', { name: /^Guest/ }).click();
    await expect(page.getByRole('dialog', { name: /^Question of Guest/ })).toBeVisible();
    await check('a question at the press');
    await page.keyboard.press('Escape');
    await page.goto(`${program.url}/panel/page-race`);
    await program.operate('power', { on: false });
    await expect(page.locator('[data-lamp="unknown"]')).not.toHaveCount(0);
    await check('panel with a device down');
    await program.operate('power', { on: true });
  });
});

test('every page of a stand-in is clean of what axe finds', async ({ page, program }) => {
  test.setTimeout(paced(120_000));
  const check = checker(page);
  for (const tag of ['sw1', 'c1', 'e1', 'r1', 'a1', 't1', 'g1', 's1', 'm1']) {
    await page.goto(`${program.standinUrl}/${tag}`);
    await expect(page.getByRole('button', { name: 'Switch off' })).toBeVisible();
    await check(`stand-in ${tag}`);
  }
});

test('on a panel every target is at least 44 px, also on a phone', async ({ page, program }) => {
  for (const size of [
    { width: 390, height: 844 },
    { width: 844, height: 390 },
    { width: 1280, height: 800 },
  ]) {
    await page.setViewportSize(size);
    await page.goto(`${program.url}/panel/page-race`);
    await expect(page.locator('.control')).toHaveCount(14);
    for (const box of await page
      .getByRole('button')
      .evaluateAll((all) => all.map((each) => each.getBoundingClientRect().toJSON() as DOMRect))) {
      expect(Math.min(box.width, box.height)).toBeGreaterThanOrEqual(44);
    }
    const wide = await page.evaluate(() => document.documentElement.scrollWidth > document.documentElement.clientWidth);
    expect(wide).toBe(false);
  }
});
