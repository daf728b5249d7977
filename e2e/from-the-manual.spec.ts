import { spawn, spawnSync, type ChildProcess } from 'node:child_process';
import type { Locator, Page } from '@playwright/test';
import { choose, pick, stored } from './hand';
import { webSocket } from '../test/support/websocket-end';
import { expect, test } from './program';

/** Devices that nobody here has seen, set up from the page of their manual that stands above each, without a driver document. */

const python = '/usr/bin/python3';
// On the machine that decides, nothing of this is passed over.
test.skip(!process.env.CI && spawnSync(python, ['--version']).error !== undefined, 'needs Python');

/** Starts a device, which prints its port and then what it is told. */
async function device(
  program: string,
): Promise<{ readonly port: number; readonly told: string[]; readonly end: () => void }> {
  const child: ChildProcess = spawn(python, ['-u', '-c', program], { stdio: ['ignore', 'pipe', 'inherit'] });
  const told: string[] = [];
  // A line may come in several pieces.
  let rest = '';
  const port = await new Promise<number>((resolve) =>
    child.stdout?.on('data', (chunk) => {
      const lines = (rest + String(chunk)).split('\n');
      rest = lines.pop() ?? '';
      for (const line of lines) told.push(line);
      if (told[0] !== undefined) resolve(Number(told[0]));
    }),
  );
  return { port, told, end: () => child.kill() };
}

async function newDevice(
  page: Page,
  url: string,
  words: string,
  title: string,
  name: string,
  port: number,
): Promise<Locator> {
  await page.goto(`${url}/rig`);
  await page.getByRole('button', { name: 'Add device' }).click();
  const form = page.getByRole('form', { name: 'New device' });
  await pick(form.getByRole('combobox', { name: 'Driver' }), words, title);
  await form.getByLabel('Name', { exact: true }).fill(name);
  await form.getByLabel('Address', { exact: true }).fill(`127.0.0.1:${port}`);
  return form;
}

/** Sends a command on the tab Try, with values by their labels. */
async function tryCommand(
  details: Locator,
  command: string,
  values: Readonly<Record<string, string>> = {},
): Promise<void> {
  await details.getByRole('tab', { name: 'Try', exact: true }).click();
  await pick(details.getByRole('combobox', { name: 'Command' }), command.toLowerCase(), command);
  for (const [label, value] of Object.entries(values)) await details.getByLabel(label, { exact: true }).fill(value);
  await details.getByRole('button', { name: 'Send', exact: true }).click();
}

/** Of a busy computer no quick answer is expected. */
async function within(dialog: Locator, ms: number): Promise<void> {
  const field = dialog.getByLabel('Within');
  await field.fill(String(ms));
  await field.blur();
}

const server = (body: string) => `
import json, urllib.parse
from http.server import BaseHTTPRequestHandler, HTTPServer
state = {'lamp': {'level': 10, 'on': False}, 'name': 'Quay'}
class Device(BaseHTTPRequestHandler):
    protocol_version = 'HTTP/1.1'
    def log_message(self, *_): pass
    def say(self, status, text, kind='application/json'):
        self.send_response(status)
        self.send_header('content-type', kind)
        self.send_header('content-length', str(len(text)))
        self.end_headers()
        self.wfile.write(text.encode())
${body}
server = HTTPServer(('127.0.0.1', 0), Device)
print(server.server_port, flush=True)
server.serve_forever()
`;

/**
 * ```
 *  Every request needs "Authorization: Bearer" and the token of the device.
 *  GET  /api/v2/state             {"lamp": {"level": 10, "on": false}, "name": "Quay"}
 *  POST /api/v2/lamp/level        {"value": an even number, 0 to 100}; 422 with {"error": "…"} for another one
 * ```
 */
const lamp = server(`
    def do_GET(self):
        if self.headers.get('authorization') != 'Bearer low tide': return self.say(401, '{"error": "no token"}')
        if self.path != '/api/v2/state': return self.say(404, '{"error": "no such path"}')
        self.say(200, json.dumps(state))
    def do_POST(self):
        body = json.loads(self.rfile.read(int(self.headers['content-length'])))
        if self.headers.get('authorization') != 'Bearer low tide': return self.say(401, '{"error": "no token"}')
        if self.path != '/api/v2/lamp/level': return self.say(404, '{"error": "no such path"}')
        if body['value'] % 2: return self.say(422, '{"error": "only even levels"}')
        state['lamp']['level'] = body['value']
        print('level', body['value'], flush=True)
        self.say(200, '{}')
`);

test('a lamp with nested paths, a token and its state in JSON', async ({ page, ownProgram: program }) => {
  const { port, told, end } = await device(lamp);
  try {
    const form = await newDevice(
      page,
      program.url,
      'any http requests',
      'Any device: HTTP requests',
      'Quay lamp',
      port,
    );
    await form.getByLabel('Base path').fill('/api/v2');
    await choose(form.getByRole('combobox', { name: 'Sign-in' }), 'bearer token');
    await form.getByLabel(/^(Token|Password)/).fill('low tide');
    await choose(form.getByRole('combobox', { name: 'Answers are' }), 'JSON');
    await choose(form.getByRole('combobox', { name: 'Ask for the state regularly' }), 'yes');
    await form.getByLabel('Path of the state').fill('/state');
    await choose(form.getByRole('combobox', { name: 'Role' }), 'lights');
    await form.getByRole('button', { name: 'Add device' }).click();
    const details = page.getByRole('article', { name: 'Quay lamp' });
    await expect(details.locator('.device-link')).toContainText('up');

    await details.getByRole('tab', { name: 'Commands', exact: true }).click();
    const dialog = page.getByRole('dialog');
    await details.getByRole('button', { name: 'Add reading' }).click();
    await dialog.getByLabel('Name').fill('Level');
    await dialog.getByLabel('JSON Pointer').fill('/lamp/level');
    await choose(dialog.getByRole('combobox', { name: 'Type' }), 'whole number');
    await dialog.getByRole('button', { name: 'Add reading' }).click();
    await expect(dialog).toBeHidden();
    await stored(page);
    await details.getByRole('button', { name: 'Add command' }).click();
    await dialog.getByLabel('Name', { exact: true }).fill('Set level');
    await choose(dialog.getByRole('combobox', { name: 'Method' }), 'POST');
    await dialog.getByLabel('Path').fill('/lamp/level');
    await dialog.getByRole('radio', { name: 'JSON' }).click();
    await dialog.getByRole('textbox', { name: 'Body' }).fill('{"value": "{level}"}');
    await dialog.getByRole('button', { name: 'Add value' }).click();
    const value = dialog.getByRole('region', { name: 'Values' });
    await value.getByLabel('Name in the message').fill('level');
    await value.getByLabel('Label').fill('Level');
    await choose(value.getByRole('combobox', { name: 'Type' }), 'whole number');
    await choose(dialog.getByRole('combobox', { name: 'Confirmed when' }), 'a reading has a value');
    await within(dialog, 10_000);
    await dialog.getByRole('button', { name: 'Add command' }).click();
    await expect(dialog).toBeHidden();
    await stored(page);

    await tryCommand(details, 'Set level', { Level: '64' });
    await expect(details.getByText('confirmed').first()).toBeVisible();
    expect(told).toContain('level 64');
    await tryCommand(details, 'Set level', { Level: '33' });
    await expect(details.getByText('only even levels').first()).toBeVisible();
  } finally {
    end();
  }
});

/**
 * ```
 *  GET /get              mode=live&level=10
 *  GET /set?level=64     answered by status=ok, or by status=error&reason=…
 * ```
 */
const pairs = server(`
    def do_GET(self):
        path, _, query = self.path.partition('?')
        asked = dict(urllib.parse.parse_qsl(query))
        kind = 'application/x-www-form-urlencoded'
        if path == '/get': return self.say(200, 'mode=live&level=%d' % state['lamp']['level'], kind)
        if path != '/set' or 'level' not in asked: return self.say(200, 'status=error&reason=unknown', kind)
        state['lamp']['level'] = int(asked['level'])
        print('level', asked['level'], flush=True)
        self.say(200, 'status=ok', kind)
`);

test('a device of key and value pairs', async ({ page, ownProgram: program }) => {
  const { port, told, end } = await device(pairs);
  try {
    const form = await newDevice(page, program.url, 'any http requests', 'Any device: HTTP requests', 'Box', port);
    await choose(form.getByRole('combobox', { name: 'Answers are' }), 'key and value pairs');
    await choose(form.getByRole('combobox', { name: 'Ask for the state regularly' }), 'yes');
    await form.getByLabel('Path of the state').fill('/get');
    await form.getByRole('button', { name: 'Add device' }).click();
    const details = page.getByRole('article', { name: 'Box' });
    await expect(details.locator('.device-link')).toContainText('up');

    await details.getByRole('tab', { name: 'Commands', exact: true }).click();
    const dialog = page.getByRole('dialog');
    await details.getByRole('button', { name: 'Add reading' }).click();
    await dialog.getByLabel('Name').fill('Level');
    await dialog.getByLabel('Comes after').fill('level=');
    await choose(dialog.getByRole('combobox', { name: 'Type' }), 'whole number');
    await dialog.getByRole('button', { name: 'Add reading' }).click();
    await expect(dialog).toBeHidden();
    await stored(page);
    await details.getByRole('button', { name: 'Add command' }).click();
    await dialog.getByLabel('Name', { exact: true }).fill('Level');
    await dialog.getByLabel('Path').fill('/set?level={level}');
    await dialog.getByRole('button', { name: 'Add value' }).click();
    const value = dialog.getByRole('region', { name: 'Values' });
    await value.getByLabel('Name in the message').fill('level');
    await value.getByLabel('Label').fill('Level');
    await choose(value.getByRole('combobox', { name: 'Type' }), 'whole number');
    await choose(dialog.getByRole('combobox', { name: 'Confirmed when' }), 'a reading has a value');
    await within(dialog, 10_000);
    await dialog.getByRole('button', { name: 'Add command' }).click();
    await expect(dialog).toBeHidden();
    await stored(page);
    await tryCommand(details, 'Level', { Level: '64' });
    await expect(details.getByText('confirmed').first()).toBeVisible();
    expect(told).toContain('level 64');
  } finally {
    end();
  }
});

/**
 * ```
 *  {"ask": "status"}      answered by {"mixer": {"gain": 5}}
 *  {"gain": 0 to 100}     answered by {"mixer": {"gain": …}}
 * ```
 */
test('a WebSocket device with JSON', async ({ page, ownProgram: program }) => {
  const { port, told, end } = await device(webSocket);
  try {
    const form = await newDevice(page, program.url, 'any websocket', 'Any device: WebSocket', 'Mixer', port);
    await choose(form.getByRole('combobox', { name: 'Ask something regularly' }), 'yes');
    await form.getByLabel('The question').fill('{"ask": "status"}');
    await form.getByRole('button', { name: 'Add device' }).click();
    const details = page.getByRole('article', { name: 'Mixer' });
    await expect(details.locator('.device-link')).toContainText('up');

    await details.getByRole('tab', { name: 'Commands', exact: true }).click();
    const dialog = page.getByRole('dialog');
    await details.getByRole('button', { name: 'Add reading' }).click();
    await dialog.getByLabel('Name').fill('Gain');
    await dialog.getByLabel('JSON Pointer').fill('/mixer/gain');
    await choose(dialog.getByRole('combobox', { name: 'Type' }), 'whole number');
    await dialog.getByRole('button', { name: 'Add reading' }).click();
    await expect(dialog).toBeHidden();
    await stored(page);
    await details.getByRole('button', { name: 'Add command' }).click();
    await dialog.getByLabel('Name', { exact: true }).fill('Set gain');
    await dialog.getByRole('textbox', { name: 'JSON' }).fill('{"gain": "{gain}"}');
    await dialog.getByRole('button', { name: 'Add value' }).click();
    const value = dialog.getByRole('region', { name: 'Values' });
    await value.getByLabel('Name in the message').fill('gain');
    await value.getByLabel('Label').fill('Gain');
    await choose(value.getByRole('combobox', { name: 'Type' }), 'whole number');
    await choose(dialog.getByRole('combobox', { name: 'Confirmed when' }), 'a reading has a value');
    await within(dialog, 10_000);
    await dialog.getByRole('button', { name: 'Add command' }).click();
    await expect(dialog).toBeHidden();
    await stored(page);
    await tryCommand(details, 'Set gain', { Gain: '64' });
    await expect(details.getByText('confirmed').first()).toBeVisible();
    expect(told).toContain('got {"gain": 64}');
  } finally {
    end();
  }
});
