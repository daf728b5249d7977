import type { Page } from '@playwright/test';
import { choose, stored } from './hand';
import { expect, test } from './program';

/** Hand gear in a show: two pieces of one kind, plugged out and in again, with other keys down, and bound to what is not shown. */

interface Piece {
  readonly name: string;
  /** The bytes that were sent to it: its lamps and motors. */
  readonly sent: number[][];
}
interface FakeSet {
  pads: ({ id: string; index: number; buttons: boolean[]; axes: number[] } | null)[];
  readonly pieces: Piece[];
  readonly play: (piece: number, ...bytes: number[]) => void;
  readonly plug: (piece: number, on: boolean) => void;
}
declare global {
  interface Window {
    set: FakeSet;
  }
}

const withSet = (page: Page) =>
  page.addInitScript(() => {
    const access = { inputs: new Map(), outputs: new Map(), onstatechange: null as (() => void) | null };
    const inputs = [0, 1].map((n) => {
      const input = {
        id: `in-${n}`,
        name: 'Eight faders',
        state: 'connected',
        onmidimessage: null as ((event: { data: Uint8Array }) => void) | null,
        open: () => Promise.resolve(input),
      };
      access.inputs.set(input.id, input);
      return input;
    });
    const pieces = [0, 1].map((n) => {
      const sent: number[][] = [];
      access.outputs.set(`out-${n}`, {
        id: `out-${n}`,
        name: 'Eight faders',
        state: 'connected',
        send: (bytes: number[]) => sent.push(bytes),
      });
      return { name: 'Eight faders', sent };
    });
    window.set = {
      pads: [],
      pieces,
      play: (piece, ...bytes) => inputs[piece]?.onmidimessage?.({ data: Uint8Array.from(bytes) }),
      plug: (piece, on) => {
        const input = inputs[piece];
        if (!input) return;
        input.state = on ? 'connected' : 'disconnected';
        access.onstatechange?.();
      },
    };
    Object.defineProperty(navigator, 'requestMIDIAccess', { value: () => Promise.resolve(access) });
    Object.defineProperty(navigator, 'getGamepads', {
      value: () =>
        window.set.pads.map(
          (pad) => pad && { ...pad, buttons: pad.buttons.map((pressed) => ({ pressed, value: pressed ? 1 : 0 })) },
        ),
    });
  });
const bind = async (page: Page, control: string, use: () => Promise<unknown>) => {
  await page.getByRole('button', { name: 'Bind a control' }).click();
  await page.locator(`[data-control="${control}"]`).click({ position: { x: 20, y: 40 } });
  await expect(page.getByText('Now use it on the gear')).toBeVisible();
  // A screen that has just been opened may not be listening yet.
  await expect(async () => {
    await use();
    await expect(page.getByText('Now use it on the gear')).toBeHidden({ timeout: 2000 });
  }).toPass();
};
const openGear = (page: Page) => page.getByRole('button', { name: 'This screen' }).click();

test('two controllers of one model are two: a held button is one press, and each works its own control', async ({
  page,
  program,
}) => {
  await withSet(page);
  await page.goto(`${program.url}/panel/page-race`);
  await expect(page.locator('[data-control="ctl-program-1"][data-lamp="onAir"]')).toBeVisible();
  // Controllers are looked at once a frame: a state that is replaced sooner is never seen.
  const pads = (...down: boolean[][]) =>
    page.evaluate(async (each) => {
      window.set.pads = each.map((buttons, index) => ({ id: 'Two sticks', index, buttons, axes: [0, 0] }));
      window.dispatchEvent(new Event('gamepadconnected'));
      for (let n = 0; n < 3; n += 1) await new Promise((resolve) => requestAnimationFrame(resolve));
    }, down);
  await pads([false], [false]);
  await openGear(page);
  await expect(page.getByText('Two sticks (2)')).toBeVisible();
  await bind(page, 'ctl-program-4', () => pads([true], [false]));
  await pads([false], [false]);
  await bind(page, 'ctl-program-5', () => pads([false], [true]));
  await pads([false], [false]);
  const air = async () => (await program.switcher()).program;
  const presses = async () => {
    const { rows } = (await (await page.request.get(`${program.url}/desk/as-run?kind=press`)).json()) as {
      rows: unknown[];
    };
    return rows.length;
  };
  await pads([false], [true]);
  await expect.poll(air).toBe(5);
  await pads([true], [true]);
  await expect.poll(air).toBe(4);
  await expect.poll(presses).toBe(2);
  // Both are held for a while: nothing is pressed again and again.
  await page.waitForTimeout(800);
  expect(await presses()).toBe(2);
  expect(await air()).toBe(4);
});

test('a key that is held lets go although Ctrl is down or a field has the focus by then', async ({ page, program }) => {
  await withSet(page);
  await page.goto(`${program.url}/panel/page-cameras`);
  const left = page.locator('[data-control]').filter({ hasText: 'Left' }).first();
  await expect(left).toBeVisible();
  const id = (await left.getAttribute('data-control')) ?? '';
  const tags = ['c1', 'c2', 'c3', 'c4'];
  const moving = async () => {
    const states = await Promise.all(
      tags.map(
        async (tag) => (await (await fetch(`${program.standinUrl}/${tag}/state`)).json()) as { moving: boolean },
      ),
    );
    return states.some((state) => state.moving);
  };
  await openGear(page);
  await bind(page, id, () => page.keyboard.press('j'));
  await page.keyboard.down('j');
  await expect.poll(moving).toBe(true);
  await page.keyboard.down('Control');
  await page.keyboard.up('j');
  await page.keyboard.up('Control');
  await expect.poll(moving, { timeout: 1500 }).toBe(false);
  await page.keyboard.down('j');
  await expect.poll(moving).toBe(true);
  await page.getByLabel('Name of this screen').or(page.locator('.panel-menu input').first()).first().focus();
  await page.keyboard.up('j');
  await expect.poll(moving, { timeout: 1500 }).toBe(false);
});

test('a fader without a motor does not make the device jump after somebody else has moved it', async ({
  page,
  program,
}) => {
  await withSet(page);
  await page.goto(`${program.url}/panel/page-pontoon`);
  const fader = page.locator('[data-kind="fader"]').first();
  await expect(fader).toBeVisible();
  await openGear(page);
  await page.getByRole('button', { name: 'Look for MIDI' }).click();
  await bind(page, (await fader.getAttribute('data-control')) ?? '', () =>
    page.evaluate(() => window.set.play(0, 0xb0, 7, 5)),
  );
  const level = async () => {
    const { strips } = (await (await fetch(`${program.standinUrl}/a1/state`)).json()) as {
      strips: { level: number }[];
    };
    return strips[2]?.level ?? 0;
  };
  for (const value of [60, 80, 100]) await page.evaluate((at) => window.set.play(0, 0xb0, 7, at), value);
  await expect.poll(level).toBeGreaterThan(-6);
  // It moves on where it has hold.
  await page.waitForTimeout(700);
  await page.evaluate(() => window.set.play(0, 0xb0, 7, 104));
  await expect.poll(level).toBeGreaterThan(-3);
  await page.waitForTimeout(700);
  await program.operate('operate', { verb: 'level', strip: 3, level: -50 }, 'a1');
  await expect(fader).toContainText('-50');
  await page.evaluate(() => window.set.play(0, 0xb0, 7, 106));
  await page.waitForTimeout(400);
  expect(await level()).toBe(-50);
  // Down to where the device is, and it takes hold again.
  for (const value of [70, 40, 18, 10]) await page.evaluate((at) => window.set.play(0, 0xb0, 7, at), value);
  await expect.poll(level).toBeLessThan(-52);
});

test('gear that was plugged in again has its lamps, and chooses levels and works pages that are not shown', async ({
  page,
  program,
}) => {
  await withSet(page);
  await page.goto(`${program.url}/panel/page-pontoon`);
  const guests = page.locator('[data-control]').filter({ hasText: 'Guests' }).first();
  await expect(guests).toBeVisible();
  const id = (await guests.getAttribute('data-control')) ?? '';
  await openGear(page);
  await page.getByRole('button', { name: 'Look for MIDI' }).click();
  await bind(page, id, () => page.evaluate(() => window.set.play(0, 0x90, 40, 100)));
  // A level while it is held.
  const level = page.getByRole('group', { name: 'Level' }).getByRole('button', { name: 'guests' });
  // What was bound a moment ago is in force when the engine has it.
  await expect(async () => {
    await page.evaluate(() => window.set.play(0, 0x90, 40, 100));
    await expect(level).toHaveAttribute('aria-pressed', 'true', { timeout: 2000 });
  }).toPass();
  await page.evaluate(() => window.set.play(0, 0x80, 40, 0));
  await expect(level).toHaveAttribute('aria-pressed', 'false');

  await page.goto(`${program.url}/panel/page-race`);
  await expect(page.locator('[data-control="ctl-program-1"][data-lamp="onAir"]')).toBeVisible();
  await openGear(page);
  await bind(page, 'ctl-program-1', () => page.evaluate(() => window.set.play(1, 0x90, 50, 100)));
  await page.evaluate(() => window.set.play(1, 0x80, 50, 0));
  const lit = () => page.evaluate(() => window.set.pieces[1]?.sent.filter(([, note]) => note === 50).at(-1));
  await expect.poll(lit).toEqual([0x90, 50, 127]);
  // Only the second of the two faders has it.
  expect(await page.evaluate(() => window.set.pieces[0]?.sent.some(([, note]) => note === 50))).toBe(false);
  await page.evaluate(() => {
    window.set.plug(1, false);
    window.set.pieces[1]?.sent.splice(0);
  });
  await page.waitForTimeout(200);
  await page.evaluate(() => window.set.plug(1, true));
  await expect.poll(lit).toEqual([0x90, 50, 127]);

  // The page is left on another level, and its gear goes on working there.
  await page.getByRole('button', { name: 'Pontoon talk', exact: true }).click();
  await level.click();
  await expect(level).toHaveAttribute('aria-pressed', 'true');
  await page.getByRole('button', { name: 'Race', exact: true }).click();
  await program.operate('operate', { verb: 'take', input: 3 });
  await expect.poll(lit).toEqual([0x90, 50, 0]);
  await page.evaluate(() => window.set.play(1, 0x90, 50, 100));
  await expect.poll(async () => (await program.switcher()).program).toBe(1);
});

test('gear opens a page with a page key, on its own screen', async ({ page, program }) => {
  await withSet(page);
  await page.goto(`${program.url}/pages/page-race?edit=1`);
  await page.locator('.edit-grid [data-control]').filter({ hasText: 'Auto' }).first().click();
  await choose(page.getByRole('combobox', { name: 'Also on this screen' }), 'the next page');
  const id =
    (await page
      .locator('.edit-grid [data-control]')
      .filter({ hasText: 'Auto' })
      .first()
      .getAttribute('data-control')) ?? '';
  await stored(page);
  await page.goto(`${program.url}/panel/page-race`);
  await expect(page.locator('[data-control="ctl-program-1"][data-lamp="onAir"]')).toBeVisible();
  await openGear(page);
  await page.getByRole('button', { name: 'Look for MIDI' }).click();
  await bind(page, id, () => page.evaluate(() => window.set.play(0, 0x90, 41, 100)));
  await page.evaluate(() => window.set.play(0, 0x80, 41, 0));
  const now = page.locator('nav [aria-current="page"]');
  await expect(now).toHaveText('Race');
  await page.evaluate(() => window.set.play(0, 0x90, 41, 100));
  await expect(now).toHaveText('Cameras');
});
