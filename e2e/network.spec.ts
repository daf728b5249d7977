import { execFileSync, spawnSync } from 'node:child_process';
import { chmodSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { createHash, X509Certificate } from 'node:crypto';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium, type Browser, type Page } from '@playwright/test';
import { expect, Program, test as base } from './program';
import { allUp, choose } from './hand';
import { paced } from '../test/support/pace';

/**
 * The program at an address of a network, over TLS, as a screen on another computer sees it: both in network namespaces of their own,
 * with a cable between them. A desk is a browser beside the program.
 */
const [desk, space] = [`sf-desk-${process.pid}`, `sf-panel-${process.pid}`];
const [here, there] = ['10.73.0.1', '10.73.0.2'];
const accessKey = 'a-key-for-this-test-only';
const can = process.getuid?.() === 0 && spawnSync('ip', ['netns'], { stdio: 'ignore' }).status === 0;

const ip = (...args: string[]) => execFileSync('ip', args, { stdio: 'pipe' });

interface Away {
  readonly program: Program;
  readonly url: string;
  /** On the other computer. */
  readonly browser: Browser;
  /** Beside the program. */
  readonly page: Page;
}

const test = base.extend<{ away: Away }>({
  away: [
    async ({}, use) => {
      const dir = mkdtempSync(join(tmpdir(), 'sorrelfinch-net-'));
      for (const each of [desk, space]) {
        ip('netns', 'add', each);
        ip('-n', each, 'link', 'set', 'lo', 'up');
      }
      ip('-n', desk, 'link', 'add', 'eth0', 'type', 'veth', 'peer', 'name', 'eth0', 'netns', space);
      for (const [name, address] of [
        [desk, here],
        [space, there],
      ] as const) {
        ip('-n', name, 'addr', 'add', `${address}/24`, 'dev', 'eth0');
        ip('-n', name, 'link', 'set', 'eth0', 'up');
      }
      const program = await Program.start(join(dir, 'data'), undefined, { HOST: '0.0.0.0', ACCESS_KEY: accessKey }, [
        ...['ip', 'netns', 'exec', desk],
      ]);
      // The browser trusts this one certificate, as somebody does who has compared its fingerprint.
      const pem = readFileSync(join(dir, 'data/tls/cert.pem'));
      const spki = new X509Certificate(pem).publicKey.export({ type: 'spki', format: 'der' });
      const pin = createHash('sha256').update(spki).digest('base64');
      const browserIn = (name: string): Promise<Browser> => {
        const wrapper = join(dir, name);
        const real = process.env.CHROMIUM_PATH ?? '/usr/bin/chromium';
        writeFileSync(wrapper, `#!/bin/sh\nexec ip netns exec ${name} ${real} "$@"\n`);
        chmodSync(wrapper, 0o755);
        return chromium.launch({
          executablePath: wrapper,
          args: ['--no-sandbox', '--disable-gpu', `--ignore-certificate-errors-spki-list=${pin}`],
        });
      };
      const [beside, browser] = [await browserIn(desk), await browserIn(space)];
      await use({
        program,
        url: `https://${here}:${new URL(program.url).port}`,
        browser,
        page: await beside.newPage(),
      });
      await browser.close();
      await beside.close();
      await program.stop();
      for (const each of [desk, space]) spawnSync('ip', ['netns', 'del', each], { stdio: 'ignore' });
      rmSync(dir, { recursive: true, force: true });
    },
    { timeout: paced(120_000) },
  ],
});

// On the machine that decides, this is not passed over.
test.skip(!can && !process.env.CI, 'needs network namespaces');

/** How the program answers when a page asks, with the page’s own rights. */
const status = (page: Page, path: string, headers: Readonly<Record<string, string>> = {}) =>
  page.evaluate(async ([path, headers]) => (await fetch(path, { headers, cache: 'no-store' })).status, [
    path,
    headers,
  ] as const);

/** A request from one of the two computers, by a program that is no browser. */
const inside = (name: string, ...args: string[]) =>
  execFileSync('ip', ['netns', 'exec', name, 'curl', '-s', ...args]).toString();

/** A way in, made at the desk, for the director’s panel or for what another row of the list is about. */
async function wayIn(page: Page, program: Program, name = 'Director'): Promise<string> {
  await page.goto(`${program.url}/panels`);
  const row = page.getByRole('listitem', { name });
  await row.getByRole('button', { name: /^Let a (screen|phone) join$/ }).click();
  await expect(row.getByRole('button', { name: 'Create invitation' })).toBeEnabled();
  const address = row.getByRole('combobox');
  if (await address.isVisible()) await choose(address, `${here}:${new URL(program.url).port}`);
  await row.getByRole('button', { name: 'Create invitation' }).click();
  await expect(row.getByRole('img', { name: /^QR code of https/ })).toBeVisible();
  return (await row.locator('.join-url').textContent()) ?? '';
}

test('a tally phone joins by the code of its camera, shows its tally, and has nothing else', async ({ away }) => {
  const { program, url, browser, page } = away;
  const way = await wayIn(page, program, 'Tally of C2');
  expect(way).toMatch(/\?tally=C2$/);
  const phone = await (await browser.newContext({ viewport: { width: 390, height: 844 }, hasTouch: true })).newPage();
  await phone.goto(way);
  await expect(phone.getByRole('heading')).toHaveText('Join as the tally of C2');
  await phone.getByRole('button', { name: 'Join' }).click();
  await expect(phone).toHaveURL(`${url}/panel/tally/C2`);
  await expect(phone.getByRole('status')).toHaveText('NEXT');
  await expect(page.getByRole('listitem', { name: 'Tally of C2' })).toContainText('1 phone');
  await expect(page.getByRole('listitem', { name: /^Joined screen, .*, Tally$/ })).toContainText('connected');
  expect(await status(phone, '/rig')).toBe(403);
  // A page that it opens stays empty.
  await phone.goto(`${url}/panel/page-race`);
  await expect(phone.locator('[data-control]')).toHaveCount(0);
});

test('a phone joins for the walk-round by its code, answers, and has nothing else', async ({ away }) => {
  test.slow();
  const { program, url, browser, page } = away;
  await page.goto(`${program.url}/line-check`);
  await expect(page.getByRole('status').filter({ hasText: 'proved' })).toContainText(/of \d{3} proved/, {
    timeout: paced(60_000),
  });
  const way = await wayIn(page, program, 'Walk-round');
  const phone = await (await browser.newContext({ viewport: { width: 390, height: 844 }, hasTouch: true })).newPage();
  await phone.goto(way);
  await expect(phone.getByRole('heading')).toHaveText('Join for the walk-round');
  await phone.getByRole('button', { name: 'Join' }).click();
  await expect(phone).toHaveURL(`${url}/panel/walk`);
  await expect(phone.getByText('Put C1 Start tower on air.')).toBeVisible();
  await phone.getByRole('textbox', { name: 'Your name' }).fill('Ines');
  await phone.getByRole('button', { name: 'Yes', exact: true }).click();
  await expect(phone.getByText('Put C2 Mid-course on air.')).toBeVisible();
  await expect(phone.getByRole('status')).toContainText('1 of');
  expect(await status(phone, '/line-check')).toBe(403);
  await phone.goto(`${url}/panel/page-race`);
  await expect(phone.locator('[data-control]')).toHaveCount(0);
});

test('a screen joins by its one-time address over TLS, and has the rights of its panel only', async ({ away }) => {
  const { program, url, browser, page } = away;
  const way = await wayIn(page, program);
  expect(way).toMatch(new RegExp(`^${url}/join/[A-Za-z0-9_-]{20,}$`));

  const screen = await browser.newContext({ viewport: { width: 820, height: 1180 }, hasTouch: true });
  const panel = await screen.newPage();
  // Looking at it uses nothing up.
  await panel.goto(way);
  await panel.goto(way);
  await panel.getByRole('button', { name: 'Join' }).click();
  await expect(panel).toHaveURL(`${url}/panel/director`);
  await expect(panel.getByRole('navigation', { name: 'Pages' }).getByRole('button').first()).toHaveText('Race');

  // What needs a secure address is there: the wake lock, MIDI, game controllers, and what it takes to be installed.
  expect(
    await panel.evaluate(() => [isSecureContext, 'wakeLock' in navigator, 'requestMIDIAccess' in navigator]),
  ).toEqual([true, true, true]);
  const manifest = await panel.evaluate(async () => {
    const link = document.querySelector<HTMLLinkElement>('link[rel=manifest]');
    const answer = await fetch(link?.href ?? '', { credentials: 'include' });
    return (await answer.json()) as { start_url: string; display: string; icons: { src: string }[] };
  });
  expect(manifest).toMatchObject({ start_url: '/panel/director', display: 'fullscreen' });
  expect(await status(panel, manifest.icons[0]?.src ?? '')).toBe(200);
  const cdp = await screen.newCDPSession(panel);
  // A browser that keeps nothing installs nothing; there is no other reason.
  const reasons = async () =>
    (await cdp.send('Page.getInstallabilityErrors')).installabilityErrors.map((each) => each.errorId);
  await expect.poll(reasons).toEqual(['in-incognito']);

  // It presses, and the lamp is the switcher's.
  await panel.locator('[data-control="ctl-program-3"]').tap();
  await expect(panel.locator('[data-control="ctl-program-3"]')).toHaveAttribute('data-lamp', 'onAir');
  expect(JSON.parse(inside(desk, `${program.standinUrl}/sw1/state`))).toMatchObject({ program: 3 });

  // Its clock does not matter: what runs on counts by the engine's.
  for (const path of ['/rig', '/show', '/api/readings', '/wire']) {
    expect(await status(panel, path), path).toBe(403);
  }
  const refused = await panel.evaluate(
    () =>
      new Promise<unknown[]>((resolve) => {
        const got: unknown[] = [];
        const socket = new WebSocket(`wss://${location.host}/live?as=desk`);
        socket.onmessage = ({ data }) => {
          got.push(JSON.parse(String(data)));
          if (got.length === 7) resolve(got);
        };
        socket.onopen = () => {
          const say = (message: unknown) => socket.send(JSON.stringify(message));
          say({ t: 'sub', topics: ['wire', 'page:page-sound', 'screens'] });
          say({ t: 'press', id: 'foreign-1', page: 'page-sound', control: 'ctl-sound-1-1', gesture: 'tap' });
          say({ t: 'aim', aim: 'dry' });
          say({ t: 'tell', to: 'desk 1', act: { do: 'close' } });
        };
      }),
  );
  expect(refused.slice(1)).toMatchObject([
    { t: 'none', topic: 'wire' },
    { t: 'none', topic: 'page:page-sound' },
    { t: 'none', topic: 'screens' },
    { t: 'press', outcome: 'lost', reason: expect.stringContaining('does not have that control') },
    { t: 'error' },
    { t: 'error' },
  ]);

  // The same way in is good once.
  const other = await (await browser.newContext()).newPage();
  await other.goto(way);
  await other.getByRole('button', { name: 'Join' }).click();
  await expect(other.getByText('This way in has been used')).toBeVisible();
  const asked = (path: string, ...more: string[]) =>
    String(inside(space, '-k', '-o', '/dev/null', '-w', '%{http_code}', ...more, `${url}${path}`));
  expect(asked('/panel/director')).toBe('401');
  expect(asked('/panel/director', '-H', 'Cookie: sorrelfinch-panel=made.up')).toBe('401');
  expect(asked('/rig', '-H', 'x-sorrelfinch-principal: desk.forged')).toBe('400');

  // All of that is in the record.
  await page.goto(`${program.url}/as-run`);
  for (const text of [
    'has joined the panel Director',
    'that is used up: refused',
    'forged-header',
    'its panel does not have',
    'not-a-panels',
  ])
    await expect(page.getByText(text).first(), text).toBeVisible();

  // Without access it has nothing any more.
  await page.goto(`${program.url}/panels`);
  await page.getByRole('button', { name: 'Revoke access' }).click();
  await expect(panel.getByRole('alert').filter({ hasText: 'Cut off' })).toBeVisible();
  const [cookie] = await screen.cookies();
  expect(asked('/panel/director', '-H', `Cookie: ${cookie?.name}=${cookie?.value}`)).toBe('401');
});

test('plain requests from elsewhere are sent to TLS, and the key makes a desk', async ({ away }) => {
  const { program, url, browser } = away;
  const port = new URL(program.url).port;
  expect(inside(space, '-o', '/dev/null', '-w', '%{http_code} %{redirect_url}', `http://${here}:${port}/panel`)).toBe(
    `308 ${url}/panel`,
  );
  // A plain connection to the engine is closed without a word.
  const plain = spawnSync('ip', [
    ...['netns', 'exec', space, 'curl', '-s', '-m', '3', '-i', '-N', '-H', 'Connection: Upgrade'],
    ...[
      '-H',
      'Upgrade: websocket',
      '-H',
      'Sec-WebSocket-Version: 13',
      '-H',
      'Sec-WebSocket-Key: x3JJHMbDL1EzLkh9GBhXDw==',
    ],
    `http://${here}:${port}/live`,
  ]);
  expect([plain.status, String(plain.stdout)]).toEqual([52, '']);
  expect(inside(space, '-k', '-o', '/dev/null', '-w', '%{http_code}', `${url}/rig`)).toBe('401');
  expect(
    inside(
      space,
      '-k',
      '-o',
      '/dev/null',
      '-w',
      '%{http_code}',
      '-H',
      `Authorization: Bearer ${accessKey}`,
      `${url}/api/health`,
    ),
  ).toBe('200');
  const keyed = await browser.newContext({ httpCredentials: { username: 'x', password: accessKey } });
  const page = await keyed.newPage();
  await page.goto(`${url}/rig`);
  await allUp(page);
  // This computer itself needs neither.
  expect(inside(desk, '-o', '/dev/null', '-w', '%{http_code}', `${program.url}/api/health`)).toBe('200');
});
