import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { gunzipSync } from 'node:zlib';
import Database from 'better-sqlite3';
import { allUp } from './hand';
import { expect, test } from './program';
import { paced } from '../test/support/pace';

test('a part of the as-run is played again at stand-ins, and the devices are not touched', async ({
  page,
  program,
}) => {
  test.slow();
  await page.goto(`${program.url}/pages/page-race`);
  await allUp(page);
  for (const name of [/^Mid-course/, /^Finish/]) {
    await page.getByRole('region', { name: 'Set up on preview' }).getByRole('button', { name }).click();
    await expect(page.getByRole('link', { name: /^As-run/ })).toContainText('last confirmed');
  }
  const preview = async () =>
    ((await (await fetch(`${program.standinUrl}/sw1/state`)).json()) as { preview: number }).preview;
  const before = await preview();
  await page.getByRole('link', { name: /^As-run/ }).click();
  await page.getByRole('link', { name: 'Replay …' }).click();
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await expect(page.getByText(/^2 of 2 presses: no differences/)).toBeVisible({ timeout: paced(60_000) });
  const presses = page.getByRole('region', { name: 'Presses' });
  await expect(presses.getByRole('row')).toHaveCount(3);
  await expect(presses).toContainText('Race · Mid-course');
  expect(await preview()).toBe(before);
});

interface RecordedRow {
  readonly at: number;
  readonly class: string;
  readonly row: { readonly kind: string; readonly past?: { readonly at: number } };
}

/**
 * Puts a recorded hour of the demo into the record of a program, as if it had begun then: 888 presses of controls at random, one every four
 * seconds. Made with the program as it was on 2 December 2026.
 */
function recordHour(dataDir: string, beganAt: number): void {
  const lines = gunzipSync(readFileSync('e2e/recordings/demo-hour.jsonl.gz')).toString().split('\n');
  const rows = lines.map((line) => JSON.parse(line) as RecordedRow);
  const by = beganAt - (rows[0]?.at ?? 0);
  const db = new Database(join(dataDir, 'as-run.db'), { fileMustExist: true, timeout: 5000 });
  const insert = db.prepare('INSERT INTO as_run (n, at, kind, row, class) VALUES (?, ?, ?, ?, ?)');
  db.transaction(() => {
    rows.forEach(({ at, class: of, row }, n) => {
      // Before what this program has recorded itself.
      const number = n - rows.length;
      const past = row.past ? { past: { ...row.past, at: row.past.at + by } } : {};
      const moved = { ...row, ...past, n: number, at: at + by };
      insert.run(number, at + by, row.kind, JSON.stringify(moved), of);
    });
  })();
  db.close();
}

test('a part of a recorded hour of the demo is played again, and the show does what it did', async ({
  page,
  program,
}) => {
  test.slow();
  const minute = 60_000;
  // The screen offers the last ten minutes: in the first four of these the hour ends.
  recordHour(program.dataDir, Date.now() - 68 * minute);
  await page.goto(`${program.url}/as-run/replay`);
  await allUp(page);
  await page.getByRole('combobox', { name: 'Speed' }).click();
  await page.getByRole('option', { name: 'without pauses' }).click();
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  const summary = page.getByRole('status').filter({ hasText: /\d+ of \d+ presses/ });
  await expect(summary).toBeVisible({ timeout: paced(60_000) });
  await expect(page.getByRole('button', { name: 'Play', exact: true })).toBeVisible({ timeout: paced(200_000) });
  const [, played = 0, of = 0, differ = 0] =
    /(\d+) of (\d+) presses: (?:no|(\d+)) differ/
      .exec((await summary.textContent()) ?? '')
      ?.map((each) => Number(each ?? 0)) ?? [];
  expect(of).toBeGreaterThan(40);
  expect(played).toBe(of);
  // A busy computer answers late now and then; what the show does otherwise would be seen at far more presses.
  expect(differ / of).toBeLessThanOrEqual(0.1);
});

test('a page shows beside each control how far it is proved, and presses nothing meanwhile', async ({
  page,
  program,
}) => {
  test.slow();
  await page.goto(`${program.url}/pages/page-race`);
  await allUp(page);
  const sent = async () => (await (await fetch(`${program.standinUrl}/sw1/state`)).json()) as { preview: number };
  const { preview } = await sent();
  await page.locator('[aria-label="Press, check or edit"]').getByText('Check').click();
  const control = page.getByRole('button', { name: /^Proofs of Finish/ }).last();
  await expect(control).toHaveAccessibleName(/not proved$/, { timeout: paced(60_000) });
  await control.click();
  const proofs = page.getByRole('complementary', { name: 'Proofs of the control' });
  await expect(proofs).toContainText('Set 3 up on preview');
  await proofs.getByRole('button', { name: 'Check this control' }).click();
  await expect(control).toHaveAccessibleName(/: proved$/, { timeout: paced(60_000) });
  expect((await sent()).preview).toBe(preview);
});
