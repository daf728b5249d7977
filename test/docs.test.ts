import { spawn } from 'node:child_process';
import { readdirSync, readFileSync } from 'node:fs';
import { format } from 'prettier';
import { expect, it } from 'vitest';
import { checkNewDriver, compileDriver, driverJsonSchema } from '../src/core/driver';
import { inletDocument, inletOpenApi } from '../src/core/inlet';
import type { ShowRecord } from '../src/core/show';
import { shippedDrivers } from '../src/drivers';
import sluiceDriver from '../docs/worked-example/sluice-driver.json';
import { rolesPage } from '../scripts/roles-page';
import { onTestFinished, startRig, until } from './support/rig';

const drivers = readFileSync('docs/drivers.md', 'utf8');

it('the published schema is what the program checks with', async () => {
  const made = await format(JSON.stringify(driverJsonSchema()), { parser: 'json', printWidth: 120 });
  expect(readFileSync('docs/driver.schema.json', 'utf8')).toBe(made);
});

it('the published contracts of the roles are those of the program', async () => {
  const made = await format(rolesPage(), { parser: 'markdown', printWidth: 120 });
  expect(readFileSync('docs/roles.md', 'utf8')).toBe(made);
});

it('the published reference of inlets is what the program takes', async () => {
  const made = await format(inletDocument(), { parser: 'markdown', printWidth: 120 });
  expect(readFileSync('docs/inlets.md', 'utf8')).toBe(made);
  const described = await format(JSON.stringify(inletOpenApi()), { parser: 'json', printWidth: 120 });
  expect(readFileSync('docs/inlet.openapi.json', 'utf8')).toBe(described);
});

it('every field of the document stands in its reference', () => {
  const schema = driverJsonSchema() as { properties: Record<string, { properties?: Record<string, unknown> }> };
  const words = [...Object.keys(schema.properties), ...Object.keys(schema.properties['link']?.properties ?? {})];
  expect(words.filter((word) => !drivers.includes(`\`${word}\``))).toEqual([]);
});

it('every shipped driver has its page', () => {
  const manuals = readdirSync('docs/protocols').map((file) => file.replace('.md', ''));
  const ids = shippedDrivers.map((document) => String((document as { id: string }).id));
  const own = ids.filter((id) => !id.startsWith('generic-')).map((id) => id.replace(/-(bare|udp|serial|v31)$/, ''));
  expect(own.filter((id) => !manuals.includes(id))).toEqual([]);
  const anyDevice = readFileSync('docs/protocols/any-device.md', 'utf8');
  expect(ids.filter((id) => id.startsWith('generic-') && !anyDevice.includes(`\`${id}\``))).toEqual([]);
});

it('every shipped driver and the worked example say each command as a sentence, as a new document must', () => {
  for (const document of [...shippedDrivers, sluiceDriver]) {
    const checked = checkNewDriver(document);
    expect(checked.ok ? [] : checked.error).toEqual([]);
  }
});

it('a document from before commands had sentences still works, and is refused only when it is installed anew', () => {
  const { says: _says, ...goTo } = sluiceDriver.commands.goTo;
  const older = { ...sluiceDriver, commands: { ...sluiceDriver.commands, goTo } };
  expect(compileDriver(older).ok).toBe(true);
  const checked = checkNewDriver(older);
  expect(checked.ok ? [] : checked.error).toEqual([
    {
      path: 'commands.goTo.says',
      message:
        'Say what the command does in a short sentence: its parameters in braces, for example “Open to {opening}”.',
    },
  ]);
});

it.each([
  ['bytes', 'curtain'],
  ['http', 'mast'],
])('the steps of the worked example in %s.md are parts of its finished document', (page, driver) => {
  const squeezed = (text: string) => text.replace(/\s+/g, '');
  const finished = squeezed(readFileSync(`docs/worked-example/${driver}-driver.json`, 'utf8'));
  const text = readFileSync(`docs/worked-example/${page}.md`, 'utf8');
  const blocks = [...text.matchAll(/```json\n([\s\S]*?)```/g)].map(([, block = '']) => squeezed(block));
  expect(blocks.length).toBeGreaterThanOrEqual(4);
  expect(blocks.filter((block) => !finished.includes(block))).toEqual([]);
});

it('the steps of the worked example are parts of its finished document', () => {
  const squeezed = (text: string) => text.replace(/\s+/g, '');
  const finished = squeezed(JSON.stringify(sluiceDriver));
  const example = drivers.slice(0, drivers.indexOf('## Reference'));
  const blocks = [...example.matchAll(/```json\n([\s\S]*?)```/g)].map(([, block = '']) => block);
  expect(blocks.length).toBeGreaterThanOrEqual(5);
  for (const block of blocks) {
    const parsed = JSON.parse(`{${block}}`) as Record<string, unknown>;
    for (const [key, value] of Object.entries(parsed)) {
      const whole = { ...sluiceDriver, ...sluiceDriver.commands } as Record<string, unknown>;
      // The replies of the text are some of those of the document.
      if (key === 'replies')
        for (const reply of value as unknown[]) expect(finished).toContain(squeezed(JSON.stringify(reply)));
      else expect(whole[key], key).toEqual(value);
    }
  }
});

it('the worked example controls the device that it is about', async () => {
  expect(compileDriver(sluiceDriver)).toMatchObject({ ok: true });
  const gate = spawn(process.execPath, ['docs/worked-example/sluice.mjs', '0']);
  onTestFinished(() => void gate.kill());
  const port = await new Promise<number>((resolve) => {
    gate.stdout.on('data', (text) => resolve(Number(/port (\d+)/.exec(String(text))?.[1])));
  });
  const records: ShowRecord[] = [
    { kind: 'show', id: 'show', version: 1, data: { name: 'Gate', note: '' } },
    {
      kind: 'device',
      id: 'gate',
      version: 1,
      data: {
        tag: 'G2',
        name: 'Gate',
        role: 'gateway',
        driver: 'sluice-gate',
        host: '127.0.0.1',
        port,
        enabled: true,
        site: '',
        user: '',
        options: {},
      },
    },
  ];
  const { engine } = await startRig(records, [sluiceDriver]);
  await until(
    () => engine.api.health().links[0]?.link.word,
    (word) => word === 'up',
  );
  const send = (command: string, params: Record<string, string | number | boolean>, guard = true) =>
    new Promise<{ outcome: string; reason?: string }>((resolve) => {
      const device = engine.api.deviceByTag('G2');
      if (!device) throw new Error('no gate');
      const request = {
        id: `gate-${command}-${Math.random().toString(36).slice(2)}`,
        device,
        command,
        params,
        guard,
      } as const;
      engine.api.presses.command(
        { ...request, gesture: 'tap', who: 'test' },
        (report) => 'sends' in report && resolve(report),
      );
    });
  expect(await send('goTo', { opening: 50 })).toMatchObject({ outcome: 'confirmed' });
  expect(await send('lock', { on: true }, false)).toMatchObject({ outcome: 'skipped' });
  expect(await send('lock', { on: true })).toMatchObject({ outcome: 'confirmed' });
  expect(await send('goTo', { opening: 10 })).toMatchObject({ outcome: 'refused', reason: 'The gate is locked.' });
});
