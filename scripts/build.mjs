// Builds the program: Next.js into .next, the processes into dist, and the panel's shell for the front door.
import { copyFileSync, existsSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { build } from 'esbuild';
import { compressFolder } from './compress.mjs';
import { fail, root, run } from './lib.mjs';

rmSync(join(root, 'dist'), { recursive: true, force: true });
await build({
  absWorkingDir: root,
  entryPoints: {
    supervisor: 'src/server/supervisor.ts',
    'engine-main': 'src/server/engine-main.ts',
    'next-main': 'src/server/next-main.ts',
    'standins-main': 'src/server/standins-main.ts',
    'rehearsal-main': 'src/server/rehearsal-main.ts',
    'prober-main': 'src/server/prober-main.ts',
    'pictures-main': 'src/server/pictures-main.ts',
    'prepare-main': 'src/server/prepare-main.ts',
    'as-run-worker': 'src/engine/record/as-run-worker.ts',
    'show-worker': 'src/engine/show/show-worker.ts',
    // For the browser tests, made of the same pieces.
    'engine-host': 'e2e/engine-host.ts',
    'fleet-host': 'e2e/fleet-host.ts',
  },
  outdir: 'dist',
  bundle: true,
  splitting: true,
  chunkNames: 'chunk-[hash]',
  platform: 'node',
  format: 'esm',
  target: 'node20',
  // With their packages: to find those one by one takes a good part of a start. What is native, Next.js, and what is seldom needed stay outside.
  external: ['better-sqlite3', 'next', 'sharp', 'selfsigned', 'serialport', 'bufferutil', 'utf-8-validate'],
  banner: {
    js: "import { createRequire as requireFor } from 'node:module'; const require = requireFor(import.meta.url);",
  },
  sourcemap: true,
  logLevel: 'warning',
});
const env = { ...process.env, NODE_ENV: 'production', NEXT_TELEMETRY_DISABLED: '1' };
if (!run(process.execPath, ['node_modules/next/dist/bin/next', 'build'], { env })) fail('Next.js did not build.');

// The panel's page is the same for every panel, so that the front door can serve it while Next.js is away.
const shell = join(root, '.next/server/app/panel.html');
if (!existsSync(shell)) fail('The panel page was not prerendered: something in it depends on the request.');
copyFileSync(shell, join(root, 'dist/panel-shell.html'));

// Compressed once here and not for each tablet: on the network of a venue the script is most of what a panel waits for.
compressFolder(join(root, '.next/static'));
