import { expect, Program, runs, test } from './program';
import { paced } from '../test/support/pace';

test('killing Next.js during 200 presses loses none of them, and a panel reloaded meanwhile comes up', async ({
  page,
  ownProgram: program,
  newScreen,
}) => {
  await page.goto(`${program.url}/panel/page-race`);
  const preview = (n: number) => page.locator(`[data-control="ctl-preview-${n}"]`);
  await expect(preview(2)).toHaveAttribute('data-lamp', 'next');
  const frames: string[] = [];
  page.on('websocket', (socket) => socket.on('framereceived', ({ payload }) => frames.push(String(payload))));
  // From now on every outcome is counted; the connection is opened anew for that.
  await page.reload();
  await expect(preview(2)).toHaveAttribute('data-lamp', 'next');

  const next = await program.pidOf('next');
  for (let n = 0; n < 200; n += 1) {
    if (n === 40) process.kill(next, 'SIGKILL');
    await preview((n % 6) + 1).dispatchEvent('pointerdown', { button: 0, pointerId: 1 });
    if (n === 80) {
      const other = await newScreen();
      await other.goto(`${program.url}/panel/page-race`);
      await expect(other.locator('[data-control="ctl-program-1"]')).toHaveAttribute('data-lamp', 'onAir');
      await other.close();
    }
  }
  // By press: one whose outcome was not heard before a connection was opened anew is told again.
  const outcomes = () => [
    ...new Map(
      frames.flatMap((text) => {
        const found = /"t":"press".*?"id":"([^"]+)".*?"outcome":"(confirmed|late|refused|lost|sent|skipped)"/.exec(
          text,
        );
        return found ? [[found[1], found[2]] as const] : [];
      }),
    ).values(),
  ];
  await expect.poll(() => outcomes().length).toBe(200);
  // On a busy computer the switcher's report may come late; the press was made all the same.
  expect(outcomes().filter((outcome) => outcome !== 'confirmed' && outcome !== 'late')).toEqual([]);
  await expect
    .poll(async () => (await program.health()).processes.find(({ name }) => name === 'next')?.state, {
      timeout: paced(20_000),
    })
    .toBe('running');
  expect(await program.pidOf('next')).not.toBe(next);
});

test('a panel that is loaded while Next.js is dead comes up', async ({ page, ownProgram: program }) => {
  // Killed again and again, so that it cannot come back while the panel loads.
  const killer = setInterval(
    () =>
      void program.pidOf('next').then(
        (pid) => {
          try {
            process.kill(pid, 'SIGKILL');
          } catch {
            // It died between the question and the signal.
          }
        },
        () => undefined,
      ),
    50,
  );
  try {
    await new Promise((resolve) => setTimeout(resolve, 300));
    await page.goto(`${program.url}/panel/page-race`);
    await expect(page.locator('[data-control="ctl-program-1"]')).toHaveAttribute('data-lamp', 'onAir');
    await page.locator('[data-control="ctl-program-4"]').click();
    await expect(page.locator('[data-control="ctl-program-4"]')).toHaveAttribute('data-lamp', 'onAir');
    const desk = await fetch(`${program.url}/rig`);
    expect(desk.status).toBe(503);
    expect(await desk.text()).toContain('Panels go on working');
  } finally {
    clearInterval(killer);
  }
});

test('killing the engine gives true panels again on its return', async ({ page, ownProgram: program }) => {
  await page.goto(`${program.url}/panel/page-race`);
  await expect(page.locator('[data-control="ctl-program-1"]')).toHaveAttribute('data-lamp', 'onAir');
  const engine = await program.pidOf('engine');
  process.kill(engine, 'SIGKILL');
  await expect(page.getByRole('alert').filter({ hasText: 'Cut off' })).toBeVisible();
  // While the panel is cut off it is barred.
  await program.operate('operate', { verb: 'take', input: 6 });
  await expect.poll(() => program.pidOf('engine').catch(() => engine)).not.toBe(engine);
  await expect(page.locator('[data-control="ctl-program-6"]')).toHaveAttribute('data-lamp', 'onAir');
  await page.locator('[data-control="ctl-program-2"]').click();
  await expect(page.locator('[data-control="ctl-program-2"]')).toHaveAttribute('data-lamp', 'onAir');
});

test('it stops without leaving a process behind, even when it is killed', async ({ ownProgram: program }) => {
  const pids = async (from: Program) => (await from.health()).processes.map(({ pid }) => pid ?? 0);
  const first = await pids(program);
  await program.stop();
  await expect.poll(() => first.filter(runs), { timeout: paced(10_000) }).toEqual([]);
  const again = await Program.start(program.dataDir);
  const second = await pids(again);
  await again.stop('SIGKILL');
  await expect.poll(() => second.filter(runs), { timeout: paced(10_000) }).toEqual([]);
});

test('an engine that hangs is ended within three seconds, and nothing stays behind when its parent is killed meanwhile', async ({
  page,
  ownProgram: program,
}) => {
  await page.goto(`${program.url}/panel/page-race`);
  await expect(page.locator('[data-control="ctl-program-1"]')).toHaveAttribute('data-lamp', 'onAir');
  const pid = await program.pidOf('engine');
  process.kill(pid, 'SIGSTOP');
  await expect.poll(() => runs(pid), { timeout: 4000, intervals: [100] }).toBe(false);
  // A press ends as lost until the panel is connected to the next engine.
  await expect
    .poll(async () => {
      await page.locator('[data-control="ctl-program-2"]').click();
      return (await program.switcher()).program;
    })
    .toBe(2);
  const pids = (await program.health()).processes.map((each) => each.pid ?? 0);
  process.kill(await program.pidOf('engine'), 'SIGSTOP');
  await program.stop('SIGKILL');
  await expect.poll(() => pids.filter(runs), { timeout: paced(12_000) }).toEqual([]);
});

test('two copies run beside each other', async ({ page, ownProgram: program }) => {
  const other = await Program.start();
  try {
    await page.goto(`${other.url}/panel/page-race`);
    const drone = page.locator('[data-control="ctl-program-5"]');
    // Its switcher is there.
    await expect(drone).toHaveAttribute('data-lamp', 'off');
    await drone.click();
    await expect(drone).toHaveAttribute('data-lamp', 'onAir');
    expect([(await program.switcher()).program, (await other.switcher()).program]).toEqual([1, 5]);
  } finally {
    await other.stop();
  }
});
