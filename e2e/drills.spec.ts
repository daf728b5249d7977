import { allUp, choose } from './hand';
import { expect, test } from './program';
import { paced } from '../test/support/pace';

test('a drill is written, run in a rehearsal, led from the desk, and is in the report', async ({
  page,
  ownProgram: program,
}) => {
  test.slow();
  await page.goto(`${program.url}/line-check/drills`);
  await allUp(page);
  await page.getByRole('button', { name: 'New drill' }).click();
  const drill = page.getByRole('listitem', { name: 'Drill 2' });
  await expect(drill.getByRole('button', { name: 'Run Drill 2' })).toBeDisabled();
  await drill.getByRole('button', { name: 'Add fault' }).click();
  const first = drill.getByRole('list', { name: 'Faults of Drill 2' }).getByRole('listitem').first();
  await first.getByRole('spinbutton', { name: 'After' }).fill('1');
  await first.getByRole('spinbutton', { name: 'After' }).press('Tab');
  await drill.getByRole('button', { name: 'Add fault' }).click();
  const second = drill.getByRole('list', { name: 'Faults of Drill 2' }).getByRole('listitem').nth(1);
  await second.getByRole('spinbutton', { name: 'After' }).fill('9');
  await second.getByRole('spinbutton', { name: 'After' }).press('Tab');
  await choose(second.getByRole('combobox', { name: 'Fault' }), 'Engine killed');

  await page
    .getByRole('button', { name: 'Rehearse' })
    .or(page.getByRole('radio', { name: 'Rehearse' }))
    .first()
    .click();
  const rehearse = page.getByRole('alertdialog').or(page.getByRole('dialog'));
  await rehearse.getByRole('button', { name: /rehears/i }).click();
  await expect(page.getByText('The devices are stand-ins now.')).toBeVisible({ timeout: paced(30_000) });
  await allUp(page);
  await drill.getByRole('button', { name: 'Run Drill 2' }).click();
  const run = page.getByRole('region', { name: 'Drill Drill 2' });
  await run.getByRole('textbox', { name: 'Your name' }).fill('Ines');
  await run.getByRole('textbox', { name: 'Your name' }).press('Tab');
  const fault = run.getByRole('row').filter({ hasText: 'Device off: A1 Audio mixer' });
  await expect(fault).toContainText('down', { timeout: paced(20_000) });
  await fault.getByRole('button', { name: 'Crew has seen fault 1' }).click();
  await expect(fault).toContainText('Ines');
  await fault.getByRole('button', { name: 'End fault 1' }).click();

  // The second fault is the end of the engine itself: the drill ends with its return.
  const past = page.getByRole('region', { name: 'Faults of Drill 2' });
  await expect(past.getByRole('row').filter({ hasText: 'Engine killed' })).toContainText('the screens were cut off', {
    timeout: paced(60_000),
  });
  await expect(past.getByRole('row').filter({ hasText: 'Device off' })).toContainText('Ines');

  await page.goto(`${program.url}/line-check/report`);
  await expect(page.getByRole('table', { name: 'Fault drills' })).toContainText('Device off: A1 Audio mixer');
});
