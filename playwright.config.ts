import { defineConfig } from '@playwright/test';

export default defineConfig({
  testDir: 'e2e',
  fullyParallel: true,
  workers: 2,
  timeout: 120_000,
  // A test that a busy computer cut short runs a second time; `npm test` prints its name.
  retries: 1,
  // A busy computer stands still for seconds at times; what never comes is told all the same.
  expect: { timeout: 15_000 },
  reporter: [['list'], ['json', { outputFile: 'test-results/playwright.json' }]],
  outputDir: 'test-results/playwright',
  use: {
    viewport: { width: 1280, height: 800 },
    launchOptions: {
      executablePath: process.env.CHROMIUM_PATH || '/usr/bin/chromium',
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
      ],
    },
  },
});
