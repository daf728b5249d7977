import { readFileSync } from 'node:fs';
import { connect } from 'node:net';
import type { Page } from '@playwright/test';
import { allUp } from './hand';
import { expect, test } from './program';
import type { ProgramEnds } from './program-ends';
import { paced } from '../test/support/pace';

/** The mixer’s strips, in its own state: how loud and whether open. */
async function strips({ standinUrl }: ProgramEnds): Promise<unknown> {
  const state = (await (await fetch(`${standinUrl}/a1/state`)).json()) as { strips: Record<string, unknown>[] };
  return state.strips.map(({ level, muted }) => [level, muted]);
}

/** A port close by that nothing listens on, as a mistyped one would be. */
async function closedBeside(port: number): Promise<number> {
  for (let near = port + 1; near <= port + 10; near += 1) {
    const isClosed = await new Promise<boolean>((resolve) => {
      const socket = connect(near, '127.0.0.1');
      socket.once('error', () => resolve(true)).once('connect', () => resolve(false));
      socket.once('connect', () => socket.destroy());
    });
    if (isClosed) return near;
  }
  throw new Error(`Everything beside port ${port} is open.`);
}

/** Checks what was chosen, and waits until the check is over. */
async function checked(page: Page, begin: () => Promise<void>): Promise<void> {
  await begin();
  await expect(page.getByRole('button', { name: 'Cancel check' })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Cancel check' })).toBeHidden({ timeout: paced(200_000) });
}

/** The screen, once there is a plan: its figures. */
async function planned(page: Page, program: ProgramEnds) {
  await page.goto(`${program.url}/line-check`);
  await allUp(page);
  const figures = page.getByRole('status').filter({ hasText: 'proved' });
  // The first plan loads its code while the program is just starting.
  await expect(figures).toContainText(/of \d{3} proved/, { timeout: paced(60_000) });
  return figures;
}

async function choose(page: Page, act: string): Promise<void> {
  await page.getByRole('button', { name: 'More checks' }).click();
  await page.getByRole('menuitem', { name: act }).click();
}

test('the whole show is checked, questions are answered on a phone, and the report is saved', async ({
  page,
  program,
  browser,
}) => {
  test.slow();
  const figures = await planned(page, program);
  await checked(page, () => page.getByRole('button', { name: 'Check the show' }).click());
  // On a busy computer answers can be late even from stand-ins; what failed by that is checked once more, as a person would.
  if (/failed|to look at/.test((await figures.textContent()) ?? ''))
    await checked(page, () => choose(page, 'Check what failed'));
  // Everything that is not left to a person or to a named device is proved, and nothing looks wrong.
  await expect(figures).toContainText(/^\d{3} of \d{3} proved ·/);
  const [proved = 0, of = 1] = ((await figures.textContent()) ?? '').match(/\d+/g)?.map(Number) ?? [];
  expect(proved / of).toBeGreaterThan(0.85);
  await expect(page.getByRole('link', { name: /^Check/ })).toContainText('%');

  // Somebody else, with a phone at the cameras.
  const phone = await browser.newContext({ viewport: { width: 390, height: 844 } });
  try {
    const walker = await phone.newPage();
    await walker.goto(`${program.url}/line-check`);
    await walker.getByRole('button', { name: /^Walk-round \(\d+\)/ }).click();
    await expect(walker.getByText('Put C1 Start tower on air.')).toBeVisible();
    await walker.getByRole('button', { name: 'Yes', exact: true }).click();
    await expect(walker.getByText('Type your name first.')).toBeVisible();
    await walker.getByRole('textbox', { name: 'Your name' }).fill('Ines');
    await walker.getByRole('button', { name: 'Yes', exact: true }).click();
    await expect(walker.getByText('Put C2 Mid-course on air.')).toBeVisible();
    await walker.getByRole('textbox', { name: 'Note' }).fill('The red diode is dark.');
    await walker.getByRole('button', { name: 'No', exact: true }).click();
    await expect(walker.getByText('Put C3 Finish line on air.')).toBeVisible();
  } finally {
    await phone.close();
  }
  // On the desk it is seen at once.
  await expect(figures).toContainText('1 failed');
  await page.getByRole('searchbox', { name: 'Search items' }).fill('tally lamp c2');
  await page.getByRole('button', { name: 'Tally lamp', exact: true }).click();
  const details = page.getByRole('complementary', { name: 'Details of the item' });
  await expect(details).toContainText('Answered: no. The red diode is dark.');
  await expect(details).toContainText('Ines');
  await details.getByRole('button', { name: 'Yes', exact: true }).click();
  await expect(details).toContainText('Type your name first.');

  await page.getByRole('link', { name: 'Report', exact: true }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Line check of Tidewick Regatta');
  await expect(page.getByRole('table', { name: 'Open points' })).toContainText('The red diode is dark.');
  await page.getByRole('button', { name: 'Sign off …' }).click();
  const dialog = page.getByRole('dialog', { name: 'Sign the report' });
  await dialog.getByRole('textbox', { name: 'Your name' }).fill('Ada');
  await dialog.getByRole('textbox', { name: 'Note' }).fill('C2 gets a new lamp.');
  await dialog.getByRole('button', { name: 'Sign off', exact: true }).click();
  await expect(page.getByText('Signed by Ada')).toBeVisible();
  await expect(page.getByText('C2 gets a new lamp.')).toBeVisible();
  // On paper it goes on over as many pages as it needs.
  const paper = (await page.pdf({ format: 'A4' })).toString('latin1');
  expect(paper.match(/\/Type\s*\/Page\b/g)?.length).toBeGreaterThan(1);
  const saved = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Save as CSV' }).click();
  const table = readFileSync(await (await saved).path(), 'utf8');
  expect(table).toContain('C2,tally,Tally lamp,,failed,person,Answered: no. The red diode is dark.,Ines,');
  expect(table).not.toContain('127.0.0.1');
});

test('a check is cancelled, and a part is checked', async ({ page, program }) => {
  test.slow();
  const figures = await planned(page, program);
  const nothing = await figures.textContent();
  await page.getByRole('button', { name: 'Check the show' }).click();
  await expect(figures).not.toHaveText(nothing ?? '', { timeout: paced(60_000) });
  await page.getByRole('button', { name: 'Cancel check' }).click();
  await expect(page.getByRole('button', { name: 'Check the show' })).toBeVisible({ timeout: paced(30_000) });

  await checked(page, async () => {
    await choose(page, 'Check a part …');
    const dialog = page.getByRole('dialog', { name: 'Check a part' });
    await dialog.getByRole('combobox', { name: 'Device' }).click();
    await page.getByRole('option', { name: 'E2 Stream, backup', exact: true }).click();
    await dialog.getByRole('button', { name: 'Check', exact: true }).click();
  });
  const e2 = page.getByRole('row').filter({ has: page.getByRole('button', { name: /^E2 / }) });
  await expect(e2).toContainText(/[1-9]\d* of \d+ proved/);
});

test('what has changed is due again, is found when it is wrong, and is mended beside its result', async ({
  page,
  program,
}) => {
  test.slow();
  await page.goto(`${program.url}/line-check`);
  await allUp(page);
  const search = page.getByRole('searchbox', { name: 'Search items' });
  await expect(page.getByRole('status').filter({ hasText: 'proved' })).toContainText(/of \d{3} proved/, {
    timeout: paced(60_000),
  });
  await checked(page, async () => {
    await page.getByRole('button', { name: 'More checks' }).click();
    await page.getByRole('menuitem', { name: 'Check the devices only' }).click();
  });
  await search.fill('connection e2');
  await expect(page.getByRole('row').filter({ hasText: 'Connection' }).last()).toContainText('proved');

  await page.goto(`${program.url}/rig`);
  await page.getByRole('row', { name: 'Stream, backup', exact: true }).click();
  const device = page.getByRole('article', { name: 'Stream, backup' });
  await device.getByRole('tab', { name: 'Settings' }).click();
  const { port } = (await (await fetch(`${program.standinUrl}/e2/state`)).json()) as { port: number };
  await device.getByLabel('Port', { exact: true }).fill(String(await closedBeside(port)));
  await device.getByRole('button', { name: 'Save device' }).click();
  await expect(device.getByRole('button', { name: 'Save device' })).toBeHidden();

  await page.goto(`${program.url}/line-check`);
  await page.getByRole('button', { name: 'More checks' }).click();
  await page.getByRole('menuitem', { name: 'Plan again' }).click();
  await search.fill('connection e2');
  const row = page.getByRole('row').filter({ hasText: 'Connection' }).last();
  await expect(row).toContainText('due again');
  await row.getByRole('button', { name: 'Connection' }).click();
  // One item may be over before anybody sees that it is checked.
  await page.getByRole('button', { name: 'Check again' }).click();
  await expect(row).toContainText('failed', { timeout: paced(30_000) });
  const details = page.getByRole('complementary', { name: 'Details of the item' });
  await expect(details.getByRole('list', { name: 'Proofs' })).toContainText('failed');

  // What it means stands beside it, the device is one click away, and so is what mends it.
  await expect(details).toContainText('Nothing listens on this port.');
  await expect(details.getByRole('link', { name: 'Open E2 in the rig' })).toBeVisible();
  await details.getByRole('button', { name: `Use port ${port}` }).click();
  await expect(row).toContainText('proved', { timeout: paced(30_000) });
  await details.getByRole('button', { name: 'Bytes of the test' }).click();
  await expect(details.getByRole('list', { name: 'Bytes of the test' })).toContainText('HTTP/1.1');
});

test('commands are tried only at devices that were named', async ({ page, program }) => {
  test.slow();
  await page.goto(`${program.url}/line-check`);
  await allUp(page);
  await page.getByRole('searchbox', { name: 'Search items' }).fill('mute of 4 on');
  await page.getByRole('button', { name: 'Mute of 4 on', exact: true }).click();
  const details = page.getByRole('complementary', { name: 'Details of the item' });
  await checked(page, () => details.getByRole('button', { name: 'Check again' }).click());
  await expect(details).toContainText('Tried at the device and put back not yet');
  const before = await strips(program);
  await checked(page, async () => {
    await page.getByRole('button', { name: 'Try at devices …' }).click();
    const dialog = page.getByRole('dialog', { name: 'Try commands at the devices' });
    await expect(dialog.getByRole('button', { name: 'Choose devices' })).toBeDisabled();
    await dialog.getByRole('checkbox', { name: 'A1 Audio mixer' }).check();
    await dialog.getByRole('button', { name: 'Try at 1 device' }).click();
  });
  await expect(details).toContainText('The device reported the change, and was put back.');
  expect(await strips(program)).toEqual(before);
});

test('a control is checked where it is edited', async ({ page, program }) => {
  test.slow();
  await page.goto(`${program.url}/pages/page-race?edit=1`);
  await allUp(page);
  await page.locator('[data-control="ctl-preview-3"]').click();
  const part = page.getByRole('region', { name: 'Line check' });
  await part.getByRole('button', { name: 'Show its proofs' }).click();
  const rows = part.getByRole('listitem');
  await expect(rows.filter({ hasText: 'Set 3 up on preview' })).toContainText('Command');
  await part.getByRole('button', { name: 'Check this control' }).click();
  await expect(rows.filter({ hasText: 'proved' }).filter({ hasNotText: 'not proved' })).toHaveCount(2, {
    timeout: paced(60_000),
  });
});
