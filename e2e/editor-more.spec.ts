import type { Locator, Page } from '@playwright/test';
import { cell, choose, edited, Hand, newPage, offer, openDevice, pick, pressTwice, stored, take } from './hand';
import { expect, test } from './program';
import { paced } from '../test/support/pace';

/** What programming pages meets: pictures, warnings, names that change, lists that grow, fingers, paper, and a show to follow. */

const field = (page: Page) => page.getByRole('region', { name: 'Face' }).locator('.picture-field');

/** Drops a file on an element, as from another window. */
async function drop(on: Locator, name: string, type: string, bytes: Uint8Array | { readonly size: number }) {
  const file = bytes instanceof Uint8Array ? { text: Buffer.from(bytes).toString('base64') } : { size: bytes.size };
  await on.evaluate(
    (element, { name, type, text, size }) => {
      const content =
        text === undefined ? new Uint8Array(size ?? 0) : Uint8Array.from(atob(text), (c) => c.charCodeAt(0));
      const dataTransfer = new DataTransfer();
      dataTransfer.items.add(new File([content], name, { type }));
      for (const kind of ['dragover', 'drop'])
        element.dispatchEvent(new DragEvent(kind, { dataTransfer, bubbles: true, cancelable: true }));
    },
    { name, type, text: undefined, size: undefined, ...file } as {
      name: string;
      type: string;
      text?: string;
      size?: number;
    },
  );
}

/** A picture drawn in the browser, larger than it is kept. */
async function drawn(page: Page, width: number, height: number): Promise<Uint8Array> {
  const text = await page.evaluate(
    ([width = 1, height = 1]) => {
      const canvas = Object.assign(document.createElement('canvas'), { width, height });
      const pen = canvas.getContext('2d');
      if (pen) pen.fillStyle = '#587';
      pen?.fillRect(0, 0, width, height);
      return canvas.toDataURL('image/png').split(',')[1] ?? '';
    },
    [width, height],
  );
  return Buffer.from(text, 'base64');
}

test('a picture is dropped in, scaled, kept once, and what is no picture is refused with the reason', async ({
  page,
  program,
}) => {
  await page.goto(`${program.url}/pages/page-race?edit=1`);
  await edited(page, 'Cut').click();
  const large = await drawn(page, 3000, 1000);
  await drop(field(page).locator('[data-file-drop]'), 'crest.png', 'image/png', large);
  const shown = edited(page, 'Cut').locator('img.face-picture');
  await expect(shown).toBeVisible();
  const address = (await shown.getAttribute('src')) ?? '';
  await expect.poll(() => shown.evaluate((img: HTMLImageElement) => img.naturalWidth)).toBeGreaterThan(10);
  expect(await shown.evaluate((img: HTMLImageElement) => img.naturalWidth)).toBeLessThan(1000);
  // The same picture on another control is the same file.
  await edited(page, 'Auto').click();
  await drop(field(page).locator('[data-file-drop]'), 'the same again.png', 'image/png', large);
  await expect(edited(page, 'Auto').locator('img.face-picture')).toHaveAttribute('src', address);

  const refused = field(page).getByRole('alert');
  await drop(field(page).locator('[data-file-drop]'), 'notes.txt', 'text/plain', Buffer.from('lanes one to six'));
  await expect(refused).toContainText(
    '“notes.txt” was not taken. It is of the kind text/plain. Use PNG, JPEG or WebP.',
  );
  await drop(field(page).locator('[data-file-drop]'), 'torn.png', 'image/png', large.slice(0, 60));
  await expect(refused).toContainText('“torn.png” was not taken. It is broken');
  await drop(field(page).locator('[data-file-drop]'), 'poster.png', 'image/png', { size: 31_000_000 });
  await expect(refused).toContainText('It has 31 MB; 30 MB is the most.');
  // What was there stays, and the server takes nothing that is no picture either.
  await expect(edited(page, 'Auto').locator('img.face-picture')).toHaveAttribute('src', address);
  const status = await page.evaluate(
    async () => (await fetch('/desk/pictures', { method: 'POST', body: 'no picture' })).status,
  );
  expect(status).toBe(415);

  await page.goto(`${program.url}/panel/page-race`);
  await expect(page.locator(`img.face-picture[src="${address}"]`)).toHaveCount(2);
});

test('what would work but show nothing is warned of, as long as the device says so', async ({ page, program }) => {
  await page.goto(`${program.url}/pages/page-race?edit=1`);
  await take(page, new Hand(page), 'sw1 boxes program', 'Boxes', cell(page, 0, 2));
  const bar = page.getByRole('region', { name: 'Unresolved' });
  await expect(bar).toBeHidden();
  for (const box of [1, 2]) await program.operate('operate', { verb: 'box', box, on: false });
  // The page of layouts sets the same input to preview.
  await expect(bar).toContainText('1 of 2 would show nothing');
  await bar.getByRole('button', { name: 'Next' }).click();
  await expect(bar).toContainText('Race');
  await edited(page, 'Cut').click();
  await bar.getByRole('button', { name: 'Go to it' }).click();
  const remark = page.locator('.shows-nothing');
  await expect(remark).toContainText('Input 10 is the layout, and all its boxes are off: it is black.');
  await program.operate('operate', { verb: 'box', box: 3, on: true });
  await expect(remark).toBeHidden();
  await expect(bar).toBeHidden();
});

test('what is picked from a device’s list follows a rename in the device, and means the same thing', async ({
  page,
  program,
}) => {
  await newPage(page, program.url, 'Names');
  await take(page, new Hand(page), 'program', 'Drone', cell(page, 0, 0));
  const input = page.getByRole('region', { name: 'Response' }).getByRole('combobox', { name: 'Input' });
  await expect(input).toContainText('Drone');
  await program.operate('operate', { verb: 'name', input: 5, text: 'High eye' });
  await expect(edited(page, 'High eye')).toBeVisible();
  await expect(input).toContainText('High eye');
  await page.getByRole('radio', { name: 'Press' }).click();
  await page.getByRole('button', { name: /^High eye/ }).click();
  await expect.poll(async () => (await program.switcher()).program).toBe(5);
});

test('a series is dealt on when the device has more, and thinned out when it has less', async ({ page, program }) => {
  const inputs = async (count: number) => {
    await page.goto(`${program.url}/rig`);
    const row = page.getByRole('article', { name: 'Vision switcher' });
    await openDevice(page, 'Vision switcher', 'Settings');
    await row.getByLabel('Inputs').fill(String(count));
    await row.getByRole('button', { name: 'Save device' }).click();
    await expect(row.getByRole('button', { name: 'Save device' })).toBeHidden();
    await expect(row).toContainText('reports come back: yesup');
  };
  const hand = new Hand(page);
  await inputs(8);
  await newPage(page, program.url, 'Inputs');
  await take(page, hand, 'program', 'Start tower', cell(page, 0, 0));
  await hand.click(page.getByRole('button', { name: 'Series', exact: true }));
  await choose(page.getByRole('combobox', { name: 'Over' }), 'what the device lists');
  await hand.click(page.getByRole('button', { name: 'Deal 8', exact: true }));
  await expect(page.locator('.edit-grid [data-control]')).toHaveCount(8);
  const back = page.url();
  await inputs(12);
  await page.goto(`${back}?edit=1`);
  await edited(page, 'Start tower').click();
  await page.getByRole('button', { name: 'Deal 4 more' }).click();
  await expect(page.locator('.edit-grid [data-control]')).toHaveCount(12);
  await expect(edited(page, 'Clock')).toBeVisible();
  await inputs(11);
  await page.goto(`${back}?edit=1`);
  await edited(page, 'Start tower').click();
  await page.getByRole('button', { name: 'Clear 1 of the series' }).click();
  await expect(page.locator('.edit-grid [data-control]')).toHaveCount(11);
});

test('from a device of the rig one comes to its controls, and from a control to its devices', async ({
  page,
  program,
}) => {
  await page.goto(`${program.url}/rig`);
  await openDevice(page, 'Titles', 'Used by');
  await page.getByRole('link', { name: /controls with T1/ }).click();
  const found = page.getByRole('tabpanel', { name: 'Find' });
  await expect(found.getByRole('searchbox')).toHaveValue('T1');
  await expect(found.getByRole('status')).toContainText(/\d+ controls on \d+ pages?/);
  await found.getByRole('listitem').last().getByRole('button').click();
  await expect(page.getByRole('tab', { name: 'Chosen', selected: true })).toBeVisible();
  await page.getByRole('tab', { name: 'Find' }).click();
  await expect(found.getByRole('searchbox')).toHaveValue('T1');
  await page.getByRole('tab', { name: 'Chosen' }).click();
  await page.locator('.uses').getByRole('link', { name: 'T1' }).click();
  await expect(page).toHaveURL(/\/rig\?device=/);
});

test('a zone is copied for another device of its role in one step', async ({ page, program }) => {
  await newPage(page, program.url, 'Two encoders');
  const hand = new Hand(page);
  await take(page, hand, 'e1 start stream', 'Start', cell(page, 0, 0));
  await take(page, hand, 'e1 stop stream', 'Stop', cell(page, 1, 0));
  await hand.drag(cell(page, 0, 1), cell(page, 2, 1));
  await page.keyboard.press('Escape');
  await edited(page, 'Start').click();
  await page.keyboard.press('Shift+ArrowRight');
  await page.getByRole('button', { name: 'Zone', exact: true }).click();
  await page.getByRole('textbox', { name: 'Title' }).fill('E1 stream');
  await page.keyboard.press('Enter');
  const pane = page.getByRole('tabpanel', { name: 'Chosen' });
  await pane.getByRole('button', { name: 'Copy the zone for it' }).click();
  await expect(page.getByRole('button', { name: 'E2 stream', exact: true })).toBeVisible();
  await expect(page.locator('.edit-grid [data-control]')).toHaveCount(4);
});

test('a panel follows the show to the page that is called, and to the page for while none is', async ({
  page,
  program,
  newScreen,
}) => {
  await page.goto(`${program.url}/pages/page-cameras?edit=1`);
  await page.getByRole('tab', { name: 'Page' }).click();
  await page.getByText('Called by', { exact: true }).click();
  await page.getByRole('radio', { name: 'Condition', exact: true }).click();
  await pick(page.getByRole('combobox', { name: 'Reading' }), 'sw1 program input', 'Program input');
  await page.getByRole('combobox', { name: 'Test' }).click();
  await page.getByRole('option', { name: 'is one of' }).click();
  const ones = page.getByRole('tabpanel', { name: 'Page' }).getByLabel('this', { exact: true });
  await ones.fill('5');
  await ones.press('Enter');
  await page.getByRole('button', { name: 'Or another' }).click();
  const others = page.getByRole('tabpanel', { name: 'Page' }).getByLabel('or this', { exact: true });
  await others.fill('6');
  await others.press('Enter');
  await expect(page.getByText('What calls for the page').first()).toBeVisible();
  await program.operate('operate', { verb: 'take', input: 2 });
  const panel = await newScreen();
  await panel.goto(`${program.url}/panel/page-race`);
  await panel.getByRole('checkbox', { name: 'follow the show' }).check();
  await expect(panel.getByRole('heading', { level: 1 })).toHaveText('Race');
  await program.operate('operate', { verb: 'take', input: 5 });
  await expect(panel.getByRole('heading', { level: 1 })).toHaveText('Cameras');
  await program.operate('operate', { verb: 'take', input: 1 });
  // Nothing else calls: it stays, and may be moved by hand.
  await panel.getByRole('button', { name: 'Titles' }).click();
  await expect(panel.getByRole('heading', { level: 1 })).toHaveText('Titles');
  await program.operate('operate', { verb: 'take', input: 6 });
  await expect(panel.getByRole('heading', { level: 1 })).toHaveText('Cameras');

  // A page for while none is called.
  await page.goto(`${program.url}/pages/page-sound?edit=1`);
  await page.getByRole('tab', { name: 'Page' }).click();
  await page.getByText('Called by', { exact: true }).click();
  await page.getByRole('radio', { name: 'No other page' }).click();
  await expect(page.getByText('when none of their other pages is called')).toBeVisible();
  await program.operate('operate', { verb: 'take', input: 2 });
  await expect(panel.getByRole('heading', { level: 1 })).toHaveText('Sound');
  await program.operate('operate', { verb: 'take', input: 5 });
  await expect(panel.getByRole('heading', { level: 1 })).toHaveText('Cameras');
});

test('a dial turns with the wheel, and the page stays where it is', async ({ page, program }) => {
  await page.goto(`${program.url}/panel/page-pontoon`);
  const dial = page.getByRole('slider', { name: 'Main' });
  const level = async () =>
    ((await (await fetch(`${program.standinUrl}/a1/state`)).json()) as { main: { level: number } }).main.level;
  const before = await level();
  await expect(dial).toHaveAttribute('aria-valuenow', String(before));
  await dial.hover();
  // How far a notch goes depends on how soon it follows the one before, which on a busy computer is not soon.
  const turned = async () => {
    await page.mouse.wheel(0, 100);
    return Number(await dial.getAttribute('aria-valuenow'));
  };
  await expect.poll(turned).toBeLessThan(before - 1);
  await expect.poll(level).toBeLessThan(before - 1);
  expect(await page.evaluate(() => window.scrollY)).toBe(0);
});

test.describe('with a finger', () => {
  test.use({ hasTouch: true, viewport: { width: 1180, height: 820 } });
  test('a tap chooses, what is chosen is dragged, and an offer is put down by two taps', async ({
    page,
    program,
    context,
  }) => {
    await page.goto(`${program.url}/pages/page-race?edit=1`);
    const cut = edited(page, 'Cut');
    await cut.tap();
    await expect(cut).toHaveAttribute('aria-pressed', 'true');
    const [from, to] = [await cut.boundingBox(), await cell(page, 2, 2).boundingBox()];
    if (!from || !to) throw new Error('nothing to drag');
    const finger = await context.newCDPSession(page);
    const touch = (type: 'touchStart' | 'touchMove' | 'touchEnd', x?: number, y?: number) =>
      finger.send('Input.dispatchTouchEvent', {
        type,
        touchPoints: x === undefined || y === undefined ? [] : [{ x, y }],
      });
    const [x0, y0, x1, y1] = [
      from.x + from.width / 2,
      from.y + from.height / 2,
      to.x + to.width / 2,
      to.y + to.height / 2,
    ];
    await touch('touchStart', x0, y0);
    for (let n = 1; n <= 8; n += 1) await touch('touchMove', x0 + ((x1 - x0) * n) / 8, y0 + ((y1 - y0) * n) / 8);
    await touch('touchEnd');
    await expect(cut).toHaveAttribute('style', /grid-area: 6 \/ 3/);

    const tab = page.getByRole('tab', { name: 'Offers' });
    // On a busy machine a browser takes a slow tap for a long press, and a person taps again.
    await expect(async () => {
      await cell(page, 4, 2).tap();
      await expect(tab).toHaveAttribute('aria-selected', 'true', { timeout: 1000 });
    }).toPass();
    await page.getByRole('searchbox', { name: 'Search' }).fill('sw1 auto');
    await offer(page, 'Auto').tap();
    await expect(page.getByRole('heading', { level: 2, name: 'Auto' })).toBeVisible();

    // With a control chosen, a tap on an offer makes that one anew where it lies.
    await expect(async () => {
      await tab.tap();
      await expect(tab).toHaveAttribute('aria-selected', 'true', { timeout: 1000 });
    }).toPass();
    const count = await page.locator('.edit-grid [data-control]').count();
    await page.getByRole('searchbox', { name: 'Search' }).fill('next page');
    await offer(page, 'The next page').tap();
    await expect(page.getByRole('heading', { level: 2, name: 'Next page' })).toBeVisible();
    await expect(page.locator('.edit-grid [data-control]')).toHaveCount(count);
    await expect(page.getByRole('combobox', { name: 'Also on this screen' })).toHaveText('the next page');

    // A finger that rests on an offer takes it along; one that moves at once scrolls the list.
    await tab.tap();
    await page.getByRole('searchbox', { name: 'Search' }).fill('page');
    const row = offer(page, 'The first page');
    await row.scrollIntoViewIfNeeded();
    const [own, empty] = [await row.boundingBox(), await cell(page, 5, 2).boundingBox()];
    if (!own || !empty) throw new Error('nothing to drag');
    const [x2, y2] = [own.x + 40, own.y + own.height / 2];
    const [x3, y3] = [empty.x + empty.width / 2, empty.y + empty.height / 2];
    await touch('touchStart', x2, y2);
    await expect(async () => {
      await touch('touchMove', x2 - 2, y2);
      await expect(page.locator('.offer-ghost')).toBeVisible({ timeout: 300 });
    }).toPass({ timeout: paced(20_000) });
    for (let n = 1; n <= 8; n += 1) await touch('touchMove', x2 + ((x3 - x2) * n) / 8, y2 + ((y3 - y2) * n) / 8);
    await touch('touchEnd');
    await expect(page.locator('.edit-grid [data-control]')).toHaveCount(count + 1);
    await expect(edited(page, 'First page')).toHaveAttribute('style', /grid-area: 6 \/ 6/);
  });
});

test('a page is printed as a sheet, and nothing of the program around it', async ({ page, program }) => {
  await page.goto(`${program.url}/pages/page-race/sheet`);
  await expect(page.getByRole('heading', { level: 1, name: /Race/ })).toBeVisible();
  await expect(page.getByRole('row').filter({ hasText: 'Start tower' }).first()).toBeVisible();
  await page.emulateMedia({ media: 'print' });
  await expect(page.getByRole('navigation', { name: 'Signal path' })).toBeHidden();
  await expect(page.getByRole('button', { name: 'Print' })).toBeHidden();
  const pdf = await page.pdf({ format: 'A4' });
  expect(pdf.subarray(0, 5).toString()).toBe('%PDF-');
  if (process.env.SHEET) (await import('node:fs')).writeFileSync(process.env.SHEET, pdf);
});

test('a rule is put together from lists or typed, tried by hand, and bars a control on the panel', async ({
  page,
  program,
  newScreen,
}) => {
  await page.goto(`${program.url}/pages/page-race?edit=1`);
  await edited(page, 'Cut').click();
  const lamp = page.getByRole('region', { name: 'Lamp' });
  await choose(lamp.getByRole('combobox', { name: 'Lights' }), 'warning');
  const rule = lamp.getByRole('group', { name: 'Rule 1' });
  // Escape closes the list, and what is chosen stays chosen.
  await rule.getByRole('combobox', { name: 'when', exact: true }).click();
  await expect(page.getByRole('listbox')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('listbox')).toBeHidden();
  await choose(rule.getByRole('combobox', { name: 'when', exact: true }), 'any of these');
  await rule.getByRole('button', { name: 'Or …' }).click();
  await choose(rule.getByRole('combobox', { name: 'Test', exact: true }).first(), 'is in the range');
  await rule.getByRole('spinbutton', { name: 'from' }).fill('3');
  await page.keyboard.press('Enter');
  await rule.getByRole('spinbutton', { name: 'to' }).fill('5');
  await page.keyboard.press('Enter');
  await rule.getByRole('spinbutton', { name: 'this' }).fill('9');
  await page.keyboard.press('Enter');
  await expect(rule.getByText('not true now')).toBeVisible();
  await expect(rule.getByText('by SW1 Program input')).toBeVisible();

  // Tried by hand: the editor shows what would be, and the switcher is not touched.
  await lamp.getByText('Try values').click();
  const tried = lamp.getByRole('spinbutton', { name: 'SW1 Program input' });
  await tried.fill('4');
  await tried.press('Enter');
  await expect(rule.getByText('true now', { exact: true })).toBeVisible();
  await expect(edited(page, 'Cut').locator('.lamp-warning')).toHaveText('WARNING');
  expect((await program.switcher()).program).toBe(1);

  // The rule may say something else meanwhile; a reading in it is completed while it is typed.
  await rule.getByText('Another label, icon or picture, or barred').click();
  await rule.getByRole('textbox', { name: 'Says instead' }).fill('Holds on {SW1.progr');
  await expect(rule.getByRole('option', { name: /^programProgram/ })).toBeVisible();
  await page.keyboard.press('Tab');
  await page.keyboard.press('Enter');
  await expect(edited(page, 'Holds on 4')).toBeVisible();
  await rule.getByRole('textbox', { name: 'Says instead' }).fill('');
  await page.keyboard.press('Enter');
  await expect(edited(page, 'Cut')).toBeVisible();
  await lamp.getByRole('button', { name: 'Use the values of the devices' }).click();
  await expect(rule.getByText('not true now')).toBeVisible();

  // Barred by an expression; one that is not finished is marked at the place and not stored.
  await choose(lamp.getByRole('combobox', { name: 'Otherwise it lights' }), 'bar the control');
  const bar = lamp.getByRole('group', { name: 'Rule 2' });
  await choose(bar.getByRole('combobox', { name: 'when' }), 'typed (CEL)');
  const typed = bar.getByRole('textbox', { name: 'expression' });
  await typed.fill('SW1.program == 4 &&');
  await typed.press('Enter');
  await expect(bar.getByRole('alert')).toContainText('The expression is not finished.');
  await expect(typed).toHaveText('SW1.program == 4 &&');
  await typed.fill('SW1.program == "four"');
  await typed.press('Enter');
  await expect(bar.getByText('These types cannot be combined: int == string.')).toBeVisible();
  await typed.fill('SW1.program == 4');
  await typed.press('Enter');
  await expect(bar.getByText('not true now')).toBeVisible();
  const panel = await newScreen();
  await panel.goto(`${program.url}/panel/page-race`);
  const cut = panel.getByRole('button', { name: /^Cut/ });
  await expect(cut).toBeEnabled();
  await program.operate('operate', { verb: 'take', input: 4 });
  await expect(cut).toBeDisabled();
  await expect(cut).toContainText('barred');
  await expect(cut).toContainText('WARNING');
  await program.operate('operate', { verb: 'take', input: 1 });
  await expect(cut).toBeEnabled();
});

test('several controls take a part of one: the response acts at the device for each one’s own input', async ({
  page,
  program,
  newScreen,
}) => {
  await page.goto(`${program.url}/pages/page-race?edit=1`);
  const control = (id: string) => page.locator(`.edit-grid [data-control="${id}"]`);
  await control('ctl-program-3').click();
  await control('ctl-preview-5').click({ modifiers: ['Shift'] });
  // From the one to the other: a block of six.
  await expect(page.getByRole('heading', { name: '6 controls' })).toBeVisible();
  const alike = page.getByRole('region', { name: 'Alike' });
  await choose(alike.getByRole('combobox', { name: 'Match the others to' }), 'Finish, column 3, row 1');
  await alike.getByRole('button', { name: 'Same response' }).click();
  await choose(alike.getByRole('combobox', { name: 'Confirm before sending' }), 'always: press twice');
  await stored(page);
  const panel = await newScreen();
  await panel.goto(`${program.url}/panel/page-race`);
  for (const [id, input] of [
    ['ctl-preview-4', 4],
    ['ctl-preview-5', 5],
    ['ctl-program-3', 3],
  ] as const) {
    await pressTwice(panel.locator(`[data-control="${id}"]`));
    await expect.poll(async () => (await program.switcher()).program).toBe(input);
  }
  // Only the look of one, copied here and pasted on another page.
  await control('ctl-auto').click();
  await page.getByRole('button', { name: 'sand' }).click();
  await stored(page);
  await page.getByRole('button', { name: 'Copy only …' }).click();
  await page.getByRole('menuitem', { name: 'Its look' }).click();
  await page.getByRole('link', { name: 'Sound' }).click();
  await control('ctl-sound-2-1').click();
  await page.getByRole('button', { name: 'Paste look of Auto' }).click();
  await expect(control('ctl-sound-2-1').locator('[data-tint="sand"]')).toBeVisible();
});
