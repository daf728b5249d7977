import type { Page } from '@playwright/test';
import { expect, test } from './program';

/** Hand gear, simulated through the browser's own interfaces: Web MIDI, game controllers, and the real keyboard. */

interface FakeGear {
  readonly play: (...bytes: number[]) => void;
  readonly sent: number[][];
  holdElsewhere: boolean;
  pad: { buttons: boolean[]; axes: number[] } | null;
}
declare global {
  interface Window {
    fake: FakeGear;
  }
}

const withGear = (page: Page) =>
  page.addInitScript(() => {
    const input = {
      id: 'in-1',
      name: 'Sixteen pads',
      state: 'connected',
      onmidimessage: null as ((event: { data: Uint8Array }) => void) | null,
      open: () => (window.fake.holdElsewhere ? Promise.reject(new Error('in use')) : Promise.resolve(input)),
    };
    window.fake = {
      play: (...bytes) => input.onmidimessage?.({ data: Uint8Array.from(bytes) }),
      sent: [],
      holdElsewhere: false,
      pad: null,
    };
    const output = {
      id: 'out-1',
      name: 'Sixteen pads',
      state: 'connected',
      send: (b: number[]) => window.fake.sent.push(b),
    };
    const access = { inputs: new Map([['in-1', input]]), outputs: new Map([['out-1', output]]), onstatechange: null };
    Object.defineProperty(navigator, 'requestMIDIAccess', { value: () => Promise.resolve(access) });
    Object.defineProperty(navigator, 'getGamepads', {
      value: () => {
        const { pad } = window.fake;
        const buttons = pad?.buttons.map((pressed) => ({ pressed, value: pressed ? 1 : 0 }));
        return [pad && { id: 'Two sticks', index: 0, buttons, axes: pad.axes }];
      },
    });
  });

const bind = async (page: Page, control: string, use: () => Promise<void>) => {
  await page.getByRole('button', { name: 'Bind a control' }).click();
  await page.locator(`[data-control="${control}"]`).click({ position: { x: 20, y: 40 } });
  await expect(page.getByText('Now use it on the gear')).toBeVisible();
  await use();
  await expect(page.getByText('Now use it on the gear')).toBeHidden();
};

test('MIDI presses, moves and is lit, stays bound after a reload, and says when another program holds it', async ({
  page,
  program,
  newScreen,
}) => {
  await withGear(page);
  await page.goto(`${program.url}/panel/page-race`);
  await expect(page.locator('[data-control="ctl-program-1"][data-lamp="onAir"]')).toBeVisible();
  await page.getByRole('button', { name: 'This screen' }).click();
  await page.evaluate(() => (window.fake.holdElsewhere = true));
  await page.getByRole('button', { name: 'Look for MIDI' }).click();
  await expect(page.getByText('in use by another program')).toBeVisible();
  await page.evaluate(() => (window.fake.holdElsewhere = false));
  await page.getByRole('button', { name: 'Look for MIDI again' }).click();
  const gear = page.getByRole('region', { name: 'Hand gear' });
  await expect(gear.getByText('Sixteen pads ready')).toBeVisible();

  const before = (await program.switcher()).program;
  await bind(page, 'ctl-program-4', () => page.evaluate(() => window.fake.play(0x90, 36, 100)));
  // Choosing pressed nothing.
  expect((await program.switcher()).program).toBe(before);
  await expect(gear.locator('.gear-bindings')).toContainText('note 1 36');

  await page.evaluate(() => window.fake.play(0x90, 36, 100));
  await page.evaluate(() => window.fake.play(0x80, 36, 0));
  await expect.poll(async () => (await program.switcher()).program).toBe(4);
  const lit = () => page.evaluate(() => window.fake.sent.at(-1));
  await expect.poll(lit).toEqual([0x90, 36, 127]);
  await program.operate('operate', { verb: 'take', input: 2 });
  await expect.poll(lit).toEqual([0x90, 36, 0]);

  // What only changes programs presses as well, and lets go at once.
  await bind(page, 'ctl-program-3', () => page.evaluate(() => window.fake.play(0xc0, 5)));
  await page.evaluate(() => window.fake.play(0xc0, 5));
  await expect.poll(async () => (await program.switcher()).program).toBe(3);
  await program.operate('operate', { verb: 'take', input: 2 });

  // A list knows the gear beside each screen.
  const desk = await newScreen();
  await desk.goto(`${program.url}/panels`);
  await expect(desk.getByRole('list', { name: /^Gear at panel/ })).toContainText('Sixteen pads');
  await desk.close();

  await page.reload();
  await expect(page.locator('[data-control="ctl-program-2"][data-lamp="onAir"]')).toBeVisible();
  await expect.poll(() => page.evaluate(() => window.fake.sent.length)).toBeGreaterThan(0);
  await page.evaluate(() => window.fake.play(0x90, 36, 90));
  await expect.poll(async () => (await program.switcher()).program).toBe(4);
});

test('a MIDI fader takes hold where the device stands; a guarded control has to be held here, too', async ({
  page,
  program,
}) => {
  await withGear(page);
  await page.goto(`${program.url}/panel/page-pontoon`);
  const fader = page.locator('[data-kind="fader"]').first();
  await expect(fader).toBeVisible();
  const id = (await fader.getAttribute('data-control')) ?? '';
  await page.getByRole('button', { name: 'This screen' }).click();
  await page.getByRole('button', { name: 'Look for MIDI' }).click();
  await bind(page, id, () => page.evaluate(() => window.fake.play(0xb0, 7, 5)));
  const level = async () => {
    const { strips } = (await (await fetch(`${program.standinUrl}/a1/state`)).json()) as {
      strips: { level: number }[];
    };
    return strips[2]?.level ?? 0;
  };
  const from = await level();
  await expect(fader).toHaveAttribute('aria-valuenow', String(from));
  // It stands at -20 of -60 to 10, which is at 73 of 127; the fader comes from far below.
  await page.evaluate(() => window.fake.play(0xb0, 7, 20));
  await page.waitForTimeout(300);
  expect(await level()).toBe(from);
  for (const value of [60, 80, 100]) await page.evaluate((at) => window.fake.play(0xb0, 7, at), value);
  await expect.poll(level).toBeGreaterThan(-6);
  // Somebody else moves it: the motor follows.
  await page.waitForTimeout(600);
  await program.operate('operate', { verb: 'level', strip: 3, level: -60 }, 'a1');
  await expect.poll(() => page.evaluate(() => window.fake.sent.at(-1))).toEqual([0xb0, 7, 0]);

  await page.goto(`${program.url}/panel/page-streams`);
  const stop = page.locator('[data-control]', { hasText: 'Stop recording' }).first();
  await expect(stop).toBeVisible();
  await page.getByRole('button', { name: 'This screen' }).click();
  await bind(page, (await stop.getAttribute('data-control')) ?? '', () =>
    page.evaluate(() => window.fake.play(0x90, 40, 1)),
  );
  await program.operate('operate', { verb: 'record', on: true }, 'e1');
  const recording = async () =>
    ((await (await fetch(`${program.standinUrl}/e1/state`)).json()) as { recording: boolean }).recording;
  await expect.poll(recording).toBe(true);
  await expect(stop).toHaveAttribute('data-lamp', 'off');
  await page.evaluate(() => window.fake.play(0x90, 40, 100));
  await page.waitForTimeout(200);
  await page.evaluate(() => window.fake.play(0x90, 40, 0));
  await page.waitForTimeout(900);
  expect(await recording()).toBe(true);
  await page.evaluate(() => window.fake.play(0x90, 40, 100));
  await expect.poll(recording).toBe(false);
});

test('a game controller steers a camera and stops with its stick, and a key presses', async ({ page, program }) => {
  await withGear(page);
  await page.goto(`${program.url}/panel/page-pontoon`);
  const stick = page.locator('[data-kind="stick"]');
  await expect(stick).toBeVisible();
  await program.operate('operate', { verb: 'ready', input: 4 });
  await expect(page.getByRole('button', { name: 'C4 Pontoon' })).toHaveAttribute('aria-pressed', 'true');
  await page.evaluate(() => {
    window.fake.pad = { buttons: [false], axes: [0, 0] };
    window.dispatchEvent(new Event('gamepadconnected'));
  });
  await page.getByRole('button', { name: 'This screen' }).click();
  await expect(page.getByText('Two sticks')).toBeVisible();
  await bind(page, (await stick.getAttribute('data-control')) ?? '', async () => {
    await page.evaluate(() => (window.fake.pad = { buttons: [false], axes: [0.9, 0] }));
  });
  await page.evaluate(() => (window.fake.pad = { buttons: [false], axes: [0, 0] }));
  const pan = async () => ((await (await fetch(`${program.standinUrl}/c4/state`)).json()) as { pan: number }).pan;
  const from = await pan();
  // Inside the dead zone nothing moves.
  await page.evaluate(() => (window.fake.pad = { buttons: [false], axes: [0.08, 0.05] }));
  await page.waitForTimeout(300);
  expect(await pan()).toBe(from);
  await page.evaluate(() => (window.fake.pad = { buttons: [false], axes: [0.8, 0] }));
  await expect.poll(pan).toBeGreaterThan(from + 2);
  // Unplugged while it steers: the camera stops.
  await page.evaluate(() => {
    window.fake.pad = null;
    window.dispatchEvent(new Event('gamepaddisconnected'));
  });
  await expect
    .poll(async () => {
      const before = await pan();
      await page.waitForTimeout(300);
      return (await pan()) === before;
    })
    .toBe(true);

  await page.goto(`${program.url}/panel/page-race`);
  await expect(page.locator('[data-control="ctl-preview-5"]')).toBeVisible();
  await page.getByRole('button', { name: 'This screen' }).click();
  await bind(page, 'ctl-preview-5', () => page.keyboard.press('k'));
  await page.getByRole('button', { name: 'This screen' }).click();
  await page.keyboard.press('k');
  await expect.poll(async () => (await program.switcher()).preview).toBe(5);
});

test('what is bound at one computer works at another, which only has to be asked for MIDI', async ({
  page,
  program,
  newScreen,
}) => {
  await withGear(page);
  await page.goto(`${program.url}/panel/cameras`);
  const zoom = page.locator('[data-kind="stick"]').filter({ hasText: 'Zoom' });
  const zoomId = (await zoom.getAttribute('data-control')) ?? '';
  const faderId =
    (await page.locator('[data-kind="fader"]').filter({ hasText: 'Red' }).getAttribute('data-control')) ?? '';
  await page.getByRole('button', { name: 'This screen' }).click();
  await page.getByRole('button', { name: 'Look for MIDI' }).click();
  // A wheel that springs back is a rocker; an encoder counts from where the camera is.
  await bind(page, zoomId, () => page.evaluate(() => window.fake.play(0xe0, 0, 127)));
  await bind(page, faderId, () => page.evaluate(() => window.fake.play(0xb0, 20, 1)));
  await page.getByRole('combobox', { name: /^How cc 1 20/ }).selectOption('twos');

  const other = await newScreen();
  await withGear(other);
  await other.goto(`${program.url}/panel/cameras`);
  await other.getByRole('button', { name: 'This screen' }).click();
  await expect(other.getByText('has MIDI gear bound to it')).toBeVisible();
  await other.getByRole('button', { name: 'Look for MIDI' }).click();
  await expect(other.locator('.gear-bindings li')).toHaveCount(2);
  const camera = async () =>
    (await (await fetch(`${program.standinUrl}/c1/state`)).json()) as {
      zoom: number;
      moving: boolean;
      picture: { redGain: number };
    };
  const before = await camera();
  await other.evaluate(() => window.fake.play(0xe0, 127, 127));
  await expect.poll(async () => (await camera()).zoom).toBeGreaterThan(before.zoom);
  await other.evaluate(() => window.fake.play(0xe0, 0, 64));
  await expect.poll(async () => (await camera()).moving).toBe(false);
  // Held off its middle as the screen goes: nobody holds it any more.
  await other.evaluate(() => window.fake.play(0xe0, 0, 0));
  await expect.poll(async () => (await camera()).moving).toBe(true);
  await other.reload();
  await expect.poll(async () => (await camera()).moving).toBe(false);
  // Asked once, the browser is not asked again.
  await other.getByRole('button', { name: 'This screen' }).click();
  await expect(other.getByText('Sixteen pads ready')).toBeVisible();
  await program.operate('operate', { verb: 'set', whiteBalance: 'manual', redGain: 100 }, 'c1');
  await expect(other.locator(`[data-control="${faderId}"]`)).toContainText('100');
  for (let n = 0; n < 3; n += 1) {
    await other.evaluate(() => window.fake.play(0xb0, 20, 126));
    await other.waitForTimeout(220);
  }
  await expect.poll(async () => (await camera()).picture.redGain).toBeLessThan(100);

  // Freed at one screen, free at both.
  await other.getByRole('button', { name: /^Take bend 1/ }).click();
  await expect(page.locator('.gear-bindings li')).toHaveCount(1);
});
