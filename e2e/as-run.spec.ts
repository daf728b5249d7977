import { readFileSync } from 'node:fs';
import AxeBuilder from '@axe-core/playwright';
import Papa from 'papaparse';
import { expect, test } from './program';
import { choose } from './hand';

test('the whole record is searched, opened to the byte, charted and saved', async ({ page, program }) => {
  const press = (control: string) =>
    fetch(`${program.url}/api/press`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ page: 'page-race', control }),
    });
  await expect.poll(async () => (await program.health()).ok).toBe(true);
  for (const input of [2, 3, 4]) await press(`ctl-program-${input}`);
  await program.operate('power', { on: false });
  await expect
    .poll(async () => (await program.health()).links.find(({ tag }) => tag === 'SW1')?.link.word)
    .toBe('down');
  await press('ctl-cut');

  await page.goto(`${program.url}/as-run`);
  const table = page.getByRole('table', { name: /pressed, sent/ });
  await page.getByRole('button', { name: 'whole record' }).click();
  await choose(page.getByRole('combobox', { name: /^Show/ }), 'presses');
  await choose(page.getByRole('combobox', { name: /^Device/ }), 'SW1');
  await expect(page.getByRole('status').filter({ hasText: 'looked through' })).toContainText(/4 found/);
  await choose(page.getByRole('combobox', { name: /^Outcome/ }), 'lost');
  await expect(table.getByRole('row')).toHaveCount(2);
  await expect(table).toContainText('Race · Cut');
  await choose(page.getByRole('combobox', { name: /^Outcome/ }), 'any');
  await page.getByRole('textbox', { name: 'Control' }).fill('mid-course');
  await expect(table.getByRole('row')).toHaveCount(2);
  await table.getByRole('button', { name: 'Race · Mid-course' }).click();
  const behind = page.getByRole('complementary', { name: 'Behind the row' });
  await expect(behind).toContainText('TAKE 2\\r\\n');
  await expect(behind).toContainText('54 41 4b 45 20 32 0d 0a');
  await page.getByRole('button', { name: 'Delays' }).click();
  await expect(page.getByRole('img', { name: 'Delays of 1 sends over time' })).toBeVisible();
  expect((await new AxeBuilder({ page }).analyze()).violations).toEqual([]);

  await page.getByRole('textbox', { name: 'Control' }).fill('');
  const save = async (name: string) => {
    const [file] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name }).click()]);
    return readFileSync(await file.path(), 'utf8');
  };
  const csv = Papa.parse<Record<string, string>>(await save('Save as CSV'), { header: true, skipEmptyLines: true });
  expect(csv.errors).toEqual([]);
  expect(csv.data.map(({ what, outcome, bytes }) => [what, outcome, bytes])).toEqual([
    ['Mid-course', 'confirmed', '54414b4520320d0a'],
    ['Finish', 'confirmed', '54414b4520330d0a'],
    ['Pontoon', 'confirmed', '54414b4520340d0a'],
    ['Cut', 'lost', ''],
  ]);
  const lines = (await save('as JSON lines')).trim().split('\n');
  expect(lines.map((line) => (JSON.parse(line) as { label: string }).label)).toEqual([
    'Mid-course',
    'Finish',
    'Pontoon',
    'Cut',
  ]);
});
