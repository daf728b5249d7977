import { createServer } from 'node:net';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import AxeBuilder from '@axe-core/playwright';
import { writePcapng } from '../src/core/capture';
import { choose } from './hand';
import { expect, test } from './program';

/**
 * A dimmer that nobody has described: 7E, the length of what follows, what it is, values, and the sum of all that. `21 channel level` sets, `41`
 * reports that, `42` and a text tells what a lamp is called.
 */
const frame = (kind: number, ...values: readonly number[]): number[] => {
  const body = [0x7e, values.length + 2, kind, ...values];
  return [...body, body.reduce((all, byte) => all + byte, 0) & 0xff];
};
const names = ['Kitchen', 'Hall', 'Mast', 'Bow', 'Stern', 'Steps', 'Deck'];
const named = (n: number) => frame(0x42, ...new TextEncoder().encode(names[n] ?? 'Lamp'));
const hex = (bytes: readonly number[]) => Buffer.from(bytes).toString('hex');

/** Sixty frames that another program exchanged with it. */
function capture(): Uint8Array {
  const device = { id: 'dimmer', transport: 'tcp', host: '10.0.0.9', port: 9100 } as const;
  const messages = Array.from({ length: 60 }, (_, n) => {
    const [channel, level] = [((n >> 1) % 6) + 1, ((n >> 1) * 37) % 256] as const;
    const bytes = n % 9 === 8 ? named((n - 8) / 9) : frame(n % 2 === 0 ? 0x21 : 0x41, channel, level);
    return { at: 1_700_000_000_000 + n * 40, toDevice: bytes[2] === 0x21, hex: hex(bytes), comment: '', device };
  });
  return writePcapng(messages);
}

async function startDimmer() {
  const heard: string[] = [];
  const server = createServer((socket) => {
    socket.on('error', () => undefined);
    socket.write(Buffer.from(frame(0x41, 2, 77)));
    socket.on('data', (chunk) => {
      heard.push(chunk.toString('hex'));
      socket.write(Buffer.from(frame(0x41, ...chunk.subarray(3, 5))));
    });
  });
  await new Promise<void>((resolve) => void server.listen(0, '127.0.0.1', resolve));
  return { heard, port: (server.address() as { port: number }).port, stop: () => server.close() };
}

test('a driver is made from a capture alone, tried at the device, and installed', async ({ page, program }) => {
  const folder = mkdtempSync(join(tmpdir(), 'sorrelfinch-bench-'));
  const dimmer = await startDimmer();
  try {
    const file = join(folder, 'dimmer.pcapng');
    writeFileSync(file, capture());
    await page.goto(`${program.url}/drivers`);
    await page.getByRole('button', { name: 'Install a driver' }).click();
    const bench = page.getByRole('region', { name: 'Bench' });
    await bench.getByRole('radio', { name: 'Packet capture' }).click();
    await bench.getByLabel(/^A packet capture/).setInputFiles(file);
    await bench.getByRole('button', { name: 'Take this conversation' }).click();
    await expect(bench).toContainText('60 frames from dimmer.pcapng');
    await expect(bench.getByRole('region', { name: 'Framing' })).toContainText(
      'begin with 7E and have their length in one byte, after 1 byte; checksum sum8',
    );
    await bench.getByRole('button', { name: 'Start a document' }).first().click();
    const text = page.getByRole('form', { name: 'Install a driver' }).getByRole('textbox');
    await expect(text).toContainText('"my-device"');

    // Levels: one report is marked, the others of its kind are found.
    const rows = bench.getByRole('list', { name: 'Frames' }).getByRole('listitem');
    await rows.filter({ hasText: '7E 04 41' }).first().getByRole('checkbox').check();
    await bench.getByRole('button', { name: /^Mark \d+ more of the same kind/ }).click();
    const learn = bench.getByRole('region', { name: 'Learn a reading' });
    await learn.getByLabel('What it reports').fill('Level');
    const family = learn.getByRole('listitem').filter({ hasText: 'Level of each number' });
    await family.getByRole('button', { name: 'Add this reading' }).click();
    await expect(rows.filter({ hasText: '7E 04 41 02 25' }).first()).toContainText('Level 2 37');

    await rows.filter({ hasText: '42 4B 69' }).getByRole('checkbox').check();
    await bench.getByRole('button', { name: /^Mark \d+ more of the same kind/ }).click();
    await learn.getByLabel('What it reports').fill('Lamp');
    await learn.getByRole('button', { name: 'Add this reading' }).first().click();

    await rows.filter({ hasText: '7E 04 21' }).first().getByRole('checkbox').check();
    await bench.getByRole('button', { name: /^Mark \d+ more of the same kind/ }).click();
    const command = bench.getByRole('region', { name: 'Learn a command' });
    await expect(command).toContainText('7E 04 21 {value:u8} {value2:u8} {check sum8}');
    await command.getByLabel('What it does').fill('Set level');
    await command.getByRole('button', { name: 'Add this command' }).click();

    await expect(rows.filter({ hasText: '7E 04 21 02 25' }).first()).toContainText('Set level 2 37');

    await bench.getByRole('tab', { name: /^Samples/ }).click();
    await expect(bench.getByRole('status')).toContainText(/^(\d+) of \1 pass$/);
    expect((await new AxeBuilder({ page }).analyze()).violations).toEqual([]);

    // At the device: what would go out is seen before, what came back afterwards.
    await bench.getByRole('tab', { name: 'Device' }).click();
    const form = bench.getByRole('form', { name: 'Try the document' });
    await choose(form.getByRole('combobox', { name: 'Device' }), 'another address');
    await form.getByLabel('Address').fill('127.0.0.1');
    await form.getByLabel('Port').fill(String(dimmer.port));
    await choose(form.getByRole('combobox', { name: 'Send' }), 'Set level');
    await form.getByLabel('Value').first().fill('4');
    await form.getByLabel('Value').last().fill('200');
    await expect(form).toContainText('7E 04 21 04 C8 6F');
    await form.getByRole('button', { name: 'Connect and send' }).click();
    const result = bench.getByRole('region', { name: 'What happened' });
    await expect(result).toContainText('Level 4');
    expect(dimmer.heard).toEqual(['7e042104c86f']);
    await expect(result).toContainText('200');

    await page.getByRole('button', { name: 'Check and install' }).click();
    await expect(page.getByRole('row').filter({ hasText: 'my-device' })).toBeVisible();
  } finally {
    dimmer.stop();
    rmSync(folder, { recursive: true, force: true });
  }
});

test('what is pasted is refused with its place, and a sample that fails says what differs', async ({
  page,
  program,
}) => {
  await page.goto(`${program.url}/drivers`);
  await page.getByRole('button', { name: 'Open Playout and replay deck (stand-in)' }).click();
  const bench = page.getByRole('region', { name: 'Bench' });
  const pasted = bench.getByRole('textbox', { name: /^One message a line/ });
  await pasted.fill('OK\nCLIP \\q');
  await bench.getByRole('button', { name: 'Take these messages' }).click();
  await expect(bench.getByRole('alert')).toContainText('Line 2, character 6');
  await expect(pasted).toHaveValue('OK\nCLIP \\q');
  await pasted.fill('nonsense that no reply fits');
  await bench.getByRole('button', { name: 'Take these messages' }).click();
  await expect(bench).toContainText('1 frame from what was pasted');

  await bench.getByRole('tab', { name: /^Samples/ }).click();
  await expect(bench.getByRole('status')).toContainText('pass');
  const samples = bench.getByRole('list', { name: 'Samples' }).getByRole('listitem');
  const before = await samples.count();
  await bench.getByRole('button', { name: 'Remove sample 1', exact: true }).click();
  await expect(samples).toHaveCount(before - 1);
});
