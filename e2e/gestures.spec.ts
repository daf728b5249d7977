import { choose, edited, pick, pressTwice, stored } from './hand';
import { expect, test } from './program';
import { startRelay } from './relay';
import { paced } from '../test/support/pace';

test('a button is made to alternate, to undo itself and to be meant twice, and is worked by hand on a panel', async ({
  page,
  program,
  newScreen,
}) => {
  const panel = await newScreen();
  await page.goto(`${program.url}/pages/page-sound?edit=1`);
  // What a strip is called comes from the mixer.
  const strip = page.locator('.edit-grid [data-control="ctl-sound-2-1"]');
  await strip.click();
  const response = page.getByRole('region', { name: 'Response' });
  await response.getByText('More than a tap').click();
  await response.getByRole('button', { name: /^Alternate/ }).click();
  const turn = response.getByRole('group', { name: 'Turn 2' });
  await pick(turn.getByRole('combobox', { name: 'Turn 2' }), 'a1 mute strip', 'Mute of');
  await choose(turn.getByRole('combobox', { name: 'Muted' }), 'off');
  const id = (await strip.getAttribute('data-control')) ?? '';
  await stored(page);
  await panel.goto(`${program.url}/panel/page-sound`);
  const button = panel.locator(`[data-control="${id}"]`);
  const muted = async () => {
    const state = (await (await fetch(`${program.standinUrl}/a1/state`)).json()) as { strips: { muted: boolean }[] };
    return state.strips[0]?.muted;
  };
  await button.click();
  await expect.poll(muted).toBe(true);
  await button.click();
  await expect.poll(muted).toBe(false);

  // Pressed twice: the first press only arms it.
  await choose(response.getByLabel('Confirm before sending'), 'always: press twice');
  await expect(button).toHaveAccessibleName(/press twice/);
  await button.click();
  await expect(button).toHaveAccessibleName(/press again/);
  await expect(button).toHaveAccessibleName(/press twice/);
  expect(await muted()).toBe(false);
  await pressTwice(button);
  await expect.poll(muted).toBe(true);

  // Undone by itself, with the seconds shown.
  await page.goto(`${program.url}/pages/page-race?edit=1`);
  await edited(page, 'Cut').click();
  await response.getByText('More than a tap').click();
  await response.getByRole('checkbox', { name: 'Turn off automatically' }).check();
  const undone = response.getByRole('group', { name: 'Turn off' });
  await undone.getByRole('spinbutton', { name: 'after, ms' }).fill('2500');
  await page.keyboard.press('Enter');
  await pick(undone.getByRole('combobox', { name: 'Then it sends' }), 'sw1 cut', 'Cut to preview');
  await stored(page);
  await panel.goto(`${program.url}/panel/page-race`);
  const before = (await program.switcher()).program;
  const cut = panel.getByRole('button', { name: 'Cut' });
  await cut.click();
  await expect(cut).toContainText(/off in [123] s/);
  await expect.poll(async () => (await program.switcher()).program).not.toBe(before);
  await expect.poll(async () => (await program.switcher()).program, { timeout: 6000 }).toBe(before);
  await expect(cut).not.toContainText('off in');
});

test('what is held is let go by the pointer, by closing the page, by a dropped connection, and by the end of the engine', async ({
  page,
  ownProgram: program,
  newScreen,
}) => {
  await page.goto(`${program.url}/pages/page-race?edit=1`);
  await edited(page, 'Auto').click();
  const response = page.getByRole('region', { name: 'Response' });
  await response.getByText('More than a tap').click();
  const release = response.getByRole('group', { name: 'Release' });
  await pick(release.getByRole('combobox', { name: 'On release' }), 'sw1 cut', 'Cut to preview');
  await pick(response.getByRole('combobox', { name: 'It sends', exact: true }), 'sw1 cut', 'Cut to preview');
  await stored(page);
  const air = async () => (await program.switcher()).program;
  const before = await air();
  const hold = async (url = program.url) => {
    const panel = await newScreen();
    await panel.goto(`${url}/panel/page-race`);
    const auto = panel.getByRole('button', { name: /^Auto/ });
    await expect(auto).toBeEnabled();
    await auto.hover();
    await panel.mouse.down();
    await expect.poll(air).not.toBe(before);
    return panel;
  };
  const first = await hold();
  await first.mouse.up();
  await expect.poll(air).toBe(before);
  const second = await hold();
  await second.close();
  await expect.poll(air).toBe(before);
  // The finger stays down: only the connection goes.
  const relay = await startRelay(program.url);
  const third = await hold(relay.url);
  relay.cut();
  await expect.poll(air, { timeout: 8000 }).toBe(before);
  await third.close();
  await relay.stop();
  // Killed while it is held: the next engine lets it go before anything else. It has no spare here, and a busy computer takes long to start one.
  const fourth = await hold();
  process.kill(await program.pidOf('engine'), 'SIGKILL');
  await expect.poll(air, { timeout: paced(40_000) }).toBe(before);
  await fourth.mouse.up();
});

test('a press asks first, sends what was answered, and offers it the next time', async ({
  page,
  program,
  newScreen,
}) => {
  await page.goto(`${program.url}/pages/page-race?edit=1`);
  await edited(page, 'Cut').click();
  const response = page.getByRole('region', { name: 'Response' });
  await pick(response.getByRole('combobox', { name: 'It sends', exact: true }), 't1 text field', 'Field');
  await response.getByRole('spinbutton', { name: 'Layer' }).fill('3');
  await response.getByRole('spinbutton', { name: 'Field' }).fill('1');
  await response.getByRole('textbox', { name: 'Text', exact: true }).fill('nobody');
  await page.keyboard.press('Enter');
  await response.getByText('More than a tap').click();
  const asked = response.getByRole('group', { name: 'Asked first' });
  await choose(asked.getByRole('combobox', { name: 'Ask on the panel first' }), 'Text (T1 Set a text field)');
  await asked.getByRole('textbox', { name: 'It asks' }).fill('Who is it?');
  await page.keyboard.press('Enter');
  await stored(page);

  const panel = await newScreen();
  const button = panel.locator(`[data-control="${await edited(page, 'Cut').getAttribute('data-control')}"]`);
  const question = panel.getByRole('dialog', { name: /^Question of Cut/ });
  const text = async () => {
    const state = (await (await fetch(`${program.standinUrl}/t1/state`)).json()) as { layers: { texts: string[] }[] };
    return state.layers[2]?.texts[0];
  };
  await panel.goto(`${program.url}/panel/page-race`);
  await program.operate('operate', { verb: 'load', layer: 3, template: 1 }, 't1');
  await button.click();
  await expect(question.getByRole('textbox', { name: 'Who is it?' })).toHaveValue('nobody');
  expect(await text()).not.toBe('nobody');
  await question.getByRole('textbox').fill('Ida Marsh');
  await panel.keyboard.press('Enter');
  await expect.poll(text).toBe('Ida Marsh');
  await expect(question).toBeHidden();

  await button.click();
  await question.getByRole('textbox').fill('Per Ekholt');
  await question.getByRole('button', { name: 'Ida Marsh' }).click();
  await expect(question.getByRole('textbox')).toHaveValue('Ida Marsh');
  await panel.keyboard.press('Escape');
  await expect(question).toBeHidden();
  expect(await text()).toBe('Ida Marsh');
});

test('a fader is made to go where it is touched', async ({ page, program, newScreen }) => {
  await page.goto(`${program.url}/pages/page-pontoon?edit=1`);
  const fader = edited(page, 'Pontoon mic');
  await fader.click();
  const id = (await fader.getAttribute('data-control')) ?? '';
  await choose(page.getByRole('combobox', { name: 'When touched' }), 'it jumps to where it is touched');
  await stored(page);
  const panel = await newScreen();
  await panel.goto(`${program.url}/panel/page-pontoon`);
  const touched = panel.locator(`[data-control="${id}"]`);
  const track = await touched.locator('.range-track').boundingBox();
  if (!track) throw new Error('The fader is not to be seen.');
  const value = async () => Number(await touched.getAttribute('aria-valuenow'));
  const [min, max] = [
    Number(await touched.getAttribute('aria-valuemin')),
    Number(await touched.getAttribute('aria-valuemax')),
  ];
  const isWide = track.width > track.height * 1.5;
  await panel.mouse.click(
    track.x + track.width * (isWide ? 0.25 : 0.5),
    track.y + track.height * (isWide ? 0.5 : 0.75),
  );
  const wanted = min + (max - min) * 0.25;
  await expect.poll(async () => Math.abs((await value()) - wanted)).toBeLessThan((max - min) * 0.05);
});

test('a press repeats while it is held, and does something else when it is held long', async ({
  page,
  program,
  newScreen,
}) => {
  await program.operate('operate', { verb: 'load', clip: 3 }, 'r1');
  const deck = async () => (await (await fetch(`${program.standinUrl}/r1/state`)).json()) as { position: number };
  await page.goto(`${program.url}/pages/page-race?edit=1`);
  const response = page.getByRole('region', { name: 'Response' });
  const more = async (label: string) => {
    await edited(page, label).click();
    await response.getByText('More than a tap').click();
  };
  await edited(page, 'Auto').click();
  await pick(response.getByRole('combobox', { name: 'It sends', exact: true }), 'r1 step', 'Step by');
  await response.getByRole('spinbutton', { name: 'Frames' }).fill('1');
  await more('Auto');
  await response.getByRole('checkbox', { name: 'Repeat while held' }).check();
  await more('Cut');
  await response.getByRole('checkbox', { name: 'Something else on a long press' }).check();
  const long = response.getByRole('group', { name: 'Long press' });
  await pick(long.getByRole('combobox', { name: 'Long press' }), 'take program', 'to program');
  await choose(long.getByRole('combobox', { name: 'Input', exact: true }), 8);
  await stored(page);

  const panel = await newScreen();
  await panel.goto(`${program.url}/panel/page-race`);
  await panel.getByRole('button', { name: /^Auto/ }).hover();
  const start = (await deck()).position;
  await panel.mouse.down();
  await expect.poll(async () => (await deck()).position - start).toBeGreaterThan(0.15);
  await panel.mouse.up();
  const after = (await deck()).position;
  await panel.waitForTimeout(700);
  expect((await deck()).position - after).toBeLessThan(0.05);

  const before = await program.switcher();
  await panel.getByRole('button', { name: /^Cut/ }).hover();
  await panel.mouse.down();
  await expect.poll(async () => (await program.switcher()).program).toBe(9);
  await panel.mouse.up();
  expect((await program.switcher()).preview).toBe(before.preview);
  // Let go before its time it is the tap.
  await panel.mouse.down();
  await panel.mouse.up();
  await expect.poll(async () => (await program.switcher()).program).toBe(before.preview);
});
