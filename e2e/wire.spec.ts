import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import AxeBuilder from '@axe-core/playwright';
import { choose } from './hand';
import { expect, test } from './program';

test('the wire is saved as a capture and as JSON lines, and the capture is looked at again', async ({
  page,
  program,
}) => {
  const folder = mkdtempSync(join(tmpdir(), 'sorrelfinch-wire-'));
  const save = async (item: string): Promise<string> => {
    await page.getByRole('button', { name: 'Save', exact: true }).click();
    const saved = page.waitForEvent('download');
    await page.getByRole('menuitem', { name: item }).click();
    const file = join(folder, (await saved).suggestedFilename());
    await (await saved).saveAs(file);
    return file;
  };
  try {
    await page.goto(`${program.url}/wire`);
    const table = page.getByRole('table', { name: 'Bytes to and from the devices' });
    const row = (text: string) => table.getByRole('row').filter({ hasText: text }).last();
    await page.getByRole('textbox', { name: 'Filter' }).fill('SW1');
    await fetch(`${program.url}/api/press`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ page: 'page-race', control: 'ctl-program-2' }),
    });
    await expect(row('NOW program 2')).toContainText('Program input 2');

    const lines = readFileSync(await save('Shown rows as JSON lines'), 'utf8')
      .trim()
      .split('\n');
    const sent = lines
      .map((line) => JSON.parse(line) as Record<string, string>)
      .find(({ text }) => text?.includes('TAKE 2'));
    expect(sent).toMatchObject({
      device: 'SW1',
      way: 'out',
      bytes: '54414b4520320d0a',
      meaning: 'Take Mid-course to program',
    });

    // All that the engine keeps is more than what is shown: what is polled is in it, and the words of presses.
    const kept = readFileSync(await save('All kept rows as JSON lines'), 'utf8')
      .trim()
      .split('\n')
      .map((line) => JSON.parse(line) as Record<string, string>);
    await expect(page.getByRole('status').filter({ hasText: 'rows saved' })).toBeVisible();
    expect(kept.length).toBeGreaterThan(lines.length);
    expect(kept.some(({ note }) => note === 'poll' || note === 'keep-alive')).toBe(true);
    expect(kept).toContainEqual(expect.objectContaining({ device: 'SW1', text: sent?.text, press: sent?.press }));
    const times = kept.map(({ at = '' }) => at);
    expect(times).toEqual(times.toSorted());

    // A message that came in becomes a sample of its driver.
    await page.context().grantPermissions(['clipboard-read', 'clipboard-write']);
    await row('NOW program 2').getByRole('button').click();
    await page.getByRole('button', { name: 'Copy as a sample' }).click();
    await expect(page.getByText('Sample copied')).toBeVisible();
    expect(JSON.parse(await page.evaluate(() => navigator.clipboard.readText()))).toEqual({
      heard: 'NOW program 2\\r\\n',
      gives: { program: 2 },
    });
    await page.getByRole('button', { name: 'Close the details' }).click();

    // What is wrong is said where the file was chosen; the right one is taken afterwards.
    const capture = await save('Shown rows as a capture (pcapng)');
    const wrong = join(folder, 'notes.pcap');
    writeFileSync(wrong, '{"notes": true}');
    await page.getByRole('textbox', { name: 'Filter' }).fill('');
    await page.getByRole('button', { name: 'Open a capture' }).click();
    const chooser = page.getByLabel(/^A packet capture/);
    await chooser.setInputFiles(wrong);
    await expect(page.getByRole('alert').filter({ hasText: 'notes.pcap' })).toContainText('it is JSON text');
    await chooser.setInputFiles(capture);

    await expect(page.getByRole('button', { name: 'Back to the live wire' })).toBeVisible();
    await choose(page.getByRole('combobox', { name: 'Conversation' }), /^SW1: /);
    await expect(row('TAKE 2')).toContainText('SW1');
    // What was sent is recognised by its bytes alone.
    await expect(row('TAKE 2')).toContainText('Take 2 to program');
    await expect(row('NOW program 2')).toContainText('Program input 2');
    expect((await new AxeBuilder({ page }).analyze()).violations).toEqual([]);
    await page.getByRole('button', { name: 'Back to the live wire' }).click();
    await expect(page.getByRole('button', { name: 'Pause' })).toBeEnabled();
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
});
