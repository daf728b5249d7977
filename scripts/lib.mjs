// Plain Node.js, without packages: this runs before anything is installed.
import { spawn, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, readdirSync, readFileSync, mkdirSync, writeFileSync } from 'node:fs';
import { dirname, join, relative } from 'node:path';
import { fileURLToPath } from 'node:url';

export const root = dirname(dirname(fileURLToPath(import.meta.url)));
const npm = process.platform === 'win32' ? 'npm.cmd' : 'npm';

export function fail(message) {
  console.error(message);
  process.exit(1);
}

/** Runs a program to its end; returns true when it ended well. */
export function run(command, args, options = {}) {
  const shell = process.platform === 'win32' && command.endsWith('.cmd');
  const done = spawnSync(command, args, { cwd: root, stdio: 'inherit', shell, ...options });
  return done.status === 0;
}

/** Runs one of our programs in place of this script: signals go to it, its exit code becomes ours. */
export function become(args, env = {}) {
  const child = spawn(process.execPath, args, { cwd: root, stdio: 'inherit', env: { ...process.env, ...env } });
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => child.kill(signal));
  child.on('exit', (code) => process.exit(code ?? 1));
}

export function checkNode() {
  const [major = 0, minor = 0] = process.versions.node.split('.').map(Number);
  if (major > 20 || (major === 20 && minor >= 19)) return;
  fail(`Node.js 20.19 or newer is needed; this is ${process.versions.node}.`);
}

/** Installs the packages when they are missing or are not those of the lock file. */
export function ensureInstalled() {
  checkNode();
  const lock = () => hashOf(['package.json', 'package-lock.json']);
  const stamp = join(root, 'node_modules/.sorrelfinch-installed');
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === lock()) return;
  console.log(
    'Installing packages. Where no ready-made SQLite binary is found, one is compiled: that takes two minutes.',
  );
  // Not `npm ci`: it refuses a lock file made where the registry lacks the binaries of other platforms.
  if (!run(npm, ['install', '--no-audit', '--no-fund', '--include=dev'])) {
    const compiler = ['c++', 'g++', 'clang++', 'cl'].some(
      (name) => spawnSync(name, ['--version'], { stdio: 'ignore' }).status === 0,
    );
    fail(
      compiler
        ? 'The packages could not be installed. The lines above say why; is the npm registry reachable?'
        : 'The packages could not be installed. No C++ compiler was found: install one (Debian: g++ and make; macOS: the command line tools; Windows: the build tools), then try again.',
    );
  }
  const works = spawnSync(process.execPath, ['-e', "new (require('better-sqlite3'))(':memory:').close()"], {
    cwd: root,
    stdio: 'ignore',
  });
  if (works.status !== 0)
    fail(
      'SQLite was installed but does not load on this computer. Is this another version of Node.js than before? Remove node_modules and try again.',
    );
  writeFileSync(stamp, lock());
}

const sources = [
  'src',
  'demo',
  'scripts/build.mjs',
  'package-lock.json',
  'next.config.ts',
  'postcss.config.mjs',
  'tsconfig.json',
];

/** Builds the program when its sources are not those of the last build. */
export function ensureBuilt() {
  const now = hashOf(sources);
  const stamp = join(root, 'dist/build-stamp');
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === now) return;
  console.log('Building. This takes about a minute.');
  if (!run(process.execPath, ['scripts/build.mjs'])) fail('The build failed; the lines above say why.');
  mkdirSync(dirname(stamp), { recursive: true });
  writeFileSync(stamp, now);
}

function hashOf(paths) {
  const hash = createHash('sha256').update(process.version);
  for (const file of paths.flatMap((path) => filesBelow(join(root, path))).sort()) {
    hash.update(relative(root, file)).update(readFileSync(file));
  }
  return hash.digest('hex');
}

function filesBelow(path) {
  if (!existsSync(path)) return [];
  const entries = readdirSync(dirname(path), { withFileTypes: true });
  const self = entries.find((entry) => join(dirname(path), entry.name) === path);
  if (!self?.isDirectory()) return [path];
  return readdirSync(path, { withFileTypes: true, recursive: true })
    .filter((entry) => entry.isFile())
    .map((entry) => join(entry.parentPath ?? entry.path, entry.name));
}
