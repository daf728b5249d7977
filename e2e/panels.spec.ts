import AxeBuilder from '@axe-core/playwright';
import type { Page, WebSocketRoute } from '@playwright/test';
import { expect, test } from './program';
import { choose, offer, stored } from './hand';
import { paced } from '../test/support/pace';

/** Panels as things of their own: their address, what they remember, what the desk has them do, and what fingers do on them. */

const shows = (panel: Page, name: string) => expect(panel.locator('nav [aria-current="page"]')).toHaveText(name);

test('a panel has its pages and controls at an address of its own, and remembers where it was', async ({
  page,
  program,
  newScreen,
}) => {
  await page.goto(`${program.url}/panels`);
  expect((await new AxeBuilder({ page }).analyze()).violations).toEqual([]);
  await page.getByRole('button', { name: 'New panel' }).click();
  const row = page.getByRole('listitem', { name: 'Panel 8' });
  await row.getByRole('textbox', { name: 'Name of the panel' }).fill('Umpire');
  await page.keyboard.press('Tab');
  const path = page.getByRole('listitem', { name: 'Umpire' }).getByRole('textbox', { name: 'Address of the panel' });
  await path.fill('director');
  await path.blur();
  await expect(page.getByText('The panel “Director” has this address already.')).toBeVisible();
  await path.fill('umpire');
  await path.blur();
  const umpire = page.getByRole('listitem', { name: 'Umpire' });
  await umpire.getByRole('button', { name: 'all pages' }).click();
  await umpire.getByRole('button', { name: '+ Streams' }).click();
  await umpire.getByRole('button', { name: '+ Race' }).click();
  await expect(umpire.getByRole('button', { name: '2 pages' })).toBeVisible();
  await umpire.getByRole('button', { name: 'Hide controls' }).click();
  await umpire.getByRole('group', { name: 'Race' }).getByLabel('Cut').uncheck();
  await expect(umpire.getByRole('button', { name: '1 hidden' })).toBeVisible();

  const panel = await newScreen();
  await panel.goto(`${program.url}/panel/umpire`);
  const tabs = panel.getByRole('navigation', { name: 'Pages' });
  await expect(tabs.getByRole('button')).toHaveText(['Streams', 'Race']);
  // On the network of a venue the script is most of what a panel waits for.
  const [travelled, unpacked] = await panel.evaluate(() => {
    const scripts = (performance.getEntriesByType('resource') as PerformanceResourceTiming[]).filter(
      ({ initiatorType }) => initiatorType === 'script',
    );
    const sum = (of: (each: PerformanceResourceTiming) => number) => scripts.reduce((all, each) => all + of(each), 0);
    return [sum((each) => each.encodedBodySize), sum((each) => each.decodedBodySize)] as const;
  });
  expect(travelled).toBeGreaterThan(0);
  expect(travelled / unpacked).toBeLessThan(0.5);
  const shell = await fetch(`${program.url}/panel/umpire`);
  expect(shell.headers.get('content-encoding')).toBe('gzip');
  const plain = await fetch(`${program.url}/panel/umpire`, { headers: { 'accept-encoding': 'identity' } });
  expect(plain.headers.get('content-encoding')).toBeNull();
  expect(await plain.text()).toBe(await shell.text());
  await tabs.getByRole('button', { name: 'Race' }).click();
  await expect(panel).toHaveURL(/\/panel\/umpire\/page-race$/);
  await expect(panel.locator('[data-control="ctl-auto"]')).toBeVisible();
  await expect(panel.locator('[data-control="ctl-cut"]')).toHaveCount(0);
  expect((await new AxeBuilder({ page: panel }).analyze()).violations).toEqual([]);

  // Opened again at its plain address it is where it was, as dark as it was made.
  await panel.getByRole('button', { name: 'This screen' }).click();
  await panel.getByRole('slider', { name: /Brightness/ }).fill('60');
  await panel.goto(`${program.url}/panel/umpire`);
  await shows(panel, 'Race');
  await expect(panel.locator('.panel-dim')).toHaveCSS('opacity', '0.4');
});

test('the desk sees every screen, calls one out, moves it, sends it a note, has it redraw, and closes it', async ({
  page,
  program,
  newScreen,
}) => {
  await page.goto(`${program.url}/panels`);
  const panel = await newScreen();
  await panel.goto(`${program.url}/panel/director`);
  await shows(panel, 'Race');
  const row = page.getByRole('region', { name: 'Screens and hand gear' }).getByRole('listitem', { name: /^panel/ });
  await expect(row).toContainText('Director');
  await expect(row).toContainText(/\d ms/);
  await expect(row).toContainText('no losses');
  await expect(row.getByRole('combobox')).toHaveText('Race');

  await panel.locator('[data-control="ctl-preview-5"]').click();
  await expect(row).toContainText(/used \d+ s ago/);
  await expect(row.locator('.screen-blink[data-used]')).toBeVisible();

  await row.getByRole('button', { name: 'Identify' }).click();
  const called = panel.getByText(/This is Director, .+ ·[0-9a-z]{4}/);
  await expect(called).toBeVisible();
  await expect(called).toBeHidden({ timeout: 8000 });

  await choose(row.getByRole('combobox'), 'Replays');
  await shows(panel, 'Replays');

  await row.getByRole('button', { name: 'Note' }).click();
  await row.getByRole('textbox').fill('Two minutes to the start');
  await row.getByRole('button', { name: 'Send' }).click();
  await expect(row).toContainText('not seen yet');
  await expect(panel.locator('.screen-note')).toContainText('Two minutes to the start');
  await panel.getByRole('button', { name: 'Seen' }).click();
  await expect(row).toContainText('· seen');

  await row.getByRole('button', { name: 'Redraw' }).click();
  await shows(panel, 'Replays');
  await row.getByRole('button', { name: 'Close' }).click();
  await expect(panel.getByText('This panel was closed at the desk.')).toBeVisible();
  await expect(row).toHaveCount(0);
  await panel.getByRole('button', { name: 'Open it again' }).click();
  await expect(row).toHaveCount(1);
});

test('linked panels show the same page everywhere, others go their own way', async ({
  page,
  ownProgram: program,
  newScreen,
}) => {
  await page.goto(`${program.url}/panels`);
  const director = page.getByRole('listitem', { name: 'Director' });
  await director.getByRole('button', { name: 'Settings' }).click();
  await director.getByLabel('Linked').check();
  const open = async (path: string): Promise<Page> => {
    const panel = await newScreen();
    await panel.goto(`${program.url}/panel/${path}`);
    await expect(panel.locator('[data-control]').first()).toBeVisible();
    return panel;
  };
  const [one, two, other] = [await open('director'), await open('director'), await open('start')];
  // The setting may still be on its way to panels that have just opened.
  await expect(async () => {
    await one.getByRole('button', { name: 'Pontoon talk' }).click();
    await expect(two.locator('nav [aria-current="page"]')).toHaveText('Pontoon talk', { timeout: 3000 });
  }).toPass();
  await two.getByRole('group', { name: 'Level' }).getByRole('button', { name: 'guests' }).click();
  await expect(one.getByRole('button', { name: 'guests', pressed: true })).toBeVisible();
  await expect(one.locator('[data-control]', { hasText: 'Guest 1' })).toBeVisible();
  await shows(other, 'Engineering');

  // The engine forgets with its end; the screens bring it back.
  const engine = await program.pidOf('engine');
  process.kill(engine, 'SIGKILL');
  await expect.poll(() => program.pidOf('engine').catch(() => engine)).not.toBe(engine);
  for (const panel of [one, two]) {
    await expect(panel.locator('.panel')).toHaveAttribute('data-connection', 'open');
    await panel.reload();
    await shows(panel, 'Pontoon talk');
    await expect(panel.getByRole('button', { name: 'guests', pressed: true })).toBeVisible();
  }
});

test('ten reconnections in a row leave everything true, and it is barred while it is cut off', async ({
  page,
  program,
}) => {
  let line: WebSocketRoute | undefined;
  let blocked = false;
  await page.routeWebSocket(/\/live/, (socket) => {
    if (blocked) return void socket.close();
    line = socket;
    socket.connectToServer();
  });
  await page.goto(`${program.url}/panel/page-race`);
  const lit = (input: number) => page.locator(`[data-control="ctl-program-${input}"][data-lamp="onAir"]`);
  await expect(lit(1)).toBeVisible();
  for (let n = 1; n <= 10; n += 1) {
    const input = (n % 6) + 1;
    blocked = true;
    await line?.close();
    await expect(page.getByRole('alert').filter({ hasText: 'Cut off from the engine' })).toBeVisible();
    await expect(page.locator('main')).toHaveAttribute('inert', '');
    // It changes while nobody hears it.
    await program.operate('operate', { verb: 'take', input });
    blocked = false;
    await expect(lit(input)).toBeVisible();
    await expect(page.locator('main')).not.toHaveAttribute('inert', '');
    await expect(page.locator('[data-control^="ctl-program"][data-lamp="onAir"]')).toHaveCount(1);
  }
});

test('a device’s faults bring the right doubt, and leave with it', async ({ page, program }) => {
  await page.goto(`${program.url}/panel/page-race`);
  const control = page.locator('[data-control="ctl-program-1"]');
  await expect(control).toHaveAttribute('data-lamp', 'onAir');
  const isTrueAgain = () => expect(control).toHaveAttribute('data-lamp', 'onAir', { timeout: paced(15_000) });

  // It hangs: what was true grows old, and then nobody knows.
  await program.operate('faults', { hang: true });
  await expect(control).toHaveAttribute('data-lamp', 'stale', { timeout: paced(10_000) });
  await expect(control).toContainText(/stale \d+ s/);
  await program.operate('faults', { hang: false });
  await isTrueAgain();

  for (const fault of [{ refuse: true }, { otherPassword: true }, { otherModel: true }, { taken: true }]) {
    await program.operate('faults', fault);
    if (!('otherModel' in fault)) {
      if ('refuse' in fault) await program.operate('drop', {});
      await expect(control, JSON.stringify(fault)).toHaveAttribute('data-lamp', 'unknown', { timeout: paced(15_000) });
      await expect(control).toContainText('unknown');
    }
    await program.operate('faults', Object.fromEntries(Object.keys(fault).map((name) => [name, false])));
    await program.operate('power', { on: false });
    await expect(control).toHaveAttribute('data-lamp', 'unknown', { timeout: paced(15_000) });
    await program.operate('power', { on: true });
    if ('otherPassword' in fault) break;
    await isTrueAgain();
  }
});

test('a refusal tells its reason when touched, in the control, and is not pressed again', async ({ page, program }) => {
  await page.goto(`${program.url}/panel/page-replays`);
  const control = page.locator('[data-control]', { hasText: 'Stop and cue' });
  await expect(control).toBeVisible();
  await program.operate('faults', { taken: true }, 'r1');
  await expect(control).not.toHaveAttribute('data-lamp', 'off');
  await control.click();
  const mark = control.locator('.outcome');
  await expect(mark).toContainText(/lost|refused/);
  const before = await page.locator('.press-line').textContent();
  await mark.click();
  await expect(control.locator('.outcome-reason')).toBeVisible();
  await expect(control.locator('.outcome-reason')).not.toBeEmpty();
  expect(await page.locator('.press-line').textContent()).toBe(before);

  // The whole account is one touch further, and the page can be pressed meanwhile.
  await page.getByRole('button', { name: 'Explain' }).click();
  const account = page.getByRole('dialog');
  await expect(account).toContainText('What to try');
  await expect(account.getByRole('list', { name: 'From the press to the lamp' })).toBeVisible();
  const boxes = await Promise.all([control, account].map((each) => each.boundingBox()));
  expect(boxes.every((box) => box !== null)).toBe(true);
  await account.getByRole('button', { name: 'Close' }).click();
  await expect(account).toHaveCount(0);
});

test('what one starts is told to the others', async ({ page, program, newScreen }) => {
  const other = await newScreen();
  await other.goto(`${program.url}/panel/sound`);
  await page.goto(`${program.url}/panel/page-streams`);
  await program.operate('operate', { verb: 'record', on: true }, 'e1');
  await expect(other.locator('.news')).toContainText('Stream, main is recording.');
  const stop = page.locator('[data-control]', { hasText: 'Stop recording' }).first();
  await expect(stop).toBeEnabled();
  const box = await stop.boundingBox();
  await page.mouse.move((box?.x ?? 0) + 30, (box?.y ?? 0) + 50);
  await page.mouse.down();
  await page.waitForTimeout(1000);
  await page.mouse.up();
  await expect(other.locator('.news')).toContainText(/Stream, main has stopped recording\. by panel, .+ ·[0-9a-z]{4}/);
});

test.describe('with fingers', () => {
  test.use({ viewport: { width: 1180, height: 820 }, hasTouch: true });

  test('two faders and a stick are handled at once, and each lets go by itself', async ({ page, program }) => {
    await page.goto(`${program.url}/panel/page-pontoon`);
    const faders = page.locator('[data-kind="fader"]');
    const stick = page.locator('[data-kind="stick"]');
    await expect(faders).toHaveCount(2);
    const middle = async (target: ReturnType<Page['locator']>, part: string) => {
      const box = await target.locator(part).boundingBox();
      return { x: (box?.x ?? 0) + (box?.width ?? 0) / 2, y: (box?.y ?? 0) + (box?.height ?? 0) / 2 };
    };
    const [a, b, pad] = [
      await middle(faders.nth(0), '.range-track'),
      await middle(faders.nth(1), '.range-track'),
      await middle(stick, '.stick-pad'),
    ];
    const touch = await page.context().newCDPSession(page);
    const send = (type: 'touchStart' | 'touchMove' | 'touchEnd', touchPoints: { x: number; y: number; id: number }[]) =>
      touch.send('Input.dispatchTouchEvent', { type, touchPoints });
    const mixer = async () =>
      ((await (await fetch(`${program.standinUrl}/a1/state`)).json()) as { strips: { level: number }[] }).strips;
    const pan = async () => ((await (await fetch(`${program.standinUrl}/c3/state`)).json()) as { pan: number }).pan;
    // The zone's pick follows the preview, which is input 2 at first: steer the third camera.
    await program.operate('operate', { verb: 'ready', input: 3 });
    await expect(page.getByRole('button', { name: /C3 Finish/ })).toHaveAttribute('aria-pressed', 'true');
    const [levels, from] = [await mixer(), await pan()];

    const at = (n: number) => [
      { ...a, y: a.y - n * 6, id: 1 },
      { ...b, y: b.y + n * 6, id: 2 },
      { x: pad.x + n * 5, y: pad.y, id: 3 },
    ];
    await send('touchStart', at(0).slice(0, 1));
    await send('touchStart', at(0).slice(0, 2));
    await send('touchStart', at(0));
    for (let n = 1; n <= 8; n += 1) {
      await send('touchMove', at(n));
      await page.waitForTimeout(40);
    }
    await expect.poll(async () => Math.abs((await pan()) - from)).toBeGreaterThan(1);
    // The faders are let go, and the stick steers on.
    await send('touchMove', at(8).slice(2));
    const soon = await pan();
    await expect.poll(pan).toBeGreaterThan(soon + 1);
    await send('touchEnd', []);
    await expect
      .poll(async () => {
        const before = await pan();
        await page.waitForTimeout(300);
        return (await pan()) === before;
      })
      .toBe(true);
    const after = await mixer();
    expect(after[2]?.level).toBeGreaterThan(levels[2]?.level ?? 0);
    expect(after[3]?.level).toBeLessThan(levels[3]?.level ?? 0);
  });
});

test.describe('with fingers on a locked screen', () => {
  test.use({ hasTouch: true, viewport: { width: 1180, height: 820 } });
  test('a control locks its own screen, a held stick stops when its finger leaves, and another control dims it', async ({
    page,
    program,
    context,
    newScreen,
  }) => {
    await page.goto(`${program.url}/pages/page-pontoon?edit=1`);
    const place = async (title: string) => {
      await page.locator('[data-cell]').last().click();
      await page.getByRole('searchbox', { name: 'Search' }).fill(title);
      await offer(page, title).click();
      await stored(page);
    };
    await place('Lock against touch');
    await place('Dim or brighten');
    // On the desk it says why nothing happens.
    await page.getByRole('radio', { name: 'Press' }).click();
    await page.getByRole('button', { name: /^Dim screen/ }).tap();
    await expect(page.getByText('On a panel this dims the screen.')).toBeVisible();
    const other = await newScreen();
    await other.goto(`${program.url}/panel/page-pontoon`);
    await page.goto(`${program.url}/panel/page-pontoon`);
    await program.operate('operate', { verb: 'ready', input: 3 });
    await expect(page.getByRole('button', { name: /C3 Finish/ })).toHaveAttribute('aria-pressed', 'true');
    const key = (label: RegExp) => page.locator('.panel-work').getByRole('button', { name: label });
    const light = () => page.locator('.panel').evaluate((panel) => getComputedStyle(panel).getPropertyValue('--dim'));
    await key(/^Dim screen/).tap();
    await expect.poll(light).toBe('0.6');
    await key(/^Dim screen/).tap();
    await expect.poll(light).toBe('0');

    // One finger drives a camera, another locks the screen.
    const stick = await page.locator('[data-kind="stick"] .stick-pad').boundingBox();
    const lock = await key(/^Lock screen/).boundingBox();
    if (!stick || !lock) throw new Error('A control is not to be seen.');
    const finger = await context.newCDPSession(page);
    const at = (box: { x: number; y: number; width: number; height: number }, id: number, dx = 0) => ({
      x: box.x + box.width / 2 + dx,
      y: box.y + box.height / 2,
      id,
    });
    const touch = (type: 'touchStart' | 'touchMove' | 'touchEnd', touchPoints: ReturnType<typeof at>[]) =>
      finger.send('Input.dispatchTouchEvent', { type, touchPoints });
    const pan = async () => ((await (await fetch(`${program.standinUrl}/c3/state`)).json()) as { pan: number }).pan;
    const moves = async () => {
      const before = await pan();
      await page.waitForTimeout(300);
      return (await pan()) !== before;
    };
    await touch('touchStart', [at(stick, 1)]);
    await touch('touchMove', [at(stick, 1, 40)]);
    await expect.poll(moves).toBe(true);
    await touch('touchStart', [at(stick, 1, 40), at(lock, 2)]);
    await touch('touchEnd', [at(stick, 1, 40)]);
    await expect(page.getByRole('button', { name: 'Locked: hold to unlock' })).toBeVisible();
    await touch('touchEnd', []);
    await expect.poll(moves).toBe(false);
    await expect(other.getByRole('button', { name: 'Locked: hold to unlock' })).toBeHidden();
  });
});

test('a page key changes the page of its own screen, by finger and by key, and a locked screen takes no touch', async ({
  page,
  program,
  newScreen,
}) => {
  await page.goto(`${program.url}/pages/page-race?edit=1`);
  const edited = (label: string) => page.locator('.edit-grid [data-control]').filter({ hasText: label }).first();
  const opens = async (label: string, what: string) => {
    await edited(label).click();
    await choose(page.getByRole('combobox', { name: 'Also on this screen' }), what);
  };
  await opens('Auto', 'page Cameras');
  await opens('Cut', 'the page before');
  await stored(page);
  const other = await newScreen();
  await other.goto(`${program.url}/panel/page-race`);
  await page.goto(`${program.url}/panel/page-race`);
  const key = (label: RegExp) => page.locator('.panel-work').getByRole('button', { name: label });
  const program1 = (await program.switcher()).program;
  await key(/^Auto/).click();
  await shows(page, 'Cameras');
  // The command of the control is sent all the same; the other screen stays where it is.
  await expect.poll(async () => (await program.switcher()).program).not.toBe(program1);
  await shows(other, 'Race');
  await page.getByRole('navigation', { name: 'Pages' }).getByRole('button', { name: 'Race' }).click();
  await shows(page, 'Race');
  await key(/^Cut/).focus();
  await page.keyboard.press('Enter');
  await shows(page, 'Cameras');

  await page.getByRole('navigation', { name: 'Pages' }).getByRole('button', { name: 'Race' }).click();
  await page.getByRole('button', { name: 'This screen' }).click();
  await page.getByRole('button', { name: 'Lock touch' }).click();
  const unlock = page.getByRole('button', { name: 'Locked: hold to unlock' });
  await expect(unlock).toBeVisible();
  expect((await new AxeBuilder({ page }).analyze()).violations).toEqual([]);
  const before = (await program.switcher()).program;
  const finish = page.locator('[data-control="ctl-program-3"]');
  const box = await finish.boundingBox();
  if (!box) throw new Error('The control is not to be seen.');
  await page.mouse.click(box.x + box.width / 2, box.y + box.height / 2);
  await unlock.click();
  await expect(unlock).toBeVisible();
  expect((await program.switcher()).program).toBe(before);
  // Held, it opens; then a touch presses again.
  await unlock.hover();
  await page.mouse.down();
  await expect(unlock).toBeHidden();
  await page.mouse.up();
  await finish.click();
  await expect.poll(async () => (await program.switcher()).program).toBe(3);
});
