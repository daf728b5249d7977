import AxeBuilder from '@axe-core/playwright';
import { allUp, openDevice } from './hand';
import { expect, test } from './program';

/** Timers of the program: entered at the desk, started on a panel, and seen over a whole screen. */

test('timers are entered at the desk, started on a panel, and seen over a whole screen', async ({
  page,
  program,
  newScreen,
}) => {
  await page.goto(`${program.url}/rig`);
  await allUp(page);
  await openDevice(page, 'Timers of the show', 'Timers');
  const timers = page.getByRole('region', { name: 'Timers of TM1' });
  await timers.getByRole('button', { name: 'Add timer' }).click();
  await timers.getByRole('textbox', { name: 'Name of Timer 4' }).fill('Umpires’ talk');
  await timers.getByRole('textbox', { name: 'Name of Timer 4' }).press('Enter');
  await timers.getByRole('textbox', { name: 'Speaker of Umpires’ talk' }).fill('Bela Roon');
  await timers.getByRole('textbox', { name: 'Speaker of Umpires’ talk' }).press('Enter');
  const length = timers.getByRole('textbox', { name: 'Length of Umpires’ talk' });
  await length.fill('soon');
  await length.press('Enter');
  await expect(timers.getByRole('alert')).toContainText('Type minutes and seconds');
  await length.fill('7:30');
  await length.press('Enter');
  await expect(length).toHaveValue('7:30');
  await expect(timers.getByRole('alert')).toBeHidden();
  // By keys to the first place.
  await timers.getByRole('button', { name: 'Move Umpires’ talk', exact: true }).focus();
  await page.keyboard.press('Space');
  await expect(page.getByText('Umpires’ talk: place 4 of 4.')).toBeAttached();
  for (const place of [3, 2, 1]) {
    await page.keyboard.press('ArrowUp');
    await expect(page.getByText(`Umpires’ talk: place ${place} of 4.`)).toBeAttached();
  }
  await page.keyboard.press('Space');
  await expect(timers.getByRole('listitem').first()).toHaveAttribute('aria-label', 'Umpires’ talk');
  expect((await new AxeBuilder({ page }).include('article').analyze()).violations).toEqual([]);

  const screen = await newScreen();
  await screen.goto(`${program.url}/panel/clock/TM1`);
  const clock = screen.getByRole('main');
  await expect(clock).toHaveAttribute('data-clock', 'ready');
  await expect(clock.getByRole('heading')).toContainText('To air');

  const panel = await newScreen();
  await panel.goto(`${program.url}/panel/stage/page-clocks`);
  await panel.getByRole('button', { name: /^Next one down/ }).waitFor();
  await panel.getByRole('button', { name: /^Next one down/ }).click();
  await expect(clock.getByRole('heading')).toContainText('Next race');
  await panel.locator('[data-control="ctl-clocks-5-2"]').click();
  await expect(clock).toHaveAttribute('data-clock', 'running');
  await expect(clock.getByRole('timer')).toHaveText(/^(8:00|7:5\d)$/);
  expect((await new AxeBuilder({ page: screen }).analyze()).violations).toEqual([]);
  await panel.locator('[data-control="ctl-clocks-5-3"]').click();
  await expect(clock).toHaveAttribute('data-clock', 'paused');

  // All clocks of the rig, and back to one.
  await clock.getByRole('button', { name: 'Another clock' }).click();
  await screen.getByRole('button', { name: /K1/ }).click();
  await expect(screen.getByRole('heading')).toContainText('Welcome · Ines Varga');
});

test('what streams and records is on one screen, with its times', async ({ page, program }) => {
  await page.goto(`${program.url}/panel/outputs`);
  const backup = page.getByRole('listitem', { name: 'E2 Stream, backup' });
  await expect(page.getByRole('listitem')).toHaveCount(4);
  await expect(backup).toContainText('no stream');
  await program.operate('operate', { verb: 'stream', on: true }, 'e2');
  await program.operate('operate', { verb: 'call', method: 'record', params: { on: true } }, 'p1');
  await expect(backup).toContainText(/LIVE 0:0[1-9]/);
  await expect(page.getByRole('listitem', { name: 'P1 Composer, launch' })).toContainText(/REC 0:0[1-9]/);
  expect((await new AxeBuilder({ page }).analyze()).violations).toEqual([]);
  await program.operate('power', { on: false }, 'p1');
  await expect(page.getByRole('listitem', { name: 'P1 Composer, launch' })).toContainText('not known');
});
