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
  await page.getByRole('radio', { name: 'Whole record' }).click();
  await choose(page.getByRole('combobox', { name: /^Show/ }), 'presses');
  await choose(page.getByRole('combobox', { name: /^Device/ }), 'SW1');
  await expect(page.getByRole('status').filter({ hasText: 'searched' })).toContainText(/4 found/);
  await choose(page.getByRole('combobox', { name: /^Outcome/ }), 'lost');
  await expect(table.getByRole('row')).toHaveCount(2);
  await expect(table).toContainText('Race · Cut');
  await choose(page.getByRole('combobox', { name: /^Outcome/ }), 'any');
  await page.getByRole('textbox', { name: 'Control' }).fill('mid-course');
  await expect(table.getByRole('row')).toHaveCount(2);
  await table.getByRole('button', { name: 'Race · Mid-course' }).click();
  const behind = page.getByRole('complementary', { name: 'Details of the row' });
  await expect(behind).toContainText('TAKE 2\\r\\n');
  await expect(behind).toContainText('54 41 4b 45 20 32 0d 0a');
  // From the press to what the device reported, with what was sent in words.
  const account = behind.getByRole('list', { name: 'From the press to the lamp' });
  await expect(account.getByRole('listitem').first()).toContainText('Received from desk');
  await expect(account).toContainText('Take Mid-course to program');
  await expect(account).toContainText('Program input 2');
  await expect(account.getByRole('listitem').last()).toContainText('Confirmed');
  await page.getByRole('textbox', { name: 'Control' }).fill('cut');
  await table.getByRole('button', { name: 'Race · Cut' }).click();
  await expect(account.getByRole('listitem').last()).toContainText('Lost');
  await expect(behind).toContainText('What to try: Test the connection on the Rig.');
  await page.getByRole('textbox', { name: 'Control' }).fill('mid-course');
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

test('a press is one step away from its bytes on the wire, and they say what they mean', async ({ page, program }) => {
  await expect.poll(async () => (await program.health()).ok).toBe(true);
  await page.goto(`${program.url}/wire`);
  const table = page.getByRole('table', { name: 'Bytes to and from the devices' });
  await page.getByRole('textbox', { name: 'Filter' }).fill('SW1');
  await fetch(`${program.url}/api/press`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ page: 'page-race', control: 'ctl-program-2' }),
  });
  const row = (text: string) => table.getByRole('row').filter({ hasText: text }).last();
  await expect(row('TAKE 2')).toContainText('Take Mid-course to program');
  await expect(row('NOW program 2')).toContainText('Program input 2');
  await row('TAKE 2').getByRole('button').click();
  const details = page.getByRole('complementary', { name: 'Details of the row' });
  await expect(details.getByRole('region', { name: 'The press it belongs to' })).toContainText(
    'Tapped: Race · Mid-course',
  );
  await expect(table.getByRole('columnheader', { name: 'Meaning' })).toBeInViewport();
  expect((await new AxeBuilder({ page }).analyze()).violations).toEqual([]);
});
