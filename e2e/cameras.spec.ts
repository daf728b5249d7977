import type { Page } from '@playwright/test';
import { linksUp } from './hand';
import { expect, test } from './program';
import type { ProgramEnds } from './program-ends';

/** A camera operator at a tablet: pictures, presets, rockers and the camera's own menu, asserted at the cameras. */

interface Camera {
  readonly pan: number;
  readonly zoom: number;
  readonly moving: boolean;
  readonly whiteBalance: string;
  readonly menu: boolean;
  readonly presets: readonly ({ readonly pan: number } | null)[];
}
const camera = async (program: ProgramEnds, tag: string) =>
  (await (await fetch(`${program.standinUrl}/${tag}/state`)).json()) as Camera;
const still = async (program: ProgramEnds, tag: string) => (await fetch(`${program.standinUrl}/${tag}/still`)).text();
const tile = (page: Page, number: number) => page.locator(`[data-kind="presets"] [data-preset="${number}"]`);
const hold = async (page: Page, target: ReturnType<Page['locator']>) => {
  await target.hover();
  await page.mouse.down();
  await page.waitForTimeout(1100);
  await page.mouse.up();
};

test.use({ viewport: { width: 1024, height: 768 } });

test('presets are recalled by their pictures, stored where the camera is, named, and shown among the favourites', async ({
  page,
  program,
}) => {
  await page.goto(`${program.url}/panel/cameras`);
  await page.getByRole('button', { name: /C3 Finish line/ }).click();
  await expect(tile(page, 2)).toContainText('Photo finish');
  await expect(tile(page, 2).locator('img')).toHaveJSProperty('complete', true);
  await tile(page, 2).click();
  await expect(tile(page, 2)).toContainText('there');
  const [at, before] = [(await camera(program, 'c3')).pan, (await camera(program, 'c3')).presets];
  expect(at).toBeCloseTo(before[2]?.pan ?? 0, 0);

  // Stored under an empty number: with a picture of its own, and back to recalling.
  await expect(tile(page, 6)).toContainText('empty');
  await page.getByRole('radio', { name: 'Store' }).click();
  await tile(page, 6).click();
  await expect(tile(page, 6).locator('img')).toBeVisible();
  await expect(page.getByRole('radio', { name: 'Recall' })).toHaveAttribute('aria-checked', 'true');
  expect((await camera(program, 'c3')).presets[6]?.pan).toBeCloseTo(at, 0);
  await page.getByRole('radio', { name: 'Edit' }).click();
  await tile(page, 6).click();
  await page.getByLabel('Name of preset 6').fill('Umpire launch');
  await page.getByLabel('Name of preset 6').press('Enter');
  await page.getByRole('button', { name: 'Favourite' }).click();
  await expect(page.getByRole('button', { name: 'Favourite' })).toHaveAttribute('aria-pressed', 'true');
  await page.getByRole('button', { name: 'All presets' }).click();
  await expect(tile(page, 6)).toContainText('Umpire launch');

  // Forgotten, at the camera as well.
  await tile(page, 6).click();
  await hold(page, page.getByRole('button', { name: 'Forget, hold' }));
  await expect(tile(page, 6)).toContainText('empty');
  await expect.poll(async () => (await camera(program, 'c3')).presets[6]).toBeNull();

  // Store, meant for one camera, is not meant for the one that is picked next.
  await page.getByRole('radio', { name: 'Store' }).click();
  await page.getByRole('button', { name: /C4 Pontoon/ }).click();
  await expect(tile(page, 2)).toContainText('Guest close');
  await expect(page.getByRole('radio', { name: 'Recall' })).toHaveAttribute('aria-checked', 'true');

  // The camera that is on air is not moved by a brush of the hand.
  await page.getByRole('button', { name: /C1 Start tower/ }).click();
  await page.getByRole('radio', { name: 'Recall' }).click();
  await program.operate('operate', { verb: 'take', input: 1 });
  await expect(page.getByText('on air: hold')).toBeVisible();
  const pan = (await camera(program, 'c1')).pan;
  await tile(page, 3).click();
  await page.waitForTimeout(400);
  expect((await camera(program, 'c1')).pan).toBe(pan);
  await hold(page, tile(page, 3));
  await expect(tile(page, 3)).toContainText('there');
});

test('a rocker zooms while it is held, and the menu in the picture is worked until the white balance is another', async ({
  page,
  program,
}) => {
  await page.goto(`${program.url}/panel/cameras`);
  await page.getByRole('button', { name: /C2 Mid-course/ }).click();
  const rocker = page.locator('[data-kind="stick"]').filter({ hasText: 'Zoom' });
  const box = await rocker.locator('.stick-pad').boundingBox();
  if (!box) throw new Error('There is no rocker.');
  const zoom = (await camera(program, 'c2')).zoom;
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width / 2, box.y + 6);
  await expect.poll(async () => (await camera(program, 'c2')).zoom).toBeGreaterThan(zoom);
  await page.mouse.up();
  await expect.poll(async () => (await camera(program, 'c2')).moving).toBe(false);

  const button = (name: RegExp) => page.getByRole('button', { name });
  const stick = page.locator('[data-kind="stick"]').filter({ hasText: 'Pan and tilt' });
  const plain = await still(program, 'c2');
  await hold(page, button(/^Menu/));
  await expect.poll(async () => (await camera(program, 'c2')).menu).toBe(true);
  await expect.poll(() => still(program, 'c2')).toContain('White balance: auto');
  // One step down with the stick, Enter, one step down to the next value, Enter, and the menu is closed.
  const step = async () => {
    await stick.focus();
    await page.keyboard.down('ArrowDown');
    await page.waitForTimeout(200);
    await page.keyboard.up('ArrowDown');
    await page.waitForTimeout(150);
  };
  const pan = (await camera(program, 'c2')).pan;
  await step();
  await button(/^Enter/).click();
  await step();
  await expect.poll(async () => (await camera(program, 'c2')).whiteBalance).toBe('indoor');
  await button(/^Enter/).click();
  await hold(page, button(/^Menu/));
  await expect.poll(async () => (await camera(program, 'c2')).menu).toBe(false);
  expect((await camera(program, 'c2')).pan).toBe(pan);
  // Seen in the picture, and at the button for it.
  expect(await still(program, 'c2')).not.toBe(plain);
  await expect(page.locator('.control-active').filter({ hasText: 'Indoor' })).toBeVisible();
});

test('a page for the cameras of the rig is made in one act, for one or for each', async ({
  page,
  ownProgram: program,
  newScreen,
}) => {
  await page.goto(`${program.url}/pages/page-race?edit=1`);
  await page.getByRole('button', { name: 'New camera page' }).click();
  await page.getByRole('menuitem', { name: 'C4 Pontoon' }).click();
  await expect(page.getByRole('heading', { name: 'Pontoon', level: 1 })).toBeVisible();
  await expect(page.locator('.edit-grid [data-control]')).toHaveCount(21);
  await page.getByRole('radio', { name: 'Press' }).click();
  await tile(page, 2).click();
  await expect(tile(page, 2)).toContainText('there');
  const { pan, presets } = await camera(program, 'c4');
  expect(pan).toBeCloseTo(presets[2]?.pan ?? 0, 0);

  // One for each, which a panel shows when the camera is selected at the switcher.
  await page.getByRole('radiogroup', { name: 'Press, check or edit' }).getByRole('radio', { name: 'Edit' }).click();
  await page.getByRole('button', { name: 'New camera page' }).click();
  await page.getByRole('menuitem', { name: 'A page for each of 4 cameras' }).click();
  await expect(page.getByRole('heading', { name: 'Start tower', level: 1 })).toBeVisible();
  const panel = await newScreen();
  await panel.goto(`${program.url}/panel/page-race`);
  await panel.getByRole('checkbox', { name: 'follow the show' }).check();
  for (const [input, name] of [
    [3, 'Finish line'],
    [2, 'Mid-course'],
  ] as const) {
    await program.operate('operate', { verb: 'ready', input });
    await expect(panel.getByRole('heading', { level: 1 })).toHaveText(name);
  }
});

test('a camera goes as fast as it is set to, and slowly while Slow is on', async ({ page, ownProgram: program }) => {
  await page.goto(`${program.url}/rig`);
  await page.getByRole('row', { name: 'Start tower', exact: true }).click();
  const device = page.getByRole('article', { name: 'Start tower' });
  await device.getByRole('tab', { name: 'Steering' }).click();
  for (const axis of ['pan', 'tilt']) {
    await device.getByLabel(`Fastest ${axis}`).fill('50');
    await device.getByLabel(`Fastest ${axis}`).press('Enter');
  }
  const slowest = device.getByRole('group', { name: 'Pan and tilt' }).getByLabel('Slow');
  await slowest.fill('5');
  await slowest.press('Enter');

  await page.goto(`${program.url}/panel/cameras`);
  await page.getByRole('button', { name: /C1 Start tower/ }).click();
  const stick = page.locator('[data-kind="stick"]').filter({ hasText: 'Pan and tilt' });
  const slow = stick.getByRole('button', { name: /^Slow/ });
  await expect(slow).toContainText('max 50 %');
  const wayIn = async (ms: number) => {
    await stick.focus();
    await page.keyboard.down('ArrowRight');
    await expect.poll(async () => (await camera(program, 'c1')).moving).toBe(true);
    const from = (await camera(program, 'c1')).pan;
    await page.waitForTimeout(ms);
    const way = (await camera(program, 'c1')).pan - from;
    await page.keyboard.up('ArrowRight');
    await expect.poll(async () => (await camera(program, 'c1')).moving).toBe(false);
    return way;
  };
  const usual = await wayIn(1500);
  await slow.click();
  await expect(slow).toHaveAttribute('aria-pressed', 'true');
  expect(await wayIn(1500)).toBeLessThan(usual * 0.7);
  // Held, it is on only while it is held.
  await slow.click();
  await expect(slow).toHaveAttribute('aria-pressed', 'false');
  await slow.hover();
  await page.mouse.down();
  await expect(slow).toHaveAttribute('aria-pressed', 'true');
  await page.waitForTimeout(600);
  await page.mouse.up();
  await expect(slow).toHaveAttribute('aria-pressed', 'false');
});

test('a second finger turns Slow on and off while the stick stays in the first, which alone lets go of it', async ({
  page,
  program,
  context,
}) => {
  await linksUp(program);
  await page.goto(`${program.url}/panel/cameras`);
  await page.getByRole('button', { name: /C1 Start tower/ }).click();
  const stick = page.locator('[data-kind="stick"]').filter({ hasText: 'Pan and tilt' });
  const slow = stick.getByRole('button', { name: /^Slow/ });
  const centre = async (target: ReturnType<Page['locator']>) => {
    const box = await target.boundingBox();
    if (!box) throw new Error('It is not there.');
    return { x: box.x + box.width / 2, y: box.y + box.height / 2 };
  };
  const [pad, key] = [await centre(stick.locator('.stick-pad')), await centre(slow)];
  const steering = { x: pad.x - 60, y: pad.y, id: 1 };
  const fingers = await context.newCDPSession(page);
  const touch = (type: 'touchStart' | 'touchMove' | 'touchEnd', touchPoints: { x: number; y: number; id: number }[]) =>
    fingers.send('Input.dispatchTouchEvent', { type, touchPoints });
  const moves = async () => (await camera(program, 'c1')).moving;
  await touch('touchStart', [{ ...pad, id: 1 }]);
  await touch('touchMove', [steering]);
  await expect.poll(moves).toBe(true);
  for (const isOn of ['true', 'false']) {
    await touch('touchStart', [steering, { ...key, id: 2 }]);
    // The point that is named is the one that is lifted.
    await touch('touchEnd', [{ ...key, id: 2 }]);
    await expect(slow).toHaveAttribute('aria-pressed', isOn);
    await page.waitForTimeout(300);
    expect(await moves()).toBe(true);
  }
  await touch('touchEnd', []);
  await expect.poll(moves).toBe(false);
});
