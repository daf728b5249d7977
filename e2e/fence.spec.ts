import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { expect, test } from './program';

/** What the program keeps pages of others from doing, and itself from needing. */

test('no screen needs anything that its security policy forbids', async ({ page, program }) => {
  const refused: string[] = [];
  page.on('console', (message) => {
    if (/content security policy|permissions policy/i.test(message.text()))
      refused.push(`${page.url()}: ${message.text()}`);
  });
  const policies = new Map<string, string>();
  page.on('response', (answer) => {
    if (answer.request().isNavigationRequest())
      policies.set(new URL(answer.url()).pathname, answer.headers()['content-security-policy'] ?? '');
  });
  const screens = [
    'rig',
    'pages',
    'pages/page-race?edit=1',
    'pages/page-race/sheet',
    'macros',
    'snapshots',
    'watches',
    'variables',
    'inlets',
    'panels',
    'drivers',
    'show',
    'as-run',
    'wire',
    'panel',
    'panel/page-race',
    'panel/tally/C1',
    'no-such-page',
  ];
  for (const path of screens) {
    await page.goto(`${program.url}/${path}`);
    // Scripts have run: what was sent as text has come to life.
    await page.waitForFunction(() => document.documentElement.dataset.theme !== undefined);
    await page.waitForTimeout(300);
  }
  await page.goto(`${program.url}/rig`);
  await expect(page.getByRole('row', { name: 'Vision switcher', exact: true })).toBeVisible();
  expect(refused).toEqual([]);
  for (const [path, policy] of policies) {
    expect(policy, path).toContain("frame-ancestors 'none'");
    const scripts = /script-src ([^;]*)/.exec(policy)?.[1] ?? '';
    expect(scripts, path).toMatch(/'nonce-|'sha256-/);
    expect(scripts, path).not.toMatch(/unsafe/);
  }
});

test('a page of another origin can neither frame a panel nor press through one', async ({ page, program }) => {
  const foreign = createServer((_req, res) => {
    res.setHeader('content-type', 'text/html');
    res.end(
      `<h1>Foreign</h1><iframe src="${program.url}/panel/page-race" style="opacity:0.01;width:800px;height:600px"></iframe>`,
    );
  });
  await new Promise<void>((resolve) => void foreign.listen(0, '127.0.0.1', resolve));
  const { port } = foreign.address() as AddressInfo;
  const before = (await program.switcher()).program;
  await page.goto(`http://127.0.0.1:${port}/`);
  const frame = page.frameLocator('iframe');
  await page.waitForTimeout(1500);
  expect(await frame.locator('[data-control]').count()).toBe(0);
  for (const y of [120, 200, 280, 360]) await page.mouse.click(200, y);
  const opened = await page.evaluate(
    (url) =>
      new Promise<string>((resolve) => {
        const socket = new WebSocket(`${url.replace('http', 'ws')}/live`);
        socket.onopen = () => resolve('open');
        socket.onerror = () => resolve('refused');
      }),
    program.url,
  );
  expect(opened).toBe('refused');
  expect((await program.switcher()).program).toBe(before);
  foreign.closeAllConnections();
  foreign.close();
});
