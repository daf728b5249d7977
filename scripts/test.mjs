// npm test: installs what is missing, then type check, lint, dead code, duplicates, format check, build, unit and engine tests, and the real
// interface in a real browser. Ends with one line, `N passed, N failed`; fails when any part fails.
import { spawn, spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import { join, relative } from 'node:path';
import { ensureInstalled, root, run } from './lib.mjs';

ensureInstalled();
installTools();
const chromium = findChromium();
const results = join(root, 'test-results');
rmSync(results, { recursive: true, force: true });
mkdirSync(results, { recursive: true });

let passed = 0;
let failed = 0;
/** What is said once more at the end, where it is looked for. */
const remarks = [];

/** Runs a check and prints what it said when it has ended: two of them run at a time. */
function part(title, command, args) {
  const began = performance.now();
  return new Promise((resolve) => {
    const child = spawn(process.execPath, [command, ...args], { cwd: root, stdio: ['ignore', 'pipe', 'pipe'] });
    const said = [];
    for (const out of [child.stdout, child.stderr]) out.on('data', (chunk) => said.push(chunk));
    child.on('close', (code) => {
      console.log(`\n── ${title} (${since(began)})\n${Buffer.concat(said)}`.trimEnd());
      if (code === 0) passed += 1;
      else {
        failed += 1;
        remarks.push(`Failed: ${title}, see above`);
      }
      resolve();
    });
  });
}

function counted(title, command, args, file, read) {
  const began = performance.now();
  const pace = paceNow();
  console.log(`\n── ${title}${pace > 1 ? `, with ${pace} times as much time: this computer is slow` : ''}`);
  const env = {
    ...process.env,
    CHROMIUM_PATH: chromium ?? '',
    NEXT_TELEMETRY_DISABLED: '1',
    TEST_PACE: String(pace),
  };
  const ok = run(process.execPath, [command, ...args], { env });
  console.log(`${title}: ${since(began)}`);
  const report = existsSync(file) ? read(JSON.parse(readFileSync(file, 'utf8'))) : { passed: 0, failed: 0 };
  passed += report.passed;
  // A runner that failed without a failed test (a crash, no test found) counts as one.
  failed += report.failed === 0 && (!ok || report.passed === 0) ? 1 : report.failed;
  if (!ok && report.failed === 0) remarks.push(`Failed: ${title} ended without a failed test, see above`);
  remarks.push(...(report.remarks ?? []));
}

async function inTurn(...parts) {
  for (const [title, command, ...args] of parts) await part(title, command, args);
}

await Promise.all([
  inTurn(
    ['Types', 'node_modules/typescript/bin/tsc', '--noEmit', '-p', '.'],
    ['Build', '-e', "import('./scripts/lib.mjs').then(({ ensureBuilt }) => ensureBuilt())"],
  ),
  inTurn(
    ['Lint', 'node_modules/eslint/bin/eslint.js', '.', '--max-warnings', '0'],
    ['Dead code', 'node_modules/knip/bin/knip.js', '--no-progress', '--no-config-hints'],
    ['Duplicates', 'node_modules/jscpd/bin/jscpd', 'src', '--silent'],
    ['Format', 'node_modules/prettier/bin/prettier.cjs', '--check', '--log-level', 'warn', '.'],
  ),
]);

const vitestFile = join(results, 'vitest.json');
counted(
  'Unit and engine tests',
  'node_modules/vitest/vitest.mjs',
  ['run', '--reporter=dot', '--reporter=json', `--outputFile.json=${vitestFile}`],
  vitestFile,
  ({ numPassedTests, numFailedTests, testResults }) => ({
    passed: numPassedTests,
    failed: numFailedTests,
    remarks: testResults.flatMap(remarksOn),
  }),
);

if (chromium) {
  counted(
    'Browser tests',
    'node_modules/@playwright/test/cli.js',
    ['test'],
    join(results, 'playwright.json'),
    ({ stats, suites }) => ({
      passed: stats.expected + stats.flaky,
      failed: stats.unexpected,
      remarks: [
        ...titlesOf(suites, 'flaky').map((title) => `Passed on the second try only: ${title}`),
        ...titlesOf(suites, 'unexpected').map((title) => `Failed: ${title}`),
      ],
    }),
  );
} else {
  console.error('\nNo Chromium was found for the browser tests. Install one, or name it in CHROMIUM_PATH.');
  failed += 1;
}

if (remarks.length > 0) console.log(`\n${remarks.join('\n')}`);
console.log(`\n${passed} passed, ${failed} failed`);
process.exit(failed === 0 ? 0 : 1);

/**
 * Programs of other people that tests speak to: OSC senders and receivers, a Modbus poller, an HTTP server with Digest, an
 * MQTT broker with its clients, a browser, an announcer of services. Installed where the machine is Debian, lacks them, and we may; elsewhere the tests that need them are passed over.
 */
function installTools() {
  const tools = {
    oscsend: 'liblo-tools',
    mbpoll: 'mbpoll',
    lighttpd: 'lighttpd',
    mosquitto: 'mosquitto',
    mosquitto_sub: 'mosquitto-clients',
    curl: 'curl',
    tcpdump: 'tcpdump',
    chromium: 'chromium',
    ip: 'iproute2',
    ping: 'iputils-ping',
    '../lib/python3/dist-packages/zeroconf': 'python3-zeroconf',
    '../lib/python3/dist-packages/serial': 'python3-serial',
    '../lib/python3/dist-packages/mido': 'python3-mido',
  };
  const has = (program) => ['/usr/bin', '/usr/sbin'].some((folder) => existsSync(join(folder, program)));
  const missing = Object.entries(tools).flatMap(([program, name]) => (has(program) ? [] : [name]));
  if (missing.length === 0 || !existsSync('/etc/debian_version') || process.getuid?.() !== 0) return;
  console.log(`Installing what the tests speak to: ${missing.join(', ')}.`);
  const quiet = { stdio: ['ignore', 'ignore', 'inherit'], env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' } };
  spawnSync('apt-get', ['update', '-qq'], quiet);
  spawnSync('apt-get', ['install', '-y', '-qq', '--no-install-recommends', ...missing], quiet);
}

/** The tests of a file that failed at first or for good, each with the beginning of what it said. */
function remarksOn({ name, status, message, assertionResults }) {
  const file = relative(root, name);
  const remarks = assertionResults
    .filter(({ failureMessages }) => failureMessages.length > 0)
    .map(({ status, fullName, failureMessages }) => {
      const ending = status === 'failed' ? 'Failed' : 'Passed on the second try only';
      return `${ending}: ${file}: ${fullName}\n${indented(failureMessages.join('\n'))}`;
    });
  // A file that could not be loaded has no tests to name.
  return remarks.length === 0 && status === 'failed' ? [`Failed: ${file}\n${indented(message)}`] : remarks;
}

function indented(text) {
  const lines = text.split('\n').slice(0, 12);
  return lines.map((line) => `  ${line}`).join('\n');
}

/** The titles of the browser tests that ended so. */
function titlesOf(suites, status) {
  return suites.flatMap(({ suites: inner = [], specs = [] }) => [
    ...specs.filter(({ tests }) => tests.some((each) => each.status === status)).map(({ title }) => title),
    ...titlesOf(inner, status),
  ]);
}

/** Debian's Chromium, or the one named. Its headless shell would do no less work, and cannot tell whether a page may be installed. */
function findChromium() {
  return [process.env.CHROMIUM_PATH, '/usr/bin/chromium', '/usr/bin/chromium-browser'].find(
    (path) => path && existsSync(path),
  );
}

/** How many times as long as usual this computer takes for a fixed piece of work; deadlines of tests grow by it. */
function paceNow() {
  const began = performance.now();
  let sum = 0;
  for (let n = 0; n < 1e8; n += 1) sum += n % 7;
  const usualMs = 500;
  const times = Math.round((10 * (performance.now() - began + (sum < 0 ? 1 : 0))) / usualMs) / 10;
  // What runs beside the tests where changes are checked is not seen in a moment.
  return Math.min(6, Math.max(process.env.CI ? 2 : 1, times));
}

function since(began) {
  const seconds = Math.round((performance.now() - began) / 1000);
  return seconds < 60 ? `${seconds} s` : `${Math.floor(seconds / 60)} min ${seconds % 60} s`;
}
