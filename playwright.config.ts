import { defineConfig } from '@playwright/test';

/** The last list counts, so what Playwright leaves out itself and tests rest on is here, too. */
const withoutFeatures = [
  'AvoidUnnecessaryBeforeUnloadCheckSync',
  'DestroyProfileOnBrowserClose',
  'HttpsFirstBalancedModeAutoEnable',
  'HttpsUpgrades',
  'MediaRouter',
  'OptimizationHints',
  'PaintHolding',
  'ThirdPartyStoragePartitioning',
  // The browser's own address field would be a page in a process of its own for each window: more than a second of a core.
  'WebUIOmniboxPopup',
  'WebUIOmniboxAimPopup',
];

/** Deadlines grow with how slow this computer is at the moment: `npm test` measures it. */
const pace = Number(process.env.TEST_PACE ?? 1);

export default defineConfig({
  testDir: 'e2e',
  fullyParallel: true,
  workers: 2,
  timeout: 120_000 * pace,
  // A test that a busy computer cut short runs again; `npm test` prints its name. Two cores that others use, too, need it more often.
  retries: process.env.CI ? 2 : 1,
  // A busy computer stands still for seconds at times; what never comes is told all the same.
  expect: { timeout: 15_000 * pace },
  reporter: [['list'], ['json', { outputFile: 'test-results/playwright.json' }]],
  outputDir: 'test-results/playwright',
  use: {
    // What is not there by then will not come: a test says so in seconds, not at the end of its time.
    actionTimeout: 30_000 * pace,
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
        `--disable-features=${withoutFeatures.join(',')}`,
      ],
    },
  },
});
